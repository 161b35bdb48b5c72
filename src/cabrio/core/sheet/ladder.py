"""Every combination of the bars' holes or blades that this car has, with what each would give."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np

from ..arrays import Array
from ..car.lines import Line, value_now
from ..car.model import Car
from ..car.settings import check_free, check_setting
from ..catalog.quantities import PLACES, Shape
from ..errors import CoreError, Impossible
from ..graph.registry import Worked, number_named
from ..knowledge import knowledge
from ..under_load.car import LoadedCar
from ..under_load.demand import Demand
from ..under_load.grip import Balance, Tyres, balance
from ..under_load.near import balances, stack
from ..under_load.of_sheet import NEEDED, loaded_car, tyres
from .build import Sheet
from .steps import LOADED
from .what_if import WhatIf, try_lines

AXLES = PLACES[Shape.AXLE]
SHOWN = ("lltd", "roll_gradient", "lltd_off_start", "bar_wheel_rate")
MOST = 400
"""Combinations worked at once: beyond that a ladder is no longer looked at."""


@dataclass(frozen=True)
class Limits:
    """A loaded car and its limit as it is, at a demand: what others near it are worked from."""

    car: LoadedCar
    tyres: Tyres
    demand: Demand
    here: Balance


def limits_of(car: Car, worked: Worked, demand: Demand) -> Limits | None:
    """The loaded car and its limit as it is; None where it lacks something, or has no limit."""
    grip = tyres(worked)
    if grip is None or worked.lacking(NEEDED):
        return None
    try:
        loaded = loaded_car(car, worked)
        straight = Demand(demand.along, 0.0, demand.speed, demand.shaft)
        here = balance(loaded, grip, straight, float(demand.sideways) >= 0)
    except CoreError:
        return None
    return Limits(loaded, grip, straight, here)


@dataclass(frozen=True)
class Rail:
    """What one axle can be set to: the setting and its values, the bar's wheel rate at each [N/m].

    A bar that cannot be set has no setting, and one rung as it is.
    """

    axle: str
    setting: str
    values: tuple[float | None, ...]
    rates: tuple[float | None, ...]
    here: int | None


@dataclass(frozen=True)
class Rung:
    """One combination: front share of load transfer, roll [rad per m/s²] and the grip balance [g].

    `lines` bring the car there from the setup on it; `in_band` says that the share is within the
    starting band of this car's use, None where there is no band. What cannot be worked is None.
    """

    lines: tuple[Line, ...]
    front_share: float | None
    roll: float | None
    balance: float | None
    in_band: bool | None


@dataclass(frozen=True)
class Ladder:
    """Both axles' rails, and the rungs, front by rear."""

    front: Rail
    rear: Rail
    rungs: tuple[tuple[Rung, ...], ...]


def ladder(
    sheet: Sheet,
    settings: Sequence[str],
    limits: Limits | None = None,
) -> Ladder:
    """All that the named settings of both axles can be, worked one by one.

    Without `limits` no balance is told. Raises
    Impossible where no bar of the car has a choice.
    """
    rails = [_choices(sheet, settings, axle) for axle in AXLES]
    count = len(rails[0][1]) * len(rails[1][1])
    if count < 2:
        raise Impossible(
            "No bar of this car has a choice of holes or blades yet: give a bar its arms in the "
            "inventory, and the car its holes.",
            number=settings[0],
        )
    if count > MOST:
        raise Impossible(f"{count} combinations are too many to lay out.", number=settings[0])
    ways = [
        [_line(sheet, name, axle, value) for value in values]
        for axle, (name, values) in zip(AXLES, rails, strict=True)
    ]
    tried = [_tried(sheet, [line for line in pair if line]) for pair in product(*ways)]
    balances = balances_of(tried, limits)
    rungs = [
        Rung(
            one.lines if one else (),
            _value(one, "lltd"),
            _value(one, "roll_gradient"),
            balances[i],
            _in_band(sheet, one),
        )
        for i, one in enumerate(tried)
    ]
    wide = len(rails[1][1])
    rows = tuple(tuple(rungs[at : at + wide]) for at in range(0, count, wide))
    # along the first row and column everything of one axle alone is tried
    beside = (tried[::wide], tried[:wide])
    front, rear = (_rail(sheet, i, *rails[i], beside[i]) for i in (0, 1))
    return Ladder(front, rear, rows)


def _choices(sheet: Sheet, settings: Sequence[str], axle: str) -> tuple[str, list[float | None]]:
    """The first setting of an axle that can be more than one thing, and its values."""
    for name in settings:
        adjuster, number = sheet.car.adjusters.get(name), number_named(name)
        if adjuster is None or not _moves(sheet, name, axle):
            continue
        low, high = adjuster.range_at(axle)
        step = number.step or 1.0
        values = [low + i * step for i in range(round((high - low) / step) + 1)]
        open_ = [value for value in values if _may(sheet, name, axle, value)]
        if len(open_) > 1:
            return name, list(open_)
    return "", [None]


def _moves(sheet: Sheet, name: str, axle: str) -> bool:
    """Whether a bar is there whose rate follows the setting."""
    bar = sheet.car.fitted(sheet.setup, "bar", axle)
    return bar is not None and (not bar.picks(name) or len(bar.picked(name)) > 1)


def _may(sheet: Sheet, name: str, axle: str, value: float) -> bool:
    try:
        check_free(sheet.car, sheet.setup, name, axle, value)
        check_setting(sheet.car, name, axle, value)
    except CoreError:
        return False
    return True


def _line(sheet: Sheet, name: str, axle: str, value: float | None) -> Line | None:
    """What sets an axle to a value; nothing where it has no choice, or stands there."""
    if not name:
        return None
    old = value_now(sheet.car, sheet.setup, name, axle)
    return None if old == value else Line(name, axle, old, value)


def _rail(
    sheet: Sheet,
    at: int,
    name: str,
    values: list[float | None],
    tried: Sequence[WhatIf | None],
) -> Rail:
    rates = [one.value("bar_wheel_rate") if one else None for one in tried]
    now = value_now(sheet.car, sheet.setup, name, AXLES[at]) if name else None
    return Rail(
        AXLES[at],
        name,
        tuple(values),
        tuple(None if rate is None else float(rate[at]) for rate in rates),
        values.index(now) if now in values else None,
    )


def _tried(sheet: Sheet, lines: list[Line]) -> WhatIf | None:
    try:
        return try_lines(sheet, lines, wanted=(*LOADED, *SHOWN))
    except CoreError:
        return None


def _value(tried: WhatIf | None, name: str) -> float | None:
    found = tried.value(name) if tried else None
    return None if found is None else float(found)


def _in_band(sheet: Sheet, tried: WhatIf | None) -> bool | None:
    band = knowledge().band("lltd_off_start", sheet.car.use, "car")
    off = _value(tried, "lltd_off_start")
    return None if band is None or off is None else band.low <= off <= band.high


def balances_of(tried: Sequence[WhatIf | None], limits: Limits | None) -> list[float | None]:
    """The grip balance of each that can be loaded, all in one batch."""
    found: list[float | None] = [None] * len(tried)
    if limits is None:
        return found
    others: dict[int, LoadedCar] = {}
    for i, one in enumerate(tried):
        try:
            if one is not None:
                others[i] = loaded_car(one.car, one.worked)
        except CoreError:
            continue
    if not others:
        return found
    every: Array = balances(
        stack(limits.car, list(others.values())),
        limits.tyres,
        limits.demand.spread(len(others)),
        limits.here,
    )
    for i, value in zip(others, every, strict=True):
        found[i] = None if np.isnan(value) else float(value)
    return found
