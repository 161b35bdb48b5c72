"""Many rows at once: a car of years has tens of thousands."""

from __future__ import annotations

import json
from collections.abc import Callable, Sequence
from typing import Any

from psycopg import sql
from sqlalchemy import JSON, Column, Table, text
from sqlalchemy.orm import Session

from .models import Base

ENCODE = json.JSONEncoder(ensure_ascii=False).encode


def add_rows(db: Session, kind: type[Base], rows: Sequence[dict[str, Any]]) -> list[int]:
    """Add rows of one table and give their ids, in order. All rows name the same columns."""
    if not rows:
        return []
    table = kind.__table__
    assert isinstance(table, Table)
    taken = text(
        "SELECT nextval(pg_get_serial_sequence(:table, 'id')) FROM generate_series(1, :count)"
    )
    ids = [int(one) for one in db.scalars(taken, {"table": table.name, "count": len(rows)})]
    named = [table.c[name] for name in rows[0]]
    told = {column.name for column in named}
    others = [c for c in table.c if c.default is not None and c.name not in told]
    columns = [table.c.id, *named, *others]
    wanted = [(column.name, _keeping(column)) for column in named]
    left_out = [_keeping(column)(_default(column)) for column in others]
    copy = sql.SQL("COPY {} ({}) FROM STDIN").format(
        sql.Identifier(table.name),
        sql.SQL(", ").join(sql.Identifier(column.name) for column in columns),
    )
    driver = db.connection().connection.driver_connection
    assert driver is not None
    with driver.cursor() as cursor, cursor.copy(copy) as into:
        for row_id, row in zip(ids, rows, strict=True):
            values = [kept(row[name]) for name, kept in wanted]
            into.write_row([row_id, *values, *left_out])
    return ids


def _default(column: Column[Any]) -> Any:
    default: Any = column.default
    return default.arg(None) if default.is_callable else default.arg


def _keeping(column: Column[Any]) -> Callable[[Any], Any]:
    """How a value is copied: documents as their text, nothing within one as its null."""
    return ENCODE if isinstance(column.type, JSON) else _as_it_is


def _as_it_is(value: Any) -> Any:
    return value
