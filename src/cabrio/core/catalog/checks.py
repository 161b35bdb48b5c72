"""Is this value possible, and is it usual? One check for every entered number."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from ..errors import NotANumber, OutOfRange, Unusual
from .quantities import Array, Number
from .units import parse, show


def _all(values: Mapping[str, Any]) -> Array:
    """Every number of every value in one row: looked at once, where nothing is wrong with any."""
    rows = [np.ravel(np.asarray(one, np.float64)) for one in values.values()]
    return np.concatenate([np.zeros(0), *rows])


def finite(**values: Any) -> None:
    """Raise OutOfRange, by name, for a number or an array of numbers that is not finite."""
    if np.isfinite(_all(values)).all():
        return
    for name, value in values.items():
        if not np.all(np.isfinite(np.asarray(value, dtype=np.float64))):
            raise OutOfRange(
                f"The {name.replace('_', ' ')} must be a finite number.",
                number=name,
                value=value,
                allowed="any finite number",
            )


def above_zero(**values: Any) -> None:
    """Raise OutOfRange, by name, for a number or an array of numbers that is not finite and above zero."""
    every = _all(values)
    if ((every > 0) & (every < np.inf)).all():
        return
    for name, value in values.items():
        numbers = np.asarray(value, dtype=np.float64)
        if not (np.all(np.isfinite(numbers)) and np.all(numbers > 0)):
            raise OutOfRange(
                f"The {name.replace('_', ' ')} must be above zero.",
                number=name,
                value=value,
                allowed="above 0",
            )


def not_below_zero(**values: Any) -> None:
    """Raise OutOfRange, by name, for a number or an array of numbers below zero; without a limit is fine."""
    if (_all(values) >= 0).all():
        return
    for name, value in values.items():
        if not np.all(np.asarray(value, dtype=np.float64) >= 0):
            raise OutOfRange(
                f"The {name.replace('_', ' ')} cannot be below zero.",
                number=name,
                value=value,
                allowed="0 and above",
            )


def check_value(
    number: Number, place: str, typed: str | float, profile: str, *, confirmed: bool = False
) -> float:
    """What was typed, as SI, once it is possible. Unless confirmed, an unusual value is asked about.

    Raises NotANumber, UnknownUnit, OutOfRange or Unusual, each naming the number and the place.
    """
    try:
        value = parse(typed, number.quantity, profile)
    except NotANumber as problem:
        problem.number, problem.place = number.name, place
        problem.sentence = f"{number.where(place)}: {problem.sentence}"
        raise
    except Exception as problem:
        if hasattr(problem, "number"):
            problem.number, problem.place = number.name, place  # type: ignore[attr-defined]
        raise
    if not math.isfinite(value):
        raise NotANumber(
            f"{number.where(place)} must be a finite number.", number=number.name, place=place
        )
    _refuse_impossible(number, place, value, profile)
    if not confirmed and number.usual and not number.usual[0] <= value <= number.usual[1]:
        low, high = (show(edge, number.quantity, profile) for edge in number.usual)
        raise Unusual(
            f"{number.where(place)} of {show(value, number.quantity, profile)} is possible but far "
            f"from the usual {low} to {high}. Confirm it, or look at the unit.",
            number=number.name,
            place=place,
            value=value,
            allowed=f"{low} to {high}",
        )
    return value


def _refuse_impossible(number: Number, place: str, value: float, profile: str) -> None:
    def shown(edge: float) -> str:
        return show(edge, number.quantity, profile)

    if number.above is not None and value <= number.above:
        allowed = f"above {shown(number.above)}"
    elif number.least is not None and value < number.least:
        allowed = f"at least {shown(number.least)}"
    elif number.most is not None and value > number.most:
        allowed = f"at most {shown(number.most)}"
    else:
        return
    given = shown(value)
    if number.accepts_inverse and number.most is not None and value > number.most:
        given = f"{value:.3g}"
        allowed += (
            f" (spring travel over wheel travel). If {given} is wheel over spring, "
            f"switch the convention: it is then {1 / value:.3f}"
        )
    raise OutOfRange(
        f"{number.where(place)} of {given} cannot be: it must be {allowed}.",
        number=number.name,
        place=place,
        value=value,
        allowed=allowed,
    )
