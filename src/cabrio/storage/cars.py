"""The car and all that hangs on it. Every lookup is scoped by team: another team's car is not there."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from itertools import groupby
from typing import Any, TypeVar
from uuid import UUID

from sqlalchemy import Row, select
from sqlalchemy.orm import Session

from cabrio.core.car import Car, Line
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet

from .documents import car_document, car_from, content_hash, iso, reading_from
from .models import CarRow, ReadingRow, RevisionRow, SlipLineRow, SlipRow

K = TypeVar("K")
V = TypeVar("V")


def cars_of(db: Session, team_id: int) -> Sequence[CarRow]:
    """The cars of a team in the order they were added."""
    return db.scalars(select(CarRow).where(CarRow.team_id == team_id).order_by(CarRow.id)).all()


def find_car(db: Session, team_id: int, car_id: int, *, lock: bool = False) -> CarRow | None:
    """A car of a team; None where the team has no such car."""
    query = select(CarRow).where(CarRow.team_id == team_id, CarRow.id == car_id)
    query = query.execution_options(populate_existing=True)  # its stamp is the database's own
    if lock:
        query = query.with_for_update()
    return db.scalars(query).one_or_none()


def save_car(row: CarRow, car: Car) -> None:
    """Write the car's facts and inventory into its row."""
    row.document = car_document(car)


def booked_slips(
    db: Session, car_id: int, numbers: Iterable[int] | None = None
) -> dict[int, SlipRow]:
    """Booked slips by the revision they made: all, or those of some revisions."""
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.state == "booked")
    if numbers is not None:
        query = query.where(SlipRow.booked_as.in_(list(numbers)))
    return {slip.booked_as: slip for slip in db.scalars(query) if slip.booked_as is not None}


@dataclass
class Record:
    """All that was written down of a car up to one stamp, and the sheets that were worked from it."""

    car: Car
    revisions: list[Revision]
    readings: list[Reading]
    sheets: dict[int, Sheet] = field(default_factory=dict)

    last_worn: dict[tuple[str, str], int] = field(default_factory=dict)
    """The last revision that wore each part, by kind and code, once it was asked for."""
    last_touched: dict[str, int] = field(default_factory=dict)
    """The last revision that changed anything of each system, once it was asked for."""


MOST_KEPT = 64
AT_ONCE = 1000
Key = tuple[str, int, datetime | None]
"""A database, a car, and when a name was last taken out of its record: what was read before holds it still."""
_KEPT: dict[UUID, Record] = {}
_BOOKED: dict[Key, tuple[list[Revision], str]] = {}
"""Revisions read before, and the seal of the last: what was booked never changes, so only newer ones are read."""
_READ: dict[Key, dict[int, Reading]] = {}
"""Readings read before, in the same way: of a reading only its withdrawal can change."""


def record_of(db: Session, row: CarRow) -> Record:
    """The record of a car. What stands under one stamp never changes: the last few are kept as read."""
    found = _KEPT.get(row.stamp)
    if found is None:
        found = Record(car_from(row.document), revisions_of(db, row), readings_of(db, row))
        _keep(_KEPT, row.stamp, found)
    return found


def _key(db: Session, car: CarRow) -> Key:
    return str(db.get_bind().engine.url), car.id, car.erased_at


def _keep(kept: dict[K, V], key: K, value: V) -> None:
    """Keep one more; the oldest goes."""
    kept.pop(key, None)
    while len(kept) >= MOST_KEPT:
        kept.pop(next(iter(kept)), None)
    kept[key] = value


def revisions_of(db: Session, car: CarRow) -> list[Revision]:
    """Every revision, oldest first, each with the lines and jobs that made it."""
    known, seal = _BOOKED.get(_key(db, car), ([], ""))
    if known and _seal(db, car.id, known[-1].number) != seal:
        known = []  # the database was restored to another time
    found = known + _read_revisions(db, car.id, known[-1].number if known else 0)
    if found:
        _keep(_BOOKED, _key(db, car), (found, _seal(db, car.id, found[-1].number)))
    return found


def _seal(db: Session, car_id: int, number: int) -> str:
    """What tells a revision from another one under its number."""
    query = select(RevisionRow.id, RevisionRow.content_hash, RevisionRow.booked_at).where(
        RevisionRow.car_id == car_id, RevisionRow.number == number
    )
    return str(db.execute(query).one_or_none())


def _read_revisions(db: Session, car_id: int, after: int) -> list[Revision]:
    """Those beyond a number."""
    query = (
        select(RevisionRow.number, RevisionRow.setup, RevisionRow.booked_by, RevisionRow.booked_at)
        .where(RevisionRow.car_id == car_id, RevisionRow.number > after)
        .order_by(RevisionRow.number)
    )
    booked = (
        select(
            SlipRow.booked_as,
            SlipRow.jobs,
            SlipLineRow.name,
            SlipLineRow.place,
            SlipLineRow.old,
            SlipLineRow.new,
        )
        .outerjoin(SlipLineRow)
        .where(SlipRow.car_id == car_id, SlipRow.booked_as > after)
        .order_by(SlipRow.booked_as, SlipLineRow.position)
    )
    # put together here: a database that has not yet counted a new car's rows goes through all slips for
    # each revision. The slips last: what is booked in between brings one too many, and not one too few
    revisions = db.execute(query).all()
    made_by = {
        number: list(rows) for number, rows in groupby(db.execute(booked), lambda row: row[0])
    }
    found: list[Revision] = []
    for number, setup, by, at in revisions:
        rows = made_by.get(number, [])
        lines = tuple(Line(*row[2:]) for row in rows if row.name is not None)
        jobs = tuple(rows[0].jobs or ()) if rows else ()
        found.append(Revision(number, setup, lines, by, iso(at), jobs))
    return found


def add_revision(
    db: Session, car: CarRow, number: int, setup: dict[str, Any], by: str, at: Any
) -> None:
    """Write a booked setup down with its seal, and put the car on it."""
    db.add(
        RevisionRow(
            car_id=car.id,
            number=number,
            setup=setup,
            content_hash=content_hash(setup),
            booked_by=by,
            booked_at=at,
        )
    )
    car.revision = number


def readings_of(db: Session, car: CarRow) -> list[Reading]:
    """Every reading, oldest first."""
    known = _READ.get(_key(db, car), {})
    query = select(ReadingRow.id, ReadingRow.taken_at, ReadingRow.withdrawn_at).where(
        ReadingRow.car_id == car.id
    )
    order = db.execute(query.order_by(ReadingRow.taken_at, ReadingRow.id)).all()

    def stands(row: Row[int, datetime, datetime | None]) -> bool:
        one = known.get(row.id)
        withdrawn = iso(row.withdrawn_at) if row.withdrawn_at else None
        return one is not None and (one.at, one.withdrawn_at) == (iso(row.taken_at), withdrawn)

    found = {row.id: known[row.id] for row in order if stands(row)}
    wanted = [row.id for row in order if row.id not in found]
    for at in range(0, len(wanted), AT_ONCE):
        here = ReadingRow.id.in_(wanted[at : at + AT_ONCE])
        found |= {row.id: reading_from(row) for row in db.scalars(select(ReadingRow).where(here))}
    _keep(_READ, _key(db, car), found)
    return [found[row.id] for row in order]


def find_reading(db: Session, car_id: int, reading_id: int) -> ReadingRow | None:
    """A reading of a car, a withdrawn one too; None where it has no such one."""
    query = select(ReadingRow).where(ReadingRow.car_id == car_id, ReadingRow.id == reading_id)
    return db.scalars(query).one_or_none()
