"""The garage, the car's data and inventory, car files in and out."""

from __future__ import annotations

import structlog
from apiflask import APIBlueprint
from flask import Response
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from cabrio.core.car import Car
from cabrio.files import car_file
from cabrio.files.table import read_sheet, read_table
from cabrio.operations import adjusters, car_files
from cabrio.operations import bench as benches
from cabrio.operations import cars as operations
from cabrio.operations import parts as inventory
from cabrio.operations.bench_view import bench_view
from cabrio.storage import cars as storage
from cabrio.storage.logbook import next_sessions
from cabrio.storage.models import CarRow, SessionRow

from .. import present
from .. import schemas as s
from ..context import actor, exported, now, transaction, working
from ..gc_paused import gc_paused
from ..idempotency import idempotent

log = structlog.get_logger()
routes = APIBlueprint("cars", __name__, tag="Cars")


@routes.get("/cars")
@routes.output(s.Garage)
@routes.doc(summary="The team's cars, each with its revision and what is stale")
def garage() -> s.Garage:
    with transaction() as db:
        who = actor()
        found, broken = [], []
        rows = storage.cars_of(db, who.team_id)
        sessions = next_sessions(db, [row.id for row in rows], now())
        for row in rows:
            try:
                found.append(_in_garage(db, row, sessions.get(row.id)))
            except SQLAlchemyError:
                raise
            except Exception as problem:  # whatever is wrong with one car, the others are seen
                log.exception("a car cannot be opened", car=row.id, exc_info=problem)
                name = str(row.document.get("name") or f"Car {row.id}")
                broken.append(s.BrokenCar(id=row.id, name=name[:120]))
        return s.Garage(cars=found, broken=broken)


def _in_garage(db: Session, row: CarRow, session: SessionRow | None) -> s.GarageCar:
    bench = benches.Bench(row, storage.record_of(db, row))
    sheet = bench.sheet()
    stale: dict[str, int] = {}
    for standing in sheet.standings.values():
        stale[standing.status] = stale.get(standing.status, 0) + 1
    total, share = sheet.value("total_mass"), sheet.value("front_share")
    wheelbase = sheet.value("wheelbase")
    return s.GarageCar(
        id=row.id,
        name=bench.car.name,
        race_number=bench.car.race_number,
        discipline=bench.car.discipline,
        use=bench.car.use,
        profile=bench.car.profile,
        revision=row.revision,
        booked_by=bench.current.by,
        booked_at=bench.current.at,
        stale=stale,
        session=session.name if session else None,
        event=session.event.name if session else None,
        total_mass=total[0] if total else None,
        front_share=share[0] if share else None,
        wheelbase=wheelbase[0] if wheelbase else None,
        track=sheet.value("track"),
    )


@routes.post("/cars")
@routes.input(s.CarIn, arg_name="body")
@routes.output(s.Imported)
@routes.doc(
    summary="Add a car: what it is and the numbers at hand; typical values stand in for the rest"
)
@idempotent
def add_car(body: s.CarIn) -> s.Imported:
    with transaction() as db:
        row = operations.add_car(db, actor(), now(), **body.model_dump())
        return s.Imported(id=row.id, name=body.name)


@routes.get("/cars/<int:car_id>")
@routes.output(s.BenchView)
@routes.doc(summary="Everything the bench shows of a car, the slip included")
def bench(car_id: int) -> s.BenchView:
    with transaction() as db:
        return present.bench(bench_view(db, actor(), car_id, now()))


@routes.patch("/cars/<int:car_id>/given")
@routes.input(s.GiveIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Set given numbers and targets; text may carry any unit")
def give(car_id: int, body: s.GiveIn) -> s.Ok:
    with transaction() as db:
        operations.give(
            db,
            actor(),
            car_id,
            now(),
            values=body.values,
            estimated=body.estimated,
            confirmed=body.confirmed,
            seen=body.seen,
            source=body.source,
        )
    return s.Ok()


@routes.patch("/cars/<int:car_id>/settings")
@routes.input(s.SettleIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(
    summary="Change what the car is and how it is shown: name, layouts, units, conventions, type"
)
def settle(car_id: int, body: s.SettleIn) -> s.Ok:
    with transaction() as db:
        operations.settle(db, actor(), car_id, **body.model_dump())
    return s.Ok()


@routes.post("/cars/<int:car_id>/copy")
@routes.input(s.NameIn, arg_name="body")
@routes.output(s.Imported)
@routes.doc(summary="A new car like this one, its record empty")
@idempotent
def copy(car_id: int, body: s.NameIn) -> s.Imported:
    with transaction() as db:
        return s.Imported(
            id=operations.copy_car(db, actor(), car_id, now(), name=body.name).id, name=body.name
        )


@routes.put("/cars/<int:car_id>/baseline")
@routes.input(s.RevisionIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Name the revision to go back to")
def baseline(car_id: int, body: s.RevisionIn) -> s.Ok:
    with transaction() as db:
        operations.name_baseline(db, actor(), car_id, body.revision)
    return s.Ok()


@routes.put("/cars/<int:car_id>/adjusters/<name>")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.RangeIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Write down an adjuster's range and counting, for the car or for one place")
def set_range(car_id: int, name: str, match: s.IfMatch, body: s.RangeIn) -> s.Ok:
    with transaction() as db:
        adjusters.set_range(db, actor(), car_id, name, seen=match.seen, **body.model_dump())
    return s.Ok()


@routes.delete("/cars/<int:car_id>/adjusters/<name>")
@routes.output(s.Ok)
@routes.doc(summary="Take an adjuster off the car")
def remove_adjuster(car_id: int, name: str) -> s.Ok:
    with transaction() as db:
        adjusters.remove_adjuster(db, actor(), car_id, name)
    return s.Ok()


@routes.post("/cars/<int:car_id>/parts")
@routes.input(s.IfMatch, location="headers", arg_name="match")
@routes.input(s.PartIn, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Add a part to the inventory, or correct one")
def save_part(car_id: int, match: s.IfMatch, body: s.PartIn) -> s.Ok:
    with transaction() as db:
        inventory.save_part(db, actor(), car_id, now(), seen=match.seen, **body.model_dump())
    return s.Ok()


@routes.post("/cars/<int:car_id>/parts/remove")
@routes.input(s.PartRef, arg_name="body")
@routes.output(s.Ok)
@routes.doc(summary="Take a part out of the inventory")
def remove_part(car_id: int, body: s.PartRef) -> s.Ok:
    with transaction() as db:
        inventory.remove_part(db, actor(), car_id, kind=body.kind, code=body.code)
    return s.Ok()


@routes.post("/cars/<int:car_id>/parts/table")
@routes.input(s.TableIn, arg_name="body")
@routes.output(s.TableView)
@routes.doc(summary="Look at a pasted table before it is taken; changes nothing")
def look_at_table(car_id: int, body: s.TableIn) -> s.TableView:
    with transaction() as db:
        car = benches.load(db, actor(), car_id).car
    field = inventory.table_field(body.kind, body.field)
    columns = [column.label for column in field.columns]
    names = {row.id: row.label for row in field.table.names} if field.table else {}
    if names:
        found, unknown = read_sheet(body.text, columns, names)
    else:
        found, unknown = read_table(body.text, columns), []
    rows = [list(row) for row in found.rows]
    problems = [*unknown, *inventory.row_problems(field, rows, car.profile)]
    return s.TableView(rows=rows, problems=problems)


@routes.get("/cars/<int:car_id>/file")
@routes.doc(summary="The car file: the whole record as JSON", responses={200: "A car file"})
@gc_paused()
def export(car_id: int) -> Response:
    with transaction() as db:
        file = car_files.export(db, actor(), car_id)
        exported(db, "car file", car_id)
    name = _file_name(file.car)
    return Response(
        car_file.write(file),
        mimetype="application/json",
        headers={"Content-Disposition": f'attachment; filename="{name}"'},
    )


def _file_name(car: Car) -> str:
    kept = "".join(c if c.isascii() and c.isalnum() else "-" for c in car.name.lower()).strip("-")
    return f"{kept or 'car'}.cabrio.json"


@routes.post("/cars/import")
@routes.input(s.CarFileIn, arg_name="body")
@routes.output(s.Imported)
@routes.doc(summary="Bring a car file in as a new car")
@gc_paused()
@idempotent
def bring_in(body: bytes) -> s.Imported:
    who = actor()
    who.must("import")
    with working(car_files.STEPS) as tell:
        file = car_file.read(body, tell)
        with transaction() as db:
            row = car_files.bring_in(db, who, file, now(), tell)
            return s.Imported(id=row.id, name=file.car.name)
