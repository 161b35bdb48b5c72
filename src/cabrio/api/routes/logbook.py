"""Events, sessions, runs, words and verdicts."""

from __future__ import annotations

from io import BytesIO

from apiflask import APIBlueprint
from flask import Response, send_file

from cabrio.core.record.clocked import read
from cabrio.operations import amend, pictures, run_tables
from cabrio.operations import bench as benches
from cabrio.operations import floor as floors
from cabrio.operations import logbook as operations
from cabrio.operations import outcome as outcomes
from cabrio.operations.errors import NotFound
from cabrio.operations.log_page import log_page, logged_run
from cabrio.storage import logbook as storage
from cabrio.storage.logbook import LogPlace

from .. import log_view
from .. import schemas as s
from ..context import actor, now, transaction
from ..idempotency import idempotent

MOST_NAMES = 100

routes = APIBlueprint("logbook", __name__, tag="Logbook")


@routes.get("/cars/<int:car_id>/logbook")
@routes.input(s.LogbookQuery, location="query", arg_name="asked")
@routes.output(s.LogbookView)
@routes.doc(
    summary="A page of sessions with their runs and the revisions between, the newest first"
)
def log(car_id: int, asked: s.LogbookQuery) -> s.LogbookView:
    with transaction() as db:
        who = actor()
        found = benches.load(db, who, car_id)
        try:
            before = LogPlace.read(asked.before) if asked.before else None
        except ValueError:
            raise NotFound("There is no such place in the logbook.") from None
        return log_view.log(log_page(db, who, found, before, asked.part), found)


@routes.get("/cars/<int:car_id>/sessions")
@routes.output(s.SessionNames)
@routes.doc(summary="The last sessions of a car by name, the newest first: to choose one")
def session_names(car_id: int) -> s.SessionNames:
    with transaction() as db:
        benches.load(db, actor(), car_id)
        found = storage.names_of_sessions(db, car_id, MOST_NAMES)
        return s.SessionNames(
            sessions=[s.SessionName(id=one.id, name=one.name, event=one.event) for one in found]
        )


@routes.get("/cars/<int:car_id>/runs/<int:run_id>")
@routes.output(s.RunView)
@routes.doc(summary="One run of a car")
def one_run(car_id: int, run_id: int) -> s.RunView:
    with transaction() as db:
        who = actor()
        found = benches.load(db, who, car_id)
        row = storage.find_run(db, car_id, run_id)
        if row is None:
            raise NotFound("There is no such run of this car.")
        return log_view.run(logged_run(db, who, found, row), found)


@routes.post("/events")
@routes.input(s.EventIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Add an event of the team")
@idempotent
def add_event(body: s.EventIn) -> s.Ok:
    with transaction() as db:
        operations.add_event(db, actor(), **body.model_dump())
    return s.Ok()


@routes.post("/cars/<int:car_id>/sessions")
@routes.input(s.SessionIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Add a session of this car")
@idempotent
def add_session(car_id: int, body: s.SessionIn) -> s.Ok:
    with transaction() as db:
        operations.add_session(db, actor(), car_id, **body.model_dump())
    return s.Ok()


@routes.patch("/events/<int:event_id>")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.EventFixIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Correct an event, with the reason; what stood there before is kept")
def correct_event(event_id: int, match: s.IfMatch, body: s.EventFixIn) -> s.Ok:
    with transaction() as db:
        amend.correct_event(db, actor(), event_id, now(), seen=match.seen, **body.model_dump())
    return s.Ok()


@routes.patch("/cars/<int:car_id>/sessions/<int:session_id>")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.SessionFixIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Correct a session, with the reason; what stood there before is kept")
def correct_session(car_id: int, session_id: int, match: s.IfMatch, body: s.SessionFixIn) -> s.Ok:
    with transaction() as db:
        amend.correct(
            db, actor(), car_id, "session", session_id, now(), seen=match.seen, **body.model_dump()
        )
    return s.Ok()


@routes.patch("/cars/<int:car_id>/runs/<int:run_id>")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.RunFixIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Correct a run, with the reason; what stood there before is kept")
def correct_run(car_id: int, run_id: int, match: s.IfMatch, body: s.RunFixIn) -> s.Ok:
    with transaction() as db:
        amend.correct(
            db, actor(), car_id, "run", run_id, now(), seen=match.seen, **body.model_dump()
        )
    return s.Ok()


@routes.post("/cars/<int:car_id>/sessions/<int:session_id>/aside")
@routes.input(s.WhyIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Set a session aside, with its runs and the reason; the record keeps it")
@idempotent
def set_session_aside(car_id: int, session_id: int, body: s.WhyIn) -> s.Ok:
    with transaction() as db:
        amend.set_aside(db, actor(), car_id, "session", session_id, now(), why=body.why)
    return s.Ok()


@routes.post("/cars/<int:car_id>/runs/<int:run_id>/aside")
@routes.input(s.WhyIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Set a run aside, with the reason; the record keeps it")
@idempotent
def set_run_aside(car_id: int, run_id: int, body: s.WhyIn) -> s.Ok:
    with transaction() as db:
        amend.set_aside(db, actor(), car_id, "run", run_id, now(), why=body.why)
    return s.Ok()


@routes.post("/cars/<int:car_id>/sessions/<int:session_id>/runs")
@routes.input(s.RunIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Log a run on the revision now on the car")
@idempotent
def add_run(car_id: int, session_id: int, body: s.RunIn) -> s.Ok:
    with transaction() as db:
        operations.add_run(db, actor(), car_id, session_id, now(), **body.model_dump())
    return s.Ok()


@routes.get("/cars/<int:car_id>/floor")
@routes.output(s.FloorView)
@routes.doc(summary="Ride heights that touched and that ran free, by place")
def floor(car_id: int) -> s.FloorView:
    with transaction() as db:
        found = floors.of_car(db, benches.load(db, actor(), car_id))
    return s.FloorView(learned=found)


@routes.post("/cars/<int:car_id>/time-slip")
@routes.input(s.SlipTextIn, arg_name="body")
@routes.output(s.TimesRead)
@routes.doc(summary="Read a pasted time slip; changes nothing")
def read_slip(car_id: int, body: s.SlipTextIn) -> s.TimesRead:
    with transaction() as db:
        car = benches.load(db, actor(), car_id).car
    return s.TimesRead(times=read(car.discipline, body.text))


@routes.post("/cars/<int:car_id>/run-table")
@routes.input(s.RunTableIn, arg_name="body")
@routes.output(s.RunTableView)
@routes.doc(summary="Look at a pasted table of runs before it is logged; changes nothing")
def look_at_runs(car_id: int, body: s.RunTableIn) -> s.RunTableView:
    with transaction() as db:
        found = run_tables.look(db, actor(), car_id, body.text, body.columns)
    return s.RunTableView(
        headings=list(found.headings),
        columns=list(found.columns),
        fields=[s.RunField(id=name, label=label) for name, label in found.fields],
        rows=[list(row) for row in found.rows],
        runs=len(found.runs),
        problems=list(found.problems),
    )


@routes.post("/cars/<int:car_id>/sessions/<int:session_id>/run-table/take")
@routes.input(s.RunTableAddIn, arg_name="body")
@routes.output(s.Added)
@routes.doc(summary="Log every run of a table, or none of them")
@idempotent
def add_runs(car_id: int, session_id: int, body: s.RunTableAddIn) -> s.Added:
    with transaction() as db:
        count = run_tables.add(db, actor(), car_id, session_id, now(), **body.model_dump())
    return s.Added(count=count)


@routes.post("/cars/<int:car_id>/runs/<int:run_id>/pictures")
@routes.input(s.PictureIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Keep a photo or a short clip with a run")
@idempotent
def add_picture(car_id: int, run_id: int, body: s.PictureIn) -> s.Ok:
    with transaction() as db:
        pictures.add(db, actor(), car_id, run_id, now(), name=body.name, data=body.data)
    return s.Ok()


@routes.get("/cars/<int:car_id>/pictures/<int:picture_id>")
@routes.doc(summary="A photo or clip of a run", responses={200: "The file itself"})
def picture(car_id: int, picture_id: int) -> Response:
    with transaction() as db:
        row = pictures.find(db, actor(), car_id, picture_id)
        found = send_file(BytesIO(row.data), mimetype=row.kind, etag=row.digest, conditional=True)
    found.headers["Content-Disposition"] = "inline"
    found.headers["Content-Security-Policy"] = "sandbox; default-src 'none'"
    # its bytes never change under its number; whoever signs in next on this machine asks anew
    found.headers["Cache-Control"] = "private, no-cache"
    return found


@routes.patch("/cars/<int:car_id>/pictures/<int:picture_id>")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.PictureSays, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Say which phase a photo or clip shows, and what is to be seen")
def say_of_picture(car_id: int, picture_id: int, match: s.IfMatch, body: s.PictureSays) -> s.Ok:
    with transaction() as db:
        pictures.say(
            db, actor(), car_id, picture_id, phase=body.phase, shows=body.shows, seen=match.seen
        )
    return s.Ok()


@routes.delete("/cars/<int:car_id>/pictures/<int:picture_id>")
@routes.output(s.Ok)
@routes.doc(summary="Take a photo or clip off its run")
def remove_picture(car_id: int, picture_id: int) -> s.Ok:
    with transaction() as db:
        pictures.remove(db, actor(), car_id, picture_id, now())
    return s.Ok()


@routes.put("/cars/<int:car_id>/runs/<int:run_id>/words")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.SpeakIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Write the driver's words of a run, by phase")
def speak(car_id: int, run_id: int, match: s.IfMatch, body: s.SpeakIn) -> s.Ok:
    with transaction() as db:
        words = [word.model_dump() for word in body.words]
        operations.speak(
            db,
            actor(),
            car_id,
            run_id,
            now(),
            words=words,
            confidence=body.confidence,
            seen=match.seen,
        )
    return s.Ok()


@routes.get("/cars/<int:car_id>/revisions/<int:number>/outcome")
@routes.output(s.OutcomeView)
@routes.doc(summary="What came of a booked slip: figures expected and read, runs before and after")
def outcome(car_id: int, number: int) -> s.OutcomeView:
    with transaction() as db:
        outcome = outcomes.outcome(db, actor(), car_id, number)
    return s.OutcomeView(
        found=[
            s.FoundView(
                name=one.name,
                place=one.place,
                before=one.before,
                expected=one.expected,
                found=one.found,
                as_expected=one.as_expected,
            )
            for one in outcome.found
        ],
        before=outcome.times.before,
        after=outcome.times.after,
        said=outcome.times.sentence,
        beyond=outcome.times.beyond,
        confounders=list(outcome.times.confounders),
        again=outcome.again,
    )


@routes.post("/cars/<int:car_id>/revisions/<int:number>/verdict")
@routes.input(s.VerdictIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Give the verdict on the slip that made a revision")
@idempotent
def judge(car_id: int, number: int, body: s.VerdictIn) -> s.Ok:
    with transaction() as db:
        operations.judge(db, actor(), car_id, number, now(), **body.model_dump())
    return s.Ok()
