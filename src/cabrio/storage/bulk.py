"""Many rows at once: a car of years has tens of thousands."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from sqlalchemy import insert, text
from sqlalchemy.orm import Session

from .models import Base


def add_rows(db: Session, kind: type[Base], rows: Sequence[dict[str, Any]]) -> list[int]:
    """Add rows of one table and give their ids, in order.

    The ids are taken first: a statement that gives them back is built anew for every batch, one that does
    not is sent row by row.
    """
    if not rows:
        return []
    taken = text(
        "SELECT nextval(pg_get_serial_sequence(:table, 'id')) FROM generate_series(1, :count)"
    )
    ids = [int(one) for one in db.scalars(taken, {"table": kind.__tablename__, "count": len(rows)})]
    db.execute(insert(kind), [{**row, "id": one} for row, one in zip(rows, ids, strict=True)])
    return ids
