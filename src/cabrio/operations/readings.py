"""Taking a reading, and withdrawing one with a reason. Readings are never edited."""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import asdict, replace
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.car.model import Car
from cabrio.core.errors import CoreError, Impossible, Missing, Problems, UnknownName, collected
from cabrio.core.graph.evaluate import refused_together
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import ReadingKind, knowledge
from cabrio.core.record.readings import STAGES, Row, Taken, check_repeats, kind_named, mean_of
from cabrio.core.record.watch import LEAST_WORDS
from cabrio.storage import cars
from cabrio.storage.models import ReadingRow

from .actor import Actor
from .bench import load
from .errors import CautionFirst, Conflict, NotFound
from .texts import checked_text


def take(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    kind: str,
    repeats: Mapping[str, list[list[Any]]],
    conditions: Mapping[str, bool],
    zero: Mapping[str, Any] | None = None,
    taken: Taken | None = None,
    note: str = "",
    confirmed: bool = False,
    understood: Collection[str] | None = None,
) -> ReadingRow:
    """Write a reading down against the revision on the car. All bad cells are refused at once.

    `understood` are the stations whose caution whoever reads has understood, None where nobody stands at the
    car: what is taken before its caution raises CautionFirst, and nothing is written. `zero` is what the instrument itself adds, by number, as typed: it is kept, and taken off.
    """
    actor.must("read")
    bench = load(db, actor, car_id, lock=True)
    row = kind_named(kind, bench.car)
    taken = taken or Taken()
    unknown = set(conditions) - set(knowledge().conditions)
    if unknown:
        raise UnknownName(f"There is no condition called “{sorted(unknown)[0]}”.")
    problems: list[CoreError] = []
    if row.inspects:
        actor.must("inspect")
        problems += _inspection(row, conditions, note)
    if taken.stage not in STAGES or (taken.stage and not row.stages):
        problems.append(UnknownName(f"{row.label} has no stage “{taken.stage}”.", number="stage"))
    checked: dict[str, list[Row]] = {}
    offsets: dict[str, float] = {}
    with collected(problems):
        checked, offsets = check_repeats(
            row, repeats, bench.car.profile, confirmed=confirmed, zero=zero
        )
    problems += _not_on_car(bench.car, checked)
    if problems:
        raise Problems(problems)
    if impossible := refused_together({name: mean_of(told) for name, told in checked.items()}):
        raise Problems(impossible)
    taken = replace(
        taken,
        zero=offsets,
        instrument=checked_text(taken.instrument, "instrument"),
        place=checked_text(taken.place, "place"),
    )
    if understood is not None:
        _refuse_without_caution(kind, understood)
    reading = ReadingRow(
        car_id=car_id,
        revision=bench.row.revision,
        kind=kind,
        settles=checked,
        conditions={name: bool(conditions.get(name)) for name in row.conditions},
        taken=asdict(taken),
        note=checked_text(note, "note"),
        taken_by=actor.name,
        taken_at=now,
    )
    db.add(reading)
    db.flush()
    return reading


def _not_on_car(car: Car, checked: Mapping[str, list[Row]]) -> list[CoreError]:
    """Numbers read at a place where this car has none of them."""
    return [
        Impossible(f"{number_named(name).where(place)}: {why}.", number=name, place=place)
        for name, rows in checked.items()
        for i, place in enumerate(number_named(name).shape.places)
        if any(row[i] is not None for row in rows) and (why := car.has_not(name, place))
    ]


def _inspection(row: ReadingKind, conditions: Mapping[str, bool], note: str) -> list[CoreError]:
    """What an inspection lacks that would end a sign of damage: what was looked at, and words on it."""
    found: list[CoreError] = []
    if not any(conditions.get(name) for name in row.conditions):
        found.append(
            Missing("Tick what was looked at: an inspection of nothing ends no sign of damage.")
        )
    if len(note.split()) < LEAST_WORDS:
        found.append(
            Missing(
                f"Write what was found and done, in {LEAST_WORDS} words at least.", number="note"
            )
        )
    return found


def _refuse_without_caution(kind: str, understood: Collection[str]) -> None:
    """Raise CautionFirst where the station of this reading has a caution not yet understood."""
    station = knowledge().stations_by_id[knowledge().readings[kind].station]
    if station.caution and station.id not in understood:
        raise CautionFirst(f"Before you start: {station.caution} Say that you have understood it.")


def withdraw(
    db: Session, actor: Actor, car_id: int, reading_id: int, now: datetime, *, why: str
) -> None:
    """Take a mistaken reading out of use, with the reason; it stays in the record."""
    actor.must("read")
    load(db, actor, car_id, lock=True)  # of several at once, one does it
    reading = cars.find_reading(db, car_id, reading_id)
    if reading is None:
        raise NotFound("There is no such reading of this car.")
    kind = knowledge().readings.get(reading.kind)
    if kind is not None and (kind.damage or kind.inspects):
        actor.must("inspect")  # else a sign of damage could be withdrawn by who may not end it
    if reading.withdrawn_at is not None:
        raise Conflict(f"{reading.withdrawn_by} has already withdrawn it: {reading.withdrawn_why}")
    if not why.strip():
        raise Problems(
            [UnknownName("Say why it is withdrawn: the record keeps the reason.", number="why")]
        )
    reading.withdrawn_by, reading.withdrawn_at, reading.withdrawn_why = (
        actor.name,
        now,
        checked_text(why, "why"),
    )
