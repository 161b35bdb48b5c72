"""The record of what was corrected in the logbook: old value, new value, who, when and why. Never edited."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.storage.models import AmendmentRow

from .actor import Actor


def amended(
    db: Session,
    actor: Actor,
    kind: str,
    row_id: int,
    before: Mapping[str, Any],
    after: Mapping[str, Any],
    why: str,
    now: datetime,
) -> None:
    """Write down what was corrected: only what differs."""
    names = [name for name in before if before[name] != after[name]]
    db.add(
        AmendmentRow(
            team_id=actor.team_id,
            kind=kind,
            row_id=row_id,
            before={name: _plain(before[name]) for name in names},
            after={name: _plain(after[name]) for name in names},
            why=why,
            by=actor.name,
            at=now,
        )
    )
    db.flush()


def _plain(value: Any) -> Any:
    return value.isoformat() if isinstance(value, date | datetime) else value
