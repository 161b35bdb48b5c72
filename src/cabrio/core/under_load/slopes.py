"""How the forces of a loaded state change with its positions: what Newton's method goes by."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..constants import STANDARD_GRAVITY as G
from ..figures.shapes import at_corners, axle_sum
from .car import LoadedCar
from .demand import Demand
from .forces import (
    LEFT,
    body_at,
    coil_compression,
    coils_loose,
    contact_loads,
    unlifted,
    wheel_travel,
)

STEP = 1e-7
"""Step in height for the slopes of an aero map [m]."""


def levers(car: LoadedCar) -> Array:
    """Rows (1, x, y) of each wheel (…, 4, 3): the body's rise over it from heave, pitch and roll."""
    found: Array = np.concatenate([np.ones((*car.places.shape[:-1], 1)), car.places], axis=-1)
    return found


def travel_slope(car: LoadedCar, size: int) -> Array:
    """Travel of the wheels by position (n, 4, 7)."""
    rows = np.broadcast_to(levers(car), (size, 4, 3))
    return np.concatenate([-rows, np.broadcast_to(np.eye(4), (size, 4, 4))], axis=-1)


def stiffness(car: LoadedCar, z: Array) -> Array:
    """What the suspension presses by travel of the wheels (n, 4, 4) [N/m]: springs, rubbers, bars."""
    travel = np.einsum("...ij,...j->...i", car.stations, wheel_travel(car, z))
    ratio = car.ratios + car.ratio_slopes * travel
    coil = car.spring_rates * (ratio**2 + coil_compression(car, travel) * car.ratio_slopes)
    rates = np.where(coils_loose(car, travel), 0.0, coil)
    for corner in range(4):
        if (pressing := car.pressing(corner, travel)) is not None:
            rubber, squeezed = pressing
            rates[..., corner] += rubber.rate(squeezed)
    found: Array = np.swapaxes(car.stations, -1, -2) @ (rates[..., None] * car.stations)
    for axle in (0, 1):
        pair = slice(2 * axle, 2 * axle + 2)
        half = 0.5 * np.asarray(car.bar_rates)[..., axle, None, None]
        found[..., pair, pair] += half * np.outer(LEFT, LEFT)
    return found


def slopes(car: LoadedCar, demand: Demand, z: Array) -> Array:
    """How what is unbalanced changes with position (n, 7, 7); the stops' own part left out."""
    size = len(z)
    carried = stiffness(car, z) @ travel_slope(car, size)
    rows = np.broadcast_to(levers(car), (size, 4, 3))
    found = np.concatenate([np.swapaxes(rows, -1, -2) @ carried, -carried], axis=1)
    wheels = np.arange(3, 7)
    tyres = np.where(unlifted(car, z) > 0, car.tyre_rates, 0.0)
    found[:, wheels, wheels] -= tyres
    rise = np.zeros((size, 7))
    rise[:, 0], rise[:, 1:3] = 1.0, car.sprung_place
    _along(car, demand, rise, found)
    _across(car, demand, z, rise, found)
    _jacking(car, demand, z, tyres, found)
    if car.air is not None and car.air.map is not None and car.heights is not None:
        _air(car, demand, z, found)
    return found


def _along(car: LoadedCar, demand: Demand, rise: Array, found: Array) -> None:
    """The transfer grows as the sprung mass rises."""
    found[:, 1] += (np.asarray(demand.along) * car.sprung_mass)[..., None] * rise


def _across(car: LoadedCar, demand: Demand, z: Array, rise: Array, found: Array) -> None:
    """The overturning of the body, and of each pair of wheels that leans."""
    leaning = np.asarray(demand.sideways) + G * z[:, 2]
    found[:, 2] += (car.sprung_mass * leaning)[:, None] * rise
    found[:, 2, 2] += G * car.sprung_mass * (car.arm + (rise * z).sum(-1))
    moment = G * (car.axle_sprung * car.roll_centres + car.axle_unsprung * car.unsprung_heights)
    pair = moment / np.asarray(car.tracks) ** 2
    for axle in (0, 1):
        wheels = slice(3 + 2 * axle, 5 + 2 * axle)
        found[:, wheels, wheels] += np.asarray(pair[..., axle])[..., None, None] * np.outer(
            LEFT, LEFT
        )


def _jacking(car: LoadedCar, demand: Demand, z: Array, tyres: Array, found: Array) -> None:
    """Jacking follows the share of the load on the outer wheel."""
    sums, loads = axle_sum(contact_loads(car, z)), contact_loads(car, z)
    size = np.where(car.beam, 0.0, 2 * car.roll_centres / car.tracks * car.axle_mass)
    size = size * np.asarray(demand.sideways)[..., None]
    held = np.where(sums > 0, sums, np.inf)
    other = loads.reshape(-1, 2, 2)[..., ::-1].reshape(-1, 4)
    sign = np.array([-1.0, 1.0, -1.0, 1.0])
    by_wheel = at_corners(size) * sign * 2 * other / at_corners(held) ** 2 * -tyres
    ahead = np.broadcast_to(car.places[..., 0::2, 0], (len(z), 2))
    for axle in (0, 1):
        wheels = slice(3 + 2 * axle, 5 + 2 * axle)
        lift = by_wheel[:, 2 * axle : 2 * axle + 2]
        found[:, 0, wheels] += lift
        found[:, 1, wheels] += ahead[:, axle, None] * lift
        found[:, wheels, wheels] -= 0.5 * lift[:, None, :]


def _air(car: LoadedCar, demand: Demand, z: Array, found: Array) -> None:
    """An aero map's forces follow the heights of both axles."""
    assert car.air is not None and car.heights is not None
    mean = axle_sum(car.heights + body_at(car, z)) / 2
    pressure = 0.5 * car.air.density * np.asarray(demand.speed) ** 2
    lift, drag = car.air.at(mean)
    ahead = np.broadcast_to(car.places[..., 0::2, 0], mean.shape)
    for axle in (0, 1):
        more_lift, more_drag = car.air.at(mean + STEP * np.eye(2)[axle])
        down = pressure[:, None] * (more_lift - lift) / STEP
        pull = pressure * (more_drag - drag) / STEP * np.asarray(car.air.drag_height)
        by_height = np.stack([-down.sum(-1), pull - (ahead * down).sum(-1)], axis=-1)
        place = np.stack([np.ones(len(z)), ahead[:, axle]], axis=-1)
        found[:, :2, :2] += by_height[:, :, None] * place[:, None, :]
