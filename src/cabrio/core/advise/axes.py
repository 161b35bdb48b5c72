"""What a plan may move: each setting at an axle or a diagonal with its steps from here, tried alone."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

import numpy as np

from ..car.lines import Line, value_now
from ..car.settings import check_free, way_of
from ..catalog.part import part_kind
from ..catalog.quantities import Array, Number, Shape
from ..errors import CoreError
from ..graph.registry import downstream, figures
from ..knowledge import knowledge
from ..record.readings import upsets_by
from ..sheet.build import Sheet
from ..sheet.what_if import WhatIf, refused_newly, try_lines
from .targets import Touch

STEPS = (1, 2, 3, 4, 6, 8, 12, 16)
"""Steps either way that are looked at first; the best are then tried a step nearer and farther."""
PAIRS = {
    "front": (("LF", 1), ("RF", 1)),
    "rear": (("LR", 1), ("RR", 1)),
    "diagonal": (("LF", 1), ("RF", -1), ("LR", -1), ("RR", 1)),
}
"""How the four corners step together; across a diagonal the heights stay."""


@dataclass
class Option:
    """Some steps of an axis: its lines and what they do to the entered numbers."""

    by: int
    lines: tuple[Line, ...] = ()
    change: dict[str, Array] = field(default_factory=dict)


@dataclass
class Axis:
    """One thing that can be moved: a setting with the places that step together, and its options."""

    number: Number
    signs: tuple[tuple[str, int], ...]
    options: list[Option] = field(default_factory=lambda: [Option(0)])


def axes_of(sheet: Sheet, touch: Touch, wanted: tuple[str, ...]) -> tuple[list[Axis], list[str]]:
    """What may be touched and moves a target, each with its options; and the systems that offer nothing."""
    found: list[Axis] = []
    tried: dict[str, int] = {}
    book = knowledge().systems
    for number in sheet.car.settable():
        if number.system not in touch.systems or number.describes:
            continue
        if number.is_part and not part_kind(number.name).rank:
            continue
        tried.setdefault(number.system, 0)
        for signs in _groups(number):
            axis = Axis(number, signs)
            if touch.spare & set(upsets_by(_plain_lines(axis), ())):
                continue
            for by in (sign * steps for sign in (1, -1) for steps in STEPS):
                option = option_at(sheet, axis, by, wanted)
                if option is None:
                    continue
                if not _moves(sheet, option, wanted):
                    break
                axis.options.append(option)
            tried[number.system] += len(axis.options) - 1
            if len(axis.options) > 1:
                axis.options.sort(key=lambda one: one.by)
                found.append(axis)
    idle = [book[name].label for name in book if name in touch.systems and not tried.get(name)]
    said = [f"Nothing moves these figures among {', '.join(idle)}."] if idle else []
    return found, said


def _groups(number: Number) -> Iterator[tuple[tuple[str, int], ...]]:
    if number.shape is Shape.CORNER:
        for name, signs in PAIRS.items():
            if name != "diagonal" or number.one_side:
                yield signs
    else:
        yield from (((place, 1),) for place in number.shape.places)


def _plain_lines(axis: Axis) -> list[Line]:
    return [Line(axis.number.name, place, None, 1.0) for place, _ in axis.signs]


def option_at(sheet: Sheet, axis: Axis, by: int, wanted: tuple[str, ...]) -> Option | None:
    """An axis some steps on, tried alone; None where the car refuses it or something gets unknown."""
    number, car = axis.number, sheet.car
    way, lines = way_of(number), []
    try:
        for place, sign in axis.signs:
            old = value_now(car, sheet.setup, number.name, place)
            if old is None:
                return None
            check_free(car, sheet.setup, number.name, place)
            lines.append(
                Line(number.name, place, old, way.step(car, number, place, old, sign * by))
            )
        trial = try_lines(sheet, lines, wanted=wanted)
    except CoreError:
        return None
    if refused_newly(sheet, trial) or any(name not in trial.worked.values for name in wanted):
        return None
    return Option(by, tuple(lines), _change(sheet, trial))


def _change(sheet: Sheet, trial: WhatIf) -> dict[str, Array]:
    """What a try did to the entered numbers."""
    known, before = figures(), sheet.worked.values
    return {
        name: array - before[name]
        for name, array in trial.worked.values.items()
        if name not in known
        and array is not before.get(name)
        and name in before
        and array.shape == before[name].shape
        and not np.array_equal(array, before[name])
    }


def _moves(sheet: Sheet, option: Option, wanted: tuple[str, ...]) -> bool:
    """Whether an option reaches any of the figures at all."""
    reached = downstream(option.change) | set(option.change)
    return bool(reached.intersection(wanted))
