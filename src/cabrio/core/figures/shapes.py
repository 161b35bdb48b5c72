"""Moving values between the shapes car (…), axle (…, 2) and corner (…, 4), and shared refusals."""

from __future__ import annotations

import numpy as np

from ..errors import Impossible
from ..quantities import PLACES, Shape
from ..registry import Array, Mask

LF, RF, LR, RR = range(4)


def axle_mean(corner: Array) -> Array:
    """The mean of left and right, per axle."""
    mean: Array = corner.reshape(*corner.shape[:-1], 2, 2).mean(axis=-1)
    return mean


def spread(car: Array) -> Array:
    """A car value beside corner or axle arrays."""
    return np.asarray(car)[..., np.newaxis]


def refuse(where_bad: Mask, shape: Shape, number: str, sentence: str) -> None:
    """Raise Impossible where any element is bad, naming the first place."""
    bad = np.asarray(where_bad)
    if not bad.any():
        return
    places = PLACES[shape]
    flat = bad.reshape(-1, len(places)).any(axis=0)
    place = places[int(np.argmax(flat))]
    raise Impossible(f"{place}: {sentence}" if place != "car" else sentence,
                     number=number, place=place)  # fmt: skip
