"""The usual adjusters: what a new car is taken to have to set, and how far each goes."""

from __future__ import annotations

from ..catalog.disciplines import disciplines, rare_adjusters
from ..graph.registry import number_named
from .model import Adjuster, Car

USUAL_ADJUSTERS: dict[str, Adjuster] = {
    "perch_turns": Adjuster(-20, 20),
    "rubber_gap": Adjuster(0.0, 0.05),
    "bar_hole": Adjuster(1, 5),
    "compression_clicks": Adjuster(0, 24, "from_closed"),
    "rebound_clicks": Adjuster(0, 24, "from_closed"),
    "tyre_pressure": Adjuster(0.5e5, 3.5e5),
    "camber": Adjuster(-0.14, 0.04),
    "caster": Adjuster(0.0, 0.2),
    "toe": Adjuster(-0.02, 0.02),
    "link_preload": Adjuster(-2, 2),
    "upper_link_hole": Adjuster(1, 3),
    "lower_link_hole": Adjuster(1, 3),
    "upper_axle_hole": Adjuster(1, 3),
    "lower_axle_hole": Adjuster(1, 3),
    "front_limiter": Adjuster(0.0, 0.25),
}
"""What a new car is taken to have, until its own ranges are written down."""


def is_usual(name: str, adjuster: Adjuster) -> bool:
    """Whether a range is the usual one of a setting: that of a car whose own nobody wrote down."""
    return adjuster == USUAL_ADJUSTERS.get(name)


def usual_adjusters(car: Car) -> dict[str, Adjuster]:
    """The usual adjusters of a car of this layout and discipline."""
    rare = rare_adjusters() - set(disciplines()[car.discipline].adjusters)
    return {
        name: adjuster
        for name, adjuster in USUAL_ADJUSTERS.items()
        if car.has(number_named(name)) and name not in rare
    }
