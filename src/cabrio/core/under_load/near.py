"""Limits of many cars or demands at once, from the limits of one that is near."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from ..arrays import Array
from ..constants import STANDARD_GRAVITY as G
from .air import Air
from .car import OWN, LoadedCar
from .demand import Demand
from .grip import Balance, Tyres, spare
from .settle import Settled
from .state import load

TURNS = 12
"""Times a limit is looked for again from where the last two looks point."""
CLOSE = 1e-7
"""How little may be left at a limit, in parts of the weight."""
SPEEDS, ALONGS = 9, 13
"""Points of the balance over speed, and of the limits over braking and driving."""
FASTEST = 90.0
"""Where the balance over speed ends while nobody gave a faster speed [m/s]."""


def stack(car: LoadedCar, others: Sequence[LoadedCar]) -> LoadedCar:
    """Cars as a batch of one. Their rubbers' tables and their air are the first one's."""
    rows = {
        name: np.stack([np.asarray(getattr(other, name), dtype=float) for other in others])
        for name in OWN
        if getattr(car, name) is not None
    }
    return replace(car, **rows)  # type: ignore[arg-type]


def balances(cars: LoadedCar, tyres: Tyres, demand: Demand, here: Balance) -> Array:
    """The balance of each car of a batch [g], from the limits of one that is near; NaN where unknown."""
    front, rear = axle_limits(cars, tyres, demand, here)
    found: Array = (np.abs(front) - np.abs(rear)) / G
    return found


def axle_limits(
    cars: LoadedCar, tyres: Tyres, demand: Demand, here: Balance
) -> tuple[Array, Array]:
    """The sideways limits of both axles for a batch of cars or demands [m/s²]; NaN where not found."""
    size = max(cars.size, demand.size)
    near = np.array([np.nan if one is None else one for one in (here.front, here.rear)])
    if np.isnan(near).any() or cars.batch:
        # a batch of cars is a batch already, and an axle without a limit has none near by
        front, rear = (
            np.full(size, np.nan)
            if np.isnan(near[axle])
            else _limit(cars, tyres, demand.spread(size), np.full(size, axle), near, here)
            for axle in (0, 1)
        )
        return front, rear
    twice = demand.spread(size).of(np.tile(np.arange(size), 2))
    both = _limit(cars, tyres, twice, np.repeat([0, 1], size), near, here)
    return both[:size], both[size:]


def _limit(
    cars: LoadedCar, tyres: Tyres, demand: Demand, axle: Array, near: Array, here: Balance
) -> Array:
    """The sideways limit of one axle of each car, or for each demand (n,) [m/s²], by the straight line
    through the last two looks."""
    one, size = here.state.settled, demand.size
    start = Settled(
        np.repeat(one.z, size, axis=0),
        np.repeat(one.stops, size, axis=0),
        np.repeat(one.holds, size),
    )
    at = near[axle]
    low, high = np.sort([0.2 * at, 5.0 * at], axis=0)
    last, left = np.full(size, np.nan), np.full(size, np.nan)
    for _ in range(TURNS):
        state = load(cars, Demand(demand.along, at, demand.speed, demand.shaft), start, (1,))
        spares = np.where(axle == 0, spare(tyres, 0, state), spare(tyres, 1, state))
        now = np.where(state.holds, spares, np.nan)
        if np.all((np.abs(now) < CLOSE) | np.isnan(now)) and not np.isnan(now).all():
            break
        with np.errstate(all="ignore"):  # nothing to go by yet: look a little further in
            slope = (now - left) / (at - last)
            after = np.where(np.isnan(slope) | (slope == 0), 0.995 * at, at - now / slope)
        after = np.where(np.isnan(now), 0.85 * at, after)  # there is no state so far out
        known = ~np.isnan(now)
        last, left = np.where(known, at, last), np.where(known, now, left)
        at = np.where(np.abs(now) < CLOSE, at, np.minimum(np.maximum(after, low), high))
        start = state.settled
    return np.where(np.abs(now) < 1e-5, at, np.nan)


@dataclass(frozen=True)
class Over:
    """The balance [g] over speed [m/s], and the car's limit over braking and driving [m/s²].

    None where the car has no such limit, or it was not found from the one that is near.
    """

    speeds: tuple[float, ...]
    balance: tuple[float | None, ...]
    along: tuple[float, ...]
    sideways: tuple[float | None, ...]


def over(car: LoadedCar, tyres: Tyres, demand: Demand, here: Balance) -> Over:
    """How balance and limit go around one demand: over speed where there is air, and along the car."""
    fastest = max(FASTEST, float(np.max(demand.speed)))
    speeds = np.linspace(0.0, fastest, SPEEDS) if isinstance(car.air, Air) else np.zeros(0)
    along = np.linspace(-1.5 * G, 0.9 * G, ALONGS)
    # both ways round are looked for in one batch: over speed first, then along the car
    asked = Demand(
        np.concatenate((np.full(len(speeds), float(np.asarray(demand.along))), along)),
        0.0,
        np.concatenate((speeds, np.full(len(along), float(np.asarray(demand.speed))))),
        demand.shaft,
    )
    front, rear = axle_limits(car, tyres, asked, here)
    over_speed = ((np.abs(front) - np.abs(rear)) / G)[: len(speeds)]
    least = np.minimum(np.abs(front), np.abs(rear))[len(speeds) :]
    return Over(
        tuple(speeds.tolist()),
        tuple(None if np.isnan(one) else float(one) for one in over_speed),
        tuple(along.tolist()),
        tuple(None if np.isnan(one) else float(one) for one in least),
    )
