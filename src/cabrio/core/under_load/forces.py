"""The forces of a loaded state: what springs, stops, bars and tyres do, and what comes from outside.

Positions z are (…, 7): the body's heave [m], pitch (+ nose up) and roll (+ left side up) [rad], then
each wheel's height [m], all counted from standing. A leading dimension may carry a batch.
Source: Milliken & Milliken, Race Car Vehicle Dynamics, ch. 5, 16-18; Gillespie, ch. 1, 3, 6, 7.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..constants import STANDARD_GRAVITY as G
from ..figures.shapes import at_corners, axle_sum
from ..graph.registry import Mask
from .car import LoadedCar
from .demand import Demand

LEFT = np.array([1.0, -1.0])
"""Up on the left wheel and down on the right, or the other way."""


def body_at(car: LoadedCar, z: Array) -> Array:
    """Rise of the body over each wheel (…, 4) [m]."""
    x, y = car.places[..., 0], car.places[..., 1]
    return z[..., 0:1] + x * z[..., 1:2] + y * z[..., 2:3]


def wheel_travel(car: LoadedCar, z: Array) -> Array:
    """Travel of each wheel against the body, + bump (…, 4) [m]."""
    return z[..., 3:] - body_at(car, z)


def times(matrix: Array, vector: Array) -> Array:
    """A matrix for each member of a batch, times its vector."""
    return (matrix @ vector[..., None])[..., 0]


def station_travel(car: LoadedCar, z: Array) -> Array:
    """Travel at the springs (…, 4) [m]."""
    return times(car.stations, wheel_travel(car, z))


def coil_compression(car: LoadedCar, travel: Array) -> Array:
    """Compression of each coil from loose [m], along the spring."""
    standing = car.standing / (car.ratios * car.spring_rates)
    return standing + car.ratios * travel + 0.5 * car.ratio_slopes * travel**2


def coils_loose(car: LoadedCar, travel: Array) -> Mask:
    """Where the wheel is stopped in droop, a coil cannot pull; without a stop it is held at both ends."""
    loose: Mask = (coil_compression(car, travel) < 0) & np.isfinite(car.droop)
    return loose


def spring_forces(car: LoadedCar, travel: Array) -> Array:
    """Force of coil and rubber at each station (…, 4) [N]."""
    ratio = car.ratios + car.ratio_slopes * travel
    force = np.where(
        coils_loose(car, travel), 0.0, car.spring_rates * coil_compression(car, travel) * ratio
    )
    for corner in range(4):
        if (pressing := car.pressing(corner, travel)) is not None:
            rubber, squeezed = pressing
            force[..., corner] += rubber.force(squeezed)
    return force


def hanging_forces(car: LoadedCar, z: Array, stops: Array) -> Array:
    """What the suspension presses down on each wheel, and up on the body over it (…, 4) [N].

    `stops` are the forces of the stops at the stations, + at the bump stop, − at the droop stop.
    """
    travel = wheel_travel(car, z)
    at_stations = spring_forces(car, times(car.stations, travel)) + stops
    force = times(np.swapaxes(car.stations, -1, -2), at_stations)
    twist = travel[..., 0::2] - travel[..., 1::2]
    bars = (0.5 * car.bar_rates * twist)[..., None] * LEFT
    found: Array = force + bars.reshape(*bars.shape[:-2], 4)
    return found


def unlifted(car: LoadedCar, z: Array) -> Array:
    """Load of each wheel on the ground if the tyre could pull (…, 4) [N]: below zero it is off."""
    return np.asarray(car.pads) * G - car.tyre_rates * z[..., 3:]


def contact_loads(car: LoadedCar, z: Array) -> Array:
    """Load of each wheel on the ground (…, 4) [N]."""
    return np.maximum(unlifted(car, z), 0.0)


@dataclass(frozen=True)
class Outside:
    """Loads that come from outside the suspension, in one state [N, N·m]."""

    heights: Array | None
    downforce: Array
    drag: Array
    tyres_along: Array
    """Force of all tyres together along the car: drives above zero, brakes below."""
    transfer: Array
    """T: what the body presses onto the rear axle and takes off the front."""
    links: Array
    """What the links lift the body by at each axle (…, 2); the wheels are pressed by as much."""
    jacking: Array
    couples: Array
    """Sideways couple of each pair of wheels (…, 2) [N·m]: a_y + g·ψ by the two parts below."""
    geometric: Array
    unsprung: Array
    torque: Array
    roll_couple: Array

    def on_wheels(self, car: LoadedCar) -> Array:
        """Upward on each wheel (…, 4) [N]."""
        pressed = at_corners((self.links + self.jacking) / 2)
        pair = (self.couples / car.tracks)[..., None] * LEFT
        shaft = np.zeros_like(pair)
        shaft[..., 1, :] = -(self.torque / np.asarray(car.tracks)[..., 1])[..., None] * LEFT
        found: Array = -pressed + (pair + shaft).reshape(*pair.shape[:-2], 4)
        return found

    def on_body(self, car: LoadedCar) -> Array:
        """Upward force [N], nose-up and left-up moments [N·m] on the body (…, 3)."""
        up = self.links + self.jacking - self.downforce + self.transfer[..., None] * LEFT
        ahead = car.places[..., 0::2, 0]
        return np.stack([up.sum(-1), (ahead * up).sum(-1), self.roll_couple + self.torque], axis=-1)


def outside(car: LoadedCar, demand: Demand, z: Array) -> Outside:
    """The outside loads in a state, with what the state itself changes of them."""
    along, sideways = np.asarray(demand.along), np.asarray(demand.sideways)
    body = body_at(car, z)
    heights = None if car.heights is None else car.heights + body
    downforce, drag = np.zeros((*body.shape[:-1], 2)), np.zeros(body.shape[:-1])
    drag_height: float | Array = 0.0
    if car.air is not None:
        pressure = 0.5 * car.air.density * np.asarray(demand.speed) ** 2
        mean = None if heights is None else axle_sum(heights) / 2
        lift, area = car.air.at(mean)
        downforce, drag = downforce + pressure[..., None] * lift, drag + pressure * area
        drag_height = np.asarray(car.air.drag_height)
    tyres = car.mass * along + drag
    rise = z[..., 0] + (car.sprung_place * z[..., 1:3]).sum(-1)
    transfer = (
        along * (car.mass * car.cg_height + car.sprung_mass * rise) + drag * drag_height
    ) / car.wheelbase
    anti = np.where((tyres < 0)[..., None], car.anti_braking, car.anti_driving)
    links = anti * (tyres * car.cg_height / car.wheelbase)[..., None] * -LEFT
    loads = contact_loads(car, z)
    sums = axle_sum(loads)
    onto_right = loads[..., 1::2] - loads[..., 0::2]
    share = np.divide(onto_right, sums, out=np.zeros_like(sums), where=sums > 0)
    jacking = np.where(
        car.beam,
        0.0,
        2 * car.roll_centres / car.tracks * car.axle_mass * sideways[..., None] * share,
    )
    tilt = (z[..., 3::2] - z[..., 4::2]) / car.tracks
    leaning = sideways[..., None] + G * tilt
    geometric = leaning * car.axle_sprung * car.roll_centres
    unsprung = leaning * car.axle_unsprung * car.unsprung_heights
    return Outside(
        heights,
        downforce,
        drag,
        tyres,
        transfer,
        links,
        jacking,
        geometric + unsprung,
        geometric,
        unsprung,
        shaft_torque(car, demand, tyres),
        car.sprung_mass * (car.arm + rise) * (sideways + G * z[..., 2]),
    )


def shares(car: LoadedCar, tyres: Array) -> Array:
    """Parts of the force along that the axles have, braking or driving (…, 2)."""
    rear = np.where(tyres < 0, car.brake_rear, car.drive_rear)
    return np.stack([1 - rear, rear], axis=-1)


def shaft_torque(car: LoadedCar, demand: Demand, tyres: Array) -> Array:
    """Torque of the shaft on the rear axle [N·m], + clockwise seen from the front."""
    shaft = demand.shaft
    if shaft is None:
        return np.zeros_like(tyres)
    if shaft.torque is not None:
        return np.full_like(tyres, shaft.sign * shaft.torque)
    driving = np.maximum(tyres, 0.0) * car.drive_rear
    return shaft.sign * driving * shaft.radius / shaft.final_drive


def unbalanced(car: LoadedCar, demand: Demand, z: Array, stops: Array) -> Array:
    """What is not in balance in a state (…, 7): on the body [N, N·m, N·m], then on each wheel [N]."""
    load = outside(car, demand, z)
    carried = hanging_forces(car, z, stops) - car.sprung * G
    x, y = car.places[..., 0], car.places[..., 1]
    body = np.stack(
        [carried.sum(-1), (x * carried).sum(-1), (y * carried).sum(-1)], axis=-1
    ) + load.on_body(car)
    wheels = contact_loads(car, z) - np.asarray(car.pads) * G - carried + load.on_wheels(car)
    return np.concatenate([body, wheels], axis=-1)
