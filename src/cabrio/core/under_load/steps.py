"""What one step of each setting does to the balance: all steps in one batch, from the limit as it is."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from functools import cache

import numpy as np

from ..car.lines import Line, value_now
from ..car.settings import way_of
from ..catalog.part import picked_by
from ..catalog.quantities import Array, Number, Shape
from ..constants import STANDARD_GRAVITY as G
from ..errors import CoreError
from ..graph.registry import downstream, number_named, numbers
from ..sheet.build import Sheet
from ..sheet.what_if import try_lines
from .car import OWN, Demand, LoadedCar
from .grip import Balance, Tyres, spare
from .of_sheet import GRIP, NEEDED, loaded_car
from .settle import Settled
from .state import load

PLACES: dict[Shape, tuple[tuple[str, ...], ...]] = {
    Shape.AXLE: (("front",), ("rear",)),
    Shape.CORNER: (("LF", "RF"), ("LR", "RR")),
}
MOVERS = {*NEEDED, *GRIP, "motion_ratio_slope", "anti_squat", "rubber_gap", "perch_shift"}
"""What moves the loaded car: a perch by the pads it shifts."""
TURNS = 8
"""Times the limit of a changed car is looked for again from where the last two looks point."""
LEAST = 1e-6
"""What moves less than this, in g or in shares, moves nothing."""
CLOSE = 1e-7
"""How little may be left at a limit, in parts of the weight."""


@dataclass(frozen=True)
class StepEffect:
    """One step of a setting, the lines it takes, and what it moves."""

    lines: tuple[Line, ...]
    balance: float | None
    """Change of the grip balance [g]: + the rear gives up sooner than before, against the front."""
    front_share: float | None
    """Change of the front share of load transfer, at the cornering looked at [share points]."""


def steps_of(sheet: Sheet) -> Iterator[tuple[Line, ...]]:
    """One step up of every setting, both sides of an axle together; down where it is at its end."""
    for number in numbers().values():
        if not number.on_slip or not sheet.car.has(number) or not _reaches(number.name):
            continue
        for places in PLACES.get(number.shape, ()):
            lines = _step(sheet, number, places, 1) or _step(sheet, number, places, -1)
            if lines:
                yield lines


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
            trial = try_lines(sheet, lines)
            other = loaded_car(trial.car, trial.worked)
        except CoreError:
            continue
        if _differs(car, other):
            tried.append((lines, other))
    if not tried:
        return []
    together = stack(car, [other for _, other in tried])
    before = load(car, demand)
    after = load(together, demand.spread(len(tried)))
    shares = np.where(after.holds, after.front_share, np.nan) - before.front_share[0]
    moved = _balances(together, tyres, demand, here) - (
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


def stack(car: LoadedCar, others: Sequence[LoadedCar]) -> LoadedCar:
    """Cars as a batch of one. Their rubbers and air are the first one's."""
    rows = {
        name: np.stack([np.asarray(getattr(one, name), dtype=float) for one in others])
        for name in OWN
        if getattr(car, name) is not None
    }
    return replace(car, **rows)  # type: ignore[arg-type]


def _balances(cars: LoadedCar, tyres: Tyres, demand: Demand, here: Balance) -> Array:
    """The balance of each car of a batch [g], from the limits of one that is near; NaN where unknown."""
    limits = []
    for axle, near in enumerate((here.front, here.rear)):
        if near is None:
            return np.full(cars.size, np.nan)
        limits.append(_limit(cars, tyres, demand, axle, near, here))
    found: Array = (np.abs(limits[0]) - np.abs(limits[1])) / G
    return found


def _limit(
    cars: LoadedCar, tyres: Tyres, demand: Demand, axle: int, near: float, here: Balance
) -> Array:
    """The sideways limit of an axle of each car [m/s²], by the straight line through the last two looks."""
    one, size = here.state.settled, cars.size
    start = Settled(
        np.repeat(one.z, size, axis=0),
        np.repeat(one.stops, size, axis=0),
        np.repeat(one.holds, size),
    )
    last, at = np.full(size, near), np.full(size, near * 1.002)
    left = np.full(size, np.nan)
    for turn in range(TURNS):
        look = last if turn == 0 else at
        spread = demand.spread(size)
        state = load(cars, Demand(spread.along, look, spread.speed, demand.shaft), start, (1,))
        now = np.where(state.holds, spare(tyres, axle, state), np.nan)
        if turn:
            flat = (now == left) | (np.abs(now) < CLOSE)
            slope = np.where(flat, 1.0, now - left)
            after = np.where(flat, at, at - now * (at - last) / slope)
            last, at = at, after
        left = now
        start = state.settled
        if turn and np.all((np.abs(now) < CLOSE) | np.isnan(now)):
            break
    return np.where(np.abs(left) < 1e-5, at, np.nan)
