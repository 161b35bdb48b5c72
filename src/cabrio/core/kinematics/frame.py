"""Vectors, turns, and the ground as the body sees it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Array

IDENTITY = np.eye(3)
OFFSETS, WEIGHTS = (-2, -1, 1, 2), (1 / 12, -2 / 3, 2 / 3, -1 / 12)
"""Five-point differences: how many steps away, and each one's weight; exact to the step's fourth power."""
STEP = 1e-4
"""The step of those differences [m or rad]."""


def by_differences(values: Sequence[Array]) -> Array:
    """The slope of something known at each of the offsets, per unit."""
    found: Array = np.tensordot(np.array(WEIGHTS), np.stack(values), 1) / STEP
    return found


def dot(a: Array, b: Array) -> Array:
    """Scalar product over the last axis."""
    found: Array = (a * b).sum(-1)
    return found


def length(a: Array) -> Array:
    """Length over the last axis."""
    found: Array = np.sqrt(dot(a, a))
    return found


def unit(a: Array) -> Array:
    """The direction of a vector."""
    return a / length(a)[..., None]


def cross(a: Array, b: Array) -> Array:
    """Vector product over the last axis: much quicker than numpy's own for small batches."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    return np.stack((ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx), -1)


def turned(matrix: Array, vector: Array) -> Array:
    """A vector (…, 3) turned by a rotation (…, 3, 3)."""
    found: Array = (matrix @ vector[..., None])[..., 0]
    return found


def turn_by(vector: Array) -> Array:
    """The rotation (…, 3, 3) about a vector (…, 3) by its length [rad]; Rodrigues (1840)."""
    angle = length(vector)[..., None, None]
    x, y, z = vector[..., 0], vector[..., 1], vector[..., 2]
    nought = np.zeros_like(x)
    skew = np.stack((nought, -z, y, z, nought, -x, -y, x, nought), -1)
    skew = skew.reshape(*vector.shape, 3)
    # sinc keeps both factors exact down to no turn at all
    first, second = np.sinc(angle / np.pi), 0.5 * np.sinc(angle / (2 * np.pi)) ** 2
    found: Array = IDENTITY + first * skew + second * (skew @ skew)
    return found


def square_to(direction: Array) -> tuple[Array, Array]:
    """Two unit vectors square to a direction and to each other, making a right-handed set with it."""
    along = unit(direction)
    helper = IDENTITY[int(np.argmin(np.abs(along)))]
    first = unit(cross(along, helper))
    return first, cross(along, first)


REACH, MOST_STEPS = 0.02, 60
"""Longest move of a point in one step of the way from ride height [m], and the most steps of it."""


def way_there(farthest: float) -> list[float]:
    """Shares of the way at which to close the links, so that no point moves far from one to the next."""
    steps = int(np.clip(np.ceil(farthest / REACH), 1, MOST_STEPS))
    return [step / steps for step in range(1, steps + 1)]


@dataclass(frozen=True)
class Ground:
    """The ground in a side's own body axes, one row a state.

    It passes through (0, 0, heave); `up` is its normal and `out` lies in it, square to the car.
    """

    heave: Array
    up: Array
    out: Array

    @property
    def base(self) -> Array:
        return np.stack((0 * self.heave, 0 * self.heave, self.heave), -1)

    def height(self, point: Array) -> Array:
        """Height above the ground [m]."""
        return dot(point - self.base, self.up)

    def outward(self, point: Array) -> Array:
        """Distance from the ground line of roll, along the ground, outward + [m]."""
        return dot(point - self.base, self.out)

    def axes(self, vector: Array) -> tuple[Array, Array, Array]:
        """A direction's parts ahead, outward and up in ground axes."""
        return vector[..., 0], dot(vector, self.out), dot(vector, self.up)


def ground(heave: Array, roll: Array) -> Ground:
    """The ground of a side at a heave [m, bump +] and its own roll [rad, + this side up]."""
    sin, cos, nought = np.sin(roll), np.cos(roll), np.zeros_like(roll)
    return Ground(heave, np.stack((nought, sin, cos), -1), np.stack((nought, cos, -sin), -1))


@dataclass(frozen=True)
class Pose:
    """Where a rigid body stands: its reference point now, and how it has turned, one row a state."""

    start: Array
    centre: Array
    turn: Array

    def at(self, point: Array) -> Array:
        """A point of the body (…, 3), given where it was at ride height."""
        return self.centre + turned(self.turn, point - self.start)

    def along(self, twist: Array) -> Pose:
        """The pose after a small motion: velocity and turn of the reference point (…, 6)."""
        return Pose(self.start, self.centre + twist[..., :3], turn_by(twist[..., 3:]) @ self.turn)

    def velocity(self, twist: Array, point: Array) -> Array:
        """Velocity of a point of the body standing at `point` now."""
        return twist[..., :3] + cross(twist[..., 3:], point - self.centre)


def standing(start: Array, states: int) -> Pose:
    """A body at ride height, for a number of states."""
    return Pose(
        start, np.broadcast_to(start, (states, 3)), np.broadcast_to(IDENTITY, (states, 3, 3))
    )
