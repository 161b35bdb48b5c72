"""The mass ledger: what the pads should read after all that was done since they last read, and what they do."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from cabrio.core.car import Line, differences
from cabrio.core.errors import CoreError
from cabrio.core.record.gain import Gain, gain
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.what_if import try_lines

from .bench import Bench

MOST = 8
"""Steps of the ledger that are shown, the newest first."""


@dataclass(frozen=True)
class Step:
    """From one pad reading to the next [kg]: the lines booked between, what they should have made of
    the pads, what was weighed then. `why` says why nothing could be predicted."""

    reading: Reading
    earlier: Reading
    lines: tuple[Line, ...]
    predicted: tuple[float, ...] | None
    why: str = ""


def ledger(bench: Bench) -> list[Step]:
    """Every step between pad readings that stand on the record, the newest first."""
    read = sorted((one for one in bench.readings if one.kind == "pads"), key=lambda one: one.id)
    pairs = list(pairwise(read))[-MOST:]
    return [_step(bench, earlier, later) for earlier, later in reversed(pairs)]


def _step(bench: Bench, earlier: Reading, later: Reading) -> Step:
    then, now = bench.at(earlier.revision), bench.at(later.revision)
    lines = tuple(differences(then.setup, now.setup))
    before = tuple(earlier.values["pad_mass"])
    if not lines:
        return Step(later, earlier, lines, before)
    sheet = bench.sheet_at(earlier.revision)
    try:
        found = try_lines(sheet, lines)
    except CoreError as refusal:
        return Step(later, earlier, lines, None, refusal.sentence)
    pads = found.value("pad_mass")
    known = sheet.worked.values.get("pad_mass")
    if pads is None or known is None:
        return Step(later, earlier, lines, None, "The pads of then are not known.")
    # from what was weighed then, whatever the sheet of that revision takes the pads to be
    moved = tuple(float(one) for one in pads - known)
    return Step(later, earlier, lines, tuple(a + b for a, b in zip(before, moved, strict=True)))


def perch_gain(steps: list[Step]) -> Gain | None:
    """What this car's perches move round the diagonals against what was predicted, where perches alone
    were turned between two weighings."""
    alone = [
        (one.predicted, one.earlier.values["pad_mass"], one.reading.values["pad_mass"])
        for one in steps
        if one.predicted and one.lines and {line.name for line in one.lines} == {"perch_turns"}
    ]
    pairs = [
        (_round(predicted) - _round(before), _round(weighed) - _round(before))
        for predicted, before, weighed in alone
    ]
    return gain([one for one, _ in pairs], [one for _, one in pairs])


def _round(pads: Sequence[float]) -> float:
    """Load on one diagonal over the other [kg]."""
    left_front, right_front, left_rear, right_rear = pads
    return left_front + right_rear - right_front - left_rear
