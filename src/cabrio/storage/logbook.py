"""Events, sessions and runs. An event is the team's; a session is one car's part of it."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from .models import AmendmentRow, EventRow, PictureRow, RunRow, SessionRow

STANDING = (RunRow.aside_at.is_(None), SessionRow.aside_at.is_(None))
"""Runs that were not set aside, nor was their session."""


def amendments_of(db: Session, team_id: int) -> Sequence[AmendmentRow]:
    """Every correction of the team's logbook, the oldest first."""
    query = select(AmendmentRow).where(AmendmentRow.team_id == team_id)
    return db.scalars(query.order_by(AmendmentRow.id)).all()


def events_of(db: Session, team_id: int) -> Sequence[EventRow]:
    query = select(EventRow).where(EventRow.team_id == team_id)
    return db.scalars(query.order_by(EventRow.starts_on, EventRow.id)).all()


def find_event(db: Session, team_id: int, event_id: int) -> EventRow | None:
    query = select(EventRow).where(EventRow.team_id == team_id, EventRow.id == event_id)
    return db.scalars(query).one_or_none()


def sessions_of(db: Session, car_id: int) -> Sequence[SessionRow]:
    query = select(SessionRow).where(SessionRow.car_id == car_id, SessionRow.aside_at.is_(None))
    return db.scalars(query.order_by(SessionRow.starts_at, SessionRow.id)).all()


def find_session(db: Session, car_id: int, session_id: int) -> SessionRow | None:
    query = select(SessionRow).where(
        SessionRow.car_id == car_id, SessionRow.id == session_id, SessionRow.aside_at.is_(None)
    )
    return db.scalars(query).one_or_none()


def driven(db: Session, car_id: int) -> list[tuple[datetime, float | None]]:
    """When each run of a car was logged, and how far it went [m]: None without its laps or the lap's length."""
    query = (
        select(RunRow.at, RunRow.laps * EventRow.lap_length)
        .join(SessionRow, RunRow.session_id == SessionRow.id)
        .join(EventRow, SessionRow.event_id == EventRow.id)
        .where(SessionRow.car_id == car_id, *STANDING)
    )
    return [(at, far) for at, far in db.execute(query)]


def clocked_runs(db: Session, car_id: int, most: int = 200) -> list[tuple[int, dict[str, float]]]:
    """The revision and what was clocked of a car's last runs, the oldest first."""
    query = (
        select(RunRow.revision, RunRow.times)
        .join(SessionRow)
        .where(SessionRow.car_id == car_id, *STANDING)
        .order_by(RunRow.at.desc())
        .limit(most)
    )
    return [(revision, times) for revision, times in db.execute(query)][::-1]


def last_runs(db: Session, car_id: int, most: int = 100) -> Sequence[datetime]:
    """When the last runs of a car were logged, the newest first."""
    query = select(RunRow.at).join(SessionRow).where(SessionRow.car_id == car_id, *STANDING)
    return db.scalars(query.order_by(RunRow.at.desc()).limit(most)).all()


def runs_in(db: Session, session_id: int) -> int:
    """The number of the last run of a session; 0 where none was logged."""
    last = select(func.max(RunRow.number)).where(RunRow.session_id == session_id)
    return db.scalar(last) or 0


def find_run(db: Session, car_id: int, run_id: int) -> RunRow | None:
    query = select(RunRow).join(SessionRow).where(SessionRow.car_id == car_id, RunRow.id == run_id)
    return db.scalars(query.where(*STANDING)).one_or_none()


def find_picture(db: Session, car_id: int, picture_id: int) -> PictureRow | None:
    query = (
        select(PictureRow)
        .join(RunRow)
        .join(SessionRow)
        .where(SessionRow.car_id == car_id, PictureRow.id == picture_id)
    )
    return db.scalars(query.where(PictureRow.removed_at.is_(None))).one_or_none()


def next_session(db: Session, car_id: int, now: datetime) -> SessionRow | None:
    """The first session still to come, else the newest one."""
    sessions = sessions_of(db, car_id)
    coming = [one for one in sessions if one.starts_at >= now]
    return coming[0] if coming else (sessions[-1] if sessions else None)
