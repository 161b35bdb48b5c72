"""The suspension from its points: asked for by the panel that shows it, booked and with the slip."""

from __future__ import annotations

from typing import Literal

import numpy as np
from apiflask import APIBlueprint

from cabrio.core.arrays import Array
from cabrio.core.car.geometry import SweptAxle, live_axle_needs, swept_axles
from cabrio.core.errors import CoreError
from cabrio.core.kinematics.adjust import Adjustment
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened

AXLES: tuple[Literal["front", "rear"], ...] = ("front", "rear")
routes = APIBlueprint("geometry", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/geometry")
@routes.input(s.GeometryQuery, location="query", arg_name="asked")
@routes.output(s.GeometryView)
@routes.doc(summary="An axle through travel, roll or steering, and what one turn or shim does")
def geometry(car_id: int, asked: s.GeometryQuery) -> s.GeometryView:
    bench, draft, sheet = opened(car_id)
    at = AXLES.index(asked.axle)
    answer = s.GeometryView(
        missing="", axles=[], booked=None, drafted=None, adjustments=[], needs=[]
    )
    try:
        booked = drafted = swept_axles(sheet.car, sheet.setup, sheet.worked.values)
        answer.axles = [name for name, one in zip(AXLES, booked, strict=True) if one]
        if asked.axle == "rear" and not booked[at]:
            answer.needs = present.needs(sheet.worked.lacking(live_axle_needs(sheet.car)))
        answer.booked = sheet.once(
            ("swept", asked.axle, asked.over), lambda: _swept(booked[at], asked)
        )
        if draft.lines:
            ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
            drafted = swept_axles(ahead.car, ahead.setup, ahead.worked.values)
            if drafted[at] != booked[at]:
                answer.drafted = _swept(drafted[at], asked)
    except CoreError as refusal:
        answer.missing = refusal.sentence
        return answer
    shown = drafted[at] or booked[at]
    if shown is not None:
        answer.adjustments = [
            s.AdjustedView(side=side, ways=[_adjustment(way) for way in ways])
            for side, ways in shown.adjustments.items()
        ]
    return answer


def _swept(one: SweptAxle | None, asked: s.GeometryQuery) -> s.SweptView | None:
    if one is None:
        return None
    found = one.sweep(asked.over)
    return s.SweptView(
        kind=one.kind,
        measured=bool(one.points),
        at=found.at.tolist(),
        short=found.short,
        curves=[
            s.SidesView(
                name=curve.name,
                label=curve.label,
                quantity=curve.quantity,
                left=_known(curve.left),
                right=None if curve.right is None else _known(curve.right),
                drawn=curve.drawn,
            )
            for curve in found.curves
        ],
        sticks=[
            s.StickView(name=line.name, side=line.side, points=line.points.tolist())
            for line in found.sticks
        ],
        discs=[
            s.DiscView(
                side=disc.side,
                centre=disc.centre.tolist(),
                axis=disc.axis.tolist(),
                radius=disc.radius,
            )
            for disc in found.discs
        ],
        roll_centre=found.roll_centre.tolist(),
        centres=[_places(one_side) for one_side in found.centres],
        side_centre=_places(found.side_centre),
    )


def _places(points: Array) -> list[list[float] | None]:
    return [None if np.isnan(at).any() else at.tolist() for at in points]


def _known(values: Array) -> list[float | None]:
    return [present.known(float(value)) for value in values]


def _adjustment(one: Adjustment) -> s.AdjustmentView:
    does = one.effect
    return s.AdjustmentView(
        label=one.label,
        turned=one.turned,
        by=one.by,
        camber=does.camber,
        toe=does.toe,
        caster=does.caster,
        bump_steer=does.bump_steer,
        roll_centre=does.roll_centre_height,
        half_track=does.half_track,
    )
