"""Correcting events, sessions and runs, and setting them aside: never silently, never without the old value."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible
from cabrio.storage import logbook
from cabrio.storage.models import EventRow, RunRow, SessionRow

from .actor import Actor
from .amended import amended
from .bench import load
from .errors import NotFound
from .logbook import event_values, run_values, session_values
from .texts import said

Kind = Literal["session", "run"]


def correct_event(
    db: Session, actor: Actor, event_id: int, now: datetime, *, why: str, **typed: Any
) -> EventRow:
    """Correct an event of the team, every field of it as it should be."""
    actor.must("log")
    row = logbook.find_event(db, actor.team_id, event_id)
    if row is None:
        raise NotFound("There is no such event in your team.")
    _correct(db, actor, "event", row, event_values(**typed), why, now)
    return row


def correct_session(
    db: Session,
    actor: Actor,
    car_id: int,
    session_id: int,
    now: datetime,
    *,
    why: str,
    **typed: Any,
) -> SessionRow:
    """Correct a session of this car, every field of it as it should be."""
    actor.must("log")
    bench = load(db, actor, car_id, lock=True)
    row = _session(db, car_id, session_id)
    _correct(db, actor, "session", row, session_values(bench, **typed), why, now)
    return row


def correct_run(
    db: Session, actor: Actor, car_id: int, run_id: int, now: datetime, *, why: str, **typed: Any
) -> RunRow:
    """Correct a run of this car, every field of it as it should be; its revision stays."""
    actor.must("log")
    bench = load(db, actor, car_id, lock=True)
    row = _run(db, car_id, run_id)
    _correct(db, actor, "run", row, run_values(bench, **typed), why, now)
    return row


def set_aside(
    db: Session, actor: Actor, car_id: int, kind: Kind, row_id: int, now: datetime, *, why: str
) -> None:
    """Take a session, with its runs, or a run out of the logbook; the record keeps it, and who and why."""
    actor.must("log")
    load(db, actor, car_id, lock=True)
    row = _session(db, car_id, row_id) if kind == "session" else _run(db, car_id, row_id)
    told = _reason(why)
    if row.aside_at is None:
        row.aside_at = now
        amended(db, actor, kind, row.id, {"aside": False}, {"aside": True}, told, now)


def _correct(
    db: Session,
    actor: Actor,
    kind: str,
    row: EventRow | SessionRow | RunRow,
    values: dict[str, Any],
    why: str,
    now: datetime,
) -> None:
    told = _reason(why)
    before = {name: getattr(row, name) for name in values}
    if before == values:
        raise Impossible("Nothing differs from what is written down.", number="why")
    amended(db, actor, kind, row.id, before, values, told, now)
    for name, value in values.items():
        setattr(row, name, value)
    db.flush()


def _reason(why: str) -> str:
    told = said(why, "why")
    if not told:
        raise Impossible("Say why: the record keeps what stood there before.", number="why")
    return told


def _session(db: Session, car_id: int, session_id: int) -> SessionRow:
    row = logbook.find_session(db, car_id, session_id)
    if row is None:
        raise NotFound("There is no such session of this car.")
    return row


def _run(db: Session, car_id: int, run_id: int) -> RunRow:
    row = logbook.find_run(db, car_id, run_id)
    if row is None:
        raise NotFound("There is no such run of this car.")
    return row
