"""Fuel from start to finish: asked for by the panel at the pads."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.car import Car
from cabrio.core.errors import CoreError
from cabrio.core.graph.registry import Worked
from cabrio.core.sheet.fuel import Fuelled, burn, lacking
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened

routes = APIBlueprint("fuel", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/fuel")
@routes.output(s.FuelView)
@routes.doc(summary="Corner weights and balance from the start to the finish of a session")
def fuel(car_id: int) -> s.FuelView:
    bench, draft, sheet = opened(car_id)
    answer = s.FuelView(
        needs=present.needs(lacking(sheet.worked)), refused="", booked=None, drafted=None
    )
    if answer.needs:
        return answer
    try:
        answer.booked = _burn(sheet.car, sheet.worked)
        if draft.lines:
            ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
            if not lacking(ahead.worked):
                answer.drafted = _burn(ahead.car, ahead.worked)
    except CoreError as refusal:
        answer.refused = refusal.sentence
    return answer


def _burn(car: Car, worked: Worked) -> s.BurnView:
    weighed, start, finish = map(_fuelled, burn(car, worked))
    return s.BurnView(weighed=weighed, start=start, finish=finish)


def _fuelled(one: Fuelled) -> s.FuelledView:
    return s.FuelledView(
        fuel=one.fuel,
        pads=one.pads.tolist(),
        heights=one.heights.tolist(),
        front_share=one.front_share,
        cross_share=one.cross_share,
        rear_bite=one.rear_bite,
        balance=one.balance,
    )
