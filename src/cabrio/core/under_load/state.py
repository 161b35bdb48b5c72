"""What a loaded state tells: loads, travels, heights, transfers, what touches and what is off the ground."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..constants import STANDARD_GRAVITY as G
from ..errors import Impossible
from ..figures.rubber import exceeded
from ..figures.shapes import axle_sum
from ..graph.registry import Mask
from .car import LoadedCar, Rubber
from .demand import Demand
from .forces import (
    Outside,
    coils_loose,
    contact_loads,
    outside,
    spring_forces,
    station_travel,
    wheel_travel,
)
from .settle import REFINE, Settled, settle

CORNERS = PLACES[Shape.CORNER]
ROLLS_OVER = "The car would roll over: there is no steady state."
FRONT_UP = (
    "The front wheels come off the ground: more than the front axle's load is moved to the rear."
)
REAR_UP = (
    "The rear wheels come off the ground: more than the rear axle's load is moved to the front."
)


@dataclass(frozen=True)
class Loaded:
    """Loaded states of a batch (n, …), as answers [SI]; signs as in the reference."""

    car: LoadedCar
    demand: Demand
    settled: Settled

    @cached_property
    def outside(self) -> Outside:
        return outside(self.car, self.demand, self.settled.z)

    @property
    def holds(self) -> Mask:
        return self.settled.holds

    @cached_property
    def loads(self) -> Array:
        """Load of each wheel on the ground [N]."""
        return contact_loads(self.car, self.settled.z)

    @property
    def travels(self) -> Array:
        """Travel of each wheel, + bump [m]."""
        return wheel_travel(self.car, self.settled.z)

    @property
    def stations(self) -> Array:
        """Travel at the springs, + bump [m]."""
        return station_travel(self.car, self.settled.z)

    @property
    def heights(self) -> Array | None:
        """Ride heights [m]; None where none were given."""
        return self.outside.heights

    @property
    def roll(self) -> Array:
        return self.settled.z[:, 2]

    @property
    def pitch(self) -> Array:
        return self.settled.z[:, 1]

    def height_at(self, behind: float, left: float, standing: float) -> Array:
        """Height of a place of the body that stands so far behind the front axle and to the left [m]."""
        ahead = self.car.places[..., 0, 0] - behind
        z = self.settled.z
        return standing + z[:, 0] + ahead * z[:, 1] + left * z[:, 2]

    @cached_property
    def transfer(self) -> Array:
        """Load moved onto the right wheel of each axle, counted from standing [N]."""
        standing = np.asarray(self.car.pads) * G
        moved = self.loads - standing
        found: Array = (moved[..., 1::2] - moved[..., 0::2]) / 2
        return found

    @property
    def geometric(self) -> Array:
        return self.outside.geometric / self.car.tracks

    @property
    def unsprung(self) -> Array:
        return self.outside.unsprung / self.car.tracks

    @property
    def torque(self) -> Array:
        """What the shaft moves onto the right wheel of each axle [N]: off the right rear when + ."""
        found = np.zeros_like(self.transfer)
        found[..., 1] = -self.outside.torque / np.asarray(self.car.tracks)[..., 1]
        return found

    @property
    def elastic(self) -> Array:
        """What springs, rubbers, stops and bar carry across [N]."""
        return self.transfer - self.geometric - self.unsprung - self.torque

    @property
    def front_share(self) -> Array:
        """Front share of the sideways transfer as carried; NaN with no cornering."""
        sums = self.transfer.sum(-1)
        cornering = np.broadcast_to(np.asarray(self.demand.sideways) != 0, sums.shape)
        return np.where(
            cornering, self.transfer[..., 0] / np.where(sums == 0, np.nan, sums), np.nan
        )

    @property
    def handed_back(self) -> Array:
        """Part of the shaft's torque that body roll hands back to the rear tyres; straight ahead only."""
        torque = self.outside.torque
        back = self.elastic[..., 1] * np.asarray(self.car.tracks)[..., 1]
        straight = (np.asarray(self.demand.sideways) == 0) & (torque != 0)
        return np.where(straight, back / np.where(torque == 0, np.nan, torque), np.nan)

    @property
    def lifted(self) -> Mask:
        return self.loads <= 0

    @property
    def on_bump_stop(self) -> Mask:
        return self.settled.stops > 0

    @property
    def on_droop_stop(self) -> Mask:
        return self.settled.stops < 0

    @property
    def coils_loose(self) -> Mask:
        return coils_loose(self.car, self.stations)

    @property
    def rubbers_touching(self) -> Mask:
        return self._rubbers(lambda rubber, pressed: pressed > 0)

    @property
    def rubber_tables_exceeded(self) -> Mask:
        return self._rubbers(lambda rubber, pressed: exceeded(rubber.curve, pressed))

    def _rubbers(self, told: Callable[[Rubber, Array], Mask]) -> Mask:
        """What is so of each rubber, by how far it is pressed; nothing where there is none."""
        travel = self.stations
        found = np.zeros(travel.shape, dtype=bool)
        for i in range(4):
            if (pressing := self.car.pressing(i, travel)) is not None:
                rubber, squeezed = pressing
                found[:, i] = told(rubber, rubber.pressed(squeezed))
        return found

    @property
    def spring_forces(self) -> Array:
        """Force of coil and rubber at each station [N]."""
        return spring_forces(self.car, self.stations)


def load(
    car: LoadedCar,
    demand: Demand,
    start: Settled | None = None,
    refine: tuple[int, ...] = REFINE,
    falls: Mask | None = None,
) -> Loaded:
    """Loaded states of a batch of demands, as `settle` finds them. `holds` says which there are; nothing is raised for those."""
    if demand.shaft is not None and not car.beam[1]:
        raise Impossible(
            "A shaft torque loads the wheels of a live rear axle only; with the final drive on the body "
            "it stays inside.",
            number="pinion_angle",
        )
    found = settle(car, demand, start, refine, falls)
    return Loaded(car, demand.spread(len(found.z)), found)


def loaded(car: LoadedCar, demand: Demand) -> Loaded:
    """One loaded state. Raises Impossible, by name, where there is none."""
    found = load(car, demand)
    if not found.holds[0]:
        raise why_not(car, demand)
    refuse_outside(found)
    return found


def refuse_outside(found: Loaded) -> None:
    """Raise Impossible where a state is past what the car's own data cover."""
    car = found.car
    if np.any((car.ratios + car.ratio_slopes * found.stations)[found.holds] <= 0):
        raise Impossible(
            "The motion ratio would fall to nothing within this travel: measure how it changes again.",
            number="motion_ratio_slope",
        )
    if car.air is not None and car.air.map is not None and found.heights is not None:
        mean = axle_sum(found.heights) / 2
        outside = mean[found.holds][~car.air.map.covers(mean[found.holds])]
        if len(outside):
            raise Impossible(
                f"The aero map does not cover heights {car.air.map.lacks(outside[0])}.",
                number="lift_area",
            )


def why_not(car: LoadedCar, demand: Demand) -> Impossible:
    """The reason why a demand has no steady state."""
    along, sideways = (float(np.asarray(one)) for one in (demand.along, demand.sideways))
    speed = float(np.asarray(demand.speed))
    if not load(car, Demand(0.0, 0.0, speed)).holds[0]:
        return Impossible(
            "The air would lift the car off the ground at this speed.", number="speed"
        )
    if sideways and load(car, Demand(along, 0.0, speed, demand.shaft)).holds[0]:
        return Impossible(ROLLS_OVER, number="cornering_acceleration")
    return Impossible(FRONT_UP if along > 0 else REAR_UP, number="launch_acceleration")
