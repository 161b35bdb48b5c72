"""Fuel from start to finish: what the pads would read, how the car stands, and which axle gives up first.

The fuel that was aboard at the pads is taken out and put in where the tank is, and the standing car says
what each wheel then carries (reference §6).
"""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..arrays import Array
from ..car.model import Car
from ..errors import CoreError
from ..graph.registry import Need, Worked
from ..statics.equilibrium import Change, StandingCar, predict
from ..under_load.demand import Demand
from ..under_load.grip import balance
from ..under_load.of_sheet import GRIP, loaded_car, tyres
from ..under_load.of_sheet import NEEDED as LOADED
from .what_if import NEEDED as STANDS
from .what_if import standing_of

NEEDED = (*STANDS, "fuel_mass", "tank_behind_front", "fuel_start", "fuel_finish")


@dataclass(frozen=True)
class Fuelled:
    """The car with some fuel aboard: SI; corners LF, RF, LR, RR, heights + up against the pads' reading."""

    fuel: float
    pads: Array
    heights: Array
    front_share: float
    cross_share: float
    rear_bite: float
    balance: float | None
    """Grip balance [g], − the front gives up first; None where the loaded car is not known."""


def lacking(worked: Worked) -> tuple[Need, ...]:
    """What is missing to follow the fuel."""
    return worked.lacking(NEEDED)


def burn(car: Car, worked: Worked) -> tuple[Fuelled, Fuelled, Fuelled]:
    """As weighed, at the start and at the finish. Raises Impossible where a wheel would lift.

    All that `lacking` names must be there.
    """
    v = worked.values
    standing = standing_of(v)
    read = float(v["fuel_mass"])
    weighed, start, finish = (
        _with(car, worked, standing, fuel, fuel - read)
        for fuel in (read, float(v["fuel_start"]), float(v["fuel_finish"]))
    )
    return weighed, start, finish


def _with(car: Car, worked: Worked, standing: StandingCar, fuel: float, more: float) -> Fuelled:
    v = worked.values
    place = (float(v["tank_behind_front"]), float(v["tank_to_left"]))
    found = predict(standing, Change(ballast=((more, *place),)))
    pads = found.pads
    total = float(pads.sum())
    return Fuelled(
        fuel,
        pads,
        found.ride_height_changes,
        float(pads[:2].sum()) / total,
        float(pads[1] + pads[2]) / total,
        float(pads[2] - pads[3]),
        _balance(car, worked, pads, found.ride_height_changes, more),
    )


def _balance(car: Car, worked: Worked, pads: Array, heights: Array, more: float) -> float | None:
    """The grip balance on these pads [g]; the CG moves up or down with the fuel where the tank is known."""
    grip = tyres(worked)
    if grip is None or worked.lacking((*LOADED, *GRIP)):
        return None
    loaded, v = loaded_car(car, worked), worked.values
    total = float(np.sum(pads))
    high = float(loaded.cg_height)
    if "tank_height" in v:
        high = (high * (total - more) + more * float(v["tank_height"])) / total
    stands = None if loaded.heights is None else np.asarray(loaded.heights) + heights
    fuelled = replace(loaded, pads=pads, cg_height=high, heights=stands)
    demand = Demand(0.0, 0.0, float(v["speed"]) if "speed" in v else 0.0)
    try:
        return balance(fuelled, grip, demand, True).balance
    except CoreError:
        return None
