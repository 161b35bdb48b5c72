"""Suspension points as measured on one side, as a part: the names of the points and where they come from.

Measured on the left or the right alike: ahead of the axle's centre line, out from the car's centre
plane, up from the ground, at ride height, wheels straight, rack centred.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Literal

import numpy as np

from ..arrays import Array
from ..kinematics.corner import States
from ..kinematics.layouts import LAYOUTS
from ..kinematics.readout import Readout, read_out
from ..kinematics.side import Acting, BarLink, Rocker, Side, Wheel
from .fields import OneOf, Own, RowName
from .measured import Measured, Named, not_measured, places
from .part import part
from .quantities import Shape

LayoutName = Literal["double_wishbone", "strut", "trailing_arm"]
On = Literal["", "upper_arm", "lower_arm", "upright", "arm", "strut", "rocker"]

LINK_LABELS = {
    "upper_front": "Upper arm, front pivot",
    "upper_rear": "Upper arm, rear pivot",
    "upper_ball": "Upper ball joint",
    "lower_front": "Lower arm, front pivot",
    "lower_rear": "Lower arm, rear pivot",
    "lower_ball": "Lower ball joint",
    "tie_rod_inner": "Tie rod or toe link, inner end",
    "tie_rod_outer": "Tie rod or toe link, outer end",
    "strut_top": "Strut top mount",
    "strut_lower": "Strut, lower point on its axis",
    "pivot_inner": "Arm pivot, inner",
    "pivot_outer": "Arm pivot, outer",
}
ATTACHED = {
    "spring_on": ("Spring", {"spring_moving": "moving end", "spring_chassis": "chassis end"}),
    "damper_on": ("Damper", {"damper_moving": "moving end", "damper_chassis": "chassis end"}),
    "rod_on": (
        "Rocker",
        {
            "rod_moving": "rod, wheel end",
            "rod_rocker": "rod, end on the rocker",
            "rocker_pivot": "pivot",
            "rocker_axis": "second point of its axis",
        },
    ),
    "bar_on": (
        "Anti-roll bar",
        {
            "bar_link_moving": "drop link, wheel end",
            "bar_link_bar": "drop link, end on the arm",
            "bar_axis_first": "one point of the bar's axis",
            "bar_axis_second": "another point of its axis",
        },
    ),
}
WORDS = {
    "upper_arm": "the upper arm",
    "lower_arm": "the lower arm",
    "upright": "the upright",
    "arm": "the trailing arm",
    "strut": "the strut",
    "rocker": "a rocker",
}


def _names() -> tuple[RowName, ...]:
    found = [RowName("wheel_centre", "Wheel centre", "Wheel and links")]
    for name, label in LINK_LABELS.items():
        having = tuple(kind for kind, layout in LAYOUTS.items() if name in layout.points)
        found.append(RowName(name, label, "Wheel and links", (("layout", having),)))
    for choice, (group, rows) in ATTACHED.items():
        for name, label in rows.items():
            found.append(RowName(name, f"{group}, {label}", group, ((choice, tuple(WORDS)),)))
    return tuple(found)


NAMES = _names()
PLACES = places(
    NAMES,
    Own("Out from the centre", "fine_dimension", least=-0.5, most=1.5),
    "At ride height, wheels straight, rack centred. Out is + on both sides of the car.",
)


def _on(label: str) -> OneOf:
    return not_measured(label, [(key, f"on {words}") for key, words in WORDS.items()])


@part(
    "points",
    at=Shape.CORNER,
    label="Suspension points",
    plural="Suspension points",
    feeds=(
        "motion_ratio",
        "motion_ratio_slope",
        "damper_motion_ratio",
        "roll_centre_height",
        "anti_dive",
        "drive_anti",
        "camber_gain",
        "bump_steer",
        "points_caster",
        "kingpin_inclination",
        "mechanical_trail",
        "scrub_radius",
    ),
)
@dataclass(frozen=True)
class Points(Measured):
    """The measured points of a suspension's side. The other side may wear the same: it is its mirror."""

    layout: Annotated[
        LayoutName,
        OneOf("Suspension", tuple((kind, told.label) for kind, told in LAYOUTS.items())),
    ] = "double_wishbone"
    camber: Annotated[
        float, Own("Camber when measured", "fine_angle", "Top outward +.", -0.3, 0.3)
    ] = 0.0
    toe: Annotated[float, Own("Toe when measured", "fine_angle", "In +.", -0.3, 0.3)] = 0.0
    spring_on: Annotated[On, _on("Spring")] = ""
    damper_on: Annotated[On, _on("Damper")] = ""
    rod_on: Annotated[On, _on("Push or pull rod of a rocker")] = ""
    bar_on: Annotated[On, _on("Drop link of the bar")] = ""
    pitch: Annotated[
        float | None,
        Own(
            "Thread of a link per turn",
            "pitch",
            "Both ends together: how much longer one turn makes it.",
            above=0.0,
            most=0.01,
        ),
    ] = None
    rack_per_turn: Annotated[
        float | None,
        Own(
            "Rack travel per turn of the steering wheel", "fine_dimension", "", above=0.0, most=0.3
        ),
    ] = None
    rack_travel: Annotated[
        float | None,
        Own("Rack travel to lock", "fine_dimension", "From the middle, either way.", 0.0, 0.15),
    ] = None
    places: Annotated[Named, PLACES] = ()

    def make(self) -> Side:
        return self.side

    @property
    def stands_on(self) -> float | None:
        return self.side.wheel.radius

    def stand(self) -> Readout:
        still = np.zeros(1)
        return read_out(self.side, States(still, still, still))

    @cached_property
    def side(self) -> Side:
        """The side for the kinematics. Raises Missing, all points at once, or Impossible."""
        known = self.known()
        return Side(
            self.layout,
            {name: known[name] for name in LAYOUTS[self.layout].points},
            Wheel(known["wheel_centre"], self.camber, self.toe),
            self._acting("spring", self.spring_on, known),
            self._acting("damper", self.damper_on, known),
            Rocker(
                known["rocker_pivot"],
                known["rocker_axis"],
                self.rod_on,
                known["rod_moving"],
                known["rod_rocker"],
            )
            if self.rod_on
            else None,
            BarLink(
                self.bar_on,
                known["bar_link_moving"],
                known["bar_link_bar"],
                (known["bar_axis_first"], known["bar_axis_second"]),
            )
            if self.bar_on
            else None,
        )

    def asks(self, name: RowName) -> bool:
        """A spring round the strut is where the strut is."""
        return super().asks(name) and not any(self._round_strut(one) for one, _ in name.asked)

    def _round_strut(self, choice: str) -> bool:
        struts = choice in ("spring_on", "damper_on") and self.layout == "strut"
        return struts and getattr(self, choice) == "strut"

    def _acting(self, name: str, on: str, known: dict[str, Array]) -> Acting | None:
        if not on:
            return None
        round_it = self._round_strut(f"{name}_on")
        ends = ("strut_lower", "strut_top") if round_it else (f"{name}_moving", f"{name}_chassis")
        return Acting(on, known[ends[0]], known[ends[1]])
