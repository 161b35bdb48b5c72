"""Every row held against what was told of it: one that was changed beneath the app is not as its entries say."""

from __future__ import annotations

import json
from collections.abc import Iterator
from hashlib import sha256
from typing import Any

from sqlalchemy import select, text
from sqlalchemy.orm import Session

from .models import AuditRow, CarRow, Person, PictureRow

TABLES = {
    "person": "password_hash",
    "verdict": "",
    "reading": "",
    "event": "",
    "session": "",
    "run": "",
    "amendment": "",
    "picture": "data",
    "watched": "",
    "watched_done": "",
}
"""Tables whose rows are compared, and the column of each that is told only to have changed."""
NO_NEWS = ("seen_at", "stamp", "machine", "browser")
AT_ONCE = 1000
NOTHING: tuple[Any, ...] = ("", 0, False, {}, [])
"""What a column that came with a later version holds in the rows of before."""
Rows = dict[tuple[str, int], dict[str, Any]]


def look(db: Session) -> Iterator[str]:
    """What does not hold, as sentences: rows that are not as they were told, entries under another owner's
    columns, pictures of other bytes."""
    rows: Rows = {}
    yield from _follow(db, rows)
    yield from _compare(db, rows)
    for picture in db.scalars(select(PictureRow).execution_options(yield_per=10)):
        if sha256(picture.data).hexdigest() != picture.digest:
            yield f"Picture {picture.id}: its bytes are not those that were kept."


def _follow(db: Session, rows: Rows) -> Iterator[str]:
    teams = dict(db.execute(select(Person.id, Person.team_id)).all())
    query = select(AuditRow).order_by(AuditRow.id).execution_options(yield_per=AT_ONCE)
    for row in db.scalars(query):
        entry = row.entry
        owner = entry.get("person")
        if entry.get("car") != row.car_id or owner != row.person_id:
            yield f"What was done, entry {row.id}: it stands under another car or person than it says."
        if owner in teams and row.team_id is not None and teams[owner] != row.team_id:
            yield f"What was done, entry {row.id}: it stands under another team."
        key = (str(entry.get("what")), int(entry.get("row") or 0))
        if key[0] not in TABLES:
            continue
        if entry["did"] == "added":
            rows[key] = dict(entry["after"])
        elif entry["did"] == "removed":
            rows.pop(key, None)
        elif entry["did"] == "changed" and key in rows:
            for path, value in entry["after"].items():
                _put(rows[key], path, value)


def _put(row: dict[str, Any], path: str, value: Any) -> None:
    """Write a value at a path of columns and keys; a key may hold a dot itself."""
    head, _, rest = path.partition(".")
    if rest and isinstance(row.get(head), dict):
        _put(row[head], rest, value)
    else:
        row[path] = value


def _compare(db: Session, rows: Rows) -> Iterator[str]:
    imported = set(db.scalars(select(CarRow.id).where(CarRow.imported_by.is_not(None))))
    for table, hidden in TABLES.items():
        last = max((row for name, row in rows if name == table), default=0)
        seen = set()
        here = text(f'SELECT id, to_jsonb(t)::text FROM "{table}" t ORDER BY id')
        for row_id, found in db.execute(here.execution_options(yield_per=AT_ONCE)):
            seen.add(row_id)
            now = _without_empty(
                {k: v for k, v in json.loads(found).items() if k not in (*NO_NEWS, hidden)}
            )
            before = rows.get((table, row_id))
            if before is None:
                if last and row_id > last and now.get("car_id") not in imported and "car_id" in now:
                    yield f"{_name(table)} {row_id}: nothing tells of it: the end of what was done is cut off."
                continue
            was = _without_empty({k: v for k, v in before.items() if k not in (*NO_NEWS, hidden)})
            if _differ(was, now):
                yield f"{_name(table)} {row_id}: it is not what was told of it."
        for name, row_id in rows:
            if name == table and row_id not in seen:
                yield f"{_name(table)} {row_id}: it is gone, and nobody is told to have removed it."


def _name(table: str) -> str:
    return table.replace("_", " ").capitalize()


def _without_empty(value: Any) -> Any:
    """A document without what says nothing, as the database tells it."""
    if isinstance(value, dict):
        return {k: _without_empty(v) for k, v in value.items() if v is not None}
    return [_without_empty(one) for one in value] if isinstance(value, list) else value


def _differ(was: dict[str, Any], now: dict[str, Any]) -> bool:
    if any(key not in now or now[key] != value for key, value in was.items()):
        return True
    return any(now[key] not in NOTHING for key in now.keys() - was.keys())
