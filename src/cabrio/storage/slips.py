"""Slips: a person's open draft on a car, those parked, and the booked ones with their verdicts."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from cabrio.core.car import Line

from .models import SlipLineRow, SlipRow, VerdictRow


def open_of(db: Session, car_id: int, person_id: int) -> Sequence[SlipRow]:
    """A person's draft on a car and those parked, the newest first."""
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state != "booked"
    )
    return db.scalars(query.order_by(SlipRow.at.desc())).all()


def draft_of(db: Session, car_id: int, person_id: int) -> SlipRow | None:
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state == "draft"
    )
    return db.scalars(query).one_or_none()


def parked_of(db: Session, car_id: int, person_id: int) -> Sequence[SlipRow]:
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state == "aside"
    )
    return db.scalars(query.order_by(SlipRow.at.desc())).all()


def set_lines(slip: SlipRow, lines: Iterable[Line]) -> None:
    slip.lines = [
        SlipLineRow(position=i, name=line.name, place=line.place, old=line.old, new=line.new)
        for i, line in enumerate(lines)
    ]


def booked_slip(db: Session, car_id: int, revision: int) -> SlipRow | None:
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.booked_as == revision)
    return db.scalars(query).one_or_none()


def verdicts_of(db: Session, slip_ids: Iterable[int]) -> dict[int, VerdictRow]:
    """The newest verdict of each slip."""
    query = select(VerdictRow).where(VerdictRow.slip_id.in_(list(slip_ids)))
    rows = db.scalars(query.order_by(VerdictRow.at, VerdictRow.id))
    return {row.slip_id: row for row in rows}
