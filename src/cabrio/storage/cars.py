"""The car and all that hangs on it. Every lookup is scoped by team: another team's car is not there."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from cabrio.core.car import Car
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision

from .documents import car_document, car_from, content_hash, reading_from, revision_from
from .models import CarRow, ReadingRow, RevisionRow, SlipRow


def cars_of(db: Session, team_id: int) -> Sequence[CarRow]:
    return db.scalars(select(CarRow).where(CarRow.team_id == team_id).order_by(CarRow.id)).all()


def find_car(db: Session, team_id: int, car_id: int, *, lock: bool = False) -> CarRow | None:
    query = select(CarRow).where(CarRow.team_id == team_id, CarRow.id == car_id)
    if lock:
        query = query.with_for_update()
    return db.scalars(query).one_or_none()


def car_of(row: CarRow) -> Car:
    return car_from(row.document)


def save_car(row: CarRow, car: Car) -> None:
    row.document = car_document(car)
    row.version += 1


def booked_slips(db: Session, car_id: int) -> dict[int, SlipRow]:
    """Booked slips by the revision they made."""
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.state == "booked")
    return {slip.booked_as: slip for slip in db.scalars(query) if slip.booked_as is not None}


def revisions_of(db: Session, car_id: int) -> list[Revision]:
    """Every revision, oldest first, each with the lines that made it."""
    slips = booked_slips(db, car_id)
    query = select(RevisionRow).where(RevisionRow.car_id == car_id).order_by(RevisionRow.number)
    return [revision_from(row, slips.get(row.number)) for row in db.scalars(query)]


def add_revision(
    db: Session, car: CarRow, number: int, setup: dict[str, Any], by: str, at: Any
) -> None:
    db.add(RevisionRow(car_id=car.id, number=number, setup=setup, content_hash=content_hash(setup),
                       booked_by=by, booked_at=at))  # fmt: skip
    car.revision = number


def readings_of(db: Session, car_id: int) -> list[Reading]:
    query = select(ReadingRow).where(ReadingRow.car_id == car_id)
    rows = db.scalars(query.order_by(ReadingRow.taken_at, ReadingRow.id))
    return [reading_from(row) for row in rows]


def find_reading(db: Session, car_id: int, reading_id: int) -> ReadingRow | None:
    query = select(ReadingRow).where(ReadingRow.car_id == car_id, ReadingRow.id == reading_id)
    return db.scalars(query).one_or_none()
