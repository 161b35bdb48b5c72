"""The figures that a plan aims at, told of a sheet and of what was tried on it: by the graph, or by loading the car."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

import numpy as np

from ..arrays import Array
from ..constants import STANDARD_GRAVITY as G
from ..graph.registry import number_named
from ..sheet.build import Sheet
from ..sheet.ladder import Limits, balances_of, limits_of
from ..sheet.steps import LOADED
from ..sheet.what_if import WhatIf, moved_by
from ..under_load.demand import Demand
from ..under_load.of_sheet import GRIP, NEEDED, shaft_of
from .targets import Target


def is_loaded(name: str) -> bool:
    """Whether the car is loaded for this number: no figure of the graph works it."""
    return number_named(name).from_load_model


def worked_for(names: Iterable[str]) -> tuple[str, ...]:
    """What a trial has to work, so that these numbers can be told of it."""
    return tuple(
        dict.fromkeys(one for name in names for one in (LOADED if is_loaded(name) else (name,)))
    )


def needed_for(names: Iterable[str]) -> tuple[str, ...]:
    """What has to have a value, so that these numbers have one."""
    return tuple(
        dict.fromkeys(
            one for name in names for one in ((*NEEDED, *GRIP) if is_loaded(name) else (name,))
        )
    )


def limits_here(sheet: Sheet) -> Limits | None:
    """The loaded car of a sheet and its limit at the speed looked at; None where it has none."""
    values = sheet.worked.values
    straight = Demand(
        0.0,
        float(values["lateral_acceleration"]),
        float(values["speed"]),
        shaft_of(sheet.car, sheet.worked),
    )
    found: Limits | None = sheet.once(
        ("limits",), lambda: limits_of(sheet.car, sheet.worked, straight)
    )
    return found


def now(sheet: Sheet, target: Target) -> float | None:
    """A target's figure as the car stands [SI]; None where it is not known."""
    if is_loaded(target.name):
        limits = limits_here(sheet)
        here = None if limits is None else limits.here.balance
        return None if here is None else here * G
    values = sheet.value(target.name)
    return None if values is None else values[number_named(target.name).index(target.place)]


def after(sheet: Sheet, trial: WhatIf, target: Target) -> float | None:
    """The same once something was tried."""
    if is_loaded(target.name):
        (found,) = balances_of([trial], limits_here(sheet))
        return None if found is None else found * G
    return moved_by(sheet, trial, target.name, target.place)[1]


def balance_moves(sheet: Sheet, trials: Sequence[WhatIf | None]) -> Array:
    """How far each trial moves the grip balance, all loaded in one batch [m/s²]; NaN where it has none."""
    limits = limits_here(sheet)
    if limits is None or limits.here.balance is None:
        return np.full(len(trials), np.nan)
    balances = balances_of(trials, limits)
    return G * (
        np.array([np.nan if one is None else one for one in balances]) - limits.here.balance
    )
