"""Grip: the sideways limit of each axle, their difference as the balance, and how steering must follow.

Only differences of balance count until grip and its loss are fitted to measured cornering.
Source: Milliken & Milliken, Race Car Vehicle Dynamics, ch. 2, 5 and 7; Dixon.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import partial
from typing import Literal

import numpy as np

from ..arrays import Array
from ..checks import above_zero, finite
from ..constants import STANDARD_GRAVITY as G
from ..errors import Impossible, OutOfRange
from ..figures.shapes import at_corners, axle_sum
from .car import LoadedCar
from .demand import Demand
from .forces import shares
from .limits import Found, first_each, roll_over, sideways_measure
from .state import Loaded, load

LEAST_GRIP = 0.05
"""What is left of a tyre's grip however much it carries."""
AXLES = ("front", "rear")


@dataclass(frozen=True)
class Tyres:
    """Per axle (…, 2): grip at the reference load [N], the share of it lost per reference load more,
    and grip along over grip across."""

    grip: Array
    loss: Array
    reference: Array
    along_over_across: Array

    def __post_init__(self) -> None:
        above_zero(grip=self.grip, reference_load=self.reference, grip_ratio=self.along_over_across)
        finite(grip_loss=self.loss)
        if np.any((np.asarray(self.loss) < 0) | (np.asarray(self.loss) >= 1)):
            raise OutOfRange("The loss of grip must be from 0 to below 1.", number="tyre_grip_loss")

    def at(self, loads: Array) -> Array:
        """Grip of each tyre at its load (…, 4)."""
        over = loads / at_corners(self.reference) - 1
        found: Array = np.maximum(
            at_corners(self.grip) * (1 - at_corners(self.loss) * over), LEAST_GRIP
        )
        return found


def capacities(tyres: Tyres, states: Loaded) -> Array:
    """Force that each axle's tyres have in all (…, 2) [N]."""
    return axle_sum(tyres.at(states.loads) * states.loads)


def sideways_left(tyres: Tyres, states: Loaded) -> Array:
    """Sideways force each axle has left beside what it drives or brakes (…, 2) [N]; below zero: none."""
    along = shares(states.car, states.outside.tyres_along) * states.outside.tyres_along[..., None]
    square = capacities(tyres, states) ** 2 - (along / tyres.along_over_across) ** 2
    found: Array = np.sign(square) * np.sqrt(np.abs(square))
    return found


def spare(tyres: Tyres, axle: int, states: Loaded) -> Array:
    """What an axle's tyres have over what they must give sideways, in parts of the weight."""
    needed = states.car.axle_mass[..., axle] * np.abs(np.asarray(states.demand.sideways))
    found: Array = (sideways_left(tyres, states)[..., axle] - needed) / (states.car.mass * G)
    return found


LimitedBy = Literal["front", "rear", "roll_over", "longitudinal"]


@dataclass(frozen=True)
class Balance:
    """Limits of both axles and of the car, + to the left [m/s²]; None where the car rolls over first."""

    front: float | None
    rear: float | None
    car: float
    limited_by: LimitedBy
    state: Loaded
    """The car at its limit."""

    @property
    def balance(self) -> float | None:
        """Front limit less rear limit [g]: below zero the front gives up first."""
        if self.front is None or self.rear is None:
            return None
        return (abs(self.front) - abs(self.rear)) / G


def balance(car: LoadedCar, tyres: Tyres, demand: Demand, left_turn: bool = True) -> Balance:
    """The sideways limits at an acceleration along and a speed.

    Raises Impossible where an axle cannot drive or brake as asked even straight ahead.
    """
    sign = 1.0 if left_turn else -1.0
    along, speed = float(np.asarray(demand.along)), float(np.asarray(demand.speed))
    straight = load(car, Demand(along, 0.0, speed, demand.shaft))
    beside = sideways_left(tyres, straight)[0]
    for axle, name in enumerate(AXLES):
        if beside[axle] < 0:
            what = "drive" if straight.outside.tyres_along[0] > 0 else "brake"
            raise Impossible(
                f"The {name} tyres cannot {what} as asked even straight ahead.",
                number="tyre_grip",
            )

    def at(sizes: Array) -> Demand:
        return Demand(
            np.full_like(sizes, along), sign * sizes, np.full_like(sizes, speed), demand.shaft
        )

    measure = sideways_measure(car, speed)
    walked = first_each(car, at, measure, [partial(spare, tyres, axle) for axle in (0, 1)])
    found = [
        None if one is None or _ended_by_rollover(tyres, axle, one) else one
        for axle, one in enumerate(walked)
    ]
    limits = [None if one is None else sign * one.at for one in found]
    reached = [(one.at, axle, one) for axle, one in enumerate(found) if one is not None]
    if reached:
        _, axle, at_limit = min(reached, key=lambda row: row[0])
        by: LimitedBy = "front" if axle == 0 else "rear"
    else:
        at_limit, by = roll_over(car, demand, left_turn), "roll_over"
    state = load(car, at(np.array([at_limit.at if reached else at_limit.at * (1 - 1e-9)])))
    return Balance(limits[0], limits[1], sign * at_limit.at, by, state)


def _ended_by_rollover(tyres: Tyres, axle: int, found: Found) -> bool:
    """Whether the walk ended because the car went over, and not because this axle slid."""
    return float(spare(tyres, axle, found.before)[0]) > 1e-6


def envelope(
    car: LoadedCar, tyres: Tyres, along: Array, speed: float, left_turn: bool = True
) -> list[tuple[float | None, LimitedBy]]:
    """The car's limit at each acceleration along; None where that is itself out of reach."""
    found: list[tuple[float | None, LimitedBy]] = []
    for one in along:
        try:
            here = balance(car, tyres, Demand(float(one), 0.0, speed), left_turn)
        except Impossible:
            found.append((None, "longitudinal"))
        else:
            found.append((here.car, here.limited_by))
    return found


@dataclass(frozen=True)
class Cornering:
    """Cornering stiffness per axle (2,): per load [1/rad], the share lost per reference load [N]."""

    per_load: Array
    loss: Array
    reference: Array

    def __post_init__(self) -> None:
        above_zero(cornering_stiffness=self.per_load, reference_load=self.reference)
        finite(stiffness_loss=self.loss)

    def of(self, loads: Array) -> Array:
        """Stiffness of each axle at its loads (…, 2) [N/rad]."""
        kept = 1 - at_corners(self.loss) * (loads / at_corners(self.reference) - 1)
        plain = at_corners(self.per_load) * loads
        return axle_sum(np.maximum(plain * kept, LEAST_GRIP * plain))


def understeer_gradient(cornering: Cornering, state: Loaded) -> tuple[Array, Array]:
    """Steer that has to be added per sideways acceleration (…) [rad/(m/s²)], + understeer, at a state's
    loads; and the stiffness of each axle (…, 2) [N/rad]."""
    stiffness = cornering.of(state.loads)
    parts = state.car.axle_mass / stiffness
    found: Array = parts[..., 0] - parts[..., 1]
    return found, stiffness
