"""One change, and what many of them make of a car and its setup."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import cache
from typing import Any

from ..errors import UnknownName
from ..graph.registry import number_named, numbers
from .model import Car, Given, Setup


@dataclass(frozen=True)
class Line:
    """One change: a set number, a fitted part or a fact at a place, from what to what."""

    name: str
    place: str
    old: Any
    new: Any

    def inverse(self) -> Line:
        return Line(self.name, self.place, self.new, self.old)


def value_now(car: Car, setup: Setup, name: str, place: str) -> Any:
    """What a number is at a place before any slip: a setting, a fitted code or a fact. None: not set."""
    number = number_named(name)
    at = number.index(place)
    if number.is_fact:
        given = car.given.get(name)
        return given.values[at] if given else None
    values = setup.get(name)
    return values[at] if values else None


@cache
def _place_in_dictionary(name: str) -> int:
    return list(numbers()).index(name)


def differences(old: Setup, new: Setup) -> list[Line]:
    """What differs between two setups, in the dictionary's order."""
    lines = []
    known = numbers()
    named = [name for name in {**old, **new} if name in known]
    for number in map(known.__getitem__, sorted(named, key=_place_in_dictionary)):
        before, after = old.get(number.name), new.get(number.name)
        if before is None and after is None:
            continue
        count = len(number.shape.places)
        for place, a, b in zip(
            number.shape.places, before or [None] * count, after or [None] * count, strict=True
        ):
            if a != b:
                lines.append(Line(number.name, place, a, b))
    return lines


def altered(car: Car, left: int, right: int) -> list[Line]:
    """Facts that work on the car altered between two revisions."""
    a, b = car.at(left), car.at(right)
    lines = []
    for name, given in b.given.items():
        before = a.given.get(name)
        if before is None or before.since == given.since:
            continue
        for place, x, y in zip(
            number_named(name).shape.places, before.values, given.values, strict=True
        ):
            if x != y:
                lines.append(Line(name, place, x, y))
    return lines


def with_lines(setup: Setup, lines: Iterable[Line]) -> dict[str, list[Any]]:
    """The setup after these lines, facts left out. The old values are not looked at."""
    changed = {name: list(values) for name, values in setup.items()}
    for line in lines:
        number = number_named(line.name)
        if number.is_fact:
            continue
        if not number.on_slip:
            raise UnknownName(f"This car cannot set “{line.name}”.", number=line.name)
        row = changed.setdefault(line.name, [None] * len(number.shape.places))
        row[number.index(line.place)] = line.new
    return changed


def car_after(
    car: Car, lines: Iterable[Line], *, revision: int = 0, by: str = "", at: str = ""
) -> Car:
    """The car with the facts that these lines alter; what stood before is kept with it."""
    for line in lines:
        number = number_named(line.name)
        if not number.is_fact:
            continue
        places = number.shape.places
        before = car.given.get(line.name) or Given((None,) * len(places))
        now = (
            before
            if before.since == revision and revision
            else replace(
                before, since=revision, was=(), earlier=before if line.name in car.given else None
            )
        )
        i = number.index(line.place)
        values = (*now.values[:i], line.new, *now.values[i + 1 :])
        guessed = tuple(now.estimated_at(j) and j != i for j in range(len(places)))
        car = car.with_given(
            line.name,
            replace(now, values=values, estimated=any(guessed) and guessed, by=by, at=at, why=""),
        )
    return car
