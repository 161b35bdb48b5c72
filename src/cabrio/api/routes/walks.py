"""Orders of work as they are walked through on a car: begun, ticked, taken up again."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.operations import walks as operations
from cabrio.storage.documents import iso

from .. import schemas as s
from ..context import actor, now, transaction

routes = APIBlueprint("walks", __name__, url_prefix="/cars/<int:car_id>/walks", tag="Bench")


@routes.get("")
@routes.output(s.WalksView)
@routes.doc(summary="The orders of work under way on a car, with who ticked what when")
def walks(car_id: int) -> s.WalksView:
    with transaction() as db:
        return s.WalksView(
            walks=[
                s.WalkView(
                    procedure=one.procedure,
                    started_by=one.started_by,
                    started_at=iso(one.started_at),
                    ticks=[
                        s.TickView(step=tick.step, by=tick.by, at=iso(tick.at))
                        for tick in one.ticks
                    ],
                )
                for one in operations.of_car(db, actor(), car_id)
            ]
        )


@routes.post("")
@routes.input(s.WalkIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Begin an order of work afresh")
def start(car_id: int, body: s.WalkIn) -> s.Ok:
    with transaction() as db:
        operations.start(db, actor(), car_id, body.procedure, now())
    return s.Ok()


@routes.put("/ticks")
@routes.input(s.TickIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Tick a step, or take its tick back")
def tick(car_id: int, body: s.TickIn) -> s.Ok:
    with transaction() as db:
        operations.tick(db, actor(), car_id, now(), **body.model_dump())
    return s.Ok()
