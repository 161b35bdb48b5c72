"""One look at the car under load: the state asked for, its limits, and which axle gives up first."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..errors import CoreError
from .car import Demand, LoadedCar
from .grip import Balance, Tyres, balance
from .limits import first_lift, roll_over
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
    unbalanced: str = ""
    """Why there is no balance, where the tyres cannot do what is asked along the car."""


def look(car: LoadedCar, tyres: Tyres | None, demand: Demand) -> Look:
    """Look at a car under one demand; what cannot be is said and not raised."""
    left = float(np.asarray(demand.sideways)) >= 0
    state, refused, unbalanced, found = None, "", "", None
    try:
        state = loaded(car, demand)
    except CoreError as refusal:
        refused = refusal.sentence
    straight = replace(demand, sideways=0.0)
    try:
        loaded(car, straight)
    except CoreError:
        return Look(None, refused, None, None, None)
    lift, over = first_lift(car, straight, left), roll_over(car, straight, left).at
    if tyres is not None:
        try:
            found = balance(car, tyres, straight, left)
        except CoreError as refusal:
            unbalanced = refusal.sentence
    return Look(state, refused, lift, over, found, unbalanced)
