"""Advice: from what the driver said to changes sized and ranked on this car."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.advise.advise import advice_note, advise, expectation
from cabrio.core.advise.candidate import AdviceContext, Candidate, Question
from cabrio.core.advise.loaded import balances, compare_balance
from cabrio.core.record.line_error import line_error_per_flat
from cabrio.operations import bench as benches
from cabrio.operations import slips
from cabrio.operations.advice import judged
from cabrio.operations.line_error import passes

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
        line_error = line_error_per_flat(passes(db, bench))
        sheet = bench.sheet()
    question = Question(
        asked.symptom, asked.phase, asked.school, asked.severity, asked.corner, asked.surface
    )
    found = advise(sheet, question, AdviceContext(draft, record, line_error=line_error))
    compared = compare_balance(asked.symptom, found, balances(sheet, found))
    return s.AdviceView(
        beside=advice_note(sheet, question, found),
        candidates=[_candidate(one, sheet.car.profile, balance) for one, balance in compared],
    )


def _candidate(one: Candidate, profile: str, balance: float | None) -> s.AdvisedView:
    return s.AdvisedView(
        label=one.label,
        number=one.number,
        lines=[present.line(line) for line in one.lines],
        reason=one.reason,
        costs=one.costs,
        school=one.school,
        effects=[s.EffectView(**vars(effect)) for effect in one.effects],
        loads=[s.EffectView(**vars(effect)) for effect in one.loads],
        confidence=one.confidence[0],
        confidence_why=one.confidence[1],
        balance=balance,
        felt=one.felt if one.effects else 0.0,
        minutes=one.minutes,
        total_minutes=one.total_minutes,
        rechecks=[s.RecheckView(**vars(recheck)) for recheck in one.rechecks],
        warnings=list(one.warnings),
        refused=one.refused or "",
        asks=list(one.asks),
        before=[
            s.JudgedView(
                revision=each.revision,
                car=each.car,
                outcome=each.outcome,
                words=each.words,
                conditions=each.conditions,
            )
            for each in one.before
        ],
        expectation=expectation(one, profile),
    )
