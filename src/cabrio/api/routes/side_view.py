"""The stations of a live axle: its side view and holes, bolts on blocks, square, and the pinion gauge."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
from apiflask import APIBlueprint

from cabrio.core.arrays import Array
from cabrio.core.catalog.fields import Own, number_of
from cabrio.core.catalog.measured import ABOVE, AHEAD
from cabrio.core.errors import CoreError, Missing, Problems, collected
from cabrio.core.geometry.plane import Point
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.side_view import (
    BOLTS,
    Side,
    bar_lengths,
    bracket_holes,
    bracket_sets,
    holes_near,
    needed,
    side_of_sheet,
)
from cabrio.core.sheet.square import what_to_move
from cabrio.core.solve.pinion import GaugeRead, pinion_angle, pinion_words
from cabrio.core.solve.plot_sheet import plotted
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened
from ..typed import typed

MOST_SHOWN = 600
"""Combinations of holes in an answer: a map of them all on any car that is built."""

routes = APIBlueprint("side_view", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/side-view")
@routes.output(s.SideView)
@routes.doc(summary="The bars, holes and instant centre from the side, through the rear's travel")
def side_view(car_id: int) -> s.SideView:
    bench, draft, sheet = opened(car_id)
    answer = s.SideView(
        missing="",
        needs=[],
        booked=None,
        drafted=None,
        sets=[
            s.BracketSetView(
                name=one.name, fitted=one.fitted, lines=[present.line(line) for line in one.lines]
            )
            for one in bracket_sets(sheet.car, sheet.setup)
        ],
    )
    if not needed(sheet.car):
        answer.missing = "An independent rear is drawn from its points, below."
        return answer
    answer.needs = present.needs(sheet.worked.lacking(needed(sheet.car)))
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
    wanted = {
        name: typed(number_named(name), text, profile, name)
        for name, text in (("anti_squat", asked.anti_squat), ("ic_x", asked.ic_x))
        if text.strip() or name == "anti_squat"
    }
    search = holes_near(
        sheet,
        wanted["anti_squat"],
        wanted.get("ic_x"),
        show=MOST_SHOWN,
        nose_down=asked.nose_down,
        clear=typed(number_of(ABOVE), asked.clear, profile, "clear")
        if asked.clear.strip()
        else 0.0,
    )
    return s.HolesFound(
        count=search.count,
        out_of_reach=search.out_of_reach,
        too_low=search.too_low,
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
                lowest=one.choice.lowest,
                lines=[present.line(line) for line in one.lines],
            )
            for one in search.found
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

    def cell(own: Own, field: str, text: str) -> float:
        with collected(problems):
            return typed(number_of(own), text, profile, field)
        return 0.0

    def side(name: str, rows: list[tuple[str, str]]) -> Array | None:
        if not any(text.strip() for row in rows for text in row):
            return None
        return np.array(
            [
                [cell(AHEAD, f"{name}-{i}-0", ahead), cell(ABOVE, f"{name}-{i}-1", above)]
                for i, (ahead, above) in enumerate(rows)
            ]
        )

    left, right = side("left", body.left), side("right", body.right)
    block = cell(ABOVE, "block", body.block or "0")
    if left is None:
        raise Missing("Type the four bolts of the left side.", number="left-0-0")
    if right is not None and len(right) != len(left):
        raise Missing("Type all four bolts of the right side, or none.", number="right-0-0")
    if problems:
        raise Problems(problems)
    holes = bracket_holes(sheet.car, sheet.setup)
    found = plotted(
        left,
        right,
        block,
        lengths=bar_lengths(sheet.car, sheet.setup),
        holes=holes,
        profile=profile,
    )
    return s.PlotSheetView(
        bolts=found.bolts.tolist(),
        apart=None if found.right_less_left is None else found.right_less_left.tolist(),
        doubts=list(found.doubts),
        brackets=[place for place, hole in zip(BOLTS, holes, strict=True) if hole],
    )


@routes.get("/square")
@routes.output(s.SaysView)
@routes.doc(summary="What the diagonals say of the axle, and which links to turn")
def square(car_id: int) -> s.SaysView:
    _, _, sheet = opened(car_id)
    return s.SaysView(says=list(what_to_move(sheet)))


@routes.get("/pinion-gauge")
@routes.input(s.GaugeQuery, location="query", arg_name="asked")
@routes.output(s.GaugeView)
@routes.doc(summary="The pinion angle from two gauge readings, each with the way it points")
def pinion_gauge(car_id: int, asked: s.GaugeQuery) -> s.GaugeView:
    _, _, sheet = opened(car_id)
    angle = number_named("pinion_angle")
    pinion, shaft = (
        GaugeRead(
            typed(replace(angle, least=None, most=None), text, sheet.car.profile, field), rises
        )
        for field, text, rises in (
            ("pinion", asked.pinion, asked.pinion_rises),
            ("shaft", asked.shaft, asked.shaft_rises),
        )
    )
    found = pinion_angle(pinion, shaft)
    return s.GaugeView(
        pinion=pinion.slope("pinion"),
        shaft=shaft.slope("shaft"),
        angle=found,
        says=pinion_words(found),
    )


def _side_on(side: Side) -> s.SideOnView:
    states = []
    for view in side.views:
        centre = view.centre
        gearbox = side.gearbox_slope
        joints = None if gearbox is None else view.joint_angles(gearbox)
        states.append(
            s.SideStateView(
                travel=view.travel,
                bars=[[list(end) for end in bar] for bar in view.bars],
                shift=view.axle_shift,
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
        assumed=side.assumed,
        slim=side.slim,
        rules_agree=side.rules_agree,
    )
