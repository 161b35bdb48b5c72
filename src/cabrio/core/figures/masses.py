"""Corner loads: shares, bite, where the mass sits, and what each spring carries (reference §1)."""

from __future__ import annotations

from ..quantities import Shape
from ..registry import Array, figure
from .shapes import LF, LR, RF, RR, refuse, spread

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 18"


@figure(label="Total", quantity="mass", shape=Shape.CAR, formula="LF + RF + LR + RR", source=RCVD)
def total_mass(pad_mass: Array) -> Array:
    """Mass on the four pads [kg]: the car as it stood, driver and fuel as the reading says.

    Refused where a pad reads below zero or all read nothing.
    """
    refuse(pad_mass < 0, Shape.CORNER, "pad_mass", "a pad cannot read below zero.")
    total: Array = pad_mass.sum(axis=-1)
    refuse(spread(total) <= 0, Shape.CAR, "pad_mass", "The pads read nothing: is the car on them?")
    return total


@figure(label="Front share", quantity="share", shape=Shape.CAR,
        formula="(LF + RF) / total", source=RCVD)  # fmt: skip
def front_share(pad_mass: Array, total_mass: Array) -> Array:
    """Front axle's part of the total [0..1]. Only moving or adding mass changes it, never a perch."""
    return (pad_mass[..., LF] + pad_mass[..., RF]) / total_mass


@figure(label="Left share", quantity="share", shape=Shape.CAR,
        formula="(LF + LR) / total", source=RCVD)  # fmt: skip
def left_share(pad_mass: Array, total_mass: Array) -> Array:
    """Left side's part of the total [0..1]. Only moving or adding mass changes it, never a perch."""
    return (pad_mass[..., LF] + pad_mass[..., LR]) / total_mass


@figure(label="Cross", quantity="share", shape=Shape.CAR,
        formula="(RF + LR) / total", source=RCVD)  # fmt: skip
def cross_share(pad_mass: Array, total_mass: Array) -> Array:
    """The diagonal right front and left rear [0..1]: moved by perches, link and bar preload."""
    return (pad_mass[..., RF] + pad_mass[..., LR]) / total_mass


@figure(label="Rear bite", quantity="mass", shape=Shape.CAR, formula="LR − RR", source=RCVD,
        sign="+ left rear heavier")  # fmt: skip
def rear_bite(pad_mass: Array) -> Array:
    """Difference of the rear pads [kg], positive with the left rear heavier."""
    return pad_mass[..., LR] - pad_mass[..., RR]


@figure(label="Balanced cross", quantity="share", shape=Shape.CAR,
        formula="f·(1 − l) + (1 − f)·l,  f front share, l left share", source=RCVD)  # fmt: skip
def balanced_cross(front_share: Array, left_share: Array) -> Array:
    """The cross at which LF:RF equals LR:RR, for this car's own front and left share [0..1].

    It is 50 % only where the left share or the front share is 50 %.
    """
    return front_share * (1 - left_share) + (1 - front_share) * left_share


@figure(label="Cross off balance", quantity="share", shape=Shape.CAR,
        formula="cross − balanced cross", source=RCVD, sign="+ wedge in")  # fmt: skip
def cross_off_balance(cross_share: Array, balanced_cross: Array) -> Array:
    """How far the cross stands from the balanced one [share points]; positive loads RF and LR."""
    return cross_share - balanced_cross


@figure(label="CG behind front axle", quantity="dimension", shape=Shape.CAR,
        formula="a = L·(1 − front share)", source=RCVD)  # fmt: skip
def cg_behind_front(wheelbase: Array, front_share: Array) -> Array:
    """Fore-aft place of the centre of gravity, back from the front axle line [m]."""
    return wheelbase * (1 - front_share)


@figure(label="CG off centre", quantity="dimension", shape=Shape.CAR,
        formula="y = ((LF − RF)·t_F + (LR − RR)·t_R) / (2·total)", source=RCVD,
        sign="+ to the left")  # fmt: skip
def cg_offset(pad_mass: Array, track: Array, total_mass: Array) -> Array:
    """Sideways place of the centre of gravity [m], positive to the left.

    With unequal tracks the left share alone does not give it.
    """
    front = (pad_mass[..., LF] - pad_mass[..., RF]) * track[..., 0]
    rear = (pad_mass[..., LR] - pad_mass[..., RR]) * track[..., 1]
    return (front + rear) / (2 * total_mass)


@figure(label="Sprung mass", quantity="mass", shape=Shape.CORNER,
        formula="pad − unsprung mass", source=RCVD)  # fmt: skip
def sprung_mass(pad_mass: Array, unsprung_mass: Array) -> Array:
    """What the spring of this corner carries, at the wheel [kg]. Frequency uses this, not the pad.

    Refused where the unsprung mass is not less than the pad reading.
    """
    sprung = pad_mass - unsprung_mass
    refuse(sprung <= 0, Shape.CORNER, "unsprung_mass",
           "the unsprung mass must be less than what the pad reads.")  # fmt: skip
    return sprung
