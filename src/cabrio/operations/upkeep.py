"""Whether a database holds together: every car opens, every booked setup is the one that was booked."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import islice

from sqlalchemy import select
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from cabrio.storage import audit, cars, rows_audited
from cabrio.storage.documents import content_hash
from cabrio.storage.models import CarRow, RevisionRow

from .bench import Bench

MOST_TOLD = 20


@dataclass(frozen=True)
class Looked:
    """How many cars, revisions and entries of what was done were looked at, the seal of the last entry, and
    what is wrong, as sentences."""

    cars: int
    revisions: int
    entries: int
    seal: str
    wrong: tuple[str, ...]
    erased: int = 0
    """Entries from which a person was erased."""


def look_through(db: Session) -> Looked:
    """Open every car and work it; compare every booked setup with what its slip sealed."""
    wrong: list[str] = []
    rows = db.scalars(select(CarRow).order_by(CarRow.id)).all()
    revisions = 0
    for row in rows:
        try:
            bench = Bench(row, cars.record_of(db, row))
            bench.sheet()
        except SQLAlchemyError:
            raise
        except Exception as problem:  # whatever it is: the car cannot be opened
            wrong.append(f"Car {row.id} cannot be opened: {problem}")
        booked = select(RevisionRow).where(RevisionRow.car_id == row.id)
        for one in db.scalars(booked):
            revisions += 1
            if content_hash(one.setup) != one.content_hash:
                wrong.append(f"Car {row.id}, revision {one.number}: it is not what was booked.")
    chain = audit.follow(db)
    if chain.broken is not None:
        wrong.append(f"What was done, entry {chain.broken}: it or one before it was changed.")
    else:
        wrong += islice(rows_audited.look(db), MOST_TOLD)
    listed = tuple(wrong[:MOST_TOLD])
    return Looked(len(rows), revisions, chain.count, chain.last, listed, chain.erased)
