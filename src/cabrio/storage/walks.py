"""Orders of work as they are walked through, and their ticks."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from .models import TickRow, WalkRow


def open_walks(db: Session, car_id: int) -> Sequence[WalkRow]:
    """The orders of work of a car that are under way."""
    query = select(WalkRow).where(WalkRow.car_id == car_id, WalkRow.ended_at.is_(None))
    return db.scalars(query.order_by(WalkRow.id)).all()


def open_walk(db: Session, car_id: int, procedure: str) -> WalkRow | None:
    """One order of work of a car that is under way; None where it is not."""
    return next((walk for walk in open_walks(db, car_id) if walk.procedure == procedure), None)


def standing_tick(db: Session, walk_id: int, step: str) -> TickRow | None:
    """The tick of a step that was not taken back; None where there is none."""
    query = select(TickRow).where(
        TickRow.walk_id == walk_id, TickRow.step == step, TickRow.undone_at.is_(None)
    )
    return db.scalars(query).one_or_none()
