"""The side view of a live axle on bars: drawn, and searched for holes."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.catalog.checks import check_value
from cabrio.core.errors import CoreError
from cabrio.core.geometry.plane import Point
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.side_view import NEEDED, Side, holes_near, on_bars, side_of_sheet
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened

MOST_SHOWN = 600
"""Combinations of holes in an answer: a map of them all on any car that is built."""

routes = APIBlueprint("side_view", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/side-view")
@routes.output(s.SideView)
@routes.doc(summary="The bars, holes and instant centre from the side, through the rear's travel")
def side_view(car_id: int) -> s.SideView:
    bench, draft, sheet = opened(car_id)
    answer = s.SideView(missing="", needs=[], booked=None, drafted=None)
    if not on_bars(sheet.car):
        answer.missing = "This rear axle has no pairs of bars to draw from the side."
        return answer
    answer.needs = present.needs(sheet.worked.lacking(NEEDED))
    if answer.needs:
        answer.missing = "The side view needs numbers that are not known yet."
        return answer
    try:
        answer.booked = _side_on(side_of_sheet(sheet))
        if draft.lines:
            ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
            answer.drafted = _side_on(side_of_sheet(ahead.as_sheet))
    except CoreError as refusal:
        answer.missing = refusal.sentence
    return answer


@routes.get("/holes")
@routes.input(s.HolesQuery, location="query", arg_name="asked")
@routes.output(s.HolesFound)
@routes.doc(summary="Combinations of bracket holes nearest to an anti-squat and an IC length")
def holes(car_id: int, asked: s.HolesQuery) -> s.HolesFound:
    _, _, sheet = opened(car_id)
    profile = sheet.car.profile

    def typed(name: str, text: str) -> float:
        return check_value(number_named(name), "car", text, profile, confirmed=True)

    count, found = holes_near(
        sheet,
        typed("anti_squat", asked.anti_squat),
        typed("ic_x", asked.ic_x) if asked.ic_x.strip() else None,
        show=MOST_SHOWN,
        nose_down=asked.nose_down,
    )
    return s.HolesFound(
        count=count,
        choices=[
            s.HoleChoiceView(
                holes=[hole + 1 for hole in one.choice.holes],
                moved=one.choice.holes_moved,
                anti_squat=one.choice.anti_squat,
                ic_x=one.choice.ic.x,
                ic_z=one.choice.ic.z,
                upper_bar=one.choice.upper_bar,
                lower_bar=one.choice.lower_bar,
                pinion_per_bump=one.choice.pinion_per_bump,
                pinion=None if one.choice.pinion_range is None else list(one.choice.pinion_range),
                roll_steer=one.choice.roll_steer,
                lines=[present.line(line) for line in one.lines],
            )
            for one in found
        ],
    )


def _side_on(side: Side) -> s.SideOnView:
    states = []
    for i, view in enumerate(side.views):
        centre = view.centre
        gearbox = side.gearbox_slope
        joints = None if gearbox is None else view.joint_angles(gearbox)
        states.append(
            s.SideStateView(
                travel=view.travel,
                bolts=side.bolts[i].tolist(),
                shift=float(side.shift[i]),
                centre=[centre.x, centre.z] if isinstance(centre, Point) else None,
                anti_squat=view.anti_squat,
                pinion=view.pinion_angle,
                joints=None if joints is None else list(joints),
            )
        )
    return s.SideOnView(
        wheelbase=side.wheelbase,
        cg_height=side.cg_height,
        cg_error=side.cg_error,
        radii=list(side.radii),
        holes=[
            s.HolesView(
                place=one.place,
                holes=[list(hole) for hole in one.holes],
                here=one.here,
                setting=one.setting,
            )
            for one in side.holes
        ],
        centre=None if side.centre is None else list(side.centre),
        anti_squat=side.anti_squat,
        band=None if side.band is None else list(side.band),
        states=states,
        short=side.short,
    )
