"""Instruments beside the car."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response, current_app, redirect, url_for

from cabrio.core.record.line_error import line_error_per_flat
from cabrio.core.sheet.ledger import learned_perches, ledger
from cabrio.operations import bench as benches
from cabrio.operations import instruments
from cabrio.operations.line_error import passes

from .. import present
from .. import schemas as s
from ..context import actor, transaction
from ..opened import opened

routes = APIBlueprint("instruments", __name__, url_prefix="/cars/<int:car_id>", tag="Readings")


@routes.post("/instruments/pads")
@routes.input(s.PadsIn, arg_name="body")
@routes.output(s.PadsView)
@routes.doc(summary="What the pads under the car say now; nothing is written down")
def pads(car_id: int, body: s.PadsIn) -> s.PadsView:
    with transaction() as db:
        bench = instruments.load_bench(db, actor(), car_id)
    # asked when the transaction is over: pads may take their time
    found = instruments.pads_now(bench, current_app.config["PADS"], settle=body.settle)
    return s.PadsView(loads=list(found.loads), still=found.still)


@routes.post("/instruments/gauge")
@routes.input(s.GaugeIn, arg_name="body")
@routes.output(s.GaugeShows)
@routes.doc(summary="What the angle gauge shows now; nothing is written down")
def gauge(car_id: int, body: s.GaugeIn) -> s.GaugeShows:
    with transaction() as db:
        bench = instruments.load_bench(db, actor(), car_id)
    address = current_app.config["GAUGE"]
    return s.GaugeShows(degrees=instruments.gauge_now(bench, address, body.on, zero=body.zero))


@routes.get("/line-error")
@routes.output(s.LineErrorView)
@routes.doc(
    summary="What a flat of link preload does to where this car goes, learned from its passes"
)
def line_error(car_id: int) -> s.LineErrorView:
    with transaction() as db:
        bench = benches.load(db, actor(), car_id)
        ran = passes(db, bench)
    learned = line_error_per_flat(ran)
    return s.LineErrorView(
        passes=[s.RanView(**vars(one)) for one in ran],
        said="" if learned is None else learned.sentence(bench.car.profile),
        straight=None if learned is None else learned.straight,
    )


@routes.get("/ledger")
@routes.output(s.LedgerView)
@routes.doc(summary="What the pads should have read after each change, and what they did")
def mass_ledger(car_id: int) -> s.LedgerView:
    bench, _, _ = opened(car_id)
    record = (bench.car, bench.readings, bench.revisions)
    steps, learned = ledger(*record), learned_perches(*record)
    return s.LedgerView(
        perches=None
        if learned is None
        else s.GainView(
            share=learned.share,
            error=learned.error,
            count=learned.count,
            sure=learned.sure,
            used=learned.usable,
        ),
        steps=[
            s.LedgerStep(
                at=step.reading.at,
                by=step.reading.by,
                revision=step.reading.revision,
                since=step.earlier.revision,
                lines=[present.line(line) for line in step.lines],
                predicted=None if step.predicted is None else list(step.predicted),
                weighed=list(step.reading.whole("pad_mass")),
                why=step.why,
                states=list(step.states),
            )
            for step in steps
        ],
    )


@routes.get("/drift")
@routes.doc(hide=True)
def drift(car_id: int) -> Response:
    """The address that the line error had before it was told apart from the discipline."""
    with transaction() as db:
        benches.load(db, actor(), car_id)
    return redirect(url_for(".line_error", car_id=car_id), 308)  # type: ignore[return-value]
