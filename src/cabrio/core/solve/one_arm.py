"""Side view of an axle without pairs of bars: a torque arm, ladder bars, or leaves (reference §8, §9).

A torque arm and a ladder bar are one with the housing, so their front pivot turns it as the axle goes
up and down; a leaf bends, so only the arc of its front half is known. Ahead of the axle and above the
ground [m].
"""

from __future__ import annotations

from collections.abc import Sequence
from math import hypot, sqrt

import numpy as np

from ..arrays import Array
from ..catalog.parts import Hole
from ..checks import finite
from ..errors import Impossible
from ..geometry.arm import forward
from ..geometry.four_bar import Moved
from ..geometry.plane import Meeting, Point, line_through, meeting
from .side_view import Driveline, SideView, seen

NO_BOLTS = np.zeros(0)


def torque_arm(lower: tuple[Hole, Hole], pivot: Hole) -> Meeting:
    """IC of a torque arm rigid with the housing, its front pivot on a level fore-and-aft slider.

    `lower` is chassis bolt, axle bolt; the pivot's own vertical stands in for the upper bar.
    """
    chassis, axle = (np.asarray(point, dtype=np.float64) for point in lower)
    upright = (np.asarray(1.0), np.asarray(0.0), np.asarray(-pivot[0]))
    return meeting(upright, line_through(*axle, *chassis))


def on_torque_arm(
    pivot_x: float,
    lower_bolt_z: float,
    arm_length: float,
    arm_rise: float,
    *,
    travels: Sequence[float],
    radius: float,
    wheelbase: float,
    cg_height: float,
    driveline: Driveline | None = None,
) -> list[SideView]:
    """The side view of a torque arm with lower arms at each travel [m, bump +].

    The arm's pivot is taken at the axle's height: how high it is hardly counts, how far ahead does. The
    lower arms' axle bolts are taken under the axle. Raises Impossible where arm or arms do not reach.
    """
    at = np.asarray(travels, dtype=np.float64)
    finite(travel=at, torque_arm_x=pivot_x, arm_length=arm_length, arm_rise=arm_rise)
    run = _run(arm_length, arm_rise)
    sine = -at / pivot_x
    if np.abs(sine).max() >= 1:
        raise Impossible("The torque arm does not reach that far.", number="torque_arm_x")
    turn: Array = np.arcsin(sine)
    # the lower axle bolt turns about the axle with the housing
    drop = lower_bolt_z - radius
    bolt_x, bolt_z = -drop * np.sin(turn), drop * np.cos(turn)
    chassis_z = lower_bolt_z - arm_rise
    left = arm_length**2 - (chassis_z - radius - at - bolt_z) ** 2
    if left.min() <= 0:
        raise Impossible("The lower arms do not reach that far.", number="arm_length")
    shift = run - bolt_x - np.sqrt(left)
    bars, centres = [], []
    for i, travel in enumerate(at.tolist()):
        axle_end = (float(bolt_x[i]), float(radius + bolt_z[i]))
        chassis_end = (float(run - shift[i]), float(chassis_z - travel))
        pivot = (float(pivot_x * np.cos(turn[i])), radius - travel)
        centres.append(torque_arm((chassis_end, axle_end), pivot))
        bars.append((((0.0, radius), pivot), (axle_end, chassis_end)))
    return seen(
        at,
        Moved(shift, turn, NO_BOLTS, NO_BOLTS),
        centres,
        bars,
        radius=radius,
        wheelbase=wheelbase,
        cg_height=cg_height,
        driveline=driveline,
    )


def on_ladder_bars(
    pivot: Hole,
    *,
    travels: Sequence[float],
    radius: float,
    wheelbase: float,
    cg_height: float,
    driveline: Driveline | None = None,
) -> list[SideView]:
    """The side view of ladder bars at each travel [m, bump +]: the axle swings about their front pivot.

    Raises Impossible where they do not reach.
    """
    at = np.asarray(travels, dtype=np.float64)
    finite(travel=at, ladder_pivot=pivot)
    x, z = pivot
    shift = _swung(hypot(x, z - radius), radius - z, at)
    turn = np.arctan2(z - radius - at, x - shift) - np.arctan2(z - radius, x)
    seen_at = [(x - float(s), z - float(h)) for s, h in zip(shift, at, strict=True)]
    return seen(
        at,
        Moved(shift, turn, NO_BOLTS, NO_BOLTS),
        [Point(*one) for one in seen_at],
        [(((0.0, radius), one),) for one in seen_at],
        radius=radius,
        wheelbase=wheelbase,
        cg_height=cg_height,
        driveline=driveline,
    )


def on_leaves(
    arm_length: float,
    arm_rise: float,
    *,
    travels: Sequence[float],
    radius: float,
    wheelbase: float,
    cg_height: float,
) -> list[SideView]:
    """The arc that the leaves' front halves lead the axle on, at each travel [m, bump +].

    No instant centre and no pinion: how far the housing turns depends on how the leaf bends. Raises
    Impossible where the arms do not reach.
    """
    at = np.asarray(travels, dtype=np.float64)
    finite(travel=at, arm_length=arm_length, arm_rise=arm_rise)
    run = _run(arm_length, arm_rise)
    shift = _swung(arm_length, arm_rise, at)
    bars = [
        (((0.0, radius), (run - float(s), radius - arm_rise - float(h))),)
        for s, h in zip(shift, at, strict=True)
    ]
    return seen(
        at,
        Moved(shift, np.zeros(len(at)), NO_BOLTS, NO_BOLTS),
        [None] * len(at),
        bars,
        radius=radius,
        wheelbase=wheelbase,
        cg_height=cg_height,
        driveline=None,
    )


def _run(length: float, rise: float) -> float:
    """How far ahead of its axle end an arm's pivot is."""
    if not abs(rise) < length:
        raise Impossible("The arm rises more than its length.", number="arm_rise")
    return sqrt(length**2 - rise**2)


def _swung(length: float, rise: float, travel: Array) -> Array:
    """How far forward an arm's axle end goes [m]."""
    shift = forward(length, rise, travel)
    if np.isnan(shift).any():
        raise Impossible("The arm does not reach that far.", number="arm_length")
    return shift
