"""The launch as a steady state: load moved, bodies moved, strokes left (reference §8)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..geometry.four_bar import lower_line, upper_line
from ..graph.registry import figure
from .shapes import FRONT, REAR, axle_mean, refuse, refuse_undriven, worked_once

GILLESPIE = "Gillespie, Fundamentals of Vehicle Dynamics, ch. 1 and 7"
CAR = Shape.CAR


@figure(
    label="Front axle mass",
    quantity="mass",
    shape=CAR,
    formula="front share · total",
    source=GILLESPIE,
)
def front_axle_mass(front_share: Array, total_mass: Array) -> Array:
    """What the two front pads carry [kg].

    Wrong where fuel or driver were not as they run.

    >>> np.round(front_axle_mass(0.55, 1000.0), 1).tolist()
    550.0
    """
    return front_share * total_mass


@figure(
    label="Launch load transfer",
    quantity="force",
    shape=CAR,
    formula="ΔW = m·a·h / L",
    source=GILLESPIE,
)
def launch_transfer(
    total_mass: Array,
    launch_acceleration: Array,
    cg_height: Array,
    wheelbase: Array,
    front_axle_mass: Array,
) -> Array:
    """Load that leaves the front axle for the rear at the launch shown [N], both wheels together.

    Refused where it exceeds what the front axle stands on: the front wheels are up. Wrong in the
    first tenths, while the body is still moving.
    """
    moved = total_mass * launch_acceleration * cg_height / wheelbase
    refuse(
        moved > front_axle_mass * STANDARD_GRAVITY,
        CAR,
        "launch_acceleration",
        "at this launch the front wheels are up: the load transfer exceeds the front axle's "
        "static load.",
    )
    return moved


@figure(
    label="Rear separation",
    quantity="height",
    shape=CAR,
    formula="(AS·p − 1)·ΔW / (2·k_w),  p the rear's part of the drive",
    source=GILLESPIE,
    sign="+ separates, − squats",
)
def rear_separation(
    launch_transfer: Array, anti_squat: Array, rear_drive_share: Array, wheel_rate: Array
) -> Array:
    """Body away from the axle at the rear, settled at the launch shown [m].

    Wrong beyond the droop or bump travel there is, and before the damper has let it get there.
    """
    carried = anti_squat * rear_drive_share - 1
    return carried * launch_transfer / (2 * axle_mean(wheel_rate)[..., REAR])


@figure(
    label="Rear tyre squash", quantity="height", shape=CAR, formula="ΔW / (2·k_t)", source=GILLESPIE
)
def rear_tyre_squash(launch_transfer: Array, tyre_rate: Array) -> Array:
    """How far the launch presses the rear tyres down [m].

    Wrong on wrinkle-wall tyres, which also grow and wind up.

    >>> np.round(rear_tyre_squash(2400.0, np.array([2e5, 2e5, 2e5, 2e5])), 6).tolist()
    0.006
    """
    return launch_transfer / (2 * axle_mean(tyre_rate)[..., REAR])


@figure(
    label="Front rise, free", quantity="height", shape=CAR, formula="ΔW / (2·k_w)", source=GILLESPIE
)
def front_rise_free(launch_transfer: Array, wheel_rate: Array) -> Array:
    """How far the front would rise at the wheel with no limiter [m].

    Wrong where the springs come loose on the way: see what is left at full droop.

    >>> np.round(front_rise_free(2400.0, np.array([3.2e4, 3.2e4, 3.2e4, 3.2e4])), 5).tolist()
    0.0375
    """
    return launch_transfer / (2 * axle_mean(wheel_rate)[..., FRONT])


@figure(
    label="Front rise",
    quantity="height",
    shape=CAR,
    formula="least of free rise and limiter",
    source=GILLESPIE,
    only_with="front_limiter",
)
def front_rise(front_rise_free: Array, front_limiter: Array) -> Array:
    """How far the front rises at the wheel, up to its limiter [m].

    Wrong where the limiter is a strap that stretches.

    >>> np.round(front_rise(0.0375, 0.08), 5).tolist()
    0.0375
    """
    return np.minimum(front_rise_free, front_limiter)


@figure(
    label="Limiter left in the launch",
    quantity="height",
    shape=CAR,
    formula="limiter − free rise",
    source=GILLESPIE,
    only_with="front_limiter",
    sign="− it stops the front",
)
def limiter_left(front_limiter: Array, front_rise_free: Array) -> Array:
    """How much farther the front could rise before its limiter [m]; below zero the limiter carries.

    Wrong where the limiter is a strap that stretches.

    >>> np.round(limiter_left(0.08, 0.0375), 5).tolist()
    0.0425
    """
    return front_limiter - front_rise_free


@figure(
    label="Front wheels up at the wheelie bar",
    quantity="height",
    shape=CAR,
    formula="gap · L / reach",
    source="Similar triangles about the rear contact patch",
    only_with="wheelie_bar_reach",
)
def wheelie_bar_lift(wheelie_bar_gap: Array, wheelie_bar_reach: Array, wheelbase: Array) -> Array:
    """How high the front wheels hang when the wheelie bar touches down [m], the rear at ride height.

    Refused for a bar over the axle. Wrong where the rear squats or separates first, or the bar is on
    the housing and turns with it.

    >>> np.round(wheelie_bar_lift(0.06, 1.5, 2.5), 4).tolist()
    0.1
    """
    refuse(wheelie_bar_reach <= 0, CAR, "wheelie_bar_reach", "the bar has no reach.")
    return wheelie_bar_gap * wheelbase / wheelie_bar_reach


@figure(
    label="Shaft showing in the launch",
    quantity="height",
    shape=CAR,
    formula="shaft showing + separation · MR_d",
    source=GILLESPIE,
)
def shaft_in_launch(
    shaft_showing: Array, rear_separation: Array, damper_motion_ratio: Array
) -> Array:
    """Rear damper shaft visible while launching [m]; it must stay between closed and full stroke.

    Wrong where the mount gives way under the load.

    >>> found = shaft_in_launch(
    ...     np.array([0.07, 0.08]),
    ...     0.005653,
    ...     np.array([0.85, 0.85, 0.85, 0.85]),
    ... )
    >>> np.round(found, 5).tolist()
    0.08481
    """
    ratio = axle_mean(damper_motion_ratio)[..., REAR]
    return shaft_showing[..., REAR] + rear_separation * ratio


@figure(
    label="Stroke left open in the launch",
    quantity="height",
    shape=CAR,
    formula="stroke − shaft showing in the launch",
    source=GILLESPIE,
    sign="− tops out by that much",
)
def stroke_left_open(damper_stroke: Array, shaft_in_launch: Array) -> Array:
    """What the rear damper can still open while launching [m]; below zero it tops out.

    Wrong where a limiter stops the axle first.

    >>> np.round(stroke_left_open(np.array([0.15, 0.16]), 0.08481), 5).tolist()
    0.07519
    """
    return damper_stroke[..., REAR] - shaft_in_launch


@worked_once
def _bar_forces(
    total_mass: Array, acceleration: Array, rear_drive_share: Array, bolt_x: Array, bolt_z: Array
) -> tuple[Array, Array]:
    """Both bars of one side: they pass half the drive on and have no moment about the tyre's contact.

    Tyre and spring forces go through that point, or straight above it, so the bars alone balance.
    """
    refuse_undriven(rear_drive_share)
    upper, lower = upper_line(bolt_x, bolt_z), lower_line(bolt_x, bolt_z)
    # a scaled line's parts: its rise, its run, its distance from the contact patch
    balance = upper[2] * lower[1] - lower[2] * upper[1]
    refuse(
        np.abs(balance) < 1e-9,
        CAR,
        "bolt_x",
        "the bars cannot carry the drive: both run through one height at the axle.",
    )
    half = 0.5 * total_mass * acceleration * rear_drive_share / balance
    return -half * lower[2], half * upper[2]


@figure(
    label="Upper bar force",
    quantity="force",
    shape=CAR,
    formula="F_u·cos θ_u + F_l·cos θ_l = ½·m·a·p;  F_u·p_u + F_l·p_l = 0",
    source=GILLESPIE,
    sign="+ pushes, − pulls the chassis",
)
def upper_bar_force(
    total_mass: Array,
    launch_acceleration: Array,
    rear_drive_share: Array,
    bolt_x: Array,
    bolt_z: Array,
) -> Array:
    """Force along one upper bar at the launch shown [N]; p is each bar's distance from the contact.

    Refused where the bars cannot carry it. Wrong as a strength figure: bumps and tyre shake are
    several times that; and where left and right are preloaded against each other.
    """
    return _bar_forces(total_mass, launch_acceleration, rear_drive_share, bolt_x, bolt_z)[0]


@figure(
    label="Lower bar force",
    quantity="force",
    shape=CAR,
    formula="F_u·cos θ_u + F_l·cos θ_l = ½·m·a·p;  F_u·p_u + F_l·p_l = 0",
    source=GILLESPIE,
    sign="+ pushes, − pulls the chassis",
)
def lower_bar_force(
    total_mass: Array,
    launch_acceleration: Array,
    rear_drive_share: Array,
    bolt_x: Array,
    bolt_z: Array,
) -> Array:
    """Force along one lower bar at the launch shown [N].

    Refused where the bars cannot carry it. Wrong as a strength figure: bumps and tyre shake are
    several times that; and where left and right are preloaded against each other.
    """
    return _bar_forces(total_mass, launch_acceleration, rear_drive_share, bolt_x, bolt_z)[1]


@figure(
    label="Damper closes by",
    quantity="height",
    shape=Shape.AXLE,
    formula="bump travel · MR_d",
    source=GILLESPIE,
)
def shaft_needed_in_bump(bump_travel: Array, damper_motion_ratio: Array) -> Array:
    """Damper stroke that full bump takes, mean of both sides [m].

    Wrong where a bump rubber stops the wheel earlier.

    >>> found = shaft_needed_in_bump(
    ...     np.array([0.06, 0.06, 0.06, 0.06]),
    ...     np.array([0.85, 0.85, 0.85, 0.85]),
    ... )
    >>> np.round(found, 5).tolist()
    [0.051, 0.051]
    """
    return axle_mean(bump_travel * damper_motion_ratio)


@figure(
    label="Damper left to close",
    quantity="height",
    shape=Shape.AXLE,
    formula="shaft showing − bump travel · MR_d",
    source=GILLESPIE,
    sign="− bottoms by that much",
)
def stroke_left_closed(shaft_showing: Array, shaft_needed_in_bump: Array) -> Array:
    """Shaft left at full bump [m]; below zero the damper bottoms before the wheel's stop.

    Wrong where a bump rubber stops the wheel earlier.

    >>> np.round(stroke_left_closed(np.array([0.07, 0.08]), np.array([0.051, 0.051])), 5).tolist()
    [0.019, 0.029]
    """
    return shaft_showing - shaft_needed_in_bump


@figure(
    label="Load onto the left rear from shaft torque",
    quantity="force",
    shape=CAR,
    formula="m·a·p·r / (ratio·t_R)",
    source=GILLESPIE,
    sign="+ onto the left rear, off the right",
)
def shaft_load_shift(
    total_mass: Array,
    launch_acceleration: Array,
    rear_drive_share: Array,
    loaded_radius: Array,
    final_drive: Array,
    track: Array,
) -> Array:
    """Load that the shaft's torque moves from the right rear tyre to the left at the launch shown [N].

    Before the body hands part of it back through springs and bar: the car under load tells what is
    left. Wrong where the shaft turns the other way.
    """
    refuse_undriven(rear_drive_share)
    drive = total_mass * launch_acceleration * rear_drive_share
    torque = drive * loaded_radius[..., REAR] / final_drive
    found: Array = torque / track[..., REAR]
    return found
