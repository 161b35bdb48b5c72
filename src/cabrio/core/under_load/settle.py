"""The steady state itself: Newton on the pieces in force, stops as bounds, from standing as the demand grows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..catalog.quantities import Array, Indexes
from ..graph.registry import Mask
from .car import LoadedCar
from .demand import Demand
from .forces import station_travel, unbalanced
from .slopes import levers, slopes, travel_slope

CLOSE = 1e-10
"""How near to balance a state is, in parts of the car's weight."""
WHOLE_STEPS, SHORT_STEPS = 12, 20
REFINE = (1, 4, 16, 64)
"""In how many steps the demand grows: more only where fewer do not arrive."""


@dataclass(frozen=True)
class Settled:
    """States of a batch: positions (n, 7), forces of the stops (n, 4), and which of them hold."""

    z: Array
    stops: Array
    holds: Mask

    def __getitem__(self, at: Indexes | slice) -> Settled:
        return Settled(self.z[at], self.stops[at], self.holds[at])


def settle(
    car: LoadedCar, demand: Demand, start: Settled | None = None, refine: tuple[int, ...] = REFINE
) -> Settled:
    """The states of a batch of demands (n,), stable ones only; `start` is where to look first.

    Where a state does not hold there is none: the car rolls over, stands on one axle, or flies.
    """
    size = max(demand.size, car.size, 1 if start is None else len(start.z))
    wanted = demand.spread(size)
    found = Settled(np.zeros((size, 7)), np.zeros((size, 4)), np.zeros(size, dtype=bool))
    if start is not None:
        _put(found, np.arange(size), _newton(car, wanted, start, 0))
    for steps in refine:
        left = np.flatnonzero(~found.holds)
        if not len(left):
            break
        _put(found, left, _grow(car.of(left), wanted.of(left), steps))
    return found


def _put(found: Settled, at: Indexes, what: Settled) -> None:
    found.z[at], found.stops[at], found.holds[at] = what.z, what.stops, what.holds


def _grow(car: LoadedCar, demand: Demand, steps: int) -> Settled:
    """From standing to the demand in equal steps; one that finds no state ends there."""
    size, short = demand.size, SHORT_STEPS if steps > 4 else 0
    state = Settled(np.zeros((size, 7)), np.zeros((size, 4)), np.ones(size, dtype=bool))
    for step in range(1, steps + 1):
        tried = _newton(car, demand.grown(step / steps), state, short)
        state = Settled(tried.z, tried.stops, tried.holds & state.holds)
        if not state.holds.any():
            break
    return state


def _newton(car: LoadedCar, demand: Demand, start: Settled, short: int) -> Settled:
    """Newton from a state, all members at once; those that arrive at a stable state hold.

    Whole steps first: on straight pieces they end exactly. Whoever has not arrived then goes on in
    steps that are shortened while they make things worse.
    """
    z, stops = start.z.copy(), start.stops.copy()
    scale = _scales(car, len(z))
    rho = np.broadcast_to(np.asarray(car.spring_rates, dtype=float), stops.shape)
    error, worst = _error(car, demand, z, stops, rho, scale)
    stuck = np.zeros(len(z), dtype=bool)
    for step in range(WHOLE_STEPS + short):
        going = np.flatnonzero((worst > CLOSE) & np.isfinite(worst) & ~stuck)
        if not len(going):
            break
        some = car.of(going), demand.of(going)
        at = z[going], stops[going], rho[going]
        move = _move(_slope(*some, *at)[0], error[going])
        length = np.ones(len(going))
        for halving in range(1 if step < WHOLE_STEPS else 7):
            tried = (at[0] + length[:, None] * move[:, :7], at[1] + length[:, None] * move[:, 7:])
            new_error, new_worst = _error(*some, *tried, at[2], scale[going])
            better = new_worst < 0.999 * worst[going]
            if step < WHOLE_STEPS or better.all():
                break
            length = np.where(better, length, length / 2)
            stuck[going] = ~better if halving == 6 else stuck[going]
        z[going], stops[going], error[going], worst[going] = *tried, new_error, new_worst
    holds = (worst <= CLOSE) & np.isfinite(worst)
    ok = np.flatnonzero(holds)
    if len(ok):
        holds[ok] = _stable(car.of(ok), demand.of(ok), z[ok], stops[ok], rho[ok])
    return Settled(z, stops, holds)


def _move(slope: Array, error: Array) -> Array:
    """The step that would undo what is unbalanced (n, 11).

    Where a member can move without any force against it, the shortest such step: it shows as unstable.
    """
    wanted = -error[..., None]
    try:
        found = np.asarray(np.linalg.solve(slope, wanted), dtype=np.float64)[..., 0]
    except np.linalg.LinAlgError:
        found = np.asarray(np.linalg.pinv(slope) @ wanted, dtype=np.float64)[..., 0]
    return found


def _scales(car: LoadedCar, size: int) -> Array:
    """What each unbalanced part is measured by: the weight, and the weight over a length."""
    weight = car.mass * 9.80665
    reach = np.broadcast_to(np.asarray(car.wheelbase) / 2, np.shape(weight))
    rows = np.stack([weight, weight * reach, weight * reach, *([weight] * 8)], axis=-1)
    return np.broadcast_to(rows, (size, 11))


def _error(
    car: LoadedCar, demand: Demand, z: Array, stops: Array, rho: Array, scale: Array
) -> tuple[Array, Array]:
    """Unbalanced forces and what the stops do wrong (n, 11), and the worst of it in parts of the weight."""
    travel = station_travel(car, z)
    error = np.concatenate(
        [unbalanced(car, demand, z, stops), stops - _pressed(car, travel, stops, rho)], axis=-1
    )
    return error, np.max(np.abs(error) / scale, axis=-1)


def _pressed(car: LoadedCar, travel: Array, stops: Array, rho: Array) -> Array:
    """What a stop must press with: nothing while the travel is within, as much as it takes at its end."""
    return np.maximum(stops + rho * (travel - car.bump), 0.0) + np.minimum(
        stops + rho * (travel + car.droop), 0.0
    )


def _slope(
    car: LoadedCar, demand: Demand, z: Array, stops: Array, rho: Array
) -> tuple[Array, Mask]:
    """How what is unbalanced changes with positions and stops (n, 11, 11); and the stops in force."""
    slope = np.zeros((len(z), 11, 11))
    slope[:, :7, :7] = slopes(car, demand, z)
    # a wheel that hangs free of everything is held a little here, so that it finds its stop
    wheels = np.arange(3, 7)
    free = -slope[:, wheels, wheels] < 1e-6 * np.asarray(car.tyre_rates)
    slope[:, wheels, wheels] -= np.where(free, 0.02 * np.asarray(car.spring_rates), 0.0)
    to_body, to_wheels, by_place = _levers(car, len(z))
    slope[:, :3, 7:], slope[:, 3:7, 7:] = to_body, to_wheels
    travel = station_travel(car, z)
    active = (stops + rho * (travel - car.bump) > 0) | (stops + rho * (travel + car.droop) < 0)
    rows = np.arange(7, 11)
    slope[:, 7:, :7] = np.where(active[..., None], -rho[..., None] * by_place, 0.0)
    slope[:, rows, rows] = np.where(active, 0.0, 1.0)
    return slope, active


def _levers(car: LoadedCar, size: int) -> tuple[Array, Array, Array]:
    """What a force at a station does to body and wheels, and the travel there by place."""
    back = np.broadcast_to(np.swapaxes(car.stations, -1, -2), (size, 4, 4))
    to_body = np.swapaxes(np.broadcast_to(levers(car), (size, 4, 3)), -1, -2)
    by_place: Array = np.swapaxes(back, -1, -2) @ travel_slope(car, size)
    return to_body @ back, -back, by_place


def _stable(car: LoadedCar, demand: Demand, z: Array, stops: Array, rho: Array) -> Mask:
    """Whether a small push is answered by a force against it, in every direction the stops leave."""
    slope, active = _slope(car, demand, z, stops, rho)
    by_place = _levers(car, len(z))[2]
    reach = np.concatenate([[1.0], np.full(2, 2.0), np.ones(4)])
    held = np.where(active, 1e3 * rho, 0.0)
    stiff = -slope[:, :7, :7] + np.swapaxes(by_place, -1, -2) @ (held[..., None] * by_place)
    found: Mask = np.linalg.eigvals(stiff * reach * reach[:, None]).real.min(-1) > 0
    return found
