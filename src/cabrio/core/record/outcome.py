"""What came of a change: figures expected against what was read after, and runs before against runs after.

Nothing is claimed inside the run-to-run scatter, nor where the runs differ in more than the change.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from math import sqrt

import numpy as np
from scipy.special import stdtrit

from ..arrays import Array

SURE = 0.95
"""How sure a difference has to be before it is called one."""
ALIKE_DEGREES = 5.0
"""Air or track this much warmer or colder is another condition [K]."""


@dataclass(frozen=True)
class RunSeen:
    """One timed run: its time [s], and what else was so that a time may hang on.

    `marks` are its times to marks down the track [s], by label in their order; none where laps are timed.
    `order` is its place among all runs looked at, as they were made.
    """

    time: float
    driver: str = ""
    tyres: str = ""
    surface: str = ""
    air: float | None = None
    track: float | None = None
    session: str = ""
    marks: dict[str, float] = field(default_factory=dict)
    order: int = 0


@dataclass(frozen=True)
class Compared:
    """Runs before and after a change. `mark` is how far they were timed, where marks are; `trend` what the
    run-to-run trend on both sides alone would make of the gain [s]. `gain` is the mean time saved [s, + quicker]; `scatter` the standard
    deviation of a single run about its own mean [s], None where no two runs tell it; `sure` half the width
    of the range the gain is known to [s]. `confounders` are what else was different."""

    before: int
    after: int
    gain: float | None
    scatter: float | None
    sure: float | None
    confounders: tuple[str, ...]
    mark: str = ""
    trend: float = 0.0
    unlike: bool = False
    """Whether the runs have no mark in common that they could be held against each other at."""

    @property
    def is_trend(self) -> bool:
        """Whether half of the gain or more is what the times did run by run anyway."""
        return self.gain is not None and self.gain * self.trend > 0.5 * self.gain**2

    @property
    def beyond(self) -> bool:
        """Whether the difference is outside of the run-to-run scatter, and no trend makes it."""
        clear = self.gain is not None and self.sure is not None and abs(self.gain) > self.sure
        return clear and not self.is_trend

    @property
    def sentence(self) -> str:
        if not self.before or not self.after:
            missing = "before" if not self.before else "after"
            return f"No timed run {missing} it at the same event: nothing can be said of the time."
        if self.unlike:
            return "The runs were not timed to one same mark: their times cannot be compared."
        if self.scatter is None:
            return "One run each way: run-to-run scatter is not known, so nothing can be said."
        way = "quicker" if (self.gain or 0.0) > 0 else "slower"
        gain = abs(self.gain or 0.0)
        to = f" to {self.mark}" if self.mark else ""
        if self.is_trend:
            return (
                f"{gain:.2f} s {way}{to}, but the times went that way run by run before and after it as "
                "well: no difference can be claimed."
            )
        if not self.beyond:
            return f"{gain:.2f} s {way}{to}, inside the run-to-run scatter: no difference can be claimed."
        also = " More than the change was different." if self.confounders else ""
        return f"{gain:.2f} s {way}{to}, outside of the run-to-run scatter.{also}"


def compare(before: Sequence[RunSeen], after: Sequence[RunSeen]) -> Compared:
    """Runs before and after a change, by Student's t with the scatter taken as alike both ways.

    Passes are held against each other at the farthest mark that all of them were timed at: one that was
    lifted early says nothing of the rest. Times that moved run by run on both sides claim nothing.
    """
    if not before or not after:
        return Compared(len(before), len(after), None, None, None, ())
    mark, times = _alike_timed(before, after)
    if times is None:
        return Compared(len(before), len(after), None, None, None, (), unlike=True)
    a, b = times
    gain = float(a.mean() - b.mean())
    free = len(a) + len(b) - 2
    scatter = sure = None
    if free > 0:
        scatter = sqrt(float(((a - a.mean()) ** 2).sum() + ((b - b.mean()) ** 2).sum()) / free)
        half = float(stdtrit(free, (1 + SURE) / 2))
        sure = half * scatter * sqrt(1 / len(a) + 1 / len(b))
    return Compared(
        len(a),
        len(b),
        gain,
        scatter,
        sure,
        tuple(_unlike(before, after)),
        mark,
        _trend(before, after, a, b),
    )


def _alike_timed(
    before: Sequence[RunSeen], after: Sequence[RunSeen]
) -> tuple[str, tuple[Array, Array] | None]:
    """How far the runs are compared and their times to there; None where they have no mark in common."""
    every = (*before, *after)
    if not any(one.marks for one in every):
        return "", (
            np.array([one.time for one in before]),
            np.array([one.time for one in after]),
        )
    common = [mark for mark in every[0].marks if all(mark in one.marks for one in every)]
    if not common:
        return "", None
    mark = common[-1]
    farthest = all(list(one.marks)[-1] == mark for one in every)
    first, then = (np.array([run.marks[mark] for run in runs]) for runs in (before, after))
    return "" if farthest else mark, (first, then)


def _trend(before: Sequence[RunSeen], after: Sequence[RunSeen], a: Array, b: Array) -> float:
    """What the slope of the times over the runs, within both sides, alone would make of the gain [s]."""
    orders = [np.array([run.order for run in runs], dtype=float) for runs in (before, after)]
    rise = weight = 0.0
    for order, times in zip(orders, (a, b), strict=True):
        off = order - order.mean()
        rise += float((off * (times - times.mean())).sum())
        weight += float((off * off).sum())
    if weight <= 0:
        return 0.0
    return -rise / weight * float(orders[1].mean() - orders[0].mean())


def _unlike(before: Sequence[RunSeen], after: Sequence[RunSeen]) -> list[str]:
    """What else was not alike, in words."""
    found = []
    for name in ("driver", "tyres", "surface", "session"):
        sides = [{getattr(run, name).strip() for run in runs} - {""} for runs in (before, after)]
        if sides[0] != sides[1]:
            words = [", ".join(sorted(side)) or "not noted" for side in sides]
            found.append(f"{name}: {words[0]}, then {words[1]}")
    for name in ("air", "track"):
        known = [
            [value for run in runs if (value := getattr(run, name)) is not None]
            for runs in (before, after)
        ]
        if all(known):
            warmer = float(np.mean(known[1]) - np.mean(known[0]))
            if abs(warmer) >= ALIKE_DEGREES:
                way = "warmer" if warmer > 0 else "colder"
                found.append(f"{name}: {abs(warmer):.0f} degrees {way}")
    return found


@dataclass(frozen=True)
class Found:
    """A figure at a place [SI]: before the change, as the model expected it after, as it was read after.

    Nothing is expected where the model has no way to tell."""

    name: str
    place: str
    before: float
    expected: float | None
    found: float
    within: float

    @property
    def as_expected(self) -> bool:
        return self.expected is not None and abs(self.found - self.expected) <= self.within
