"""Anti-roll bars: torsion, arms, blades, and what they give in roll (reference §4)."""

from __future__ import annotations

from math import pi

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..checks import finite
from ..graph.registry import figure
from .shapes import refuse, worked_once

ROARK = "Roark's Formulas for Stress and Strain, torsion and beams"
RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 16"
AXLE = Shape.AXLE


def torsion_over(outer: Array, inner: Array, other_outer: Array, other_inner: Array) -> Array:
    """Torsional rate of the other bar over this one's [-], same length and arms.

    Raises Impossible where this bar has no section.
    """
    finite(bar_outer=(outer, other_outer), bar_inner=(inner, other_inner))
    this = np.asarray(outer) ** 4 - np.asarray(inner) ** 4
    refuse(this <= 0, Shape.CAR, "bar_outer", "the bore must be smaller than the bar.")
    other: Array = np.asarray(other_outer) ** 4 - np.asarray(other_inner) ** 4
    return other / this


@figure(
    label="Bar polar moment",
    quantity="second_moment",
    shape=AXLE,
    formula="J = π·(D⁴ − d⁴) / 32",
    source=ROARK,
)
def bar_polar_moment(bar_outer: Array, bar_inner: Array) -> Array:
    """Second polar moment of the bar's section [m⁴]; zero where no bar is fitted.

    Refused where the bore is not smaller than the bar. Wrong where the wall is dented or splined.
    """
    refuse(
        (bar_outer > 0) & (bar_inner >= bar_outer),
        AXLE,
        "bar_inner",
        "the bore must be smaller than the bar.",
    )
    return pi * (bar_outer**4 - bar_inner**4) / 32


@figure(
    label="Bar torsional rate",
    quantity="roll_stiffness",
    shape=AXLE,
    formula="K_θ = G·J / l",
    source=ROARK,
)
def bar_torsional_rate(
    bar_polar_moment: Array, bar_length: Array, bar_shear_modulus: Array
) -> Array:
    """Torque per angle along the twisted length [N·m/rad].

    Wrong where the mounts grip the bar or bend with it: the length that twists is then another one.

    >>> found = bar_torsional_rate(
    ...     np.array([2.804e-8, 2.3e-8]),
    ...     np.array([0.9, 0.8]),
    ...     np.array([7.93e10, 7.93e10]),
    ... )
    >>> np.round(found, 0).tolist()
    [2471.0, 2280.0]
    """
    return bar_shear_modulus * bar_polar_moment / bar_length


@figure(
    label="Bar end rate, torsion alone",
    quantity="rate",
    shape=AXLE,
    formula="2·K_θ / a²",
    source=ROARK,
)
def bar_end_rate_torsion(bar_torsional_rate: Array, bar_arm: Array) -> Array:
    """Rate at one end, both ends moving oppositely and the arms rigid [N/m].

    Wrong where the drop link stands far from square to the arm: take the arm square to the link.

    >>> found = bar_end_rate_torsion(np.array([2471.0, 2280.0]), np.array([0.2, 0.18]))
    >>> np.round(found, 0).tolist()
    [123550.0, 140741.0]
    """
    return 2 * bar_torsional_rate / bar_arm**2


@worked_once
def _second_moment(width: Array, thickness: Array, angle: Array, guided: Array) -> Array:
    flat, edge = width * thickness**3 / 12, thickness * width**3 / 12
    cos2 = np.cos(angle) ** 2
    sin2 = 1 - cos2
    held, free = flat * cos2 + edge * sin2, flat * edge / (edge * cos2 + flat * sin2)
    section: Array = np.where(guided > 0.5, held, free)
    return section


@figure(
    only_with="blade_width",
    label="Blade second moment",
    quantity="second_moment",
    shape=AXLE,
    formula="tip free: 1/I = cos²β/I_flat + sin²β/I_edge; guided: I = I_flat·cos²β + I_edge·sin²β",
    source=ROARK,
)
def blade_second_moment(
    blade_width: Array, blade_thickness: Array, blade_angle: Array, blade_guided: Array
) -> Array:
    """Second moment of the blade's section in the load's plane [m⁴], NaN on an axle without a blade.
    Refused where none is fitted at all.

    Wrong where the tip's hold is taken for the other one: guided is many times stiffer in between.
    """
    bare = (blade_width <= 0) | (blade_thickness <= 0)
    refuse(bare.all(axis=-1), Shape.CAR, "blade_width", "no blade is fitted.")
    section = _second_moment(blade_width, blade_thickness, blade_angle, blade_guided)
    return np.where(bare, np.nan, section)


@figure(
    only_with="blade_width",
    label="Blade rate",
    quantity="rate",
    shape=AXLE,
    formula="3·E·I / l_b³",
    source=ROARK,
)
def blade_rate(
    blade_second_moment: Array, blade_length: Array, blade_youngs_modulus: Array
) -> Array:
    """Rate of one blade at its tip [N/m], NaN on an axle without one. Refused where its length is not
    above zero.

    Wrong where the root gives way, or the blade tapers.
    """
    fitted = np.isfinite(blade_second_moment)
    refuse(fitted & (blade_length <= 0), AXLE, "blade_length", "the blade needs a length.")
    return 3 * blade_youngs_modulus * blade_second_moment / blade_length**3


@figure(
    label="Bar end rate",
    quantity="rate",
    shape=AXLE,
    formula="torsion and blade in series, per end",
    source=ROARK,
)
def bar_end_rate(
    bar_end_rate_torsion: Array,
    blade_width: Array,
    blade_thickness: Array,
    blade_length: Array,
    blade_angle: Array,
    blade_guided: Array,
    blade_youngs_modulus: Array,
) -> Array:
    """Rate at one end, both ends moving oppositely [N/m]: torsion, and a blade at each end if any.

    Wrong where the arms themselves bend, as thin bent ones do: the true rate is lower.
    """
    fitted = (blade_width > 0) & (blade_thickness > 0) & (blade_length > 0)
    if not np.count_nonzero(fitted):
        return bar_end_rate_torsion
    with np.errstate(all="ignore"):  # an axle without a blade is left out by what follows
        section = _second_moment(blade_width, blade_thickness, blade_angle, blade_guided)
        softness = np.where(fitted, blade_length**3 / (3 * blade_youngs_modulus * section), 0.0)
    rate: Array = bar_end_rate_torsion / (1 + bar_end_rate_torsion * softness)
    return rate


@figure(
    label="Bar wheel rate in roll",
    quantity="rate",
    shape=AXLE,
    formula="k_b = rate at the end · MR_bar²",
    source=RCVD,
)
def bar_wheel_rate(bar_end_rate: Array, bar_motion_ratio: Array) -> Array:
    """What the bar adds at one wheel while the two move oppositely [N/m].

    Wrong where one wheel alone moves: the bar then gives half of it.

    >>> np.round(bar_wheel_rate(np.array([1.235e5, 1.407e5]), np.array([0.6, 0.7])), 0).tolist()
    [44460.0, 68943.0]
    """
    return bar_end_rate * bar_motion_ratio**2


@figure(
    label="Bar roll stiffness",
    quantity="roll_stiffness",
    shape=AXLE,
    formula="K_φ = ½·k_b·t²",
    source=RCVD,
)
def bar_roll_stiffness(bar_wheel_rate: Array, track: Array) -> Array:
    """Roll stiffness of the bar [N·m/rad], body against the wheel pair.

    Wrong where the bar is unhooked for weighing: this is the bar as driven.

    >>> found = bar_roll_stiffness(np.array([4.448e4, 6.895e4]), np.array([1.5, 1.6]))
    >>> np.round(found, 0).tolist()
    [50040.0, 88256.0]
    """
    return 0.5 * bar_wheel_rate * track**2
