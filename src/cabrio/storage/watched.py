"""What is watched on a car."""

from __future__ import annotations

from collections.abc import Sequence

from sqlalchemy import select
from sqlalchemy.orm import Session

from .models import WatchedRow


def open_on(db: Session, car_id: int) -> Sequence[WatchedRow]:
    """What is watched on a car and not closed, in the order it was opened."""
    query = select(WatchedRow).where(WatchedRow.car_id == car_id, WatchedRow.closed_at.is_(None))
    return db.scalars(query.order_by(WatchedRow.id)).all()


def find(db: Session, car_id: int, watched_id: int) -> WatchedRow | None:
    """Something watched on a car; None where there is no such one."""
    query = select(WatchedRow).where(
        WatchedRow.car_id == car_id, WatchedRow.id == watched_id, WatchedRow.closed_at.is_(None)
    )
    return db.scalars(query).one_or_none()
