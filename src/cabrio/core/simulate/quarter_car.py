"""One corner of the car: body and wheel on one spring, damper and tyre (reference §11).

Den Hartog ch. 3 for the linear car; the tyre cannot pull, and bump and rebound damping may differ.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import pi

import numpy as np

from ..arrays import Array
from ..checks import above_zero
from ..constants import STANDARD_GRAVITY
from ..errors import OutOfRange
from . import roads
from .run import Progress, integrate
from .suspension import DamperLaw, Suspension

SAMPLES = 512


@dataclass(frozen=True)
class QuarterCar:
    """Sprung and unsprung mass [kg], wheel and tyre rate [N/m], damping at the wheel [N·s/m]."""

    sprung_mass: float
    unsprung_mass: float
    wheel_rate: float
    tyre_rate: float
    bump_damping: float
    rebound_damping: float

    def __post_init__(self) -> None:
        above_zero(
            sprung_mass=self.sprung_mass,
            unsprung_mass=self.unsprung_mass,
            wheel_rate=self.wheel_rate,
            tyre_rate=self.tyre_rate,
        )
        for name in ("bump_damping", "rebound_damping"):
            if not getattr(self, name) >= 0:
                raise OutOfRange(
                    "Damping cannot be below zero.", number=name, allowed="0 and above"
                )

    @property
    def weight(self) -> float:
        """What the tyre carries standing [N]."""
        return (self.sprung_mass + self.unsprung_mass) * STANDARD_GRAVITY

    @property
    def is_linear(self) -> bool:
        return self.bump_damping == self.rebound_damping

    def matrix(self, damping: float | None = None) -> Array:
        """State matrix of (body, wheel, their speeds), with one damping both ways [1/s]."""
        c = self.bump_damping if damping is None else damping
        k, kt, m, mu = self.wheel_rate, self.tyre_rate, self.sprung_mass, self.unsprung_mass
        return np.array(
            [
                [0, 0, 1, 0],
                [0, 0, 0, 1],
                [-k / m, k / m, -c / m, c / m],
                [k / mu, -(k + kt) / mu, c / mu, -c / mu],
            ]
        )

    def natural_frequencies(self) -> tuple[float, float]:
        """Of body and wheel together, undamped [Hz], ascending."""
        pairs = np.abs(np.linalg.eigvals(self.matrix(0.0)).imag)
        body, hop = np.sort(pairs)[::2] / (2 * pi)
        return float(body), float(hop)

    def modes(self) -> list[tuple[float, float]]:
        """Damped frequency [Hz] and ratio [-] of each mode that oscillates, ascending.

        With unequal damping the mean of both is taken.
        """
        mean = (self.bump_damping + self.rebound_damping) / 2
        roots = np.linalg.eigvals(self.matrix(mean))
        swinging = sorted((r for r in roots if r.imag > 1e-9), key=lambda r: r.imag)
        return [(float(r.imag) / (2 * pi), float(-r.real / abs(r))) for r in swinging]

    def answer(self, frequency: float) -> tuple[complex, complex]:
        """Body and wheel height over road height at a frequency [Hz], equal damping."""
        s = 2j * pi * frequency
        into = np.array([0, 0, 0, self.tyre_rate / self.unsprung_mass])
        body, wheel, *_ = np.linalg.solve(s * np.eye(4) - self.matrix(), into)
        return complex(body), complex(wheel)


@dataclass(frozen=True)
class SineRide:
    """The steady motion over a sine road. Loads [N]; variation = standard deviation / mean [-]."""

    road_frequency: float
    load_variation: float
    least_load: float
    mean_load: float
    leaves_ground: bool
    body_movement_ratio: float
    load_per_amplitude: float | None


def ride_sine(car: QuarterCar, amplitude: float, wavelength: float, speed: float) -> SineRide:
    """The steady motion over a sine road [m] at a speed [m/s].

    Linear and on the ground, from the transfer function; otherwise integrated, and the period found
    by shooting. Raises OutOfRange for what must be above zero.
    """
    above_zero(amplitude=amplitude, wavelength=wavelength, speed=speed)
    frequency = speed / wavelength
    if car.is_linear:
        body, wheel = car.answer(frequency)
        swing = abs(car.tyre_rate * (1 - wheel))
        if swing * amplitude < car.weight:
            least = car.weight - swing * amplitude
            variation = swing * amplitude / np.sqrt(2) / car.weight
            return SineRide(frequency, float(variation), least, car.weight, False, abs(body), swing)
    body_heights, loads = _periodic(car, amplitude, frequency)
    mean = float(loads.mean())
    return SineRide(
        frequency,
        float(loads.std() / mean),
        float(loads.min()),
        mean,
        bool(loads.min() <= 0),
        float(np.ptp(body_heights)) / (2 * amplitude),
        None,
    )


def _periodic(car: QuarterCar, amplitude: float, frequency: float) -> tuple[Array, Array]:
    """Body heights and tyre loads over one period of the settled motion."""
    period = 1 / frequency
    times = np.linspace(0.0, period, SAMPLES + 1)
    suspension = Suspension(
        car.wheel_rate, DamperLaw.straight(car.bump_damping, car.rebound_damping)
    )
    profile = roads.sine(amplitude, 1.0)
    rates = _motion(car, suspension, lambda time: float(profile(np.asarray(time * frequency))))

    def through(start: Array) -> Array:
        return integrate(rates, start, times, accuracy=1e-8, longest_step=period / 100)

    start = _linear_start(car, amplitude, frequency)
    for _ in range(12):
        path = through(start)
        miss = path[-1] - start
        if np.abs(miss / np.array([amplitude, amplitude, 1, 1])).max() < 1e-6:
            break
        size = np.array([1e-5, 1e-5, 1e-4, 1e-4]) * max(amplitude / 1e-3, 1.0)
        slope = np.stack(
            [(through(start + np.eye(4)[i] * size[i])[-1] - path[-1]) / size[i] for i in range(4)],
            axis=-1,
        )
        start = start + np.linalg.solve(np.eye(4) - slope, miss)
    else:  # a motion that never repeats itself over one period: let it settle instead
        for _ in range(40):
            path = through(path[-1])
    heights = path[:-1, :2]  # one period, its end left out
    return heights[:, 0], _loads(car, profile(times[:-1] * frequency), heights[:, 1])


def _motion(
    car: QuarterCar, suspension: Suspension, road: Callable[[float], float]
) -> Callable[[float, Array], list[float]]:
    """Rates of (body, wheel, their speeds) over a road height in time."""

    def rates(time: float, y: Array) -> list[float]:
        body, wheel, body_speed, wheel_speed = y.tolist()
        push = suspension.push(wheel - body, wheel_speed - body_speed)
        ground = max(car.tyre_rate * (road(time) - wheel), -car.weight)
        return [
            body_speed,
            wheel_speed,
            push / car.sprung_mass,
            (ground - push) / car.unsprung_mass,
        ]

    return rates


def _loads(car: QuarterCar, road: Array, wheel: Array) -> Array:
    return np.maximum(car.weight + car.tyre_rate * (road - wheel), 0.0)


def _linear_start(car: QuarterCar, amplitude: float, frequency: float) -> Array:
    """The state at time zero if damping were its mean both ways: a good place to begin."""
    mean = (car.bump_damping + car.rebound_damping) / 2
    even = QuarterCar(car.sprung_mass, car.unsprung_mass, car.wheel_rate, car.tyre_rate, mean, mean)
    s = 2j * pi * frequency
    heights = [amplitude * one for one in even.answer(frequency)]
    return np.array([*(h.imag for h in heights), *((s * h).imag for h in heights)])


@dataclass(frozen=True)
class Ride:
    """A motion in time: times [s], body and wheel heights [m], tyre loads [N], + up."""

    times: Array
    body: Array
    wheel: Array
    loads: Array

    @property
    def load_variation(self) -> float:
        """Standard deviation of the tyre load over its mean [-]: less is steadier grip."""
        return float(self.loads.std() / self.loads.mean())


def ride(
    car: QuarterCar,
    suspension: Suspension,
    road: roads.Profile,
    speed: float,
    duration: float,
    *,
    progress: Progress | None = None,
) -> Ride:
    """The corner over any road at a speed, on a suspension with its rubber, stop and damper curve."""
    times = np.arange(0.0, duration, 0.002)
    heights = road(times * speed)
    rates = _motion(car, suspension, lambda time: float(np.interp(time, times, heights)))
    states = integrate(rates, np.zeros(4), times, progress=progress)
    return Ride(times, states[:, 0], states[:, 1], _loads(car, heights, states[:, 1]))
