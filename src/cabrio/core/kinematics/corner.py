"""A side's upright carried through heave, roll and rack travel by its links.

Five lengths or hinges hold the upright and its tyre stands on the ground: six conditions for the six
freedoms of a rigid body, solved by Newton's method for all states in one batch. The way from ride
height is walked in short steps, so that a mechanism that would have to come apart, or pass a dead
point, is refused rather than answered on its far side.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np

from ..arrays import Array
from ..errors import Impossible
from .frame import (
    Ground,
    Pose,
    cross,
    dot,
    ground,
    length,
    square_to,
    standing,
    turned,
    unit,
    way_there,
)
from .side import Side

NEWTON_STEPS, CLOSED = 25, 1e-12
NEAR = 3e-5
"""The hair of travel slopes are differenced over [m]: its square is beyond what a ratio is read to."""
SINGULAR = 1e-7
"""Least over largest singular value under which nothing holds the wheel, or it cannot rise."""


@dataclass(frozen=True)
class States:
    """Where to look: heave [m, bump +], roll [rad, + this side up], rack [m, + outward]; (n,) each."""

    heave: Array
    roll: Array
    rack: Array

    def part(self, share: float) -> States:
        """The same, a share of the way there."""
        return States(self.heave * share, self.roll * share, self.rack * share)

    @cached_property
    def ground(self) -> Ground:
        return ground(self.heave, self.roll)


@dataclass(frozen=True)
class Changed:
    """What was altered on the car: points moved [m], links longer [m], both by name."""

    moved: Mapping[str, Array]
    longer: Mapping[str, float]

    def part(self, share: float) -> Changed:
        return Changed(
            {name: by * share for name, by in self.moved.items()},
            {name: by * share for name, by in self.longer.items()},
        )

    @property
    def size(self) -> float:
        moves = [float(length(by)) for by in self.moved.values()]
        return max([0.0, *moves, *(abs(by) for by in self.longer.values())])


NO_SHIFT = np.zeros(3)
AS_MEASURED = Changed({}, {})


@dataclass(frozen=True)
class Held:
    """Conditions on the upright: how far each is missed (n, k), and its rows (n, k, 6)."""

    missed: Array
    rows: Array


@dataclass(frozen=True)
class Corner:
    """A side in the states asked for: its pose and how it moves there."""

    side: Side
    states: States
    changed: Changed
    pose: Pose
    kept: dict[str, Any] = field(default_factory=dict, repr=False, compare=False)
    """What was worked of it once and several ask for: how its rocker stands."""

    def moved(self, twist: Array) -> Corner:
        """The same corner a small motion on, whether its links close there or not."""
        return Corner(self.side, self.states, self.changed, self.pose.along(twist))

    @cached_property
    def around(self) -> list[Corner]:
        """The corner a hair of wheel travel down and up: what slopes are differenced over."""
        return [self.moved(way * self.twist) for way in (-NEAR, NEAR)]

    @cached_property
    def axis(self) -> Array:
        """The wheel's spin axis, outward (n, 3)."""
        return turned(self.pose.turn, self.side.wheel.axis)

    @cached_property
    def contact(self) -> Array:
        """The lowest point of the disc (n, 3)."""
        up = self.states.ground.up
        down = unit(dot(self.axis, up)[..., None] * self.axis - up)
        return self.pose.centre + self.side.wheel.radius * down

    def chassis(self, name: str) -> Array:
        """A point of the chassis (n, 3) or (3,), the rack's end with its travel."""
        at = self.side.points[name] + self._shift(name)
        if name == "tie_rod_inner":
            nought = np.zeros_like(self.states.rack)
            return at + np.stack((nought, self.states.rack, nought), -1)
        return at

    def upright(self, name: str) -> Array:
        """A point of the upright (n, 3)."""
        return self.pose.at(self.side.points[name] + self._shift(name))

    def velocity(self, point: Array) -> Array:
        """Velocity of a point of the upright per metre of wheel travel (n, 3)."""
        return self.pose.velocity(self.twist, point)

    @cached_property
    def matrix(self) -> Array:
        """The six conditions as rows against velocity and turn (n, 6, 6)."""
        return self._conditions().rows

    @cached_property
    def twist(self) -> Array:
        """Velocity of the wheel centre and turn per metre that the patch rises (n, 6)."""
        asked = np.zeros((*self.matrix.shape[:-2], 6))
        asked[..., 5] = 1.0
        return _solved(self.matrix, asked)

    @cached_property
    def rack_twist(self) -> Array:
        """The same per metre that the rack moves outward, the patch staying on the ground (n, 6)."""
        at = [name for name, *_ in self.side.layout.links].index("tie_rod")
        asked = np.zeros((*self.matrix.shape[:-2], 6))
        asked[..., at] = self.matrix[..., at, 1]
        return _solved(self.matrix, asked)

    def _conditions(self) -> Held:
        links = self._links()
        other = {"strut": self._slider, "trailing_arm": self._hinge}.get(self.side.kind)
        up = np.broadcast_to(self.states.ground.up, self.pose.centre.shape)
        patch = self.contact
        row = np.concatenate((up, cross(patch - self.pose.centre, up)), -1)
        parts = [links, *([other()] if other else [])]
        missed = [part.missed for part in parts] + [self.states.ground.height(patch)[..., None]]
        return Held(
            np.concatenate(missed, -1),
            np.concatenate([*(part.rows for part in parts), row[..., None, :]], -2),
        )

    def _links(self) -> Held:
        """Bars of a fixed length between chassis and upright, all in one go."""
        states = self.pose.centre.shape[0]
        links = self.side.layout.links
        if not links:
            return Held(np.zeros((states, 0)), np.zeros((states, 0, 6)))
        points = self.side.points
        outer = np.stack([points[end] for _, _, end in links])
        inner = np.stack([points[end] for _, end, _ in links])
        longer: Array = np.array([self.changed.longer.get(name, 0.0) for name, *_ in links])
        out_by = np.stack([self._shift(end) for _, _, end in links])
        in_by = np.stack([self._shift(end) for _, end, _ in links])
        fixed = length(outer - inner) + longer
        arm: Array = (outer + out_by - self.pose.start) @ np.swapaxes(self.pose.turn, -1, -2)
        along = self.pose.centre[:, None, :] + arm - (inner + in_by)
        rod = [name for name, *_ in links].index("tie_rod")
        along[:, rod, 1] -= self.states.rack
        long = length(along)
        along = along / long[..., None]
        return Held(long - fixed, np.concatenate((along, cross(arm, along)), -1))

    def _shift(self, name: str) -> Array:
        return np.asarray(self.changed.moved.get(name, NO_SHIFT))

    def _slider(self) -> Held:
        """The strut's mount stays on the line of its slider, which the upright carries."""
        points = self.side.points
        mount = self.chassis("strut_top")
        line = unit(points["strut_top"] - points["strut_lower"])
        missed, rows = [], []
        for square in square_to(line):
            across = turned(self.pose.turn, square)
            off = self.upright("strut_lower") - mount
            missed.append(dot(across, off))
            arm = cross(mount - self.pose.centre, across)
            rows.append(np.concatenate((across, arm), -1))
        return Held(np.stack(missed, -1), np.stack(rows, -2))

    def _hinge(self) -> Held:
        """The inner pivot stays in its place, and the hinge on its line."""
        points = self.side.points
        fixed = self.chassis("pivot_inner")
        line = unit(self.chassis("pivot_outer") - fixed)
        inner = self.pose.at(points["pivot_inner"])
        hinge = turned(self.pose.turn, unit(points["pivot_outer"] - points["pivot_inner"]))
        missed = [(inner - fixed)[..., i] for i in range(3)]
        nought = np.zeros_like(inner)
        rows = []
        for i in range(3):
            along = nought.copy()
            along[..., i] = 1.0
            rows.append(np.concatenate((along, cross(inner - self.pose.centre, along)), -1))
        for square in square_to(line):
            missed.append(dot(hinge, square))
            across = cross(hinge, np.broadcast_to(square, hinge.shape))
            rows.append(np.concatenate((nought, across), -1))
        return Held(np.stack(missed, -1), np.stack(rows, -2))


def _solved(matrix: Array, asked: Array) -> Array:
    return np.asarray(np.linalg.solve(matrix, asked[..., None])[..., 0], np.float64)


def carried(side: Side, states: States, changed: Changed = AS_MEASURED) -> Corner:
    """The side in every state, reached from ride height without a break or a dead point.

    Raises Impossible where its links do not close on the way, or do not hold the wheel at all.
    """
    count = len(states.heave)
    here = Corner(side, states.part(0.0), AS_MEASURED, standing(side.wheel.centre, count))
    values = np.linalg.svd(here.matrix[0], compute_uv=False)
    if not np.isfinite(values).all() or values[-1] < SINGULAR * values[0]:
        raise Impossible(
            "These links do not hold the wheel, or do not let it rise.", number="wheel_centre"
        )
    handed = np.sign(np.linalg.det(here.matrix[0]))
    reach = np.abs(states.heave) + np.abs(states.rack) + np.abs(np.sin(states.roll))
    for share in way_there(float(reach.max(initial=0.0)) + changed.size):
        here = _closed(Corner(side, states.part(share), changed.part(share), here.pose))
        if not (np.sign(np.linalg.det(here.matrix)) == handed).all():
            raise _apart()
    return here


def _closed(corner: Corner) -> Corner:
    for _ in range(NEWTON_STEPS):
        conditions = corner._conditions()
        if not np.isfinite(conditions.missed).all():
            break
        if np.abs(conditions.missed).max() < CLOSED:
            return corner
        try:
            step = _solved(conditions.rows, -conditions.missed)
        except np.linalg.LinAlgError:
            break
        # a step this long leaves the branch it stood on; it is cut, and Newton goes on from there
        longest = np.abs(step).max(-1, keepdims=True)
        corner = corner.moved(step * np.minimum(1.0, 0.3 / np.maximum(longest, 1e-300)))
    raise _apart()


def _apart() -> Impossible:
    return Impossible(
        "The links do not close there: too much travel, roll or rack.", number="wheel_travel"
    )
