"""A car out to a file, and a file in as a new car. In is all or nothing."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

import structlog
from pydantic import BaseModel
from sqlalchemy import select
from sqlalchemy.exc import DataError, IntegrityError
from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible
from cabrio.files.car_file import CHECKING, READING, Tell
from cabrio.files.car_file_format import (
    CarFile,
    FileDone,
    FileEvent,
    FileLine,
    FileReading,
    FileRevision,
    FileRun,
    FileSession,
    FileSlip,
    FileTick,
    FileVerdict,
    FileWalk,
    FileWatched,
)
from cabrio.storage import audit, cars, logbook, slips
from cabrio.storage.bulk import add_rows
from cabrio.storage.documents import TAKEN, car_document, content_hash
from cabrio.storage.models import (
    Base,
    CarRow,
    EventRow,
    ReadingRow,
    RevisionRow,
    RunRow,
    SessionRow,
    SlipLineRow,
    SlipRow,
    TickRow,
    VerdictRow,
    WalkRow,
    WatchedDoneRow,
    WatchedRow,
)

from .actor import Actor
from .bench import load

log = structlog.get_logger()


def _fields_but(kind: type[BaseModel], *but: str) -> tuple[str, ...]:
    """What a line of the file tells that its row keeps under the same name."""
    return tuple(name for name in kind.model_fields if name not in but)


RUN_FIELDS = _fields_but(FileRun)
SESSION_FIELDS = _fields_but(FileSession, "runs")
EVENT_FIELDS = _fields_but(FileEvent, "sessions")
READING_FIELDS = _fields_but(FileReading, "taken", "by", "at")
WATCHED_FIELDS = _fields_but(FileWatched, "done")
WALK_FIELDS = _fields_but(FileWalk, "ticks")
TICK_FIELDS = _fields_but(FileTick)
VERDICT_FIELDS = _fields_but(FileVerdict)


def export(db: Session, actor: Actor, car_id: int) -> CarFile:
    """The whole record of a car, drafts left out."""
    actor.must("look")
    bench = load(db, actor, car_id)
    events, place_of = _events_out(db, actor, bench.row)
    return CarFile(
        format="cabrio-car",
        version=2,
        car=bench.car,
        on_revision=bench.row.revision,
        revisions=_revisions_out(db, bench.row, place_of),
        readings=[
            FileReading(
                **{name: getattr(row, name) for name in READING_FIELDS},
                taken=TAKEN.validate_python(row.taken),
                by=row.taken_by,
                at=row.taken_at,
            )
            for row in db.scalars(
                select(ReadingRow)
                .where(ReadingRow.car_id == car_id, ReadingRow.revision <= bench.row.revision)
                .order_by(ReadingRow.taken_at, ReadingRow.id)
            )
        ],
        events=events,
        watched=[
            FileWatched(
                **{name: getattr(row, name) for name in WATCHED_FIELDS},
                done=[FileDone(revision=x.revision, by=x.by, at=x.at) for x in row.done],
            )
            for row in db.scalars(
                select(WatchedRow).where(WatchedRow.car_id == car_id).order_by(WatchedRow.id)
            )
        ],
        walks=[
            FileWalk(
                **{name: getattr(row, name) for name in WALK_FIELDS},
                ticks=[
                    FileTick(**{name: getattr(tick, name) for name in TICK_FIELDS})
                    for tick in db.scalars(
                        select(TickRow).where(TickRow.walk_id == row.id).order_by(TickRow.id)
                    )
                ],
            )
            for row in db.scalars(
                select(WalkRow).where(WalkRow.car_id == car_id).order_by(WalkRow.id)
            )
        ],
    )


def _events_out(
    db: Session, actor: Actor, car: CarRow
) -> tuple[list[FileEvent], dict[int, tuple[int, int]]]:
    """The events that the car was at, the first first, and where in them each session stands."""
    events: dict[int, FileEvent] = {}
    places: dict[int, int] = {}
    place_of: dict[int, tuple[int, int]] = {}
    runs: dict[int, list[FileRun]] = {}
    for session_id, values in logbook.run_values_of(db, car.id, RUN_FIELDS):
        if values["revision"] > car.revision:
            continue  # booked and run meanwhile
        runs.setdefault(session_id, []).append(FileRun(**values))
    known = {row.id: row for row in logbook.events_of(db, actor.team_id)}
    for event_id, session_id, values in logbook.session_values_of(db, car.id, SESSION_FIELDS):
        if event_id not in events:
            places[event_id] = len(events)
            events[event_id] = FileEvent(**{n: getattr(known[event_id], n) for n in EVENT_FIELDS})
        event = events[event_id]
        place_of[session_id] = (places[event_id], len(event.sessions))
        event.sessions.append(FileSession(**values, runs=runs.get(session_id, [])))
    return list(events.values()), place_of


def _revisions_out(
    db: Session, car: CarRow, place_of: dict[int, tuple[int, int]]
) -> list[FileRevision]:
    booked = cars.booked_slips(db, car.id)
    verdicts = slips.verdicts_by_slip(db, [slip.id for slip in booked.values()])
    query = (
        select(RevisionRow)
        # what is booked meanwhile is not in the file
        .where(RevisionRow.car_id == car.id, RevisionRow.number <= car.revision)
        .order_by(RevisionRow.number)
    )
    out = []
    for row in db.scalars(query):
        slip = booked.get(row.number)
        out.append(
            FileRevision(
                number=row.number,
                setup=row.setup,
                by=row.booked_by,
                at=row.booked_at,
                slip=None if slip is None else _slip_out(slip, verdicts.get(slip.id, []), place_of),
            )
        )
    return out


def _slip_out(
    slip: SlipRow, verdicts: Sequence[VerdictRow], place_of: dict[int, tuple[int, int]]
) -> FileSlip:
    return FileSlip(
        author=slip.author,
        why=slip.why,
        expectation=slip.expectation,
        session=place_of.get(slip.session_id) if slip.session_id else None,
        lines=[FileLine(name=x.name, place=x.place, old=x.old, new=x.new) for x in slip.lines],
        jobs=list(slip.jobs),
        verdicts=[FileVerdict(**{n: getattr(v, n) for n in VERDICT_FIELDS}) for v in verdicts],
    )


SESSIONS, SETUPS, READINGS = "Writing sessions and runs", "Writing set-ups", "Writing readings"
OPENING, KEEPING = "Opening the car", "Keeping it"
STEPS = (READING, CHECKING, SESSIONS, SETUPS, READINGS, OPENING, KEEPING)
"""What bringing a car in is made of, from its text to the end of the transaction."""


def bring_in(
    db: Session, actor: Actor, file: CarFile, now: datetime, tell: Tell = lambda _: None
) -> CarRow:
    """Add the file's car, with its whole record, to the actor's team. The file is checked already. Raises
    Impossible where it cannot be kept, or not be worked, all the same."""
    actor.must("import")
    try:
        return _brought_in(db, actor, file, now, tell)
    except (IntegrityError, DataError) as problem:
        log.warning("the tables refused a car file", exc_info=problem)
        raise Impossible(
            "What this file says cannot be kept together, so nothing of it was. Export it again from where "
            "it is; if it is refused again the file is damaged.",
            number="file",
        ) from problem


def _brought_in(db: Session, actor: Actor, file: CarFile, now: datetime, tell: Tell) -> CarRow:
    car = CarRow(
        team_id=actor.team_id,
        document=car_document(file.car),
        revision=file.on_revision,
        added_at=now,
        imported_by=actor.name,
        imported_at=now,
        imported_revision=file.on_revision,
    )
    db.add(car)
    db.flush()
    audit.tell_import(db, car.id)
    tell(SESSIONS)
    sessions = _events_in(db, actor, car.id, file)
    tell(SETUPS)
    add_rows(
        db,
        RevisionRow,
        [
            {
                "car_id": car.id,
                "number": revision.number,
                "setup": revision.setup,
                "content_hash": content_hash(revision.setup),
                "booked_by": revision.by,
                "booked_at": revision.at,
            }
            for revision in file.revisions
        ],
    )
    _slips_in(db, car.id, file, sessions)
    tell(READINGS)
    add_rows(
        db,
        ReadingRow,
        [
            {
                **{name: getattr(reading, name) for name in READING_FIELDS},
                "car_id": car.id,
                "taken_by": reading.by,
                "taken_at": reading.at,
                "taken": reading.taken,
            }
            for reading in file.readings
        ],
    )
    _with_their_own(db, car.id, file)
    tell(OPENING)
    _opens(db, actor, car.id)
    tell(KEEPING)
    audit.note(
        db,
        "imported",
        "car file",
        row=car.id,
        car=car.id,
        about={
            "revisions": len(file.revisions),
            "readings": len(file.readings),
            "sessions": len(sessions),
        },
    )
    return car


def _opens(db: Session, actor: Actor, car_id: int) -> None:
    """Work the car that was brought in before it is kept. Raises Impossible where that cannot be done."""
    try:
        bench = load(db, actor, car_id)
        sheet = bench.sheet()
        for name in sheet.applying:
            sheet.status(name)
    except Exception as problem:
        log.warning("an imported car could not be worked", exc_info=problem)
        raise Impossible(
            "This car cannot be worked from what the file says, so nothing of it was kept. Export it "
            "again from where it is; if it is refused again the file is damaged.",
            number="file",
        ) from problem


def _events_in(db: Session, actor: Actor, car_id: int, file: CarFile) -> dict[tuple[int, int], int]:
    """The file's events; one the team already has, by name, place and days, is used, not doubled."""
    known = {
        (e.name, e.place, e.starts_on, e.ends_on): e for e in logbook.events_of(db, actor.team_id)
    }
    places: list[tuple[int, int]] = []
    sessions: list[dict[str, Any]] = []
    for i, event in enumerate(file.events):
        key = (event.name, event.place, event.starts_on, event.ends_on)
        row = known.get(key)
        if row is None or row.note != event.note:
            row = EventRow(team_id=actor.team_id, **{n: getattr(event, n) for n in EVENT_FIELDS})
            db.add(row)
            db.flush()
        for j, session in enumerate(event.sessions):
            values = {name: getattr(session, name) for name in SESSION_FIELDS}
            sessions.append({**values, "event_id": row.id, "car_id": car_id})
            places.append((i, j))
    found = dict(zip(places, add_rows(db, SessionRow, sessions), strict=True))
    add_rows(
        db,
        RunRow,
        [
            {**vars(run), "session_id": found[i, j], "car_id": car_id}
            for i, event in enumerate(file.events)
            for j, session in enumerate(event.sessions)
            for run in session.runs
        ],
    )
    return found


def _slips_in(
    db: Session, car_id: int, file: CarFile, sessions: dict[tuple[int, int], int]
) -> None:
    made = [(revision, revision.slip) for revision in file.revisions if revision.slip]
    ids = add_rows(
        db,
        SlipRow,
        [
            {
                "car_id": car_id,
                "author": slip.author,
                "state": "booked",
                "base": one.number - 1,
                "booked_as": one.number,
                "why": slip.why,
                "expectation": slip.expectation,
                "session_id": sessions[slip.session] if slip.session else None,
                "at": one.at,
                "jobs": list(slip.jobs),
            }
            for one, slip in made
        ],
    )
    slips_of = list(zip(ids, (slip for _, slip in made), strict=True))
    add_rows(
        db,
        SlipLineRow,
        [
            {"slip_id": slip_id, "position": i, **vars(line)}
            for slip_id, slip in slips_of
            for i, line in enumerate(slip.lines)
        ],
    )
    add_rows(
        db,
        VerdictRow,
        [
            {"slip_id": slip_id, **vars(verdict)}
            for slip_id, slip in slips_of
            for verdict in slip.verdicts
        ],
    )


def _with_their_own(db: Session, car_id: int, file: CarFile) -> None:
    """What is watched, with what was done of it; orders of work, with their ticks."""
    every: tuple[
        tuple[Sequence[BaseModel], type[Base], tuple[str, ...], str, type[Base], str], ...
    ] = (
        (file.watched, WatchedRow, WATCHED_FIELDS, "done", WatchedDoneRow, "watched_id"),
        (file.walks, WalkRow, WALK_FIELDS, "ticks", TickRow, "walk_id"),
    )
    for told, kind, fields, own, own_kind, belongs in every:
        rows = [{"car_id": car_id, **{n: getattr(one, n) for n in fields}} for one in told]
        ids = add_rows(db, kind, rows)
        theirs = [
            {belongs: row_id, **vars(part)}
            for row_id, one in zip(ids, told, strict=True)
            for part in getattr(one, own)
        ]
        add_rows(db, own_kind, theirs)
