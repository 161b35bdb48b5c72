"""The whole car with seven degrees of freedom: heave, pitch, roll and four wheels (reference §11).

Everything counts from the standing car, + up; pitch + nose up, roll + left side up. Accelerations of
the whole act at once through the links (anti-dive, anti-squat, roll centres) and over the springs for
the rest, so that settled loads agree with the steady figures.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..checks import above_zero
from ..constants import STANDARD_GRAVITY
from ..errors import OutOfRange
from .roads import Action, Road, steady
from .run import Progress, integrate
from .suspension import Suspension

SAMPLE, FINE = 0.005, 0.0005
"""Time between answers, and between the road heights they are worked from [s]."""
FOOTPRINT = 0.1
"""Length of a tyre's contact with the road [m]."""
Push = Callable[[float, float], Array]
SIDE = np.array([1.0, -1.0, 1.0, -1.0])


@dataclass(frozen=True)
class FullCar:
    """Masses [kg], inertias about the sprung CG [kg·m²], lengths [m], rates [N/m]; corners (4,), axles (2,).

    `anti` are anti-dive at the front and anti-lift at the rear in braking, `anti_squat` the rear's in
    drive; zero leaves all of it to the springs. `shaft_arm` [m] is the torque of the propeller shaft on a
    live rear axle over the driving force: radius over final drive.
    """

    sprung_mass: float
    unsprung: Array
    pads: Array
    pitch_inertia: float
    roll_inertia: float
    wheelbase: float
    tracks: Array
    cg_height: float
    sprung_cg_height: float
    roll_centres: Array
    unsprung_cg_heights: Array
    suspensions: tuple[Suspension, ...]
    tyre_rates: Array
    bar_rates: Array
    anti_dive: Array
    anti_squat: float = 0.0
    shaft_arm: float = 0.0

    def __post_init__(self) -> None:
        above_zero(
            sprung_mass=self.sprung_mass,
            pitch_inertia=self.pitch_inertia,
            roll_inertia=self.roll_inertia,
            wheelbase=self.wheelbase,
            pads=self.pads,
            unsprung=self.unsprung,
            tracks=self.tracks,
            tyre_rates=self.tyre_rates,
        )

    @property
    def sprung_loads(self) -> Array:
        """What each spring carries standing, at the wheel [kg]."""
        loads: Array = self.pads - self.unsprung
        return loads

    @property
    def arms(self) -> Array:
        """Rows (1, x, y) from the sprung CG to each wheel (4, 3): x forward, y to the left."""
        rear = self.sprung_loads[2:].sum() / self.sprung_loads.sum()
        ahead = np.array([rear, rear, rear - 1, rear - 1]) * self.wheelbase
        left = np.repeat(self.tracks, 2) / 2 * SIDE
        offset = float((self.sprung_loads * left).sum() / self.sprung_loads.sum())
        return np.stack([np.ones(4), ahead, left - offset], axis=-1)


def estimated_inertias(
    sprung_mass: float, front: float, rear: float, track: float
) -> tuple[float, float]:
    """Pitch and roll inertia [kg·m²] where nobody measured them: m·a·b and m·(0.4·track)².

    Estimates: they move how quickly the body answers, not where it settles.
    """
    return sprung_mass * front * rear, sprung_mass * (0.4 * track) ** 2


@dataclass(frozen=True)
class Drive:
    """A motion in time. Heights and travels [m], angles [rad], loads [N]; rows are times, corners (…, 4).

    `beyond_damper` says whether a damper moved faster than it was measured.
    """

    times: Array
    heave: Array
    pitch: Array
    roll: Array
    travels: Array
    loads: Array
    beyond_damper: bool

    @property
    def load_variation(self) -> Array:
        """Standard deviation of each tyre's load over its mean [-] (4,): less is steadier grip."""
        variation: Array = self.loads.std(axis=0) / self.loads.mean(axis=0)
        return variation

    @property
    def off_the_ground(self) -> Array:
        """Share of the time that each tyre carries nothing [0..1] (4,)."""
        share: Array = (self.loads <= 0).mean(axis=0)
        return share


def drive(
    car: FullCar,
    road: Road,
    speed: float,
    duration: float,
    *,
    action: Action = steady,
    progress: Progress | None = None,
) -> Drive:
    """The car over a road at a speed [m/s] for a time [s], under an action.

    `progress` is called with the share done and may answer False, which raises Cancelled.
    """
    above_zero(duration=duration)
    if not (np.isfinite(speed) and speed >= 0):
        raise OutOfRange(
            "The speed cannot be below zero.", number="speed", value=speed, allowed="0 and above"
        )
    times = np.arange(0.0, duration + SAMPLE / 2, SAMPLE)
    heights = _ground(car, road, speed, duration)
    states = integrate(
        _motion(car, heights, action), np.zeros(14), times, progress=progress, accuracy=1e-3
    )
    body, wheels = states[:, :3], states[:, 3:7]
    under = np.stack(
        [np.interp(times, FINE * np.arange(len(heights)), heights[:, i]) for i in range(4)], axis=-1
    )
    loads = np.maximum(car.pads * STANDARD_GRAVITY + car.tyre_rates * (under - wheels), 0.0)
    fastest = np.abs(states[:, 10:] - states[:, 7:10] @ car.arms.T).max()
    measured = min(suspension.damper.measured_to for suspension in car.suspensions)
    return Drive(
        times,
        body[:, 0],
        body[:, 1],
        body[:, 2],
        wheels - body @ car.arms.T,
        loads,
        bool(fastest > measured),
    )


def _ground(car: FullCar, road: Road, speed: float, duration: float) -> Array:
    """Road heights under the four wheels on a fine grid of time (n, 4), level where the car stands.

    What a tyre's footprint cannot follow it does not feel: heights are averaged along it.
    """
    count = int(duration / FINE) + 2
    front = speed * FINE * np.arange(count)
    columns = []
    for distance in (front, front - car.wheelbase):
        spots = distance[:, None] + np.linspace(-FOOTPRINT / 2, FOOTPRINT / 2, 5)
        for profile in (road.left, road.right):
            columns.append(profile(spots).mean(axis=1))
    heights = np.stack(columns, axis=-1)
    level: Array = heights - heights[0]
    return level


def _motion(car: FullCar, heights: Array, action: Action) -> Callable[[float, Array], list[float]]:
    """Rates of body (heave, pitch, roll), wheels, and the speeds of both.

    Plain floats on purpose: see `suspension`.
    """
    ground, last = heights.tolist(), len(heights) - 2
    arms = car.arms.tolist()
    half_bars = (0.5 * car.bar_rates).tolist()
    tyres, unsprung = car.tyre_rates.tolist(), car.unsprung.tolist()
    at_rest = (car.pads * STANDARD_GRAVITY).tolist()
    inertia = [car.sprung_mass, car.pitch_inertia, car.roll_inertia]
    tipping = car.sprung_mass * STANDARD_GRAVITY * _roll_arm(car)
    body_from, wheels_from = _actions(car)
    wheel_numbers = range(4)

    def rates(time: float, y: Array) -> list[float]:
        state = y.tolist()
        heave, pitch, roll = state[:3]
        heave_speed, pitch_speed, roll_speed = state[7:10]
        grid = min(int(time / FINE), last)
        along = time / FINE - grid
        before, after = ground[grid], ground[grid + 1]
        travels, pushes, out = [], [], [0.0] * 14
        for i in wheel_numbers:
            _, ahead, left = arms[i]
            travel = state[3 + i] - heave - ahead * pitch - left * roll
            speed = state[10 + i] - heave_speed - ahead * pitch_speed - left * roll_speed
            travels.append(travel)
            pushes.append(car.suspensions[i].push(travel, speed))
        for axle in (0, 1):
            twist = half_bars[axle] * (travels[2 * axle] - travels[2 * axle + 1])
            pushes[2 * axle] += twist
            pushes[2 * axle + 1] -= twist
        force = [sum(pushes), 0.0, tipping * roll]
        for i in wheel_numbers:
            force[1] += arms[i][1] * pushes[i]
            force[2] += arms[i][2] * pushes[i]
            road = before[i] + (after[i] - before[i]) * along
            # a tyre cannot pull: at the least it carries nothing
            load = max(tyres[i] * (road - state[3 + i]), -at_rest[i])
            out[10 + i] = (load - pushes[i]) / unsprung[i]
        forward, leftward = action(time)
        if forward or leftward:
            for i, extra in enumerate(body_from(forward, leftward)):
                force[i] += extra
            for i, extra in enumerate(wheels_from(forward, leftward)):
                out[10 + i] += extra / unsprung[i]
        out[:7] = state[7:]
        out[7:10] = [f / m for f, m in zip(force, inertia, strict=True)]
        return out

    return rates


def _roll_arm(car: FullCar) -> float:
    """Sprung CG above the roll axis at its own station [m]."""
    rear = car.sprung_loads[2:].sum() / car.sprung_loads.sum()
    return float(
        car.sprung_cg_height - car.roll_centres[0] * (1 - rear) - car.roll_centres[1] * rear
    )


def _actions(car: FullCar) -> tuple[Push, Push]:
    """What accelerations push on the body (heave, pitch, roll) and on the wheels, as two functions."""
    total = float(car.pads.sum())
    arms = car.arms
    sprung_axle = np.array([car.sprung_loads[:2].sum(), car.sprung_loads[2:].sum()])
    unsprung_axle = np.array([car.unsprung[:2].sum(), car.unsprung[2:].sum()])
    links = sprung_axle * car.roll_centres / car.tracks
    wheels = unsprung_axle * car.unsprung_cg_heights / car.tracks
    overturning = float(sprung_axle.sum()) * _roll_arm(car)

    def torque(forward: float) -> float:
        """Of the shaft on the axle, turning clockwise seen from the front [N·m]; none in braking."""
        return total * max(forward, 0.0) * car.shaft_arm

    def carried(forward: float) -> tuple[Array, Array]:
        """Per wheel: load that inertia puts on the body's ends, and what the links take of it [N]."""
        moved = total * forward * car.cg_height / car.wheelbase / 2
        onto = np.array([-moved, -moved, moved, moved])
        share = (
            np.repeat(car.anti_dive, 2) if forward < 0 else np.array([0, 0, 1, 1]) * car.anti_squat
        )
        return onto, onto * share

    def body(forward: float, leftward: float) -> Array:
        onto, by_links = carried(forward)
        force: Array = arms.T @ (by_links - onto)
        # turning left throws the body to the right: its left side comes up
        force[2] += overturning * leftward
        # the engine's mounts take the shaft's torque: the body's left side comes up
        force[2] += torque(forward)
        return force

    def on_wheels(forward: float, leftward: float) -> Array:
        _, by_links = carried(forward)
        across: Array = np.repeat((links + wheels) * leftward, 2) * SIDE
        # what the links press down is carried by the tyre at once; the shaft presses the left rear down
        across[2:] -= torque(forward) / car.tracks[1] * SIDE[2:]
        return -by_links + across

    return body, on_wheels
