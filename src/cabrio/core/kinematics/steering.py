"""Steering: the rack from lock to lock, tyres on the ground, the body neither heaving nor rolling."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..checks import above_zero
from ..constants import DEGREE
from .axle import Axle, Through, through

LEAST_MEAN_STEER = DEGREE
"""Mean steer under which Ackermann is a quotient of two near noughts, and none is named."""


@dataclass(frozen=True)
class Steered:
    """A front axle through rack travels; left + (n,). NaN where a number is not one."""

    through: Through
    steer: tuple[Array, Array]
    per_rack: tuple[Array, Array]
    ackermann: Array
    turn_radius: Array
    turning_circle: Array
    ratio: Array | None


def steered(
    axle: Axle,
    wheelbase: float,
    rack: Array,
    heave: float = 0.0,
    rack_per_turn: float | None = None,
) -> Steered:
    """The wheels' angles, Ackermann [%], turn radius and circle [m], and the steering ratio.

    `rack` is to the left +, `rack_per_turn` the rack's travel per turn of the wheel [m]. Raises
    OutOfRange, or Impossible where the links cannot reach.
    """
    above_zero(wheelbase=wheelbase)
    if rack_per_turn is not None:
        above_zero(rack_travel_per_turn=rack_per_turn)
    rack = np.asarray(rack, float)
    # the rack's centre and the car standing go along: what the angles and the track are measured from
    racks = np.concatenate((rack, [0.0]))
    moved = through(axle, np.full_like(racks, heave), None, racks)
    steer = -moved.left.toe, moved.right.toe
    per_rack = -moved.left.toe_per_rack, -moved.right.toe_per_rack
    turned = tuple(one - one[-1] for one in steer)
    stands = moved.left.start, moved.right.start
    track = sum(float(side.states.ground.outward(side.contact)[0]) for side in stands)
    mean = (turned[0] + turned[1]) / 2
    left = mean > 0
    inner, outer = (
        np.where(left, turned[0], -turned[1]),
        np.where(left, turned[1], -turned[0]),
    )
    none = (np.abs(mean) < LEAST_MEAN_STEER) | (inner <= 0) | (outer <= 0)
    with np.errstate(divide="ignore", invalid="ignore"):
        true = np.arctan2(1.0, 1 / np.tan(outer) - track / wheelbase)
        ackermann = 100 * (inner - outer) / (true - outer)
        radius = wheelbase * 0.5 * (1 / np.tan(inner) + 1 / np.tan(outer))
        circle = 2 * wheelbase / np.sin(outer)
    ratio = None
    if rack_per_turn is not None:
        ratio = 2 * np.pi / rack_per_turn / np.abs((per_rack[0] + per_rack[1]) / 2)
    keep = slice(0, len(rack))

    def known(value: Array) -> Array:
        return np.where(none, np.nan, value)[keep]

    return Steered(
        moved,
        (steer[0][keep], steer[1][keep]),
        (per_rack[0][keep], per_rack[1][keep]),
        known(ackermann),
        known(radius),
        known(circle),
        None if ratio is None else ratio[keep],
    )
