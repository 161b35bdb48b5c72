"""Inverse questions: a target in, proposals out, each a set of slip lines with what it would give.

A question is a function under `@question`; its parameters are the figures it is asked for a value of.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Any

import numpy as np

from ..car.lines import Line, value_now
from ..car.settings import check_free, way_of
from ..catalog.quantities import Number
from ..errors import CoreError, Impossible, Missing, UnknownName
from ..graph.registry import number_named
from ..knowledge import knowledge
from ..record.recheck import Recheck
from ..solve.turns import turns_for_cross as solve_turns
from .build import Sheet
from .what_if import WhatIf, moved_by, refused_newly, standing_car, try_lines

MOST_OFFERED = 5


@dataclass(frozen=True)
class Shown:
    """A figure before and after at one place [SI]."""

    name: str
    place: str
    before: float | None
    after: float | None


@dataclass(frozen=True)
class Proposal:
    """One way to the target: its lines, the figures it would give, minutes with rechecks, its limits."""

    label: str
    lines: tuple[Line, ...]
    shows: tuple[Shown, ...]
    minutes: int
    rechecks: tuple[Recheck, ...]
    notes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Question:
    """An inverse question: what it is called, what it asks for, and what answers it."""

    name: str
    label: str
    help: str
    asks: tuple[Number, ...]
    answer: Callable[..., list[Proposal]]


_QUESTIONS: dict[str, Question] = {}


def question(
    *, label: str
) -> Callable[[Callable[..., list[Proposal]]], Callable[..., list[Proposal]]]:
    """Enter a function of a sheet and target figures as a question. Its docstring is its help."""

    def enter(function: Callable[..., list[Proposal]]) -> Callable[..., list[Proposal]]:
        asks = tuple(inspect.signature(function).parameters)[1:]
        help = " ".join(inspect.cleandoc(function.__doc__ or "").split("\n\n")[0].split())
        _QUESTIONS[function.__name__] = Question(
            function.__name__, label, help, tuple(number_named(one) for one in asks), function
        )
        return function

    return enter


def questions() -> dict[str, Question]:
    return _QUESTIONS


def ask(sheet: Sheet, name: str, targets: dict[str, float]) -> list[Proposal]:
    """Proposals for a question, best first. Raises UnknownName, Missing for a target, or its refusal."""
    found = _QUESTIONS.get(name)
    if found is None:
        raise UnknownName(f"There is no question called “{name}”.", value=name)
    for number in found.asks:
        if number.name not in targets:
            raise Missing(f"{number.label}: type the value wanted.", number=number.name)
    return found.answer(sheet, *(targets[number.name] for number in found.asks))


@question(label="Turns for a cross")
def turns_for_cross(sheet: Sheet, cross_share: float) -> list[Proposal]:
    """Perch turns that bring the cross to a target with every ride height kept, bars free."""
    car, pitch = standing_car(sheet), sheet.worked.values.get("perch_pitch")
    if car is None or pitch is None:
        raise Missing(
            "Turns need the pads, springs, tyres and the perch pitch of this car.",
            number="perch_pitch",
        )
    step = number_named("perch_turns").step or 0.25
    found = solve_turns(car, cross_share, np.repeat(pitch, 2), step)
    offered: list[tuple[str, dict[str, float]]] = []
    for words, turned in (("Best rounding", found.best), ("Each rounded alone", found.nearest)):
        turns = {
            place: float(one)
            for place, one in zip(
                number_named("perch_turns").shape.places, turned.turns, strict=True
            )
        }
        if not offered or turns != offered[0][1]:
            offered.append((words, turns))
    return [
        _proposal(
            sheet,
            words,
            _stepped(sheet, "perch_turns", turns),
            ("cross_share", "rake"),
            found.notes,
        )
        for words, turns in offered
    ]


@question(label="Bar holes for a front share")
def holes_for_share(sheet: Sheet, lltd: float) -> list[Proposal]:
    """Bar holes of both axles that come nearest to a front share of load transfer."""
    return _nearest(sheet, "lltd", lltd, ("bar_hole",), ("lltd", "roll_gradient"))


@question(label="Link holes for an anti-squat")
def holes_for_anti_squat(sheet: Sheet, anti_squat: float) -> list[Proposal]:
    """Bracket holes of upper and lower bars that come nearest to an anti-squat."""
    return _nearest(
        sheet,
        "anti_squat",
        anti_squat,
        ("upper_link_hole", "lower_link_hole"),
        ("anti_squat", "ic_x", "rear_separation"),
    )


@question(label="Clicks for a rebound ratio")
def clicks_for_rebound(sheet: Sheet, rebound_ratio_low: float) -> list[Proposal]:
    """Rebound clicks, left as right, that come nearest to a low-speed damping ratio at each axle."""
    offered = []
    for axle, places in (("front", ("LF", "RF")), ("rear", ("LR", "RR"))):
        best = _nearest(
            sheet,
            "rebound_ratio_low",
            rebound_ratio_low,
            ("rebound_clicks",),
            ("rebound_ratio_low",),
            together=places,
        )
        offered += [
            Proposal(
                f"{axle.capitalize()}: {one.label}",
                one.lines,
                one.shows,
                one.minutes,
                one.rechecks,
                one.notes,
            )
            for one in best[:2]
        ]
    return offered


def _stepped(sheet: Sheet, name: str, turns: dict[str, float]) -> list[Line]:
    """Lines that move a setting by these amounts; what nobody set counts from zero."""
    lines = []
    for place, by in turns.items():
        old = value_now(sheet.car, sheet.setup, name, place)
        new = way_of(number_named(name)).check(
            sheet.car, number_named(name), place, round((old or 0.0) + by, 6)
        )
        if abs(by) > 1e-9:
            lines.append(Line(name, place, old, new))
    return lines


def _nearest(
    sheet: Sheet,
    figure: str,
    target: float,
    settings: tuple[str, ...],
    shows: tuple[str, ...],
    together: tuple[str, ...] = (),
) -> list[Proposal]:
    """Every combination of whole steps of some settings, the nearest to the target first.

    `together` names places that take one value. Combinations the car refuses are left out.
    """
    choices = [choice for name in settings for choice in _choices(sheet, name, together)]
    ranked: list[tuple[float, WhatIf]] = []
    for combination in product(*choices):
        lines = [line for part in combination for line in part if line.old != line.new]
        try:
            tried = try_lines(sheet, lines)
        except CoreError:
            continue
        place = together[0] if together else number_named(figure).shape.places[0]
        after = moved_by(sheet, tried, figure, place)[1]
        if after is not None and not refused_newly(sheet, tried):
            ranked.append((abs(after - target), tried))
    if not ranked:
        raise Impossible(
            f"No setting of this car gives {number_named(figure).label.lower()} a value yet.",
            number=figure,
        )
    ranked.sort(key=lambda one: (one[0], len(one[1].lines)))
    return [_told(tried, _said(sheet, tried.lines), shows) for _, tried in ranked[:MOST_OFFERED]]


def _choices(sheet: Sheet, name: str, together: tuple[str, ...]) -> list[list[list[Line]]]:
    """What one setting can be: at each place of its own, or at several alike."""
    number = number_named(name)
    groups: Sequence[tuple[str, ...]] = (
        [together] if together else [(p,) for p in number.shape.places]
    )
    adjuster = sheet.car.adjusters.get(name)
    if adjuster is None:
        raise UnknownName(f"This car has no adjuster for {number.label.lower()}.", number=name)
    found = []
    for places in groups:
        low, high = adjuster.range_at(places[0])
        values = [
            low + i * (number.step or 1.0)
            for i in range(round((high - low) / (number.step or 1.0)) + 1)
        ]
        found.append(
            [_lines(sheet, name, places, value) for value in values if _may(sheet, name, places)]
            or [[]]
        )
    return found


def _may(sheet: Sheet, name: str, places: Iterable[str]) -> bool:
    try:
        for place in places:
            check_free(sheet.car, sheet.setup, name, place)
    except CoreError:
        return False
    return True


def _lines(sheet: Sheet, name: str, places: Iterable[str], value: Any) -> list[Line]:
    return [
        Line(name, place, value_now(sheet.car, sheet.setup, name, place), value) for place in places
    ]


def _proposal(
    sheet: Sheet, label: str, lines: list[Line], shows: tuple[str, ...], notes: tuple[str, ...] = ()
) -> Proposal:
    return _told(try_lines(sheet, lines), f"{label}: {_said(sheet, lines)}", shows, notes)


def _told(
    tried: WhatIf, label: str, shows: tuple[str, ...], notes: tuple[str, ...] = ()
) -> Proposal:
    """A tried change as a proposal: what it gives, how long it takes with all it makes stale."""
    shown = tuple(
        Shown(name, place, *moved_by(tried.sheet, tried, name, place))
        for name in shows
        for place in number_named(name).shape.places
    )
    effort = knowledge().work.effort
    work = max((effort[line.name] for line in tried.lines), default=0)
    again = tuple(tried.rechecks)
    return Proposal(
        label,
        tried.lines,
        shown,
        work + sum(one.minutes for one in again),
        again,
        (*notes, *(one.sentence for one in tried.unknown)),
    )


def _said(sheet: Sheet, lines: Iterable[Line]) -> str:
    """The values wanted, once where places take one alike."""
    words: dict[str, list[str]] = {}
    for line in lines:
        number = number_named(line.name)
        shown = way_of(number).show(sheet.car, number, line.new)
        words.setdefault(f"{number.label.lower()} {shown}", []).append(line.place)
    return (
        "; ".join(
            f"{what} ({', '.join(places)})" if places != ["car"] else what
            for what, places in words.items()
        )
        or "as it stands"
    )
