"""What goes on paper: a car at its setup in the order of its work, every number in the car's units.

Which numbers are printed is not a list of its own: what a station sets and what is read at it, and of
the worked ones those that have a target range or that a plan may aim at.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ..car.lines import Line
from ..car.settings import way_of
from ..catalog.quantities import Kind, Number, Shape
from ..catalog.units import show, symbol_of
from ..graph.registry import number_named
from ..knowledge import knowledge
from ..record.recheck import Recheck, rechecks
from .build import Sheet

MARKS = {"doubtful": "?", "void": "x", "missing": "x"}
"""How a reading that does not count is marked on paper."""


@dataclass(frozen=True)
class Row:
    """One number: its label with its unit, and its values by place as they are printed.

    `mark` is ? or x behind a number whose reading is doubtful or void, "est." behind an estimate.
    """

    label: str
    places: tuple[str, ...]
    values: tuple[str, ...]
    mark: str = ""


@dataclass(frozen=True)
class Part:
    """The rows of one station."""

    title: str
    rows: tuple[Row, ...]


def setup_sheet(sheet: Sheet) -> list[Part]:
    """What is set and read, by station in the order of the work, then what is worked from it."""
    seen: set[str] = set()
    parts = []
    book = knowledge()
    for station in book.stations_for(sheet.car.discipline, sheet.car.rear_layout):
        read = [name for kind in station.readings for name in book.readings[kind].numbers]
        rows = []
        for name in (*station.sets, *read):
            if name not in seen and (row := _row(sheet, number_named(name))):
                rows.append(row)
            seen.add(name)
        if rows:
            parts.append(Part(station.label, tuple(rows)))
    names = dict.fromkeys([*(band.number for band in book.bands), *book.work.aims])
    worked = [
        row
        for name in names
        if name not in seen and number_named(name).kind is Kind.WORKED
        if name in sheet.applying and (row := _row(sheet, number_named(name)))
    ]
    if worked:
        parts.append(Part("Calculated", tuple(worked)))
    return parts


def _row(sheet: Sheet, number: Number) -> Row | None:
    """A number as it is printed; None where nothing is set or read, or the car has no such number."""
    if number.is_description or not sheet.car.has(number):
        return None
    if number.kind is Kind.SET and number.on_slip:
        set_to = sheet.setup.get(number.name)
        if not set_to or all(one is None for one in set_to):
            return None
        way = way_of(number)
        values = tuple(
            "–" if one is None else _bare(way.show(sheet.car, number, one), number, sheet)
            for one in set_to
        )
    else:
        told = sheet.by_place(number.name)
        if told is None or not sheet.is_read(number.name):
            return None
        if number.kind is Kind.WORKED and number.name not in sheet.applying:
            return None
        profile = sheet.car.profile
        values = tuple(
            "–" if one is None else show(one, number.quantity, profile, unit=False) for one in told
        )
    unit = "" if number.is_part else symbol_of(number.quantity, sheet.car.profile)
    label = f"{number.label} [{unit}]" if unit else number.label
    estimated = "est." if sheet.estimated(number.name) else ""
    mark = MARKS.get(sheet.status(number.name), "") or estimated
    return Row(label, number.shape.places, values, mark)


def _bare(said: str, number: Number, sheet: Sheet) -> str:
    """A setting without the unit that its label has already."""
    unit = symbol_of(number.quantity, sheet.car.profile)
    return said if number.is_part or not unit else said.removesuffix(f" {unit}")


@dataclass(frozen=True)
class Change:
    """One line of a change sheet: what, where, from what, to what."""

    what: str
    where: str
    before: str
    after: str


def change_sheet(
    sheet: Sheet, lines: Iterable[Line], jobs: Iterable[str] = ()
) -> tuple[list[Change], list[Recheck]]:
    """The lines of a slip as they are printed, and what to read again after them."""
    lines, jobs = list(lines), list(jobs)
    changes = []
    for line in lines:
        number = number_named(line.name)
        if number.is_fact:
            shown = [
                "–" if one is None else show(one, number.quantity, sheet.car.profile)
                for one in (line.old, line.new)
            ]
        else:
            way = way_of(number)
            shown = [
                "–" if one is None else way.show(sheet.car, number, one)
                for one in (line.old, line.new)
            ]
        where = "" if number.shape is Shape.CAR else line.place
        changes.append(Change(number.label, where, *shown))
    changes += [Change(knowledge().work.jobs[job].label, "", "", "done") for job in jobs]
    return changes, rechecks(lines, sheet.car, jobs)
