"""The side view of a live axle on bars: drawn, and searched for holes."""

from __future__ import annotations

import numpy as np
from apiflask import APIBlueprint

from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.fields import Own, number_of
from cabrio.core.catalog.places import ABOVE, AHEAD
from cabrio.core.errors import CoreError, Missing, Problems
from cabrio.core.geometry.plane import Point
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.side_view import (
    BOLTS,
    NEEDED,
    Side,
    bar_lengths,
    bracket_holes,
    holes_near,
    on_bars,
    side_of_sheet,
)
from cabrio.core.solve.plot_sheet import plotted
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


@routes.post("/plot-sheet")
@routes.input(s.PlotSheetIn, arg_name="body")
@routes.output(s.PlotSheetView)
@routes.doc(summary="Bolts plotted on blocks: both sides compared, slips caught; changes nothing")
def plot_sheet(car_id: int, body: s.PlotSheetIn) -> s.PlotSheetView:
    _, _, sheet = opened(car_id)
    profile = sheet.car.profile
    problems: list[CoreError] = []

    def typed(own: Own, field: str, text: str) -> float:
        try:
            return check_value(number_of(own), "car", text, profile, confirmed=True)
        except CoreError as problem:
            problem.number, problem.place = field, None
            problems.append(problem)
            return 0.0

    sides = [
        np.array(
            [
                [typed(AHEAD, f"{name}-{i}-0", row[0]), typed(ABOVE, f"{name}-{i}-1", row[1])]
                for i, row in enumerate(rows)
            ]
        )
        for name, rows in (("left", body.left), ("right", body.right))
        if any(cell.strip() for row in rows for cell in row)
    ]
    block = typed(ABOVE, "block", body.block or "0")
    if not sides:
        raise Missing("Type the four bolts of the left side.", number="left-0-0")
    if problems:
        raise Problems(problems)
    holes = bracket_holes(sheet.car, sheet.setup)
    found = plotted(
        sides[0],
        sides[1] if len(sides) > 1 else None,
        block,
        lengths=bar_lengths(sheet.car, sheet.setup),
        holes=holes,
        profile=profile,
    )
    return s.PlotSheetView(
        bolts=found.bolts.tolist(),
        apart=None if found.right_less_left is None else found.right_less_left.tolist(),
        doubts=list(found.doubts),
        brackets=[place for place, one in zip(BOLTS, holes, strict=True) if one],
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
