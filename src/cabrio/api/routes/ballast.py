"""Ballast tried at a place: what the pads would read, or the mass that brings a share to its target."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.catalog.part_kinds import part_kind
from cabrio.core.catalog.quantities import PLACES, Shape
from cabrio.core.errors import CoreError, Missing
from cabrio.core.graph.registry import number_named
from cabrio.core.questions.weights import turns_after_ballast
from cabrio.core.sheet.what_if import standing_car
from cabrio.core.solve.ballast import Place, Share, mass_for, mass_for_total, put, shares
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened
from ..typed import typed

SHARES: dict[str, Share] = {"front_share": "front", "left_share": "left", "cross_share": "cross"}
routes = APIBlueprint("ballast", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/ballast")
@routes.input(s.BallastQuery, location="query", arg_name="asked")
@routes.output(s.BallastView)
@routes.doc(summary="A mass tried at a place, after the slip; changes nothing")
def try_ballast(car_id: int, asked: s.BallastQuery) -> s.BallastView:
    bench, draft, sheet = opened(car_id)
    profile = sheet.car.profile
    if draft.lines:
        sheet = slips.preview(bench, draft.base, draft.lines, draft.jobs).as_sheet
    car = standing_car(sheet)
    if car is None:
        raise Missing("Ballast needs the pads that the car was weighed on.", number="pad_mass")
    own = {field.id: field.number for field in part_kind("ballast").fields}
    place = Place(
        "this place",
        typed(own["behind_front"], asked.behind_front, profile, "behind_front"),
        typed(own["to_left"], asked.to_left, profile, "to_left"),
    )
    if asked.solve:
        target = typed(number_named(asked.solve), asked.target, profile, "target")
        try:
            mass = (
                mass_for_total(car, target, profile)
                if asked.solve == "total_mass"
                else mass_for(car, place, SHARES[asked.solve], target, profile).mass
            )
        except CoreError as refusal:
            refusal.number, refusal.place = "target", None
            raise
    else:
        mass = typed(own["mass"], asked.mass, profile, "mass")
    after = put(car, place, mass)
    before, now = shares(car.pads), shares(after.pads)
    rows = [
        s.MovedView(name=name, place="car", before=before[name], after=now[name]) for name in before
    ]
    rows += [
        s.MovedView(name="pad_mass", place=corner, before=float(a), after=float(b))
        for corner, a, b in zip(PLACES[Shape.CORNER], car.pads, after.pads, strict=True)
    ]
    try:
        restore = turns_after_ballast(sheet, place, mass)
    except CoreError:
        restore = ()  # nothing to turn by, or nothing that can be turned so far
    return s.BallastView(
        mass=mass,
        behind_front=place.behind_front,
        to_left=place.left,
        moved=rows,
        restore=[present.line(one) for one in restore],
    )
