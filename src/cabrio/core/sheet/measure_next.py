"""Measure next: the estimates that stain most of what decides, the most telling first."""

from __future__ import annotations

from dataclasses import dataclass

from ..graph.registry import number_named
from ..knowledge import knowledge
from .build import Sheet
from .entry_points import EntryPoint, entry_point


@dataclass(frozen=True)
class Stain:
    """An estimated number, the deciding figures that rest on it, and where it is measured or given."""

    name: str
    stains: tuple[str, ...]
    why: str
    door: EntryPoint | None


def measure_next(sheet: Sheet) -> list[Stain]:
    """Every estimate that some deciding figure of the car's discipline rests on, most stained first."""
    car, book = sheet.car, knowledge()
    stations = book.stations_for(car.discipline, car.rear_layout)
    answers = (name for station in stations for name in station.shows)
    deciding = book.disciplines[car.discipline].decided_by or answers
    decides = dict.fromkeys(name for name in deciding if name in sheet.applying)
    stained: dict[str, list[str]] = {}
    for name in decides:
        for root in sheet.estimated(name):
            stained.setdefault(root, []).append(name)
    found = [
        Stain(
            root,
            tuple(names),
            sheet.car.given[root].why if root in sheet.car.given else "",
            entry_point(root, sheet.car.discipline),
        )
        for root, names in stained.items()
    ]
    return sorted(found, key=lambda one: (-len(one.stains), number_named(one.name).label))
