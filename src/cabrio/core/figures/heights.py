"""Ride heights, rake and droop as read (reference §10)."""

from __future__ import annotations

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import figure
from .shapes import FRONT, REAR, axle_mean, refuse

TAPE = "Differences of what the tape says"


@figure(
    label="Axle height",
    quantity="height",
    shape=Shape.AXLE,
    formula="mean of left and right",
    source=TAPE,
)
def axle_height(ride_height: Array) -> Array:
    """Ride height of an axle at its two named places [m].

    Wrong where the named places differ from the last time: wear and dents move them.

    >>> np.round(axle_height(np.array([0.1, 0.102, 0.11, 0.109])), 4).tolist()
    [0.101, 0.1095]
    """
    return axle_mean(ride_height)


@figure(
    label="Rake",
    quantity="height",
    shape=Shape.CAR,
    formula="rear − front",
    source=TAPE,
    sign="+ rear higher",
)
def rake(axle_height: Array) -> Array:
    """Rear height less front height at the named places [m].

    Wrong between cars: it means what the two named places mean.

    >>> np.round(rake(np.array([0.101, 0.1095])), 6).tolist()
    0.0085
    """
    return axle_height[..., REAR] - axle_height[..., FRONT]


@figure(
    label="Side to side",
    quantity="height",
    shape=Shape.AXLE,
    formula="left − right",
    source=TAPE,
    sign="+ left higher",
)
def height_split(ride_height: Array) -> Array:
    """Left height less right of each axle [m].

    Wrong where the two named places are not alike on both sides.

    >>> np.round(height_split(np.array([0.1, 0.102, 0.11, 0.109])), 6).tolist()
    [-0.002, 0.001]
    """
    return ride_height[..., 0::2] - ride_height[..., 1::2]


@figure(
    label="Droop read",
    quantity="height",
    shape=Shape.CORNER,
    formula="height at full extension − ride height",
    source=TAPE,
)
def droop_read(lifted_height: Array, ride_height: Array) -> Array:
    """Body travel from ride height to the wheel hanging at its stop [m].

    Refused where lifting lowered the body. Wrong with the damper on, if the arms bend.

    >>> found = droop_read(
    ...     np.array([0.15, 0.152, 0.17, 0.168]),
    ...     np.array([0.1, 0.102, 0.11, 0.109]),
    ... )
    >>> np.round(found, 5).tolist()
    [0.05, 0.05, 0.06, 0.059]
    """
    droop = lifted_height - ride_height
    refuse(
        droop < 0,
        Shape.CORNER,
        "lifted_height",
        "the lifted height must not be below the ride height.",
    )
    return droop
