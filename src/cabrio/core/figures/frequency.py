"""Ride frequency both ways: what the car has, and the spring a target asks for (reference §2).

Two conventions: the tyre left out (k = k_w), or in series under the suspension (k = k_r). A figure
says which. Both are single-mass figures: with the tyre left out a car on its tyres swings slower, by
10 to 36 % on stiff springs; in series they come within some 5 % of the two-mass car.
"""

from __future__ import annotations

from math import pi

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..errors import Impossible
from ..graph.registry import figure
from .shapes import axle_mean, refuse

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 16"


def frequency_of(rate: Array, mass: Array) -> Array:
    """Natural frequency of one mass on one rate [Hz]."""
    return np.sqrt(rate / mass) / (2 * pi)


@figure(
    label="Ride frequency",
    quantity="frequency",
    shape=Shape.CORNER,
    formula="f = √(k_w / m_sprung) / 2π",
    source=RCVD,
)
def ride_frequency(wheel_rate: Array, sprung_mass: Array) -> Array:
    """Natural frequency of the sprung corner on its spring, tyre left out [Hz].

    Wrong against the car on its tyres, whose body swings slower: by 10 % on soft springs, by a third
    where the wheel rate comes near the tyre's.

    >>> found = ride_frequency(
    ...     np.array([3.2e4, 3.2e4, 3.2e4, 3.2e4]),
    ...     np.array([270.0, 220.0, 170.0, 220.0]),
    ... )
    >>> np.round(found, 3).tolist()
    [1.733, 1.919, 2.184, 1.919]
    """
    return frequency_of(wheel_rate, sprung_mass)


@figure(
    label="Ride frequency on the tyre",
    quantity="frequency",
    shape=Shape.CORNER,
    formula="f = √(k_r / m_sprung) / 2π",
    source=RCVD,
)
def ride_frequency_on_tyre(ride_rate: Array, sprung_mass: Array) -> Array:
    """Natural frequency of the sprung corner on spring and tyre in series [Hz].

    Wrong at another tyre pressure than the tyre rate was taken at.

    >>> found = ride_frequency_on_tyre(
    ...     np.array([2.759e4, 2.759e4, 2.759e4, 2.759e4]),
    ...     np.array([270.0, 220.0, 170.0, 220.0]),
    ... )
    >>> np.round(found, 3).tolist()
    [1.609, 1.782, 2.028, 1.782]
    """
    return frequency_of(ride_rate, sprung_mass)


@figure(
    label="Axle frequency",
    quantity="frequency",
    shape=Shape.AXLE,
    formula="f = √(Σk_w / Σm_sprung) / 2π",
    source=RCVD,
)
def axle_frequency(wheel_rate: Array, sprung_mass: Array) -> Array:
    """Ride frequency of both corners of an axle together, tyre left out [Hz]: the usual bands' own.

    Wrong where left and right differ much: the corners then swing each for itself.

    >>> found = axle_frequency(
    ...     np.array([3.2e4, 3.2e4, 3.2e4, 3.2e4]),
    ...     np.array([270.0, 220.0, 170.0, 220.0]),
    ... )
    >>> np.round(found, 3).tolist()
    [1.819, 2.039]
    """
    return frequency_of(axle_mean(wheel_rate), axle_mean(sprung_mass))


@figure(
    label="Axle frequency on the tyre",
    quantity="frequency",
    shape=Shape.AXLE,
    formula="f = √(Σk_r / Σm_sprung) / 2π",
    source=RCVD,
)
def axle_frequency_on_tyre(ride_rate: Array, sprung_mass: Array) -> Array:
    """Ride frequency of both corners of an axle together, tyre in series [Hz].

    Wrong where left and right differ much: the corners then swing each for itself.

    >>> found = axle_frequency_on_tyre(
    ...     np.array([2.759e4, 2.759e4, 2.759e4, 2.759e4]),
    ...     np.array([270.0, 220.0, 170.0, 220.0]),
    ... )
    >>> np.round(found, 3).tolist()
    [1.689, 1.893]
    """
    return frequency_of(axle_mean(ride_rate), axle_mean(sprung_mass))


@figure(
    label="Rear over front",
    quantity="proportion",
    shape=Shape.CAR,
    formula="f_rear / f_front",
    source=RCVD,
)
def frequency_ratio(axle_frequency: Array) -> Array:
    """Rear ride frequency over front [-].

    Two schools: 1.10 to 1.20 for a flat ride over bumps; below 1.00 for platform and turn-in.

    Wrong as flat ride at another speed: the two swings meet at one speed only.

    >>> np.round(frequency_ratio(np.array([1.819, 2.039])), 3).tolist()
    1.121
    """
    return axle_frequency[..., 1] / axle_frequency[..., 0]


@figure(
    label="Flat ride at",
    quantity="speed",
    shape=Shape.CAR,
    formula="v = L / (1/f_front − 1/f_rear)",
    source="Gillespie, ch. 5, after Olley",
)
def flat_ride_speed(wheelbase: Array, axle_frequency: Array) -> Array:
    """Speed at which both ends finish their first swing after a bump together [m/s].

    Refused where the rear is not quicker than the front: it then never catches up. Wrong with
    dampers so strong that there is no first swing to speak of.

    >>> np.round(flat_ride_speed(2.5, np.array([1.819, 2.039])), 2).tolist()
    42.15
    """
    lag = 1 / axle_frequency[..., 0] - 1 / axle_frequency[..., 1]
    refuse(
        lag <= 0,
        Shape.CAR,
        "target_frequency",
        "the rear is not quicker than the front: it never catches up with it.",
    )
    return wheelbase / lag


@figure(
    label="Target rear over front",
    quantity="proportion",
    shape=Shape.CAR,
    formula="target rear / target front",
    source=RCVD,
)
def target_ratio(target_frequency: Array) -> Array:
    """The two target frequencies, rear over front [-].

    Wrong as what the car has: it is what was asked for.

    >>> np.round(target_ratio(np.array([1.5, 2.0])), 3).tolist()
    1.333
    """
    return target_frequency[..., 1] / target_frequency[..., 0]


@figure(
    label="Wheel rate the target asks for",
    quantity="rate",
    shape=Shape.AXLE,
    formula="k_w = (2πf)²·m_sprung",
    source=RCVD,
)
def target_wheel_rate(target_frequency: Array, sprung_mass: Array) -> Array:
    """Wheel rate per corner that gives the axle its target frequency, tyre left out [N/m].

    Wrong on tyres so soft that body and wheel move together.

    >>> found = target_wheel_rate(np.array([1.5, 2.0]), np.array([270.0, 220.0, 170.0, 220.0]))
    >>> np.round(found, 0).tolist()
    [21762.0, 30793.0]
    """
    return (2 * pi * target_frequency) ** 2 * axle_mean(sprung_mass)


@figure(
    label="Wheel rate the target asks for, on the tyre",
    quantity="rate",
    shape=Shape.AXLE,
    formula="k = (2πf)²·m_sprung,  k_w = k·k_t / (k_t − k)",
    source=RCVD,
)
def target_wheel_rate_on_tyre(
    target_frequency: Array, sprung_mass: Array, tyre_rate: Array
) -> Array:
    """Wheel rate per corner that gives the axle its target frequency, tyre in series [N/m].

    Refused where the wanted ride rate reaches the tyre's own: no spring can give it.

    Wrong where the tyre rate is a guess: it stands in both terms.

    >>> found = target_wheel_rate_on_tyre(
    ...     np.array([1.5, 2.0]),
    ...     np.array([270.0, 220.0, 170.0, 220.0]),
    ...     np.array([2e5, 2e5, 2e5, 2e5]),
    ... )
    >>> np.round(found, 0).tolist()
    [24420.0, 36397.0]
    """
    return wheel_rate_on_tyre_for(target_frequency, axle_mean(sprung_mass), axle_mean(tyre_rate))


@figure(
    label="Spring the target asks for",
    quantity="rate",
    shape=Shape.AXLE,
    formula="k_s = (k_w − F_s·MR′·cos α) / (MR·cos α)²",
    source=RCVD,
)
def target_spring_rate(
    target_wheel_rate: Array,
    spring_motion_ratio: Array,
    spring_force: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
) -> Array:
    """Spring rate that gives the axle its target frequency, tyre left out, both sides alike [N/m].

    Refused where a rising motion ratio alone gives more than the wanted rate.

    Wrong where left and right ratios differ much: both sides get one spring.
    """
    rising = axle_mean(spring_force * motion_ratio_slope * np.cos(spring_angle))
    return spring_rate_for(target_wheel_rate, axle_mean(spring_motion_ratio**2), rising)


@figure(
    label="Spring the target asks for, on the tyre",
    quantity="rate",
    shape=Shape.AXLE,
    formula="k_s = (k_w − F_s·MR′·cos α) / (MR·cos α)²",
    source=RCVD,
)
def target_spring_rate_on_tyre(
    target_wheel_rate_on_tyre: Array,
    spring_motion_ratio: Array,
    spring_force: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
) -> Array:
    """Spring rate that gives the axle its target frequency, tyre in series, both sides alike [N/m].

    Refused where a rising motion ratio alone gives more than the wanted rate.

    Wrong where left and right ratios differ much: both sides get one spring.
    """
    return target_spring_rate(
        target_wheel_rate_on_tyre,
        spring_motion_ratio,
        spring_force,
        motion_ratio_slope,
        spring_angle,
    )


def wheel_rate_on_tyre_for(frequency: Array, sprung_mass: Array, tyre_rate: Array) -> Array:
    """Wheel rate for a frequency with the tyre in series [N/m]; shapes broadcast.

    Raises Impossible where the tyre alone is no stiffer than the wanted ride rate.
    """
    wanted = np.asarray((2 * pi * frequency) ** 2 * sprung_mass)
    short = np.asarray(wanted >= tyre_rate)
    if short.any():
        ceiling = np.broadcast_to(frequency_of(tyre_rate, sprung_mass), short.shape)
        at = int(np.argmax(short.reshape(-1)))
        axle = PLACES[Shape.AXLE][at % 2] if short.shape[-1:] == (2,) else None
        limit = float(ceiling.reshape(-1)[at])
        raise Impossible(
            f"{axle + ': t' if axle else 'T'}he tyre alone gives {limit:.2f} Hz, so no spring "
            f"reaches this target with the tyre in series: aim below {limit:.2f} Hz or leave the "
            "tyre out.",
            number="target_frequency",
            place=axle,
            allowed=f"below {limit:.2f} Hz",
        )
    rate: Array = wanted * tyre_rate / (tyre_rate - wanted)
    return rate


def spring_rate_for(wheel_rate: Array, ratio_squared: Array, rising: Array) -> Array:
    """Spring rate for a wheel rate [N/m]; `rising` is F_s·MR′·cos α. Raises Impossible if none."""
    rate = (wheel_rate - rising) / ratio_squared
    sentence = "The rising motion ratio alone gives more than the wanted rate: aim higher."
    if np.shape(rate)[-1:] == (2,):
        refuse(rate <= 0, Shape.AXLE, "target_frequency", sentence[0].lower() + sentence[1:])
    elif np.any(rate <= 0):
        raise Impossible(sentence, number="target_frequency")
    return rate
