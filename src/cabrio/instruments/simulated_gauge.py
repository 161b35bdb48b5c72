"""An angle gauge that is not there: it shows what it is told it lies on, as a real one does.

Its zero is off until it is zeroed on the floor, its figures swing a little and come in twentieths, and it
shows no sign: which way a surface points is for whoever holds it to see.
"""

from __future__ import annotations

from random import Random
from typing import Any

from .simulated import SimulatedDevice

NOISE, STEP = 0.03, 0.05
"""Noise of a reading (one sigma) and the step of the display [°]."""
OFF = 0.6
"""How far off the zero of a gauge may be that nobody zeroed [°]."""
MOST_CARS = 200


class SimulatedGauge(SimulatedDevice):
    """The stand-in."""

    def __init__(self, port: int = 0) -> None:
        super().__init__(port)
        self.chance = Random(port)
        self.zeros: dict[int, float] = {}

    def zero_at(self, car: int) -> float:
        """What it shows on a level floor beside this car [°]."""
        if car not in self.zeros:
            if len(self.zeros) >= MOST_CARS:
                self.zeros.clear()
            self.zeros[car] = Random(car).choice((-1, 1)) * Random(car).uniform(OFF / 3, OFF)
        return self.zeros[car]

    def heard(self, words: list[str], talk: dict[str, Any]) -> str | None:
        if words[0] == "on":
            talk["car"], talk["degrees"] = int(words[1]), float(words[2])
        elif words[0] == "zero":
            self.zeros[talk["car"]] = -talk["degrees"]
        elif words[0] == "read":
            shown = talk["degrees"] + self.zero_at(talk["car"]) + self.chance.gauss(0.0, NOISE)
            return f"angle={round(abs(shown) / STEP) * STEP:.2f}"
        else:
            raise ValueError(words[0])
        return None
