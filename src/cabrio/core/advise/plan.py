"""A plan of work: the few changes that bring several figures to their targets together.

What the car can be set to is laid out in axes, each a setting at an axle or a diagonal with its steps
from here. Every step is tried on its own; their combinations are worked in one batch, what each does to
the entered numbers added up. The best of every set of changes are then worked afresh, whole, so that a
plan never rests on the adding up.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from contextlib import suppress
from functools import cache
from itertools import combinations
from typing import Any

import numpy as np

from ..arrays import Array
from ..car.lines import Line
from ..car.settings import way_of
from ..catalog.units import show
from ..errors import CoreError, Impossible, Missing, Problems
from ..graph.registry import number_named
from ..knowledge import knowledge
from ..record.recheck import rechecks, work_minutes
from ..sheet.build import Sheet
from ..sheet.limits import refuse_what_it_breaks
from ..sheet.what_if import WhatIf, refused_newly, try_lines
from ..solve.side_view import Picks
from .axes import Axis, Option, axes_of, option_at
from .candidate import Effect
from .search import looked_through, names_of, still
from .targets import Plan, Plans, Reached, Target, Touch
from .told import after, balance_moves, is_loaded, needed_for, now, worked_for

LOOKED_AT = 2000
WORKED_WHOLE, ENOUGH, EACH, REFINED, OFFERED = 240, 24, 4, 4, 4
MOST_TARGETS = 6
ROUNDS = 6
"""How often the best are tried a step nearer and farther on every axis, as long as that helps."""


def plan(sheet: Sheet, targets: Sequence[Target], touch: Touch) -> Plans:
    """The few best plans for targets, from what may be touched.

    Raises Missing for a target without a value now, Impossible where nothing allowed moves any of them.
    """
    _check(sheet, targets)
    here = {one: now(sheet, one) for one in targets}
    if all(Reached(one, value, value).met for one, value in here.items() if value is not None):
        return Plans(1, (), ("The car is there already: nothing needs to be changed.",))
    axes, idle = axes_of(sheet, touch, names_of(targets))
    if not axes:
        raise Impossible(
            "Nothing that may be touched moves these figures: allow more, or add parts to the inventory.",
            number="systems",
        )
    axes = [one for one in axes if touch.minutes is None or _own(sheet, one) <= touch.minutes]
    if not axes:
        raise _too_short(touch)
    picks, values = looked_through(sheet, axes, targets)
    off = np.abs(values - [one.wanted for one in targets]) / [one.within for one in targets]
    off = np.nan_to_num(off, nan=np.inf)
    nearest = tuple(float(one) for one in off.min(axis=0))
    found, barred = _evaluate_fully(sheet, axes, picks, off, targets, touch)
    stands = _off_now(here, nearest)
    nearer = [one for one in found if one.off < stands - NEARER]
    notes = [*idle, *_said_of(sheet.car.profile, values, off, targets, nearer or found, barred)]
    if not nearer:
        notes.insert(0, "Nothing that may be touched brings the car nearer to this than it stands.")
    found = nearer
    return Plans(len(picks), tuple(found[:OFFERED]), tuple(notes))


NEARER = 0.1
"""How much nearer a plan must bring the car, in what counts as reached, to be one."""
STEP_WORTH = 0.02
"""How much nearer, likewise, a step more of a plan must bring it."""


def _off_now(here: Mapping[Target, float | None], nearest: tuple[float, ...]) -> float:
    """How far off the car stands, as `Plan.off` has it."""
    stands = [Reached(one, value, value) for one, value in here.items() if value is not None]
    return Plan((), tuple(stands), 0, (), nearest=nearest).off


def _check(sheet: Sheet, targets: Sequence[Target]) -> None:
    problems: list[CoreError] = []
    if not targets:
        raise Missing("Say what is wanted: a figure and its value.", number="targets")
    if len(targets) > MOST_TARGETS:
        raise Impossible(f"At most {MOST_TARGETS} targets at once.", number="targets")
    for one in targets:
        if now(sheet, one) is None:
            lacking = sheet.worked.lacking(needed_for((one.name,)))
            needs = ", ".join(need.sentence for need in lacking)
            problems.append(
                Missing(
                    f"{one.label} is not known yet" + (f": it needs {needs}." if needs else "."),
                    number=one.name,
                )
            )
    if problems:
        raise Problems(problems)


def _own(sheet: Sheet, axis: Axis) -> int:
    """The minutes that moving an axis alone takes."""
    return _minutes(sheet, next(one.lines for one in axis.options if one.lines))


def _too_short(touch: Touch) -> Impossible:
    return Impossible(
        f"Nothing that helps can be changed and read again in {touch.minutes} minutes: allow more.",
        number="minutes",
    )


def _evaluate_fully(
    sheet: Sheet,
    axes: Sequence[Axis],
    picks: Picks,
    off: Array,
    targets: Sequence[Target],
    touch: Touch,
) -> tuple[list[Plan], str]:
    """The best of every set of changes, worked afresh; those that others beat both ways are left out.

    Besides what bars the nearest of those that the car cannot have, where one is barred.
    """
    mask = (picks != still(axes)) @ (1 << np.arange(len(axes)))
    nearest = tuple(float(one) for one in off.min(axis=0))
    score = np.sqrt(np.mean((np.minimum(off, 1e6) / np.maximum(nearest, 1.0)) ** 2, axis=1))
    order = np.lexsort((score, mask))
    # the best few of every set of changes: the first may be past what an adjuster reaches
    begins = np.concatenate(([True], mask[order][1:] != mask[order][:-1]))
    rank = np.arange(len(order)) - np.maximum.accumulate(np.where(begins, np.arange(len(order)), 0))
    kept = order[rank < EACH]
    # the nearest, and the simplest: what is near by many changes is often as near by fewer
    many = np.array([int(one).bit_count() for one in mask[kept]])
    kept = kept[np.lexsort((many, np.maximum(score[kept], 1.0)))][:LOOKED_AT]
    minutes: dict[int, int] = {}
    taken: dict[int, int] = {0: 0}
    for i in map(int, kept):
        kind = int(mask[i])
        if kind not in taken:
            taken[kind] = _minutes(sheet, _lines(axes, picks[i]))
        if kind and (touch.minutes is None or taken[kind] <= touch.minutes):
            minutes[i] = taken[kind]
    if not minutes:
        raise _too_short(touch)
    # those that come near, and of those that come no nearer the quickest
    ranked = sorted(minutes, key=lambda i: (max(float(score[i]), 1.0), minutes[i], float(score[i])))
    # what one axis does by itself is always looked at to its step: nothing takes fewer pieces
    alone = {int(mask[i]): i for i in reversed(ranked) if int(mask[i]).bit_count() == 1}
    done: set[int] = set()
    found: list[Plan] = []
    barred = ""
    ranked = [*alone.values(), *ranked[:WORKED_WHOLE]]
    told = _loaded_together(sheet, axes, picks, ranked, mask, targets)
    refined = 0 if told else -len(alone)  # a loaded car takes too long for all of them
    for i in ranked:
        if int(mask[i]) in done:
            continue
        if len(found) >= ENOUGH + len(alone):
            break
        try:
            made = _plan(sheet, _lines(axes, picks[i]), targets, told, nearest)
        except CoreError as refusal:
            barred = barred or refusal.sentence
            continue
        done.add(int(mask[i]))
        if refined < REFINED:
            refined += 1
            steps = [axis.options[k].by for axis, k in zip(axes, picks[i], strict=True)]
            made = _nearer(sheet, axes, steps, made, targets)
        found.append(made)
    found.sort(key=lambda one: one.rank)
    best: list[Plan] = []
    for one in found:
        beaten = any(other.rank[0] <= one.rank[0] + 1e-6 for other in best)
        # as good and by other means is worth a look; the same with more besides is not
        other_means = one.met and not any(one.touches >= other.touches for other in best)
        if not beaten or other_means or all(one.minutes < other.minutes for other in best):
            best.append(one)
    return best, barred


def _loaded_together(
    sheet: Sheet,
    axes: Sequence[Axis],
    picks: Picks,
    ranked: Sequence[int],
    mask: Array,
    targets: Sequence[Target],
) -> dict[tuple[Line, ...], float]:
    """The grip balance of the first of every set of changes, loaded in one batch [m/s²]."""
    first = list({int(mask[i]): i for i in reversed(ranked)}.values())[::-1]
    return _loaded(sheet, (_lines(axes, picks[i]) for i in first[: ENOUGH + EACH]), targets)


def _loaded(
    sheet: Sheet, changes: Iterable[Iterable[Line]], targets: Sequence[Target]
) -> dict[tuple[Line, ...], float]:
    """The grip balance after each of some sets of changes, loaded in one batch [m/s²], by what they come to;
    empty where no target asks for it. One set alone takes as long as thirty."""
    if not any(is_loaded(one.name) for one in targets):
        return {}
    sets = [_merged(sheet, lines) for lines in changes]
    trials: list[WhatIf | None] = []
    for lines in sets:
        try:
            trials.append(try_lines(sheet, lines, wanted=worked_for(names_of(targets))))
        except CoreError:
            trials.append(None)
    here = next(now(sheet, one) for one in targets if is_loaded(one.name)) or 0.0
    moves = balance_moves(sheet, trials)
    return {
        lines: here + float(move)
        for lines, move in zip(sets, moves, strict=True)
        if not np.isnan(move)
    }


def _lines(axes: Sequence[Axis], pick: Iterable[int]) -> tuple[Line, ...]:
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


def _minutes(sheet: Sheet, lines: Iterable[Line]) -> int:
    """The work itself and all that it makes stale."""
    lines = list(lines)
    return work_minutes(lines) + sum(one.minutes for one in rechecks(lines, sheet.car))


def _plan(
    sheet: Sheet,
    lines: Iterable[Line],
    targets: Sequence[Target],
    told: Mapping[tuple[Line, ...], float],
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
    for one in targets:
        was = now(sheet, one)
        comes = told.get(lines) if is_loaded(one.name) else None
        comes = after(sheet, trial, one) if comes is None else comes
        if was is None or comes is None:
            raise Missing(f"{one.label} would no longer be known.", number=one.name)
        reached.append(Reached(one, was, comes))
    return Plan(
        lines,
        tuple(reached),
        _minutes(sheet, lines),
        tuple(trial.rechecks),
        (*narrow, *(one.sentence for one in trial.unknown), *trial.notes),
        _besides(sheet, trial, targets),
        nearest,
    )


MOST_BESIDES = 6


def _besides(sheet: Sheet, trial: WhatIf, targets: Sequence[Target]) -> tuple[Effect, ...]:
    """What else a driver would feel of it: figures by how many felt amounts they move, most first."""
    asked, felt = {(one.name, one.place) for one in targets}, knowledge().work.felt
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
    return tuple(sorted(found, key=lambda one: -one.felt)[:MOST_BESIDES])


def _nearer(
    sheet: Sheet, axes: Sequence[Axis], steps: list[int], best: Plan, targets: Sequence[Target]
) -> Plan:
    """A plan tried a step nearer and farther on each axis that it moves, as long as it gets better; one that
    moves a single axis is first tried where its own line meets the target."""
    wanted = names_of(targets)

    @cache
    def option(at: int, by: int) -> Option | None:
        listed = next((one for one in axes[at].options if one.by == by), None)
        return listed or option_at(sheet, axes[at], by, wanted)

    def lines_of(tried: Sequence[int]) -> list[Line] | None:
        """None where the car cannot step there."""
        options = [option(at, by) for at, by in enumerate(tried)]
        known = [one for one in options if one is not None]
        return [line for one in known for line in one.lines] if len(known) == len(axes) else None

    def beside(at: int) -> list[list[int]]:
        ways = (steps[at] - 1, steps[at] + 1) if steps[at] else ()
        return [[*steps[:at], by, *steps[at + 1 :]] for by in ways]

    def is_better(made: Plan) -> bool:
        if best.met:  # then the least that still does
            return made.rank < best.rank
        return made.met or made.off < best.off - STEP_WORTH

    def load_from(at: int) -> dict[tuple[Line, ...], float]:
        around = (lines_of(tried) for axis in range(at, len(axes)) for tried in beside(axis))
        return _loaded(sheet, (lines for lines in around if lines is not None), targets)

    moved = [at for at, by in enumerate(steps) if by]
    if len(moved) == 1 and len(targets) == 1 and not is_loaded(targets[0].name):
        (at,), (one,) = moved, best.reached
        share = (targets[0].wanted - one.before) / ((one.after - one.before) or np.inf)
        there = [*steps[:at], round(steps[at] * share), *steps[at + 1 :]]
        with suppress(CoreError):
            made = _plan(sheet, lines_of(there) or (), targets, {}, best.nearest)
            if is_better(made):
                best, steps = made, there

    for _ in range(ROUNDS):
        before, told = best, load_from(0)
        for at in range(len(axes)):
            for tried in beside(at):
                lines = lines_of(tried)
                if lines is None:
                    continue
                try:
                    made = _plan(sheet, lines, targets, told, best.nearest)
                except CoreError:
                    continue
                if is_better(made):
                    best, steps = made, tried
                    told = load_from(at + 1)  # what is beside the others is beside this one now
        if best is before:
            break
    return best


def _said_of(
    profile: str,
    values: Array,
    off: Array,
    targets: Sequence[Target],
    found: Sequence[Plan],
    barred: str,
) -> list[str]:
    """Which target nothing reaches, which two exclude each other, or what bars those that would do,
    where no plan meets them all."""
    if any(one.met for one in found):
        return []
    if barred and (not found or off.max(axis=1).min() <= 1.0):
        return [f"What would come nearest was left out: {barred}"]
    if off.max(axis=1).min() <= 1.0:
        return []
    said = []
    for i, one in enumerate(targets):
        nearest = int(np.argmin(off[:, i]))
        if off[nearest, i] > 1.0:
            value = show(float(values[nearest, i]), number_named(one.name).quantity, profile)
            said.append(f"{one.label}: the nearest that was found is {value}.")
    if said:
        return said
    pairs = [
        (float(np.maximum(off[:, i], off[:, j]).min()), i, j)
        for i, j in combinations(range(len(targets)), 2)
    ]
    apart = [pair for pair in pairs if pair[0] > 1.0]
    if apart:
        _, i, j = max(apart)
        return [
            f"{targets[i].label} and {targets[j].label} exclude each other with what may be touched: "
            "give one of them up, or allow more."
        ]
    return ["Each target can be reached alone, but no set-up of this car meets them all."]
