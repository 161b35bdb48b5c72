"""One look at the car under load: the state asked for, its limits, and which axle gives up first."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import CoreError
from .car import LoadedCar
from .demand import Demand
from .grip import Balance, Cornering, Tyres, balance, understeer_gradient
from .limits import first_front_lift, lift_and_roll_over, wheels_up
from .state import Loaded, loaded


@dataclass(frozen=True)
class Look:
    """What a demand does to a car. `refused` says why there is no state; limits stand all the same."""

    state: Loaded | None
    refused: str
    lift: tuple[float, str] | None
    """Sideways acceleration at which a wheel first comes off [m/s²], and which."""
    roll_over: float | None
    """Sideways acceleration past which there is no steady state [m/s²], its size."""
    balance: Balance | None
    front_lift: tuple[float, str] | None = None
    """Straight ahead: the launch at which a front wheel first comes off [m/s²], and which."""
    wheels_up: float | None = None
    """Straight ahead: the launch, or braking, that takes a whole axle off the ground [m/s²]."""
    gradient: float | None = None
    """Steer that has to be added per sideways acceleration at this load [rad/(m/s²)], + understeer."""
    unbalanced: str = ""
    """Why there is no balance, where the tyres cannot do what is asked along the car."""


def look(
    car: LoadedCar, tyres: Tyres | None, demand: Demand, cornering: Cornering | None = None
) -> Look:
    """Look at a car under one demand; what cannot be is said and not raised."""
    left = float(np.asarray(demand.sideways)) >= 0
    state, refused, unbalanced, found = None, "", "", None
    try:
        state = loaded(car, demand)
    except CoreError as refusal:
        refused = refusal.sentence
    straight = replace(demand, sideways=0.0)
    if demand.along and not demand.sideways:
        return _straight(car, demand, state, refused)
    try:
        loaded(car, straight)
    except CoreError:
        if demand.along:
            return _straight(car, straight, None, refused)
        return Look(None, refused, None, None, None)
    # some are so low and wide that nothing they could meet turns them over
    lift, over = lift_and_roll_over(car, straight, left)
    if tyres is not None:
        try:
            found = balance(car, tyres, straight, left)
        except CoreError as refusal:
            unbalanced = refusal.sentence
    gradient = None
    if cornering is not None and state is not None:
        gradient = float(understeer_gradient(cornering, state)[0][0])
    return Look(
        state,
        refused,
        lift,
        over.at if over else None,
        found,
        gradient=gradient,
        unbalanced=unbalanced,
    )


def _straight(car: LoadedCar, demand: Demand, state: Loaded | None, refused: str) -> Look:
    """Straight ahead the car ends where an axle comes off the ground."""
    forward, speed = float(demand.along) > 0, float(demand.speed)
    shaft = demand.shaft
    lift = first_front_lift(car, speed, shaft) if forward else None
    try:
        up = wheels_up(car, speed, forward=forward, shaft=shaft)
    except CoreError:  # a limit that is not found takes nothing from the state beside it
        up = None
    return Look(state, refused, None, None, None, front_lift=lift, wheels_up=up)
