"""The numbers of the car that a side's points give at ride height."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..catalog.points import Points
from .corner import States
from .readout import Readout, read_out


@dataclass(frozen=True)
class AtRide:
    """A side at ride height: its own numbers by name [SI], and what the axle's are made of.

    `line_height` is where its line to the instant centre crosses the car's centre plane [m]; `locked`
    and `free` are forward over upward speed of the patch, the wheel braked and the wheel turning [-].
    """

    corner: Mapping[str, float]
    bar_ratio: float | None
    line_height: float
    locked: float
    free: float


@lru_cache(maxsize=256)
def at_ride(points: Points) -> AtRide:
    """Worked once for each sheet of points. Raises Impossible where they cannot be a suspension."""
    found = read_out(points.side, States(np.zeros(1), np.zeros(1), np.zeros(1)))
    return AtRide(
        _corner(found),
        None if found.bar is None else float(found.bar.ratio[0]),
        float(found.line_height[0]),
        float(found.lengthwise_slope(locked=True)[0]),
        float(found.lengthwise_slope(locked=False)[0]),
    )


def _corner(found: Readout) -> dict[str, float]:
    told = {"camber_gain": found.camber_gain, "bump_steer": found.bump_steer}
    if (spring := found.acting.get("spring")) is not None:
        # along the spring itself: its lean is in the ratio already
        told |= {
            "motion_ratio": spring.ratio,
            "motion_ratio_slope": spring.slope,
            "spring_angle": np.zeros(1),
        }
    if (damper := found.acting.get("damper")) is not None:
        told["damper_motion_ratio"] = damper.ratio
    if found.kingpin is not None:
        told["points_caster"], told["kingpin_inclination"] = found.kingpin_angles
        told["mechanical_trail"], told["scrub_radius"] = found.trail_and_scrub
    return {name: float(value[0]) for name, value in told.items()}
