"""A page of the logbook: sessions with their runs and the revisions between, all read before any is shown."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from sqlalchemy.orm import Session

from cabrio.core.sheet.build import Revision
from cabrio.storage import logbook, slips
from cabrio.storage.cars import booked_slips
from cabrio.storage.logbook import REVISION, SESSION, LogPlace
from cabrio.storage.models import (
    AmendmentRow,
    EventRow,
    RunRow,
    SessionRow,
    SlipRow,
    VerdictRow,
)

from .actor import Actor
from .bench import Bench

PAGE = 40
"""Sessions and revisions, together, that are told at once."""


@dataclass(frozen=True)
class BookedRevision:
    """A revision, the one before it, the slip that made it and what was judged of that, oldest first."""

    revision: Revision
    before: Revision | None
    slip: SlipRow | None
    verdicts: tuple[VerdictRow, ...]


@dataclass(frozen=True)
class LoggedRun:
    """A run, the run of the car before it, and what was corrected of it."""

    row: RunRow
    before: RunRow | None
    amendments: tuple[AmendmentRow, ...]


@dataclass(frozen=True)
class LogPage:
    """`amendments` are of events and sessions, by kind and id; `older` is where the next page begins."""

    events: tuple[EventRow, ...]
    sessions: tuple[SessionRow, ...]
    runs: dict[int, tuple[LoggedRun, ...]]
    revisions: tuple[BookedRevision, ...]
    amendments: dict[tuple[str, int], tuple[AmendmentRow, ...]]
    changed: list[str]
    older: LogPlace | None


def booked_revisions(
    db: Session, bench: Bench, numbers: Iterable[int]
) -> tuple[BookedRevision, ...]:
    """Some revisions with the slips that made them, the oldest first."""
    wanted = set(numbers)
    booked = booked_slips(db, bench.row.id, wanted)
    given = slips.verdicts_by_slip(db, [slip.id for slip in booked.values()])
    found = []
    for before, revision in zip([None, *bench.revisions], bench.revisions, strict=False):
        if revision.number in wanted:
            slip = booked.get(revision.number)
            verdicts = given.get(slip.id, []) if slip else []
            found.append(BookedRevision(revision, before, slip, tuple(verdicts)))
    return tuple(found)


def logged_run(db: Session, actor: Actor, bench: Bench, row: RunRow) -> LoggedRun:
    """One run with the one before it."""
    amended = _amendments(db, actor, [("run", row.id)])
    before = logbook.run_before(db, bench.row.id, row)
    return LoggedRun(row, before, amended.get(("run", row.id), ()))


def log_page(
    db: Session, actor: Actor, bench: Bench, before: LogPlace | None, part: str
) -> LogPage:
    """A page, older than a place where one is given. Where a part is, the revisions that changed it alone."""
    car_id = bench.row.id
    rows = [] if part else list(logbook.sessions_before(db, car_id, before, PAGE + 1))
    made = logbook.revisions_before(db, car_id, before, part, PAGE + 1)
    places = [LogPlace(row.starts_at, SESSION, row.id) for row in rows]
    places += [LogPlace(row.booked_at, REVISION, row.number) for row in made]
    places.sort(key=lambda place: (place.at, place.kind, place.row_id), reverse=True)
    page = places[:PAGE]
    shown = {place.row_id for place in page if place.kind == SESSION}
    rows = [row for row in reversed(rows) if row.id in shown]
    revisions = booked_revisions(
        db, bench, [place.row_id for place in page if place.kind == REVISION]
    )
    runs = [run for row in rows for run in row.runs]
    first = logbook.run_before(db, car_id, runs[0]) if runs else None
    earlier = dict(zip((run.id for run in runs), [first, *runs], strict=False))
    events = tuple(logbook.events_of(db, actor.team_id))
    amended = _amendments(
        db,
        actor,
        [
            *(("event", event.id) for event in events),
            *(("session", session) for session in shown),
            *(("run", run.id) for run in runs),
        ],
    )
    return LogPage(
        events,
        tuple(rows),
        {
            row.id: tuple(
                LoggedRun(run, earlier[run.id], amended.get(("run", run.id), ()))
                for run in row.runs
            )
            for row in rows
        },
        revisions,
        amended,
        logbook.changed_parts(db, car_id),
        page[-1] if len(places) > PAGE else None,
    )


def _amendments(
    db: Session, actor: Actor, rows: Iterable[tuple[str, int]]
) -> dict[tuple[str, int], tuple[AmendmentRow, ...]]:
    """What was corrected of some rows, by what it is of, in its order in time."""
    found: dict[tuple[str, int], list[AmendmentRow]] = {}
    for amendment in logbook.amendments_of(db, actor.team_id, rows):
        found.setdefault((amendment.kind, amendment.row_id), []).append(amendment)
    return {of: tuple(each) for of, each in found.items()}
