"""What the demo's instruments say: the car as the core has it standing, with the noise each of them has.

The noise is drawn from a seed of the car and the count of the reading, so that a season is told alike
every time.
"""

from __future__ import annotations

from dataclasses import dataclass
from random import Random

POUND, INCH = 0.45359237, 0.0254


@dataclass(frozen=True)
class Instrument:
    """An instrument: what it is called, its noise (one sigma) and its least step, SI."""

    label: str
    noise: float
    step: float

    def reads(self, true: list[float], chance: Random) -> list[float]:
        """One row of readings of what is there."""
        return [
            round(round((one + chance.gauss(0.0, self.noise)) / self.step) * self.step, 6)
            for one in true
        ]


METRIC = {
    "pads": Instrument("four pads, ± 0.3 kg", 0.3, 0.5),
    "heights": Instrument("steel rule, ± 0.3 mm", 0.3e-3, 0.5e-3),
}
IMPERIAL = {
    "pads": Instrument("four pads, ± 0.7 lb", 0.3, POUND),
    "heights": Instrument("steel rule, ± 1/64 in", INCH / 64, INCH / 32),
}
