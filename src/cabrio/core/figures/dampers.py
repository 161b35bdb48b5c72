"""Damping ratios and wheel hop from the damper's own curve (reference §3).

The chord of a band, its force at one end less that at the other over their speeds, comes with the
clicks set (see `solve.clicks`); so a force at zero speed, friction or gas, is not taken for damping.
"""

from __future__ import annotations

from math import pi

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import figure

DIXON = "Dixon, The Shock Absorber Handbook, ch. 3"
HARTOG = "Den Hartog, Mechanical Vibrations, ch. 2"
CORNER = Shape.CORNER


@figure(
    label="Critical damping",
    quantity="damping",
    shape=CORNER,
    formula="c_c = 2·√(k_w·m_sprung)",
    source=HARTOG,
)
def critical_damping(wheel_rate: Array, sprung_mass: Array) -> Array:
    """Damping at the wheel at which this corner just stops swinging [N·s/m], tyre left out.

    Wrong where the tyre is not much stiffer than the spring: body and wheel then move together.

    >>> found = critical_damping(
    ...     np.array([3.2e4, 3.2e4, 3.2e4, 3.2e4]),
    ...     np.array([270.0, 220.0, 170.0, 220.0]),
    ... )
    >>> np.round(found, 0).tolist()
    [5879.0, 5307.0, 4665.0, 5307.0]
    """
    return 2 * np.sqrt(wheel_rate * sprung_mass)


def damping_ratio(chord: Array, motion_ratio: Array, critical: Array) -> Array:
    """Damping at the wheel over critical [-]; `chord` is at the shaft [N·s/m]."""
    return chord * motion_ratio**2 / critical


@figure(
    label="ζ compression, low",
    quantity="proportion",
    shape=CORNER,
    formula="ζ = c·MR_d² / c_c, 0 to 50 mm/s",
    source=DIXON,
)
def compression_ratio_low(
    compression_low: Array, damper_motion_ratio: Array, critical_damping: Array
) -> Array:
    """Damping of the body settling, as a share of critical [-]; bands 0.4 to 0.7 on a circuit.

    Wrong where the dyno was run at another temperature or gas pressure than the car's.

    >>> found = compression_ratio_low(
    ...     np.array([2500.0, 2500.0, 2500.0, 2500.0]),
    ...     np.array([0.85, 0.85, 0.85, 0.85]),
    ...     np.array([5879.0, 5307.0, 4665.0, 5307.0]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.3072, 0.3404, 0.3872, 0.3404]
    """
    return damping_ratio(compression_low, damper_motion_ratio, critical_damping)


@figure(
    label="ζ compression, high",
    quantity="proportion",
    shape=CORNER,
    formula="ζ = c·MR_d² / c_c, 100 to 250 mm/s",
    source=DIXON,
)
def compression_ratio_high(
    compression_high: Array, damper_motion_ratio: Array, critical_damping: Array
) -> Array:
    """Damping of the wheel over bumps and kerbs, as a share of the body's critical [-].

    Wrong where hose, bushings or top mounts give way before the shaft moves.

    >>> found = compression_ratio_high(
    ...     np.array([1200.0, 1200.0, 1200.0, 1200.0]),
    ...     np.array([0.85, 0.85, 0.85, 0.85]),
    ...     np.array([5879.0, 5307.0, 4665.0, 5307.0]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.1475, 0.1634, 0.1859, 0.1634]
    """
    return damping_ratio(compression_high, damper_motion_ratio, critical_damping)


@figure(
    label="ζ rebound, low",
    quantity="proportion",
    shape=CORNER,
    formula="ζ = c·MR_d² / c_c, 0 to 50 mm/s",
    source=DIXON,
)
def rebound_ratio_low(
    rebound_low: Array, damper_motion_ratio: Array, critical_damping: Array
) -> Array:
    """Damping of the body rising, as a share of critical [-]; bands 0.6 to 1.0 on a circuit.

    Wrong where the dyno was run at another temperature or gas pressure than the car's.

    >>> found = rebound_ratio_low(
    ...     np.array([4000.0, 4000.0, 4000.0, 4000.0]),
    ...     np.array([0.85, 0.85, 0.85, 0.85]),
    ...     np.array([5879.0, 5307.0, 4665.0, 5307.0]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.4916, 0.5446, 0.6195, 0.5446]
    """
    return damping_ratio(rebound_low, damper_motion_ratio, critical_damping)


@figure(
    label="ζ rebound, high",
    quantity="proportion",
    shape=CORNER,
    formula="ζ = c·MR_d² / c_c, 100 to 250 mm/s",
    source=DIXON,
)
def rebound_ratio_high(
    rebound_high: Array, damper_motion_ratio: Array, critical_damping: Array
) -> Array:
    """Damping of the wheel dropping off bumps, as a share of the body's critical [-].

    Wrong where hose, bushings or top mounts give way before the shaft moves.

    >>> found = rebound_ratio_high(
    ...     np.array([1800.0, 1800.0, 1800.0, 1800.0]),
    ...     np.array([0.85, 0.85, 0.85, 0.85]),
    ...     np.array([5879.0, 5307.0, 4665.0, 5307.0]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.2212, 0.2451, 0.2788, 0.2451]
    """
    return damping_ratio(rebound_high, damper_motion_ratio, critical_damping)


@figure(
    label="Wheel hop",
    quantity="frequency",
    shape=CORNER,
    formula="f = √((k_w + k_t) / m_unsprung) / 2π",
    source=HARTOG,
)
def wheel_hop(wheel_rate: Array, tyre_rate: Array, unsprung_mass: Array) -> Array:
    """Frequency of the wheel between its tyre and its spring [Hz], body at rest.

    Wrong where the body moves with it: the two-mass car hops a few parts in a thousand quicker.

    >>> found = wheel_hop(
    ...     np.array([3.2e4, 3.2e4, 3.2e4, 3.2e4]),
    ...     np.array([2e5, 2e5, 2e5, 2e5]),
    ...     np.array([30.0, 30.0, 30.0, 30.0]),
    ... )
    >>> np.round(found, 2).tolist()
    [14.0, 14.0, 14.0, 14.0]
    """
    return np.sqrt((wheel_rate + tyre_rate) / unsprung_mass) / (2 * pi)
