"""A live axle's points as a part: its links, what holds it sideways, its springs and dampers.

Measured at ride height: ahead of the axle's centre line, left of the car's centre plane (− to the
right), up from the ground. The right links, springs and dampers mirror the left ones where they were
not measured too.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Literal

import numpy as np

from ..arrays import Array
from ..errors import Impossible
from ..kinematics.axle_through import AxleThrough, through
from ..kinematics.live_axle import MIRROR, Ends, Link, LiveAxle, Watt
from ..kinematics.side import Wheel
from .fields import OneOf, Own, RowName
from .measured import Measured, Named, not_measured, places
from .part import part
from .quantities import Shape

Bars = Literal["four_link", "three_link", "torque_arm"]
Sideways = Literal["links", "track_bar", "watt_on_axle", "watt_on_chassis"]
MEASURED = "measured"
OF_LAYOUT: dict[str, Bars] = {
    "parallel_four_link": "four_link",
    "triangulated_four_link": "four_link",
    "three_link": "three_link",
    "torque_arm": "torque_arm",
}
"""Which bars a car of each rear layout has; none for leaf springs and ladder bars."""
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
HOLDS, SIDE, ACTS = "Links", "Sideways", "Springs and dampers"
TRACK_BAR, RIGHT = ("track_bar",), "right_"
UPPERS = ("four_link", "three_link")
SPRING, DAMPER = (("spring", (MEASURED,)),), (("damper", (MEASURED,)),)
LEFT = (
    RowName("wheel_centre", "Wheel centre", HOLDS),
    RowName("upper_chassis", "Upper link, chassis end", HOLDS, (("bars", UPPERS),)),
    RowName("upper_axle", "Upper link, axle end", HOLDS, (("bars", UPPERS),)),
    RowName("torque_arm_pivot", "Torque arm, front pivot", HOLDS, (("bars", ("torque_arm",)),)),
    RowName("lower_chassis", "Lower link, chassis end", HOLDS),
    RowName("lower_axle", "Lower link, axle end", HOLDS),
    RowName("track_bar_chassis", "Track bar, chassis end", SIDE, (("sideways", TRACK_BAR),)),
    RowName("track_bar_axle", "Track bar, axle end", SIDE, (("sideways", TRACK_BAR),)),
    RowName("watt_pivot", "Watt's crank, pivot", SIDE, (("sideways", WATTS),)),
    RowName("watt_crank_upper", "Watt's crank, upper end", SIDE, (("sideways", WATTS),)),
    RowName("watt_crank_lower", "Watt's crank, lower end", SIDE, (("sideways", WATTS),)),
    RowName("watt_end_upper", "Watt's upper bar, other end", SIDE, (("sideways", WATTS),)),
    RowName("watt_end_lower", "Watt's lower bar, other end", SIDE, (("sideways", WATTS),)),
    RowName("spring_chassis", "Spring, chassis end", ACTS, SPRING),
    RowName("spring_axle", "Spring, axle end", ACTS, SPRING),
    RowName("damper_chassis", "Damper, chassis end", ACTS, DAMPER),
    RowName("damper_axle", "Damper, axle end", ACTS, DAMPER),
)
SINGLE = ("torque_arm_pivot", "track_bar_", "watt_")
"""What an axle has one of, or has no right and left of."""


def _right_one(row: RowName) -> RowName:
    # the only upper link of a three-link has no other
    asked = (("bars", ("four_link",)),) if row.id in UPPER else row.asked
    label = f"Right {row.label[0].lower()}{row.label[1:]}"
    return RowName(RIGHT + row.id, label, "Right side", (("right", (MEASURED,)), *asked))


NAMES = (*LEFT, *(_right_one(row) for row in LEFT if not row.id.startswith(SINGLE)))
PLACES = places(
    NAMES,
    Own("Left of the centre", "fine_dimension", least=-1.5, most=1.5),
    "At ride height. Left of the centre is + for the left wheel, links, springs and dampers, and − for "
    "the right ones; a track bar or a Watt's link has ends on both sides.",
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
        Literal["", "measured"], not_measured("Springs", [(MEASURED, "measured")])
    ] = ""
    damper: Annotated[
        Literal["", "measured"], not_measured("Dampers", [(MEASURED, "measured")])
    ] = ""
    right: Annotated[
        Literal["", "measured"],
        OneOf("Right side", (("", "mirrors the left"), (MEASURED, "measured too"))),
    ] = ""
    camber: Annotated[
        float, Own("Camber when measured", "fine_angle", "Top outward +.", -0.3, 0.3)
    ] = 0.0
    toe: Annotated[float, Own("Toe when measured", "fine_angle", "In +.", -0.3, 0.3)] = 0.0
    right_camber: Annotated[
        float | None,
        Own("Right wheel's camber", "fine_angle", "Empty where it is the left one's.", -0.3, 0.3),
    ] = None
    right_toe: Annotated[
        float | None,
        Own("Right wheel's toe", "fine_angle", "Empty where it is the left one's.", -0.3, 0.3),
    ] = None
    places: Annotated[Named, PLACES] = ()

    def make(self) -> LiveAxle:
        return self.axle

    @property
    def stands_on(self) -> float | None:
        return self.axle.wheel.radius

    def stand(self) -> AxleThrough:
        return through(self.axle, np.zeros(1))

    def unfit(self, rear_layout: str) -> str:
        if (has := OF_LAYOUT.get(rear_layout)) is None:
            return "This car's rear axle is not held by links that points can be measured of."
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
            for name in (ENDS[i], RIGHT + ENDS[i]):
                if name in known:
                    known[name] = np.array([x, known[name][1], z])
        links = [self._link("lower", known)]
        if self.bars != "torque_arm":
            links.insert(0, self._link("upper", known, single=self.bars == "three_link"))
        bar = None
        if self.sideways == "track_bar":
            bar = Link("track bar", known["track_bar_chassis"], known["track_bar_axle"])
        return LiveAxle(
            Wheel(known["wheel_centre"], self.camber, self.toe),
            links,
            right=self._right_wheel(known),
            track_bar=bar,
            watt=self._watt(known),
            spring=self._ends("spring", known) if self.spring else None,
            damper=self._ends("damper", known) if self.damper else None,
            pivot=known["torque_arm_pivot"] if self.bars == "torque_arm" else None,
            right_spring=self._right_ends("spring", known) if self.spring else None,
            right_damper=self._right_ends("damper", known) if self.damper else None,
        )

    def _link(self, which: str, known: Mapping[str, Array], *, single: bool = False) -> Link:
        ends = self._ends(which, known)
        right = None if single else self._right_ends(which, known)
        return Link(f"{which} link", *ends, mirror=not single, right=right)

    def _ends(self, of: str, known: Mapping[str, Array]) -> Ends:
        return known[f"{of}_chassis"], known[f"{of}_axle"]

    def _right_ends(self, of: str, known: Mapping[str, Array]) -> Ends | None:
        return self._ends(RIGHT + of, known) if self.right else None

    def _right_wheel(self, known: Mapping[str, Array]) -> Wheel:
        """The right wheel in its own frame."""
        centre = known["wheel_centre"]
        if self.right:
            centre = known["right_wheel_centre"] * MIRROR
            if centre[1] <= 0:
                raise Impossible(
                    "The right wheel centre is left of the car's centre: enter it with −.",
                    number="right_wheel_centre",
                )
        camber = self.camber if self.right_camber is None else self.right_camber
        return Wheel(centre, camber, self.toe if self.right_toe is None else self.right_toe)

    def across(self, end: str) -> float:
        """How far apart the left and the right one of a pair's ends are [m]."""
        known = self.known()
        right = known[RIGHT + end] if self.right else known[end] * MIRROR
        return float(known[end][1] - right[1])

    def lower_links(self) -> tuple[Ends, Ends]:
        """The lower links' ends, left and right."""
        known = self.known()
        left = self._ends("lower", known)
        return left, self._right_ends("lower", known) or (left[0] * MIRROR, left[1] * MIRROR)

    def _watt(self, known: Mapping[str, Array]) -> Watt | None:
        if self.sideways not in WATTS:
            return None
        return Watt(
            known["watt_pivot"],
            (known["watt_crank_upper"], known["watt_crank_lower"]),
            (known["watt_end_upper"], known["watt_end_lower"]),
            self.sideways == "watt_on_axle",
        )
