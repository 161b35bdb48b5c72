"""Slips: a person's open draft on a car, those parked, and the booked ones with their verdicts."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from sqlalchemy import bindparam, select
from sqlalchemy.orm import Session, joinedload

from cabrio.core.car import Line

from .models import SlipLineRow, SlipRow, VerdictRow

OPEN = (
    select(SlipRow)
    .where(
        SlipRow.car_id == bindparam("car"),
        SlipRow.author_id == bindparam("person"),
        SlipRow.state != "booked",
    )
    .options(joinedload(SlipRow.lines))
    .order_by(SlipRow.at.desc())
)


def open_of(db: Session, car_id: int, person_id: int) -> Sequence[SlipRow]:
    """A person's draft on a car and those parked, the newest first."""
    return db.scalars(OPEN, {"car": car_id, "person": person_id}).unique().all()


def draft_of(db: Session, car_id: int, person_id: int) -> SlipRow | None:
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state == "draft"
    )
    return db.scalars(query).one_or_none()


def parked_of(db: Session, car_id: int, person_id: int) -> Sequence[SlipRow]:
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state == "parked"
    )
    return db.scalars(query.order_by(SlipRow.at.desc())).all()


def set_lines(slip: SlipRow, lines: Iterable[Line]) -> None:
    """Give a slip these lines. A row that is there already is written over where it differs."""
    there = {(row.name, row.place): row for row in slip.lines}
    rows = []
    for i, line in enumerate(lines):
        row = there.get((line.name, line.place)) or SlipLineRow(name=line.name, place=line.place)
        row.position, row.old, row.new = i, line.old, line.new
        rows.append(row)
    slip.lines = rows


def booked_slip(db: Session, car_id: int, revision: int) -> SlipRow | None:
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.booked_as == revision)
    return db.scalars(query).one_or_none()


def verdicts_of(db: Session, slip_ids: Iterable[int]) -> dict[int, VerdictRow]:
    """The newest verdict of each slip."""
    query = select(VerdictRow).where(VerdictRow.slip_id.in_(list(slip_ids)))
    rows = db.scalars(query.order_by(VerdictRow.at, VerdictRow.id))
    return {row.slip_id: row for row in rows}
