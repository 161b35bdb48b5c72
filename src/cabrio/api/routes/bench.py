"""Work at the bench: readings, the slip, springs, workings, revisions."""

from __future__ import annotations

from urllib.parse import urlencode

from apiflask import APIBlueprint
from sqlalchemy.orm import Session

from cabrio.core.car import with_lines
from cabrio.core.catalog.fields import Own, number_of
from cabrio.core.errors import CoreError, Impossible
from cabrio.core.graph.registry import number_named
from cabrio.core.questions import ask, refuse_unknown
from cabrio.core.record.readings import Taken
from cabrio.core.sheet import stock
from cabrio.core.sheet.command import Advise, Change, Go, Reach, Why, understand
from cabrio.core.sheet.cut_spring import cut_at
from cabrio.core.sheet.plots import Curve, sweep
from cabrio.core.sheet.working import working as work
from cabrio.operations import as_found, readings, slips
from cabrio.operations import bench as benches
from cabrio.operations import compare as comparing
from cabrio.operations.log_page import booked_revisions

from .. import log_view, present
from .. import schemas as s
from ..context import actor, now, transaction, understood
from ..idempotency import idempotent
from ..typed import typed

ACTIVE = Own("Active coils", "count", above=0.0, most=60.0)
CUT_OFF = Own("Coils cut off", "count", above=0.0, most=60.0)
MOST_READINGS = 100
"""Told at once; older ones are in the car file."""

routes = APIBlueprint("bench", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/readings")
@routes.input(s.ReadingsQuery, location="query", arg_name="asked")
@routes.output(s.Readings)
@routes.doc(
    summary="The last readings, of one kind or of all, newest first, withdrawn ones included"
)
def all_readings(car_id: int, asked: s.ReadingsQuery) -> s.Readings:
    with transaction() as db:
        found = benches.load(db, actor(), car_id).readings
    matching = [one for one in reversed(found) if asked.kind in ("", one.kind)]
    return s.Readings(
        readings=[present.reading(one) for one in matching[:MOST_READINGS]], count=len(matching)
    )


@routes.post("/readings")
@routes.input(s.ReadingIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Take a reading or tick a check")
@idempotent
def take(car_id: int, body: s.ReadingIn) -> s.Ok:
    with transaction() as db:
        readings.take(
            db,
            actor(),
            car_id,
            now(),
            kind=body.kind,
            repeats=body.repeats,
            conditions=body.conditions,
            zero=body.zero,
            note=body.note,
            taken=Taken(body.instrument, body.place, body.by_eye, body.stage),
            confirmed=body.confirmed,
            understood=understood(),
        )
    return s.Ok()


@routes.post("/readings/<int:reading_id>/withdraw")
@routes.input(s.WhyIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Withdraw a reading, with the reason")
@idempotent
def withdraw(car_id: int, reading_id: int, body: s.WhyIn) -> s.Ok:
    with transaction() as db:
        readings.withdraw(db, actor(), car_id, reading_id, now(), why=body.why)
    return s.Ok()


@routes.put("/slip")
@routes.input(s.SlipIn, arg_name="body")
@routes.output(s.SlipView)
@routes.doc(summary="Write the draft; answers with what it would do")
def write_slip(car_id: int, body: s.SlipIn) -> s.SlipView:
    with transaction() as db:
        who = actor()
        bench, draft = slips.write(
            db,
            who,
            car_id,
            now(),
            version=body.version,
            changes=[(c.name, c.place, c.new) for c in body.changes],
            why=body.why,
            expectation=body.expectation,
            session_id=body.session_id,
            jobs=body.jobs,
        )
        return present.slip(bench, draft)


@routes.post("/slip/book")
@routes.input(s.BookIn, arg_name="body")
@routes.output(s.Booked)
@routes.doc(summary="Book the slip: the next revision")
@idempotent
def book(car_id: int, body: s.BookIn) -> s.Booked:
    with transaction() as db:
        return s.Booked(revision=slips.book(db, actor(), car_id, now(), version=body.version))


@routes.post("/as-found")
@routes.input(s.AsFoundIn, arg_name="body")
@routes.output(s.Booked)
@routes.doc(summary="Take settings nobody has written down as they stand on the car: no change")
@idempotent
def take_as_found(car_id: int, body: s.AsFoundIn) -> s.Booked:
    changes = [(c.name, c.place, c.new) for c in body.changes]
    with transaction() as db:
        return s.Booked(revision=as_found.write_as_found(db, actor(), car_id, now(), changes))


@routes.delete("/as-found")
@routes.output(s.Booked)
@routes.doc(summary="Take back what was written down as found last")
def undo_as_found(car_id: int) -> s.Booked:
    with transaction() as db:
        return s.Booked(revision=as_found.undo_as_found(db, actor(), car_id, now()))


@routes.post("/slip/park")
@routes.output(s.Ok)
@routes.doc(summary="Park the slip")
def park(car_id: int) -> s.Ok:
    with transaction() as db:
        slips.park(db, actor(), car_id, now())
    return s.Ok()


@routes.post("/slip/resume")
@routes.input(s.ResumeIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Resume a parked slip")
def resume(car_id: int, body: s.ResumeIn) -> s.Ok:
    with transaction() as db:
        slips.resume(db, actor(), car_id, body.slip, now())
    return s.Ok()


@routes.post("/slip/reapply")
@routes.output(s.Ok)
@routes.doc(summary="Reapply the slip to the newest revision")
def reapply(car_id: int) -> s.Ok:
    with transaction() as db:
        slips.reapply(db, actor(), car_id, now())
    return s.Ok()


@routes.post("/revisions/<int:number>/back-out")
@routes.output(s.Ok)
@routes.doc(summary="Write the slip that takes a revision's changes back")
def back_out(car_id: int, number: int) -> s.Ok:
    with transaction() as db:
        slips.back_out(db, actor(), car_id, number, now())
    return s.Ok()


@routes.post("/revisions/<int:number>/go-back")
@routes.output(s.Ok)
@routes.doc(summary="Write the slip with every move that brings the car back to a revision")
def go_back(car_id: int, number: int) -> s.Ok:
    with transaction() as db:
        slips.go_back_to(db, actor(), car_id, number, now())
    return s.Ok()


@routes.get("/compare")
@routes.input(s.CompareQuery, location="query", arg_name="asked")
@routes.output(s.CompareView)
@routes.doc(summary="Two revisions side by side")
def compare(car_id: int, asked: s.CompareQuery) -> s.CompareView:
    with transaction() as db:
        bench = benches.load(db, actor(), car_id)
        found = comparing.compare(bench, asked.left, asked.right)
        revisions = {
            booked.revision.number: log_view.revision(booked)
            for booked in booked_revisions(db, bench, (asked.left, asked.right))
        }
        return s.CompareView(
            left=revisions[asked.left],
            right=revisions[asked.right],
            set_otherwise=[present.line(one) for one in found.set_otherwise],
            moved=present.moved(found.moved),
            unequal=found.unequal,
            corrected=found.corrected,
        )


@routes.get("/working/<name>")
@routes.output(s.WorkingView)
@routes.doc(summary="How a number came about, or what it lacks")
def working(car_id: int, name: str) -> s.WorkingView:
    with transaction() as db:
        return present.working_view(work(benches.load(db, actor(), car_id).sheet(), name))


@routes.get("/plot")
@routes.input(s.PlotQuery, location="query", arg_name="asked")
@routes.output(s.PlotView)
@routes.doc(summary="Figures over one number, booked and drafted")
def plot(car_id: int, asked: s.PlotQuery) -> s.PlotView:
    with transaction() as db:
        bench, draft = _in_hand(db, car_id)
    names = tuple(number_named(name.strip()).name for name in asked.y.split(",")[:8])
    sheet = bench.sheet()
    booked = sweep(sheet, asked.x, names)
    drafted: tuple[Curve, ...] = ()
    if draft.lines:
        drafted = sweep(
            sheet, asked.x, names, slips.preview(bench, draft.base, draft.lines).worked.values
        ).curves
    return s.PlotView(
        x=asked.x,
        values=list(booked.values),
        here=booked.here,
        booked=[
            s.CurveView(name=c.name, place=c.place, values=list(c.values)) for c in booked.curves
        ],
        drafted=[s.CurveView(name=c.name, place=c.place, values=list(c.values)) for c in drafted],
    )


def _in_hand(db: Session, car_id: int) -> tuple[benches.Bench, slips.Draft]:
    who = actor()
    bench = benches.load(db, who, car_id)
    return bench, slips.draft(db, who, bench)


@routes.post("/questions/<name>")
@routes.input(s.AskIn, arg_name="body")
@routes.output(s.Proposals)
@routes.doc(summary="An inverse question: proposals for a target; changes nothing")
def ask_question(car_id: int, name: str, body: s.AskIn) -> s.Proposals:
    with transaction() as db:
        bench, _ = _in_hand(db, car_id)
    targets = {
        one.key: typed(
            one.number,
            body.targets.get(one.key),
            bench.car.profile,
            one.key,
            one.place or "car",
        )
        for one in refuse_unknown(name).asks
    }
    return s.Proposals(
        proposals=[
            s.ProposalView(
                label=one.label,
                lines=[present.line(x) for x in one.lines],
                minutes=one.minutes,
                shows=[
                    s.MovedView(name=x.name, place=x.place, before=x.before, after=x.after)
                    for x in one.shows
                ],
                rechecks=[x.label for x in one.rechecks],
                notes=list(one.notes),
            )
            for one in ask(bench.sheet(), name, targets)
        ]
    )


@routes.get("/springs")
@routes.output(s.SpringsView)
@routes.doc(
    summary="The spring each target asks for, and what each spring in the inventory would give"
)
def springs(car_id: int) -> s.SpringsView:
    with transaction() as db:
        sheet = benches.load(db, actor(), car_id).sheet()
    asked = stock.by_convention(sheet, "target_spring_rate")
    axles = []
    for axle in stock.AXLES:
        wanted, refusal = None, None
        try:
            wanted = stock.wanted_rate(sheet, axle)
        except CoreError as problem:
            refusal = problem.sentence
        rows = stock.candidates(sheet, axle, wanted)
        rates = [row.spring.true_rate for row in rows] + ([wanted] if wanted else [])
        drawn: tuple[list[float], list[float]] = ([], [])
        if rates:
            drawn = stock.curve(sheet, axle, 0.85 * min(rates), 1.1 * max(rates))
        axles.append(
            s.SpringsAxle(
                axle=axle,  # type: ignore[arg-type]
                wanted_rate=wanted,
                problem=refusal,
                missing=present.needs(sheet.worked.missing.get(asked, ())),
                figure=asked,
                candidates=[
                    s.CandidateView(
                        code=row.spring.code,
                        rate=row.spring.true_rate,
                        **{k: v for k, v in vars(row).items() if k != "spring"},
                    )
                    for row in rows
                ],
                curve_rates=drawn[0],
                curve_frequencies=drawn[1],
            )
        )
    return s.SpringsView(axles=axles)


@routes.get("/springs/cut")
@routes.input(s.CutQuery, location="query", arg_name="asked")
@routes.output(s.CutView)
@routes.doc(summary="What cutting coils off a spring would make of it; changes nothing")
def cut_spring(car_id: int, asked: s.CutQuery) -> s.CutView:
    with transaction() as db:
        sheet = benches.load(db, actor(), car_id).sheet()
    profile = sheet.car.profile
    coils = typed(number_of(ACTIVE), asked.coils, profile, "coils")
    off = typed(number_of(CUT_OFF), asked.off, profile, "off")
    try:
        found = cut_at(sheet, asked.place, coils, off)
    except Impossible as refusal:
        refusal.number = "off"
        raise
    return s.CutView(
        code=found.code,
        rate=found.spring.rate,
        free_length=found.spring.free_length,
        drop=found.spring.drop,
        wheel_drop=found.wheel_drop,
        wheel_rate=found.wheel_rate,
    )


@routes.post("/command")
@routes.input(s.CommandIn, arg_name="body")
@routes.output(s.CommandView)
@routes.doc(summary="Understand a typed command; changes nothing")
def command(car_id: int, body: s.CommandIn) -> s.CommandView:
    with transaction() as db:
        who = actor()
        bench = benches.load(db, who, car_id)
        draft = slips.draft(db, who, bench)
        setup = with_lines(bench.at(draft.base).setup, list(draft.lines))
        intent = understand(body.text, bench.car, setup)
    match intent:
        case Go(station):
            return s.CommandView(go=station, why=None, changes=[], note="")
        case Why(name, place):
            return s.CommandView(
                go=None, why=s.WhyTarget(name=name, place=place), changes=[], note=""
            )
        case Advise(symptom, phase):
            asked = urlencode({"symptom": symptom, "phase": phase})
            return s.CommandView(go=f"advise?{asked}", why=None, changes=[], note="")
        case Reach(targets):
            wanted = urlencode([("t", ":".join(target)) for target in targets])
            return s.CommandView(go=f"work?{wanted}", why=None, changes=[], note="")
        case Change(lines, note):
            changes = [
                s.ChangeView(name=line.name, place=line.place, new=line.new) for line in lines
            ]
            return s.CommandView(go=None, why=None, changes=changes, note=note)
