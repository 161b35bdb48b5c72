"""The car and all that hangs on it. Every lookup is scoped by team: another team's car is not there."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from itertools import groupby
from typing import Any
from uuid import UUID

from sqlalchemy import and_, select
from sqlalchemy.orm import Session

from cabrio.core.car import Car, Line
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet

from .documents import car_document, car_from, content_hash, iso, reading_from
from .models import CarRow, ReadingRow, RevisionRow, SlipLineRow, SlipRow


def cars_of(db: Session, team_id: int) -> Sequence[CarRow]:
    return db.scalars(select(CarRow).where(CarRow.team_id == team_id).order_by(CarRow.id)).all()


def find_car(db: Session, team_id: int, car_id: int, *, lock: bool = False) -> CarRow | None:
    query = select(CarRow).where(CarRow.team_id == team_id, CarRow.id == car_id)
    query = query.execution_options(populate_existing=True)  # its stamp is the database's own
    if lock:
        query = query.with_for_update()
    return db.scalars(query).one_or_none()


def save_car(row: CarRow, car: Car) -> None:
    row.document = car_document(car)


def booked_slips(db: Session, car_id: int) -> dict[int, SlipRow]:
    """Booked slips by the revision they made."""
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.state == "booked")
    return {slip.booked_as: slip for slip in db.scalars(query) if slip.booked_as is not None}


@dataclass
class Record:
    """All that was written down of a car up to one stamp, and the sheets that were worked from it."""

    car: Car
    revisions: list[Revision]
    readings: list[Reading]
    sheets: dict[int, Sheet] = field(default_factory=dict)


MOST_KEPT = 64
_KEPT: dict[UUID, Record] = {}


def record_of(db: Session, row: CarRow) -> Record:
    """The record of a car. What stands under one stamp never changes: the last few are kept as read."""
    found = _KEPT.get(row.stamp)
    if found is None:
        found = Record(car_from(row.document), revisions_of(db, row.id), readings_of(db, row.id))
        while len(_KEPT) >= MOST_KEPT:
            _KEPT.pop(next(iter(_KEPT)), None)
        _KEPT[row.stamp] = found
    return found


def revisions_of(db: Session, car_id: int) -> list[Revision]:
    """Every revision, oldest first, each with the lines and jobs that made it."""
    query = (
        select(
            RevisionRow.number,
            RevisionRow.setup,
            RevisionRow.booked_by,
            RevisionRow.booked_at,
            SlipRow.jobs,
            SlipLineRow.name,
            SlipLineRow.place,
            SlipLineRow.old,
            SlipLineRow.new,
        )
        .outerjoin(
            SlipRow,
            and_(SlipRow.car_id == RevisionRow.car_id, SlipRow.booked_as == RevisionRow.number),
        )
        .outerjoin(SlipLineRow)
        .where(RevisionRow.car_id == car_id)
        .order_by(RevisionRow.number, SlipLineRow.position)
    )
    found: list[Revision] = []
    for _, rows in groupby(db.execute(query), key=lambda row: row.number):
        lines = list(rows)
        row = lines[0]
        found.append(
            Revision(
                row.number,
                row.setup,
                tuple(Line(*one[5:]) for one in lines if one.name is not None),
                row.booked_by,
                iso(row.booked_at),
                tuple(row.jobs or ()),
            )
        )
    return found


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
    """Every reading, oldest first."""
    query = select(ReadingRow).where(ReadingRow.car_id == car_id)
    rows = db.scalars(query.order_by(ReadingRow.taken_at, ReadingRow.id))
    return [reading_from(row) for row in rows]


def find_reading(db: Session, car_id: int, reading_id: int) -> ReadingRow | None:
    query = select(ReadingRow).where(ReadingRow.car_id == car_id, ReadingRow.id == reading_id)
    return db.scalars(query).one_or_none()
