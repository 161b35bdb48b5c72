"""The mass ledger: what the pads should read after all that was done since they last read, and what they do.

Where the perches alone were turned between two weighings it tells what they really move on this car.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from ..car.lines import Line, differences
from ..car.model import Car
from ..catalog.units import show
from ..errors import CoreError
from ..knowledge import knowledge
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
    the pads, what was weighed then. `why` says why nothing could be predicted; two weighings in unlike states
    are no test of the lines."""

    reading: Reading
    earlier: Reading
    lines: tuple[Line, ...]
    predicted: tuple[float, ...] | None
    why: str = ""
    states: tuple[str, ...] = ()
    """How the car was weighed otherwise than before, beside what was booked."""


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
    by_then = [revision for revision in revisions if revision.number <= number]
    setup = next(one.setup for one in by_then if one.number == number)
    return build(
        car.at(number),
        setup,
        [reading for reading in readings if reading.revision <= number],
        by_then,
    )


def ledger(car: Car, readings: Sequence[Reading], revisions: Sequence[Revision]) -> list[Step]:
    """Every step between pad readings that stand on the record, the newest first."""
    found = []
    for one in reversed(_between(readings, revisions)):
        sheet = sheet_at(car, one.earlier.revision, readings, revisions) if one.lines else None
        found.append(_step(sheet, one, car.profile))
    return found


def learned_perches(
    car: Car, readings: Sequence[Reading], revisions: Sequence[Revision]
) -> Gain | None:
    """What this car's perches move round the diagonals against what is worked out, where perches alone
    were turned between two weighings."""
    steps = [
        _step(sheet_at(car, one.earlier.revision, readings, revisions), one, car.profile)
        for one in _between(readings, revisions)
        if one.lines and {line.name for line in one.lines} == PERCHES
    ]
    told = [
        (step.predicted, step.earlier, step.reading)
        for step in steps
        if step.predicted and not step.states
    ]
    before = [_round(earlier.whole("pad_mass")) for _, earlier, _ in told]
    return gain(
        [_round(one) - was for (one, _, _), was in zip(told, before, strict=True)],
        [
            _round(later.whole("pad_mass")) - was
            for (_, _, later), was in zip(told, before, strict=True)
        ],
    )


def _between(readings: Sequence[Reading], revisions: Sequence[Revision]) -> list[_Between]:
    read = sorted(
        (reading for reading in readings if reading.kind == "pads"), key=lambda reading: reading.id
    )
    setups = {revision.number: revision.setup for revision in revisions}
    return [
        _Between(
            earlier,
            later,
            tuple(differences(setups[earlier.revision], setups[later.revision])),
        )
        for earlier, later in list(pairwise(read))[-MOST:]
    ]


def _step(sheet: Sheet | None, one: _Between, profile: str) -> Step:
    """What a step should have made of the pads, from the sheet of then; without one nothing was changed."""
    before = tuple(one.earlier.whole("pad_mass"))
    states = _states(one.earlier, one.later, profile)
    if sheet is None:
        return Step(one.later, one.earlier, one.lines, before, states=states)
    try:
        found = try_lines(sheet, one.lines)
    except CoreError as refusal:
        return Step(one.later, one.earlier, one.lines, None, refusal.sentence, states)
    pads, known = found.value("pad_mass"), sheet.worked.values.get("pad_mass")
    if pads is None or known is None:
        said = "The pads of then are not known."
        return Step(one.later, one.earlier, one.lines, None, said, states)
    # from what was weighed then, whatever the sheet of that revision takes the pads to be
    after = tuple(a + float(b) for a, b in zip(before, pads - known, strict=True))
    return Step(one.later, one.earlier, one.lines, after, states=states)


def _states(earlier: Reading, later: Reading, profile: str) -> tuple[str, ...]:
    """In what the car was weighed otherwise: conditions that held once and not twice, fuel, by eye."""
    book, found = knowledge(), []
    for name in book.readings["pads"].conditions:
        then, now = earlier.conditions.get(name, False), later.conditions.get(name, False)
        if then != now:
            label = book.conditions[name].label
            found.append(f"{label}: {'now' if now else 'then'}, not {'then' if now else 'now'}.")
    then_fuel, now_fuel = (one.values.get("fuel_mass") for one in (earlier, later))
    if then_fuel != now_fuel:
        learned = [
            "not told" if row is None or row[0] is None else show(row[0], "mass", profile)
            for row in (then_fuel, now_fuel)
        ]
        found.append(f"Fuel: {learned[0]} then, {learned[1]} now.")
    if earlier.taken.by_eye or later.taken.by_eye:
        found.append("One of the two was taken by eye.")
    return tuple(found)


def _round(pads: Sequence[float]) -> float:
    """Load on one diagonal over the other [kg]."""
    left_front, right_front, left_rear, right_rear = pads
    return left_front + right_rear - right_front - left_rear
