"""What a plan of work is asked for, and what it answers with."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..car.lines import Line
from ..graph.registry import number_named
from ..record.recheck import Recheck
from .candidate import Effect


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


GIVEN_UP = 1000.0
"""What a target given up weighs in the rank, against how far off it all ends."""


@dataclass(frozen=True)
class Plan:
    """Changes in the order of work, what they reach, and the minutes with all that they make stale."""

    lines: tuple[Line, ...]
    reached: tuple[Reached, ...]
    minutes: int
    rechecks: tuple[Recheck, ...]
    notes: tuple[str, ...] = ()
    besides: tuple[Effect, ...] = ()
    """Figures nobody asked for that a driver would feel, most first."""
    nearest: tuple[float, ...] = ()
    """How near each target can come at all, in what counts as reached; 1 or less for one that can be met."""

    @property
    def met(self) -> bool:
        return all(one.met for one in self.reached)

    @property
    def off(self) -> float:
        """How far off all of it ends: root mean square, in what counts as reached. A target that nothing reaches
        is measured by the nearest it can come, so that no other is given up for it."""
        scale = np.maximum(self.nearest or 1.0, 1.0)
        return float(np.sqrt(np.mean(np.square([one.off for one in self.reached] / scale))))

    @property
    def given_up(self) -> int:
        """Targets that can be met and are not."""
        nearest = self.nearest or (0.0,) * len(self.reached)
        return sum(
            not one.met and near <= 1.0 for one, near in zip(self.reached, nearest, strict=True)
        )

    @property
    def rank(self) -> tuple[float, int, int, float, float, float]:
        """Best first: what is met counts alike however near it is, what is not by tenths, and fewer that could be
        met given up before all; then the minutes, the fewest pieces, the nearest by quarters of what counts as
        reached, the fewest steps."""
        near = 0.0 if self.met else GIVEN_UP * self.given_up + round(self.off, 1)
        return (near, self.minutes, len(self.lines), round(4 * self.off, 0), self.steps, self.off)

    @property
    def steps(self) -> float:
        """Steps of all that is moved, together; a part changed is none."""
        moved = [(number_named(line.name), line.old, line.new) for line in self.lines]
        return sum(
            abs(float(new) - float(old)) / (number.step or 1.0)
            for number, old, new in moved
            if not number.is_part and old is not None
        )

    @property
    def touches(self) -> frozenset[str]:
        return frozenset(line.name for line in self.lines)


@dataclass(frozen=True)
class Plans:
    """The plans, best first; how many set-ups were looked at; what to say beside them."""

    count: int
    plans: tuple[Plan, ...]
    notes: tuple[str, ...] = ()
