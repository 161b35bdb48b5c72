"""A set of pads that is not there: it weighs what it is told stands on it, with what real pads add.

Tyres stick on the pads until the car is rolled and bounced, the figures swing for a moment, each pad
has its noise and drifts as it warms, and now and then one loses its cable.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass, field
from random import Random
from typing import Any

from .pads import PLACES
from .simulated import SimulatedDevice

NOISE = 0.12
"""Noise of a pad at rest (one sigma) [kg]."""
STUCK, LEFT = 0.012, 0.12
"""How far off stuck tyres hold a pad, as a part of its load (one sigma), and what a settle leaves of it."""
DRIFT, MOST_DRIFT = 0.002, 0.4
"""Drift while a pad warms [kg a second], and the most of it [kg]."""
SWINGS = 2.0
"""How long the figures swing after the car was moved [s]."""
EVERY, LOST = 45.0, 3.0
"""One pad loses its cable once in so many seconds, for so long [s]."""
CROSSWISE = (1.0, -1.0, -1.0, 1.0)
MOST_CARS = 200


@dataclass
class OnThePads:
    """A car as it stands on the pads: its loads [kg], what the tyres hold back, when it was moved."""

    loads: tuple[float, ...]
    chance: Random
    came: float
    moved: float
    held: list[float] = field(default_factory=list)

    def stick(self) -> None:
        """Friction holds load across the diagonals, and a little of each pad's own."""
        twist = self.chance.gauss(0.0, STUCK)
        self.held = [
            load * (sign * twist + self.chance.gauss(0.0, STUCK / 4))
            for load, sign in zip(self.loads, CROSSWISE, strict=True)
        ]

    def settle(self, now: float) -> None:
        self.moved = now
        self.held = [one * LEFT for one in self.held]

    def frame(self, now: float, lost: int) -> str:
        """What the pads say now."""
        since = now - self.moved
        swing = max(0.0, 1.0 - since / SWINGS)
        drift = min(DRIFT * (now - self.came), MOST_DRIFT)
        loads_shown = []
        for i, place in enumerate(PLACES):
            if i == lost and (now - self.came) % EVERY > EVERY - LOST:
                loads_shown.append(f"{place}=--")
                continue
            noise = self.chance.gauss(0.0, NOISE + 6.0 * swing)
            way = 1.0 if i % 2 else -0.5
            load = self.loads[i] + self.held[i] + noise + way * drift
            loads_shown.append(f"{place}={max(load, 0.0):.2f}")
        return f"{' '.join(loads_shown)} still={int(swing == 0.0)}"


class SimulatedPads(SimulatedDevice):
    """The stand-in."""

    def __init__(self, port: int = 0, clock: Callable[[], float] = time.monotonic) -> None:
        super().__init__(port)
        self.clock = clock
        self.cars: dict[int, OnThePads] = {}

    def stands(self, car: int, loads: tuple[float, ...]) -> OnThePads:
        """The car on the pads; one that is new there, or was changed, stands stuck."""
        now = self.clock()
        found = self.cars.get(car)
        if found is None or found.loads != loads:
            if len(self.cars) >= MOST_CARS:
                self.cars.clear()
            came = now if found is None else found.came
            found = OnThePads(loads, Random(f"{car} {loads}"), came, now)
            found.stick()
            self.cars[car] = found
        return found

    def heard(self, words: list[str], talk: dict[str, Any]) -> str | None:
        if words[0] == "car":
            at, *loads = int(words[1]), *map(float, words[2:])
            if len(loads) != len(PLACES):
                raise ValueError(words)
            talk["at"], talk["car"] = at, self.stands(at, tuple(loads))
        elif words[0] == "settle":
            talk["car"].settle(self.clock())
        elif words[0] == "read":
            found: str = talk["car"].frame(self.clock(), talk["at"] % 4)
            return found
        else:
            raise ValueError(words[0])
        return None
