"""How a setting moves: in steps of its own, from hole to hole, or from part to part of the inventory.

Each way says what a legal value is, what the next one is, what a typed text means and how a value is
shown. No other code asks which setting it has in hand.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any, Protocol

from ..catalog.checks import check_value
from ..catalog.inventory import NONE_FITTED
from ..catalog.part import Part, valued
from ..catalog.part_kinds import part_kind, part_kinds
from ..catalog.quantities import Kind, Number, axle_of
from ..catalog.units import parse, show
from ..errors import CoreError, Impossible, OutOfRange, Problems, UnknownName, collected
from ..graph.registry import number_named
from .model import Car, Setup
from .usual import is_usual

NO_PRELOAD = (
    "This rear axle cannot be preloaded in its links; on triangulated upper arms use the anti-roll "
    "bar's drop link instead."
)


class Way(Protocol):
    """How one kind of setting moves."""

    def check(self, car: Car, number: Number, place: str, value: Any) -> Any: ...

    def step(self, car: Car, number: Number, place: str, old: Any, by: int) -> Any:
        """The value some steps on; raises the car's refusals at an end."""

    def stiffer(self, car: Car, number: Number, place: str, old: Any, steps: int) -> Any:
        """The value some steps stiffer, or softer where negative."""

    def typed(self, car: Car, number: Number, place: str, old: Any, text: str) -> Any: ...

    def show(self, car: Car, number: Number, value: Any) -> str: ...

    def size(self, car: Car, number: Number, value: Any) -> float:
        """A figure by which two values are put in order."""


class Stepped:
    """A figure in steps, within the range of its adjuster."""

    def check(self, car: Car, number: Number, place: str, value: Any) -> float:
        adjuster = car.adjusters.get(number.name)
        if adjuster is None:
            raise UnknownName(
                f"This car has no adjuster for {number.label.lower()}.",
                number=number.name,
                place=place,
            )
        checked = check_value(number, place, value, car.profile, confirmed=True)
        low, high = adjuster.range_at(place)
        if not low - 1e-9 <= checked <= high + 1e-9:
            allowed = f"{self._bare(car, number, low)} to {self.show(car, number, high)}"
            wanted = self._bare(car, number, checked)
            span = (
                f"{allowed}, the usual range, not to {wanted}: write this car's own range down."
                if is_usual(number.name, adjuster)
                else f"{allowed} on this car, not to {wanted}."
            )
            raise OutOfRange(
                f"{number.where(place)} goes from {span}",
                number=number.name,
                place=place,
                value=checked,
                allowed=allowed,
            )
        if number.whole and abs(checked - round(checked)) > 1e-9:
            raise OutOfRange(
                f"{number.where(place)} is a whole number, not {checked:g}.",
                number=number.name,
                place=place,
                value=checked,
            )
        return checked

    def start(self, low: float, high: float) -> float:
        """Where the first step puts a setting that nobody made: where its range holds nothing, or lowest."""
        return 0.0 if low <= 0 <= high else low

    def step(self, car: Car, number: Number, place: str, old: Any, by: int) -> float:
        adjuster = car.adjusters.get(number.name)
        if old is None and adjuster is not None:
            return self.check(car, number, place, self.start(*adjuster.range_at(place)))
        return self.check(car, number, place, round((old or 0.0) + by * (number.step or 1.0), 12))

    def stiffer(self, car: Car, number: Number, place: str, old: Any, steps: int) -> float:
        from_closed = car.counting(number.name) != "from_open"
        down = number.stiffens == "down" or (number.stiffens == "by_counting" and from_closed)
        return self.step(car, number, place, old, -steps if down else steps)

    def typed(self, car: Car, number: Number, place: str, old: Any, text: str) -> float:
        """A value; with a sign in front a step from here, unless the number itself may be negative
        and has no plus in front: `bar +1` steps, `camber -3.2` and `preload -1` are values."""
        signed = re.match(r"^([+\-−])", text)
        below_zero = number.least is not None and number.least < 0
        if signed and (signed[1] == "+" or not below_zero):
            by = parse(text, number.quantity, car.profile)
            return self.check(car, number, place, round(float(old or 0.0) + by, 9))
        return self.check(car, number, place, text.removeprefix("to "))

    def show(self, car: Car, number: Number, value: Any) -> str:
        return "not set" if value is None else show(value, number.quantity, car.profile)

    def _bare(self, car: Car, number: Number, value: float) -> str:
        return show(value, number.quantity, car.profile, unit=False)

    def size(self, car: Car, number: Number, value: Any) -> float:
        return float(value or 0.0)


class FromStock:
    """A part of the inventory, by its code."""

    def check(self, car: Car, number: Number, place: str, value: Any) -> str:
        kind = part_kind(number.name)
        if value == NONE_FITTED and kind.none_fitted is not None:
            return NONE_FITTED
        found = car.part(kind.name, value)
        if found is None:
            raise UnknownName(
                f"There is no {kind.label.lower()} “{value}” in the inventory: add it there first.",
                number=number.name,
                place=place,
                value=value,
            )
        if why := found.unfit(car.rear_layout):
            raise Impossible(why, number=number.name, place=place, value=value)
        if not found.fits_at(place):
            raise Impossible(
                f"{kind.label} {value} does not fit the {axle_of(place)} axle.",
                number=number.name,
                place=place,
                value=value,
            )
        return found.code

    def step(self, car: Car, number: Number, place: str, old: Any, by: int) -> str:
        codes = [one.code for one in car.stock(number.name, place)]
        at = codes.index(old) + by if old in codes else (0 if by > 0 else -1)
        if not 0 <= at < len(codes):
            raise UnknownName(
                f"The inventory ends before {by:+d} from here.", number=number.name, place=place
            )
        return codes[at]

    def stiffer(self, car: Car, number: Number, place: str, old: Any, steps: int) -> str:
        kind, now = part_kind(number.name), car.part(number.name, old)
        word = "stiffer" if steps > 0 else "softer"
        if now is None:
            raise Impossible(
                f"No {kind.label.lower()} is written down at {place}: fit one first.",
                number=number.name,
                place=place,
            )
        here = valued(now, (kind.rank,))
        stock = car.stock(number.name, place)
        beyond = [
            one
            for one in stock
            if (valued(one, (kind.rank,)) > here if steps > 0 else valued(one, (kind.rank,)) < here)
        ]
        if not beyond:
            raise Impossible(
                f"The inventory holds no {word} {kind.label.lower()} than {old} for this axle.",
                number=number.name,
                place=place,
            )
        return (beyond[0] if steps > 0 else beyond[-1]).code

    def typed(self, car: Car, number: Number, place: str, old: Any, text: str) -> str:
        """A code, some steps along the inventory, or the figure that ranks it: `rear spring 80`."""
        if re.match(r"^[+\-−]", text):
            return self.step(car, number, place, old, int(parse(text, "count")))
        kind = part_kind(number.name)
        for code in (text, text.upper()):
            if code == NONE_FITTED or car.part(kind.name, code) is not None:
                return self.check(car, number, place, code)
        rank = kind.ranking_field
        if rank is None:
            return self.check(car, number, place, text)
        wanted = check_value(rank.number, "car", text, car.profile, confirmed=True)
        stock = car.stock(kind.name, place)
        near = min(
            stock, key=lambda one: (abs(valued(one, (kind.rank,)) - wanted), one.code), default=None
        )
        if near is None or abs(valued(near, (kind.rank,)) - wanted) > 0.005 * wanted:
            shown = show(wanted, rank.number.quantity, car.profile)
            nearest = (
                ""
                if near is None
                else (
                    f"; the nearest is {show(valued(near, (kind.rank,)), rank.number.quantity, car.profile)} "
                    f"({near.code})"
                )
            )
            raise UnknownName(
                f"No {kind.label.lower()} of {shown} in the inventory for the {axle_of(place)}"
                f"{nearest}.",
                number=number.name,
                place=place,
                value=wanted,
            )
        return near.code

    def show(self, car: Car, number: Number, value: Any) -> str:
        return "none" if value is None else str(value)

    def size(self, car: Car, number: Number, value: Any) -> float:
        found, rank = car.part(number.name, value), part_kind(number.name).rank
        return float(valued(found, (rank,)) or 0.0) if found is not None and rank else 0.0


class Fact:
    """A fact that work on the car alters: any possible value."""

    def check(self, car: Car, number: Number, place: str, value: Any) -> float:
        return check_value(number, place, value, car.profile, confirmed=True)

    def step(self, car: Car, number: Number, place: str, old: Any, by: int) -> float:
        if number.step is None or old is None:
            raise Impossible(
                f"{number.label} moves in no steps: type what it became.", number=number.name
            )
        return self.check(car, number, place, round(float(old) + by * number.step, 12))

    def stiffer(self, car: Car, number: Number, place: str, old: Any, steps: int) -> float:
        return self.step(car, number, place, old, steps)

    def typed(self, car: Car, number: Number, place: str, old: Any, text: str) -> float:
        return self.check(car, number, place, text)

    def show(self, car: Car, number: Number, value: Any) -> str:
        return "not given" if value is None else show(value, number.quantity, car.profile)

    def size(self, car: Car, number: Number, value: Any) -> float:
        return float(value or 0.0)


STEPPED, FROM_STOCK, FACT = Stepped(), FromStock(), Fact()


def way_of(number: Number) -> Way:
    """How a number moves. Raises UnknownName for one that no slip can change."""
    if number.is_fact:
        return FACT
    if number.kind is not Kind.SET or not number.on_slip:
        raise UnknownName(f"{number.label} is not something a slip can change.", number=number.name)
    return FROM_STOCK if number.is_part else STEPPED


def check_setting(car: Car, name: str, place: str, value: Any) -> Any:
    """The value a number may take on this car by a slip, or one of the core's refusals. None: not set."""
    number = number_named(name)
    way = way_of(number)
    number.index(place)
    if not car.has(number):
        sentence = (
            NO_PRELOAD
            if number.quantity == "flats"
            else f"A car with this rear axle has no {number.label.lower()}."
        )
        raise Impossible(sentence, number=name, place=place)
    return None if value is None else way.check(car, number, place, value)


def check_free(car: Car, setup: Setup, name: str, place: str, value: Any = None) -> None:
    """Raise Impossible where the part fitted at a place does not let a setting move, such as a dead knob,
    or has no such place for it, such as a hole its bar has not; where the axle itself has none; and where
    points are fitted whose origin is not on the ground."""
    number = number_named(name)
    if number.is_part and isinstance(value, str):
        _check_ground(car, number, place, value)
    if value is not None and (why := car.has_not(name, place)):
        raise Impossible(f"{number.where(place)}: {why}.", number=name, place=place, value=value)
    for fitted in fitted_at(car, setup, place):
        if blocked := fitted.blocks(name):
            raise Impossible(f"{number.where(place)}: {blocked}", number=name, place=place)
        if value is not None and not number.is_part and (lacks := fitted.lacks(name, value)):
            raise OutOfRange(lacks, number=name, place=place, value=value)


OFF_THE_GROUND = 0.001
"""What the wheel centre of measured points may differ from the loaded radius that was measured [m]."""


def _check_ground(car: Car, number: Number, place: str, code: str) -> None:
    """Raise Impossible for points measured from another origin than the ground under the axle."""
    if (off := off_the_ground(car, number.name, place, code)) is not None:
        raise Impossible(
            f"{off} Measure them from the ground, or the radius again.",
            number=number.name,
            place=place,
            value=code,
        )


def off_the_ground(car: Car, kind: str, place: str, code: str) -> str | None:
    """In words, that a part's points do not stand on the ground by the loaded radius that was measured."""
    part, given = car.part(kind, code), car.given.get("loaded_radius")
    if part is None or given is None:
        return None
    at = 0 if axle_of(place) == "front" else 1
    measured, stands = given.values[at], part.stands_on
    if stands is None or measured is None or given.estimated_at(at):
        return None
    if abs(stands - measured) <= OFF_THE_GROUND + 1e-9:
        return None
    heights = [show(one, "fine_dimension", car.profile) for one in (stands, measured)]
    return f"The points put the wheel centre {heights[0]} over their origin, its loaded radius is {heights[1]}."


def stiffer(car: Car, setup: Setup, name: str, place: str, old: Any, steps: int) -> Any:
    """The value some steps stiffer on this car, or softer where negative.

    Where a fitted part has several places for the setting, their own order counts: the holes of a bar
    may be numbered from either end.
    """
    number = number_named(name)
    for fitted in fitted_at(car, setup, place):
        values = fitted.picked(name)
        if len(values) < 2 or old is None:
            continue
        order = sorted(range(len(values)), key=values.__getitem__)
        here = round(float(old)) - 1
        if here not in order:
            check_free(car, setup, name, place, old)
            continue
        at = order.index(here) + (-steps if number.stiffens == "down" else steps)
        if not 0 <= at < len(order):
            word = "stiffer" if steps > 0 else "softer"
            raise OutOfRange(
                f"{number.where(place)} goes from 1 to {len(values)} on this part: there is none "
                f"{word} than {old:g}.",
                number=name,
                place=place,
                value=old,
            )
        return check_setting(car, name, place, float(order[at] + 1))
    return way_of(number).stiffer(car, number, place, old, steps)


def fitted_at(car: Car, setup: Setup, place: str) -> Iterator[Part]:
    """The parts in use at a place."""
    for kind in part_kinds().values():
        if place in kind.shape.places:
            fitted = car.fitted(setup, kind.name, place)
            if fitted is not None:
                yield fitted


def check_setup(
    car: Car, setup: Setup, *, ranges: bool = True, whole: bool = True
) -> dict[str, list[Any]]:
    """A whole setup, checked at every place; what it does not name is not set. All problems at once.

    `ranges` false leaves the adjusters' ranges alone: an old revision may stand outside of a range
    that was narrowed since. `whole` false looks at what is named alone.
    """
    problems: list[CoreError] = []
    checked: dict[str, list[Any]] = {}
    settable = {number.name: number for number in car.settable()}
    for name, values in setup.items():
        if name not in settable:
            if ranges or not _once_settable(name, values):
                problems.append(UnknownName(f"This car cannot set “{name}”.", number=name))
            else:
                checked[name] = list(values)
    for name, number in settable.items():
        if not whole and name not in setup:
            continue
        values = setup.get(name) or [None] * len(number.shape.places)
        checked[name] = _checked_row(car, number, values, ranges, problems)
    if problems:
        raise Problems(problems)
    return checked


def _checked_row(
    car: Car, number: Number, values: list[Any], ranges: bool, problems: list[CoreError]
) -> list[Any]:
    """One setting at all its places; what is refused is added to the problems."""
    places, checked = number.shape.places, []
    if len(values) != len(places):
        sentence = f"{number.label} needs a value at {', '.join(places)}."
        problems.append(Impossible(sentence, number=number.name))
        return []
    for place, value in zip(places, values, strict=True):
        with collected(problems):
            if ranges or number.is_part or value is None:
                checked.append(check_setting(car, number.name, place, value))
            else:
                checked.append(check_value(number, place, value, car.profile, confirmed=True))
    return checked


def _once_settable(name: str, values: list[Any]) -> bool:
    """Whether a name could be set on some car: an adjuster may have been taken off since."""
    try:
        number = number_named(name)
    except UnknownName:
        return False
    return (
        number.on_slip
        and len(values) == len(number.shape.places)
        and all(has_valid_type(number, value) for value in values)
    )


def has_valid_type(number: Number, value: Any) -> bool:
    """Whether a value is of the kind that a number has: the code of a part, or a figure; None is not set."""
    return value is None or isinstance(value, str if number.is_part else int | float)


def first_setup(car: Car) -> dict[str, list[Any]]:
    """The setup of a car about which nothing is known: nothing fitted, nothing set."""
    return {number.name: [None] * len(number.shape.places) for number in car.settable()}
