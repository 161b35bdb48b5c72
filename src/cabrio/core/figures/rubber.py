"""Bump rubbers as they are measured: points of deflection and force, straight lines between."""

from __future__ import annotations

import numpy as np

from ..graph.registry import Array, Mask


def rubber_force(curve: Array, deflection: Array) -> Array:
    """Force of a rubber [N] at a deflection [m]; past its last point it goes on at the last slope.

    `curve` is (…, 2, n): deflections, then forces; it broadcasts with the deflection's shape.
    """
    d, f = curve[..., 0, :], curve[..., 1, :]
    force = np.zeros(np.broadcast_shapes(d.shape[:-1], np.shape(deflection)))
    for i in range(d.shape[-1] - 1):
        last = i == d.shape[-1] - 2
        span = d[..., i + 1] - d[..., i]
        along = np.maximum(deflection - d[..., i], 0.0)
        along = along if last else np.minimum(along, span)
        force = force + along * (f[..., i + 1] - f[..., i]) / span
    return force


def travel_under(load: Array, rate: Array, curve: Array, gap: Array, ratio: Array) -> Array:
    """Wheel travel [m] at which spring and rubber together carry a load at the wheel [N].

    Their sum is a line of straight pieces, so each piece is solved exactly. Shapes broadcast.
    """
    d, f = curve[..., 0, :], curve[..., 1, :]
    travel = load / rate
    for i in range(d.shape[-1] - 1):
        start = (gap + d[..., i]) / ratio
        held = rate * start + ratio * f[..., i]
        slope = rate + ratio**2 * (f[..., i + 1] - f[..., i]) / (d[..., i + 1] - d[..., i])
        travel = np.where(load > held, start + (load - held) / slope, travel)
    return travel


def exceeded(curve: Array, deflection: Array) -> Mask:
    """Whether a deflection lies past the rubber's last measured point."""
    beyond: Mask = deflection > curve[..., 0, -1]
    return beyond
