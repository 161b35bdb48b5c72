"""The numbers of the car that a side's points, or a live axle's, give at ride height."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from ..catalog.axle_points import AxlePoints
from ..catalog.points import Points
from ..kinematics.axle_through import through
from ..kinematics.corner import States
from ..kinematics.frame import OFFSETS, STEP, by_differences
from ..kinematics.readout import Readout, read_out


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
    slopes = {"camber_gain": found.camber_gain, "bump_steer": found.bump_steer}
    if (spring := found.acting.get("spring")) is not None:
        # along the spring itself: its lean is in the ratio already
        slopes |= {
            "motion_ratio": spring.ratio,
            "motion_ratio_slope": spring.slope,
            "spring_angle": np.zeros(1),
        }
    if (damper := found.acting.get("damper")) is not None:
        slopes["damper_motion_ratio"] = damper.ratio
    if found.kingpin is not None:
        slopes["points_caster"], slopes["kingpin_inclination"] = found.kingpin_angles
        slopes["mechanical_trail"], slopes["scrub_radius"] = found.trail_and_scrub
    return {name: float(value[0]) for name, value in slopes.items()}


WIDER = 10
"""A slope of what is a slope itself: its steps are that much wider than usual."""


@dataclass(frozen=True)
class AxleAtRide:
    """A live axle at ride height [SI]: numbers by name, left and right where there are two."""

    roll_centre_height: float
    springs: Mapping[str, tuple[float, float]]
    base: float | None


@lru_cache(maxsize=64)
def axle_at_ride(
    points: AxlePoints, bolts: tuple[tuple[int, tuple[float, float]], ...] = ()
) -> AxleAtRide:
    """Worked once for each sheet of points; `bolts` as `AxlePoints.with_bolts` takes them.

    `base` is how far apart upright springs would stand that act alike in heave and in roll. Raises
    Impossible where the points cannot be an axle.
    """
    axle = points.with_bolts(dict(bolts))
    here = through(axle, np.zeros(1))
    ranges: dict[str, tuple[float, float]] = {}
    base = None
    if "damper" in axle.acting:
        left, right = here.acting("damper")
        ranges["damper_motion_ratio"] = (float(left[1][0]), float(right[1][0]))
    if "spring" in axle.acting:
        left, right = here.acting("spring")
        ranges["motion_ratio"] = (float(left[1][0]), float(right[1][0]))
        # along the spring itself: its lean is in the ratio already
        ranges["spring_angle"] = (0.0, 0.0)
        near = through(axle, np.array(OFFSETS) * STEP * WIDER).acting("spring")
        slopes = [by_differences(list(one[1])) / WIDER for one in near]
        ranges["motion_ratio_slope"] = (float(slopes[0]), float(slopes[1]))
        apart = float(here.at.contacts[0, 0, 1] - here.at.contacts[0, 1, 1])
        in_heave, in_roll = (left[at][0] ** 2 + right[at][0] ** 2 for at in (1, 2))
        if in_heave > 0:
            base = float(np.sqrt(in_roll / in_heave)) * apart
    return AxleAtRide(float(here.roll_centre()[0]), ranges, base)
