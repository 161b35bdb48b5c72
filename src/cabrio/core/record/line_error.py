"""How far a flat of link preload moves a car off its line by 60 ft, learned from its own passes."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ..car.model import Setup
from ..catalog.units import show
from ..solve.line import line_through
from ..solve.preload import flats_text
from .bite import PRELOAD, standing

OFF_LINE = "off60"
"""What is written down of a pass: how far off its line the car was at 60 ft [m], + to the left."""
FEWEST = 3
"""Passes that it is learned from: two lie on a line whatever they were."""


@dataclass(frozen=True)
class PassRecord:
    """A pass whose place at 60 ft was written down: the revision, its flats, how far off [m], + left."""

    revision: int
    flats: float
    off: float


@dataclass(frozen=True)
class LineError:
    """How far off a flat moves the car by 60 ft [m per flat], its standard error, at how many flats it runs
    straight, None where the flats do not clearly move it, and the number of passes."""

    per_flat: float
    error: float
    straight: float | None
    count: int

    @property
    def sure(self) -> bool:
        """Whether a flat moves this car at all, beyond twice the error."""
        return abs(self.per_flat) > 2 * self.error

    def sentence(self, profile: str) -> str:
        """What it says, as a sentence."""
        size, error = (
            show(one, "dimension", profile, unit=False) for one in (abs(self.per_flat), self.error)
        )
        unit = show(self.error, "dimension", profile).split()[-1]
        if not self.sure:
            return (
                f"Over {self.count} passes the flats do not move this car beyond what it scatters: "
                f"{size} ± {error} {unit} a flat by 60 ft."
            )
        side = "left" if self.per_flat > 0 else "right"
        sentence = f"A positive flat moves this car {size} ± {error} {unit} to the {side} by 60 ft"
        straight = (
            "" if self.straight is None else f"; straight at {flats_text(self.straight, True)}"
        )
        return f"{sentence}, over {self.count} passes{straight}."


def passes_at(
    setup: Setup, runs: Iterable[tuple[int, Mapping[str, float]]], setups: Mapping[int, Setup]
) -> list[PassRecord]:
    """The passes on setups that are this one but for the preload, of (revision, what was clocked)."""
    here, found = standing(setup), []
    for revision, clocked in runs:
        worn = setups.get(revision)
        if worn is None or OFF_LINE not in clocked:
            continue
        flats = (worn.get(PRELOAD) or [None])[0]
        if flats is not None and standing(worn) == here:
            found.append(PassRecord(revision, float(flats), float(clocked[OFF_LINE])))
    return found


def line_error_per_flat(passes: Sequence[PassRecord], step: float = 0.5) -> LineError | None:
    """The line of how far off over flats; None below three passes or at one number of flats only."""
    if len(passes) < FEWEST or len({passed.flats for passed in passes}) < 2:
        return None
    line = line_through([passed.flats for passed in passes], [passed.off for passed in passes], 0.0)
    found = LineError(line.slope, line.error, None, len(passes))
    if not found.sure:
        return found
    straight = round(-line.at_zero / line.slope / step) * step + 0.0
    return LineError(line.slope, line.error, straight, len(passes))
