"""Inverse questions: a target in, proposals out, each a set of slip lines with what it would give.

A question is a function under `@question`; its parameters are the figures it is asked for a value of,
with the axle after the name where each axle has its own: `axle_height_front`.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from itertools import product
from typing import Any

from ..car.lines import Line, value_now
from ..car.settings import check_free, check_setting, way_of
from ..catalog.quantities import PLACES, Number, Shape
from ..catalog.units import show
from ..errors import CoreError, Impossible, Missing, UnknownName
from ..graph.registry import number_named
from ..record.recheck import Recheck, work_minutes
from ..sheet.build import Sheet
from ..sheet.limits import refuse_what_it_breaks
from ..sheet.what_if import WhatIf, moved_by, refused_newly, try_lines

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
class Asked:
    """A figure that a question wants a value of, and the axle where each has its own."""

    number: Number
    place: str = ""

    @property
    def key(self) -> str:
        return "_".join(filter(None, (self.number.name, self.place)))


@dataclass(frozen=True)
class Question:
    """An inverse question: what it is called, what it asks for, and what answers it."""

    name: str
    label: str
    help: str
    asks: tuple[Asked, ...]
    answer: Callable[..., list[Proposal]]


_QUESTIONS: dict[str, Question] = {}


def question(
    *, label: str
) -> Callable[[Callable[..., list[Proposal]]], Callable[..., list[Proposal]]]:
    """Enter a function of a sheet and target figures as a question. Its docstring is its help."""

    def enter(function: Callable[..., list[Proposal]]) -> Callable[..., list[Proposal]]:
        asks = tuple(map(_asked, list(inspect.signature(function).parameters)[1:]))
        help = " ".join(inspect.cleandoc(function.__doc__ or "").split("\n\n")[0].split())
        _QUESTIONS[function.__name__] = Question(function.__name__, label, help, asks, function)
        return function

    return enter


def _asked(parameter: str) -> Asked:
    name, _, place = parameter.rpartition("_")
    if place in PLACES[Shape.AXLE]:
        return Asked(number_named(name), place)
    return Asked(number_named(parameter))


def questions() -> dict[str, Question]:
    """Every one by name, in the order of its declaration."""
    return _QUESTIONS


def refuse_unknown(name: str) -> Question:
    """The question of that name. Raises UnknownName."""
    try:
        return questions()[name]
    except KeyError:
        raise UnknownName(f"There is no question called “{name}”.", value=name) from None


def ask(sheet: Sheet, name: str, targets: dict[str, float]) -> list[Proposal]:
    """Proposals for a question, best first. Raises UnknownName, Missing for a target, or its refusal."""
    found = refuse_unknown(name)
    for ask in found.asks:
        if ask.key not in targets:
            raise Missing(f"{ask.number.label}: type the value wanted.", number=ask.key)
    return found.answer(sheet, *(targets[ask.key] for ask in found.asks))


def stepped(sheet: Sheet, name: str, turns: dict[str, float]) -> list[Line]:
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


def nearest(
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
    place = together[0] if together else number_named(figure).shape.places[0]
    for combination in product(*choices):
        lines = [line for part in combination for line in part if line.old != line.new]
        try:
            tried = try_lines(sheet, lines)
        except CoreError:
            continue
        after = moved_by(sheet, tried, figure, place)[1]
        if after is not None and not refused_newly(sheet, tried):
            ranked.append((after, tried))
    if not ranked:
        raise Impossible(
            f"No setting of this car gives {number_named(figure).label.lower()} a value yet.",
            number=figure,
        )
    notes = _out_of_reach(sheet, figure, target, [after for after, _ in ranked])
    ranked.sort(key=lambda one: (abs(one[0] - target), len(one[1].lines)))
    offered: list[Proposal] = []
    refusal: CoreError | None = None
    for _, tried in ranked:
        try:
            offered.append(as_proposal(tried, lines_text(sheet, tried.lines), shows, notes))
        except Impossible as broken:
            refusal = refusal or broken
        if len(offered) == MOST_OFFERED:
            break
    if not offered and refusal is not None:
        raise refusal
    return offered


def _out_of_reach(
    sheet: Sheet, figure: str, target: float, reached: list[float]
) -> tuple[str, ...]:
    """A note that no setting gives the target, with the least and the most that they give."""
    number = number_named(figure)

    def shown(value: float, *, unit: bool = True) -> str:
        return show(value, number.quantity, sheet.car.profile, unit=unit)

    low, high = min(reached), max(reached)
    if low <= target <= high or shown(target) in (shown(low), shown(high)):
        return ()
    return (
        f"{shown(target)} is out of reach: the settings there are give {shown(low, unit=False)} to "
        f"{shown(high)}.",
    )


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
            [
                _lines(sheet, name, places, value)
                for value in values
                if _may(sheet, name, places, value)
            ]
            or [[]]
        )
    return found


def _may(sheet: Sheet, name: str, places: Iterable[str], value: float) -> bool:
    """Whether a setting may stand at a value: within its own range at each place, and on the part there."""
    try:
        for place in places:
            check_free(sheet.car, sheet.setup, name, place, value)
            check_setting(sheet.car, name, place, value)
    except CoreError:
        return False
    return True


def _lines(sheet: Sheet, name: str, places: Iterable[str], value: Any) -> list[Line]:
    return [
        Line(name, place, value_now(sheet.car, sheet.setup, name, place), value) for place in places
    ]


def proposal(
    sheet: Sheet, label: str, lines: list[Line], shows: tuple[str, ...], notes: tuple[str, ...] = ()
) -> Proposal:
    """The one change that answers a question. What it takes away from the car is said with it."""
    tried, words = try_lines(sheet, lines), f"{label}: {lines_text(sheet, lines)}"
    try:
        return as_proposal(tried, words, shows, notes)
    except Impossible as broken:
        return _as_proposal(tried, words, shows, (*notes, broken.sentence))


def as_proposal(
    tried: WhatIf, label: str, shows: tuple[str, ...], notes: tuple[str, ...] = ()
) -> Proposal:
    """A tried change as a proposal: what it gives, how long it takes with all it makes stale.

    Raises Impossible where it takes away what the car needs, as a slip of these lines would.
    """
    return _as_proposal(tried, label, shows, (*notes, *refuse_what_it_breaks(tried.sheet, tried)))


def _as_proposal(
    tried: WhatIf, label: str, shows: tuple[str, ...], notes: tuple[str, ...] = ()
) -> Proposal:
    shown = tuple(
        Shown(name, place, *moved_by(tried.sheet, tried, name, place))
        for name in shows
        for place in number_named(name).shape.places
    )
    work = work_minutes(tried.lines)
    again = tuple(tried.rechecks)
    return Proposal(
        label,
        tried.lines,
        shown,
        work + sum(one.minutes for one in again),
        again,
        (*notes, *(one.sentence for one in tried.unknown), *tried.notes),
    )


def lines_text(sheet: Sheet, lines: Iterable[Line]) -> str:
    """What the hand does at each place: turns as they are wound, else the values wanted; once where places take
    one alike."""
    words: dict[str, list[str]] = {}
    for line in lines:
        words.setdefault(_hand(sheet, line), []).append(line.place)
    return "; ".join(what.format(", ".join(at)) for what, at in words.items()) or "as it stands"


def _hand(sheet: Sheet, line: Line) -> str:
    """One line in words, its places to be put in."""
    number = number_named(line.name)
    if number.quantity == "turns" and line.old is not None:
        by = show(abs(line.new - line.old), number.quantity, sheet.car.profile)
        return f"{{}} wind {'up' if line.new > line.old else 'down'} {by}"
    shown = way_of(number).show(sheet.car, number, line.new).replace("{", "{{").replace("}", "}}")
    return f"{number.label.lower()} {shown}" + ("" if line.place == "car" else " ({})")
