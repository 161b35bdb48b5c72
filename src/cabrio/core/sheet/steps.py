"""What one step of each setting does to the balance: all steps in one batch, from the limit as it is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache

import numpy as np

from ..car.lines import Line, value_now
from ..car.settings import way_of
from ..catalog.disciplines import disciplines
from ..catalog.part_kinds import picked_by
from ..catalog.places import AXLES, CORNERS
from ..catalog.quantities import AXLE_OF_CORNER, Number, Shape
from ..errors import CoreError
from ..graph.registry import downstream, number_named, numbers
from ..under_load.car import OWN, LoadedCar
from ..under_load.demand import Demand
from ..under_load.grip import Balance, Tyres
from ..under_load.near import balances, stack
from ..under_load.of_sheet import GRIP, NEEDED, loaded_car
from ..under_load.state import load
from .build import Sheet
from .what_if import try_lines

MOVERS = {
    *NEEDED,
    *GRIP,
    "motion_ratio_slope",
    "links_slope",
    "rubber_gap",
    "perch_shift",
    "front_limiter",
}
"""What moves the loaded car: a perch by the pads it shifts."""
LOADED = (*NEEDED, *GRIP, "anti_squat", "links_slope", "air_density")
"""The figures that a loaded car is made of; the others of a trial are not asked for."""
LEAST = 1e-6
"""What moves less than this, in g or in shares, moves nothing."""


@dataclass(frozen=True)
class StepEffect:
    """One step of a setting, the lines it takes, and what it moves."""

    lines: tuple[Line, ...]
    balance: float | None
    """Change of the grip balance [g]: + the rear gives up sooner than before, against the front."""
    front_share: float | None
    """Change of the front share of load transfer, at the cornering looked at [share points]."""


def steps_of(sheet: Sheet) -> Iterator[tuple[Line, ...]]:
    """One step up of every setting, two sides that are set alike together; down where it is at its end."""
    for number in numbers().values():
        if not number.on_slip or not sheet.car.has(number) or not _reaches(number.name):
            continue
        if number.shape is Shape.BALLAST:
            yield from _pieces(sheet, number)
            continue
        for places in _stepped_together(sheet, number):
            lines = _step(sheet, number, places, 1) or _step(sheet, number, places, -1)
            if lines:
                yield lines


def _stepped_together(sheet: Sheet, number: Number) -> Iterator[tuple[str, ...]]:
    """The places of a setting, those together that are stepped together.

    What moves weight across the car, such as a perch, is stepped at one corner.
    """
    if number.shape is Shape.CORNER:
        paired = {} if number.single_corner else disciplines()[sheet.car.discipline].paired
        yield from paired.values()
        yield from ((place,) for place in CORNERS if AXLE_OF_CORNER[place] not in paired)
    elif number.shape is Shape.AXLE:
        yield from ((axle,) for axle in AXLES)


def _pieces(sheet: Sheet, number: Number) -> Iterator[tuple[Line, ...]]:
    """Every piece on the shelf bolted down in the first free place."""
    worn = list(sheet.setup.get(number.name) or [None] * len(number.shape.places))
    if None not in worn:
        return
    free = number.shape.places[worn.index(None)]
    for piece in sheet.car.parts.of(number.name):
        if piece.code not in worn:
            yield (Line(number.name, free, None, piece.code),)


@cache
def _reaches(name: str) -> bool:
    """Whether a setting can move the loaded car: through the graph, as a part, or by a perch."""
    moved = downstream({name} | picked_by(name))
    return number_named(name).is_part or bool(moved & MOVERS)


def _step(sheet: Sheet, number: Number, places: Sequence[str], by: int) -> tuple[Line, ...]:
    """The lines of one step; none where nobody has set it, or there is no such step."""
    found = []
    for place in places:
        try:
            old = value_now(sheet.car, sheet.setup, number.name, place)
            if old is None:
                return ()
            new = way_of(number).step(sheet.car, number, place, old, by)
        except CoreError:
            return ()
        found.append(Line(number.name, place, old, new))
    return tuple(found)


def step_effects(
    sheet: Sheet, car: LoadedCar, tyres: Tyres, here: Balance, demand: Demand
) -> list[StepEffect]:
    """Every step that moves the loaded car, with what it does; greatest on the balance first."""
    tried: list[tuple[tuple[Line, ...], LoadedCar]] = []
    for lines in steps_of(sheet):
        try:
            trial = try_lines(sheet, lines, wanted=LOADED)
            other = loaded_car(trial.car, trial.worked)
        except CoreError:
            continue
        if _differs(car, other):
            tried.append((lines, other))
    if not tried:
        return []
    others = [other for _, other in tried]
    together = stack(car, others)
    # the car as it is goes along as the first of the batch
    every = load(stack(car, [car, *others]), demand.spread(1 + len(tried)))
    holds, share = every.holds[1:] & every.holds[0], every.front_share
    shares = np.where(holds, share[1:] - share[0], np.nan)
    moved = balances(together, tyres, demand.spread(len(tried)), here) - (
        np.nan if here.balance is None else here.balance
    )
    found = [
        StepEffect(lines, _known(moved[i]), _known(shares[i])) for i, (lines, _) in enumerate(tried)
    ]
    moving = [
        one for one in found if max(abs(one.balance or 0.0), abs(one.front_share or 0.0)) > LEAST
    ]
    return sorted(moving, key=lambda one: -abs(one.balance or 0.0))


def _known(value: float) -> float | None:
    return None if np.isnan(value) else float(value)


def _differs(car: LoadedCar, other: LoadedCar) -> bool:
    """Whether a step moves the loaded car at all."""
    return any(
        not np.array_equal(np.asarray(getattr(car, name)), np.asarray(getattr(other, name)))
        for name in OWN
    )
