"""Two revisions side by side: what was set otherwise, what moved, which conditions were not equal."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from cabrio.core.car import Line, differences
from cabrio.core.car.lines import altered
from cabrio.core.sheet.build import MovedRow, Sheet, moved, moved_by_points

from .bench import Bench
from .corrected import corrected_since


@dataclass
class Comparison:
    """Two revisions: what is set otherwise, the figures that moved, what was not equal, what was corrected."""

    set_otherwise: list[Line]
    moved: list[MovedRow]
    unequal: list[str]
    corrected: list[str]
    """What was corrected after one of them was booked: both are worked with what is known now."""
    left: Sheet
    right: Sheet


def compare(bench: Bench, left: int, right: int) -> Comparison:
    """Each revision is worked with the readings taken by the time the next one was booked."""
    a, b = bench.sheet_at(left), bench.sheet_at(right)
    return Comparison(
        set_otherwise=differences(bench.at(left).setup, bench.at(right).setup)
        + altered(bench.car, left, right),
        moved=moved(a.worked, b.worked) + moved_by_points(a.parts, b.parts),
        unequal=_unequal(a, b, left, right),
        corrected=list(dict.fromkeys([*_corrected(bench, left), *_corrected(bench, right)])),
        left=a,
        right=b,
    )


def _corrected(bench: Bench, revision: int) -> Iterator[str]:
    then = bench.at(revision)
    return corrected_since(bench.car, revision, then.setup, then.at)


def _unequal(a: Sheet, b: Sheet, left: int, right: int) -> list[str]:
    said = []
    for kind in a.standings:
        one, two = a.standings[kind], b.standings[kind]
        if not (one.reading and one.reading.repeats) and not (two.reading and two.reading.repeats):
            continue
        label = kind.replace("_", " ")
        if one.reading is None or two.reading is None:
            missing = left if one.reading is None else right
            said.append(f"There is no {label} reading on revision {missing}.")
            continue
        if one.reading.id != two.reading.id:
            said.append(
                f"The {label} readings are two different ones, so figures from them may "
                "differ for that reason alone."
            )
            mismatches = [
                c
                for c, held in one.reading.conditions.items()
                if two.reading.conditions.get(c) != held
            ]
            for condition in mismatches:
                said.append(f"The {label} readings differ in “{condition.replace('_', ' ')}”.")
            if one.reading.values.get("fuel_mass") != two.reading.values.get("fuel_mass"):
                said.append(f"The {label} readings were taken with different fuel.")
        elif one.status != two.status:
            said.append(
                f"The {label} reading is {one.status} on revision {left} and {two.status} on "
                f"revision {right}."
            )
    return said
