"""Taking a name out of everything that is kept of a team, the record of what was done not left out.

Only the database's owner can: the tables guard themselves against it, and their guards are laid aside for the
length of this one transaction. An entry that is changed keeps the hash it was chained by; what it reads now is
sealed in turn by the entry of the erasure (`audit.follow`).
"""

from __future__ import annotations

import json
from collections.abc import Container, Iterator
from contextlib import contextmanager
from hashlib import sha256
from typing import Any

from sqlalchemy import JSON, Table, delete, func, text
from sqlalchemy.orm import Session

from .models import Base, RequestKeyRow

NAMED = ("by", "author", "driver")
"""Columns and fields of documents that hold a person's name: these, and those that end in `_by`."""
SIDES = ("before", "after")
"""What an entry of what was done tells of a row."""


def names(table: Table) -> list[str]:
    """The columns of a table that hold a person's name."""
    return [one.name for one in table.c if one.name in NAMED or one.name.endswith("_by")]


def documents(table: Table) -> list[str]:
    """Columns that may tell what other columns held."""
    return [one.name for one in table.c if isinstance(one.type, JSON) and one.name != "setup"]


@contextmanager
def unguarded(db: Session) -> Iterator[None]:
    """Lay every table's guards aside. The first thing a transaction does."""
    for table in Base.metadata.sorted_tables:
        db.execute(text(f"ALTER TABLE {table.name} DISABLE TRIGGER USER"))
    yield
    db.flush()
    for table in Base.metadata.sorted_tables:
        db.execute(text(f"ALTER TABLE {table.name} ENABLE TRIGGER USER"))


def replace(db: Session, team_id: int, person_id: int, words: dict[str, str]) -> dict[int, str]:
    """Put other words in the place of some, in all rows of a team where they stand alone; where a person could
    not sign in from goes, too. What each entry of what was done that was changed reads now, as its hash."""
    for old, new in words.items():
        for table in Base.metadata.sorted_tables:
            _in_table(db, table, team_id, old, new)
        quoted = func.strpos(RequestKeyRow.answer, json.dumps(old, ensure_ascii=False)) > 0
        db.execute(delete(RequestKeyRow).where(quoted))
    changed = _in_entries(db, team_id, person_id, words)
    # no page and no app goes on from what it read before
    fresh = "UPDATE car SET stamp = gen_random_uuid(), erased_at = now() WHERE team_id = :t"
    db.execute(text(fresh), {"t": team_id})
    return changed


def _in_table(db: Session, table: Table, team_id: int, old: str, new: str) -> None:
    where = _of_team(table)
    if table.name == "audit" or not where:
        return
    for column in names(table):
        db.execute(
            text(f'UPDATE {table.name} SET "{column}" = :new WHERE "{column}" = :old AND {where}'),
            {"old": old, "new": new, "team": team_id},
        )
    key = [one.name for one in table.primary_key]
    for column in documents(table):
        rows = db.execute(
            text(
                f'SELECT {", ".join(key)}, "{column}" AS told FROM {table.name} '
                f'WHERE {where} AND strpos("{column}"::text, to_jsonb(CAST(:old AS text))::text) > 0'
            ),
            {"old": old, "team": team_id},
        ).all()
        for row in rows:
            document = renamed(row.told, old, new)
            if document == row.told:
                continue
            here = " AND ".join(f"{name} = :{name}" for name in key)
            db.execute(
                text(f'UPDATE {table.name} SET "{column}" = CAST(:told AS jsonb) WHERE {here}'),
                {"told": json.dumps(document), **{name: getattr(row, name) for name in key}},
            )


def renamed(document: Any, old: str, new: str, fields: Container[str] = ()) -> Any:
    """A document with another name where a field names people: those of `NAMED`, those that end in `_by`, and
    `fields` besides. The same word anywhere else is a word, and stays."""
    if isinstance(document, list):
        return [renamed(one, old, new, fields) for one in document]
    if not isinstance(document, dict):
        return document
    return {
        key: new
        if one == old and (key in NAMED or key.endswith("_by") or key in fields)
        else renamed(one, old, new, fields)
        for key, one in document.items()
    }


def _of_team(table: Table, team: str = ":team") -> str:
    """The condition that a row belongs to a team, followed from table to table; empty where none leads there."""
    if "team_id" in table.c:
        return f"team_id = {team}"
    for key in sorted(table.foreign_keys, key=lambda one: one.parent.name != "car_id"):
        if inner := _of_team(key.column.table, team):
            return f"{key.parent.name} IN (SELECT id FROM {key.column.table.name} WHERE {inner})"
    return ""


def _in_entries(db: Session, team_id: int, person_id: int, words: dict[str, str]) -> dict[int, str]:
    changed: dict[int, str] = {}
    found = db.execute(
        text(
            "SELECT id, CASE WHEN entry ->> 'what' = 'sign_in' AND entry ->> 'did' = 'was refused' "
            "AND entry ->> 'row' = CAST(:person AS text) THEN entry #- '{after,machine}' ELSE entry END::text "
            "AS told, entry::text AS was FROM audit WHERE team_id = :team OR team_id IS NULL ORDER BY id"
        ),
        {"team": team_id, "person": person_id},
    ).all()
    for row in found:
        was = json.loads(row.told)
        now = was
        for old, new in words.items():
            # who did it stands by name in the entry; in those of people their name and address do
            fields = ("name", "email") if was.get("what") == "person" else ()
            if now.get("who") == old:
                now = now | {"who": new}
            now = now | {key: renamed(now[key], old, new, fields) for key in SIDES if key in now}
        document = row.told if now == was else json.dumps(now)
        if document != row.was:
            kept = text(
                "UPDATE audit SET entry = CAST(:told AS jsonb) WHERE id = :id RETURNING entry::text"
            )
            reads = db.execute(kept, {"told": document, "id": row.id}).scalar_one()
            changed[row.id] = sha256(reads.encode()).hexdigest()
    return changed
