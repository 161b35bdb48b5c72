"""The steady state itself: Newton on the pieces in force, stops as bounds, from standing as the demand grows."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array, Indexes
from ..constants import STANDARD_GRAVITY
from ..graph.registry import Mask
from .car import LoadedCar
from .demand import Demand
from .forces import coils_loose, station_travel, unbalanced
from .slopes import levers, slopes, travel_slope

CLOSE = 1e-10
"""How near to balance a state is, in parts of the car's weight."""
WHOLE_STEPS, SHORT_STEPS = 12, 20
REFINE = (1, 4, 16, 64)
"""In how many steps the demand grows: more only where fewer do not arrive."""
GROWN = 32
"""In how many it grows where more than one state is possible."""

FALL_STEPS, SLOWEST, FALLEN = 40, 0.02, 0.35
"""Steps that a fall may take, the least it is slowed by where nothing holds it, and where it has fallen
over [m, rad]."""


@dataclass(frozen=True)
class Settled:
    """States of a batch: positions (n, 7), forces of the stops (n, 4), and which of them hold."""

    z: Array
    stops: Array
    holds: Mask

    def __getitem__(self, at: Indexes | slice) -> Settled:
        return Settled(self.z[at], self.stops[at], self.holds[at])


def settle(
    car: LoadedCar,
    demand: Demand,
    start: Settled | None = None,
    refine: tuple[int, ...] = REFINE,
    falls: Mask | None = None,
) -> Settled:
    """The states of a batch of demands (n,), stable ones only; `start` is where to look first.

    `falls` (n,) are the members that are followed from `start` across a jump, too; None for all.
    Where a state does not hold there is none: the car rolls over, stands on one axle, or flies.
    """
    size = max(demand.size, car.size, 1 if start is None else len(start.z))
    wanted = demand.spread(size)
    found = Settled(np.zeros((size, 7)), np.zeros((size, 4)), np.zeros(size, dtype=bool))
    if start is not None:
        _put(found, np.arange(size), _follow(car, wanted, start, 0, falls))
    for steps in refine:
        left = np.flatnonzero(~found.holds)
        if not len(left):
            break
        _put(found, left, _grow(car.of(left), wanted.of(left), steps))
    if start is None:
        _grow_again_where_loose(car, wanted, found)
    return found


def _grow_again_where_loose(car: LoadedCar, demand: Demand, found: Settled) -> None:
    """Where a coil came loose the car may have two states: the one it comes to as the demand grows counts."""
    if not car.may_come_loose.any():
        return
    loose = coils_loose(car, station_travel(car, found.z)).any(-1)
    at = np.flatnonzero(found.holds & loose)
    if len(at):
        grown = _grow(car.of(at), demand.of(at), GROWN)
        kept = np.flatnonzero(grown.holds)
        _put(found, at[kept], grown[kept])


def _put(found: Settled, at: Indexes, what: Settled) -> None:
    found.z[at], found.stops[at], found.holds[at] = what.z, what.stops, what.holds


def _follow(
    car: LoadedCar, demand: Demand, start: Settled, short: int, falls: Mask | None = None
) -> Settled:
    """Newton from a state, and across a jump where a coil comes loose before its wheel's droop stop.

    A loose coil carries nothing until the stop does: what has no state near by falls until it has one.
    """
    found = _newton(car, demand, start, short)
    may = np.broadcast_to(car.may_come_loose, found.holds.shape)
    lost = np.flatnonzero(~found.holds & may & (True if falls is None else falls))
    if len(lost):
        _put(found, lost, _fall(car.of(lost), demand.of(lost), start[lost]))
    return found


def _fall(car: LoadedCar, demand: Demand, start: Settled) -> Settled:
    """Let the car go from a state the way its forces push it, until it stands.

    Where a small push is answered by a force against it the step is Newton's; elsewhere it is one of
    a slow movement, an implicit step in time short enough to go the way the forces do.
    """
    z, stops = start.z.copy(), start.stops.copy()
    size = len(z)
    scale, inertia = _scales(car, size), _inertia(car, size)
    rho = np.broadcast_to(np.asarray(car.spring_rates, dtype=float), stops.shape)
    error, worst = _error(car, demand, z, stops, rho, scale)
    for _ in range(FALL_STEPS):
        going = np.flatnonzero((worst > CLOSE) & (np.abs(z).max(-1) < FALLEN))
        if not len(going):
            break
        some = car.of(going), demand.of(going)
        at = z[going], stops[going], rho[going]
        slope, _ = _slope(*some, *at)
        unstable = np.maximum(-_least_stiffness(*some, *at, inertia[going]), 0.0)
        slow = np.where(unstable > 0, np.maximum(2.0 * unstable, SLOWEST), 0.0)
        slope[:, range(7), range(7)] -= slow[:, None] * inertia[going]
        move = _move(slope, error[going])
        z[going] += move[:, :7]
        stops[going] += move[:, 7:]
        error[going], worst[going] = _error(*some, z[going], stops[going], at[2], scale[going])
    return _held(car, demand, Settled(z, stops, worst <= CLOSE), rho)


def _inertia(car: LoadedCar, size: int) -> Array:
    """What each position is moved against while the car falls (n, 7): rates of the size of its own."""
    springs = np.broadcast_to(np.asarray(car.spring_rates, dtype=float), (size, 4))
    body = (springs[..., None] * np.broadcast_to(levers(car), (size, 4, 3)) ** 2).sum(-2)
    return np.concatenate([body, np.broadcast_to(car.tyre_rates, (size, 4))], axis=-1)


def _grow(car: LoadedCar, demand: Demand, steps: int) -> Settled:
    """From standing to the demand in equal steps; one that finds no state ends there."""
    size, short = demand.size, SHORT_STEPS if steps > 4 else 0
    state = Settled(np.zeros((size, 7)), np.zeros((size, 4)), np.ones(size, dtype=bool))
    for step in range(1, steps + 1):
        going = np.flatnonzero(state.holds)
        if not len(going):
            break
        part = demand.of(going).grown(step / steps)
        _put(state, going, _follow(car.of(going), part, state[going], short))
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
    return _held(car, demand, Settled(z, stops, (worst <= CLOSE) & np.isfinite(worst)), rho)


def _held(car: LoadedCar, demand: Demand, found: Settled, rho: Array) -> Settled:
    """Of the states in balance, those that are stable hold."""
    ok = np.flatnonzero(found.holds)
    if len(ok):
        some = car.of(ok), demand.of(ok), found.z[ok], found.stops[ok], rho[ok]
        found.holds[ok] = _least_stiffness(*some) > 0
    return found


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
    weight = car.mass * STANDARD_GRAVITY
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


def _least_stiffness(
    car: LoadedCar, demand: Demand, z: Array, stops: Array, rho: Array, inertia: Array | None = None
) -> Array:
    """The least force that answers a small push, in any direction the stops leave (n,).

    Above zero the state is stable. It is told in parts of `inertia` (n, 7) where that is given.
    """
    slope, active = _slope(car, demand, z, stops, rho)
    by_place = _levers(car, len(z))[2]
    held = np.where(active, 1e3 * rho, 0.0)
    stiff = -slope[:, :7, :7] + np.swapaxes(by_place, -1, -2) @ (held[..., None] * by_place)
    reach = np.concatenate([[1.0], np.full(2, 2.0), np.ones(4)])
    scaled = reach if inertia is None else 1 / np.sqrt(inertia)
    found: Array = np.linalg.eigvals(stiff * scaled[..., None, :] * scaled[..., :, None]).real.min(
        -1
    )
    return found
