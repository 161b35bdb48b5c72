"""What a plan of work is asked for, and what it answers with."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..car.lines import Line
from ..graph.registry import number_named
from ..record.recheck import Recheck


@dataclass(frozen=True)
class Target:
    """A figure at a place, the value wanted and how far off still counts as reached [SI]."""

    name: str
    place: str
    wanted: float
    within: float

    @property
    def label(self) -> str:
        return number_named(self.name).where(self.place)


@dataclass(frozen=True)
class Touch:
    """What may be touched: systems by name, minutes at most, readings that must not be upset."""

    systems: frozenset[str]
    minutes: int | None = None
    spare: frozenset[str] = frozenset()


@dataclass(frozen=True)
class Reached:
    """A target with its figure before and after [SI], worked whole."""

    target: Target
    before: float
    after: float

    @property
    def off(self) -> float:
        """How far off it ends, in what still counts as reached."""
        return abs(self.after - self.target.wanted) / self.target.within

    @property
    def met(self) -> bool:
        return self.off <= 1.0 + 1e-9


@dataclass(frozen=True)
class Plan:
    """Changes in the order of work, what they reach, and the minutes with all that they make stale."""

    lines: tuple[Line, ...]
    reached: tuple[Reached, ...]
    minutes: int
    rechecks: tuple[Recheck, ...]
    notes: tuple[str, ...] = ()

    @property
    def met(self) -> bool:
        return all(one.met for one in self.reached)

    @property
    def off(self) -> float:
        """How far off all of it ends: root mean square, in what counts as reached."""
        return float(np.sqrt(np.mean([one.off**2 for one in self.reached])))

    @property
    def rank(self) -> tuple[float, int, float]:
        """Best first: what is met counts alike however near it is, what is not by tenths; then the minutes."""
        return (0.0 if self.met else round(self.off, 1), self.minutes, self.off)

    @property
    def touches(self) -> frozenset[str]:
        return frozenset(line.name for line in self.lines)


@dataclass(frozen=True)
class Plans:
    """The plans, best first; how many set-ups were looked at; what to say beside them."""

    count: int
    plans: tuple[Plan, ...]
    notes: tuple[str, ...] = ()
