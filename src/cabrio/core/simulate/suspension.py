"""What one suspension pushes with, over its travel and its speed: all of it, not only the straight part.

Travel is of the wheel from ride height, + bump; forces are at the wheel, + pushing body and wheel
apart. Plain floats: with four wheels they are several times quicker than arrays of four.
"""

from __future__ import annotations

from bisect import bisect_right
from dataclasses import dataclass, field
from math import inf

from ..checks import above_zero
from ..errors import Impossible

STOP_RATE = 4.0e6
"""Rate of a droop stop at the wheel [N/m]: stiff, but not so stiff that time steps vanish."""
STILL = 0.002
"""Speed [m/s] up to which a damper's force at standstill is faded in, or its sign would chatter."""


@dataclass(frozen=True)
class Curve:
    """Straight lines through points, going on at the last slope. `x` rises from 0."""

    x: tuple[float, ...]
    y: tuple[float, ...]
    slopes: tuple[float, ...] = field(init=False)

    def __post_init__(self) -> None:
        if len(self.x) != len(self.y) or len(self.x) < 2:
            raise Impossible(
                "A curve needs a value for every point, two or more.", number="damper_curve"
            )
        steps = zip(self.x, self.x[1:], self.y, self.y[1:], strict=False)
        if any(b <= a for a, b in zip(self.x, self.x[1:], strict=False)):
            raise Impossible("The points of a curve must rise.", number="damper_curve")
        object.__setattr__(self, "slopes", tuple((d - c) / (b - a) for a, b, c, d in steps))

    def at(self, x: float) -> float:
        i = min(max(bisect_right(self.x, x) - 1, 0), len(self.slopes) - 1)
        return self.y[i] + (x - self.x[i]) * self.slopes[i]


@dataclass(frozen=True)
class DamperLaw:
    """Force at the wheel from shaft curves of compression and rebound and the motion ratio."""

    compression: Curve
    rebound: Curve
    motion_ratio: float = 1.0

    @staticmethod
    def straight(compression: float, rebound: float) -> DamperLaw:
        """Straight slopes at the wheel [N·s/m]."""
        return DamperLaw(Curve((0.0, 1.0), (0.0, compression)), Curve((0.0, 1.0), (0.0, rebound)))

    @property
    def measured_to(self) -> float:
        """The wheel speed [m/s] up to which both directions were measured."""
        return min(self.compression.x[-1], self.rebound.x[-1]) / self.motion_ratio

    def force(self, speed: float) -> float:
        """Force at the wheel [N] at a wheel speed [m/s], + while compressing."""
        shaft = speed * self.motion_ratio
        curve = self.compression if shaft >= 0 else self.rebound
        size = abs(shaft)
        force = curve.at(size) * (size / STILL if size < STILL and curve.y[0] else 1.0)
        return (force if shaft >= 0 else -force) * self.motion_ratio


@dataclass(frozen=True)
class Suspension:
    """One suspension. Rate [N/m], standing load [N] and travels [m], all at the wheel.

    `droop` is the travel down to the stop, `rubber_gap` up to the rubber's first touch, `rubber` its
    curve at the wheel. Infinite: there is none, or (the load) the coil never comes loose.
    """

    rate: float
    damper: DamperLaw
    static_load: float = inf
    droop: float = inf
    rubber_gap: float = inf
    rubber: Curve | None = None

    def __post_init__(self) -> None:
        above_zero(wheel_rate=self.rate)

    def push(self, travel: float, speed: float) -> float:
        """Force [N] beyond the standing one at a travel [m] and speed [m/s]."""
        force = self.rate * travel
        if force < -self.static_load:
            force = -self.static_load  # the coil is loose and does not pull
        if travel > self.rubber_gap and self.rubber is not None:
            force += self.rubber.at(travel - self.rubber_gap)
        if travel < -self.droop:
            force += STOP_RATE * (travel + self.droop)
        return force + self.damper.force(speed)
