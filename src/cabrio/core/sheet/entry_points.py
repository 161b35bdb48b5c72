"""Where each number is entered on screen, its view and anchor: behind every “needs …”."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache

from ..catalog.part_kinds import fed_by_parts
from ..catalog.quantities import Kind
from ..graph.registry import number_named, roots_of
from ..knowledge import knowledge


@dataclass(frozen=True)
class EntryPoint:
    """A view of a car, and what to look for on it: a number, a reading kind or a part kind."""

    view: str
    anchor: str
    words: str


@cache
def entry_point(name: str, discipline: str) -> EntryPoint | None:
    """Where a number is given, set, read or fitted on a car; for a figure, where its first root is.

    None where cars of this discipline have no such place.
    """
    number = number_named(name)
    if number.from_load_model:
        return None
    if number.kind is Kind.WORKED:
        return next(
            (found for root in roots_of(name) if (found := entry_point(root, discipline))), None
        )
    if number.kind is Kind.READ:
        return _reading(name, discipline)
    if number.on_slip:
        station = next((s for s in knowledge().stations_for(discipline) if name in s.sets), None)
        return EntryPoint(station.id, name, f"set at {station.label}") if station else None
    kind = fed_by_parts().get(name)
    if number.kind is Kind.SET and kind is not None:
        return EntryPoint("parts", kind, "comes with a part of the inventory")
    return EntryPoint("data", name, "given in the car data")


def _reading(name: str, discipline: str) -> EntryPoint | None:
    book = knowledge()
    for station in book.stations_for(discipline):
        for kind in station.readings:
            reading = book.readings[kind]
            if name in reading.numbers and reading.fits(discipline, None):
                return EntryPoint(station.id, kind, f"read at {station.label}")
    return None
