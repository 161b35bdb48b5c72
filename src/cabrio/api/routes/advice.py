"""Advice: from what the driver said to changes sized and ranked on this car."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.advise.advise import Candidate, Question, Situation, advise, beside, expectation
from cabrio.core.errors import CoreError
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.ladder import balances_of, limits_of
from cabrio.core.under_load.of_sheet import shaft_of
from cabrio.core.under_load.steps import LEAST, LOADED
from cabrio.operations import bench as benches
from cabrio.operations import slips
from cabrio.operations.advice import judged

from .. import present
from .. import schemas as s
from ..context import actor, transaction

routes = APIBlueprint("advice", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/advice")
@routes.input(s.AdviceQuery, location="query", arg_name="asked")
@routes.output(s.AdviceView)
@routes.doc(
    summary="Changes for what the driver said, sized on this car and ranked; changes nothing"
)
def advice(car_id: int, asked: s.AdviceQuery) -> s.AdviceView:
    with transaction() as db:
        who = actor()
        bench = benches.load(db, who, car_id)
        draft = slips.draft(db, who, bench).lines
        record = judged(db, who, bench)
        sheet = bench.sheet()
    question = Question(asked.symptom, asked.phase, asked.school)
    found = advise(sheet, question, Situation(draft, record))
    moved = _balances(sheet, found)
    return s.AdviceView(
        beside=beside(sheet, question, found),
        candidates=[
            _candidate(one, sheet.car.profile, balance)
            for one, balance in zip(found, moved, strict=True)
        ],
    )


def _balances(sheet: Sheet, found: list[Candidate]) -> list[float | None]:
    """How far each change moves the grip balance [g], where the loaded car has one."""
    values = sheet.worked.values
    straight = Demand(
        0.0,
        float(values["lateral_acceleration"]),
        float(values["speed"]),
        shaft_of(sheet.car, sheet.worked),
    )
    limits = sheet.once(("limits",), lambda: limits_of(sheet.car, sheet.worked, straight))
    if limits is None or limits.here.balance is None:
        return [None] * len(found)
    tried = []
    for one in found:
        try:
            trial = try_lines(sheet, one.lines, wanted=LOADED) if one.lines else None
        except CoreError:
            trial = None
        tried.append(trial)
    here = limits.here.balance
    moved = [None if one is None else one - here for one in balances_of(tried, limits)]
    return [None if one is None or abs(one) < LEAST else one for one in moved]


def _candidate(one: Candidate, profile: str, balance: float | None) -> s.AdvisedView:
    return s.AdvisedView(
        label=one.label,
        number=one.number,
        lines=[present.line(line) for line in one.lines],
        reason=one.reason,
        costs=one.costs,
        school=one.school,
        effects=[s.EffectView(**vars(effect)) for effect in one.effects],
        balance=balance,
        felt=one.felt if one.effects else 0.0,
        minutes=one.minutes,
        total_minutes=one.total_minutes,
        rechecks=[s.RecheckView(**vars(recheck)) for recheck in one.rechecks],
        warnings=list(one.warnings),
        refused=one.refused or "",
        before=[
            s.JudgedView(
                revision=each.revision, car=each.car, outcome=each.outcome, words=each.words
            )
            for each in one.before
        ],
        expectation=expectation(one, profile),
    )
