"""Is the axle square, which bars to move, and is its housing straight (reference §9)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import HOUSING_BEND_LIMIT
from ..graph.registry import figure
from .shapes import refuse

TRIANGLE = "Plane triangles; equal diagonals mean square only on a centred axle"
VECTOR = "A bend turns with the axle: opposite readings differ by its two parts"
CAR = Shape.CAR


@figure(
    label="Axle skew",
    quantity="fine_angle",
    shape=CAR,
    formula="sin(ψ + atan(e/x))·√(x² + e²) = (D_L² − D_R²) / 2w",
    source=TRIANGLE,
    sign="+ left end behind",
)
def axle_skew(
    diagonal: Array, plumb_distance: Array, axle_offset: Array, axle_points: Array
) -> Array:
    """Turn of the axle in plan from its diagonals, its offset counted in [rad].

    Refused where the diagonals cannot belong to one axle, or the plumb point to them. Wrong where the points are taken on the
    tube instead of a machined face.
    """
    left, right = diagonal[..., 0], diagonal[..., 1]
    refuse(
        np.asarray(plumb_distance) >= np.maximum(left, right),
        CAR,
        "plumb_distance",
        "the way to the axle cannot be longer than both diagonals: measure all three again.",
    )
    reach = np.hypot(plumb_distance, axle_offset)
    sine = (left**2 - right**2) / (2 * axle_points * reach)
    refuse(
        np.abs(sine) > 1,
        CAR,
        "diagonal",
        "these two diagonals cannot belong to one axle: measure them again.",
    )
    return np.arcsin(sine) - np.arctan2(axle_offset, plumb_distance)


@figure(
    label="Left end behind",
    quantity="fine_dimension",
    shape=CAR,
    formula="w·sin ψ",
    source=TRIANGLE,
    sign="+ left end behind",
)
def left_end_behind(axle_skew: Array, axle_points: Array) -> Array:
    """How far the left measured point stands behind the right one [m].

    Wrong where the points are taken on the tube instead of a machined face.

    >>> np.round(left_end_behind(0.002225, 1.5), 6).tolist()
    0.003337
    """
    return axle_points * np.sin(axle_skew)


@figure(
    label="Simple square move",
    quantity="fine_dimension",
    shape=CAR,
    formula="ΔD·(D / x)",
    source=TRIANGLE,
    sign="+ left side forward",
)
def simple_square_move(diagonal: Array, plumb_distance: Array) -> Array:
    """The workshop's rule: move the long side forward by this much [m].

    Wrong where the axle stands off centre: use the skew.

    >>> np.round(simple_square_move(np.array([3.905, 3.9]), 3.6), 6).tolist()
    0.00542
    """
    longer = diagonal[..., 0] - diagonal[..., 1]
    answer: Array = longer * diagonal.mean(axis=-1) / plumb_distance
    return answer


@figure(
    label="Bars to move",
    quantity="fine_dimension",
    shape=CAR,
    formula="spacing·sin ψ",
    source=TRIANGLE,
    sign="+ shorten the left bars",
)
def square_bar_move(axle_skew: Array, link_spacing: Array) -> Array:
    """How far the bars of the trailing side are to be shortened, or half of it on each side [m].

    Upper and lower alike; with triangulated uppers the lowers only. Re-check pinion and preload after.

    Wrong where left and right bars do not mirror each other.

    >>> np.round(square_bar_move(0.002225, 0.9), 6).tolist()
    0.002002
    """
    return link_spacing * np.sin(axle_skew)


@figure(
    label="Bars to move, in flats",
    quantity="flats",
    shape=CAR,
    formula="move / length per flat",
    source=TRIANGLE,
    sign="+ shorten the left bars",
)
def square_flats(square_bar_move: Array, length_per_flat: Array) -> Array:
    """The same move in flats of one bar. Refused where the bars carry no thread [flats].

    Wrong where only one end of the bar is threaded and the other pitch was given too.

    >>> np.round(square_flats(0.002002, 0.0005333), 3).tolist()
    3.754
    """
    refuse(
        length_per_flat <= 0, CAR, "right_hand_pitch", "the bars carry no thread: give its pitch."
    )
    return square_bar_move / length_per_flat


@figure(
    label="Wheelbase, left less right",
    quantity="fine_dimension",
    shape=CAR,
    formula="L_left − L_right",
    source=TRIANGLE,
    sign="+ left longer",
)
def wheelbase_split(side_wheelbase: Array) -> Array:
    """How much longer the wheelbase is on the left than on the right [m].

    Wrong with the front wheels turned. What the diagonals do not explain of it is the front axle's:
    caster or arms of unlike length.

    >>> np.round(wheelbase_split(np.array([2.503, 2.498])), 6).tolist()
    0.005
    """
    return side_wheelbase[..., 0] - side_wheelbase[..., 1]


@figure(
    label="Axle off the rails' middle",
    quantity="fine_dimension",
    shape=CAR,
    formula="½·(left − right)",
    source=TRIANGLE,
    sign="+ to the left",
)
def axle_off_rails(rail_gap: Array) -> Array:
    """How far the axle stands to the left of the middle between the frame rails [m].

    Wrong where wheels or spacers differ from side to side.

    >>> np.round(axle_off_rails(np.array([0.182, 0.176])), 6).tolist()
    0.003
    """
    return 0.5 * (rail_gap[..., 0] - rail_gap[..., 1])


@figure(
    label="Axle off the body's middle",
    quantity="fine_dimension",
    shape=CAR,
    formula="½·(right − left)",
    source=TRIANGLE,
    sign="+ to the left",
)
def axle_off_body(body_gap: Array) -> Array:
    """How far the axle stands to the left of the middle between the body's panels [m].

    The gap closes on the side it stands to. Wrong where the panels themselves are not alike.

    >>> np.round(axle_off_body(np.array([0.031, 0.039])), 6).tolist()
    0.004
    """
    return 0.5 * (body_gap[..., 1] - body_gap[..., 0])


@figure(
    label="Housing bend",
    quantity="fine_dimension",
    shape=CAR,
    formula="√((front − rear)² + (top − bottom)²)",
    source=VECTOR,
)
def housing_bend(housing_reading: Array) -> Array:
    """Bend of the housing at the diameter measured, free of clock position [m].

    Wrong where bearings have play or flanges run out: turn the flange and read again first.

    >>> np.round(housing_bend(np.array([1.45, 1.45, 1.451, 1.45])), 6).tolist()
    0.001
    """
    front, top, rear, bottom = (housing_reading[..., i] for i in range(4))
    return np.hypot(front - rear, top - bottom)


@figure(
    label="Housing out of round",
    quantity="fine_dimension",
    shape=CAR,
    formula="½·|(front + rear) − (top + bottom)|",
    source=VECTOR,
)
def housing_out_of_round(housing_reading: Array) -> Array:
    """What no bend can explain: opposite readings of a bent housing add up alike [m].

    Wrong as a verdict: flanges that run out, play or a slipped tape give it too. Read again first.

    >>> np.round(housing_out_of_round(np.array([1.45, 1.45, 1.451, 1.45])), 7).tolist()
    0.0005
    """
    front, top, rear, bottom = (housing_reading[..., i] for i in range(4))
    return np.abs((front + rear) - (top + bottom)) / 2


@figure(
    label="Housing spread",
    quantity="fine_dimension",
    shape=CAR,
    formula="largest − least",
    source=VECTOR,
)
def housing_spread(housing_reading: Array) -> Array:
    """Largest less least of the four readings [m]: what a tape alone would have told.

    Wrong as the bend itself: between two clock positions it reads up to 30 % low.

    >>> np.round(housing_spread(np.array([1.45, 1.45, 1.451, 1.45])), 6).tolist()
    0.001
    """
    spread: Array = housing_reading.max(axis=-1) - housing_reading.min(axis=-1)
    return spread


@figure(
    label="Housing bend limit",
    quantity="fine_dimension",
    shape=CAR,
    formula="1.5 mm · measuring diameter / rotor diameter",
    source="Workshop default, team-editable",
)
def housing_limit(bend_diameter: Array, rotor_diameter: Array) -> Array:
    """Most bend to run with, at the diameter measured [m]: the same bend reads more further out.

    Wrong where the axle's maker or the rule book says otherwise: they win.

    >>> np.round(housing_limit(0.3, 0.28), 6).tolist()
    0.001607
    """
    return HOUSING_BEND_LIMIT * bend_diameter / rotor_diameter
