"""What was done and by whom. The database writes it (migration 0014); here it is told who acts, and read."""

from __future__ import annotations

import json
from collections.abc import Sequence
from dataclasses import dataclass
from hashlib import sha256
from typing import Any

from sqlalchemy import String, cast, func, select, text
from sqlalchemy.orm import Session

from .models import AuditRow

AT_ONCE = 1000
"""Entries fetched at once when the chain is followed."""


def tell_who(
    db: Session, name: str, *, person: int | None = None, team: int | None = None, request: str = ""
) -> None:
    """Say who writes, to the end of this transaction."""
    said = {"name": name, "person": person, "team": team, "request": request}
    db.execute(
        text("SELECT set_config('cabrio.who', :said, true)"),
        {"said": json.dumps({key: value for key, value in said.items() if value})},
    )


def note(
    db: Session,
    did: str,
    what: str,
    *,
    row: int | None = None,
    car: int | None = None,
    about: dict[str, Any] | None = None,
) -> None:
    """Write down what is no write of a row: an export, a try to sign in."""
    db.execute(
        text("SELECT audit_add(:did, :what, :row, :car, NULL, CAST(:about AS jsonb))"),
        {"did": did, "what": what, "row": row, "car": car, "about": json.dumps(about or {})},
    )


def entries(
    db: Session, team_id: int, before: int | None, car_id: int | None, most: int
) -> Sequence[AuditRow]:
    """A team's, the newest first; those before an id where one is given."""
    query = select(AuditRow).where(AuditRow.team_id == team_id)
    if before is not None:
        query = query.where(AuditRow.id < before)
    if car_id is not None:
        query = query.where(AuditRow.car_id == car_id)
    return db.scalars(query.order_by(AuditRow.id.desc()).limit(most)).all()


def tell_import(db: Session, car_id: int) -> None:
    """Say that this transaction brings a car in. Its rows are then kept as one entry, with the car; the
    database sees to it that the car is as new as they are."""
    db.execute(text("SELECT set_config('cabrio.import', :car, true)"), {"car": str(car_id)})


def entries_by(db: Session, person_id: int) -> Sequence[AuditRow]:
    """All that one person did, the oldest first."""
    query = select(AuditRow).where(AuditRow.person_id == person_id)
    return db.scalars(query.order_by(AuditRow.id)).all()


@dataclass(frozen=True)
class Changes:
    """What others did since: the newest entry, the cars they touched, and whether it was more than cars."""

    at: int
    cars: tuple[int, ...] = ()
    more: bool = False


def changes(db: Session, team_id: int, person_id: int, after: int) -> Changes:
    """What others of the team wrote after an entry; signing in changes nothing. 0 asks for the newest alone."""
    newest = select(func.max(AuditRow.id)).where(AuditRow.team_id == team_id)
    at = db.scalar(newest) or 0
    if not after or at <= after:
        return Changes(at)
    query = select(AuditRow.car_id).where(
        AuditRow.team_id == team_id,
        AuditRow.id > after,
        AuditRow.id <= at,
        AuditRow.person_id.is_distinct_from(person_id),
        AuditRow.entry["what"].astext != "sign_in",
        AuditRow.entry["did"].astext != "exported",
    )
    touched = set(db.scalars(query.distinct()))
    return Changes(at, tuple(sorted(one for one in touched if one)), None in touched)


@dataclass(frozen=True)
class Chain:
    """How many entries hold, the last one's hash, and the number of the first that does not."""

    count: int
    last: str
    broken: int | None


def follow(db: Session) -> Chain:
    """Work every hash again from the first entry on."""
    last, count, seen = "", 0, 0
    while True:
        query = (
            select(AuditRow.id, cast(AuditRow.entry, String), AuditRow.hash)
            .where(AuditRow.id > seen)
            .order_by(AuditRow.id)
            .limit(AT_ONCE)
        )
        found = db.execute(query).all()
        if not found:
            return Chain(count, last, None)
        for seen, entry, kept in found:
            last = sha256(f"{last}{entry}".encode()).hexdigest()
            if last != kept:
                return Chain(count, last, seen)
            count += 1
