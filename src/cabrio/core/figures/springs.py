"""Springs at the wheel: rates, static compression, seating and coil bind (reference §2).

Travels and lengths are along the spring unless a name says wheel; MR = spring / wheel travel.
"""

from __future__ import annotations

import numpy as np

from ..constants import STANDARD_GRAVITY
from ..quantities import Shape
from ..registry import Array, figure
from .shapes import refuse

DIXON = "Dixon, Suspension Geometry and Computation, ch. 2"
CORNER = Shape.CORNER


@figure(label="Motion ratio in line", quantity="ratio", shape=CORNER, formula="MR·cos α",
        source=DIXON)  # fmt: skip
def spring_motion_ratio(motion_ratio: Array, spring_angle: Array) -> Array:
    """Travel of an inclined spring along itself over wheel travel [-]."""
    refuse(motion_ratio <= 0, CORNER, "motion_ratio", "a motion ratio must be above zero.")
    return motion_ratio * np.cos(spring_angle)


@figure(label="Spring force at ride height", quantity="force", shape=CORNER,
        formula="F_s = m_sprung·g / (MR·cos α)", source=DIXON)  # fmt: skip
def spring_force(sprung_mass: Array, spring_motion_ratio: Array) -> Array:
    """Force along the spring with the car standing still [N]."""
    return sprung_mass * STANDARD_GRAVITY / spring_motion_ratio


@figure(label="Wheel rate", quantity="rate", shape=CORNER,
        formula="k_w = k_s·(MR·cos α)² + F_s·MR′·cos α", source=DIXON)  # fmt: skip
def wheel_rate(
    spring_rate: Array,
    spring_motion_ratio: Array,
    spring_force: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
) -> Array:
    """Rate of the suspension seen at the wheel, tyre left out [N/m].

    The second term is the standing force working through a motion ratio that changes with travel.
    Refused where a falling ratio leaves no rate at all.
    """
    rate = spring_rate * spring_motion_ratio**2 + spring_force * motion_ratio_slope * np.cos(
        spring_angle
    )
    refuse(rate <= 0, CORNER, "motion_ratio_slope",
           "the falling motion ratio leaves no wheel rate: check its slope and sign.")  # fmt: skip
    return rate


@figure(label="Ride rate", quantity="rate", shape=CORNER, formula="k_r = k_w·k_t / (k_w + k_t)",
        source="RCVD, ch. 16")  # fmt: skip
def ride_rate(wheel_rate: Array, tyre_rate: Array) -> Array:
    """Suspension and tyre in series: body against the ground at this corner [N/m]."""
    return wheel_rate * tyre_rate / (wheel_rate + tyre_rate)


@figure(label="Static compression", quantity="height", shape=CORNER, formula="F_s / k_s",
        source=DIXON)  # fmt: skip
def static_compression(spring_force: Array, spring_rate: Array) -> Array:
    """How far the standing car squeezes the spring, from loose to ride height [m]."""
    return spring_force / spring_rate


@figure(label="Left at full droop", quantity="height", shape=CORNER,
        formula="compression − (MR·d − ½·MR′·d²)·cos α", source=DIXON,
        sign="+ still seated, − loose by that much")  # fmt: skip
def seat_at_droop(
    static_compression: Array,
    motion_ratio: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
    droop_travel: Array,
) -> Array:
    """Compression left in the spring with the wheel hanging at full droop [m].

    Below zero the spring is loose: it wants a helper spring, or less droop.
    """
    travel = motion_ratio * droop_travel - 0.5 * motion_ratio_slope * droop_travel**2
    return static_compression - travel * np.cos(spring_angle)


@figure(label="Left before coil bind", quantity="height", shape=CORNER,
        formula="free − (compression + (MR·b + ½·MR′·b²)·cos α) − solid", source=DIXON,
        sign="+ room left at full bump")  # fmt: skip
def bind_margin(
    spring_free_length: Array,
    spring_solid_length: Array,
    static_compression: Array,
    motion_ratio: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
    bump_travel: Array,
) -> Array:
    """Room left before the coils touch with the wheel at full bump [m]; want 6 mm or more.

    Refused where the solid length is not less than the free length.
    """
    refuse(spring_solid_length >= spring_free_length, CORNER, "spring_solid_length",
           "the solid length must be less than the free length.")  # fmt: skip
    travel = motion_ratio * bump_travel + 0.5 * motion_ratio_slope * bump_travel**2
    squeezed = static_compression + travel * np.cos(spring_angle)
    return spring_free_length - squeezed - spring_solid_length


@figure(label="Energy at ride height", quantity="energy", shape=CORNER, formula="½·k_s·compression²",
        source=DIXON)  # fmt: skip
def spring_energy(spring_rate: Array, static_compression: Array) -> Array:
    """Energy in the spring from just seated to ride height [J].

    For one load it depends on the rate alone, F²/2k: a longer free length stores no more.
    """
    return 0.5 * spring_rate * static_compression**2


@figure(label="Energy over droop", quantity="energy", shape=CORNER,
        formula="½·k_s·(compression² − left at full droop²)", source=DIXON)  # fmt: skip
def spring_energy_over_droop(
    spring_rate: Array, static_compression: Array, seat_at_droop: Array
) -> Array:
    """Energy the spring gives out from ride height to full droop, or until it is loose [J]."""
    left = np.maximum(seat_at_droop, 0.0)
    energy: Array = 0.5 * spring_rate * (static_compression**2 - left**2)
    return energy
