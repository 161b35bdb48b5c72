"""How readings stand on the car now: what upset them since, what they differ from, what each place is told by."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from functools import cache, cached_property
from typing import Literal

from ..car.lines import Line
from ..car.model import Given, Setup
from ..catalog.quantities import Number
from ..graph.registry import number_named
from ..knowledge import ReadingKind, knowledge
from .readings import Reading, Row


@dataclass(frozen=True)
class Invalidated:
    """Why a reading no longer counts: the change, its revision and the rule's words."""

    verdict: str
    why: str
    changed: tuple[str, ...]
    revision: int | None = None
    unaffected: tuple[str, ...] = ()


def invalidated_by(lines: Iterable[Line], jobs: Iterable[str] = ()) -> dict[str, list[Invalidated]]:
    """Readings that these lines, or these jobs done on the car, upset: by kind, gravest first."""
    moved = (
        line for line in lines if line.old is not None or not number_named(line.name).is_description
    )
    return _upset(frozenset(line.name for line in moved) | frozenset(jobs))


@cache
def _upset(changed: frozenset[str]) -> dict[str, list[Invalidated]]:
    """The same by names: a season's revisions change the same few over and over.

    A fact or a part that work alters upsets what the job of altering it does.
    """
    book = knowledge()
    changed = changed | {book.work_of[name] for name in changed if name in book.work_of}
    found: dict[str, list[Invalidated]] = {}
    for rule in book.upsets:
        by = tuple(name for name in rule.changed if name in changed)
        if by:
            found.setdefault(rule.reading, []).append(
                Invalidated(rule.verdict, rule.why, by, unaffected=rule.unaffected)
            )
    for rules in found.values():
        rules.sort(key=lambda rule: rule.verdict != "void")
    return found


@dataclass(frozen=True)
class Mismatch:
    """A check that found another value than the one that is set: by number and place [SI]."""

    name: str
    place: str
    booked: float
    found: float


def mismatches(
    values: Mapping[str, Row], setup: Setup, given: Mapping[str, Given] | None = None
) -> list[Mismatch]:
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
                found.append(Mismatch(name, place, a, b))
    return found


def _within(number: Number, given: Mapping[str, Given]) -> float:
    if not number.tolerance:
        return number.within
    tolerance = given[number.tolerance].values[0] if number.tolerance in given else None
    return number_named(number.tolerance).default or 0.0 if tolerance is None else tolerance


Status = Literal["fresh", "doubtful", "void", "missing"]
"""How what was read stands: as taken, in doubt since, gone with what moved, or never taken."""


def worst(of: Iterable[Status]) -> Status:
    """The gravest of several."""
    return max(of, key=["fresh", "doubtful", "void", "missing"].index, default="fresh")


@dataclass(frozen=True)
class StandingReading:
    """A reading that still tells of some places, and how it stands for them."""

    reading: Reading
    status: Status
    values: dict[str, Row]
    reasons: tuple[Invalidated, ...] = ()

    def unaffected(self) -> frozenset[str]:
        """Figures that still hold though the reading does not: spared by every reason it fell for."""
        if not self.reasons or self.reading.unmet():
            return frozenset()
        return frozenset.intersection(*(frozenset(reason.unaffected) for reason in self.reasons))


@dataclass(frozen=True)
class Standing:
    """How a kind of reading stands on the car now: fresh, doubtful, void or missing.

    `readings` are those it rests on, the latest first: where that one left places out, those before it
    still tell of them, each with its own standing.
    """

    kind: str
    status: Status
    reading: Reading | None
    reasons: tuple[Invalidated, ...] = ()
    differs: tuple[Mismatch, ...] = ()
    damage_found: Reading | None = None
    """The reading that points to damage, until an engineer's inspection after it."""
    readings: tuple[StandingReading, ...] = ()
    unread: tuple[tuple[str, str], ...] = ()
    """Number and place of which no reading tells, though one tells of another place."""

    @property
    def values(self) -> dict[str, Row]:
        """What was read last at each place [SI]."""
        found: dict[str, Row] = {}
        for one in reversed(self.readings):
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
    def upsets(self) -> dict[str, list[Invalidated]]:
        """Asked for by every kind of reading, and worked once."""
        return invalidated_by(self.lines, self.jobs)


def standing(
    kind: str,
    readings: Iterable[Reading],
    booked: Mapping[int, Booked | list[Line]],
    setup: Setup | None = None,
    given: Mapping[str, Given] | None = None,
    *,
    inspections: Iterable[Reading] = (),
    setups: Mapping[int, Setup] | None = None,
    has_not: Callable[[str, str], str] = lambda *_: "",
) -> Standing:
    """The latest reading of a kind that was not withdrawn, against everything booked since.

    `booked` maps each revision to what made it. A check that found another value than the one in
    `setup` is never fresh; `given` says how far it may be off. A check without a number is in doubt
    where its kind has numbers to write down. What points to damage stands until one of the
    `inspections` after it, whatever is read later; `setups` are those of the revisions. `has_not` says of
    a number and a place why the car has none of it there: that is not missed.
    """
    every = [
        reading for reading in readings if reading.kind == kind and reading.withdrawn_at is None
    ]
    taken = [one for one in every if one.taken.stage != "before"]
    if not taken:
        return Standing(kind, "missing", None)
    row = knowledge().readings[kind]
    standing_readings = [
        _standing(one, values, booked)
        for one, values in _in_force(row, sorted(taken, key=_when)[::-1])
    ]
    latest, reasons = (
        standing_readings[0].reading,
        [reason for one in standing_readings for reason in one.reasons],
    )
    merged = Standing(kind, "fresh", latest, readings=tuple(standing_readings)).values
    differs: list[Mismatch] = []
    for i, one in enumerate(standing_readings):
        found = mismatches(one.values, setup, given) if setup and not one.reasons else []
        if found and one.status == "fresh":
            standing_readings[i] = replace(one, status="doubtful")
        differs += found
    # what is only read when it is needed is not missed where it was not
    unread = (
        ()
        if row.when_needed
        else tuple(one for one in _unread(merged, setup or {}) if not has_not(*one))
    )
    damaged = None
    if row.damage:
        known = {latest.revision: setup} if setup is not None else {}
        damaged = _damage(every, list(inspections), {**known, **(setups or {})}, given)
        if damaged is not None:
            then = {**known, **(setups or {})}[damaged.revision]
            differs = mismatches(damaged.values, then, given)
    if damaged is not None:
        standing_readings = [replace(one, status="void") for one in standing_readings]
    status = worst(one.status for one in standing_readings)
    if status == "fresh" and (differs or unread):
        status = "doubtful"
    return Standing(
        kind,
        status,
        latest,
        tuple(reasons),
        tuple(differs),
        damaged,
        readings=tuple(standing_readings),
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
        for name, row_read in one.values.items():
            if turn and name in row.at_once:
                continue
            since = known.get(name) or [None] * len(row_read)
            left[name] = [a if b is None else None for a, b in zip(row_read, since, strict=True)]
            known[name] = over(since, row_read)
        left = {
            name: row_read
            for name, row_read in left.items()
            if any(v is not None for v in row_read)
        }
        if turn == 0 or left:
            yield one, left
        lasting = [name for name in row.numbers if name not in row.at_once]
        if all(name in known and None not in known[name] for name in lasting):
            return


def _standing(
    reading: Reading, values: dict[str, Row], booked: Mapping[int, Booked | list[Line]]
) -> StandingReading:
    reasons: list[Invalidated] = []
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
    return StandingReading(reading, status, values, tuple(reasons))


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
    looked = [inspection for inspection in inspections if inspection.withdrawn_at is None]
    since = max(map(_when, looked), default=("", 0))
    signs = [
        reading
        for reading in readings
        if reading.revision in setups
        and _when(reading) > since
        and mismatches(reading.values, setups[reading.revision], given)
    ]
    return max(signs, key=_when, default=None)
