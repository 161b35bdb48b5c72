"""Slips: a person's open draft on a car, those parked, and the booked ones with their verdicts."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import datetime

from sqlalchemy import bindparam, func, select
from sqlalchemy.orm import Session, aliased, joinedload

from cabrio.core.car import Line

from .models import EventRow, SessionRow, SlipLineRow, SlipRow, VerdictRow

OPEN = (
    select(SlipRow)
    .where(
        SlipRow.car_id == bindparam("car"),
        SlipRow.author_id == bindparam("person"),
        SlipRow.state != "booked",
    )
    .options(joinedload(SlipRow.lines))
    .order_by(SlipRow.at.desc())
)


def open_of(db: Session, car_id: int, person_id: int) -> Sequence[SlipRow]:
    """A person's draft on a car and those parked, the newest first."""
    return db.scalars(OPEN, {"car": car_id, "person": person_id}).unique().all()


def draft_of(db: Session, car_id: int, person_id: int) -> SlipRow | None:
    """A person's draft for a car; None where there is none."""
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state == "draft"
    )
    return db.scalars(query).one_or_none()


def parked_of(db: Session, car_id: int, person_id: int) -> Sequence[SlipRow]:
    """The slips that a person saved for later, the newest first."""
    query = select(SlipRow).where(
        SlipRow.car_id == car_id, SlipRow.author_id == person_id, SlipRow.state == "parked"
    )
    return db.scalars(query.order_by(SlipRow.at.desc())).all()


def set_lines(slip: SlipRow, lines: Iterable[Line]) -> None:
    """Give a slip these lines. A row that is there already is written over where it differs."""
    there = {(row.name, row.place): row for row in slip.lines}
    rows = []
    for i, line in enumerate(lines):
        row = there.get((line.name, line.place)) or SlipLineRow(name=line.name, place=line.place)
        row.position, row.old, row.new = i, line.old, line.new
        rows.append(row)
    slip.lines = rows


def booked_slip(db: Session, car_id: int, revision: int) -> SlipRow | None:
    """The slip that made a revision; None for the first one."""
    query = select(SlipRow).where(SlipRow.car_id == car_id, SlipRow.booked_as == revision)
    return db.scalars(query).one_or_none()


def verdicts_by_slip(db: Session, slip_ids: Iterable[int]) -> dict[int, list[VerdictRow]]:
    """Every verdict of each slip, the oldest first."""
    query = select(VerdictRow).where(VerdictRow.slip_id.in_(list(slip_ids)))
    found: dict[int, list[VerdictRow]] = {}
    for row in db.scalars(query.order_by(VerdictRow.at, VerdictRow.id)):
        found.setdefault(row.slip_id, []).append(row)
    return found


@dataclass(frozen=True)
class Judged:
    """A booked slip with its newest verdict, and where it was run."""

    revision: int
    at: datetime
    outcome: str
    words: str
    lines: tuple[Line, ...]
    session: str | None
    place: str | None
    surface: str | None


def judged_of(db: Session, car_id: int, most: int) -> list[Judged]:
    """The last judged slips of a car, the newest verdict first."""
    later = aliased(VerdictRow)
    newest = (
        select(func.max(later.id))
        .where(later.slip_id == SlipRow.id)
        .correlate(SlipRow)
        .scalar_subquery()
    )
    query = (
        select(
            SlipRow.id,
            SlipRow.booked_as,
            VerdictRow.at,
            VerdictRow.outcome,
            VerdictRow.words,
            SessionRow.name.label("session"),
            func.coalesce(func.nullif(EventRow.place, ""), EventRow.name).label("place"),
            SessionRow.surface,
        )
        .select_from(SlipRow)
        .join(VerdictRow, VerdictRow.id == newest)
        .outerjoin(SessionRow, SlipRow.session_id == SessionRow.id)
        .outerjoin(EventRow, SessionRow.event_id == EventRow.id)
        .where(SlipRow.car_id == car_id, SlipRow.state == "booked")
        .order_by(VerdictRow.at.desc())
        .limit(most)
    )
    rows = db.execute(query).all()
    lines: dict[int, list[Line]] = {}
    wanted = select(SlipLineRow).where(SlipLineRow.slip_id.in_([row.id for row in rows]))
    for one in db.scalars(wanted.order_by(SlipLineRow.slip_id, SlipLineRow.position)):
        lines.setdefault(one.slip_id, []).append(Line(one.name, one.place, one.old, one.new))
    return [
        Judged(
            row.booked_as,
            row.at,
            row.outcome,
            row.words,
            tuple(lines.get(row.id, ())),
            row.session,
            row.place,
            row.surface,
        )
        for row in rows
    ]
