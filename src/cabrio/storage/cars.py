"""The car and all that hangs on it. Every lookup is scoped by team: another team's car is not there."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from cabrio.core.car import Car, Line
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision

from .documents import car_document, car_from, content_hash, iso, reading_from
from .models import CarRow, ReadingRow, RevisionRow, SlipLineRow, SlipRow


def cars_of(db: Session, team_id: int) -> Sequence[CarRow]:
    return db.scalars(select(CarRow).where(CarRow.team_id == team_id).order_by(CarRow.id)).all()


def find_car(db: Session, team_id: int, car_id: int, *, lock: bool = False) -> CarRow | None:
    query = select(CarRow).where(CarRow.team_id == team_id, CarRow.id == car_id)
    if lock:
        query = query.with_for_update()
    return db.scalars(query).one_or_none()


def car_of(row: CarRow) -> Car:
    """The car of a row. A version of a document never changes: the last few are kept as they were read."""
    key = (row.id, row.version, row.added_at)
    if key not in _READ:
        while len(_READ) >= MOST_READ:
            _READ.pop(next(iter(_READ)), None)
        _READ[key] = (row.document, car_from(row.document))
    document, car = _READ[key]
    return car if document == row.document else car_from(row.document)


MOST_READ = 64
_READ: dict[tuple[int, int, datetime], tuple[dict[str, Any], Car]] = {}


def save_car(row: CarRow, car: Car) -> None:
    row.document = car_document(car)
    row.version += 1


def booked_slips(db: Session, car_id: int) -> dict[int, SlipRow]:
    """Booked slips by the revision they made."""
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.state == "booked")
    return {slip.booked_as: slip for slip in db.scalars(query) if slip.booked_as is not None}


def revisions_of(db: Session, car_id: int) -> list[Revision]:
    """Every revision, oldest first, each with the lines and jobs that made it.

    Columns alone are read: this is asked for at every step of a slip.
    """
    made: dict[int, tuple[list[Line], list[str]]] = {}
    lines = (
        select(
            SlipRow.booked_as,
            SlipRow.jobs,
            SlipLineRow.name,
            SlipLineRow.place,
            SlipLineRow.old,
            SlipLineRow.new,
        )
        .outerjoin(SlipLineRow)
        .where(SlipRow.car_id == car_id, SlipRow.state == "booked")
        .order_by(SlipRow.booked_as, SlipLineRow.position)
    )
    for number, jobs, name, place, old, new in db.execute(lines):
        found = made.setdefault(number, ([], jobs))
        if name is not None:
            found[0].append(Line(name, place, old, new))
    columns = (RevisionRow.number, RevisionRow.setup, RevisionRow.booked_by, RevisionRow.booked_at)
    query = select(*columns).where(RevisionRow.car_id == car_id).order_by(RevisionRow.number)
    return [
        Revision(
            number,
            setup,
            tuple(made[number][0]) if number in made else (),
            by,
            iso(at),
            tuple(made[number][1]) if number in made else (),
        )
        for number, setup, by, at in db.execute(query)
    ]


def add_revision(
    db: Session, car: CarRow, number: int, setup: dict[str, Any], by: str, at: Any
) -> None:
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


def readings_of(db: Session, car_id: int) -> list[Reading]:
    query = select(ReadingRow).where(ReadingRow.car_id == car_id)
    rows = db.scalars(query.order_by(ReadingRow.taken_at, ReadingRow.id))
    return [reading_from(row) for row in rows]


def find_reading(db: Session, car_id: int, reading_id: int) -> ReadingRow | None:
    query = select(ReadingRow).where(ReadingRow.car_id == car_id, ReadingRow.id == reading_id)
    return db.scalars(query).one_or_none()
