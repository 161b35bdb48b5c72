"""The measured points of one side, and what cannot be among them."""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..checks import finite
from ..constants import DEGREE
from ..errors import Impossible, Missing, OutOfRange
from .frame import cross, length, unit
from .layouts import LAYOUTS, Layout

COINCIDE, NO_ARM = 1e-4, 1e-3
"""Points closer than this are one [m]; an arm shorter is none [m]."""
FLATTEST_KINGPIN, HINGE_FROM_UPRIGHT, WIDEST_WHEEL_ANGLE = 0.2, DEGREE, 45 * DEGREE


@dataclass(frozen=True)
class Wheel:
    """A wheel standing at ride height: its centre, camber (top outward +) and toe (in +)."""

    centre: Array
    camber: float
    toe: float

    @property
    def axis(self) -> Array:
        """Its spin axis, outward."""
        flat = np.cos(self.camber)
        return np.array([np.sin(self.toe) * flat, np.cos(self.toe) * flat, -np.sin(self.camber)])

    @property
    def radius(self) -> float:
        """Its loaded radius [m]: the contact point is on the ground."""
        return float(self.centre[2] / np.cos(self.camber))

    def check(self) -> None:
        """Raise OutOfRange or Impossible for a wheel that cannot stand like this."""
        finite(wheel_centre=self.centre, camber=self.camber, toe=self.toe)
        if max(abs(self.camber), abs(self.toe)) >= WIDEST_WHEEL_ANGLE:
            raise OutOfRange(
                "Camber and toe of a wheel must be within 45°.",
                number="camber" if abs(self.camber) >= WIDEST_WHEEL_ANGLE else "toe",
                allowed="less than 45°",
            )
        if self.centre[1] <= 0 or self.centre[2] <= 0:
            raise Impossible(
                "The wheel centre must be on its own side of the car and above the ground.",
                number="wheel_centre",
            )


@dataclass(frozen=True)
class Acting:
    """A spring or damper: what its moving end is on, and both ends."""

    on: str
    moving: Array
    chassis: Array


@dataclass(frozen=True)
class Rocker:
    """A rocker about `pivot` and `axis`, moved by a rod from `rod_moving` on `rod_on` to `rod_rocker`."""

    pivot: Array
    axis: Array
    rod_on: str
    rod_moving: Array
    rod_rocker: Array


@dataclass(frozen=True)
class BarLink:
    """A drop link from `moving` on `on` to the end of a bar's arm, and two points of the bar's axis."""

    on: str
    moving: Array
    end: Array
    axis: tuple[Array, Array]


@dataclass(frozen=True)
class Side:
    """One side's points at ride height in its own frame, by the names of its layout."""

    kind: str
    points: Mapping[str, Array]
    wheel: Wheel
    spring: Acting | None = None
    damper: Acting | None = None
    rocker: Rocker | None = None
    bar: BarLink | None = None

    def __post_init__(self) -> None:
        if self.kind not in LAYOUTS:
            raise OutOfRange(
                f"There is no suspension called “{self.kind}”.", allowed=", ".join(LAYOUTS)
            )
        for name in self.layout.points:
            if name not in self.points:
                raise Missing(f"The point {point_words(name)} is missing.", number=name)
        finite(**self.points)
        for part in self._attached():
            finite(**part)
        self.wheel.check()
        self._apart()
        self._pivots()
        self._carriers()

    @property
    def layout(self) -> Layout:
        return LAYOUTS[self.kind]

    @cached_property
    def acting(self) -> dict[str, Acting]:
        """The spring and the damper that were measured."""
        both = {"spring": self.spring, "damper": self.damper}
        return {name: one for name, one in both.items() if one is not None}

    def _attached(self) -> Iterator[dict[str, Array]]:
        for name, one in self.acting.items():
            yield {f"{name}_moving": one.moving, f"{name}_chassis": one.chassis}
        if (turning := self.rocker) is not None:
            yield {
                "rocker_pivot": turning.pivot,
                "rocker_axis": turning.axis,
                "rod_moving": turning.rod_moving,
                "rod_rocker": turning.rod_rocker,
            }
        if (bar := self.bar) is not None:
            yield {"bar_axis_first": bar.axis[0], "bar_axis_second": bar.axis[1]}
            yield {"bar_link_moving": bar.moving, "bar_link_bar": bar.end}

    def _apart(self) -> None:
        """No two ends that a link, an arm or a line runs between may be one point."""
        layout, points = self.layout, self.points
        pairs = [(inner, outer) for _, inner, outer in layout.links]
        pairs += [(front, rear) for front, rear, _ in layout.arms.values()]
        pairs += [layout.kingpin] if layout.kingpin else [("pivot_inner", "pivot_outer")]
        if self.kind == "strut":
            pairs.append(("strut_lower", "strut_top"))
        for one, other in pairs:
            apart(one, points[one], other, points[other])
        for ends in self._attached():
            named = list(ends.items())
            for (one, at), (other, there) in zip(named[::2], named[1::2], strict=True):
                apart(one, at, other, there)

    def _pivots(self) -> None:
        layout, points = self.layout, self.points
        for name, (front, rear, ball) in layout.arms.items():
            if from_line(points[ball], points[front], points[rear]) < NO_ARM:
                raise Impossible(
                    f"The {point_words(name)} has no length: its ball joint lies on its pivot line.",
                    number=ball,
                )
        if layout.kingpin is None:
            hinge = unit(points["pivot_outer"] - points["pivot_inner"])
            if np.hypot(hinge[0], hinge[1]) < np.sin(HINGE_FROM_UPRIGHT):
                raise Impossible(
                    "The hinge line stands upright: the wheel cannot rise.", number="pivot_outer"
                )
            return
        low, high = (points[name] for name in layout.kingpin)
        if unit(high - low)[2] < FLATTEST_KINGPIN:
            raise Impossible(
                f"The {point_words(layout.kingpin[1])} must be above the {point_words(layout.kingpin[0])}.",
                number=layout.kingpin[1],
            )
        if from_line(points["tie_rod_outer"], low, high) < NO_ARM:
            raise Impossible(
                "The outer end of the tie rod lies on the kingpin line: it cannot steer the wheel.",
                number="tie_rod_outer",
            )

    def _carriers(self) -> None:
        mounts = [(name, one.on) for name, one in self.acting.items()]
        if self.bar is not None:
            mounts.append(("bar", self.bar.on))
            if from_line(self.bar.end, *self.bar.axis) < NO_ARM:
                raise Impossible("The bar's arm has no length.", number="bar_link_bar")
        if (turning := self.rocker) is not None:
            mounts.append(("rocker", turning.rod_on))
            if turning.rod_on == "rocker":
                raise Impossible("A rocker cannot be moved by itself.", number="rod_on")
            if from_line(turning.rod_rocker, turning.pivot, turning.axis) < NO_ARM:
                raise Impossible("The rod ends on the rocker's axis.", number="rod_rocker")
        for name, carrier in mounts:
            if carrier not in self.layout.carriers:
                raise Impossible(
                    f"A {self.layout.label} has no {point_words(carrier)} for the {name} to act on.",
                    number=f"{name}_on",
                )
            if carrier == "rocker" and turning is None:
                raise Missing(f"The {name} is on a rocker that was not measured.", number="rocker")


def point_words(name: str) -> str:
    """A point's or an arm's name in words."""
    return name.replace("_", " ")


def apart(one: str, at: Array, other: str, there: Array) -> None:
    """Raise Impossible where two points are one."""
    if length(np.asarray(at - there)) < COINCIDE:
        raise Impossible(
            f"The {point_words(one)} and the {point_words(other)} are in one place.", number=one
        )


def from_line(point: Array, one: Array, other: Array) -> float:
    """Distance of a point from the line through two others [m]."""
    return float(length(cross(point - one, unit(other - one))))


def left_share_checked(share: float) -> None:
    """Raise OutOfRange for a share of the side force that is none."""
    if not 0 <= share <= 1:
        raise OutOfRange(
            "The left tyre's share of the side force must be from 0 to 1.",
            number="left_lateral_share",
        )
