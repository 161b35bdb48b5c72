"""The car's sheet: every number it has at one setup, with where each came from.

This is the one place where given, set and read numbers meet; all that shows numbers starts here.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, field
from typing import Any

from ..car.fitted import fitted
from ..car.model import Car, Line, Setup
from ..catalog.quantities import Kind
from ..graph.registry import Worked, evaluate, figures, number_named, reached_past, roots_of
from ..knowledge import knowledge
from ..record.readings import Reading, Standing, standing

FITTED_WITH_SPRING = ("spring_rate", "spring_free_length", "spring_solid_length")


@dataclass(frozen=True)
class Origin:
    """Where an entered number came from: who, when, in which words."""

    kind: Kind
    words: str
    by: str = ""
    at: str = ""
    estimated: bool = False
    status: str = "fresh"
    spares: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Revision:
    """A setup that was booked, with the lines that made it. Never edited."""

    number: int
    setup: dict[str, list[Any]]
    lines: tuple[Line, ...] = ()
    by: str = ""
    at: str = ""


@dataclass
class Sheet:
    """Everything known of a car at one setup."""

    car: Car
    setup: dict[str, list[Any]]
    worked: Worked
    origins: dict[str, Origin]
    standings: dict[str, Standing] = field(default_factory=dict)

    def value(self, name: str) -> list[float] | None:
        """SI values by place, or None where the number has none."""
        array = self.worked.values.get(name)
        if array is None or number_named(name).quantity == "curve":
            return None
        return [float(one) for one in array.reshape(-1)]

    def estimated(self, name: str) -> list[str]:
        """Estimated numbers that stain this one."""
        return [
            one for one in roots_of(name) if one in self.origins and self.origins[one].estimated
        ]

    def status(self, name: str) -> str:
        """Fresh, doubtful or void: the worst of the readings it is worked from."""
        worst = "fresh"
        for root in roots_of(name):
            origin = self.origins.get(root)
            if origin is None or origin.status == "fresh" or worst == "void":
                continue
            if name in reached_past(root, origin.spares):
                worst = origin.status
        return worst


def build(
    car: Car,
    setup: Setup,
    readings: Iterable[Reading] = (),
    revisions: Iterable[Revision] = (),
    *,
    draft: Iterable[Line] = (),
    wanted: Iterable[str] | None = None,
) -> Sheet:
    """Work the sheet of a car at a setup.

    `draft` are lines not yet booked: readings they upset stand as they would after booking.
    """
    readings, revisions = list(readings), list(revisions)
    booked = {revision.number: list(revision.lines) for revision in revisions}
    draft = list(draft)
    if draft:
        booked[max(booked, default=0) + 1] = draft
    standings = {
        kind: standing(kind, car.discipline, readings, booked)
        for kind in _kinds_for(car.discipline)
    }
    values: dict[str, list[float | None] | None] = {}
    origins: dict[str, Origin] = {}
    for name, given in car.given.items():
        values[name] = list(given.values)
        kind = number_named(name).kind
        origins[name] = Origin(kind, "car data", given.by, given.at, given.estimated)
    _take_setup(car, setup, revisions, values, origins)
    for stands in standings.values():
        if stands.reading is not None:
            _take_reading(stands, stands.reading, values, origins)
    return Sheet(
        car, {k: list(v) for k, v in setup.items()}, evaluate(values, wanted), origins, standings
    )


def _kinds_for(discipline: str) -> list[str]:
    return [kind.id for kind in knowledge().readings_for(discipline)]


def _take_setup(
    car: Car,
    setup: Setup,
    revisions: list[Revision],
    values: dict[str, list[float | None] | None],
    origins: dict[str, Origin],
) -> None:
    last = _last_changes(revisions)
    for name, chosen in setup.items():
        if name != "spring":
            values[name] = list(chosen)
        if name in last:
            made = last[name]
            origins[name] = Origin(Kind.SET, f"revision {made.number}", made.by, made.at)
        else:
            origins[name] = Origin(Kind.SET, "setup")
    with_parts = fitted(car, setup)
    values.update(with_parts)
    for name in with_parts:
        origins.setdefault(name, Origin(Kind.SET, "the parts fitted"))
    for name in FITTED_WITH_SPRING:
        if name in values and "spring" in origins:
            codes = ", ".join(str(code) for code in dict.fromkeys(setup["spring"]))
            before = origins["spring"]
            origins[name] = Origin(Kind.SET, f"spring {codes} from the stores, {before.words}",
                                   before.by, before.at)  # fmt: skip


def _last_changes(revisions: list[Revision]) -> dict[str, Revision]:
    last: dict[str, Revision] = {}
    for revision in sorted(revisions, key=lambda one: one.number):
        names = {line.name for line in revision.lines} if revision.lines else set(revision.setup)
        for name in names:
            last[name] = revision
    return last


def _take_reading(
    stands: Standing,
    reading: Reading,
    values: dict[str, list[float | None] | None],
    origins: dict[str, Origin],
) -> None:
    label = knowledge().readings[reading.kind].label
    origin = Origin(Kind.READ, f"{label}, on revision {reading.revision}", reading.by, reading.at,
                    status=stands.status, spares=stands.spares())  # fmt: skip
    for name, mean in reading.values.items():
        values[name] = list(mean)
        origins[name] = origin
    if reading.fuel_mass is not None:
        values["fuel_mass"] = [reading.fuel_mass]
        origins["fuel_mass"] = origin


def moved(
    before: Sheet, after: Sheet, least: float = 1e-9
) -> list[tuple[str, str, float | None, float | None]]:
    """Worked numbers that differ between two sheets: (name, place, before, after)."""
    rows: list[tuple[str, str, float | None, float | None]] = []
    for name, entry in figures().items():
        was, now = before.worked.values.get(name), after.worked.values.get(name)
        if was is not None and now is not None and (was == now).all():
            continue
        a, b = before.value(name), after.value(name)
        if a is None and b is None:
            continue
        places = entry.number.shape.places
        for i, place in enumerate(places):
            x = a[i] if a else None
            y = b[i] if b else None
            if x is None or y is None or abs(x - y) > least * max(1.0, abs(x), abs(y)):
                rows.append((name, place, x, y))
    return rows
