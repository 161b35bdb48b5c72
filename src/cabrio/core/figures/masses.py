"""Corner loads: shares, bite, where the mass sits, and what each spring carries (reference §1)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..graph.registry import figure
from .shapes import FRONT, LF, LR, REAR, RF, RR, refuse

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 18"


@figure(label="Total", quantity="mass", shape=Shape.CAR, formula="LF + RF + LR + RR", source=RCVD)
def total_mass(pad_mass: Array) -> Array:
    """Mass on the four pads [kg]: the car as it stood, driver and fuel as the reading says.

    Refused where a pad reads below zero or all read nothing.

    Wrong where the car stood without driver, fuel or panels it runs with.

    >>> np.round(total_mass(np.array([300.0, 250.0, 200.0, 250.0])), 0).tolist()
    1000.0
    """
    refuse(pad_mass < 0, Shape.CORNER, "pad_mass", "a pad cannot read below zero.")
    total: Array = pad_mass.sum(axis=-1)
    refuse(total <= 0, Shape.CAR, "pad_mass", "The pads read nothing: is the car on them?")
    return total


@figure(
    label="Front share", quantity="share", shape=Shape.CAR, formula="(LF + RF) / total", source=RCVD
)
def front_share(pad_mass: Array, total_mass: Array) -> Array:
    """Front axle's part of the total [0..1]. Only moving or adding mass changes it, never a perch.

    Wrong where fuel or driver were not as they run.

    >>> np.round(front_share(np.array([300.0, 250.0, 200.0, 250.0]), 1000.0), 4).tolist()
    0.55
    """
    return (pad_mass[..., LF] + pad_mass[..., RF]) / total_mass


@figure(
    label="Left share", quantity="share", shape=Shape.CAR, formula="(LF + LR) / total", source=RCVD
)
def left_share(pad_mass: Array, total_mass: Array) -> Array:
    """Left side's part of the total [0..1]. Only moving or adding mass changes it, never a perch.

    Wrong where the driver was not aboard.

    >>> np.round(left_share(np.array([300.0, 250.0, 200.0, 250.0]), 1000.0), 4).tolist()
    0.5
    """
    return (pad_mass[..., LF] + pad_mass[..., LR]) / total_mass


@figure(label="Cross", quantity="share", shape=Shape.CAR, formula="(RF + LR) / total", source=RCVD)
def cross_share(pad_mass: Array, total_mass: Array) -> Array:
    """The diagonal right front and left rear [0..1]: moved by perches, link and bar preload.

    Wrong where a bar was connected and loaded, or the car not settled.

    >>> np.round(cross_share(np.array([300.0, 250.0, 200.0, 250.0]), 1000.0), 4).tolist()
    0.45
    """
    return (pad_mass[..., RF] + pad_mass[..., LR]) / total_mass


@figure(
    label="Rear bite",
    quantity="mass",
    shape=Shape.CAR,
    formula="LR − RR",
    source=RCVD,
    sign="+ left rear heavier",
)
def rear_bite(pad_mass: Array) -> Array:
    """Difference of the rear pads [kg], positive with the left rear heavier.

    Wrong where a bar or a link was loaded while the pads were read.

    >>> np.round(rear_bite(np.array([300.0, 250.0, 200.0, 250.0])), 2).tolist()
    -50.0
    """
    return pad_mass[..., LR] - pad_mass[..., RR]


@figure(
    label="Balanced cross",
    quantity="share",
    shape=Shape.CAR,
    formula="f·(1 − l) + (1 − f)·l,  f front share, l left share",
    source=RCVD,
)
def balanced_cross(front_share: Array, left_share: Array) -> Array:
    """The cross at which LF:RF equals LR:RR, for this car's own front and left share [0..1].

    It is 50 % only where the left share or the front share is 50 %.

    Wrong as a target where one turn direction rules: then the record speaks.

    >>> np.round(balanced_cross(0.55, 0.5), 4).tolist()
    0.5
    """
    return front_share * (1 - left_share) + (1 - front_share) * left_share


@figure(
    label="Cross off balance",
    quantity="share_off",
    shape=Shape.CAR,
    formula="cross − balanced cross",
    source=RCVD,
    sign="+ wedge in",
)
def cross_off_balance(cross_share: Array, balanced_cross: Array) -> Array:
    """How far the cross stands from the balanced one [share points]; positive loads RF and LR.

    Wrong as a fault by itself: link preload puts it there on purpose.

    >>> np.round(cross_off_balance(0.45, 0.5), 5).tolist()
    -0.05
    """
    return cross_share - balanced_cross


@figure(
    label="CG behind front axle",
    quantity="dimension",
    shape=Shape.CAR,
    formula="a = L·(1 − front share)",
    source=RCVD,
)
def cg_behind_front(wheelbase: Array, front_share: Array) -> Array:
    """Fore-aft place of the centre of gravity, back from the front axle line [m].

    Wrong where fuel or driver were not as they run.

    >>> np.round(cg_behind_front(2.5, 0.55), 3).tolist()
    1.125
    """
    return wheelbase * (1 - front_share)


@figure(
    label="CG off centre",
    quantity="dimension",
    shape=Shape.CAR,
    formula="y = ((LF − RF)·t_F + (LR − RR)·t_R) / (2·total)",
    source=RCVD,
    sign="+ to the left",
)
def cg_offset(pad_mass: Array, track: Array, total_mass: Array) -> Array:
    """Sideways place of the centre of gravity [m], positive to the left.

    With unequal tracks the left share alone does not give it.

    Wrong by the wheels' own camber and scrub: tracks are taken between tyre centre lines.

    >>> found = cg_offset(np.array([300.0, 250.0, 200.0, 250.0]), np.array([1.5, 1.6]), 1000.0)
    >>> np.round(found, 6).tolist()
    -0.0025
    """
    front = (pad_mass[..., LF] - pad_mass[..., RF]) * track[..., 0]
    rear = (pad_mass[..., LR] - pad_mass[..., RR]) * track[..., 1]
    return (front + rear) / (2 * total_mass)


@figure(
    label="Sprung mass",
    quantity="mass",
    shape=Shape.CORNER,
    formula="pad − unsprung mass",
    source=RCVD,
)
def sprung_mass(pad_mass: Array, unsprung_mass: Array) -> Array:
    """What the spring of this corner carries, at the wheel [kg]. Frequency uses this, not the pad.

    Refused where the unsprung mass is not less than the pad reading.

    Wrong where the unsprung mass is a guess: at a light corner it moves the frequency.

    >>> found = sprung_mass(
    ...     np.array([300.0, 250.0, 200.0, 250.0]),
    ...     np.array([30.0, 30.0, 30.0, 30.0]),
    ... )
    >>> np.round(found, 1).tolist()
    [270.0, 220.0, 170.0, 220.0]
    """
    sprung = pad_mass - unsprung_mass
    refuse(
        sprung <= 0,
        Shape.CORNER,
        "unsprung_mass",
        "the unsprung mass must be less than what the pad reads.",
    )
    return sprung


@figure(
    label="CG ahead of rear axle",
    quantity="dimension",
    shape=Shape.CAR,
    formula="b = L·front share",
    source=RCVD,
)
def cg_ahead_of_rear(wheelbase: Array, front_share: Array) -> Array:
    """Fore-aft place of the centre of gravity, forward from the rear axle line [m].

    Wrong where fuel or driver were not as they run.

    >>> np.round(cg_ahead_of_rear(2.5, 0.55), 3).tolist()
    1.375
    """
    return wheelbase * front_share


@figure(
    label="Tilt",
    quantity="angle",
    shape=Shape.CAR,
    formula="L·sin θ + Δr·cos θ = lift + Δr",
    source=RCVD,
)
def tilt_angle(rear_lift: Array, wheelbase: Array, loaded_radius: Array) -> Array:
    """Pitch of the car with its rear axle raised [rad], unequal tyres counted in.

    Refused where the rear is not raised, or further than the wheelbase reaches. Wrong with the
    suspension free: lock it, or the body pitches on its springs.

    >>> np.round(tilt_angle(0.4, 2.5, np.array([0.3, 0.32])), 4).tolist()
    0.1608
    """
    bigger = loaded_radius[..., REAR] - loaded_radius[..., FRONT]
    refuse(rear_lift <= 0, Shape.CAR, "rear_lift", "The rear axle must be raised.")
    sine = (rear_lift + bigger) / np.hypot(wheelbase, bigger)
    refuse(
        np.abs(sine) >= 1,
        Shape.CAR,
        "rear_lift",
        "The rear cannot be raised further than the wheelbase is long.",
    )
    return np.arcsin(sine) - np.arctan2(bigger, wheelbase)


@figure(
    label="CG height by tilt test",
    quantity="dimension",
    shape=Shape.CAR,
    formula="h = r + ΔW_f·(L − Δr·tan θ) / (W·tan θ),  r = r_F + Δr·a/L",
    source=RCVD,
)
def tilted_cg_height(
    front_raised_mass: Array,
    front_share: Array,
    total_mass: Array,
    tilt_angle: Array,
    wheelbase: Array,
    loaded_radius: Array,
) -> Array:
    """Height of the centre of gravity from the front pads' gain with the rear raised [m].

    Refused where it comes out under the ground. Wrong with a small lift: the pads' last digit then
    moves it by centimetres; fuel that runs forward does too.
    """
    bigger = loaded_radius[..., REAR] - loaded_radius[..., FRONT]
    gain = front_raised_mass - front_share * total_mass
    tangent = np.tan(tilt_angle)
    radius = loaded_radius[..., FRONT] + bigger * (1 - front_share)
    height: Array = radius + gain * (wheelbase - bigger * tangent) / (total_mass * tangent)
    refuse(
        height <= 0,
        Shape.CAR,
        "front_raised_mass",
        "The front pads gained too little for any centre of gravity: read them again.",
    )
    return height


@figure(
    label="CG height error",
    quantity="length_per_mass",
    shape=Shape.CAR,
    formula="∂h/∂W_f = (L − Δr·tan θ) / (W·tan θ)",
    source=RCVD,
)
def tilted_cg_error(
    total_mass: Array, tilt_angle: Array, wheelbase: Array, loaded_radius: Array
) -> Array:
    """How far the height moves for one kilogram on the front pads [m/kg]: lift higher to lessen it.

    Wrong as the whole error: the lift and the radii are read too.
    """
    bigger = loaded_radius[..., REAR] - loaded_radius[..., FRONT]
    tangent = np.tan(tilt_angle)
    return (wheelbase - bigger * tangent) / (total_mass * tangent)


@figure(
    label="Rear bite in force",
    quantity="force",
    shape=Shape.CAR,
    formula="(LR − RR)·g",
    source=RCVD,
    sign="+ left rear heavier",
)
def rear_bite_force(rear_bite: Array) -> Array:
    """Rear bite as a load [N].

    Wrong where a bar or a link was loaded while the pads were read.

    >>> np.round(rear_bite_force(-50.0), 1).tolist()
    -490.3
    """
    return rear_bite * STANDARD_GRAVITY
