"""Readings: what an instrument said, under which conditions, and whether it still counts."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from functools import cache, cached_property
from typing import Any, Literal

from ..car.lines import Line
from ..car.model import Car, Given, Setup
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
    """One reading. `settles` holds each repeat, None at a place that was not read; the values worked with
    are their mean.

    `revision` is the setup on the car when it was taken.
    """

    id: int
    kind: str
    revision: int
    by: str
    at: str
    settles: dict[str, list[Row]] = field(default_factory=dict)
    conditions: dict[str, bool] = field(default_factory=dict)
    note: str = ""
    withdrawn_by: str | None = None
    withdrawn_at: str | None = None
    withdrawn_why: str | None = None
    taken: Taken = field(default_factory=Taken)

    @property
    def values(self) -> dict[str, Row]:
        return {name: mean_of(repeats) for name, repeats in self.settles.items()}

    def whole(self, name: str) -> list[float]:
        """A number of which every place was read. Raises Missing where one was not."""
        row = self.values.get(name, [None])
        told = [one for one in row if one is not None]
        if len(told) < len(row):
            raise Missing(f"{number_named(name).label} was not read at every place.", number=name)
        return told

    def unmet(self) -> list[Condition]:
        """Conditions of its kind that did not hold, so that it cannot count without a doubt."""
        book = knowledge()
        wanted = book.readings[self.kind].conditions
        return [book.conditions[name] for name in wanted if not self.conditions.get(name)]


def mean_of(repeats: list[Row]) -> Row:
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


def check_settles(
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
        repeats = [row for row in typed.get(name) or [] if any(map(_said, row))]
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


def _said(cell: Any) -> bool:
    return cell is not None and (not isinstance(cell, str) or bool(cell.strip()))


def _zero(
    kind: ReadingKind, typed: Mapping[str, Any], profile: str, problems: list[CoreError]
) -> dict[str, float]:
    found = {}
    for name, value in typed.items():
        if not _said(value):
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
    for i, place in enumerate(number.shape.places):
        cell = row[i] if i < len(row) and row[i] is not None else ""
        if not _said(cell) and number.name not in kind.together:
            values.append(None)
            continue
        try:
            if zero and _said(cell):
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


@dataclass(frozen=True)
class Upsetting:
    """Why a reading no longer counts: the change, its revision and the rule's words."""

    verdict: str
    why: str
    changed: tuple[str, ...]
    revision: int | None = None
    spares: tuple[str, ...] = ()


def upsets_by(lines: Iterable[Line], jobs: Iterable[str] = ()) -> dict[str, list[Upsetting]]:
    """Readings that these lines, or these jobs done on the car, upset: by kind, gravest first."""
    moved = (one for one in lines if one.old is not None or not number_named(one.name).describes)
    return _upset(frozenset(line.name for line in moved) | frozenset(jobs))


@cache
def _upset(changed: frozenset[str]) -> dict[str, list[Upsetting]]:
    """The same by names: a season's revisions change the same few over and over.

    A fact or a part that work alters upsets what the job of altering it does.
    """
    book = knowledge()
    changed = changed | {book.work_of[name] for name in changed if name in book.work_of}
    found: dict[str, list[Upsetting]] = {}
    for rule in book.upsets:
        by = tuple(name for name in rule.changed if name in changed)
        if by:
            found.setdefault(rule.reading, []).append(
                Upsetting(rule.verdict, rule.why, by, spares=rule.spares)
            )
    for rules in found.values():
        rules.sort(key=lambda rule: rule.verdict != "void")
    return found


@dataclass(frozen=True)
class Differing:
    """A check that found another value than the one that is set: by number and place [SI]."""

    name: str
    place: str
    booked: float
    found: float


def differing(
    values: Mapping[str, Row], setup: Setup, given: Mapping[str, Given] | None = None
) -> list[Differing]:
    """Where what was found is not what is set, by more than it may be off: the team's own word in
    `given`, or what is usual."""
    found = []
    for name, row in values.items():
        number = number_named(name)
        booked = setup.get(number.checks) if number.checks else None
        if booked is None:
            continue
        within = _within(number, given or {})
        for place, a, b in zip(number.shape.places, booked, row, strict=True):
            if a is not None and b is not None and abs(a - b) > within + 1e-12:
                found.append(Differing(name, place, a, b))
    return found


def _within(number: Number, given: Mapping[str, Given]) -> float:
    if not number.tolerance:
        return number.within
    told = given[number.tolerance].values[0] if number.tolerance in given else None
    return number_named(number.tolerance).default or 0.0 if told is None else told


Status = Literal["fresh", "doubtful", "void", "missing"]
"""How what was read stands: as taken, in doubt since, gone with what moved, or never taken."""


def worst(of: Iterable[Status]) -> Status:
    """The gravest of several."""
    return max(of, key=["fresh", "doubtful", "void", "missing"].index, default="fresh")


@dataclass(frozen=True)
class Told:
    """A reading that still tells of some places, and how it stands for them."""

    reading: Reading
    status: Status
    values: dict[str, Row]
    reasons: tuple[Upsetting, ...] = ()

    def spares(self) -> frozenset[str]:
        """Figures that still hold though the reading does not: spared by every reason it fell for."""
        if not self.reasons or self.reading.unmet():
            return frozenset()
        return frozenset.intersection(*(frozenset(reason.spares) for reason in self.reasons))


@dataclass(frozen=True)
class Standing:
    """How a kind of reading stands on the car now: fresh, doubtful, void or missing.

    `told` are the readings it rests on, the latest first: where that one left places out, those before it
    still tell of them, each with its own standing.
    """

    kind: str
    status: Status
    reading: Reading | None
    reasons: tuple[Upsetting, ...] = ()
    differs: tuple[Differing, ...] = ()
    damage_found: Reading | None = None
    """The reading that points to damage, until an engineer's inspection after it."""
    told: tuple[Told, ...] = ()
    unread: tuple[tuple[str, str], ...] = ()
    """Number and place of which no reading tells, though one tells of another place."""

    @property
    def values(self) -> dict[str, Row]:
        """What was read last at each place [SI]."""
        found: dict[str, Row] = {}
        for one in reversed(self.told):
            for name, row in one.values.items():
                found[name] = over(row, found.get(name))
        return found


def over(row: Row, under: Row | None) -> Row:
    """A row where it tells, and what lies under it where it does not."""
    if under is None:
        return list(row)
    return [b if a is None else a for a, b in zip(row, under, strict=True)]


@dataclass(frozen=True)
class Booked:
    """What made a revision: its lines and the jobs done with them."""

    lines: tuple[Line, ...] = ()
    jobs: tuple[str, ...] = ()

    @cached_property
    def upsets(self) -> dict[str, list[Upsetting]]:
        """Asked for by every kind of reading, and worked once."""
        return upsets_by(self.lines, self.jobs)


def standing(
    kind: str,
    readings: Iterable[Reading],
    booked: Mapping[int, Booked | list[Line]],
    setup: Setup | None = None,
    given: Mapping[str, Given] | None = None,
    *,
    inspections: Iterable[Reading] = (),
    setups: Mapping[int, Setup] | None = None,
) -> Standing:
    """The latest reading of a kind that was not withdrawn, against everything booked since.

    `booked` maps each revision to what made it. A check that found another value than the one in
    `setup` is never fresh; `given` says how far it may be off. A check without a number is in doubt
    where its kind has numbers to write down. What points to damage stands until one of the
    `inspections` after it, whatever is read later; `setups` are those of the revisions.
    """
    every = [one for one in readings if one.kind == kind and one.withdrawn_at is None]
    taken = [one for one in every if one.taken.stage != "before"]
    if not taken:
        return Standing(kind, "missing", None)
    row = knowledge().readings[kind]
    told = [
        _told(one, values, booked) for one, values in _in_force(row, sorted(taken, key=_when)[::-1])
    ]
    latest, reasons = told[0].reading, [reason for one in told for reason in one.reasons]
    merged = Standing(kind, "fresh", latest, told=tuple(told)).values
    differs = [
        differ
        for one in told
        if setup is not None and not one.reasons
        for differ in differing(one.values, setup, given)
    ]
    unread = tuple(_unread(merged, setup or {}))
    damaged = None
    if row.damage:
        known = {latest.revision: setup} if setup is not None else {}
        damaged = _damage(every, list(inspections), {**known, **(setups or {})}, given)
        if damaged is not None:
            then = {**known, **(setups or {})}[damaged.revision]
            differs = differing(damaged.values, then, given)
    status = worst(one.status for one in told)
    if damaged is not None:
        status = "void"
    elif status == "fresh" and (differs or unread):
        status = "doubtful"
    return Standing(
        kind,
        status,
        latest,
        tuple(reasons),
        tuple(differs),
        damaged,
        told=tuple(told),
        unread=unread,
    )


def _in_force(
    row: ReadingKind, latest_first: list[Reading]
) -> Iterable[tuple[Reading, dict[str, Row]]]:
    """The latest reading, and of those before it what none after tells of. A number that is read at once
    tells of one moment: nothing of an earlier reading fills it up."""
    known: dict[str, Row] = {}
    for turn, one in enumerate(latest_first):
        left = {}
        for name, told in one.values.items():
            if turn and name in row.at_once:
                continue
            since = known.get(name) or [None] * len(told)
            left[name] = [a if b is None else None for a, b in zip(told, since, strict=True)]
            known[name] = over(since, told)
        left = {name: told for name, told in left.items() if any(v is not None for v in told)}
        if turn == 0 or left:
            yield one, left
        lasting = [name for name in row.numbers if name not in row.at_once]
        if all(name in known and None not in known[name] for name in lasting):
            return


def _told(
    reading: Reading, values: dict[str, Row], booked: Mapping[int, Booked | list[Line]]
) -> Told:
    reasons: list[Upsetting] = []
    for revision in sorted(one for one in booked if one > reading.revision):
        made = booked[revision]
        made = Booked(tuple(made)) if isinstance(made, list) else made
        for rule in made.upsets.get(reading.kind, ()):
            reasons.append(replace(rule, revision=revision))
    status: Status = "fresh"
    if any(reason.verdict == "void" for reason in reasons):
        status = "void"
    elif reasons or reading.unmet() or reading.taken.by_eye or is_unnumbered(reading):
        status = "doubtful"
    return Told(reading, status, values, tuple(reasons))


def _unread(values: Mapping[str, Row], setup: Setup) -> Iterable[tuple[str, str]]:
    for name, row in values.items():
        number = number_named(name)
        booked = (setup.get(number.checks) if number.checks else None) or []
        here = [one is not None for one in booked]
        for i, place in enumerate(number.shape.places):
            # where it is set at other places only, this place has none of it
            if row[i] is None and (not any(here) or here[i]):
                yield name, place


def _when(reading: Reading) -> tuple[str, int]:
    return reading.at, reading.id


def is_unnumbered(reading: Reading) -> bool:
    """Whether a reading that has numbers to write down was ticked off without any."""
    return bool(knowledge().readings[reading.kind].numbers) and not reading.values


def _damage(
    readings: list[Reading],
    inspections: list[Reading],
    setups: Mapping[int, Setup],
    given: Mapping[str, Given] | None,
) -> Reading | None:
    """The last reading that found another value than the one booked, with no inspection after it."""
    looked = [one for one in inspections if one.withdrawn_at is None]
    since = max(map(_when, looked), default=("", 0))
    signs = [
        one
        for one in readings
        if one.revision in setups
        and _when(one) > since
        and differing(one.values, setups[one.revision], given)
    ]
    return max(signs, key=_when, default=None)
