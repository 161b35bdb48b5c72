"""Correcting events, sessions and runs, and setting them aside: never silently, never without the old value."""

from __future__ import annotations

from collections.abc import Callable
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
from .texts import checked_text
from .versions import check_version

Kind = Literal["session", "run"]
VALUES: dict[Kind, Callable[..., dict[str, Any]]] = {"session": session_values, "run": run_values}
"""What is typed of each, checked."""


def correct_event(
    db: Session,
    actor: Actor,
    event_id: int,
    now: datetime,
    /,
    *,
    why: str,
    seen: str | None = None,
    **typed: Any,
) -> EventRow:
    """Correct an event of the team, every field of it as it should be; `seen` is the version its writer saw."""
    actor.must("log")
    row = logbook.find_event(db, actor.team_id, event_id)
    if row is None:
        raise NotFound("There is no such event in your team.")
    check_version(row, seen, "event")
    _correct(db, actor, "event", row, event_values(**typed), why, now)
    return row


def correct(
    db: Session,
    actor: Actor,
    car_id: int,
    of: Kind,
    row_id: int,
    now: datetime,
    /,
    *,
    why: str,
    seen: str | None = None,
    **typed: Any,
) -> None:
    """Correct a session or a run of this car, every field of it as it should be; a run keeps its revision."""
    actor.must("log")
    bench = load(db, actor, car_id, lock=True)
    row, values = _named(db, car_id, of, row_id), VALUES[of](bench, **typed)
    check_version(row, seen, of)
    _correct(db, actor, of, row, values, why, now)


def set_aside(
    db: Session, actor: Actor, car_id: int, kind: Kind, row_id: int, now: datetime, *, why: str
) -> None:
    """Take a session, with its runs, or a run out of the logbook; the record keeps it, and who and why."""
    actor.must("log")
    load(db, actor, car_id, lock=True)
    row = _named(db, car_id, kind, row_id)
    reason = _reason(why)
    if row.aside_at is None:
        row.aside_at = now
        amended(db, actor, kind, row.id, {"aside": False}, {"aside": True}, reason, now)


def _correct(
    db: Session,
    actor: Actor,
    kind: str,
    row: EventRow | SessionRow | RunRow,
    values: dict[str, Any],
    why: str,
    now: datetime,
) -> None:
    reason = _reason(why)
    before = {name: getattr(row, name) for name in values}
    if before == values:
        raise Impossible("Nothing differs from what is written down.", number="why")
    amended(db, actor, kind, row.id, before, values, reason, now)
    for name, value in values.items():
        setattr(row, name, value)
    db.flush()


def _reason(why: str) -> str:
    reason = checked_text(why, "why")
    if not reason:
        raise Impossible("Say why: the record keeps what stood there before.", number="why")
    return reason


def _named(db: Session, car_id: int, kind: Kind, row_id: int) -> SessionRow | RunRow:
    find = logbook.find_session if kind == "session" else logbook.find_run
    row: SessionRow | RunRow | None = find(db, car_id, row_id)
    if row is None:
        raise NotFound(f"There is no such {kind} of this car.")
    return row
