"""What is watched on a car: open issues, parts off, torques, class limits, service."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.operations import bench as benches
from cabrio.operations import watched as operations
from cabrio.storage.documents import iso

from .. import schemas as s
from ..context import actor, now, transaction
from ..idempotency import idempotent

routes = APIBlueprint("watched", __name__, url_prefix="/cars/<int:car_id>/watched", tag="Bench")


@routes.get("")
@routes.output(s.WatchedList)
@routes.doc(summary="What is watched on a car and how it stands, what keeps it in first")
def watched(car_id: int) -> s.WatchedList:
    with transaction() as db:
        found = operations.of_car(db, benches.load(db, actor(), car_id), now())
    return s.WatchedList(
        watched=[
            s.WatchedView(
                id=one.row.id,
                kind=one.row.kind,  # type: ignore[arg-type]
                words=one.row.words,
                stands=one.stands.words,
                bars=one.stands.bars,
                opened_by=one.row.opened_by,
                opened_at=iso(one.row.opened_at),
                done_by=one.row.done[-1].by if one.row.done else "",
                done_at=iso(one.row.done[-1].at) if one.row.done else None,
            )
            for one in found
        ]
    )


@routes.post("")
@routes.input(s.WatchIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Watch an issue, a part off the car, a torque, a class limit or a service")
@idempotent
def add(car_id: int, body: s.WatchIn) -> s.Ok:
    with transaction() as db:
        typed = body.model_dump(exclude={"kind", "words"})
        operations.add(db, actor(), car_id, now(), kind=body.kind, words=body.words, typed=typed)
    return s.Ok()


@routes.post("/signed")
@routes.input(s.SignedForIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Sign for a limit that the car is past, and say on what")
def sign(car_id: int, body: s.SignedForIn) -> s.Ok:
    with transaction() as db:
        operations.sign(
            db,
            actor(),
            car_id,
            now(),
            limit=body.limit,
            decided_on=body.decided_on,
            words=body.said,
        )
    return s.Ok()


@routes.post("/<int:watched_id>/done")
@routes.output(s.Ok)
@routes.doc(summary="Say that a torque was pulled or a service done")
@idempotent
def done(car_id: int, watched_id: int) -> s.Ok:
    with transaction() as db:
        operations.done(db, actor(), car_id, watched_id, now())
    return s.Ok()


@routes.post("/<int:watched_id>/close")
@routes.input(s.SettledIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Close what is watched, with a word on how it was settled")
@idempotent
def close(car_id: int, watched_id: int, body: s.SettledIn) -> s.Ok:
    with transaction() as db:
        operations.close(db, actor(), car_id, watched_id, now(), words=body.words)
    return s.Ok()
