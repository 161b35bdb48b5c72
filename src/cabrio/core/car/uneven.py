"""Left against right: what is set or fitted unlike on the two sides, told before the car is back on its wheels."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ..catalog.hardware import Damper, Face
from ..catalog.quantities import Shape
from ..catalog.units import show
from ..graph.registry import number_named
from .model import Car, Setup

PAIRS = (("front", "LF", "RF"), ("rear", "LR", "RR"))
FACES: tuple[Face, ...] = ("compression", "rebound")


@dataclass(frozen=True)
class Uneven:
    """One thing that differs between the two sides of an axle."""

    name: str
    axle: str
    sentence: str


def uneven(car: Car, setup: Setup) -> list[Uneven]:
    """Everything set or fitted unlike on the two sides, in the dictionary's order; then the dampers.

    It is told, not judged: a perch or a camber may be so on purpose. A dead adjuster is always told,
    for the other side must follow it.
    """
    found = []
    for name, values in setup.items():
        number = number_named(name)
        if number.shape is not Shape.CORNER:
            continue
        for axle, left, right in PAIRS:
            a, b = values[number.index(left)], values[number.index(right)]
            if a != b:
                words = " against ".join(_shown(car, name, one) for one in (a, b))
                found.append(
                    Uneven(name, axle, f"{number.label}, {axle}: {words}, left and right.")
                )
    for axle, left, right in PAIRS:
        found += _dampers(axle, car.dampers.get(left), car.dampers.get(right), (left, right))
    return found


def _shown(car: Car, name: str, value: Any) -> str:
    if name == "spring" or value is None:
        return str(value or "none")
    return show(value, number_named(name).quantity, car.profile)


def _dampers(
    axle: str, left: Damper | None, right: Damper | None, places: tuple[str, str]
) -> list[Uneven]:
    found = []
    for place, damper in zip(places, (left, right), strict=True):
        for face in FACES:
            adjustment = damper.adjustment(face) if damper else None
            if adjustment is not None and adjustment.dead_at is not None:
                found.append(Uneven(
                    f"{face}_clicks", axle, f"{place}: the {face} knob is dead at click "
                    f"{adjustment.dead_at:g}. Set the other side to it."))  # fmt: skip
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
            found.append(Uneven(
                "damper", axle, f"Dampers, {axle}: other {face} curves left and right."))  # fmt: skip
    stacks = {valving.face: valving for valving in right.valving}
    for valving in left.valving:
        for said in valving.differences(stacks.get(valving.face, valving)):
            found.append(Uneven("damper", axle, f"Dampers, {axle}, {valving.face} {said}."))
    return found
