"""Ride frequency both ways: what the car has, and the spring a target asks for (reference §2).

Two conventions: the tyre left out (k = k_w), or in series under the suspension (k = k_r). A figure
says which. Both are single-mass figures; the two-mass car's own differ by up to 5 %.
"""

from __future__ import annotations

from math import pi

import numpy as np

from ..errors import Impossible
from ..quantities import Shape
from ..registry import Array, Mask, figure
from .shapes import axle_mean, refuse, spread

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 16"


def frequency_of(rate: Array, mass: Array) -> Array:
    """Natural frequency of one mass on one rate [Hz]."""
    return np.sqrt(rate / mass) / (2 * pi)


@figure(label="Ride frequency", quantity="frequency", shape=Shape.CORNER,
        formula="f = √(k_w / m_sprung) / 2π", source=RCVD)  # fmt: skip
def ride_frequency(wheel_rate: Array, sprung_mass: Array) -> Array:
    """Natural frequency of the sprung corner on its spring, tyre left out [Hz]."""
    return frequency_of(wheel_rate, sprung_mass)


@figure(label="Ride frequency on the tyre", quantity="frequency", shape=Shape.CORNER,
        formula="f = √(k_r / m_sprung) / 2π", source=RCVD)  # fmt: skip
def ride_frequency_on_tyre(ride_rate: Array, sprung_mass: Array) -> Array:
    """Natural frequency of the sprung corner on spring and tyre in series [Hz]."""
    return frequency_of(ride_rate, sprung_mass)


@figure(label="Axle frequency", quantity="frequency", shape=Shape.AXLE,
        formula="f = √(Σk / Σm_sprung) / 2π,  k = k_w or k_r by the convention chosen",
        source=RCVD)  # fmt: skip
def axle_frequency(
    wheel_rate: Array, ride_rate: Array, sprung_mass: Array, tyre_in_series: Array
) -> Array:
    """Ride frequency of both corners of an axle together, in the convention chosen [Hz]."""
    rate = np.where(spread(tyre_in_series) > 0.5, ride_rate, wheel_rate)
    return frequency_of(axle_mean(rate), axle_mean(sprung_mass))


@figure(label="Rear over front", quantity="ratio", shape=Shape.CAR, formula="f_rear / f_front",
        source=RCVD)  # fmt: skip
def frequency_ratio(axle_frequency: Array) -> Array:
    """Rear ride frequency over front [-].

    Two schools: 1.10 to 1.20 for a flat ride over bumps; below 1.00 for platform and turn-in.
    """
    return axle_frequency[..., 1] / axle_frequency[..., 0]


@figure(label="Target rear over front", quantity="ratio", shape=Shape.CAR,
        formula="target rear / target front", source=RCVD)  # fmt: skip
def target_ratio(target_frequency: Array) -> Array:
    """The two target frequencies, rear over front [-]."""
    return target_frequency[..., 1] / target_frequency[..., 0]


@figure(label="Wheel rate the target asks for", quantity="rate", shape=Shape.AXLE,
        formula="k = (2πf)²·m_sprung;  tyre in series: k_w = k·k_t / (k_t − k)",
        source=RCVD)  # fmt: skip
def target_wheel_rate(
    target_frequency: Array, sprung_mass: Array, tyre_rate: Array, tyre_in_series: Array
) -> Array:
    """Wheel rate per corner that gives the axle its target frequency [N/m].

    Refused where the tyre is in series and the wanted ride rate reaches the tyre's own: no spring
    can give it.
    """
    return wheel_rate_for(
        target_frequency, axle_mean(sprung_mass), axle_mean(tyre_rate), spread(tyre_in_series) > 0.5
    )


@figure(label="Spring the target asks for", quantity="rate", shape=Shape.AXLE,
        formula="k_s = (k_w − F_s·MR′·cos α) / (MR·cos α)²", source=RCVD)  # fmt: skip
def target_spring_rate(
    target_wheel_rate: Array,
    spring_motion_ratio: Array,
    spring_force: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
) -> Array:
    """Spring rate that gives the axle its target frequency, left and right alike [N/m].

    Refused where a rising motion ratio alone gives more than the wanted rate.
    """
    rising = axle_mean(spring_force * motion_ratio_slope * np.cos(spring_angle))
    return spring_rate_for(target_wheel_rate, axle_mean(spring_motion_ratio**2), rising)


def wheel_rate_for(
    frequency: Array, sprung_mass: Array, tyre_rate: Array, tyre_in_series: Mask
) -> Array:
    """Wheel rate for a frequency [N/m]; shapes broadcast. Raises Impossible beyond the tyre."""
    wanted = (2 * pi * frequency) ** 2 * sprung_mass
    short = np.asarray(tyre_in_series & (wanted >= tyre_rate))
    if short.any():
        ceiling = np.broadcast_to(frequency_of(tyre_rate, sprung_mass), short.shape)
        at = int(np.argmax(short.reshape(-1)))
        axle = ("front", "rear")[at % 2] if short.shape[-1:] == (2,) else "car"
        limit = float(ceiling.reshape(-1)[at])
        raise Impossible(
            f"{axle}: the tyre alone gives {limit:.2f} Hz, so no spring reaches this target with "
            f"the tyre in series: aim below {limit:.2f} Hz or leave the tyre out.",
            number="target_frequency", place=axle, allowed=f"below {limit:.2f} Hz",
        )  # fmt: skip
    room = np.where(tyre_in_series, tyre_rate - wanted, 1.0)
    return np.where(tyre_in_series, wanted * tyre_rate / room, wanted)


def spring_rate_for(wheel_rate: Array, ratio_squared: Array, rising: Array) -> Array:
    """Spring rate for a wheel rate [N/m]; `rising` is F_s·MR′·cos α. Raises Impossible if none."""
    rate = (wheel_rate - rising) / ratio_squared
    sentence = "the rising motion ratio alone gives more than the wanted rate: aim higher."
    if np.shape(rate)[-1:] == (2,):
        refuse(rate <= 0, Shape.AXLE, "target_frequency", sentence)
    elif np.any(rate <= 0):
        raise Impossible(sentence, number="target_frequency")
    return rate
