"""Events, sessions and runs. An event is the team's; a session is one car's part of it."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Row, func, literal, select, tuple_
from sqlalchemy.orm import Session, joinedload, lazyload

from .models import (
    AmendmentRow,
    CarRow,
    EventRow,
    PictureRow,
    RevisionRow,
    RunRow,
    SessionRow,
    SlipLineRow,
    SlipRow,
)

REVISION, SESSION = 0, 1
"""Which of two comes first in the logbook where both are of one moment."""


@dataclass(frozen=True)
class LogPlace:
    """A place in the logbook: what stands before it is older."""

    at: datetime
    kind: int
    row_id: int

    def row(self) -> Any:
        return tuple_(literal(self.at), literal(self.kind), literal(self.row_id))

    def __str__(self) -> str:
        return f"{self.at.isoformat()}~{self.kind}~{self.row_id}"

    @classmethod
    def read(cls, text: str) -> LogPlace:
        """Raises ValueError where it is none."""
        at, kind, row_id = text.split("~")
        found = cls(datetime.fromisoformat(at), int(kind), int(row_id))
        if found.at.tzinfo is None or not 0 <= found.row_id < 2**31 or found.kind not in (0, 1):
            raise ValueError(text)
        return found


@dataclass(frozen=True)
class TimedRun:
    """A run with a time [s], and what it was run in."""

    revision: int
    best_time: float
    driver: str
    tyres: str
    event_id: int
    surface: str
    air_temperature: float | None
    track_temperature: float | None
    session: str
    event: str
    times: dict[str, float]


STANDING = (RunRow.aside_at.is_(None), SessionRow.aside_at.is_(None))
"""Runs that were not set aside, nor was their session."""


def amendments_of(
    db: Session, team_id: int, rows: Iterable[tuple[str, int]]
) -> Sequence[AmendmentRow]:
    """The corrections of some rows of the team's logbook, by kind and number, the oldest first."""
    query = select(AmendmentRow).where(
        AmendmentRow.team_id == team_id,
        tuple_(AmendmentRow.kind, AmendmentRow.row_id).in_(list(rows)),
    )
    return db.scalars(query.order_by(AmendmentRow.id)).all()


def events_of(db: Session, team_id: int) -> Sequence[EventRow]:
    """The events of a team that stand, by their first day."""
    query = select(EventRow).where(EventRow.team_id == team_id)
    return db.scalars(query.order_by(EventRow.starts_on, EventRow.id)).all()


def find_event(db: Session, team_id: int, event_id: int) -> EventRow | None:
    """An event of a team; None where it has no such one."""
    query = select(EventRow).where(EventRow.team_id == team_id, EventRow.id == event_id)
    return db.scalars(query).one_or_none()


def session_values_of(
    db: Session, car_id: int, fields: Sequence[str]
) -> Iterator[tuple[int, int, dict[str, Any]]]:
    """The event, the session and some of its fields, the oldest first: thousands, so no rows are made of them."""
    query = (
        select(SessionRow.event_id, SessionRow.id, *_named(SessionRow, fields))
        .where(SessionRow.car_id == car_id, SessionRow.aside_at.is_(None))
        .order_by(SessionRow.starts_at, SessionRow.id)
    )
    for row in db.execute(query):
        yield row[0], row[1], dict(zip(fields, row[2:], strict=True))


def run_values_of(
    db: Session, car_id: int, fields: Sequence[str]
) -> Iterator[tuple[int, dict[str, Any]]]:
    """The session and some fields of every run of a car, in order; in the same way."""
    query = (
        select(RunRow.session_id, *_named(RunRow, fields))
        .where(RunRow.car_id == car_id, RunRow.aside_at.is_(None))
        .order_by(RunRow.session_id, RunRow.number)
    )
    for row in db.execute(query):
        yield row[0], dict(zip(fields, row[1:], strict=True))


def _named(kind: type[RunRow | SessionRow], fields: Sequence[str]) -> list[Any]:
    return [getattr(kind, name).label(name) for name in fields]


def find_session(db: Session, car_id: int, session_id: int) -> SessionRow | None:
    """A session of a car that stands; None where there is no such one."""
    query = select(SessionRow).where(
        SessionRow.car_id == car_id, SessionRow.id == session_id, SessionRow.aside_at.is_(None)
    )
    return db.scalars(query).one_or_none()


@dataclass(frozen=True)
class Driven:
    """Runs logged since a moment, how far they went [m], and how many of them tell no distance."""

    runs: int = 0
    far: float = 0.0
    untold: int = 0


def driven_since(db: Session, car_id: int, moments: Iterable[datetime]) -> dict[datetime, Driven]:
    """What a car was driven since each of some moments; one statement."""
    moments = sorted(set(moments))
    if not moments:
        return {}
    far = RunRow.laps * EventRow.lap_length
    sums: list[Any] = []
    for since in moments:
        later = RunRow.at > since
        sums += [
            func.count().filter(later),
            func.coalesce(func.sum(far).filter(later), 0.0),
            func.count().filter(later, far.is_(None)),
        ]
    query = (
        select(*sums)
        .select_from(RunRow)
        .join(SessionRow, RunRow.session_id == SessionRow.id)
        .join(EventRow, SessionRow.event_id == EventRow.id)
        .where(RunRow.car_id == car_id, RunRow.at > min(moments), *STANDING)
    )
    row = db.execute(query).one()
    return {since: Driven(*row[3 * i : 3 * i + 3]) for i, since in enumerate(moments)}


def clocked_runs(db: Session, car_id: int, most: int = 200) -> list[tuple[int, dict[str, float]]]:
    """The revision and what was clocked of a car's last runs, the oldest first."""
    query = (
        select(RunRow.revision, RunRow.times)
        .join(SessionRow)
        .where(RunRow.car_id == car_id, *STANDING)
        .order_by(RunRow.at.desc())
        .limit(most)
    )
    return [(revision, times) for revision, times in db.execute(query)][::-1]


def last_runs(db: Session, car_id: int, most: int = 100) -> Sequence[datetime]:
    """When the last runs of a car were logged, the newest first."""
    query = select(RunRow.at).join(SessionRow).where(RunRow.car_id == car_id, *STANDING)
    return db.scalars(query.order_by(RunRow.at.desc()).limit(most)).all()


def floors(db: Session, car_id: int, most: int) -> Sequence[Row[datetime, str, dict[str, Any]]]:
    """When, at which place and how the floor was found after runs, the newest first."""
    query = (
        select(RunRow.at, EventRow.place, RunRow.floor)
        .join(SessionRow, RunRow.session_id == SessionRow.id)
        .join(EventRow, SessionRow.event_id == EventRow.id)
        .where(RunRow.car_id == car_id, RunRow.floor != {}, *STANDING)
    )
    return db.execute(query.order_by(RunRow.at.desc()).limit(most)).all()


def runs_in(db: Session, session_id: int) -> int:
    """The number of the last run of a session; 0 where none was logged."""
    last = select(func.max(RunRow.number)).where(RunRow.session_id == session_id)
    return db.scalar(last) or 0


def find_run(db: Session, car_id: int, run_id: int) -> RunRow | None:
    """A run of a car that stands; None where there is no such one."""
    query = select(RunRow).join(SessionRow).where(RunRow.car_id == car_id, RunRow.id == run_id)
    return db.scalars(query.where(*STANDING)).one_or_none()


def find_picture(db: Session, car_id: int, picture_id: int) -> PictureRow | None:
    """A picture of a car's run that was not removed; None where there is no such one."""
    query = (
        select(PictureRow)
        .join(RunRow)
        .join(SessionRow)
        .where(SessionRow.car_id == car_id, PictureRow.id == picture_id)
    )
    return db.scalars(query.where(PictureRow.removed_at.is_(None))).one_or_none()


def next_session(db: Session, car_id: int, now: datetime) -> SessionRow | None:
    """The first session still to come, else the newest one; without its runs."""
    return next_sessions(db, [car_id], now).get(car_id)


def next_sessions(db: Session, car_ids: Sequence[int], now: datetime) -> dict[int, SessionRow]:
    """The same of several cars; those without a session are left out."""
    # each found from its end of the index: a car of years has thousands before and after
    standing = select(SessionRow.id).where(
        SessionRow.car_id == CarRow.id, SessionRow.aside_at.is_(None)
    )
    coming = standing.where(SessionRow.starts_at >= now).order_by(
        SessionRow.starts_at, SessionRow.id
    )
    gone = standing.order_by(SessionRow.starts_at.desc(), SessionRow.id.desc())
    first, last = (one.limit(1).correlate(CarRow).scalar_subquery() for one in (coming, gone))
    chosen = select(func.coalesce(first, last)).where(CarRow.id.in_(car_ids))
    query = (
        select(SessionRow)
        .where(SessionRow.id.in_(chosen))
        .options(lazyload(SessionRow.runs), joinedload(SessionRow.event))
    )
    return {row.car_id: row for row in db.scalars(query)}


def names_of_sessions(db: Session, car_id: int, most: int) -> Sequence[Row[int, str, str]]:
    """Number, name and event of a car's last sessions, the newest first."""
    query = (
        select(SessionRow.id, SessionRow.name, EventRow.name.label("event"))
        .join(SessionRow.event)
        .where(SessionRow.car_id == car_id, SessionRow.aside_at.is_(None))
        .order_by(SessionRow.starts_at.desc(), SessionRow.id.desc())
    )
    return db.execute(query.limit(most)).all()


def sessions_before(
    db: Session, car_id: int, place: LogPlace | None, most: int
) -> Sequence[SessionRow]:
    """A page of sessions with their runs, the newest first."""
    query = select(SessionRow).where(SessionRow.car_id == car_id, SessionRow.aside_at.is_(None))
    if place is not None:
        here = tuple_(SessionRow.starts_at, literal(SESSION), SessionRow.id)
        query = query.where(here < place.row())
    order = (SessionRow.starts_at.desc(), SessionRow.id.desc())
    return db.scalars(query.order_by(*order).limit(most)).all()


def revisions_before(
    db: Session, car_id: int, place: LogPlace | None, part: str, most: int
) -> Sequence[Row[int, datetime]]:
    """Number and time of a page of revisions, the newest first; those that changed `part`, where it is given."""
    query = select(RevisionRow.number, RevisionRow.booked_at).where(RevisionRow.car_id == car_id)
    if part:
        changed = (
            select(SlipRow.booked_as)
            .join(SlipRow.lines)
            .where(SlipRow.car_id == car_id, SlipLineRow.name == part)
        )
        query = query.where(RevisionRow.number.in_(changed))
    if place is not None:
        here = tuple_(RevisionRow.booked_at, literal(REVISION), RevisionRow.number)
        query = query.where(here < place.row())
    order = (RevisionRow.booked_at.desc(), RevisionRow.number.desc())
    return db.execute(query.order_by(*order).limit(most)).all()


def run_before(db: Session, car_id: int, run: RunRow) -> RunRow | None:
    """The run of a car logged before another."""
    query = (
        select(RunRow)
        .join(SessionRow)
        .where(RunRow.car_id == car_id, *STANDING)
        .where(tuple_(RunRow.at, RunRow.id) < tuple_(literal(run.at), literal(run.id)))
        .order_by(RunRow.at.desc(), RunRow.id.desc())
        .options(lazyload(RunRow.pictures))
    )
    return db.scalars(query.limit(1)).one_or_none()


def timed_runs(db: Session, car_id: int, revisions: Iterable[int]) -> Sequence[TimedRun]:
    """What was timed on some revisions, in the order of the sessions."""
    query = (
        select(
            RunRow.revision,
            RunRow.best_time,
            RunRow.driver,
            RunRow.tyres,
            SessionRow.event_id,
            SessionRow.surface,
            SessionRow.air_temperature,
            SessionRow.track_temperature,
            SessionRow.name.label("session"),
            EventRow.name.label("event"),
            RunRow.times,
        )
        .join(SessionRow, RunRow.session_id == SessionRow.id)
        .join(EventRow, SessionRow.event_id == EventRow.id)
        .where(RunRow.car_id == car_id, *STANDING)
        .where(RunRow.best_time.is_not(None), RunRow.revision.in_(list(revisions)))
        .order_by(SessionRow.starts_at, SessionRow.id, RunRow.number)
    )
    return [TimedRun(**row._mapping) for row in db.execute(query)]


def has_run(db: Session, car_id: int, revision: int) -> bool:
    """Whether a run that counts was made on a revision."""
    query = (
        select(RunRow.id)
        .join(SessionRow, RunRow.session_id == SessionRow.id)
        .where(RunRow.car_id == car_id, RunRow.revision == revision, *STANDING)
    )
    return db.scalar(query.limit(1)) is not None


def changed_parts(db: Session, car_id: int) -> list[str]:
    """The names of all that was ever changed on a car by a slip."""
    query = (
        select(SlipLineRow.name)
        .join(SlipRow, SlipLineRow.slip_id == SlipRow.id)
        .where(SlipRow.car_id == car_id, SlipRow.state == "booked")
    )
    return sorted(db.scalars(query.distinct()))
