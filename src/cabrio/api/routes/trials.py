"""The car in time: a kerb, a rough road, a steering step, a braking ramp."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.catalog.checks import check_value
from cabrio.core.errors import CoreError
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.build import Sheet
from cabrio.core.simulate.trials import Result, Run, checked_size, contact_at, run_trial
from cabrio.operations import bench as benches
from cabrio.operations import slips

from .. import schemas as s
from ..opened import opened

routes = APIBlueprint("trials", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/trials/<name>")
@routes.input(s.TrialQuery, location="query", arg_name="asked")
@routes.output(s.TrialView)
@routes.doc(summary="The car through a trial in time, against the slip or another revision")
def trial(car_id: int, name: str, asked: s.TrialQuery) -> s.TrialView:
    bench, draft, sheet = opened(car_id)
    size = checked_size(name, asked.size, bench.car.profile)
    answer = s.TrialView(
        size=size,
        speed=_speed(sheet, asked.speed),
        missing="",
        booked=None,
        other=None,
        other_words="",
    )
    try:
        answer.booked = sheet.once(
            ("trial", name, answer.speed, size),
            lambda: _run(run_trial(sheet, name, answer.speed, size)),
        )
        other = _other(bench, draft, asked.against)
        if other is not None:
            answer.other_words, beside = other
            answer.other = _run(run_trial(beside, name, answer.speed, size))
    except CoreError as refusal:
        answer.missing = refusal.sentence
    return answer


@routes.get("/contact")
@routes.input(s.ContactQuery, location="query", arg_name="asked")
@routes.output(s.ContactView)
@routes.doc(summary="How steadily an axle's tyres are loaded over a rough road, at one click")
def contact(car_id: int, asked: s.ContactQuery) -> s.ContactView:
    _, _, sheet = opened(car_id)
    speed = _speed(sheet, asked.speed)
    found = contact_at(sheet, asked.setting, asked.axle, asked.click, speed)
    return s.ContactView(click=asked.click, variation=found)


def _speed(sheet: Sheet, typed: str) -> float:
    """The speed as typed, or the one that the car data look at."""
    if not typed.strip():
        return float(sheet.worked.values["speed"])
    return check_value(number_named("speed"), "car", typed, sheet.car.profile, confirmed=True)


def _other(
    bench: benches.Bench, draft: slips.Draft, against: int | None
) -> tuple[str, Sheet] | None:
    if against is not None:
        return f"revision {against}", bench.booked(against)
    if draft.lines:
        ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
        return "after the slip", ahead.as_sheet
    return None


def _run(found: Run) -> s.InTimeView:
    motion = found.drive
    return s.InTimeView(
        times=motion.times.tolist(),
        loads=motion.loads.T.tolist(),
        heave=motion.heave.tolist(),
        pitch=motion.pitch.tolist(),
        roll=motion.roll.tolist(),
        wheels=[_result(wheel) for wheel in found.wheels],
        body=[_result(one) for one in found.body],
        assumed=list(found.assumed),
    )


def _result(one: Result) -> s.InTimeResult:
    return s.InTimeResult(label=one.label, quantity=one.quantity, values=list(one.values))
