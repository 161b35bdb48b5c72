"""The pinion angle from an angle gauge: two slopes without a sign, each with the way it points."""

from __future__ import annotations

from dataclasses import dataclass
from math import pi

from ..checks import finite
from ..errors import OutOfRange

STEEPEST = pi / 4
"""No pinion or shaft of a car stands steeper [rad]."""


@dataclass(frozen=True)
class GaugeRead:
    """What the gauge shows [rad], never below zero, and whether that rises towards the front."""

    size: float
    rises: bool

    def slope(self, field: str) -> float:
        """With its sign, + uphill to the front [rad]. Raises OutOfRange for a sign or past 45°."""
        finite(pinion_angle=self.size)
        if not 0 <= self.size <= STEEPEST:
            raise OutOfRange(
                "Type the degrees without a sign, up to 45: the way it points is chosen beside them.",
                number=field,
                value=self.size,
                allowed="0 to 45°",
            )
        return self.size if self.rises else -self.size


def pinion_angle(pinion: GaugeRead, shaft: GaugeRead) -> float:
    """Pinion slope less shaft slope [rad], − nose down. Raises OutOfRange."""
    return pinion.slope("pinion") - shaft.slope("shaft")


def pinion_words(angle: float) -> str:
    """How the pinion stands against the shaft, in words; less than a hundredth of a degree is in line."""
    if abs(angle) < 0.005 * pi / 180:
        return "in line with the shaft"
    return f"nose {'down' if angle < 0 else 'up'} against the shaft"
