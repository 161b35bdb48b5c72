"""One set of changes of a plan, worked whole: what it reaches, how long it takes, what else moves."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from typing import Any

import numpy as np

from ..car.lines import Line
from ..car.settings import way_of
from ..errors import CoreError, Missing
from ..graph.registry import number_named
from ..knowledge import knowledge
from ..record.recheck import rechecks, work_minutes
from ..sheet.build import Sheet
from ..sheet.limits import refuse_what_it_breaks
from ..sheet.what_if import WhatIf, refused_newly, try_lines
from .axes import Axis
from .candidate import Effect
from .search import names_of
from .target_figures import after, balance_moves, is_loaded, now, worked_for
from .targets import Plan, Reached, Target


def load_in_batch(
    sheet: Sheet, changes: Iterable[Iterable[Line]], targets: Sequence[Target]
) -> dict[tuple[Line, ...], float]:
    """The grip balance after each of some sets of changes, loaded in one batch [m/s²], by what they come to;
    empty where no target asks for it. One set alone takes as long as thirty."""
    if not any(is_loaded(target.name) for target in targets):
        return {}
    sets = [_merged(sheet, lines) for lines in changes]
    trials: list[WhatIf | None] = []
    for lines in sets:
        try:
            trials.append(try_lines(sheet, lines, wanted=worked_for(names_of(targets))))
        except CoreError:
            trials.append(None)
    here = next(now(sheet, target) for target in targets if is_loaded(target.name)) or 0.0
    moves = balance_moves(sheet, trials)
    return {
        lines: here + float(move)
        for lines, move in zip(sets, moves, strict=True)
        if not np.isnan(move)
    }


def lines_of(axes: Sequence[Axis], pick: Iterable[int]) -> tuple[Line, ...]:
    """The lines of a combination, one for every axis that steps a place."""
    return tuple(
        line for axis, at in zip(axes, pick, strict=True) for line in axis.options[int(at)].lines
    )


def _merged(sheet: Sheet, lines: Iterable[Line]) -> tuple[Line, ...]:
    """Lines with a place moved twice, as by a pair and by a diagonal, made one."""
    found: dict[tuple[str, str], Line] = {}
    for line in lines:
        key = (line.name, line.place)
        before = found.get(key)
        new: Any = line.new
        if before is not None:
            new = round(float(before.new) + float(line.new) - float(line.old), 9)
        found[key] = Line(line.name, line.place, line.old, new)
    order = {
        name: at
        for at, station in enumerate(
            knowledge().stations_for(sheet.car.discipline, sheet.car.rear_layout)
        )
        for name in station.sets
    }
    kept = [line for line in found.values() if line.new != line.old]
    return tuple(sorted(kept, key=lambda line: order.get(line.name, len(order))))


def minutes_of(sheet: Sheet, lines: Iterable[Line]) -> int:
    """The work itself and all that it makes stale."""
    lines = list(lines)
    return work_minutes(lines) + sum(recheck.minutes for recheck in rechecks(lines, sheet.car))


def evaluate(
    sheet: Sheet,
    lines: Iterable[Line],
    targets: Sequence[Target],
    balances: Mapping[tuple[Line, ...], float],
    nearest: tuple[float, ...],
) -> Plan:
    """A set of changes worked whole. Raises the car's refusals, or that of what it would break. `told` holds
    the grip balance of those that were loaded already [m/s²]."""
    lines = _merged(sheet, lines)
    for line in lines:
        number = number_named(line.name)
        way_of(number).check(sheet.car, number, line.place, line.new)
    trial = try_lines(sheet, lines)
    narrow = refuse_what_it_breaks(sheet, trial)
    for refusal in refused_newly(sheet, trial):
        raise refusal
    reached = []
    for target in targets:
        was = now(sheet, target)
        comes = balances.get(lines) if is_loaded(target.name) else None
        comes = after(sheet, trial, target) if comes is None else comes
        if was is None or comes is None:
            raise Missing(f"{target.label} would no longer be known.", number=target.name)
        reached.append(Reached(target, was, comes))
    return Plan(
        lines,
        tuple(reached),
        minutes_of(sheet, lines),
        tuple(trial.rechecks),
        (*narrow, *(one.sentence for one in trial.unknown), *trial.notes),
        _side_effects(sheet, trial, targets),
        nearest,
    )


MAX_SIDE_EFFECTS = 6


def _side_effects(sheet: Sheet, trial: WhatIf, targets: Sequence[Target]) -> tuple[Effect, ...]:
    """What else a driver would feel of it: figures by how many felt amounts they move, most first."""
    asked, felt = {(target.name, target.place) for target in targets}, knowledge().work.felt
    found = []
    for name, place, before, after_ in trial.moved:
        if (
            name in felt
            and (name, place) not in asked
            and before is not None
            and after_ is not None
        ):
            steps = abs(after_ - before) / felt[name]
            if steps >= 1.0:
                found.append(Effect(name, place, before, after_, steps))
    return tuple(sorted(found, key=lambda one: -one.felt)[:MAX_SIDE_EFFECTS])
