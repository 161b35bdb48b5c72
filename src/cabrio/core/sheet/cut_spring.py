"""Coils cut off the spring at a corner, before they are: what it would be, and where the car would stand."""

from __future__ import annotations

from dataclasses import dataclass

from ..car.model import Car
from ..catalog.quantities import PLACES, Shape
from ..errors import Missing
from ..solve.springs import CutSpring, cut
from .build import Sheet

NEEDED = ("spring_rate", "spring_free_length", "spring_force", "spring_motion_ratio")


@dataclass(frozen=True)
class CutAtCorner:
    """The spring after the cut; how far the corner comes down at the wheel, and its wheel rate [SI]."""

    code: str
    spring: CutSpring
    wheel_drop: float
    wheel_rate: float


def cut_at(sheet: Sheet, place: str, active_coils: float, cut_off: float) -> CutAtCorner:
    """Cut so many coils off the spring at a corner, both counted as active ones.

    The wheel's drop takes the motion ratio as it is at ride height. Raises Missing for what lacks,
    Impossible where nothing useful is left.
    """
    sheet.worked.require(NEEDED, "A cut needs")
    at = PLACES[Shape.CORNER].index(place)
    rate, free, force, ratio = (float(sheet.worked.values[name][at]) for name in NEEDED)
    found = cut(rate, free, active_coils, cut_off, force)
    return CutAtCorner(
        _code(sheet.car, sheet, place), found, found.drop / ratio, found.rate * ratio**2
    )


def _code(car: Car, sheet: Sheet, place: str) -> str:
    spring = car.fitted(sheet.setup, "spring", place)
    if spring is None:
        raise Missing(f"No spring is fitted at {place}.", number="spring", place=place)
    return spring.code
