"""From core's objects to what the API gives. No rule is decided here."""

from __future__ import annotations

from sqlalchemy.orm import Session

from cabrio.core.car.model import Line
from cabrio.core.catalog.quantities import Kind
from cabrio.core.graph.registry import Need, numbers
from cabrio.core.knowledge import knowledge
from cabrio.core.record.readings import Reading, Standing, spread_of
from cabrio.core.sheet.build import Origin, Sheet
from cabrio.core.sheet.working import Working, refusal
from cabrio.operations import slips as slip_operations
from cabrio.operations.actor import Actor
from cabrio.operations.bench import Bench
from cabrio.storage import logbook, slips
from cabrio.storage.cars import booked_slips
from cabrio.storage.documents import iso, lines_of
from cabrio.storage.models import RunRow, SessionRow

from . import schemas as s


def needs(found: tuple[Need, ...]) -> list[s.NeedView]:
    return [s.NeedView(name=n.name, places=list(n.places), sentence=n.sentence) for n in found]


def line(one: Line) -> s.LineView:
    return s.LineView(name=one.name, place=one.place, old=one.old, new=one.new)


def moved(rows: list[tuple[str, str, float | None, float | None]]) -> list[s.MovedView]:
    return [s.MovedView(name=n, place=p, before=a, after=b) for n, p, a, b in rows]


def figure(sheet: Sheet, name: str) -> s.FigureView:
    worked = numbers()[name].kind is Kind.WORKED
    values = sheet.value(name)
    stopped = refusal(sheet, name) if worked and values is None else None
    return s.FigureView(
        values=values,
        status=sheet.status(name),  # type: ignore[arg-type]
        estimated=sheet.estimated(name),
        missing=needs(sheet.worked.missing.get(name, ())) if worked else [],
        refused=stopped.sentence if stopped else None,
    )


def reading(one: Reading) -> s.ReadingView:
    return s.ReadingView(
        id=one.id, kind=one.kind, revision=one.revision, by=one.by, at=one.at, settles=one.settles,
        values=one.values, spread={name: spread_of(rows) for name, rows in one.settles.items()},
        conditions=one.conditions, unmet=[c.id for c in one.unmet()], fuel_mass=one.fuel_mass,
        note=one.note, withdrawn_by=one.withdrawn_by, withdrawn_at=one.withdrawn_at,
        withdrawn_why=one.withdrawn_why,
    )  # fmt: skip


def standing(one: Standing) -> s.StandingView:
    reasons = [s.ReasonView(verdict=r.verdict, why=r.why, revision=r.revision) for r in one.reasons]
    if one.reading:
        reasons += [s.ReasonView(verdict="doubtful", why=f"{c.label}: no. {c.why}", revision=None)
                    for c in one.reading.unmet()]  # fmt: skip
    return s.StandingView(
        kind=one.kind,
        status=one.status,  # type: ignore[arg-type]
        reading=reading(one.reading) if one.reading else None,
        reasons=reasons,
    )


def session_ref(row: SessionRow | None) -> s.SessionRef | None:
    if row is None:
        return None
    return s.SessionRef(id=row.id, name=row.name, event=row.event.name, place=row.event.place,
                        starts_at=iso(row.starts_at), surface=row.surface,
                        air_temperature=row.air_temperature)  # fmt: skip


def slip(db: Session, actor: Actor, bench: Bench, draft: slip_operations.Draft) -> s.SlipView:
    ahead = slip_operations.preview(bench, draft.base, draft.lines)
    behind = draft.behind
    aside = slips.aside_of(db, bench.row.id, actor.person_id)
    changed = {name for name, *_ in ahead.moved}
    after = {name: values for name in changed if (values := ahead.after.value(name)) is not None}
    refused = [f.sentence for n, f in ahead.after.worked.refused.items()
               if n not in ahead.before.worked.refused]  # fmt: skip
    return s.SlipView(
        version=draft.version,
        base=draft.base,
        lines=[line(one) for one in draft.lines],
        why=draft.slip.why if draft.slip else "",
        expectation=draft.slip.expectation if draft.slip else "",
        session_id=draft.slip.session_id if draft.slip else None,
        moved=moved(ahead.moved),
        after=after,
        refused=refused,
        rechecks=[s.RecheckView(**vars(one)) for one in ahead.rechecks],
        minutes=sum(one.minutes for one in ahead.rechecks),
        mixed=ahead.mixed,
        behind=None if behind is None else s.BehindView(
            revision=behind.revision, by=behind.by, lines=[line(one) for one in behind.lines],
            overlap=[line(one) for one in behind.overlap]),
        aside=[s.AsideView(id=row.id, base=row.base, why=row.why, at=iso(row.at),
                           lines=[line(one) for one in lines_of(row)]) for row in aside],
    )  # fmt: skip


def bench(db: Session, actor: Actor, found: Bench, session: SessionRow | None) -> s.BenchView:
    sheet = found.sheet()
    car = found.car
    worn = {code for one in found.revisions for code in one.setup.get("spring", [])}
    book = knowledge()
    return s.BenchView(
        id=found.row.id, name=car.name, race_number=car.race_number, discipline=car.discipline,
        use=car.use, driven=car.driven, front_layout=car.front_layout, rear_layout=car.rear_layout,
        profile=car.profile, ratio_is=car.ratio_is, revision=found.row.revision,
        booked_by=found.current.by, booked_at=found.current.at, setup=found.current.setup,
        adjusters={n: s.AdjusterView(**vars(a)) for n, a in car.adjusters.items()},
        springs=[s.SpringView(**vars(one), worn=one.code in worn) for one in car.springs],
        given={n: s.GivenView(values=list(g.values), estimated=g.estimated, by=g.by, at=g.at)
               for n, g in car.given.items()},
        figures={name: figure(sheet, name) for name in numbers()},
        bands=[s.BandView(number=b.number, place=b.place, low=b.low, high=b.high)
               for b in book.bands if car.use in b.uses],
        standings=[standing(one) for one in sheet.standings.values()],
        session=session_ref(session),
        slip=slip(db, actor, found, slip_operations.draft(db, actor, found)),
    )  # fmt: skip


def origin(one: Origin | None) -> s.OriginView | None:
    if one is None:
        return None
    return s.OriginView(kind=one.kind.value, words=one.words, by=one.by, at=one.at,
                        estimated=one.estimated, status=one.status)  # type: ignore[arg-type]  # fmt: skip


def told(one: Working) -> s.WorkingView:
    return s.WorkingView(
        name=one.number.name, values=one.values, origin=origin(one.origin),
        inputs=[s.InputView(name=i.number.name, values=i.values, origin=origin(i.origin),
                            assumed=i.assumed, status=i.status)  # type: ignore[arg-type]
                for i in one.inputs],
        missing=needs(one.missing), refused=one.refused.sentence if one.refused else None,
        estimated=list(one.estimated), status=one.status,  # type: ignore[arg-type]
        convention=one.convention,
    )  # fmt: skip


def revisions(db: Session, found: Bench) -> list[s.RevisionView]:
    booked = booked_slips(db, found.row.id)
    verdicts = slips.verdicts_of(db, [slip.id for slip in booked.values()])
    out = []
    for one in found.revisions:
        made = booked.get(one.number)
        verdict = verdicts.get(made.id) if made else None
        out.append(s.RevisionView(
            number=one.number, by=one.by, at=one.at, why=made.why if made else "",
            expectation=made.expectation if made else "", lines=[line(x) for x in one.lines],
            session_id=made.session_id if made else None,
            outcome=verdict.outcome if verdict else None,
            decision=verdict.decision if verdict else None,
            verdict_words=verdict.words if verdict else ""))  # fmt: skip
    return out


def run(row: RunRow) -> s.RunView:
    return s.RunView(
        id=row.id, number=row.number, revision=row.revision, driver=row.driver, laps=row.laps,
        best_time=row.best_time, tyres=row.tyres, confidence=row.confidence,
        words=[s.WordsView(**spoken) for spoken in row.words], note=row.note, by=row.by, at=iso(row.at),
    )  # fmt: skip


def log(db: Session, actor: Actor, found: Bench) -> s.LogbookView:
    made = revisions(db, found)
    by_session: dict[int, list[int]] = {}
    for one in made:
        if one.session_id is not None:
            by_session.setdefault(one.session_id, []).append(one.number)
    sessions = [
        s.SessionView(
            id=row.id, event_id=row.event_id, name=row.name, kind=row.kind,
            starts_at=iso(row.starts_at), surface=row.surface, air_temperature=row.air_temperature,
            track_temperature=row.track_temperature, note=row.note,
            runs=[run(one) for one in row.runs], revisions=by_session.get(row.id, []))
        for row in logbook.sessions_of(db, found.row.id)
    ]  # fmt: skip
    events = [
        s.EventView(id=e.id, name=e.name, place=e.place, starts_on=e.starts_on, ends_on=e.ends_on,
                    note=e.note)
        for e in logbook.events_of(db, actor.team_id)
    ]  # fmt: skip
    return s.LogbookView(events=events, sessions=sessions, revisions=made)
