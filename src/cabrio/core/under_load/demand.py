"""What is asked of the car: how hard it corners, drives or brakes, how fast, and the shaft's torque."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from ..arrays import Array, Indexes
from ..checks import above_zero, finite, not_below_zero


@dataclass(frozen=True)
class Shaft:
    """Torque of the propeller shaft on a live rear axle: given [N·m], or by the final drive.

    Given below zero it is engine braking.
    `sign` +1: it turns clockwise seen from in front of the car.
    """

    torque: float | None = None
    final_drive: float = 0.0
    radius: float = 0.0
    sign: int = 1

    def __post_init__(self) -> None:
        if self.torque is not None:
            finite(shaft_torque=self.torque)
        else:
            above_zero(final_drive_ratio=self.final_drive, loaded_radius=self.radius)


@dataclass(frozen=True)
class Demand:
    """What is asked: + forward, + to the left [m/s²], speed [m/s], and the shaft's torque."""

    along: float | Array = 0.0
    sideways: float | Array = 0.0
    speed: float | Array = 0.0
    shaft: Shaft | None = None

    def __post_init__(self) -> None:
        finite(acceleration=self.along, cornering_acceleration=self.sideways, speed=self.speed)
        not_below_zero(speed=self.speed)

    def spread(self, size: int) -> Demand:
        """The same for each member of a batch, where it is one for all."""
        rows = (
            np.atleast_1d(np.asarray(x, float)) for x in (self.along, self.sideways, self.speed)
        )
        along, sideways, speed = (np.broadcast_to(row, (size,)) for row in rows)
        return Demand(along, sideways, speed, self.shaft)

    @property
    def size(self) -> int:
        """How many demands there are."""
        return max(np.size(one) for one in (self.along, self.sideways, self.speed))

    def of(self, at: Indexes | slice) -> Demand:
        """The demands of some members of a batch."""
        along, sideways, speed = (
            np.asarray(x)[at] for x in (self.along, self.sideways, self.speed)
        )
        return Demand(along, sideways, speed, self.shaft)

    def grown(self, share: float) -> Demand:
        """A part of it: accelerations and air in proportion, and a given torque with them."""
        shaft = self.shaft
        if shaft is not None and shaft.torque is not None:
            shaft = replace(shaft, torque=share * shaft.torque)
        along, sideways, speed = (np.asarray(x) for x in (self.along, self.sideways, self.speed))
        return Demand(share * along, share * sideways, np.sqrt(share) * speed, shaft)
