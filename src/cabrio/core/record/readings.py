"""Readings: what an instrument said, under which conditions, and whether it still counts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cache
from typing import Any

from ..car.model import Line
from ..catalog.checks import check_value
from ..catalog.units import show
from ..errors import CoreError, Missing, Problems, UnknownName, Unusual
from ..graph.registry import number_named
from ..knowledge import Condition, ReadingKind, knowledge

UNSTABLE_SPREAD = 2.0
"""Pads that differ by more than this between settles are asked about [kg]; a workshop default."""


@dataclass(frozen=True)
class Reading:
    """One reading. `settles` holds each repeat; the values worked with are their mean.

    `revision` is the setup on the car when it was taken.
    """

    id: int
    kind: str
    revision: int
    by: str
    at: str
    settles: dict[str, list[list[float]]] = field(default_factory=dict)
    conditions: dict[str, bool] = field(default_factory=dict)
    fuel_mass: float | None = None
    note: str = ""
    withdrawn_by: str | None = None
    withdrawn_at: str | None = None
    withdrawn_why: str | None = None

    @property
    def values(self) -> dict[str, list[float]]:
        return {name: mean_of(repeats) for name, repeats in self.settles.items()}

    def unmet(self) -> list[Condition]:
        """Conditions of its kind that did not hold, so that it cannot count without a doubt."""
        book = knowledge()
        wanted = book.readings[self.kind].conditions
        return [book.conditions[name] for name in wanted if not self.conditions.get(name)]


def mean_of(repeats: list[list[float]]) -> list[float]:
    return [sum(column) / len(column) for column in zip(*repeats, strict=True)]


def spread_of(repeats: list[list[float]]) -> list[float]:
    """Largest less smallest of the repeats, at each place."""
    return [max(column) - min(column) for column in zip(*repeats, strict=True)]


def kind_named(kind: str, discipline: str) -> ReadingKind:
    found = knowledge().readings.get(kind)
    if found is None or discipline not in found.disciplines:
        raise UnknownName(f"There is no reading called “{kind}” for this car.", value=kind)
    return found


def check_settles(
    kind: ReadingKind,
    typed: Mapping[str, list[list[Any]]],
    profile: str,
    *,
    confirmed: bool = False,
) -> dict[str, list[list[float]]]:
    """What was typed for each number and settle, as SI. All problems are raised at once.

    Places of the problems carry the settle: `LF`, then `LF 2`. Unusual values and a spread that is
    too large are asked about unless confirmed.
    """
    problems: list[CoreError] = []
    checked: dict[str, list[list[float]]] = {}
    for name in kind.numbers:
        number = number_named(name)
        repeats = typed.get(name) or []
        if not repeats:
            problems.append(Missing(f"{kind.label} needs {number.label.lower()}.", number=name))
        checked[name] = []
        for turn, row in enumerate(repeats):
            values = []
            for i, place in enumerate(number.shape.places):
                cell = row[i] if i < len(row) and row[i] is not None else ""
                try:
                    values.append(check_value(number, place, cell, profile, confirmed=confirmed))
                except CoreError as problem:
                    problem.place = f"{place} {turn + 1}" if turn else place
                    problems.append(problem)
            checked[name].append(values)
    for name in set(typed) - set(kind.numbers):
        problems.append(UnknownName(f"{kind.label} does not record “{name}”.", number=name))
    if not problems and not confirmed:
        problems += _unstable(kind, checked, profile)
    if problems:
        raise Problems(problems)
    return checked


def _unstable(
    kind: ReadingKind, checked: dict[str, list[list[float]]], profile: str
) -> list[CoreError]:
    if "pad_mass" not in kind.numbers:
        return []
    number = number_named("pad_mass")
    found: list[CoreError] = []
    for place, gap in zip(number.shape.places, spread_of(checked["pad_mass"]), strict=True):
        if gap > UNSTABLE_SPREAD:
            found.append(Unusual(
                f"{number.where(place)} differs by {show(gap, 'mass', profile)} between settles: "
                "settle and read again, or confirm it.", number="pad_mass", place=place))  # fmt: skip
    return found


@dataclass(frozen=True)
class Upsetting:
    """Why a reading no longer counts: the change, its revision and the rule's words."""

    verdict: str
    why: str
    changed: tuple[str, ...]
    revision: int | None = None
    spares: tuple[str, ...] = ()


def upsets_by(
    lines: Iterable[Line], discipline: str, jobs: Iterable[str] = ()
) -> dict[str, list[Upsetting]]:
    """Readings that these lines, or these jobs done on the car, upset: by kind, gravest first."""
    return _upset(frozenset(line.name for line in lines) | frozenset(jobs), discipline)


@cache
def _upset(changed: frozenset[str], discipline: str) -> dict[str, list[Upsetting]]:
    """The same by names: a season's revisions change the same few over and over."""
    found: dict[str, list[Upsetting]] = {}
    for rule in knowledge().upsets:
        by = tuple(name for name in rule.changed if name in changed)
        if by and discipline in knowledge().readings[rule.reading].disciplines:
            found.setdefault(rule.reading, []).append(
                Upsetting(rule.verdict, rule.why, by, spares=rule.spares)
            )
    for rules in found.values():
        rules.sort(key=lambda rule: rule.verdict != "void")
    return found


@dataclass(frozen=True)
class Standing:
    """How a kind of reading stands on the car now: fresh, doubtful, void or missing."""

    kind: str
    status: str
    reading: Reading | None
    reasons: tuple[Upsetting, ...] = ()

    def spares(self) -> frozenset[str]:
        """Figures that still hold though the reading does not: spared by every reason it fell for."""
        if not self.reasons or (self.reading and self.reading.unmet()):
            return frozenset()
        return frozenset.intersection(*(frozenset(reason.spares) for reason in self.reasons))


def standing(
    kind: str,
    discipline: str,
    readings: Iterable[Reading],
    booked: Mapping[int, list[Line]],
) -> Standing:
    """The latest reading of a kind that was not withdrawn, against everything booked since.

    `booked` maps each revision to the lines that made it.
    """
    taken = [one for one in readings if one.kind == kind and one.withdrawn_at is None]
    if not taken:
        return Standing(kind, "missing", None)
    latest = max(taken, key=lambda one: (one.at, one.id))
    reasons: list[Upsetting] = []
    for revision in sorted(booked):
        if revision > latest.revision:
            for rule in upsets_by(booked[revision], discipline).get(kind, []):
                reasons.append(replace(rule, revision=revision))
    if any(reason.verdict == "void" for reason in reasons):
        status = "void"
    elif reasons or latest.unmet():
        status = "doubtful"
    else:
        status = "fresh"
    return Standing(kind, status, latest, tuple(reasons))
