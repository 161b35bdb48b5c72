"""The car's sheet: every number it has at one setup, with where each came from.

This is the one place where given, set and read numbers meet; all that shows numbers starts here.
"""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, TypeVar

from ..car.applies import applying
from ..car.fitted import FittedNumbers, numbers_from_parts
from ..car.lines import Line
from ..car.model import Car, Setup
from ..catalog.inventory import NONE_FITTED
from ..catalog.part_kinds import fed_by_parts, part_kind
from ..catalog.quantities import Kind
from ..graph.evaluate import evaluate
from ..graph.registry import Worked, as_array, figures, number_named, reached_past, roots_of
from ..knowledge import knowledge
from ..record.bite import learned
from ..record.gain import Gain
from ..record.readings import Reading
from ..record.standing import Booked, Standing, StandingReading, Status, over, standing, worst
from ..solve.preload import Bite, BiteReading
from ..under_load.of_sheet import standing_lift
from .ends import past_their_range

Values = dict[str, list[float | None] | None]
TYPICAL = "typical value"
T = TypeVar("T")
MOST_KEPT = 64
"""Answers about a sheet that are kept: what the views of a car ask for."""
LEAST = 1e-9
"""What two values of a number differ by at least, of their size, to be called different."""


@dataclass(frozen=True)
class Origin:
    """Where an entered number came from: who, when, in which words."""

    kind: Kind
    words: str
    by: str = ""
    at: str = ""
    estimated: bool = False
    status: Status = "fresh"
    unaffected: frozenset[str] = frozenset()
    places: tuple[Status, ...] = ()
    """How each place stands, where several readings tell of them."""

    def by_place(self, count: int) -> list[Status]:
        """How each of so many places stands."""
        return list(self.places) or [self.status] * count


@dataclass(frozen=True)
class Revision:
    """A setup that was booked, with the lines and the jobs that made it. Never edited."""

    number: int
    setup: dict[str, list[Any]]
    lines: tuple[Line, ...] = ()
    by: str = ""
    at: str = ""
    jobs: tuple[str, ...] = ()

    @cached_property
    def booked(self) -> Booked:
        """What made it, as readings are held against it: the same for every sheet of the car."""
        return Booked(self.lines, self.jobs)


@dataclass
class Sheet:
    """Everything known of a car at one setup."""

    car: Car
    setup: dict[str, list[Any]]
    worked: Worked
    origins: dict[str, Origin]
    standings: dict[str, Standing] = field(default_factory=dict)
    bite: Bite | None = None
    """What a flat of link preload does to this car's rear, where its own pads told."""
    bites: list[BiteReading] = field(default_factory=list)
    perches: Gain | None = None
    """What this car's perches really move round the diagonals, where its own pads told otherwise."""
    _kept: dict[Hashable, Any] = field(default_factory=dict, compare=False, repr=False)

    def once(self, key: Hashable, work: Callable[[], T]) -> T:
        """An answer about this sheet, worked once: a sheet never changes. The last few are kept."""
        if key not in self._kept:
            answer = work()
            while len(self._kept) >= MOST_KEPT:
                self._kept.pop(next(iter(self._kept)), None)
            self._kept[key] = answer
            return answer
        found: T = self._kept[key]
        return found

    @cached_property
    def parts(self) -> FittedNumbers:
        """What the parts in use bring."""
        return numbers_from_parts(self.car, self.setup)

    @cached_property
    def ends(self) -> dict[str, str]:
        """What to say of each figure that is worked past where it holds."""
        return past_their_range(self.worked, self.car.profile)

    def value(self, name: str) -> list[float] | None:
        """SI values by place, or None where the number has none."""
        array = self.worked.values.get(name)
        if array is None or number_named(name).quantity == "curve":
            return None
        return [float(one) for one in array.reshape(-1)]

    def by_place(self, name: str) -> list[float | None] | None:
        """SI values by place, None at a place without one; None where the number has none at all."""
        if number_named(name).quantity == "curve":
            return None
        return self.worked.by_place(name)

    def estimated(self, name: str) -> list[str]:
        """Estimated numbers that stain this one."""
        return [
            root for root in roots_of(name) if root in self.origins and self.origins[root].estimated
        ]

    @cached_property
    def applying(self) -> frozenset[str]:
        """Numbers that apply to the car as it stands: its layout, the parts it wears, and what somebody told
        of it. A figure worked from assumed values alone, such as the density of an air that was never read,
        says nothing of the car."""
        return frozenset(
            name
            for name in applying(self.car)
            if self._wears(number_named(name).only_with) and self._tells(name)
        )

    def _tells(self, name: str) -> bool:
        if number_named(name).kind is not Kind.WORKED:
            return True
        return any(root in self.origins for root in roots_of(name))

    def is_read(self, name: str) -> bool:
        """Whether a number that is read has been: one that never was is nothing, whatever is assumed."""
        return number_named(name).kind is not Kind.READ or name in self.origins

    def _wears(self, name: str) -> bool:
        if not name:
            return True
        if number_named(name).is_part:
            return any(code not in (None, NONE_FITTED) for code in self.setup.get(name) or ())
        row = self.worked.by_place(name)
        return row is not None and any(one is not None and one > 0 for one in row)

    def status(self, name: str) -> Status:
        """Fresh, doubtful or void: the worst of the readings it is worked from."""
        worst: Status = "fresh"
        for root in roots_of(name):
            origin = self.origins.get(root)
            if origin is None or origin.status == "fresh" or worst == "void":
                continue
            if name in reached_past(root, origin.unaffected):
                worst = origin.status
        return worst


def build(
    car: Car,
    setup: Setup,
    readings: Iterable[Reading] = (),
    revisions: Iterable[Revision] = (),
    *,
    draft: Iterable[Line] = (),
    jobs: Iterable[str] = (),
    wanted: Iterable[str] | None = None,
) -> Sheet:
    """Work the sheet of a car at a setup.

    `draft` are lines not yet booked, `jobs` those that go with them: readings they upset stand as
    they would after booking.
    """
    readings, revisions = list(readings), list(revisions)
    booked: dict[int, Booked | list[Line]] = {
        revision.number: revision.booked for revision in revisions
    }
    drafted = Booked(tuple(draft), tuple(jobs))
    if drafted.lines or drafted.jobs:
        booked[max(booked, default=0) + 1] = drafted
    kinds = [kind.id for kind in knowledge().readings_for(car.discipline, car.rear_layout)]
    of_kind: dict[str, list[Reading]] = {}
    for reading in readings:
        of_kind.setdefault(reading.kind, []).append(reading)
    inspections = {one.inspects: one.id for one in knowledge().readings.values() if one.inspects}
    setups = {revision.number: revision.setup for revision in revisions}
    standings = {
        kind: standing(
            kind,
            of_kind.get(kind, []),
            booked,
            setup,
            car.known,
            inspections=of_kind.get(inspections.get(kind, ""), []),
            setups=setups,
            has_not=car.has_not,
        )
        for kind in kinds
    }
    values: Values = {}
    origins: dict[str, Origin] = {}
    for name, given in car.known.items():
        if not car.has(number_named(name)):
            continue  # told of another rear layout than this car has
        if given.guessed and not given.by and name not in knowledge().has_typical:
            continue  # an estimate of a day when one was made of what only the car can tell
        values[name] = list(given.values)
        words = TYPICAL if given.guessed and not given.by else "car data"
        origins[name] = Origin(number_named(name).kind, words, given.by, given.at, given.guessed)
    _take_setup(car, setup, revisions, standings, values, origins)
    for stands in standings.values():
        for one in reversed(stands.readings):
            _take_reading(one, values, origins)
    _take_map(values, origins)
    bites, bite = learned(setup, readings, setups)
    return Sheet(
        car,
        {k: list(v) for k, v in setup.items()},
        evaluate(values, wanted),
        origins,
        standings,
        bite,
        bites,
    )


def _take_setup(
    car: Car,
    setup: Setup,
    revisions: list[Revision],
    standings: dict[str, Standing],
    values: Values,
    origins: dict[str, Origin],
) -> None:
    last = _last_changes(revisions)
    found = _found(standings)
    for name, chosen in setup.items():
        if number_named(name).is_part:
            continue
        # what a check found is what stands on the car, whatever was set before it
        read = found.get(name, [None] * len(chosen))
        held = [a if b is None else b for a, b in zip(chosen, read, strict=True)]
        if not any(one is not None for one in held):
            continue
        values[name], guessed = _over(car, name, held)
        made = last.get(name)
        origins[name] = Origin(
            Kind.SET,
            f"revision {made.number}" if made else "setup",
            made.by if made else "",
            made.at if made else "",
            guessed,
        )
    parts = numbers_from_parts(car, setup)
    for name, row in parts.rows.items():
        by_part_at = parts.by_part.get(name, frozenset())
        values[name] = row
        if not by_part_at:
            origins.setdefault(name, Origin(Kind.SET, "the car's layout"))
            continue
        given = car.known.get(name)
        guessed = given is not None and any(
            given.estimated_at(i) and i not in by_part_at and row[i] is not None
            for i in range(len(row))
        )
        kind = next(iter(parts.worked.get(name, {}).values()), None) or fed_by_parts()[name]
        origins[name] = _from_parts(setup, kind, last, guessed)


def _from_parts(setup: Setup, brought: str, last: dict[str, Revision], guessed: bool) -> Origin:
    """Which parts of a kind a number comes with, and who fitted them."""
    kind = part_kind(brought)
    codes = [str(code) for code in dict.fromkeys(setup.get(kind.name) or ()) if code is not None]
    if not codes:
        return Origin(Kind.SET, f"no {kind.label.lower()} fitted", estimated=guessed)
    made = last.get(kind.name)
    where = f", revision {made.number}" if made else ""
    return Origin(
        Kind.SET,
        f"{kind.label.lower()} {', '.join(codes)}{where}",
        made.by if made else "",
        made.at if made else "",
        guessed,
    )


def _over(car: Car, name: str, values: list[float | None]) -> tuple[list[float | None], bool]:
    """What is set, over what was given or estimated for the places nobody set."""
    given = car.known.get(name)
    if given is None:
        return values, False
    row = [one if one is not None else given.values[i] for i, one in enumerate(values)]
    guessed = any(
        one is None and given.values[i] is not None and given.estimated_at(i)
        for i, one in enumerate(values)
    )
    return row, guessed


def _found(standings: dict[str, Standing]) -> dict[str, list[float | None]]:
    """What checks that still count found the set numbers to be: it stands where nobody set them."""
    found: dict[str, list[float | None]] = {}
    for stands in standings.values():
        if stands.damage_found is not None:
            continue
        for one in stands.readings:
            for name, row in one.values.items():
                checks = number_named(name).checks
                if checks and one.status != "void":
                    found[checks] = over(found.get(checks) or row, row)
    return found


def _last_changes(revisions: list[Revision]) -> dict[str, Revision]:
    last: dict[str, Revision] = {}
    for revision in sorted(revisions, key=lambda one: one.number):
        names = {line.name for line in revision.lines}
        if not revision.lines and not revision.jobs:
            names = set(revision.setup)
        for name in names:
            last[name] = revision
    return last


def _take_reading(read: StandingReading, values: Values, origins: dict[str, Origin]) -> None:
    """Lay one reading over what earlier ones told: a number stands as its worst place does."""
    reading = read.reading
    label = knowledge().readings[reading.kind].label
    words = f"{label}, on revision {reading.revision}"
    for name, row in read.values.items():
        before, under = origins.get(name), values.get(name)
        origin = Origin(
            Kind.READ,
            words,
            reading.by,
            reading.at,
            status=read.status,
            unaffected=read.unaffected(),
        )
        read_before = before is not None and before.kind is Kind.READ and not before.estimated
        if None in row and under is not None and before is not None and read_before:
            stands = [
                b if a is None else read.status
                for a, b in zip(row, before.by_place(len(row)), strict=True)
            ]
            origin = replace(
                origin,
                words=f"{words}; {before.words}",
                status=worst(stands),
                unaffected=origin.unaffected & before.unaffected,
                places=tuple(stands),
            )
            row = over(row, under)
        values[name] = list(row)
        origins[name] = origin


def _take_map(values: Values, origins: dict[str, Origin]) -> None:
    """The downforce areas by the aero map that is fitted, where the heights it stands at were read."""
    rows = {name: values.get(name) for name in ("air_map", "ride_height")}
    known = {
        name: as_array(number_named(name), row)
        for name, row in rows.items()
        if row and None not in row
    }
    lift = standing_lift(known)
    if lift is None:
        return
    map_, heights = origins["air_map"], origins["ride_height"]
    values["lift_area"] = lift.tolist()
    origins["lift_area"] = replace(
        map_, words=f"{map_.words}, at the heights it stands at", status=heights.status
    )


MovedRow = tuple[str, str, float | None, float | None]
"""A number, its place, its value before and after [SI]."""


def moved(before: Worked, after: Worked) -> list[MovedRow]:
    """Worked numbers that differ."""
    rows: list[MovedRow] = []
    for name in figures():
        was, now = before.values.get(name), after.values.get(name)
        if was is not None and now is not None and (was is now or (was == now).all()):
            continue
        rows += _differing(name, before.by_place(name), after.by_place(name))
    return rows


def moved_by_points(before: FittedNumbers, after: FittedNumbers) -> list[MovedRow]:
    """Numbers worked from measured points that differ, place by place: one axle may be measured alone."""
    rows: list[MovedRow] = []
    for name in dict.fromkeys((*before.worked, *after.worked)):
        rows += _differing(name, before.rows.get(name), after.rows.get(name))
    return rows


def _differing(
    name: str, before: Sequence[float | None] | None, after: Sequence[float | None] | None
) -> list[MovedRow]:
    rows = []
    for i, place in enumerate(number_named(name).shape.places):
        was, now = (one[i] if one else None for one in (before, after))
        if was is None or now is None:
            alike = was is now
        else:
            alike = abs(was - now) <= LEAST * max(1.0, abs(was), abs(now))
        if not alike:
            rows.append((name, place, was, now))
    return rows
