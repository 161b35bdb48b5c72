"""Instruments beside the car."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import current_app

from cabrio.operations import instruments

from .. import schemas as s
from ..context import actor, transaction

routes = APIBlueprint("instruments", __name__, url_prefix="/cars/<int:car_id>", tag="Readings")


@routes.post("/instruments/pads")
@routes.input(s.PadsIn, arg_name="body")
@routes.output(s.PadsView)
@routes.doc(summary="What the pads under the car say now; nothing is written down")
def pads(car_id: int, body: s.PadsIn) -> s.PadsView:
    with transaction() as db:
        bench = instruments.at_the_pads(db, actor(), car_id)
    # asked when the transaction is over: pads may take their time
    found = instruments.pads_now(bench, current_app.config["PADS"], settle=body.settle)
    return s.PadsView(loads=list(found.loads), still=found.still)
