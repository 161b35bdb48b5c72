"""Core's documents to and from what the tables and files hold. Pydantic does the shape checking."""

from __future__ import annotations

import hashlib
import json
from datetime import datetime
from typing import Any

from pydantic import TypeAdapter, ValidationError

from cabrio.core.car import Car, Line
from cabrio.core.record.readings import Reading, Taken

from .models import ReadingRow, SlipRow

CAR: TypeAdapter[Car] = TypeAdapter(Car)
TAKEN: TypeAdapter[Taken] = TypeAdapter(Taken)


class CannotBeKept(ValueError):
    """A car that could not be read again as it would be written."""


def car_document(car: Car) -> dict[str, Any]:
    """The car as it is kept. Raises CannotBeKept: a car that is kept opens."""
    # what would be warned of here is refused below
    document: dict[str, Any] = CAR.dump_python(car, mode="json", warnings=False)
    try:
        CAR.validate_python(document)
    except ValidationError as problem:
        wrong = problem.errors()[0]
        where = " ".join(str(part) for part in wrong["loc"])
        raise CannotBeKept(
            f"This cannot be kept, and nothing was changed: in {where}, {wrong['msg'].lower()}."
        ) from problem
    return document


def car_from(document: dict[str, Any]) -> Car:
    """Raises pydantic's ValidationError where the document has another shape."""
    return CAR.validate_python(document)


def content_hash(setup: dict[str, Any]) -> str:
    """The seal of a setup: SHA-256 of it as JSON with sorted keys."""
    plain = json.dumps(setup, sort_keys=True, separators=(",", ":"), ensure_ascii=False)
    return hashlib.sha256(plain.encode()).hexdigest()


def iso(moment: datetime) -> str:
    """A moment as text, known to the second."""
    return moment.isoformat(timespec="seconds")


def lines_of(slip: SlipRow | None) -> tuple[Line, ...]:
    """The lines of a slip as the core takes them."""
    if slip is None:
        return ()
    return tuple(Line(row.name, row.place, row.old, row.new) for row in slip.lines)


def reading_from(row: ReadingRow) -> Reading:
    """A kept reading as the core takes it."""
    return Reading(
        id=row.id,
        kind=row.kind,
        revision=row.revision,
        by=row.taken_by,
        at=iso(row.taken_at),
        repeats=row.settles,
        conditions=row.conditions,
        note=row.note,
        taken=TAKEN.validate_python(row.taken) if row.taken else Taken(),
        withdrawn_by=row.withdrawn_by,
        withdrawn_at=iso(row.withdrawn_at) if row.withdrawn_at else None,
        withdrawn_why=row.withdrawn_why,
    )
