"""What a sweep of an axle gives: its curves, the lines of its picture, and how far it reaches."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal, TypeVar

import numpy as np

from ..arrays import Array
from ..constants import DEGREE
from ..errors import Impossible

Which = Literal["left", "right"]
Over = Literal["travel", "roll", "rack"]
HALF = 21
"""States either way, the middle one counted in both."""
REACH: dict[Over, float] = {"travel": 0.05, "roll": 3.5 * DEGREE, "rack": 0.05}
"""How far to look either way while the car's own stops are not known [m, rad, m]."""
SHRINK, TRIES = 0.7, 10


@dataclass(frozen=True)
class Curve:
    """One figure over the sweep [SI], left and right; the axle's own where `right` is None. NaN: none."""

    name: str
    label: str
    quantity: str
    left: Array
    right: Array | None
    drawn: bool = True


@dataclass(frozen=True)
class Stick:
    """A line of the picture through the states (n, points, 3): ahead, left of the centre, above ground."""

    name: str
    side: Which
    points: Array


@dataclass(frozen=True)
class Disc:
    """A wheel through the states: its centre and outward axis (n, 3) in the picture's axes, its radius."""

    side: Which
    centre: Array
    axis: Array
    radius: float


@dataclass(frozen=True)
class Swept:
    """An axle over what was asked. `short` says the links did not reach as far as was asked."""

    over: Over
    at: Array
    short: bool
    curves: list[Curve]
    sticks: list[Stick]
    discs: list[Disc]
    roll_centre: Array
    centres: tuple[Array, Array]
    """Instant centres seen from behind, of the left and the right side (n, 2): left of the centre and
    above ground; NaN: none."""
    side_centre: Array
    """Instant centre seen from the side, of the left wheel or the axle (n, 2): ahead and above ground."""


T = TypeVar("T")


def clamped(
    over: Over, low: float | None, high: float | None, ask: Callable[[Array], T]
) -> tuple[Array, bool, T]:
    """Where to look, whether that is less than was asked, and what `ask` says there.

    The way is cut down at both ends until the links reach. Raises Impossible where they never do.
    """
    reach = REACH[over]
    low, high = -reach if low is None else low, reach if high is None else high
    for tried in range(TRIES):
        # ride height is one of the states, however far the stops are either way
        at = np.concatenate((np.linspace(low, 0.0, HALF), np.linspace(0.0, high, HALF)[1:]))
        try:
            return at, tried > 0, ask(at)
        except Impossible:
            if tried == TRIES - 1:
                raise
            low, high = low * SHRINK, high * SHRINK
    raise AssertionError("the last try raises")
