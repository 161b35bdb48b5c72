"""The car under load: asked for by the panel that shows it, booked and as the slip would have it."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.car import Car
from cabrio.core.constants import STANDARD_GRAVITY
from cabrio.core.errors import CoreError
from cabrio.core.graph.registry import Worked
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.ladder import Rail, Rung, ladder, limits_of
from cabrio.core.sheet.steps import StepEffect, step_effects
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.look import Look, look
from cabrio.core.under_load.near import over
from cabrio.core.under_load.of_sheet import GRIP, NEEDED, cornering, loaded_car, shaft_of, tyres
from cabrio.operations import bench as benches
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened

routes = APIBlueprint("under_load", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/under-load")
@routes.input(s.UnderLoadQuery, location="query", arg_name="asked")
@routes.output(s.UnderLoadView)
@routes.doc(
    summary="The car under load: wheels, limits, balance, and what one step of a setting does"
)
def under_load(car_id: int, asked: s.UnderLoadQuery) -> s.UnderLoadView:
    bench, draft, sheet = opened(car_id)
    demand = _demand(sheet, asked)
    answer = s.UnderLoadView(
        sideways=float(demand.sideways),
        along=float(demand.along),
        speed=float(demand.speed),
        needs=present.needs(sheet.worked.lacking(NEEDED)),
        estimated=sorted({root for name in (*NEEDED, *GRIP) for root in sheet.estimated(name)}),
        booked=None,
        drafted=None,
        steps=[],
    )
    if answer.needs:
        return answer
    answer.booked, answer.steps = sheet.once(
        ("under load", *_key(demand)), lambda: _booked(sheet, demand)
    )
    if draft.lines:
        answer.drafted = _drafted(bench, draft, demand)
    return answer


@routes.get("/under-load/around")
@routes.input(s.UnderLoadQuery, location="query", arg_name="asked")
@routes.output(s.AroundLoadView)
@routes.doc(summary="How the balance goes over speed, and the limit over braking and driving")
def around(car_id: int, asked: s.UnderLoadQuery) -> s.AroundLoadView:
    bench, draft, sheet = opened(car_id)
    demand = _demand(sheet, asked)
    booked = sheet.once(("around", *_key(demand)), lambda: _around(sheet.car, sheet.worked, demand))
    answer = s.AroundLoadView(booked=booked, drafted=None)
    if draft.lines:
        ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
        answer.drafted = _around(ahead.car, ahead.worked, demand)
    return answer


@routes.get("/ladder")
@routes.input(s.LadderQuery, location="query", arg_name="asked")
@routes.output(s.LadderView)
@routes.doc(summary="Every combination of the bars' holes or blades, with what each would give")
def bar_ladder(car_id: int, asked: s.LadderQuery) -> s.LadderView:
    _, _, sheet = opened(car_id)
    try:
        found = ladder(
            sheet,
            asked.settings.split(","),
            limits_of(sheet.car, sheet.worked, _demand(sheet, asked)),
        )
    except CoreError as refusal:
        return s.LadderView(missing=refusal.sentence, front=None, rear=None, rungs=[])
    return s.LadderView(
        missing="",
        front=_rail(found.front),
        rear=_rail(found.rear),
        rungs=[[_rung(one) for one in row] for row in found.rungs],
    )


def _rail(one: Rail) -> s.RailView:
    return s.RailView(
        axle=one.axle,
        setting=one.setting or None,
        values=list(one.values),
        rates=list(one.rates),
        here=one.here,
    )


def _rung(one: Rung) -> s.RungView:
    return s.RungView(
        lines=[present.line(line) for line in one.lines],
        front_share=one.front_share,
        roll=one.roll,
        balance=one.balance,
        in_band=one.in_band,
    )


def _key(demand: Demand) -> tuple[float, ...]:
    """A demand as what is kept of a sheet goes by; its shaft is the sheet's own."""
    return float(demand.along), float(demand.sideways), float(demand.speed)


def _booked(sheet: Sheet, demand: Demand) -> tuple[s.LoadCaseView, list[s.StepView]]:
    """The car as it is under the load, and what one step of each setting does to it."""
    car, grip = loaded_car(sheet.car, sheet.worked), tyres(sheet.worked)
    found = look(car, grip, demand, cornering(sheet.worked))
    if grip is None or found.balance is None:
        return _case(found), []
    effects = step_effects(sheet, car, grip, found.balance, demand)
    return _case(found), [_step(effect) for effect in effects]


def _demand(sheet: Sheet, asked: s.UnderLoadQuery) -> Demand:
    """What was asked for; what was not is what the car data look at."""
    values = sheet.worked.values
    return Demand(
        asked.along,
        float(values["lateral_acceleration"]) if asked.sideways is None else asked.sideways,
        float(values["speed"]) if asked.speed is None else asked.speed,
        shaft_of(sheet.car, sheet.worked),
    )


def _around(car: Car, worked: Worked, demand: Demand) -> s.AroundView | None:
    """None where the car lacks what it needs, or has no balance at this load."""
    limits = limits_of(car, worked, demand)
    if limits is None:
        return None
    try:
        found = over(limits.car, limits.tyres, limits.demand, limits.here)
    except CoreError:
        return None
    return s.AroundView(
        speeds=list(found.speeds),
        balance=list(found.balance),
        along=list(found.along),
        sideways=list(found.sideways),
    )


def _drafted(bench: benches.Bench, draft: slips.Draft, demand: Demand) -> s.LoadCaseView | None:
    """The car after the slip; None where the slip leaves out what it needs."""
    try:
        ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
        car, worked = loaded_car(ahead.car, ahead.worked), ahead.worked
        return _case(look(car, tyres(worked), demand, cornering(worked)))
    except CoreError:
        return None


def _case(found: Look) -> s.LoadCaseView:
    state, limits = found.state, found.balance
    touching = [] if state is None else (state.on_bump_stop | state.on_droop_stop)[0].tolist()
    return s.LoadCaseView(
        refused=found.refused,
        loads=[] if state is None else state.loads[0].tolist(),
        lifted=[] if state is None else state.lifted[0].tolist(),
        on_rubber=[] if state is None else state.rubbers_touching[0].tolist(),
        on_stop=touching,
        travels=[] if state is None else state.travels[0].tolist(),
        heights=[] if state is None or state.heights is None else state.heights[0].tolist(),
        roll=None if state is None else float(state.roll[0]),
        pitch=None if state is None else float(state.pitch[0]),
        front_share=None if state is None else present.known(float(state.front_share[0])),
        springs_across=[] if state is None else state.elastic[0].tolist(),
        links_across=[] if state is None else state.geometric[0].tolist(),
        unsprung_across=[] if state is None else state.unsprung[0].tolist(),
        lift=None if found.lift is None else found.lift[0] / STANDARD_GRAVITY,
        lift_wheel="" if found.lift is None else found.lift[1],
        roll_over=None if found.roll_over is None else found.roll_over / STANDARD_GRAVITY,
        front_lift=None if found.front_lift is None else found.front_lift[0] / STANDARD_GRAVITY,
        front_lift_wheel="" if found.front_lift is None else found.front_lift[1],
        wheels_up=_in_g(found.wheels_up),
        rear_difference=None if state is None else float(state.loads[0, 2] - state.loads[0, 3]),
        handed_back=None if state is None else present.known(float(state.handed_back[0])),
        front_limit=None if limits is None else _in_g(limits.front),
        rear_limit=None if limits is None else _in_g(limits.rear),
        balance=None if limits is None else limits.balance,
        limited_by="" if limits is None else limits.limited_by,
        gradient=found.gradient,
        unbalanced=found.unbalanced,
    )


def _in_g(value: float | None) -> float | None:
    return None if value is None else abs(value) / STANDARD_GRAVITY


def _step(one: StepEffect) -> s.StepView:
    return s.StepView(
        lines=[present.line(line) for line in one.lines],
        balance=one.balance,
        front_share=one.front_share,
    )
