"""The logbook as the API gives it: a page of sessions with their runs, and the revisions between."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from sqlalchemy.orm import Session

from cabrio.core.car import differences
from cabrio.core.record.clocked import air_told, fields_of, pass_summary
from cabrio.operations.actor import Actor
from cabrio.operations.bench import Bench
from cabrio.operations.logbook import air_at
from cabrio.storage import logbook, slips
from cabrio.storage.cars import booked_slips
from cabrio.storage.documents import iso
from cabrio.storage.logbook import REVISION, SESSION, LogPlace
from cabrio.storage.models import RunRow

from . import schemas as s
from .present import line

PAGE = 40
"""Sessions and revisions, together, that are told at once."""


def revisions(db: Session, found: Bench, numbers: Iterable[int]) -> list[s.RevisionView]:
    """Some revisions with the slips that made them, the oldest first."""
    wanted = set(numbers)
    booked = booked_slips(db, found.row.id, wanted)
    given = slips.verdicts_by_slip(db, [slip.id for slip in booked.values()])
    out = []
    for before, revision in zip([None, *found.revisions], found.revisions, strict=False):
        if revision.number not in wanted:
            continue
        made = booked.get(revision.number)
        stood = before.setup if before is not None and made is None else revision.setup
        verdicts = given.get(made.id, []) if made else []
        verdict = verdicts[-1] if verdicts else None
        out.append(
            s.RevisionView(
                number=revision.number,
                by=revision.by,
                at=revision.at,
                why=made.why if made else "",
                expectation=made.expectation if made else "",
                lines=[line(x) for x in revision.lines],
                jobs=list(revision.jobs),
                session_id=made.session_id if made else None,
                outcome=verdict.outcome if verdict else None,
                decision=verdict.decision if verdict else None,
                verdict_words=verdict.words if verdict else "",
                as_found=[line(x) for x in differences(stood, revision.setup)],
                earlier_verdicts=[
                    s.VerdictView(
                        outcome=each.outcome,
                        decision=each.decision,
                        words=each.words,
                        by=each.by,
                        at=iso(each.at),
                    )
                    for each in verdicts[:-1]
                ],
            )
        )
    return out


Amended = Mapping[tuple[str, int], list[s.AmendmentView]]


def run(row: RunRow, before: RunRow | None, found: Bench, amended: Amended) -> s.RunView:
    """A run with what its times say; `before` is the run of this car before it."""
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
        amended=amended.get(("run", row.id), []),
    )


def one_run(db: Session, actor: Actor, found: Bench, row: RunRow) -> s.RunView:
    amended = _amended(db, actor.team_id, [("run", row.id)])
    return run(row, logbook.run_before(db, found.row.id, row), found, amended)


def log(
    db: Session, actor: Actor, found: Bench, before: LogPlace | None, part: str
) -> s.LogbookView:
    """A page, older than a place where one is given. Where a part is, the revisions that changed it alone."""
    car_id = found.row.id
    rows = [] if part else list(logbook.sessions_before(db, car_id, before, PAGE + 1))
    made = logbook.revisions_before(db, car_id, before, part, PAGE + 1)
    places = [LogPlace(row.starts_at, SESSION, row.id) for row in rows]
    places += [LogPlace(row.booked_at, REVISION, row.number) for row in made]
    places.sort(key=lambda place: (place.at, place.kind, place.row_id), reverse=True)
    page = places[:PAGE]
    shown = {one.row_id for one in page if one.kind == SESSION}
    rows = [row for row in reversed(rows) if row.id in shown]
    booked = revisions(db, found, [one.row_id for one in page if one.kind == REVISION])
    runs = [one for row in rows for one in row.runs]
    first = logbook.run_before(db, car_id, runs[0]) if runs else None
    earlier = dict(zip((one.id for one in runs), [first, *runs], strict=False))
    events = logbook.events_of(db, actor.team_id)
    amended = _amended(
        db,
        actor.team_id,
        [
            *(("event", event.id) for event in events),
            *(("session", one) for one in shown),
            *(("run", one.id) for one in runs),
        ],
    )
    by_session: dict[int, list[int]] = {}
    for one in booked:
        if one.session_id is not None:
            by_session.setdefault(one.session_id, []).append(one.number)
    return s.LogbookView(
        events=[
            s.EventView(
                id=e.id,
                name=e.name,
                place=e.place,
                starts_on=e.starts_on,
                ends_on=e.ends_on,
                lap_length=e.lap_length,
                note=e.note,
                amended=amended.get(("event", e.id), []),
            )
            for e in events
        ],
        sessions=[
            s.SessionView(
                id=row.id,
                event_id=row.event_id,
                name=row.name,
                kind=row.kind,
                starts_at=iso(row.starts_at),
                surface=row.surface,
                air_temperature=row.air_temperature,
                track_temperature=row.track_temperature,
                note=row.note,
                runs=[run(one, earlier[one.id], found, amended) for one in row.runs],
                revisions=by_session.get(row.id, []),
                amended=amended.get(("session", row.id), []),
            )
            for row in rows
        ],
        revisions=booked,
        changed=logbook.changed_parts(db, car_id),
        older=str(page[-1]) if len(places) > PAGE else None,
    )


def _amended(db: Session, team_id: int, rows: Iterable[tuple[str, int]]) -> Amended:
    """What was corrected of some rows, by what it is of."""
    found: dict[tuple[str, int], list[s.AmendmentView]] = {}
    for amendment in logbook.amendments_of(db, team_id, rows):
        view = s.AmendmentView(
            before=amendment.before,
            after=amendment.after,
            why=amendment.why,
            by=amendment.by,
            at=iso(amendment.at),
        )
        found.setdefault((amendment.kind, amendment.row_id), []).append(view)
    return found
