"""A live axle on bars through its travel: the pinion and the joints of its shaft."""

from __future__ import annotations

import numpy as np

from ..errors import Missing
from ..sheet.build import Sheet
from ..sheet.side_view import Side, on_bars, side_of_sheet
from .chart import Axis, Drawn, Line, Mark, chart

TRAVEL = Axis("Wheel travel, + bump", "height")
AT_RIDE = (Mark("ride height", 0.0),)


def _side(sheet: Sheet) -> Side:
    if not on_bars(sheet.car):
        raise Missing("These curves need a rear axle on link bars.", number="bolt_x")
    return side_of_sheet(sheet)


def _drawn(side: Side, **rows: list[float | None]) -> Drawn:
    lines = tuple(
        Line(label.replace("_", " "), tuple(np.nan if one is None else one for one in row))
        for label, row in rows.items()
    )
    return Drawn(tuple(side.travels), lines, AT_RIDE, side.short)


@chart(
    label="Pinion and joints over travel", x=TRAVEL, y=Axis("Angle, pinion − nose down", "angle")
)
def driveline_over_travel(sheet: Sheet) -> Drawn:
    """The pinion against the shaft, and how far both universal joints are bent: the pinion should stay
    nose down all the way."""
    side = _side(sheet)
    if side.views[0].pinion_angle is None:
        raise Missing(
            "Pinion and joints over travel need the pinion angle read, and where both joints of the "
            "shaft are.",
            number="pinion_angle",
        )
    rows: dict[str, list[float | None]] = {"pinion": [view.pinion_angle for view in side.views]}
    if side.gearbox_slope is not None:
        joints = [view.joint_angles(side.gearbox_slope) for view in side.views]
        rows["front_joint"] = [None if joint is None else joint[0] for joint in joints]
        rows["rear_joint"] = [None if joint is None else joint[1] for joint in joints]
    drawn = _drawn(side, **rows)
    highest = max(row for row in rows["pinion"] if row is not None)
    note = "The pinion goes nose up on the way." if highest >= 0 else ""
    return Drawn(drawn.x, drawn.lines, drawn.marks, " ".join(filter(None, (note, drawn.note))))
