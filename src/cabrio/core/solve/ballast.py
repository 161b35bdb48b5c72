"""How much ballast, or where, for wanted shares (reference §6). Linear, on the standing car."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..arrays import Array
from ..catalog.parts import check_on_car
from ..catalog.units import show
from ..errors import Impossible, OutOfRange
from ..graph.evaluate import answer
from ..statics.equilibrium import Change, Standing, StandingCar, predict, solve

Share = Literal["front", "left", "cross"]
PARTS: dict[Share, Array] = {
    "front": np.array([1.0, 1.0, 0.0, 0.0]),
    "left": np.array([1.0, 0.0, 1.0, 0.0]),
    "cross": np.array([0.0, 1.0, 1.0, 0.0]),
}


@dataclass(frozen=True)
class Place:
    """Where ballast may go: metres behind the front axle and to the left, and the most it takes [kg]."""

    name: str
    behind_front: float
    left: float
    most: float = float("inf")


@dataclass(frozen=True)
class Ballast:
    """An answer: this much there, and how the car then stands."""

    place: Place
    mass: float
    standing: Standing


METRIC = "n_mm"
"""The units of a sentence where nobody says which."""


def mass_for_total(car: StandingCar, total: float, profile: str = METRIC) -> float:
    """What the car is short of a mass [kg]. Raises Impossible, in units of the profile, where it weighs that
    already."""
    short = float(total - car.pads.sum())
    if short <= 0:
        raise Impossible(
            f"The car weighs {show(float(car.pads.sum()), 'mass', profile)} already: no ballast is needed "
            f"for {show(total, 'mass', profile)}.",
            number="target",
        )
    return short


SHARES = ("total_mass", "front_share", "left_share", "cross_share")


def shares(pads: Array) -> dict[str, float]:
    """Total [kg], and front, left and cross share of four pads."""
    found = answer(SHARES, {"pad_mass": pads})
    return {name: float(found[name]) for name in SHARES}


def put(car: StandingCar, place: Place, mass: float) -> Standing:
    """The car with a mass at a place. Raises Impossible where it is off the car or lifts a wheel."""
    check_on_car(place.behind_front, place.left, car.wheelbase, float(car.tracks.max()))
    return _with(car, place, mass)


def response(car: StandingCar, place: Place) -> Array:
    """Pad change per kilogram put at a place (4,)."""
    change = Change(ballast=((1.0, place.behind_front, place.left),))
    return solve(car, change).pads - car.pads


def mass_for(
    car: StandingCar, place: Place, share: Share, target: float, profile: str = METRIC
) -> Ballast:
    """The mass at a place that brings a share to its target [0..1].

    Raises Impossible where that place only moves the share away from it, or past what it takes.
    """
    if not 0 < target < 1:
        raise OutOfRange(
            "A share lies between 0 and 1.",
            number=f"{share}_share",
            value=target,
            allowed="0 to 100 %",
        )
    part = PARTS[share]
    short = target * car.pads.sum() - part @ car.pads
    gain = float(part @ response(car, place)) - target
    mass = short / gain if abs(gain) > 1e-12 else float("inf")
    if not np.isfinite(mass) or mass < 0:
        raise Impossible(
            f"Ballast at {place.name} cannot bring the {share} share to {target:.1%}: it moves it "
            "the other way. Take mass off there, or use another place.",
            number=f"{share}_share",
        )
    if mass > place.most:
        raise Impossible(
            f"{place.name} would need {show(mass, 'mass', profile)} and takes "
            f"{show(place.most, 'mass', profile)} at most.",
            number=f"{share}_share",
            value=mass,
            allowed=f"0 to {show(place.most, 'mass', profile)}",
        )
    return Ballast(place, mass, _with(car, place, mass))


def _with(car: StandingCar, place: Place, mass: float) -> Standing:
    return predict(car, Change(ballast=((mass, place.behind_front, place.left),)))
