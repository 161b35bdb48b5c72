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
    db: Session,
    name: str,
    *,
    team: int | None = None,
    key: str = "",
    request: str = "",
) -> None:
    """Say who writes, to the end of this transaction. With the key of a sign-in it is that sign-in's person;
    without, only the database's owner is taken at its word (migration 0021)."""
    said = {"name": name, "team": team, "key": key, "request": request}
    db.execute(
        text("SELECT set_config('cabrio.who', :said, true)"),
        {"said": json.dumps({key: value for key, value in said.items() if value})},
    )


def tell_now(db: Session) -> None:
    """Write down now what this transaction did so far, and not at its end."""
    db.execute(text("SET CONSTRAINTS ALL IMMEDIATE"))
    db.execute(text("SET CONSTRAINTS ALL DEFERRED"))


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
        text("SELECT audit_note(:did, :what, :row, :car, CAST(:about AS jsonb))"),
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
    """What was done since: the newest entry, the cars that were touched, and whether it was more than cars."""

    at: int
    cars: tuple[int, ...] = ()
    more: bool = False


def changes(db: Session, team_id: int, sign_in_id: int, after: int) -> Changes:
    """What the team wrote after an entry, but for this sign-in's own; signing in changes nothing. 0 asks for
    the newest alone."""
    newest = select(func.max(AuditRow.id)).where(AuditRow.team_id == team_id)
    at = db.scalar(newest) or 0
    if not after or at <= after:
        return Changes(at)
    query = select(AuditRow.car_id).where(
        AuditRow.team_id == team_id,
        AuditRow.id > after,
        AuditRow.id <= at,
        AuditRow.entry["sign_in"].as_integer().is_distinct_from(sign_in_id),
        AuditRow.entry["what"].astext != "sign_in",
        AuditRow.entry["did"].astext != "exported",
    )
    touched = set(db.scalars(query.distinct()))
    return Changes(at, tuple(sorted(one for one in touched if one)), None in touched)


@dataclass(frozen=True)
class Chain:
    """How many entries hold, the last one's hash, the number of the first that does not, and in how many a
    person's name was erased."""

    count: int
    last: str
    broken: int | None
    erased: int = 0


def note_erasure(db: Session, person_id: int, changed: dict[int, str]) -> None:
    """Seal, in an entry of its own, what those read now from which a person was erased."""
    about = {"entries": {str(one): told for one, told in changed.items()}}
    note(db, "erased", "person", row=person_id, about=about)


def follow(db: Session) -> Chain:
    """Work every hash again from the first entry on. One from which a name was erased is held against the entry
    that sealed what it reads now."""
    last, count, seen = "", 0, 0
    reads_now: dict[int, str] = {}
    sealed: dict[int, str] = {}
    while True:
        query = (
            select(AuditRow.id, cast(AuditRow.entry, String), AuditRow.hash)
            .where(AuditRow.id > seen)
            .order_by(AuditRow.id)
            .limit(AT_ONCE)
        )
        found = db.execute(query).all()
        if not found:
            break
        for seen, entry, kept in found:
            if sha256(f"{last}{entry}".encode()).hexdigest() != kept:
                reads_now[seen] = sha256(entry.encode()).hexdigest()
            elif entry.find('"erased"') >= 0 and (document := json.loads(entry))["did"] == "erased":
                sealed |= {int(one): now for one, now in document["after"]["entries"].items()}
            last = kept
            count += 1
    for number, now in reads_now.items():
        if sealed.get(number) != now:
            return Chain(number - 1, last, number)
    return Chain(count, last, None, len(reads_now))
