"""What the points of the suspension tell of the car: they stand in the place of what was typed."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..catalog.points import Points
from ..catalog.quantities import PLACES, Array, Shape
from ..constants import DRIVE_REAR
from ..kinematics import axle as kinematics
from ..kinematics.at_ride import AtRide, at_ride
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


def of_points(car: Car, setup: Setup) -> dict[str, dict[int, Any]]:
    """Numbers worked from points, by name and index of the place [SI].

    Both sides of an axle have to be known, be it as each other's mirror. What hangs on facts that
    nobody gave, such as the antis on the centre of gravity, is not told.
    """
    found: dict[str, dict[int, Any]] = {}
    for axle in (0, 1):
        both = points_at(car, setup, axle)
        if both is None:
            continue
        sides = [at_ride(one) for one in both]
        for i, side in enumerate(sides):
            for name, value in side.corner.items():
                found.setdefault(name, {})[2 * axle + i] = value
        for name, value in _axle(car, axle, sides).items():
            found.setdefault(name, {})[axle] = value
    return found


def _axle(car: Car, axle: int, sides: list[AtRide]) -> dict[str, float]:
    left, right = sides
    told = {"roll_centre_height": (left.line_height + right.line_height) / 2}
    if left.bar_ratio is not None and right.bar_ratio is not None:
        told["bar_motion_ratio"] = (left.bar_ratio + right.bar_ratio) / 2
    base, high = _given(car.given, "wheelbase"), _given(car.given, "cg_height")
    if base is None or not high:
        return told
    # the front's patch goes ahead against dive, the rear's goes back against lift (reference-points §4)
    lever = (1 - 2 * axle) * base / high
    if (rear := _given(car.given, "rear_brake_share")) is not None:
        share = rear if axle else 1 - rear
        told["anti_dive"] = lever * share * (left.locked + right.locked) / 2
    driven = DRIVE_REAR[car.driven] if axle else 1 - DRIVE_REAR[car.driven]
    if driven:
        told["drive_anti"] = lever * driven * (left.free + right.free) / 2
    return told


def _given(given: Mapping[str, Any], name: str) -> float | None:
    return given[name].values[0] if name in given else None


@dataclass(frozen=True)
class OfPoints:
    """An axle of measured points with what its sweeps want of the car; None for what is not known.

    `travels` are the car's own to full droop and full bump [m, bump +], `shares` its part of all
    braking and driving.
    """

    points: tuple[Points, Points]
    front: bool
    car: kinematics.Car | None
    shares: tuple[float | None, float | None]
    travels: tuple[float, float] | None

    @property
    def axle(self) -> kinematics.Axle:
        left, right = self.points
        return kinematics.Axle(left.side, None if left is right else right.side, self.front)

    @property
    def pitch(self) -> float | None:
        return self.points[0].pitch


def axles_of_points(
    car: Car, setup: Setup, values: Mapping[str, Array]
) -> tuple[OfPoints | None, OfPoints | None]:
    """Both axles as their points give them; None for one without."""
    front, rear = (_of_axle(car, setup, values, axle) for axle in (0, 1))
    return front, rear


def _of_axle(car: Car, setup: Setup, values: Mapping[str, Array], axle: int) -> OfPoints | None:
    both = points_at(car, setup, axle)
    if both is None:
        return None
    base, high = (
        float(values[name]) if name in values else None for name in ("wheelbase", "cg_height")
    )
    rear_brakes = float(values["rear_brake_share"]) if "rear_brake_share" in values else None
    braking = None if rear_brakes is None else rear_brakes if axle else 1 - rear_brakes
    driving = DRIVE_REAR[car.driven] if axle else 1 - DRIVE_REAR[car.driven]
    return OfPoints(
        both,
        axle == 0,
        kinematics.Car(base, high) if base and high else None,
        (braking, driving),
        _travels(values, axle),
    )


def _travels(values: Mapping[str, Array], axle: int) -> tuple[float, float] | None:
    """To the stops, as far as both sides can go."""
    corners = slice(2 * axle, 2 * axle + 2)
    if not {"droop_travel", "bump_travel"} <= values.keys():
        return None
    droop, bump = values["droop_travel"][corners], values["bump_travel"][corners]
    return -float(np.min(droop)), float(np.min(bump))
