"""Moving values between the shapes car (…), axle (…, 2) and corner (…, 4), and shared refusals."""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from operator import is_
from typing import NoReturn, ParamSpec, TypeVar

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..errors import Impossible
from ..graph.registry import Mask

P = ParamSpec("P")
R = TypeVar("R")
NEVER = np.False_
"""What comparing two single numbers gives where it does not hold: seen without asking numpy."""
LF, RF, LR, RR = range(4)
FRONT, REAR = range(2)
PLUS_MINUS = np.array([1.0, -1.0])


def axle_mean(corner: Array) -> Array:
    """The mean of left and right, per axle."""
    return 0.5 * (corner[..., 0::2] + corner[..., 1::2])


def axle_sum(corner: Array) -> Array:
    """Left and right together, per axle."""
    return corner[..., 0::2] + corner[..., 1::2]


def at_corners(axle: Array) -> Array:
    """An axle value at both of its corners."""
    return axle.repeat(2, axis=-1)


def spread(car: Array) -> Array:
    """A car value beside corner or axle arrays."""
    return np.asarray(car)[..., np.newaxis]


def either_way(car: Array) -> Array:
    """A car value with + at the first of two places and − at the second."""
    both: Array = np.multiply.outer(car, PLUS_MINUS)
    return both


def worked_once(function: Callable[P, R]) -> Callable[P, R]:
    """Keep the last answer for the very same arrays: several figures of one run ask for it in turn.

    By identity, as no figure writes into an array it was given. A refusal is not kept.
    """
    last: list[tuple[tuple[object, ...], R]] = []

    @wraps(function)
    def asked(*args: P.args, **named: P.kwargs) -> R:
        # one look at what is kept: another thread may put its own answer in its place meanwhile
        for given, answer in last[:1]:
            if len(given) == len(args) and all(map(is_, given, args)):
                return answer
        found = function(*args, **named)
        last[:] = [(args, found)]
        return found

    return asked


def refuse(where_bad: Mask | np.bool, shape: Shape, number: str, sentence: str) -> None:
    """Raise Impossible where any element is bad, naming the first place."""
    # counting is several times quicker than asking `any` of a small array
    if where_bad is NEVER or not np.count_nonzero(where_bad):
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


def refuse_undriven(rear_drive_share: Array) -> None:
    """Raise Impossible where nothing of the drive goes to the rear axle."""
    refuse(
        rear_drive_share <= 0,
        Shape.CAR,
        "rear_drive_share",
        "only the front wheels drive: nothing of the launch goes through the rear axle.",
    )
