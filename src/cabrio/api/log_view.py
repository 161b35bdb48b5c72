"""The logbook as the API gives it: a page of sessions with their runs, and the revisions between."""

from __future__ import annotations

from collections.abc import Iterable

from cabrio.core.car import differences
from cabrio.core.record.clocked import air_told, fields_of, pass_summary
from cabrio.operations.bench import Bench
from cabrio.operations.log_page import BookedRevision, LoggedRun, LogPage
from cabrio.operations.logbook import air_at
from cabrio.operations.versions import version_of
from cabrio.storage.documents import iso
from cabrio.storage.models import AmendmentRow, EventRow, SessionRow

from . import schemas as s
from .present import line


def revision(booked: BookedRevision) -> s.RevisionView:
    """A revision with the slip that made it, its verdict last."""
    made, found = booked.slip, booked.revision
    stood = booked.before.setup if booked.before is not None and made is None else found.setup
    verdict = booked.verdicts[-1] if booked.verdicts else None
    return s.RevisionView(
        number=found.number,
        by=found.by,
        at=found.at,
        why=made.why if made else "",
        expectation=made.expectation if made else "",
        lines=[line(one) for one in found.lines],
        jobs=list(found.jobs),
        session_id=made.session_id if made else None,
        outcome=verdict.outcome if verdict else None,
        decision=verdict.decision if verdict else None,
        verdict_words=verdict.words if verdict else "",
        as_found=[line(one) for one in differences(stood, found.setup)],
        earlier_verdicts=[
            s.VerdictView(
                outcome=verdict.outcome,
                decision=verdict.decision,
                words=verdict.words,
                by=verdict.by,
                at=iso(verdict.at),
            )
            for verdict in booked.verdicts[:-1]
        ],
    )


def run(logged: LoggedRun, found: Bench) -> s.RunView:
    """A run with what its times say."""
    row, before = logged.row, logged.before
    read = air_at(found.readings, row.at)
    air = air_told(read) if read else None
    says = pass_summary(found.car.discipline, row.times, air[0] if air else None)
    earlier = before.times if before else {}
    return s.RunView(
        clocked=[
            s.ClockedView(
                id=field.id,
                value=row.times[field.id],
                off=row.times[field.id] - earlier[field.id] if field.id in earlier else None,
            )
            for field in fields_of(found.car.discipline)
            if field.id in row.times
        ],
        splits=[s.SplitView(**vars(split)) for split in says.splits],
        launch=says.launch,
        corrected=says.corrected,
        not_ready=row.not_ready,
        released_why=row.released_why,
        density_altitude=air[1] if air else None,
        id=row.id,
        version=version_of(row),
        number=row.number,
        revision=row.revision,
        driver=row.driver,
        laps=row.laps,
        best_time=row.best_time,
        tyres=row.tyres,
        floor=row.floor,
        confidence=row.confidence,
        words=[s.WordsView(**spoken) for spoken in row.words],
        note=row.note,
        pictures=[
            s.PictureView(
                id=picture.id,
                version=version_of(picture),
                name=picture.name,
                kind=picture.kind,
                phase=picture.phase,
                shows=picture.shows,
                by=picture.by,
                at=iso(picture.at),
            )
            for picture in row.pictures
        ],
        by=row.by,
        at=iso(row.at),
        amended=amendments(logged.amendments),
    )


def log(page: LogPage, found: Bench) -> s.LogbookView:
    """A page of the logbook."""
    by_session: dict[int, list[int]] = {}
    for booked in page.revisions:
        if booked.slip is not None and booked.slip.session_id is not None:
            by_session.setdefault(booked.slip.session_id, []).append(booked.revision.number)
    return s.LogbookView(
        events=[event(row, page) for row in page.events],
        sessions=[session(row, page, found, by_session.get(row.id, [])) for row in page.sessions],
        revisions=[revision(booked) for booked in page.revisions],
        changed=page.changed,
        older=str(page.older) if page.older is not None else None,
    )


def event(row: EventRow, page: LogPage) -> s.EventView:
    """An event with what was corrected of it."""
    return s.EventView(
        id=row.id,
        version=version_of(row),
        name=row.name,
        place=row.place,
        starts_on=row.starts_on,
        ends_on=row.ends_on,
        lap_length=row.lap_length,
        note=row.note,
        amended=amendments(page.amendments.get(("event", row.id), ())),
    )


def session(row: SessionRow, page: LogPage, found: Bench, revisions: list[int]) -> s.SessionView:
    """A session with its runs and the revisions booked against it."""
    return s.SessionView(
        id=row.id,
        version=version_of(row),
        event_id=row.event_id,
        name=row.name,
        kind=row.kind,
        starts_at=iso(row.starts_at),
        surface=row.surface,
        air_temperature=row.air_temperature,
        track_temperature=row.track_temperature,
        note=row.note,
        runs=[run(logged, found) for logged in page.runs[row.id]],
        revisions=revisions,
        amended=amendments(page.amendments.get(("session", row.id), ())),
    )


def amendments(rows: Iterable[AmendmentRow]) -> list[s.AmendmentView]:
    """What was corrected, each with what it was, what it is, who did it and why."""
    return [
        s.AmendmentView(before=row.before, after=row.after, why=row.why, by=row.by, at=iso(row.at))
        for row in rows
    ]
