"""Downforce, the heights it leaves, and the softest spring that keeps the car off the ground (§2)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..graph.registry import figure
from . import rubber
from .shapes import axle_mean, either_way, refuse, spread

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 15"
AXLE = Shape.AXLE


@figure(
    label="Downforce",
    quantity="force",
    shape=AXLE,
    formula="F = ½·ρ·v²·(C_L·A)",
    source=RCVD,
    sign="+ presses down",
)
def downforce(lift_area: Array, speed: Array, air_density: Array) -> Array:
    """Aerodynamic load on each axle at the speed shown [N].

    Wrong where the area moves with ride height and rake: take it at the height it will run at.

    >>> np.round(downforce(np.array([0.6, 0.9]), 55.0, 1.163), 0).tolist()
    [1055.0, 1583.0]
    """
    return lift_area * spread(0.5 * air_density * speed**2)


@figure(
    label="Braking load transfer",
    quantity="force",
    shape=AXLE,
    formula="± m·a·h / L",
    source=RCVD,
    sign="+ onto this axle",
)
def braking_transfer(
    total_mass: Array, braking: Array, cg_height: Array, wheelbase: Array
) -> Array:
    """Load that the braking shown moves onto the front axle and off the rear [N].

    Wrong in the first tenths, before the body has settled.
    """
    moved = total_mass * braking * cg_height / wheelbase
    return either_way(moved)


@figure(
    label="Rear brake share for equal grip",
    quantity="share",
    shape=Shape.CAR,
    formula="(F_z rear − ΔW) / (m·g + downforce)",
    source="Gillespie, Fundamentals of Vehicle Dynamics, ch. 3",
)
def even_brake_share(pad_mass: Array, downforce: Array, braking_transfer: Array) -> Array:
    """The rear axle's part of the braking force at which both axles are used alike at the braking shown [1].

    Refused where the rear is off the ground. Wrong where the tyres of the axles grip unlike, and while
    turning.

    >>> found = even_brake_share(
    ...     np.array([300.0, 250.0, 200.0, 250.0]),
    ...     np.array([1056.0, 1583.0]),
    ...     np.array([1600.0, -1600.0]),
    ... )
    >>> np.round(found, 4).tolist()
    0.3532
    """
    rear = (pad_mass[..., 2] + pad_mass[..., 3]) * STANDARD_GRAVITY
    carries = rear + downforce[..., 1] + braking_transfer[..., 1]
    refuse(
        carries <= 0,
        Shape.CAR,
        "braking",
        "at this braking the rear wheels are off the ground.",
    )
    share: Array = carries / (pad_mass.sum(-1) * STANDARD_GRAVITY + downforce.sum(-1))
    return share


@figure(
    label="Rear brake share off equal grip",
    quantity="share_off",
    shape=Shape.CAR,
    formula="rear brake share − share for equal grip",
    source="Gillespie, Fundamentals of Vehicle Dynamics, ch. 3",
    sign="+ the rear locks first",
)
def brake_share_off(rear_brake_share: Array, even_brake_share: Array) -> Array:
    """How far the brakes are set from using both axles alike at the braking shown [share points].

    Below zero the front locks first, which keeps the car straight. Wrong as the share for equal grip is.

    >>> np.round(brake_share_off(0.4, 0.3533), 5).tolist()
    0.0467
    """
    return rear_brake_share - even_brake_share


@figure(
    label="Spring load at speed",
    quantity="force",
    shape=AXLE,
    formula="½·(F + ΔW·(1 − anti-dive))",
    source=RCVD,
)
def spring_load_at_speed(downforce: Array, braking_transfer: Array, anti_dive: Array) -> Array:
    """What downforce and braking add to the spring of one wheel, seen at the wheel [N].

    Wrong in a corner: roll adds to the outer wheel.

    >>> found = spring_load_at_speed(
    ...     np.array([1056.0, 1583.0]),
    ...     np.array([1600.0, -1600.0]),
    ...     np.array([0.2, 0.3]),
    ... )
    >>> np.round(found, 0).tolist()
    [1168.0, 232.0]
    """
    return 0.5 * (downforce + braking_transfer * (1 - anti_dive))


@figure(
    label="Suspension travel at speed",
    quantity="height",
    shape=AXLE,
    formula="spring and bump rubber under that load",
    source=RCVD,
    sign="+ bump",
)
def travel_at_speed(
    spring_load_at_speed: Array,
    wheel_rate: Array,
    rubber_curve: Array,
    rubber_gap: Array,
    rubber_motion_ratio: Array,
) -> Array:
    """How far the suspension closes at the speed and braking shown [m]; the rubber piece by piece.

    Wrong past the rubber's last measured point, and where heave is damped: it is the settled height.
    """
    return rubber.travel_under(
        spring_load_at_speed, axle_mean(wheel_rate), rubber_curve, rubber_gap, rubber_motion_ratio
    )


@figure(
    label="Tyre squash at speed",
    quantity="height",
    shape=AXLE,
    formula="(F + ΔW) / (2·k_t)",
    source=RCVD,
)
def tyre_squash_at_speed(downforce: Array, braking_transfer: Array, tyre_rate: Array) -> Array:
    """How far the tyres close at the speed and braking shown [m].

    Wrong at a speed at which the tyre itself grows.

    >>> found = tyre_squash_at_speed(
    ...     np.array([1056.0, 1583.0]),
    ...     np.array([1600.0, -1600.0]),
    ...     np.array([2e5, 2e5, 2e5, 2e5]),
    ... )
    >>> np.round(found, 6).tolist()
    [0.00664, -4.2e-05]
    """
    return (downforce + braking_transfer) / (2 * axle_mean(tyre_rate))


@figure(
    label="Height at speed",
    quantity="height",
    shape=AXLE,
    formula="axle height − suspension travel − tyre squash",
    source=RCVD,
)
def height_at_speed(
    axle_height: Array, travel_at_speed: Array, tyre_squash_at_speed: Array
) -> Array:
    """Settled height of the named places at the speed and braking shown [m].

    Wrong over bumps and in roll: keep room for both.

    >>> found = height_at_speed(
    ...     np.array([0.101, 0.1095]),
    ...     np.array([0.02893, 0.007242]),
    ...     np.array([0.006639, -4.126e-5]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.0654, 0.1023]
    """
    return axle_height - travel_at_speed - tyre_squash_at_speed


@figure(
    label="Clearance at speed",
    quantity="height",
    shape=AXLE,
    formula="height at speed − least allowed",
    source=RCVD,
    sign="− under the least allowed",
)
def clearance_at_speed(height_at_speed: Array, least_height: Array) -> Array:
    """Room left over the least allowed height [m]. Wrong over bumps and in roll.

    >>> found = clearance_at_speed(np.array([0.06543, 0.1023]), np.array([0.03, 0.03]))
    >>> np.round(found, 5).tolist()
    [0.03543, 0.0723]
    """
    return height_at_speed - least_height


@figure(
    label="Bump rubber force at speed",
    quantity="force",
    shape=AXLE,
    formula="from its curve, past the gap",
    source=RCVD,
)
def rubber_force_at_speed(
    travel_at_speed: Array, rubber_curve: Array, rubber_gap: Array, rubber_motion_ratio: Array
) -> Array:
    """Force along one bump rubber at the speed and braking shown [N].

    Wrong past its last measured point, where it goes on at the last slope.
    """
    return rubber.rubber_force(rubber_curve, travel_at_speed * rubber_motion_ratio - rubber_gap)


@figure(
    label="Travel to the bump rubber",
    quantity="height",
    shape=AXLE,
    formula="gap / MR_rubber",
    source=RCVD,
    only_with="bump_rubber",
)
def travel_to_rubber(rubber_gap: Array, rubber_motion_ratio: Array) -> Array:
    """Wheel travel from ride height to the rubber's first touch [m].

    Wrong where the ratio at the rubber changes much with travel.

    >>> np.round(travel_to_rubber(np.array([0.015, 0.02]), np.array([0.7, 0.8])), 5).tolist()
    [0.02143, 0.025]
    """
    return rubber_gap / rubber_motion_ratio


@figure(
    label="Softest wheel rate that clears",
    quantity="rate",
    shape=AXLE,
    formula="k_w ≥ ½·(F + ΔW·(1 − anti-dive)) / (static − least − (F + ΔW) / 2k_t)",
    source=RCVD,
)
def least_wheel_rate(
    spring_load_at_speed: Array,
    tyre_squash_at_speed: Array,
    axle_height: Array,
    least_height: Array,
) -> Array:
    """Softest wheel rate that keeps the axle over its least height, bump rubber left out [N/m].

    Refused where the car already stands too low, or the tyres alone use up the room. Wrong over
    bumps and in roll: keep room for both.
    """
    room = axle_height - least_height
    refuse(
        room <= 0,
        AXLE,
        "least_height",
        "the static height is already at or under the least allowed height.",
    )
    left = room - tyre_squash_at_speed
    refuse(
        left <= 0, AXLE, "tyre_rate", "the tyres alone let the axle down too far: no spring clears."
    )
    return np.maximum(spring_load_at_speed, 0.0) / left


@figure(
    label="Softest ride rate that clears",
    quantity="rate",
    shape=AXLE,
    formula="that wheel rate in series with the tyre",
    source=RCVD,
)
def least_ride_rate(least_wheel_rate: Array, tyre_rate: Array) -> Array:
    """Softest ride rate that keeps the axle over its least height [N/m]. Wrong as the rate above.

    >>> found = least_ride_rate(np.array([1.815e4, 2914.0]), np.array([2e5, 2e5, 2e5, 2e5]))
    >>> np.round(found, 0).tolist()
    [16640.0, 2872.0]
    """
    tyre = axle_mean(tyre_rate)
    return least_wheel_rate * tyre / (least_wheel_rate + tyre)
