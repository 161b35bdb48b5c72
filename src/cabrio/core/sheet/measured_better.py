"""Facts that a reading tells better than what is given: the value, its ±, and where it comes from.

Every ± means nine in ten. It is carried through the graph by slopes: each number that the fact is worked from is
moved by its own ±, and what that makes is added in quadrature.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Kind
from ..catalog.units import show
from ..errors import CoreError
from ..graph.evaluate import answer
from ..graph.registry import number_named, roots_of
from ..knowledge import knowledge
from ..record.readings import Reading
from .build import Sheet

FACTS = (
    ("cg_height", "tilted_cg_height", "cg_tilt"),
    ("droop_travel", "droop_read", "droop"),
    ("motion_ratio", "motion_ratio_read", "wheel_lift"),
    ("spring_rate", "spring_rate_read", "spring_rated"),
    ("tyre_rate", "tyre_rate_read", "tyre_deflection"),
    ("unsprung_mass", "unsprung_mass_read", "unsprung_weighed"),
)
"""A fact, or what a fitted part says, the figure that tells it, and the reading that figure rests on."""
WITHIN = {
    "pad_mass": 0.5,
    "front_raised_mass": 0.7,
    "rear_lift": 0.002,
    "wheelbase": 0.003,
    "loaded_radius": 0.003,
    "ride_height": 0.0007,
    "lifted_height": 0.0007,
    "wheel_raised": 0.0007,
    "spring_shortened": 0.0005,
    "spring_load_first": 10.0,
    "spring_load_second": 10.0,
    "spring_length_first": 0.0003,
    "spring_length_second": 0.0003,
    "tyre_load_light": 0.5,
    "tyre_load_heavy": 0.5,
    "hub_height_light": 0.0003,
    "hub_height_heavy": 0.0003,
    "wheel_alone": 0.5,
}
"""The usual ± of what is read and given [SI], nine in ten: two pads together 0.7 kg."""


@dataclass(frozen=True)
class Better:
    """A fact as a reading tells it [SI by place, None where it does not], its ±, and in words where from.

    `lacks` are numbers it rests on that nobody read or measured: until then it is no measurement. `refused`
    says why it cannot be: what was read and what it rests on do not go together.
    """

    fact: str
    kind: str
    values: tuple[float | None, ...]
    within: tuple[float | None, ...]
    source: str
    lacks: tuple[str, ...] = ()
    refused: str = ""


def measured_better(sheet: Sheet) -> tuple[Better, ...]:
    """The facts that readings of this car tell and that are given otherwise, or only estimated."""
    return sheet.once(("measured better",), lambda: tuple(_offered(sheet)))


def _offered(sheet: Sheet) -> list[Better]:
    offered = []
    for fact, figure, kind in FACTS:
        stands, values = sheet.standings.get(kind), sheet.by_place(figure)
        if stands is None or stands.reading is None or stands.status == "void":
            continue
        lacks = tuple(sheet.estimated(figure))
        if values is None:
            unknown = (None,) * len(number_named(fact).shape.places)
            if refusal := sheet.worked.refused.get(figure):
                offered.append(Better(fact, kind, unknown, unknown, "", lacks, refusal.sentence))
            continue
        if (
            sheet.status(figure) == "void"
            or not sheet.car.has(number_named(fact))
            or _is_told(sheet, fact, values)
        ):
            continue
        within = (None,) * len(values) if lacks else _within(sheet, figure, values)
        source = _source(sheet, stands.reading, figure, _most(sheet, fact, values, within))
        offered.append(Better(fact, kind, tuple(values), within, source, lacks))
    return offered


def _is_told(sheet: Sheet, fact: str, values: list[float | None]) -> bool:
    """Whether the fact is given like that already, and measured, as far as it is shown."""
    number, given = number_named(fact), sheet.car.given.get(fact)
    if number.kind is Kind.SET:  # what the part in the inventory says
        stands = sheet.by_place(fact)
    elif given is not None:
        measured = enumerate(given.values)
        stands = [None if given.estimated_at(i) else told for i, told in measured]
    else:
        stands = None
    if stands is None:
        return False
    profile = sheet.car.profile
    return all(
        read is None
        or (
            told is not None
            and show(told, number.quantity, profile) == show(read, number.quantity, profile)
        )
        for told, read in zip(stands, values, strict=True)
    )


def _within(sheet: Sheet, figure: str, values: list[float | None]) -> tuple[float | None, ...]:
    known = {
        name: np.where(np.isnan(array), np.nanmean(array), array)
        for name in roots_of(figure)
        for array in [sheet.worked.values.get(name, sheet.worked.partial.get(name))]
        if array is not None
    }
    squares = np.zeros(len(values))
    for name, within in WITHIN.items():
        if name not in known:
            continue
        for at in range(known[name].size):
            ends = [_moved(figure, known, name, at, by) for by in (within, -within)]
            if ends[0] is None or ends[1] is None:
                return tuple(None for _ in values)
            squares += ((ends[0] - ends[1]) / 2) ** 2
    return tuple(
        None if told is None else float(one)
        for told, one in zip(values, np.sqrt(squares), strict=True)
    )


def _moved(figure: str, known: Mapping[str, Array], name: str, at: int, by: float) -> Array | None:
    array = np.array(known[name], dtype=np.float64)
    array.reshape(-1)[at] += by
    try:
        return answer([figure], {**known, name: array})[figure].reshape(-1)
    except CoreError:
        return None


def _most(
    sheet: Sheet, fact: str, values: list[float | None], within: tuple[float | None, ...]
) -> str:
    """The widest ±, in words; of a ratio as a share, which is the same whichever way up it is written."""
    number = number_named(fact)
    inside = [(off, value) for off, value in zip(within, values, strict=True) if off and value]
    if not inside:
        return ""
    if number.accepts_inverse:
        return f", ± {100 * max(off / abs(value) for off, value in inside):.1f} %"
    return f", ± {show(max(off for off, _ in inside), number.quantity, sheet.car.profile)}"


def _source(sheet: Sheet, reading: Reading, figure: str, most: str) -> str:
    doubt = ", in doubt" if sheet.status(figure) == "doubtful" else ""
    label = knowledge().readings[reading.kind].label
    return f"{label} by {reading.by}, {reading.at[:10]}{most}{doubt}."
