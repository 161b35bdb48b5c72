"""Moving values between the shapes car (…), axle (…, 2) and corner (…, 4), and shared refusals."""

from __future__ import annotations

from typing import NoReturn

import numpy as np

from ..catalog.quantities import PLACES, Shape
from ..errors import Impossible
from ..graph.registry import Array, Mask

LF, RF, LR, RR = range(4)
FRONT, REAR = range(2)


def axle_mean(corner: Array) -> Array:
    """The mean of left and right, per axle."""
    return 0.5 * axle_sum(corner)


def axle_sum(corner: Array) -> Array:
    """Left and right together, per axle."""
    return corner[..., 0::2] + corner[..., 1::2]


def at_corners(axle: Array) -> Array:
    """An axle value at both of its corners."""
    return np.repeat(axle, 2, axis=-1)


def spread(car: Array) -> Array:
    """A car value beside corner or axle arrays."""
    return np.asarray(car)[..., np.newaxis]


def refuse(where_bad: Mask | np.bool, shape: Shape, number: str, sentence: str) -> None:
    """Raise Impossible where any element is bad, naming the first place."""
    if not where_bad.any():
        return
    places = PLACES[shape]
    flat = np.asarray(where_bad).reshape(-1, len(places)).any(axis=0)
    refuse_at(shape, places[int(np.argmax(flat))], number, sentence)


def refuse_at(shape: Shape, place: str, number: str, sentence: str) -> NoReturn:
    """Raise Impossible at a place, as a plain sentence."""
    raise Impossible(
        sentence[0].upper() + sentence[1:] if shape is Shape.CAR else f"{place}: {sentence}",
        number=number,
        place=place,
    )
