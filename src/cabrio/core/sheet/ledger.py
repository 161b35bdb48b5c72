"""The mass ledger: what the pads should read after all that was done since they last read, and what they do.

Where the perches alone were turned between two weighings it tells what they really move on this car.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from ..car.lines import Line, differences
from ..car.model import Car
from ..errors import CoreError
from ..record.gain import Gain, gain
from ..record.readings import Reading
from .build import Revision, Sheet, build
from .what_if import try_lines

MOST = 8
"""Steps of the ledger that are looked at, the newest first."""
PERCHES = frozenset({"perch_turns"})


@dataclass(frozen=True)
class Step:
    """From one pad reading to the next [kg]: the lines booked between, what they should have made of
    the pads, what was weighed then. `why` says why nothing could be predicted."""

    reading: Reading
    earlier: Reading
    lines: tuple[Line, ...]
    predicted: tuple[float, ...] | None
    why: str = ""


@dataclass(frozen=True)
class _Between:
    """Two pad readings that follow each other, and the lines booked between them."""

    earlier: Reading
    later: Reading
    lines: tuple[Line, ...]


def sheet_at(
    car: Car, number: int, readings: Sequence[Reading], revisions: Sequence[Revision]
) -> Sheet:
    """The sheet as it stood on a revision: only what was read and booked by then."""
    by_then = [one for one in revisions if one.number <= number]
    setup = next(one.setup for one in by_then if one.number == number)
    return build(
        car.at(number), setup, [one for one in readings if one.revision <= number], by_then
    )


def ledger(car: Car, readings: Sequence[Reading], revisions: Sequence[Revision]) -> list[Step]:
    """Every step between pad readings that stand on the record, the newest first."""
    found = []
    for one in reversed(_between(readings, revisions)):
        sheet = sheet_at(car, one.earlier.revision, readings, revisions) if one.lines else None
        found.append(_step(sheet, one))
    return found


def learned_perches(
    car: Car, readings: Sequence[Reading], revisions: Sequence[Revision]
) -> Gain | None:
    """What this car's perches move round the diagonals against what is worked out, where perches alone
    were turned between two weighings."""
    steps = [
        _step(sheet_at(car, one.earlier.revision, readings, revisions), one)
        for one in _between(readings, revisions)
        if one.lines and {line.name for line in one.lines} == PERCHES
    ]
    told = [(one.predicted, one.earlier, one.reading) for one in steps if one.predicted]
    before = [_round(earlier.whole("pad_mass")) for _, earlier, _ in told]
    return gain(
        [_round(one) - was for (one, _, _), was in zip(told, before, strict=True)],
        [
            _round(later.whole("pad_mass")) - was
            for (_, _, later), was in zip(told, before, strict=True)
        ],
    )


def _between(readings: Sequence[Reading], revisions: Sequence[Revision]) -> list[_Between]:
    read = sorted((one for one in readings if one.kind == "pads"), key=lambda one: one.id)
    setups = {one.number: one.setup for one in revisions}
    return [
        _Between(
            earlier,
            later,
            tuple(differences(setups[earlier.revision], setups[later.revision])),
        )
        for earlier, later in list(pairwise(read))[-MOST:]
    ]


def _step(sheet: Sheet | None, one: _Between) -> Step:
    """What a step should have made of the pads, from the sheet of then; without one nothing was changed."""
    before = tuple(one.earlier.whole("pad_mass"))
    if sheet is None:
        return Step(one.later, one.earlier, one.lines, before)
    try:
        found = try_lines(sheet, one.lines)
    except CoreError as refusal:
        return Step(one.later, one.earlier, one.lines, None, refusal.sentence)
    pads, known = found.value("pad_mass"), sheet.worked.values.get("pad_mass")
    if pads is None or known is None:
        return Step(one.later, one.earlier, one.lines, None, "The pads of then are not known.")
    # from what was weighed then, whatever the sheet of that revision takes the pads to be
    after = tuple(a + float(b) for a, b in zip(before, pads - known, strict=True))
    return Step(one.later, one.earlier, one.lines, after)


def _round(pads: Sequence[float]) -> float:
    """Load on one diagonal over the other [kg]."""
    left_front, right_front, left_rear, right_rear = pads
    return left_front + right_rear - right_front - left_rear
