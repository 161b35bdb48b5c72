"""A plan of work: the few changes that bring several figures to their targets together."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.advise.plan import plan
from cabrio.core.advise.targets import Plan, Target, Touch
from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.units import show
from cabrio.core.errors import CoreError, Problems, UnknownName
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.core.questions import lines_text
from cabrio.core.record.recheck import work_minutes
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.entry_points import entry_point

from .. import present
from .. import schemas as s
from ..opened import opened

routes = APIBlueprint("plan", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.post("/plans")
@routes.input(s.PlanIn, arg_name="body")
@routes.output(s.PlansView)
@routes.doc(summary="The few best plans of work for several targets; changes nothing")
def plans(car_id: int, body: s.PlanIn) -> s.PlansView:
    _, _, sheet = opened(car_id)
    found = plan(
        sheet,
        _targets(sheet, body.targets),
        Touch(frozenset(body.systems), body.minutes, frozenset(body.spare)),
    )
    return s.PlansView(
        count=found.count, plans=[_plan(sheet, one) for one in found.plans], notes=list(found.notes)
    )


def _targets(sheet: Sheet, asked: list[s.TargetIn]) -> list[Target]:
    """The targets as SI. Raises every one's problem at once, at its field."""
    aims = knowledge().work.aims
    problems: list[CoreError] = []
    found: list[Target] = []
    for i, one in enumerate(asked):
        try:
            number = number_named(one.name)
            if one.name not in aims or one.place not in number.shape.places:
                raise UnknownName(f"A plan does not aim at {number.label.lower()} there.")
            wanted = check_value(number, one.place, one.value, sheet.car.profile, confirmed=True)
            found.append(Target(one.name, one.place, wanted, aims[one.name].within))
        except CoreError as problem:
            problem.number, problem.place = f"value-{i}", None
            problems.append(problem)
    if problems:
        raise Problems(problems)
    return found


def _plan(sheet: Sheet, one: Plan) -> s.PlanView:
    names = list(dict.fromkeys(line.name for line in one.lines))
    work = []
    for name in names:
        at = entry_point(name, sheet.car.discipline)
        lines = [line for line in one.lines if line.name == name]
        work.append(
            s.WorkView(
                station=at.view if at else "",
                said=lines_text(sheet, lines),
                minutes=work_minutes(lines),
            )
        )
    return s.PlanView(
        lines=[present.line(line) for line in one.lines],
        work=work,
        reached=[
            s.ReachedView(
                name=each.target.name,
                place=each.target.place,
                wanted=each.target.wanted,
                before=each.before,
                after=each.after,
                met=each.met,
            )
            for each in one.reached
        ],
        met=one.met,
        minutes=one.minutes,
        rechecks=[s.RecheckView(**vars(recheck)) for recheck in one.rechecks],
        notes=list(one.notes),
        besides=[s.EffectView(**vars(each)) for each in one.besides],
        expectation="; ".join(
            f"{each.target.label} {_shown(sheet, each.target.name, each.before)} to "
            f"{_shown(sheet, each.target.name, each.after)}"
            for each in one.reached
        ),
    )


def _shown(sheet: Sheet, name: str, value: float) -> str:
    return show(value, number_named(name).quantity, sheet.car.profile)
