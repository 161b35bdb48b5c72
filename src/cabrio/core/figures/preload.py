"""Preload of the upper right bar: flats to length, and what rigid parts would make of it (reference §7)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import figure

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 17"
CAR = Shape.CAR
FLATS_PER_TURN = 6


@figure(
    label="Bar length per flat",
    quantity="pitch",
    shape=CAR,
    formula="(left-hand pitch + right-hand pitch) / 6",
    source="Screw geometry: one flat is 1/6 turn",
)
def length_per_flat(left_hand_pitch: Array, right_hand_pitch: Array) -> Array:
    """How far one flat moves a bar's length [m]; an end without a thread counts as zero.

    Wrong where both ends carry the same hand: turning the bar then changes nothing.

    >>> np.round(length_per_flat(0.0016, 0.0016), 7).tolist()
    0.0005333
    """
    return (left_hand_pitch + right_hand_pitch) / FLATS_PER_TURN


@figure(
    label="Preload length change",
    quantity="pitch",
    shape=CAR,
    formula="−flats · length per flat",
    source="Screw geometry; sign as agreed in this trade",
    sign="+ longer, loads the left rear",
)
def preload_length_change(link_preload: Array, length_per_flat: Array) -> Array:
    """Length of the upper right bar from neutral [m]; negative flats lengthen it.

    Wrong where neutral was found with a wheel on or a bar loaded, or on triangulated uppers.

    >>> np.round(preload_length_change(-1.0, 0.0005333), 7).tolist()
    0.0005333
    """
    return -link_preload * length_per_flat


@figure(
    label="Pinion per flat",
    quantity="fine_angle",
    shape=CAR,
    formula="length per flat / (e·cos θ_u)",
    source=RCVD,
)
def pinion_per_flat(
    length_per_flat: Array, bar_lines_apart: Array, upper_bar_slope: Array
) -> Array:
    """Turn of the housing for one flat on both upper bars alike [rad].

    Wrong for one bar alone: that twists the axle, it does not set the pinion.

    >>> np.round(pinion_per_flat(0.0005333, 0.2813, -0.2439), 6).tolist()
    0.001951
    """
    lever: Array = np.abs(bar_lines_apart) / np.sqrt(1 + upper_bar_slope**2)
    return length_per_flat / lever


@figure(
    label="Axle set over at the bars",
    quantity="height",
    shape=CAR,
    formula="δ·x_IC / (e·cos θ_u)",
    source=RCVD,
    sign="+ left rear pressed down",
)
def axle_set_over(
    preload_length_change: Array, ic_x: Array, bar_lines_apart: Array, upper_bar_slope: Array
) -> Array:
    """How far rigid parts would set the axle over at the bar pairs [m]: a bound, not an estimate.

    Wrong as a prediction of load: compliance takes an unknown part. Read the pads at a flat instead.
    """
    lever = bar_lines_apart / np.sqrt(1 + upper_bar_slope**2)
    return preload_length_change * ic_x / lever


@figure(
    label="Axle set over, as roll",
    quantity="fine_angle",
    shape=CAR,
    formula="set over at the bars / bar spacing",
    source=RCVD,
)
def axle_set_over_roll(axle_set_over: Array, link_spacing: Array) -> Array:
    """The same bound as a roll of the axle against the body [rad].

    Wrong as a prediction: compliance takes an unknown part.

    >>> np.round(axle_set_over_roll(0.001851, 0.9), 6).tolist()
    0.002057
    """
    return axle_set_over / link_spacing


@figure(
    label="Axle set over at the wheels",
    quantity="height",
    shape=CAR,
    formula="roll · track",
    source=RCVD,
)
def axle_set_over_at_track(axle_set_over_roll: Array, track: Array) -> Array:
    """The same bound between the wheels [m].

    Wrong as a prediction: compliance takes an unknown part.

    >>> np.round(axle_set_over_at_track(0.002057, np.array([1.5, 1.6])), 6).tolist()
    0.003291
    """
    return axle_set_over_roll * track[..., 1]


@figure(
    label="Rear bite share",
    quantity="share",
    shape=CAR,
    formula="(LR − RR) / total",
    source="Team practice: about 3 to 4 % of the mass on a powerful car",
    sign="+ left rear heavier",
)
def rear_bite_share(rear_bite: Array, total_mass: Array) -> Array:
    """Rear bite as a part of the car's mass [share points].

    Wrong where driver or fuel were not aboard at the pads.

    >>> np.round(rear_bite_share(-50.0, 1000.0), 5).tolist()
    -0.05
    """
    return rear_bite / total_mass
