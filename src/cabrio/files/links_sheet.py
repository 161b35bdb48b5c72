"""The sheet of the links: the side view to scale with its holes, and the numbers that belong to it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reportlab.graphics.shapes import Circle, Drawing, Line, String
from reportlab.lib import colors
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer

from cabrio.core.catalog.units import show
from cabrio.core.sheet.side_view import Holes, Side

from .paper import SMALL, TEXT, printable, table, text

WIDE = 178 * mm
FAR = 0.6
"""An instant centre this far past the nose is pointed at, not drawn [m]."""
GREY = colors.HexColor("#777777")


def links(side: Side, cg_ahead: float, profile: str) -> list[Flowable]:
    """The side view of a sheet as a picture, its holes and bars as tables below."""
    here = min(side.views, key=lambda view: abs(view.travel))
    rows: list[list[Any]] = [
        [label, "not known" if value is None else show(value, quantity, profile)]
        for label, value, quantity in (
            ("Anti-squat", side.anti_squat, "anti"),
            ("IC ahead of the axle", side.centre[0] if side.centre else None, "dimension"),
            ("IC above the ground", side.centre[1] if side.centre else None, "dimension"),
            ("Pinion, - nose down", here.pinion_angle, "angle"),
            ("Wheelbase", side.wheelbase, "dimension"),
            ("CG height", side.cg_height, "height"),
        )
    ]
    if side.band:
        least, most = (show(one, "anti", profile) for one in side.band)
        rows[0][1] += f"  ({least} to {most} for a CG good to its error)"
    found: list[Flowable] = [_picture(side, cg_ahead), Spacer(0, 4 * mm), table(rows, (60, 118))]
    if side.holes:
        found += [Spacer(0, 4 * mm), table(_bolts(side.holes, profile), (40, 18, 40, 40, 40))]
    if side.assumed:
        found += [Spacer(0, 2 * mm), text(side.assumed, SMALL)]
    return found


def _bolts(holes: Sequence[Holes], profile: str) -> list[list[Any]]:
    rows: list[list[Any]] = [["Bolt", "Hole", "Ahead of the axle", "Above the ground", "New hole"]]
    for hole in holes:
        at = hole.holes[hole.here] if hole.here is not None else None
        cells = ["–", "–"] if at is None else [show(x, "dimension", profile) for x in at]
        number = "–" if hole.here is None else f"{hole.here + 1} of {len(hole.holes)}"
        rows.append([hole.place, number, *map(printable, cells), ""])
    return rows


def _picture(side: Side, cg_ahead: float) -> Drawing:
    """From behind the rear tyre to ahead of the front one, one scale both ways."""
    front, rear = side.radii
    left, right = -rear - 0.1, side.wheelbase + front + 0.1
    top = max(side.cg_height + side.cg_error, 2 * front, 2 * rear) + 0.1
    by = WIDE / (right - left)
    drawing = Drawing(WIDE, (top + 0.08) * by)

    def at(x: float, z: float) -> tuple[float, float]:
        return (x - left) * by, (z + 0.06) * by

    def line(a: tuple[float, float], b: tuple[float, float], **how: Any) -> None:
        drawing.add(Line(*at(*a), *at(*b), **how))

    line((left, 0.0), (right, 0.0), strokeWidth=1)
    for x, radius in ((0.0, rear), (side.wheelbase, front)):
        drawing.add(Circle(*at(x, radius), radius * by, fillColor=None, strokeWidth=0.8))
    line((0.0, 0.0), (side.wheelbase, side.cg_height), strokeDashArray=[4, 3], strokeColor=GREY)
    drawing.add(
        String(*at(0.62 * side.wheelbase, 0.5 * side.cg_height), "100 %", fontName=TEXT, fontSize=7)
    )
    high, error = side.cg_height, side.cg_error
    line((cg_ahead, high - error), (cg_ahead, high + error), strokeWidth=0.6)
    drawing.add(Circle(*at(cg_ahead, high), 4, fillColor=colors.black))
    view = min(side.views, key=lambda one: abs(one.travel))
    for axle, chassis in view.bars:
        line(axle, chassis, strokeWidth=2.2)
        if side.centre and side.centre[0] < side.wheelbase + FAR:
            line(axle, side.centre, strokeWidth=0.4, strokeDashArray=[1, 2], strokeColor=GREY)
    if side.centre and side.centre[0] < side.wheelbase + FAR:
        line((0.0, 0.0), side.centre, strokeWidth=0.8)
        drawing.add(Circle(*at(*side.centre), 3, fillColor=colors.black))
    for one in side.holes:
        for i, hole in enumerate(one.holes):
            fill = colors.black if i == one.here else colors.white
            drawing.add(Circle(*at(*hole), 1.8, fillColor=fill, strokeWidth=0.6))
    return drawing
