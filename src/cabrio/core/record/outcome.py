"""What came of a change: figures expected against what was read after, and runs before against runs after.

Nothing is claimed inside the run-to-run scatter, nor where the runs differ in more than the change.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy.stats import t as student

SURE = 0.95
"""How sure a difference has to be before it is called one."""
ALIKE_DEGREES = 5.0
"""Air or track this much warmer or colder is another condition [K]."""


@dataclass(frozen=True)
class RunSeen:
    """One timed run: its time [s], and what else was so that a time may hang on."""

    time: float
    driver: str = ""
    tyres: str = ""
    surface: str = ""
    air: float | None = None
    track: float | None = None
    session: str = ""


@dataclass(frozen=True)
class Compared:
    """Runs before and after a change. `gain` is the mean time saved [s, + quicker]; `scatter` the standard
    deviation of a single run about its own mean [s], None where no two runs tell it; `sure` half the width
    of the range the gain is known to [s]. `confounders` are what else was different."""

    before: int
    after: int
    gain: float | None
    scatter: float | None
    sure: float | None
    confounders: tuple[str, ...]

    @property
    def beyond(self) -> bool:
        """Whether the difference is outside of the run-to-run scatter."""
        return self.gain is not None and self.sure is not None and abs(self.gain) > self.sure

    @property
    def said(self) -> str:
        if not self.before or not self.after:
            missing = "before" if not self.before else "after"
            return f"No timed run {missing} it at the same event: nothing can be said of the time."
        if self.scatter is None:
            return "One run each way: run-to-run scatter is not known, so nothing can be said."
        way = "quicker" if (self.gain or 0.0) > 0 else "slower"
        gain = abs(self.gain or 0.0)
        if not self.beyond:
            return (
                f"{gain:.2f} s {way}, inside the run-to-run scatter: no difference can be claimed."
            )
        also = " More than the change was different." if self.confounders else ""
        return f"{gain:.2f} s {way}, outside of the run-to-run scatter.{also}"


def compare(before: Sequence[RunSeen], after: Sequence[RunSeen]) -> Compared:
    """Runs before and after a change, by Student's t with the scatter taken as alike both ways."""
    if not before or not after:
        return Compared(len(before), len(after), None, None, None, ())
    a, b = (np.array([one.time for one in runs]) for runs in (before, after))
    gain = float(a.mean() - b.mean())
    free = len(a) + len(b) - 2
    scatter = sure = None
    if free > 0:
        scatter = sqrt(float(((a - a.mean()) ** 2).sum() + ((b - b.mean()) ** 2).sum()) / free)
        half = float(student.ppf((1 + SURE) / 2, free))
        sure = half * scatter * sqrt(1 / len(a) + 1 / len(b))
    return Compared(len(a), len(b), gain, scatter, sure, tuple(_unlike(before, after)))


def _unlike(before: Sequence[RunSeen], after: Sequence[RunSeen]) -> list[str]:
    """What else was not alike, in words."""
    found = []
    for name in ("driver", "tyres", "surface", "session"):
        sides = [{getattr(one, name) for one in runs} for runs in (before, after)]
        if sides[0] != sides[1]:
            words = [", ".join(sorted(side - {""})) or "not noted" for side in sides]
            found.append(f"{name}: {words[0]}, then {words[1]}")
    for name in ("air", "track"):
        known = [
            [value for one in runs if (value := getattr(one, name)) is not None]
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
