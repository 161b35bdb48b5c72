"""From core's objects to what the API gives. No rule is decided here."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from math import isnan
from typing import Any

from cabrio.core.car import Given, Line
from cabrio.core.car.uneven import uneven
from cabrio.core.car.usual import is_usual
from cabrio.core.catalog.quantities import Kind
from cabrio.core.graph.registry import Need, numbers
from cabrio.core.knowledge import knowledge
from cabrio.core.record.readings import Reading, spread_of
from cabrio.core.record.recheck import mixed_systems
from cabrio.core.record.standing import Invalidated, Standing, is_unnumbered
from cabrio.core.record.watch import decided_on
from cabrio.core.sheet.build import MovedRow, Origin, Sheet
from cabrio.core.sheet.measure_next import measure_next
from cabrio.core.sheet.measured_better import measured_better
from cabrio.core.sheet.release import Limit
from cabrio.core.sheet.working import Working, refusal
from cabrio.operations import slips as slip_operations
from cabrio.operations.bench import Bench
from cabrio.operations.bench_view import BenchView
from cabrio.operations.versions import version_of
from cabrio.storage.documents import iso, lines_of
from cabrio.storage.models import CarRow, SessionRow, WatchedRow

from . import fittings
from . import schemas as s


def needs(found: tuple[Need, ...]) -> list[s.NeedView]:
    """What is missing, each with where it is entered."""
    return [s.NeedView(name=n.name, places=list(n.places), sentence=n.sentence) for n in found]


def known(value: float) -> float | None:
    """None for what is not a number."""
    return None if isnan(value) else value


def line(one: Line) -> s.LineView:
    """One change of a slip or a revision."""
    return s.LineView(name=one.name, place=one.place, old=one.old, new=one.new)


def moved(rows: list[MovedRow]) -> list[s.MovedView]:
    """Figures that moved, before and after [SI]."""
    return [s.MovedView(name=n, place=p, before=a, after=b) for n, p, a, b in rows]


def figure(sheet: Sheet, name: str) -> s.FigureView:
    """A figure at all its places, how it stands and what it rests on."""
    worked = numbers()[name].kind is Kind.WORKED
    values = sheet.by_place(name) if sheet.is_read(name) else None
    stopped = refusal(sheet, name) if worked and values is None else None
    return s.FigureView(
        values=values,
        by_points=[
            place
            for i, place in enumerate(numbers()[name].shape.places)
            if i in sheet.parts.worked.get(name, ())
        ],
        ends=sheet.ends.get(name, ""),
        status=sheet.status(name),
        places=list(from_.places) if (from_ := sheet.origins.get(name)) else [],
        estimated=sheet.estimated(name),
        missing=needs(sheet.worked.missing.get(name, ())) if worked else [],
        refused=stopped.sentence if stopped else None,
    )


def reading(one: Reading) -> s.ReadingView:
    """A reading with its repeats, their mean and how far they spread."""
    return s.ReadingView(
        id=one.id,
        kind=one.kind,
        revision=one.revision,
        by=one.by,
        at=one.at,
        repeats=one.repeats,
        values=one.values,
        spread={name: spread_of(rows) for name, rows in one.repeats.items()},
        conditions=one.conditions,
        unmet=[c.id for c in one.unmet()],
        taken=s.TakenView(**vars(one.taken)),
        note=one.note,
        withdrawn_by=one.withdrawn_by,
        withdrawn_at=one.withdrawn_at,
        withdrawn_why=one.withdrawn_why,
    )


def standing(one: Standing, runs: Sequence[datetime] = ()) -> s.StandingView:
    """How a reading stands; `runs` are the times of the car's runs, of which those after it count."""
    kind = knowledge().readings[one.kind]
    since = 0
    if one.reading:
        read = datetime.fromisoformat(one.reading.at)
        since = sum(at > read for at in runs)
    first: dict[tuple[str, str], Invalidated] = {}
    for each in one.reasons:  # a season's revisions upset it over and over for the same few reasons
        first.setdefault((each.verdict, each.why), each)
    reasons = [
        s.ReasonView(verdict=r.verdict, why=r.why, revision=r.revision) for r in first.values()
    ]
    doubts = [words for each in one.readings for words in _doubts(each.reading)]
    if one.unread:
        doubts.append(f"Not read: {', '.join(_unread(one))}.")
    reasons += [
        s.ReasonView(verdict="doubtful", why=words, revision=None)
        for words in dict.fromkeys(doubts)
    ]
    if one.damage_found is not None:
        words = "A later reading does not end this: an engineer records an inspection for damage."
        reasons.append(s.ReasonView(verdict="void", why=words, revision=None))
    if one.differs:
        reasons.append(
            s.ReasonView(
                verdict=one.status, why=knowledge().readings[one.kind].differs, revision=None
            )
        )
    return s.StandingView(
        kind=one.kind,
        differs=[s.DifferView(**vars(each)) for each in one.differs],
        status=one.status,
        reading=reading(one.reading) if one.reading else None,
        values=one.values,
        kept=[
            s.KeptView(
                revision=each.reading.revision,
                by=each.reading.by,
                at=each.reading.at,
                status=each.status,
                values=each.values,
            )
            for each in one.readings[1:]
        ],
        reasons=reasons,
        runs_since=since,
        decides=kind.decides if kind.again_after and since >= kind.again_after else "",
    )


def _doubts(one: Reading) -> list[str]:
    """Why a reading is in doubt by how it was taken."""
    doubts = [f"{c.label}: not ticked. {c.why}" for c in one.unmet()]
    if one.taken.by_eye:
        doubts.append("Taken by eye.")
    if is_unnumbered(one):
        doubts.append(
            "Ticked off without a number: nothing was written down that it could be held against."
        )
    return doubts


def _unread(one: Standing) -> list[str]:
    """Places that no reading tells of, by number."""
    places: dict[str, list[str]] = {}
    for name, place in one.unread:
        places.setdefault(name, []).append(place)
    return [
        f"{numbers()[name].label.lower()} {' and '.join(those)}" for name, those in places.items()
    ]


def session_ref(row: SessionRow | None) -> s.SessionRef | None:
    """A session by name, where there is one."""
    if row is None:
        return None
    return s.SessionRef(
        id=row.id,
        name=row.name,
        event=row.event.name,
        place=row.event.place,
        starts_at=iso(row.starts_at),
        surface=row.surface,
        air_temperature=row.air_temperature,
    )


def _imported(row: CarRow) -> s.ImportedView | None:
    if row.imported_by is None or row.imported_at is None:
        return None
    return s.ImportedView(
        by=row.imported_by, at=row.imported_at, revision=row.imported_revision or 1
    )


def slip(bench: Bench, draft: slip_operations.Draft) -> s.SlipView:
    """The draft with what it would do to the car."""
    ahead = slip_operations.preview(bench, draft.base, draft.lines, draft.jobs)
    changed = {name for name, *_ in ahead.moved} | set(ahead.predicted)
    after = {
        name: row
        for name in changed
        if numbers()[name].quantity != "curve" and (row := ahead.worked.by_place(name)) is not None
    }
    found = ahead.rechecks
    return s.SlipView(
        version=draft.version,
        base=draft.base,
        lines=[line(one) for one in draft.lines],
        jobs=list(draft.jobs),
        why=draft.slip.why if draft.slip else "",
        expectation=draft.slip.expectation if draft.slip else "",
        session_id=draft.slip.session_id if draft.slip else None,
        moved=moved(ahead.moved),
        after=after,
        predicted=list(ahead.predicted),
        unknown=[s.UnknownView(words=one.words, needs=needs(one.needs)) for one in ahead.unknown],
        notes=list(ahead.notes),
        effect_known=ahead.effect_known,
        refused=[one.sentence for one in ahead.refused],
        rechecks=[s.RecheckView(**vars(one)) for one in found],
        minutes=sum(one.minutes for one in found),
        mixed=mixed_systems(draft.lines),
        behind=_behind(draft.behind),
        merged=_behind(draft.merged),
        parked=[
            s.ParkedView(
                id=row.id,
                base=row.base,
                why=row.why,
                at=iso(row.at),
                jobs=list(row.jobs),
                lines=[line(one) for one in lines_of(row)],
            )
            for row in draft.parked
        ],
    )


def _behind(one: slip_operations.Behind | None) -> s.BehindView | None:
    if one is None:
        return None
    return s.BehindView(
        revision=one.revision,
        by=one.by,
        lines=[line(each) for each in one.lines],
        overlap=[line(each) for each in one.overlap],
    )


def given(one: Given) -> s.GivenView:
    """A fact or a target as it was given, with what it was before."""
    places = range(len(one.values))
    return s.GivenView(
        values=list(one.values),
        estimated=[one.estimated_at(i) for i in places],
        by=one.by,
        at=one.at,
        why=one.why,
        since=one.since,
        was=[
            s.PreviousView(values=list(w.values), estimated=bool(w.estimated), by=w.by, at=w.at)
            for w in one.was
        ],
    )


def bench(view: BenchView) -> s.BenchView:
    """Everything the bench shows of a car."""
    found = view.bench
    sheet = found.sheet()
    car = found.car
    book = knowledge()
    # readings are known to the second
    runs = [at.replace(microsecond=0) for at in view.last_runs]
    return s.BenchView(
        id=found.row.id,
        imported=_imported(found.row),
        name=car.name,
        race_number=car.race_number,
        discipline=car.discipline,
        use=car.use,
        driven=car.driven,
        front_layout=car.front_layout,
        rear_layout=car.rear_layout,
        profile=car.profile,
        ratio_is=car.ratio_is,
        revision=found.row.revision,
        stamp=str(found.row.stamp),
        baseline=car.baseline,
        booked_by=found.current.by,
        booked_at=found.current.at,
        setup=_whole_setup(found),
        adjusters={
            n: s.AdjusterView(
                version=version_of(a),
                lowest=a.lowest,
                highest=a.highest,
                counted=a.counted,
                at={p: list(span) for p, span in a.at.items()},
                usual=is_usual(n, a),
            )
            for n, a in car.adjusters.items()
        },
        choices=fittings.choices_of(found),
        parts=fittings.parts(found),
        uneven=[one.sentence for one in uneven(car, found.current.setup)],
        not_here=fittings.not_here(car),
        measure_next=[
            s.StainView(name=one.name, stains=list(one.stains), why=one.why)
            for one in measure_next(sheet)
        ],
        given={n: given(g) for n, g in car.given.items()},
        figures={name: figure(sheet, name) for name in numbers() if name in sheet.applying},
        bands=[
            s.BandView(number=band.number, place=place, low=band.low, high=band.high)
            for band in book.bands
            if car.use in band.uses
            for place in band.places
        ],
        standings=[standing(one, runs) for one in sheet.standings.values()],
        not_ready=[s.BarView(**vars(one)) for one in view.against],
        better=[
            s.BetterView(
                fact=one.fact,
                kind=one.kind,
                values=list(one.values),
                within=list(one.within),
                source=one.source,
                lacks=list(one.lacks),
                refused=one.refused,
            )
            for one in measured_better(sheet)
        ],
        limits=[_limit(one, signed) for one, signed in view.limits],
        session=session_ref(view.session),
        slip=slip(found, view.draft),
    )


def _limit(one: Limit, signed: WatchedRow | None) -> s.LimitView:
    return s.LimitView(
        kind=one.kind,
        station=one.station,
        words=one.words,
        bars=one.bars,
        signed=s.SignedView(
            id=signed.id,
            by=signed.opened_by,
            at=iso(signed.opened_at),
            on=decided_on(signed.data),
        )
        if signed
        else None,
    )


def _whole_setup(found: Bench) -> dict[str, list[Any]]:
    """Every setting this car has, in the dictionary's order; what nobody set stands as null."""
    setup = found.current.setup
    return {n.name: setup.get(n.name) or [None] * len(n.shape.places) for n in found.car.settable()}


def origin(one: Origin | None) -> s.OriginView | None:
    """Where a value comes from: a part, a reading, a person."""
    if one is None:
        return None
    return s.OriginView(
        kind=one.kind.value,
        words=one.words,
        by=one.by,
        at=one.at,
        estimated=one.estimated,
        status=one.status,
    )


def working_view(one: Working) -> s.WorkingView:
    """The working of a number: its inputs, what is missing, why it is refused."""
    return s.WorkingView(
        name=one.number.name,
        values=one.values,
        origin=origin(one.origin),
        inputs=[
            s.InputView(
                name=i.number.name,
                values=i.values,
                origin=origin(i.origin),
                assumed=i.assumed,
                status=i.status,
            )
            for i in one.inputs
        ],
        missing=needs(one.missing),
        refused=one.refused.sentence if one.refused else None,
        estimated=list(one.estimated),
        status=one.status,
        convention=one.convention,
    )
