"""The side view of a live axle: two bars between chassis and housing, through its travel.

The chassis stands still and the axle moves: a travel of + h is the axle up against the chassis. Both
bars keep their length and the housing is rigid, so two equations fix the axle's shift forward and the
housing's turn (nose up +). Newton's method on arrays of any leading shape: a sweep over thousands of
bracket holes is one call. Dixon, Suspension Geometry and Computation, ch. 9.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..errors import Impossible
from .plane import Triple, line_through, meet

UPPER_AXLE, LOWER_AXLE = 1, 3
STEPS, CLOSE_ENOUGH = 30, 1e-14


@dataclass(frozen=True)
class Moved:
    """The axle after a travel: forward shift [m], housing turn [rad, nose up +], bolts (…, 4).

    The bolts stand ahead of the moved axle and above the ground that the moved tyre rests on.
    """

    shift: Array
    turn: Array
    x: Array
    z: Array


def upper_line(x: Array, z: Array) -> Triple:
    """The line through the upper bar, from bolts (…, 4)."""
    return line_through(x[..., 1], z[..., 1], x[..., 0], z[..., 0])


def lower_line(x: Array, z: Array) -> Triple:
    """The line through the lower bar, from bolts (…, 4)."""
    return line_through(x[..., 3], z[..., 3], x[..., 2], z[..., 2])


def instant_centre(x: Array, z: Array) -> Triple:
    """The instant centre as a homogeneous point: W = 0 where the bars are parallel."""
    return meet(upper_line(x, z), lower_line(x, z))


def move(x: Array, z: Array, radius: Array, travel: Array) -> Moved:
    """The axle moved by `travel` [m, bump +] on its bars; shapes broadcast.

    `radius` is the axle's own height above the ground [m]. Raises Impossible where the bars cannot
    reach that far.
    """
    ca, sa = _housing(x, z, radius)
    lengths = np.hypot(x[..., 0::2] - x[..., 1::2], z[..., 0::2] - z[..., 1::2])
    shape = np.broadcast_shapes(x.shape[:-1], np.shape(travel))
    shift, turn = np.zeros(shape), np.zeros(shape)
    high = np.broadcast_to(radius + travel, shape)
    for _ in range(STEPS):
        cos, sin = np.cos(turn)[..., None], np.sin(turn)[..., None]
        across, along = ca * cos - sa * sin, ca * sin + sa * cos
        dx = shift[..., None] + across - x[..., 0::2]
        dz = high[..., None] + along - z[..., 0::2]
        miss = dx**2 + dz**2 - lengths**2
        by_shift, by_turn = 2 * dx, 2 * (-dx * along + dz * across)
        det = by_shift[..., 0] * by_turn[..., 1] - by_shift[..., 1] * by_turn[..., 0]
        with np.errstate(divide="ignore", invalid="ignore"):
            step_shift = (miss[..., 0] * by_turn[..., 1] - miss[..., 1] * by_turn[..., 0]) / det
            step_turn = (by_shift[..., 0] * miss[..., 1] - by_shift[..., 1] * miss[..., 0]) / det
        shift, turn = shift - step_shift, turn - step_turn
        if not np.all(np.isfinite(shift)):
            break
        if max(np.abs(step_shift).max(), np.abs(step_turn).max()) < CLOSE_ENOUGH:
            break
    # bars that reach only far from where they began have folded over: no car moves there
    if not np.all(np.isfinite(shift)) or np.abs(miss).max() > 1e-9 or np.abs(turn).max() > 1.2:
        raise Impossible(
            "The bars do not reach that far: take less travel, or look at the bolts.",
            number="bolt_x",
        )
    return _on_the_ground(x, z, np.asarray(travel), shift, turn, ca, sa, np.asarray(radius))


def _housing(x: Array, z: Array, radius: Array) -> tuple[Array, Array]:
    """The two axle bolts seen from the axle centre."""
    return x[..., 1::2], z[..., 1::2] - np.asarray(radius)[..., None]


def _on_the_ground(
    x: Array,
    z: Array,
    travel: Array,
    shift: Array,
    turn: Array,
    ca: Array,
    sa: Array,
    radius: Array,
) -> Moved:
    cos, sin = np.cos(turn)[..., None], np.sin(turn)[..., None]
    bolts_x = np.zeros((*shift.shape, 4))
    bolts_z = np.zeros((*shift.shape, 4))
    bolts_x[..., 0::2] = x[..., 0::2] - shift[..., None]
    bolts_z[..., 0::2] = z[..., 0::2] - np.broadcast_to(travel, shift.shape)[..., None]
    bolts_x[..., 1::2] = ca * cos - sa * sin
    bolts_z[..., 1::2] = ca * sin + sa * cos + np.broadcast_to(radius, shift.shape)[..., None]
    return Moved(shift, turn, bolts_x, bolts_z)
