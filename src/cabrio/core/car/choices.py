"""What a setting can be at a place of a car: a range in steps, or one of the parts that fit."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from ..catalog.inventory import NONE_FITTED
from ..catalog.part import Part, PartKind, valued
from ..catalog.part_kinds import part_kind
from ..catalog.quantities import Number
from ..catalog.units import show, symbol_of
from .model import Adjuster, Car, Setup
from .settings import STEPPED, fitted_at


@dataclass(frozen=True)
class Option:
    """A part that can be chosen: its code, the figure that ranks it in the car's units, and both in words."""

    value: str
    shown: str
    words: str


@dataclass(frozen=True)
class Choices:
    """What a setting can be at one place.

    In steps it goes from `low` to `high` by `step` [SI] and begins at `start` where nobody has set it; all
    None where it is chosen among `options`, softest first. `unit` is what its values are shown in, `blocked`
    says why it cannot be moved there, empty where it can.
    """

    unit: str
    blocked: str
    low: float | None = None
    high: float | None = None
    step: float | None = None
    start: float | None = None
    options: tuple[Option, ...] = ()


def choices(car: Car, setup: Setup) -> Mapping[str, Mapping[str, Choices]]:
    """What every setting of a car can be, by number and place, with the parts that a setup fits."""
    return {
        number.name: {
            place: _choices_at(car, setup, number, place) for place in number.shape.places
        }
        for number in car.settable()
    }


def _choices_at(car: Car, setup: Setup, number: Number, place: str) -> Choices:
    fitted = list(fitted_at(car, setup, place))
    held = (words for part in fitted if (words := part.blocks(number.name)))
    blocked = car.has_not(number.name, place) or next(held, "")
    if number.is_part:
        return _of_stock(car, part_kind(number.name), place, blocked)
    return _in_steps(car, number, place, fitted, blocked)


def _in_steps(car: Car, number: Number, place: str, fitted: list[Part], blocked: str) -> Choices:
    """A range, no further than any of the parts there lets it go."""
    adjuster = car.adjusters[number.name]
    ranges = [adjuster.range_at(place)]
    ranges += [to for part in fitted if (to := part.range_of(number.name)) is not None]
    low, high = max(low for low, _ in ranges), min(high for _, high in ranges)
    if low > high and not blocked:
        blocked = (
            "nothing that the fitted part has is within this car's adjuster: correct either one"
        )
    return Choices(
        unit=_counted(adjuster)
        if number.quantity == "clicks"
        else symbol_of(number.quantity, car.profile),
        blocked=blocked,
        low=low,
        high=high,
        step=number.step,
        start=STEPPED.start(low, high),
    )


def _counted(adjuster: Adjuster) -> str:
    return "from open" if adjuster.counted == "from_open" else "out"


def _of_stock(car: Car, kind: PartKind, place: str, blocked: str) -> Choices:
    """The parts that fit, shown by the figure that ranks them; none of the kind, where that can be."""
    rank = kind.ranking_field
    none = [Option(NONE_FITTED, "none fitted", "none fitted")] if kind.none_fitted else []
    stock = car.stock(kind.name, place)
    if rank is None or not stock:
        return Choices(
            unit="",
            blocked=blocked,
            options=(*none, *(Option(one.code, one.code, one.code) for one in stock)),
        )
    quantity, options = rank.number.quantity, none
    for one in stock:
        value = valued(one, (kind.rank,))
        shown = show(value, quantity, car.profile, unit=False)
        options.append(Option(one.code, shown, f"{show(value, quantity, car.profile)}, {one.code}"))
    return Choices(unit=symbol_of(quantity, car.profile), blocked=blocked, options=tuple(options))
