"""Readings: what an instrument said, under which conditions, and whether it still counts."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..car.model import Car
from ..catalog.checks import check_value
from ..catalog.quantities import Number
from ..catalog.units import parse, show
from ..errors import CoreError, Missing, Problems, UnknownName, Unusual
from ..graph.registry import number_named
from ..knowledge import Condition, ReadingKind, knowledge

UNSTABLE = {"mass": 2.0, "height": 0.002}
"""Repeats that differ by more than this are asked about [kg, m]; workshop defaults."""
STAGES = {"": "as it stands", "before": "as it came", "after": "as it left"}
"""When in a visit a reading was taken: an outside shop gives both."""
MOST_REPEATS = 12


Row = list[float | None]
"""A number's values by place [SI], None where it was not read."""


@dataclass(frozen=True)
class Taken:
    """How a reading was taken: with what, where, by eye, at which stage of a visit.

    `zero` is what the instrument itself adds, by number [SI]: it is taken off what was typed.
    """

    instrument: str = ""
    place: str = ""
    by_eye: bool = False
    stage: str = ""
    zero: dict[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class Reading:
    """One reading. `repeats` holds each repeat, None at a place that was not read; the values worked with
    are their mean.

    `revision` is the setup on the car when it was taken.
    """

    id: int
    kind: str
    revision: int
    by: str
    at: str
    repeats: dict[str, list[Row]] = field(default_factory=dict)
    conditions: dict[str, bool] = field(default_factory=dict)
    note: str = ""
    withdrawn_by: str | None = None
    withdrawn_at: str | None = None
    withdrawn_why: str | None = None
    taken: Taken = field(default_factory=Taken)

    @property
    def values(self) -> dict[str, Row]:
        return {name: mean_of(repeats) for name, repeats in self.repeats.items()}

    def whole(self, name: str) -> list[float]:
        """A number of which every place was read. Raises Missing where one was not."""
        row = self.values.get(name, [None])
        values_read = [one for one in row if one is not None]
        if len(values_read) < len(row):
            raise Missing(f"{number_named(name).label} was not read at every place.", number=name)
        return values_read

    def unmet(self) -> list[Condition]:
        """Conditions of its kind that did not hold, so that it cannot count without a doubt."""
        book = knowledge()
        wanted = book.readings[self.kind].conditions
        return [book.conditions[name] for name in wanted if not self.conditions.get(name)]


def mean_of(repeats: list[Row]) -> Row:
    """The mean of the repeats at each place; None where none was read."""
    return [sum(column) / len(column) if column else None for column in _columns(repeats)]


def spread_of(repeats: list[Row]) -> list[float]:
    """Largest less smallest of the repeats, at each place; 0 where it was not read."""
    return [max(column) - min(column) if column else 0.0 for column in _columns(repeats)]


def _columns(repeats: list[Row]) -> list[list[float]]:
    return [[one for one in column if one is not None] for column in zip(*repeats, strict=True)]


def kind_named(kind: str, car: Car) -> ReadingKind:
    """Raises UnknownName for a reading that this car does not have."""
    found = knowledge().readings.get(kind)
    if found is None or not found.fits(car.discipline, car.rear_layout):
        raise UnknownName(f"There is no reading called “{kind}” for this car.", value=kind)
    return found


def check_repeats(
    kind: ReadingKind,
    typed: Mapping[str, list[list[Any]]],
    profile: str,
    *,
    confirmed: bool = False,
    zero: Mapping[str, Any] | None = None,
) -> tuple[dict[str, list[Row]], dict[str, float]]:
    """What was typed for each number and repeat, as SI less the instrument's zero; and that zero.

    Numbers a kind can do without may be left out or empty, and so may a place, but of those that are read
    together. All problems are raised at once; places of
    the problems carry the repeat: `LF`, then `LF 2`. Unusual values and a spread that is too large
    are asked about unless confirmed.
    """
    problems: list[CoreError] = []
    checked: dict[str, list[Row]] = {}
    offsets = _zero(kind, zero or {}, profile, problems)
    for name in kind.numbers:
        number = number_named(name)
        repeats = [row for row in typed.get(name) or [] if any(map(is_filled, row))]
        if not repeats:
            if name not in kind.optional:
                problems.append(Missing(f"{kind.label} needs {number.label.lower()}.", number=name))
            continue
        if len(repeats) > MOST_REPEATS:
            problems.append(
                UnknownName(f"{number.label}: at most {MOST_REPEATS} repeats.", number=name)
            )
            continue
        checked[name] = [
            _row(kind, number, row, turn, profile, problems, confirmed, offsets.get(name, 0.0))
            for turn, row in enumerate(repeats)
        ]
    if not problems:
        problems += _apart(kind, checked)
    for name in set(typed) - set(kind.numbers):
        problems.append(UnknownName(f"{kind.label} does not record “{name}”.", number=name))
    if not problems and not checked and kind.numbers and not kind.is_check:
        problems.append(Missing(f"{kind.label} needs at least one number.", number=kind.numbers[0]))
    if not problems and not confirmed:
        problems += _unstable(checked, profile)
    if problems:
        raise Problems(problems)
    return checked, offsets


def is_filled(cell: Any) -> bool:
    """Whether something was typed in a cell."""
    return cell is not None and (not isinstance(cell, str) or bool(cell.strip()))


def _zero(
    kind: ReadingKind, typed: Mapping[str, Any], profile: str, problems: list[CoreError]
) -> dict[str, float]:
    found = {}
    for name, value in typed.items():
        if not is_filled(value):
            continue
        try:
            if name not in kind.numbers:
                raise UnknownName(f"{kind.label} does not record “{name}”.", number=name)
            found[name] = parse(value, number_named(name).quantity, profile)
        except CoreError as problem:
            problem.number, problem.place = name, "zero"
            problems.append(problem)
    return found


def _row(
    kind: ReadingKind,
    number: Number,
    row: list[Any],
    turn: int,
    profile: str,
    problems: list[CoreError],
    confirmed: bool,
    zero: float,
) -> Row:
    values: Row = []
    places = number.shape.places
    if any(map(is_filled, row[len(places) :])):
        where = ", ".join(places)
        sentence = f"{number.label} is read at {where}: more values were told than that."
        problems.append(UnknownName(sentence, number=number.name))
    for i, place in enumerate(places):
        cell = row[i] if i < len(row) and row[i] is not None else ""
        if not is_filled(cell) and number.name not in kind.together:
            values.append(None)
            continue
        try:
            if zero and is_filled(cell):
                cell = parse(cell, number.quantity, profile) - zero
            values.append(check_value(number, place, cell, profile, confirmed=confirmed))
        except CoreError as problem:
            problem.number, problem.place = number.name, f"{place} {turn + 1}" if turn else place
            problems.append(problem)
    return values


def _apart(kind: ReadingKind, checked: Mapping[str, list[Row]]) -> list[CoreError]:
    """Places at which one of the numbers that a kind needs was read and another was not."""
    found: list[CoreError] = []
    first: tuple[Number, Row] | None = None
    for name in kind.numbers:
        number = number_named(name)
        if name in kind.optional or name not in checked or len(number.shape.places) == 1:
            continue
        row = mean_of(checked[name])
        if first is None:
            first = number, row
            continue
        for place, a, b in zip(number.shape.places, first[1], row, strict=True):
            if (a is None) != (b is None):
                lacking, other = (first[0], number) if a is None else (number, first[0])
                found.append(
                    Missing(
                        f"{lacking.where(place)}: read it too, or leave {other.label.lower()} empty there.",
                        number=lacking.name,
                        place=place,
                    )
                )
    return found


def _unstable(checked: dict[str, list[Row]], profile: str) -> list[CoreError]:
    found: list[CoreError] = []
    for name, repeats in checked.items():
        number = number_named(name)
        most = UNSTABLE.get(number.quantity)
        for place, gap in zip(number.shape.places, spread_of(repeats), strict=True):
            if most is not None and gap > most:
                found.append(
                    Unusual(
                        f"{number.where(place)} differs by {show(gap, number.quantity, profile)} between "
                        "repeats: settle the car and read again, or confirm it.",
                        number=name,
                        place=place,
                    )
                )
    return found
