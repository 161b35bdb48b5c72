"""Both sides of an axle together: roll centre, jacking, the antis, and what a change does."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..checks import above_zero, finite
from ..errors import Impossible
from .corner import AS_MEASURED, Changed, States
from .readout import Readout, read_out
from .side import Side, left_share_checked

PARALLEL_LINES = 1e-3


@dataclass(frozen=True)
class Axle:
    """Left and right, each in its own frame; the right one mirrors the left where it was not measured."""

    left: Side
    right: Side | None = None
    front: bool = True

    @property
    def sides(self) -> tuple[Side, Side]:
        return self.left, self.right or self.left

    def __post_init__(self) -> None:
        if self.right is not None and self.right.kind != self.left.kind:
            raise Impossible("Both sides of an axle are of one kind.", number="points")


@dataclass(frozen=True)
class Car:
    """What the antis are shares of: wheelbase and CG height [m], and which forces the axle takes."""

    wheelbase: float
    cg_height: float
    brakes_inboard: bool = False
    drive_outboard: bool = False

    def __post_init__(self) -> None:
        above_zero(wheelbase=self.wheelbase, cg_height=self.cg_height)


@dataclass(frozen=True)
class Through:
    """An axle through its states: heave, roll (left side up +) and rack (to the left +), (n,) each."""

    axle: Axle
    heave: Array
    roll: Array
    rack: Array
    left: Readout
    right: Readout

    @property
    def sides(self) -> tuple[Readout, Readout]:
        return self.left, self.right

    @cached_property
    def slopes(self) -> tuple[Array, Array]:
        return self.left.side_slope, self.right.side_slope

    def roll_centre(self, left_share: float = 0.5) -> Array:
        """Height over the ground by force [m]; `left_share` of the side force is the left tyre's."""
        left_share_checked(left_share)
        return left_share * self.left.line_height + (1 - left_share) * self.right.line_height

    def jacking(self, left_share: float = 0.5) -> Array:
        """Lift on the body per side force to the left [-]."""
        left, right = self.slopes
        return (1 - left_share) * right - left_share * left

    def kinematic_centre(self) -> tuple[Array, Array]:
        """Where the lines of both patches meet: left of the centre and up [m]; NaN where none is."""
        left, right = self.slopes
        both = np.where(np.abs(left + right) < PARALLEL_LINES, np.nan, left + right)
        across = (self.left.line_height - self.right.line_height) / both
        return across, left * (self.left.half_track - across)

    def anti(self, car: Car, share: float, *, braking: bool) -> tuple[Array, Array]:
        """Share of the load transfer that the links carry [%], left and right.

        `share` is the axle's own of all braking or driving force.
        """
        finite(share=share)
        locked = not car.brakes_inboard if braking else car.drive_outboard
        front = self.axle.front
        sign = 1.0 if front else -1.0
        found = []
        for side in self.sides:
            long = car.wheelbase + sign * side.wheel_centre_forward
            high = car.cg_height - self.heave
            found.append(sign * side.lengthwise_slope(locked=locked) * share * long / high * 100)
        return found[0], found[1]


def through(
    axle: Axle,
    heave: Array,
    roll: Array | None = None,
    rack: Array | None = None,
    changed: Changed = AS_MEASURED,
) -> Through:
    """An axle through states told for the car: heave bump +, roll left side up +, rack to the left +."""
    heave = np.atleast_1d(np.asarray(heave, float))
    roll = np.zeros_like(heave) if roll is None else np.asarray(roll, float)
    rack = np.zeros_like(heave) if rack is None else np.asarray(rack, float)
    finite(heave=heave, roll=roll, rack=rack)
    left, right = axle.sides
    if left.kind == "trailing_arm" and rack.any():
        raise Impossible("There is no rack on a trailing arm.", number="rack_travel")
    one = read_out(left, States(heave, roll, rack), changed)
    if axle.right is None and not roll.any() and not rack.any():
        return Through(axle, heave, roll, rack, one, one)
    return Through(axle, heave, roll, rack, one, read_out(right, States(heave, -roll, -rack)))


@dataclass(frozen=True)
class Effect:
    """What a change on one side does at ride height, exactly: differences, SI."""

    camber: float
    toe: float
    bump_steer: float
    roll_centre_height: float
    half_track: float
    caster: float | None
    kingpin_inclination: float | None


def effect(side: Side, changed: Changed) -> Effect:
    """What is different after a change, patch on the ground, rack centred, toe not set again."""
    still = States(np.zeros(1), np.zeros(1), np.zeros(1))
    before, after = read_out(side, still), read_out(_bare(side), still, changed)

    def by(name: str) -> float:
        return float((getattr(after, name) - getattr(before, name))[0])

    angles: tuple[float | None, float | None] = (None, None)
    if side.layout.steered:
        was, now = before.kingpin_angles, after.kingpin_angles
        angles = (float((now[0] - was[0])[0]), float((now[1] - was[1])[0]))
    return Effect(
        by("camber"),
        by("toe"),
        by("bump_steer"),
        by("line_height"),
        by("half_track_change"),
        *angles,
    )


def _bare(side: Side) -> Side:
    """The side without what it moves: a change is asked of the wheel alone."""
    return replace(side, spring=None, damper=None, rocker=None, bar=None)
