"""Left against right: what is set or fitted unlike on the two sides, told before the car is back on its wheels."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from ..catalog.disciplines import disciplines
from ..catalog.parts import FACES, Damper
from ..catalog.places import PAIRS
from ..catalog.quantities import Shape
from ..graph.registry import number_named
from .model import Car, Setup
from .settings import way_of


@dataclass(frozen=True)
class Uneven:
    """One thing that differs between the two sides of an axle."""

    name: str
    axle: str
    sentence: str


def uneven(car: Car, setup: Setup) -> list[Uneven]:
    """Everything set or fitted unlike on two sides that are set alike, in the dictionary's order; then the dampers.

    It is told, not judged: a perch or a camber may be so on purpose. A dead adjuster is always told,
    for the other side must follow it.
    """
    found = []
    paired = disciplines()[car.discipline].paired
    for name, values in setup.items():
        number = number_named(name)
        if number.shape is not Shape.CORNER:
            continue
        way = way_of(number)
        for axle, (left, right) in paired.items():
            a, b = values[number.index(left)], values[number.index(right)]
            if a != b and not _like_parts(car, name, a, b):
                words = " against ".join(way.show(car, number, one) for one in (a, b))
                found.append(
                    Uneven(name, axle, f"{number.label}, {axle}: {words}, left and right.")
                )
    for axle, (left, right) in PAIRS.items():
        worn = [car.fitted(setup, "damper", place) for place in (left, right)]
        a, b = (one if isinstance(one, Damper) else None for one in worn)
        found += [
            dead
            for place, one in zip((left, right), (a, b), strict=True)
            if one
            for dead in _dead(axle, place, one)
        ]
        found += _unmatched(axle, a, b, (left, right)) if axle in paired else ()
    return found


def _like_parts(car: Car, name: str, a: Any, b: Any) -> bool:
    """Whether two codes name parts of one make."""
    if not number_named(name).is_part:
        return False
    one, two = car.part(name, a), car.part(name, b)
    if one is None or two is None:
        return False
    return one.alike(two)


def _unmatched(
    axle: str, left: Damper | None, right: Damper | None, places: tuple[str, str]
) -> list[Uneven]:
    """How the dampers of an axle differ."""
    found: list[Uneven] = []
    if left is None or right is None:
        if left is not right:
            missing = places[0] if left is None else places[1]
            found.append(Uneven("damper", axle, f"{missing}: no damper is written down."))
        return found
    for face in FACES:
        a, b = left.adjustment(face), right.adjustment(face)
        if (a is None) != (b is None) or (a and b and a.clicks != b.clicks):
            found.append(
                Uneven("damper", axle, f"Dampers, {axle}: other {face} knobs left and right.")
            )
        elif a and b and a.curves != b.curves:
            found.append(
                Uneven("damper", axle, f"Dampers, {axle}: other {face} curves left and right.")
            )
    stacks = {valving.face: valving for valving in right.valving}
    for valving in left.valving:
        for said in valving.differences(stacks.get(valving.face, valving)):
            found.append(Uneven("damper", axle, f"Dampers, {axle}, {valving.face} {said}."))
    return found


def _dead(axle: str, place: str, damper: Damper) -> Iterator[Uneven]:
    """The adjusters of a damper that no longer move."""
    for face in FACES:
        adjustment = damper.adjustment(face)
        if adjustment is not None and adjustment.dead_at is not None:
            yield Uneven(
                f"{face}_clicks",
                axle,
                f"{place}: the {face} knob is dead at click {adjustment.dead_at:g}. "
                "Set the other side to it.",
            )
