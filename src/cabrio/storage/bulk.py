"""Many rows at once: a car of years has tens of thousands."""

from __future__ import annotations

from collections.abc import Sequence
from operator import itemgetter
from typing import Any

import psycopg
from psycopg import sql
from pydantic_core import to_json
from sqlalchemy import JSON, Column, Table, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from .models import Base


def add_rows(db: Session, kind: type[Base], rows: Sequence[dict[str, Any]]) -> list[int]:
    """Add rows of one table and give their ids, in order. All rows name the same columns, two at least.
    Raises SQLAlchemy's errors."""
    if not rows:
        return []
    table = kind.__table__
    assert isinstance(table, Table)
    # as one list: a row each would be made into a thing of its own; the sequence is looked up once
    taken = text(
        "SELECT array(SELECT nextval(numbers.of) FROM generate_series(1, :count), "
        "(SELECT pg_get_serial_sequence(:table, 'id')::regclass AS of OFFSET 0) AS numbers)"
    )
    ids: list[int] = db.scalars(taken, {"table": table.name, "count": len(rows)}).one()
    named = [table.c[name] for name in rows[0]]
    names = {column.name for column in named}
    others = [c for c in table.c if c.default is not None and c.name not in names]
    columns = [table.c.id, *named, *others]
    documents = [column.name for column in named if isinstance(column.type, JSON)]
    in_order = itemgetter(*(column.name for column in named))
    left_out = [_text(_default(c)) if isinstance(c.type, JSON) else _default(c) for c in others]
    copy = sql.SQL("COPY {} ({}) FROM STDIN").format(
        sql.Identifier(table.name),
        sql.SQL(", ").join(sql.Identifier(column.name) for column in columns),
    )
    driver = db.connection().connection.driver_connection
    assert driver is not None
    try:
        with driver.cursor() as cursor, cursor.copy(copy) as into:
            for row_id, row in zip(ids, rows, strict=True):
                texts = {name: _text(row[name]) for name in documents}
                into.write_row((row_id, *in_order({**row, **texts}), *left_out))
    except psycopg.Error as problem:
        # told as any other statement's would be
        raise DBAPIError.instance(f"COPY {table.name}", None, problem, psycopg.Error) from problem
    return ids


EMPTY: dict[type, str] = {dict: "{}", list: "[]"}
"""Most documents of a run are."""


def _text(document: Any) -> str:
    """How a document is copied; nothing within one is its null."""
    empty = None if document else EMPTY.get(type(document))
    return empty or to_json(document).decode()


def _default(column: Column[Any]) -> Any:
    default: Any = column.default
    return default.arg(None) if default.is_callable else default.arg
