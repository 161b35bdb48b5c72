"""Bump rubbers as they are measured: points of deflection and force, straight lines between."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..graph.registry import Mask


def rubber_force(curve: Array, deflection: Array) -> Array:
    """Force of a rubber [N] at a deflection [m]; past its last point it goes on at the last slope.

    `curve` is (…, 2, n): deflections, then forces; it broadcasts with the deflection's shape.
    """
    starts, reach, slopes = _pieces(curve)
    # both ends one by one: numpy's clip takes twice as long over so few
    along = np.minimum(np.maximum(np.asarray(deflection)[..., np.newaxis] - starts, 0.0), reach)
    force: Array = (along * slopes).sum(axis=-1)
    return force


def rubber_rate(curve: Array, deflection: Array) -> Array:
    """Rate of a rubber [N/m] at a deflection [m]: nothing until it is touched. Shapes as the force's."""
    starts, reach, slopes = _pieces(curve)
    along = np.asarray(deflection)[..., np.newaxis] - starts
    rate: Array = np.where((along > 0) & (along <= reach), slopes, 0.0).sum(axis=-1)
    return rate


def _pieces(curve: Array) -> tuple[Array, Array, Array]:
    """Where each straight piece starts [m], how far it reaches [m], its slope [N/m]; the last goes on."""
    steps = curve[..., 1:] - curve[..., :-1]
    reach = steps[..., 0, :].copy()
    slopes: Array = steps[..., 1, :] / reach
    reach[..., -1] = np.inf
    return curve[..., 0, :-1], reach, slopes


def travel_under(load: Array, rate: Array, curve: Array, gap: Array, ratio: Array) -> Array:
    """Wheel travel [m] at which spring and rubber together carry a load at the wheel [N].

    Their sum is a line of straight pieces, so each piece is solved exactly. Shapes broadcast.
    """
    d, f = curve[..., 0, :], curve[..., 1, :]
    travel = load / rate
    for i in range(d.shape[-1] - 1):
        start = (gap + d[..., i]) / ratio
        held = rate * start + ratio * f[..., i]
        beyond = load > held
        if not np.count_nonzero(beyond):
            break  # what is held rises from piece to piece: none goes farther
        slope = rate + ratio**2 * (f[..., i + 1] - f[..., i]) / (d[..., i + 1] - d[..., i])
        travel = np.where(beyond, start + (load - held) / slope, travel)
    return travel


def exceeded(curve: Array, deflection: Array) -> Mask:
    """Whether a deflection lies past the rubber's last measured point."""
    beyond: Mask = deflection > curve[..., 0, -1]
    return beyond
