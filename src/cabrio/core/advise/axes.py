"""What a plan may move: each setting at an axle or a diagonal with its steps from here, tried alone."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field

import numpy as np

from ..arrays import Array
from ..car.lines import Line, value_now
from ..car.settings import check_free, way_of
from ..catalog.disciplines import disciplines
from ..catalog.part_kinds import part_kind
from ..catalog.places import PAIRS
from ..catalog.quantities import Number, Shape
from ..errors import CoreError
from ..graph.registry import downstream, figures
from ..knowledge import knowledge
from ..record.standing import invalidated_by
from ..sheet.build import Sheet
from ..sheet.what_if import WhatIf, refused_newly, try_lines
from .target_figures import balance_moves, is_loaded, needed_for, worked_for
from .targets import Touch

STEPS = (1, 2, 3, 4, 6, 8, 12, 16)
"""Steps either way that are looked at first; the best are then tried a step nearer and farther."""
Signs = tuple[tuple[str, int], ...]
DIAGONAL: Signs = (("LF", 1), ("RF", -1), ("LR", -1), ("RR", 1))
"""Across a diagonal the heights stay."""
HALF_DIAGONAL: Signs = (("LF", 1), ("RF", -1))
"""The finer step between two of them, in front alone."""
HALF, FAR = 1, 1000
"""How many steps half a diagonal may go, which further on would only tilt the car; and how many all else may."""


@dataclass
class Option:
    """Some steps of an axis: its lines and what they do to the entered numbers."""

    by: int
    lines: tuple[Line, ...] = ()
    change: dict[str, Array] = field(default_factory=dict)
    trial: WhatIf | None = None
    balance: float = 0.0
    """How far it moves the grip balance, where that is aimed at [m/s²]."""


@dataclass
class Axis:
    """One thing that can be moved: a setting with the places that step together, and its options."""

    number: Number
    signs: Signs
    options: list[Option] = field(default_factory=lambda: [Option(0)])
    most: int = FAR


def axes_of(sheet: Sheet, touch: Touch, wanted: tuple[str, ...]) -> tuple[list[Axis], list[str]]:
    """What may be touched and moves a target, each with its options; and the systems that offer nothing."""
    found: list[Axis] = []
    tried: dict[str, int] = {}
    book = knowledge().systems
    for number in sheet.car.settable():
        if number.system not in touch.systems or number.is_description:
            continue
        tried.setdefault(number.system, 0)
        for axis in _axes(sheet, number, wanted):
            if touch.spare & set(invalidated_by(_plain_lines(axis), ())):
                continue
            tried[number.system] += len(axis.options) - 1
            if len(axis.options) > 1:
                axis.options.sort(key=lambda option: option.by)
                found.append(axis)
    if any(map(is_loaded, wanted)):
        _load(sheet, found)
    idle = [book[name].label for name in book if name in touch.systems and not tried.get(name)]
    said = [f"Nothing moves these figures among {', '.join(idle)}."] if idle else []
    return found, said


def _axes(sheet: Sheet, number: Number, wanted: tuple[str, ...]) -> Iterator[Axis]:
    """The axes of a setting, every step that moves one of the figures among their options."""
    if number.shape is Shape.BALLAST:
        yield from _pieces(sheet, number, wanted)
        return
    if number.is_part and not part_kind(number.name).rank:
        return
    for signs in _together(sheet, number, across="cross_share" in wanted):
        axis = Axis(number, signs, most=HALF if signs == HALF_DIAGONAL else FAR)
        for by in (sign * steps for sign in (1, -1) for steps in STEPS):
            option = option_at(sheet, axis, by, wanted)
            if option is None:
                continue
            if not _moves(sheet, option, wanted):
                break
            axis.options.append(option)
        yield axis


def _pieces(sheet: Sheet, number: Number, wanted: tuple[str, ...]) -> Iterator[Axis]:
    """Ballast: what is on the shelf bolted down, each piece in a place of its own, and what is on taken off."""
    places = number.shape.places
    worn = list(sheet.setup.get(number.name) or [None] * len(places))
    free = [place for place, code in zip(places, worn, strict=True) if code is None]
    on = [(place, code, None) for place, code in zip(places, worn, strict=True) if code is not None]
    shelf = [part.code for part in sheet.car.parts.of(number.name) if part.code not in worn]
    for place, old, new in (
        *on,
        *((place, None, code) for place, code in zip(free, shelf, strict=False)),
    ):
        option = _tried(sheet, 1, (Line(number.name, place, old, new),), wanted)
        if option is not None and _moves(sheet, option, wanted):
            yield Axis(number, ((place, 1),), [Option(0), option])


def _load(sheet: Sheet, axes: Sequence[Axis]) -> None:
    """Every option loaded alone, all in one batch: how far it moves the grip balance."""
    options = [option for axis in axes for option in axis.options if option.trial is not None]
    moves = balance_moves(sheet, [option.trial for option in options])
    for option, moved in zip(options, moves, strict=True):
        option.balance = float(moved)


def _together(sheet: Sheet, number: Number, across: bool) -> Iterator[Signs]:
    """How the places of a setting step together: `across` with half a diagonal, too."""
    if number.shape is not Shape.CORNER:
        yield from (((place, 1),) for place in number.shape.places)
        return
    paired = disciplines()[sheet.car.discipline].paired
    for axle, corners in PAIRS.items():
        if axle in paired:
            yield tuple((corner, 1) for corner in corners)
        else:
            yield from (((corner, 1),) for corner in corners)
    if number.single_corner:
        yield DIAGONAL
        if across:
            yield HALF_DIAGONAL


def _plain_lines(axis: Axis) -> list[Line]:
    return [Line(axis.number.name, place, None, 1.0) for place, _ in axis.signs]


def option_at(sheet: Sheet, axis: Axis, by: int, wanted: tuple[str, ...]) -> Option | None:
    """An axis some steps on, tried alone; None where the car refuses it or something gets unknown."""
    number, car = axis.number, sheet.car
    if abs(by) > axis.most:
        return None
    way, lines = way_of(number), []
    try:
        for place, sign in axis.signs:
            old = value_now(car, sheet.setup, number.name, place)
            if old is None:
                return None
            new = way.step(car, number, place, old, sign * by)
            check_free(car, sheet.setup, number.name, place, None if number.is_part else new)
            lines.append(Line(number.name, place, old, new))
    except CoreError:
        return None
    return _tried(sheet, by, lines, wanted)


def _tried(sheet: Sheet, by: int, lines: Sequence[Line], wanted: tuple[str, ...]) -> Option | None:
    """Lines as an option; None where the car refuses them or something gets unknown."""
    try:
        trial = try_lines(sheet, lines, wanted=worked_for(wanted))
    except CoreError:
        return None
    if refused_newly(sheet, trial) or any(
        name not in trial.worked.values for name in needed_for(wanted)
    ):
        return None
    return Option(by, tuple(lines), _change(sheet, trial), trial)


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
    return bool(reached.intersection(worked_for(wanted)))
