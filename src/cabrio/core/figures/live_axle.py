"""What locates a live axle sideways, and how its arms steer it (reference §9)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..errors import Impossible
from ..geometry.arm import forward
from ..geometry.plane import NEGLIGIBLE, Triple, cross
from ..graph.registry import figure
from .shapes import either_way, refuse, spread, worked_once

DIXON = "Dixon, Suspension Geometry and Computation, ch. 9"
CAR, SIDE = Shape.CAR, Shape.SIDE
CHASSIS, AXLE_END = range(2)


@figure(
    label="Track bar roll centre",
    quantity="height",
    shape=CAR,
    formula="height where the bar crosses the centre line",
    source=DIXON,
)
def track_bar_roll_centre(track_bar_y: Array, track_bar_z: Array) -> Array:
    """Roll centre of an axle on a track bar [m] above the ground, at ride height.

    Refused where the bar stands upright. Wrong away from ride height: it moves as the body does.

    >>> found = track_bar_roll_centre(np.array([0.5, -0.45]), np.array([0.26, 0.22]))
    >>> np.round(found, 4).tolist()
    0.2389
    """
    run = track_bar_y[..., AXLE_END] - track_bar_y[..., CHASSIS]
    refuse(np.abs(run) < 1e-9, CAR, "track_bar_y", "the track bar stands upright.")
    rise = track_bar_z[..., AXLE_END] - track_bar_z[..., CHASSIS]
    height: Array = track_bar_z[..., CHASSIS] - track_bar_y[..., CHASSIS] * rise / run
    return height


def convergence(bolt_x: Array, bolt_y: Array, bolt_z: Array, chassis: int) -> Triple:
    """Where a mirrored pair of bars meets in the centre plane: homogeneous (x, z, w), w = 0 if never.

    A parallel pair meets at infinity, in the direction in which its bars run.
    """
    axle = chassis + 1
    here, there = bolt_y[..., axle], bolt_y[..., chassis]
    w = here - there
    x = here * bolt_x[..., chassis] - there * bolt_x[..., axle]
    z = here * bolt_z[..., chassis] - there * bolt_z[..., axle]
    return x, z, np.where(np.abs(w) < NEGLIGIBLE, 0.0, w)


@worked_once
def _roll_axis(bolt_x: Array, bolt_y: Array, bolt_z: Array) -> Triple:
    upper, lower = (convergence(bolt_x, bolt_y, bolt_z, chassis) for chassis in (0, 2))
    if np.any((upper[2] == 0) & (lower[2] == 0)):
        raise Impossible(
            "Two parallel pairs do not locate the axle sideways: give the track bar or the Watt's "
            "link.",
            number="bolt_y",
        )
    axis = cross(upper, lower)
    flat = np.abs(axis[1]) <= 1e-12 * (np.abs(axis[0]) + np.abs(axis[2]))
    refuse(flat, CAR, "bolt_y", "the two pairs meet on one upright line: no roll axis.")
    return axis


@figure(
    label="Roll centre of the arms",
    quantity="height",
    shape=CAR,
    formula="line through both convergence points, at the axle",
    source=DIXON,
)
def arms_roll_centre(bolt_x: Array, bolt_y: Array, bolt_z: Array) -> Array:
    """Roll centre of an axle on triangulated arms [m] above the ground, at ride height.

    One parallel pair: through the other's point, parallel to it. Refused where both are parallel.
    Wrong where a track bar is fitted as well: the two then fight.

    >>> found = arms_roll_centre(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.4, 0.15, 0.42, 0.44]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 4).tolist()
    0.5053
    """
    axis = _roll_axis(bolt_x, bolt_y, bolt_z)
    return -axis[2] / axis[1]


@figure(
    label="Axle roll axis slope",
    quantity="slope",
    shape=CAR,
    formula="slope of the same line",
    source=DIXON,
    sign="+ rises to the front",
)
def arms_roll_axis_slope(bolt_x: Array, bolt_y: Array, bolt_z: Array) -> Array:
    """Slope of the line the axle rolls about [-]: rising to the front it steers the axle in roll.

    Wrong where a track bar is fitted as well.

    >>> found = arms_roll_axis_slope(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.4, 0.15, 0.42, 0.44]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 5).tolist()
    0.02583
    """
    axis = _roll_axis(bolt_x, bolt_y, bolt_z)
    return -axis[0] / axis[1]


@figure(
    label="Travel at the arms",
    quantity="height",
    shape=SIDE,
    formula="mean ± ½·(d_L − d_R)·spacing / track",
    source=DIXON,
    sign="+ bump",
)
def arm_travel(asked_travel: Array, link_spacing: Array, track: Array) -> Array:
    """Travel of the axle over each arm for the wheel travels looked at [m].

    Wrong where the axle housing or its brackets twist.

    >>> np.round(arm_travel(np.array([-0.04, 0.03]), 0.9, np.array([1.5, 1.6])), 5).tolist()
    [-0.02469, 0.01469]
    """
    left, right = asked_travel[..., 0], asked_travel[..., 1]
    apart = (left - right) * link_spacing / track[..., 1]
    return spread(0.5 * (left + right)) + either_way(0.5 * apart)


@figure(
    label="Axle forward at the arm",
    quantity="fine_dimension",
    shape=SIDE,
    formula="x = l·(cos θ₀ − cos(asin(sin θ₀ + h/l)))",
    source=DIXON,
    sign="+ lead: forward of where it stood",
)
def arm_shift(arm_length: Array, arm_rise: Array, arm_travel: Array) -> Array:
    """How far the arc of each arm carries the axle forward over that travel [m].

    Refused where the arm is too short. Wrong on a leaf by the choice of its effective length: where
    it starts, above or below level, matters more.

    >>> found = arm_shift(
    ...     np.array([0.6, 0.5]),
    ...     np.array([0.02, -0.01]),
    ...     np.array([-0.02469, 0.01469]),
    ... )
    >>> np.round(found, 7).tolist()
    [-0.0003151, -7.8e-05]
    """
    shift = forward(arm_length, arm_rise, arm_travel)
    refuse(np.isnan(shift), SIDE, "arm_length", "the arm is too short for that height and travel.")
    return shift


@figure(
    label="Rear steer",
    quantity="fine_angle",
    shape=CAR,
    formula="(Δx_R − Δx_L) / arm spacing",
    source=DIXON,
    sign="+ rear wheels aim left",
)
def rear_steer(arm_shift: Array, link_spacing: Array) -> Array:
    """How far the arms turn the axle in plan over that travel [rad].

    Wrong where the bushings give more than the arms steer.

    >>> np.round(rear_steer(np.array([-0.0003151, -7.804e-5]), 0.9), 7).tolist()
    0.0002634
    """
    return (arm_shift[..., 1] - arm_shift[..., 0]) / link_spacing


@figure(
    label="Left lead gained",
    quantity="fine_dimension",
    shape=CAR,
    formula="Δx_L − Δx_R",
    source=DIXON,
    sign="+ left end goes forward",
)
def left_lead_change(arm_shift: Array) -> Array:
    """Lead of the left end over the right one that the travel adds [m], at the arms.

    Wrong as the whole lead: add what the axle stands at.

    >>> np.round(left_lead_change(np.array([-0.0003151, -7.804e-5])), 7).tolist()
    -0.0002371
    """
    return arm_shift[..., 0] - arm_shift[..., 1]
