"""What the points of the suspension tell of the car: they stand in the place of what was typed."""

from __future__ import annotations

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any, Literal

import numpy as np

from ..arrays import Array
from ..catalog.axle_points import ENDS, LOWER, UPPER, AxlePoints
from ..catalog.points import Points
from ..catalog.quantities import PLACES, Shape
from ..constants import DRIVE_REAR
from ..errors import CoreError
from ..graph.registry import number_named
from ..kinematics import axle as kinematics
from ..kinematics.adjust import Adjustment, adjustments
from ..kinematics.axle_sweep import sweep as axle_sweep
from ..kinematics.live_axle import Link, LiveAxle
from ..kinematics.picture import Over, Swept
from ..kinematics.side import Wheel
from ..kinematics.sweep import sweep
from .at_ride import AtRide, at_ride, axle_at_ride
from .model import Car, Setup

CORNERS = PLACES[Shape.CORNER]


def points_at(car: Car, setup: Setup, axle: int) -> tuple[Points, Points] | None:
    """The points of both sides of an independent axle, left and right; None where one lacks."""
    if (car.front_layout, car.rear_layout)[axle] != "independent":
        return None
    both = [car.fitted(setup, "points", place) for place in CORNERS[2 * axle : 2 * axle + 2]]
    left, right = both
    if not isinstance(left, Points) or not isinstance(right, Points):
        return None
    return left, right


def axle_points(car: Car, setup: Setup) -> AxlePoints | None:
    """The points of a live rear axle; None where none are fitted, or they are of another layout."""
    found = car.fitted(setup, "live_axle_points", "car")
    if not isinstance(found, AxlePoints) or found.unfit(car.rear_layout):
        return None
    return found


Bolts = Mapping[int, tuple[float, float]]
ByPlace = dict[str, dict[int, Any]]


def of_points(car: Car, setup: Setup, bolts: Bolts) -> dict[str, ByPlace]:
    """Numbers worked from points, by the kind of part, name and index of the place [SI].

    Both sides of an independent axle have to be known, be it as each other's mirror. What hangs on
    facts that nobody gave, such as the antis on the centre of gravity, is not told. `bolts` are the
    holes in use, seen from the side, by index of the bolt.
    """
    corners: ByPlace = {}
    for axle in (0, 1):
        both = points_at(car, setup, axle)
        if both is None:
            continue
        try:
            sides = [at_ride(one) for one in both]
        except CoreError:
            # refused where it came in; a car that has it all the same stays open to be mended
            continue
        for i, side in enumerate(sides):
            for name, value in side.corner.items():
                corners.setdefault(name, {})[2 * axle + i] = value
        for name, value in _axle(car, axle, sides).items():
            corners.setdefault(name, {})[axle] = value
    found = {"points": corners}
    if (points := axle_points(car, setup)) is not None:
        with suppress(CoreError):
            found["live_axle_points"] = _of_live_axle(car, points, bolts)
    return found


def _of_live_axle(car: Car, points: AxlePoints, bolts: Bolts) -> ByPlace:
    """What a live axle's points tell: its rates, and the measures its other figures are worked from."""
    here = axle_at_ride(points, tuple(sorted(bolts.items())))
    found: ByPlace = {"roll_centre_height": {1: here.roll_centre_height}}
    if here.base is not None:
        found["spring_base"] = {1: here.base}
    for name, sides in here.springs.items():
        found[name] = {2: sides[0], 3: sides[1]}
    known = points.known()
    ends = [known.get(end) for end in ENDS]
    for axis, name in enumerate(("bolt_x", "bolt_y", "bolt_z")):
        found[name] = {
            i: float(end[axis])
            for i, end in enumerate(ends)
            if end is not None and (name == "bolt_y" or i not in bolts)
        }
    pair = UPPER if car.rear_layout == "parallel_four_link" else LOWER
    found["link_spacing"] = {0: abs(points.across(pair[1]))}
    if points.sideways == "track_bar":
        bar = (known["track_bar_chassis"], known["track_bar_axle"])
        for axis, name in ((1, "track_bar_y"), (2, "track_bar_z")):
            found[name] = {i: float(end[axis]) for i, end in enumerate(bar)}
    for i, (chassis, axle) in enumerate(points.lower_links()):
        found.setdefault("arm_length", {})[i] = float(np.hypot(*(axle - chassis)[[0, 2]]))
        found.setdefault("arm_rise", {})[i] = float(axle[2] - chassis[2])
    if points.bars == "torque_arm":
        found["torque_arm_x"] = {0: float(known["torque_arm_pivot"][0])}
        found["lower_bolt_z"] = {0: float(known["lower_axle"][2])}
    return {name: told for name, told in found.items() if told and car.has(number_named(name))}


def _axle(car: Car, axle: int, sides: list[AtRide]) -> dict[str, float]:
    left, right = sides
    figures = {"roll_centre_height": (left.line_height + right.line_height) / 2}
    if left.bar_ratio is not None and right.bar_ratio is not None:
        figures["bar_motion_ratio"] = (left.bar_ratio + right.bar_ratio) / 2
    base, high = _given(car.known, "wheelbase"), _given(car.known, "cg_height")
    if base is None or not high:
        return figures
    # the front's patch goes ahead against dive, the rear's goes back against lift (reference-points §4)
    lever = (1 - 2 * axle) * base / high
    if (rear := _given(car.known, "rear_brake_share")) is not None:
        share = rear if axle else 1 - rear
        figures["anti_dive"] = lever * share * (left.locked + right.locked) / 2
    driven = _drive(car, axle)
    if driven:
        figures["drive_anti"] = lever * driven * (left.free + right.free) / 2
    return figures


def rear_drive(car: Car) -> float:
    """The rear axle's part of all driving force: what is given counts on a car driven at all four wheels."""
    share = _given(car.known, "rear_drive_share") if car.driven == "all" else None
    return DRIVE_REAR[car.driven] if share is None else share


def _drive(car: Car, axle: int) -> float:
    return rear_drive(car) if axle else 1 - rear_drive(car)


def _given(given: Mapping[str, Any], name: str) -> float | None:
    return given[name].values[0] if name in given else None


LINKED = {
    "parallel_four_link": ("bolt_x", "bolt_z", "link_spacing", "track_bar_y", "track_bar_z"),
    "three_link": ("bolt_x", "bolt_z", "link_spacing", "track_bar_y", "track_bar_z"),
    "triangulated_four_link": ("bolt_x", "bolt_y", "bolt_z"),
}
"""What a live axle on bars is worked from, by layout, besides its wheels."""
WHEELS = ("track", "loaded_radius")


def live_axle_needs(car: Car) -> tuple[str, ...]:
    """The numbers that a rear axle on link bars is worked from; none for another layout."""
    return (*LINKED[car.rear_layout], *WHEELS) if car.rear_layout in LINKED else ()


def live_axle_of(car: Car, values: Mapping[str, Array]) -> LiveAxle:
    """The rear axle on its bars. All that `live_axle_needs` names must be there.

    Wheels upright; bars of a parallel pair straight along the car, half their spacing from its centre;
    a third link in the centre; a track bar straight across over the axle. Raises Impossible.
    """
    x, z = values["bolt_x"], values["bolt_z"]
    if car.rear_layout == "triangulated_four_link":
        y = values["bolt_y"]
    else:
        half = float(values["link_spacing"]) / 2
        y = np.array([half] * 4)
    single = car.rear_layout == "three_link"
    if single:
        y = np.array([0.0, 0.0, y[2], y[3]])
    bolts = np.stack((x, y, z), -1)
    links = [
        Link("upper link", bolts[0], bolts[1], mirror=not single),
        Link("lower link", bolts[2], bolts[3], mirror=True),
    ]
    bar = None
    if "track_bar_y" in LINKED[car.rear_layout]:
        chassis, axle = (
            np.array([0.0, across, up])
            for across, up in zip(values["track_bar_y"], values["track_bar_z"], strict=True)
        )
        bar = Link("track bar", chassis, axle)
    wheel = np.array([0.0, float(values["track"][1]) / 2, float(values["loaded_radius"][1])])
    return LiveAxle(Wheel(wheel, 0.0, 0.0), links, track_bar=bar)


AdjustedSide = Literal["either", "left", "right"]


@dataclass(frozen=True)
class SweptAxle:
    """An axle with what its sweeps want of the car; None for what is not known.

    `points` are those it was measured by, where it has any, `bolts` the numbers it was worked from
    besides. `travels` are the car's own to full droop and full bump [m, bump +], `shares` its part of
    all braking and driving.
    """

    axle: kinematics.Axle | LiveAxle = field(compare=False)
    points: tuple[Points | AxlePoints, ...]
    bolts: tuple[float, ...]
    car: kinematics.Car | None
    shares: tuple[float | None, float | None]
    travels: tuple[float, float] | None

    @property
    def kind(self) -> str:
        return "live axle" if isinstance(self.axle, LiveAxle) else self.axle.left.layout.label

    @property
    def adjustments(self) -> dict[AdjustedSide, list[Adjustment]]:
        """What one turn or shim does on each side, once where both wear one sheet; none for a live axle."""
        measured = [point for point in self.points if isinstance(point, Points)]
        names: tuple[AdjustedSide, ...] = ("left", "right")
        if measured and all(one is measured[0] for one in measured):
            names = ("either",)
        return {
            name: adjustments(one.side, one.pitch)
            for name, one in zip(names, measured, strict=False)
        }

    def sweep(self, over: Over) -> Swept:
        """The axle through its own travel, or as far as is usual. Raises Impossible, Missing."""
        low, high = self.travels if self.travels and over == "travel" else (None, None)
        per_turn = None
        if self.points and isinstance(one := self.points[0], Points) and over == "rack":
            per_turn, lock = one.rack_per_turn, one.rack_travel
            low, high = (None, None) if lock is None else (-lock, lock)
        if isinstance(self.axle, LiveAxle):
            return axle_sweep(self.axle, over, low=low, high=high, car=self.car, shares=self.shares)
        return sweep(
            self.axle,
            over,
            low=low,
            high=high,
            car=self.car,
            shares=self.shares,
            rack_per_turn=per_turn,
        )


def swept_axles(
    car: Car, setup: Setup, values: Mapping[str, Array]
) -> tuple[SweptAxle | None, SweptAxle | None]:
    """Both axles as their points, or the rear one's bars, give them; None for one without."""
    front, rear = (_axle_of(car, setup, values, at) for at in (0, 1))
    return front, rear


def _axle_of(car: Car, setup: Setup, values: Mapping[str, Array], at: int) -> SweptAxle | None:
    points: tuple[Points | AxlePoints, ...] = ()
    bolts: list[float] = []
    axle: kinematics.Axle | LiveAxle
    if (both := points_at(car, setup, at)) is not None:
        points, (left, right) = both, both
        axle = kinematics.Axle(left.side, None if left is right else right.side, at == 0)
    elif at == 1 and (measured := axle_points(car, setup)) is not None:
        # the holes in use are in the numbers already
        holes = _holes(values)
        points, bolts = (measured,), [one for hole in holes.values() for one in hole]
        axle = measured.with_bolts(holes)
    elif at == 1 and (needed := live_axle_needs(car)) and values.keys() >= set(needed):
        axle = live_axle_of(car, values)
        bolts = [float(one) for name in needed for one in np.ravel(values[name])]
    else:
        return None
    base, high = (
        float(values[name]) if name in values else None for name in ("wheelbase", "cg_height")
    )
    rear_brakes = float(values["rear_brake_share"]) if "rear_brake_share" in values else None
    braking = None if rear_brakes is None else rear_brakes if at else 1 - rear_brakes
    driving = _drive(car, at)
    return SweptAxle(
        axle,
        points,
        tuple(bolts),
        kinematics.Car(base, high) if base and high else None,
        (braking, driving),
        _travels(values, at),
    )


def _holes(values: Mapping[str, Array]) -> Bolts:
    if not {"bolt_x", "bolt_z"} <= values.keys():
        return {}
    pairs = zip(values["bolt_x"], values["bolt_z"], strict=True)
    return {i: (float(x), float(z)) for i, (x, z) in enumerate(pairs)}


def _travels(values: Mapping[str, Array], axle: int) -> tuple[float, float] | None:
    """To the stops, as far as both sides can go."""
    corners = slice(2 * axle, 2 * axle + 2)
    if not {"droop_travel", "bump_travel"} <= values.keys():
        return None
    droop, bump = values["droop_travel"][corners], values["bump_travel"][corners]
    return -float(np.min(droop)), float(np.min(bump))
