"""Side view of a live axle at ride height: instant centre, anti-squat, bars, pinion (reference §8).

Bolts (…, 4) are upper chassis, upper axle, lower chassis, lower axle; x ahead of the rear axle centre
line, z above the ground. Through travel see `geometry.four_bar` and `solve.side_view`.
"""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..errors import Impossible
from ..geometry.four_bar import LOWER_AXLE, UPPER_AXLE, instant_centre, lower_line, upper_line
from ..geometry.plane import Triple, is_coincident
from ..graph.registry import figure
from .shapes import refuse, refuse_undriven, worked_once

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 17"
GILLESPIE = "Gillespie, Fundamentals of Vehicle Dynamics, ch. 7"
CAR = Shape.CAR


@worked_once
def _centre(bolt_x: Array, bolt_z: Array) -> Triple:
    centre = instant_centre(bolt_x, bolt_z)
    if not (np.isfinite(centre[0]) & (centre[2] != 0)).all():
        _refuse_degenerate(bolt_x, bolt_z, centre)
    return centre


def _refuse_degenerate(bolt_x: Array, bolt_z: Array, centre: Triple) -> None:
    """Raise Impossible for a bar of no length, or two bars on one line; parallel ones pass."""
    short = (np.abs(bolt_x[..., 0::2] - bolt_x[..., 1::2]) < 1e-6) & (
        np.abs(bolt_z[..., 0::2] - bolt_z[..., 1::2]) < 1e-6
    )
    refuse(short, CAR, "bolt_x", "both bolts of a bar lie in one place: measure it again.")
    refuse(
        is_coincident(centre),
        CAR,
        "bolt_z",
        "upper and lower bar lie on one line: no instant centre is singled out.",
    )


def _finite(centre: Triple) -> Triple:
    """The centre, where it is not at infinity. Raises Impossible with the bars' slope."""
    x, z, w = (np.asarray(part) for part in centre)
    if not w.all():
        at = int(np.argmax((w == 0).reshape(-1)))
        along, up = float(x.reshape(-1)[at]), float(z.reshape(-1)[at])
        slope = f"with a slope of {up / along:+.4f}" if abs(along) > 1e-12 else "upright"
        raise Impossible(
            f"The bars are parallel, {slope}: the instant centre lies at infinity. Anti-squat still "
            "holds.",
            number="bolt_x",
        )
    return centre


@figure(
    label="Slope to the instant centre",
    quantity="slope",
    shape=CAR,
    formula="z_IC / x_IC, or the bars' own slope where parallel",
    source=RCVD,
    sign="+ rises to the front",
)
def swing_slope(bolt_x: Array, bolt_z: Array) -> Array:
    """Slope of the line from the rear contact patch to the instant centre [-].

    Parallel bars give their own slope. Refused where the instant centre is straight above the axle.
    Wrong where brakes or drive are not carried by the axle housing.
    """
    x, z, _ = _centre(bolt_x, bolt_z)
    refuse(
        np.abs(x) <= 1e-9 * np.hypot(x, z),
        CAR,
        "bolt_x",
        "the instant centre is straight above the axle: anti-squat has no value there.",
    )
    return z / x


@figure(
    label="IC ahead of the axle",
    quantity="dimension",
    shape=CAR,
    formula="x where the two bar lines meet",
    source=RCVD,
    sign="− behind it",
)
def ic_x(bolt_x: Array, bolt_z: Array) -> Array:
    """Length of the instant centre [m], from the rear axle forward.

    Refused where the bars are parallel: it is then at infinity, with their slope. Wrong where the
    rod ends or bushings give: the working centre wanders.

    >>> found = ic_x(np.array([0.45, 0.04, 0.6, 0.03]), np.array([0.34, 0.44, 0.2, 0.17]))
    >>> np.round(found, 4).tolist()
    0.9487
    """
    x, _, w = _finite(_centre(bolt_x, bolt_z))
    return x / w


@figure(
    label="IC above the ground",
    quantity="dimension",
    shape=CAR,
    formula="z where the two bar lines meet",
    source=RCVD,
)
def ic_z(bolt_x: Array, bolt_z: Array) -> Array:
    """Height of the instant centre [m], above the ground.

    Refused where the bars are parallel. Wrong where the rod ends or bushings give.

    >>> found = ic_z(np.array([0.45, 0.04, 0.6, 0.03]), np.array([0.34, 0.44, 0.2, 0.17]))
    >>> np.round(found, 4).tolist()
    0.2184
    """
    _, z, w = _finite(_centre(bolt_x, bolt_z))
    return z / w


@figure(
    label="IC of the torque arm above the ground",
    quantity="dimension",
    shape=CAR,
    formula="z_bolt − x_pivot · rise / √(length² − rise²)",
    source=RCVD,
)
def torque_arm_ic_z(
    torque_arm_x: Array, lower_bolt_z: Array, arm_length: Array, arm_rise: Array
) -> Array:
    """Height of the instant centre [m]: under or over the arm's front pivot, on the lower arms' line.

    The arm is rigid with the housing and its pivot slides fore and aft. Refused for a rise beyond the
    arm's length. Wrong where the pivot is held
    fore and aft as well, or its bush is soft.
    """
    sine = arm_rise / arm_length
    refuse(np.abs(sine) >= 1, Shape.SIDE, "arm_rise", "the arm rises more than its length.")
    slope: Array = sine / np.sqrt(1 - sine * sine)
    return lower_bolt_z - 0.5 * torque_arm_x * (slope[..., 0] + slope[..., 1])


@figure(
    label="Slope to the torque arm's instant centre",
    quantity="slope",
    shape=CAR,
    formula="z_IC / x_pivot",
    source=RCVD,
    sign="+ rises to the front",
)
def torque_arm_slope(torque_arm_ic_z: Array, torque_arm_x: Array) -> Array:
    """Slope of the line from the rear contact patch to the torque arm's instant centre [-].

    Wrong as the height of the instant centre is.

    >>> np.round(torque_arm_slope(0.1927, 1.1), 4).tolist()
    0.1752
    """
    return torque_arm_ic_z / torque_arm_x


@figure(
    label="Slope to the ladder bars' pivot",
    quantity="slope",
    shape=CAR,
    formula="z_pivot / x_pivot",
    source=RCVD,
    sign="+ rises to the front",
)
def ladder_slope(ladder_pivot_x: Array, ladder_pivot_z: Array) -> Array:
    """Slope of the line from the rear contact patch to the front pivot of ladder bars [-].

    They are one with the housing, so that pivot is the instant centre. Wrong where the bars float on
    the housing.

    >>> np.round(ladder_slope(0.8, 0.28), 4).tolist()
    0.35
    """
    return ladder_pivot_z / ladder_pivot_x


@figure(
    label="Slope of the rear links",
    quantity="slope",
    shape=CAR,
    formula="z_IC / x_IC of the links, torque arm or ladder bars fitted",
    source=RCVD,
    sign="+ rises to the front",
)
def links_slope(
    swing_slope: Array | None = None,
    torque_arm_slope: Array | None = None,
    ladder_slope: Array | None = None,
) -> Array:
    """Slope from the rear contact patch to the instant centre of whatever locates the axle [-].

    Wrong as the one that it is taken from.

    >>> np.round(links_slope(0.2302, 0.1751, 0.35), 4).tolist()
    0.2302
    """
    known = (swing_slope, torque_arm_slope, ladder_slope)
    return next(one for one in known if one is not None)


@figure(
    label="Anti-squat",
    quantity="anti",
    shape=CAR,
    formula="AS = (z_IC / x_IC) / (h_CG / L)",
    source=RCVD,
)
def anti_squat(
    links_slope: Array, cg_height: Array, wheelbase: Array, rear_drive_share: Array
) -> Array:
    """Share of the rear axle's part of the launch's load transfer that its links carry at once [1 = 100 %],
    axle mass neglected.

    Load gained by the rear is m·a·h/L whatever it is: this sets how fast, and which way the body goes.
    Refused where only the front wheels drive. Wrong where the drive is not carried by the housing
    (independent rear), or the CG height is a rule of thumb: it moves in proportion.
    """
    refuse_undriven(rear_drive_share)
    return links_slope * wheelbase / cg_height


@figure(
    label="Anti-lift in braking",
    quantity="anti",
    shape=CAR,
    formula="(z_IC / x_IC) / (h_CG / L) · rear brake share",
    source=GILLESPIE,
)
def anti_lift(
    links_slope: Array, cg_height: Array, wheelbase: Array, rear_brake_share: Array
) -> Array:
    """Share of the braking load transfer that holds the rear down through its links [1 = 100 %].

    Wrong where the brakes are not on the axle housing (inboard, or floating calipers).
    """
    return links_slope * wheelbase / cg_height * rear_brake_share


@figure(label="Upper bar", quantity="dimension", shape=CAR, formula="√(Δx² + Δz²)", source=RCVD)
def upper_bar_length(bolt_x: Array, bolt_z: Array) -> Array:
    """Length of the upper bar in side view, bolt to bolt [m].

    Wrong where the bar runs across the car too: its true length is greater.

    >>> found = upper_bar_length(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 4).tolist()
    0.422
    """
    return np.hypot(bolt_x[..., 0] - bolt_x[..., 1], bolt_z[..., 0] - bolt_z[..., 1])


@figure(label="Lower bar", quantity="dimension", shape=CAR, formula="√(Δx² + Δz²)", source=RCVD)
def lower_bar_length(bolt_x: Array, bolt_z: Array) -> Array:
    """Length of the lower bar in side view, bolt to bolt [m].

    Wrong where the bar runs across the car too: its true length is greater.

    >>> found = lower_bar_length(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 4).tolist()
    0.5708
    """
    return np.hypot(bolt_x[..., 2] - bolt_x[..., 3], bolt_z[..., 2] - bolt_z[..., 3])


def _slope(bolt_x: Array, bolt_z: Array, axle: int) -> Array:
    run = bolt_x[..., axle - 1] - bolt_x[..., axle]
    refuse(np.abs(run) < 1e-9, CAR, "bolt_x", "a bar stands upright in side view.")
    slope: Array = (bolt_z[..., axle - 1] - bolt_z[..., axle]) / run
    return slope


@figure(
    label="Upper bar slope",
    quantity="slope",
    shape=CAR,
    formula="Δz / Δx",
    source=RCVD,
    sign="+ uphill to the front",
)
def upper_bar_slope(bolt_x: Array, bolt_z: Array) -> Array:
    """Rise of the upper bar to the front [-]. Refused where it stands upright.

    Wrong away from ride height.

    >>> found = upper_bar_slope(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 4).tolist()
    -0.2439
    """
    return _slope(bolt_x, bolt_z, UPPER_AXLE)


@figure(
    label="Lower bar slope",
    quantity="slope",
    shape=CAR,
    formula="Δz / Δx",
    source=RCVD,
    sign="+ uphill to the front",
)
def lower_bar_slope(bolt_x: Array, bolt_z: Array) -> Array:
    """Rise of the lower bar to the front [-]; level or slightly up on a stock-type car.

    Wrong away from ride height.

    >>> found = lower_bar_slope(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 5).tolist()
    0.05263
    """
    return _slope(bolt_x, bolt_z, LOWER_AXLE)


@figure(
    label="Bar lines apart at the axle",
    quantity="dimension",
    shape=CAR,
    formula="e = z_upper(0) − z_lower(0)",
    source=RCVD,
)
def bar_lines_apart(bolt_x: Array, bolt_z: Array) -> Array:
    """Vertical distance of the two bar lines in the axle's plane [m]: the lever of a bar's length.

    Refused where a bar stands upright or the lines cross there.

    Wrong where the bars also run across the car.

    >>> found = bar_lines_apart(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 4).tolist()
    0.2813
    """
    upper, lower = upper_line(bolt_x, bolt_z), lower_line(bolt_x, bolt_z)
    refuse(
        (np.abs(upper[1]) < 1e-9) | (np.abs(lower[1]) < 1e-9),
        CAR,
        "bolt_x",
        "a bar stands upright in side view.",
    )
    apart = lower[2] / lower[1] - upper[2] / upper[1]
    refuse(np.abs(apart) < 1e-6, CAR, "bolt_z", "the two bar lines cross at the axle.")
    return apart


@figure(
    label="Pinion change per bump",
    quantity="angle_per_travel",
    shape=CAR,
    formula="−1 / x_IC",
    source=RCVD,
    sign="− nose goes down in bump",
)
def pinion_per_bump(bolt_x: Array, bolt_z: Array) -> Array:
    """How the housing turns as the axle rises [rad/m]; parallel bars do not turn it: zero.

    Wrong over a large travel: it is the slope at ride height, see the travel sweep.

    >>> found = pinion_per_bump(
    ...     np.array([0.45, 0.04, 0.6, 0.03]),
    ...     np.array([0.34, 0.44, 0.2, 0.17]),
    ... )
    >>> np.round(found, 3).tolist()
    -1.054
    """
    x, _, w = _centre(bolt_x, bolt_z)
    refuse(np.abs(x) < 1e-12, CAR, "bolt_x", "the instant centre is straight above the axle.")
    return -w / x


@figure(
    label="Shaft slope",
    quantity="angle",
    shape=CAR,
    formula="atan((z_gearbox − z_pinion) / (x_gearbox − x_pinion))",
    source=GILLESPIE,
    sign="+ uphill to the front",
)
def shaft_slope(
    pinion_joint_x: Array, pinion_joint_z: Array, gearbox_joint_x: Array, gearbox_joint_z: Array
) -> Array:
    """Slope of the propeller shaft at ride height [rad].

    Refused where the gearbox joint is not ahead. Wrong where the shaft is in two pieces.
    """
    ahead = gearbox_joint_x - pinion_joint_x
    refuse(
        ahead <= 0, CAR, "gearbox_joint_x", "the gearbox joint must be ahead of the pinion joint."
    )
    return np.arctan2(gearbox_joint_z - pinion_joint_z, ahead)


@figure(
    label="Pinion slope",
    quantity="angle",
    shape=CAR,
    formula="pinion angle + shaft slope",
    source=GILLESPIE,
    sign="+ uphill to the front",
)
def pinion_slope(pinion_angle: Array, shaft_slope: Array) -> Array:
    """Slope of the pinion's own axis at ride height [rad].

    Wrong where the pinion angle was read in another state than the shaft's joints.

    >>> np.round(pinion_slope(-0.03, 0.03635), 6).tolist()
    0.00635
    """
    return pinion_angle + shaft_slope


@figure(
    label="Rear joint angle",
    quantity="angle",
    shape=CAR,
    formula="|pinion angle|",
    source=GILLESPIE,
)
def rear_joint_angle(pinion_angle: Array) -> Array:
    """Operating angle of the rear universal joint at ride height, in side view [rad].

    Wrong where the shaft also runs across the car: add that angle in plan.

    >>> np.round(rear_joint_angle(-0.03), 5).tolist()
    0.03
    """
    return np.abs(pinion_angle)


@figure(
    label="Front joint angle",
    quantity="angle",
    shape=CAR,
    formula="|shaft slope − gearbox slope|",
    source=GILLESPIE,
)
def front_joint_angle(shaft_slope: Array, gearbox_slope: Array) -> Array:
    """Operating angle of the front universal joint at ride height, in side view [rad].

    Wrong where the shaft also runs across the car: add that angle in plan.

    >>> np.round(front_joint_angle(0.03635, 0.03), 6).tolist()
    0.00635
    """
    return np.abs(shaft_slope - gearbox_slope)
