"""A live axle's points as a part: its links, what holds it sideways, its springs and dampers.

Measured at ride height: ahead of the axle's centre line, left of the car's centre plane (− to the
right), up from the ground. Links, springs and dampers are the left ones; the right ones mirror them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Literal

import numpy as np

from ..kinematics.axle_through import AxleThrough, through
from ..kinematics.live_axle import Link, LiveAxle, Watt
from ..kinematics.side import Wheel
from .fields import OneOf, Own, RowName
from .part import part
from .places import Measured, Named, not_measured, places
from .quantities import Array, Shape

Bars = Literal["four_link", "three_link", "torque_arm"]
Sideways = Literal["links", "track_bar", "watt_on_axle", "watt_on_chassis"]
MEASURED = "measured"
OF_LAYOUT: dict[str, Bars] = {
    "parallel_four_link": "four_link",
    "triangulated_four_link": "four_link",
    "three_link": "three_link",
    "torque_arm": "torque_arm",
}
"""Which bars a car of each rear layout has; none for leaf springs."""
BARS = {
    "four_link": "four links (two pairs)",
    "three_link": "three links (one upper)",
    "torque_arm": "a torque arm and two links",
}
SIDEWAYS = {
    "track_bar": "a track bar",
    "watt_on_axle": "a Watt's link on the axle",
    "watt_on_chassis": "a Watt's link on the chassis",
    "links": "the links themselves",
}
WATTS = ("watt_on_axle", "watt_on_chassis")
UPPER, LOWER = ("upper_chassis", "upper_axle"), ("lower_chassis", "lower_axle")
ENDS = (*UPPER, *LOWER)
"""The ends of the links in the order of the bolts."""
HOLDS, ACTS = "Links", "Springs and dampers"
NAMES = (
    RowName("wheel_centre", "Wheel centre", HOLDS),
    RowName("upper_chassis", "Upper link, chassis end", HOLDS, "bars", ("four_link", "three_link")),
    RowName("upper_axle", "Upper link, axle end", HOLDS, "bars", ("four_link", "three_link")),
    RowName("torque_arm_pivot", "Torque arm, front pivot", HOLDS, "bars", ("torque_arm",)),
    RowName("lower_chassis", "Lower link, chassis end", HOLDS),
    RowName("lower_axle", "Lower link, axle end", HOLDS),
    RowName("track_bar_chassis", "Track bar, chassis end", "Sideways", "sideways", ("track_bar",)),
    RowName("track_bar_axle", "Track bar, axle end", "Sideways", "sideways", ("track_bar",)),
    RowName("watt_pivot", "Watt's crank, pivot", "Sideways", "sideways", WATTS),
    RowName("watt_crank_upper", "Watt's crank, upper end", "Sideways", "sideways", WATTS),
    RowName("watt_crank_lower", "Watt's crank, lower end", "Sideways", "sideways", WATTS),
    RowName("watt_end_upper", "Watt's upper bar, other end", "Sideways", "sideways", WATTS),
    RowName("watt_end_lower", "Watt's lower bar, other end", "Sideways", "sideways", WATTS),
    RowName("spring_chassis", "Spring, chassis end", ACTS, "spring", (MEASURED,)),
    RowName("spring_axle", "Spring, axle end", ACTS, "spring", (MEASURED,)),
    RowName("damper_chassis", "Damper, chassis end", ACTS, "damper", (MEASURED,)),
    RowName("damper_axle", "Damper, axle end", ACTS, "damper", (MEASURED,)),
)
PLACES = places(
    NAMES,
    Own("Left of the centre", "fine_dimension", least=-1.5, most=1.5),
    "At ride height. Links, springs and dampers are the left ones, the right ones mirror them. − to "
    "the right: a track bar or a Watt's link has ends on both sides.",
)


@part(
    "live_axle_points",
    at=Shape.CAR,
    label="Live axle points",
    plural="Live axle points",
    feeds=(
        "bolt_x",
        "bolt_y",
        "bolt_z",
        "link_spacing",
        "track_bar_y",
        "track_bar_z",
        "torque_arm_x",
        "lower_bolt_z",
        "arm_length",
        "arm_rise",
        "motion_ratio",
        "motion_ratio_slope",
        "damper_motion_ratio",
        "spring_base",
        "roll_centre_height",
    ),
)
@dataclass(frozen=True)
class AxlePoints(Measured):
    """The measured points of a live rear axle. Brackets with their holes, where fitted, go before its
    links' bolts seen from the side."""

    bars: Annotated[Bars, OneOf("Links", tuple(BARS.items()))] = "four_link"
    sideways: Annotated[
        Sideways,
        OneOf(
            "Held sideways by", tuple(SIDEWAYS.items()), "A Watt's link by where its crank turns."
        ),
    ] = "track_bar"
    spring: Annotated[
        Literal["", "measured"], not_measured("Springs", [(MEASURED, "measured, a mirrored pair")])
    ] = ""
    damper: Annotated[
        Literal["", "measured"], not_measured("Dampers", [(MEASURED, "measured, a mirrored pair")])
    ] = ""
    camber: Annotated[
        float, Own("Camber when measured", "fine_angle", "Both wheels, top outward +.", -0.3, 0.3)
    ] = 0.0
    toe: Annotated[float, Own("Toe when measured", "fine_angle", "Both, in +.", -0.3, 0.3)] = 0.0
    places: Annotated[Named, PLACES] = ()

    def make(self) -> LiveAxle:
        return self.axle

    def stand(self) -> AxleThrough:
        return through(self.axle, np.zeros(1))

    def unfit(self, rear_layout: str) -> str:
        if (has := OF_LAYOUT.get(rear_layout)) is None:
            return "This car's rear axle is not a live axle on links."
        if has != self.bars:
            return f"This car's rear axle is on {BARS[has]}, the points are of {BARS[self.bars]}."
        return ""

    @cached_property
    def axle(self) -> LiveAxle:
        """The axle for the kinematics. Raises Missing, all points at once, or Impossible."""
        return self.with_bolts({})

    def with_bolts(self, bolts: Mapping[int, tuple[float, float]]) -> LiveAxle:
        """The axle, its links' ends moved in side view to these (x, z) [m] by the order of the bolts."""
        known = self.known()
        for i, (x, z) in bolts.items():
            if ENDS[i] in known:
                known[ENDS[i]] = np.array([x, known[ENDS[i]][1], z])
        links = [Link("lower link", known["lower_chassis"], known["lower_axle"], mirror=True)]
        if self.bars != "torque_arm":
            pair = self.bars == "four_link"
            links.insert(
                0, Link("upper link", known["upper_chassis"], known["upper_axle"], mirror=pair)
            )
        bar = None
        if self.sideways == "track_bar":
            bar = Link("track bar", known["track_bar_chassis"], known["track_bar_axle"])
        return LiveAxle(
            Wheel(known["wheel_centre"], self.camber, self.toe),
            links,
            track_bar=bar,
            watt=self._watt(known),
            spring=(known["spring_chassis"], known["spring_axle"]) if self.spring else None,
            damper=(known["damper_chassis"], known["damper_axle"]) if self.damper else None,
            pivot=known["torque_arm_pivot"] if self.bars == "torque_arm" else None,
        )

    def _watt(self, known: Mapping[str, Array]) -> Watt | None:
        if self.sideways not in WATTS:
            return None
        return Watt(
            known["watt_pivot"],
            (known["watt_crank_upper"], known["watt_crank_lower"]),
            (known["watt_end_upper"], known["watt_end_lower"]),
            self.sideways == "watt_on_axle",
        )
