"""What is done to the car over time: roads under its wheels, and accelerations of the whole.

A road is a height [m] over distance [m]; each wheel meets it where it is. An action is a forward and
a sideways acceleration [m/s²] over time.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from math import pi

import numpy as np

from ..arrays import Array
from ..checks import above_zero
from ..errors import OutOfRange

Profile = Callable[[Array], Array]
Action = Callable[[float], tuple[float, float]]
"""Time [s] → forward and leftward acceleration [m/s²]."""


@dataclass(frozen=True)
class Road:
    """Heights [m] over distance [m] under the left and the right wheels."""

    left: Profile
    right: Profile

    @staticmethod
    def alike(profile: Profile) -> Road:
        return Road(profile, profile)


def flat(distance: Array) -> Array:
    """A level road."""
    return np.zeros_like(distance)


def sine(amplitude: float, wavelength: float) -> Profile:
    """A sine road [m]."""
    above_zero(wavelength=wavelength)
    return lambda distance: amplitude * np.sin(2 * pi * distance / wavelength)


def bump(height: float, length: float, start: float = 5.0) -> Profile:
    """One smooth bump: half a wave of a raised cosine [m]."""
    above_zero(length=length)

    def profile(distance: Array) -> Array:
        along = np.clip((distance - start) / length, 0.0, 1.0)
        rise: Array = height / 2 * (1 - np.cos(2 * pi * along))
        return rise

    return profile


def kerb(height: float, ramp: float, length: float, start: float = 5.0) -> Profile:
    """A kerb: up a ramp, along the top, down a ramp [m]."""
    above_zero(ramp=ramp, length=length)

    def profile(distance: Array) -> Array:
        up = np.clip((distance - start) / ramp, 0.0, 1.0)
        down = np.clip((distance - start - ramp - length) / ramp, 0.0, 1.0)
        rise: Array = height * (up - down)
        return rise

    return profile


ROUGHNESS = {"A": 16e-6, "B": 64e-6, "C": 256e-6, "D": 1024e-6, "E": 4096e-6}
"""Geometric mean displacement density at 0.1 cycles a metre [m³] by road class; ISO 8608."""


def rough(road_class: str, length: float, seed: int = 1) -> Profile:
    """A random road of an ISO 8608 class, waviness 2, from 0.05 to 5 cycles a metre.

    The same seed gives the same road: two settings are compared on one. It fades in over 10 m.
    """
    if road_class not in ROUGHNESS:
        raise OutOfRange(
            f"There is no road class “{road_class}”.",
            number="road_class",
            value=road_class,
            allowed=", ".join(ROUGHNESS),
        )
    above_zero(length=length)
    edges = np.geomspace(0.05, 5.0, 121)
    waves, widths = np.sqrt(edges[1:] * edges[:-1]), np.diff(edges)
    density = ROUGHNESS[road_class] * (waves / 0.1) ** -2.0
    size = np.sqrt(2 * density * widths)
    phase = np.random.default_rng(seed).uniform(0, 2 * pi, len(waves))
    at = np.arange(0.0, length + 0.02, 0.02)
    heights = (size * np.cos(2 * pi * waves * at[:, None] + phase)).sum(axis=1)
    heights *= np.clip(at / 10.0, 0.0, 1.0)
    return lambda distance: np.interp(distance, at, heights)


def steady(time: float) -> tuple[float, float]:
    """No acceleration at all."""
    return 0.0, 0.0


def ramp(
    forward: float = 0.0, leftward: float = 0.0, over: float = 0.2, start: float = 0.3
) -> Action:
    """Accelerations that come in a straight line over a time [s] and stay.

    Braking is a negative forward one, a launch a positive one, a steering step a leftward one.
    """
    above_zero(over=over)

    def action(time: float) -> tuple[float, float]:
        share = min(max((time - start) / over, 0.0), 1.0)
        return forward * share, leftward * share

    return action
