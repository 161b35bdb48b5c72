"""Is this value possible, and is it usual? One check for every entered number."""

from __future__ import annotations

import math

from ..errors import NotANumber, OutOfRange, Unusual
from .quantities import Number
from .units import parse, show


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
