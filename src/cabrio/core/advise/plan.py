"""A plan of work: the few changes that bring several figures to their targets together.

What the car can be set to is laid out in axes, each a setting at an axle or a diagonal with its steps
from here. Every step is tried on its own; their combinations are worked in one batch, what each does to
the entered numbers added up. The best of every set of changes are then worked afresh, whole, so that a
plan never rests on the adding up.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from itertools import combinations

import numpy as np

from ..arrays import Array, Indexes
from ..car.lines import Line
from ..catalog.units import show
from ..errors import CoreError, Impossible, Missing, Problems
from ..graph.registry import number_named
from ..sheet.build import Sheet
from ..solve.side_view import Picks
from .axes import Axis, axes_of
from .evaluate import evaluate, lines_of, load_in_batch, minutes_of
from .refine import refine
from .search import looked_through, names_of, still
from .target_figures import needed_for, now
from .targets import Plan, Plans, Reached, Target, Touch

MAX_SHORTLISTED = 2000
"""Combinations that are looked at by their minutes."""
MAX_FULL_EVALUATIONS = 240
"""Combinations that are worked afresh."""
ENOUGH_PLANS, MAX_PER_SET, MAX_REFINED, MAX_OFFERED = 24, 4, 4, 4
MAX_TARGETS = 6


def plan(sheet: Sheet, targets: Sequence[Target], touch: Touch) -> Plans:
    """The few best plans for targets, from what may be touched.

    Raises Missing for a target without a value now, Impossible where nothing allowed moves any of them.
    """
    _check(sheet, targets)
    here = {target: now(sheet, target) for target in targets}
    if all(Reached(one, value, value).met for one, value in here.items() if value is not None):
        return Plans(1, (), ("The car is there already: nothing needs to be changed.",))
    axes, idle = axes_of(sheet, touch, names_of(targets))
    if not axes:
        raise Impossible(
            "Nothing that may be touched moves these figures: allow more, or add parts to the inventory.",
            number="systems",
        )
    axes = [axis for axis in axes if touch.minutes is None or _own(sheet, axis) <= touch.minutes]
    if not axes:
        raise _too_short(touch)
    picks, values = looked_through(sheet, axes, targets)
    off = np.abs(values - [target.wanted for target in targets]) / [
        target.within for target in targets
    ]
    off = np.nan_to_num(off, nan=np.inf)
    nearest = tuple(float(one) for one in off.min(axis=0))
    found, barred = _evaluate_fully(sheet, axes, picks, off, targets, touch)
    stands = _off_now(here, nearest)
    nearer = [one for one in found if one.off < stands - NEARER]
    notes = [
        *idle,
        *_notes_on_targets(sheet.car.profile, values, off, targets, nearer or found, barred),
    ]
    if not nearer:
        notes.insert(0, "Nothing that may be touched brings the car nearer to this than it stands.")
    found = nearer
    return Plans(len(picks), tuple(found[:MAX_OFFERED]), tuple(notes))


NEARER = 0.1
"""How much nearer a plan must bring the car, in what counts as reached, to be one."""


def _off_now(here: Mapping[Target, float | None], nearest: tuple[float, ...]) -> float:
    """How far off the car stands, as `Plan.off` has it."""
    stands = [Reached(one, value, value) for one, value in here.items() if value is not None]
    return Plan((), tuple(stands), 0, (), nearest=nearest).off


def _check(sheet: Sheet, targets: Sequence[Target]) -> None:
    problems: list[CoreError] = []
    if not targets:
        raise Missing("Say what is wanted: a figure and its value.", number="targets")
    if len(targets) > MAX_TARGETS:
        raise Impossible(f"At most {MAX_TARGETS} targets at once.", number="targets")
    for target in targets:
        if now(sheet, target) is None:
            lacking = sheet.worked.lacking(needed_for((target.name,)))
            needs = ", ".join(need.sentence for need in lacking)
            problems.append(
                Missing(
                    f"{target.label} is not known yet" + (f": it needs {needs}." if needs else "."),
                    number=target.name,
                )
            )
    if problems:
        raise Problems(problems)


def _own(sheet: Sheet, axis: Axis) -> int:
    """The minutes that moving an axis alone takes."""
    return minutes_of(sheet, next(option.lines for option in axis.options if option.lines))


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
    minutes = _minutes_allowed(sheet, axes, picks, mask, _shortlist(mask, score), touch)
    if not minutes:
        raise _too_short(touch)
    # those that come near, and of those that come no nearer the quickest
    ranked = sorted(minutes, key=lambda i: (max(float(score[i]), 1.0), minutes[i], float(score[i])))
    # what one axis does by itself is always looked at to its step: nothing takes fewer pieces
    alone = {int(mask[i]): i for i in reversed(ranked) if int(mask[i]).bit_count() == 1}
    done: set[int] = set()
    found: list[Plan] = []
    barred = ""
    ranked = [*alone.values(), *ranked[:MAX_FULL_EVALUATIONS]]
    loaded = _loaded_together(sheet, axes, picks, ranked, mask, targets)
    refined = 0 if loaded else -len(alone)  # a loaded car takes too long for all of them
    for i in ranked:
        if int(mask[i]) in done:
            continue
        if len(found) >= ENOUGH_PLANS + len(alone):
            break
        try:
            made = evaluate(sheet, lines_of(axes, picks[i]), targets, loaded, nearest)
        except CoreError as refusal:
            barred = barred or refusal.sentence
            continue
        done.add(int(mask[i]))
        if refined < MAX_REFINED:
            refined += 1
            steps = [axis.options[k].by for axis, k in zip(axes, picks[i], strict=True)]
            made = refine(sheet, axes, steps, made, targets)
        found.append(made)
    return _unbeaten(found), barred


def _shortlist(mask: Array, score: Array) -> Indexes:
    """The best few of every set of changes: the first of a set may be past what an adjuster reaches."""
    order = np.lexsort((score, mask))
    begins = np.concatenate(([True], mask[order][1:] != mask[order][:-1]))
    rank = np.arange(len(order)) - np.maximum.accumulate(np.where(begins, np.arange(len(order)), 0))
    kept = order[rank < MAX_PER_SET]
    # the nearest, and the simplest: what is near by many changes is often as near by fewer
    many = np.array([int(one).bit_count() for one in mask[kept]])
    shortlist: Indexes = kept[np.lexsort((many, np.maximum(score[kept], 1.0)))][:MAX_SHORTLISTED]
    return shortlist


def _minutes_allowed(
    sheet: Sheet, axes: Sequence[Axis], picks: Picks, mask: Array, kept: Indexes, touch: Touch
) -> dict[int, int]:
    """The minutes of each combination that changes something and takes no longer than is allowed."""
    by_set: dict[int, int] = {0: 0}
    found: dict[int, int] = {}
    for i in map(int, kept):
        kind = int(mask[i])
        if kind not in by_set:
            by_set[kind] = minutes_of(sheet, lines_of(axes, picks[i]))
        if kind and (touch.minutes is None or by_set[kind] <= touch.minutes):
            found[i] = by_set[kind]
    return found


def _unbeaten(plans: list[Plan]) -> list[Plan]:
    """The best first, without those that a better one beats in time and in means too."""
    best: list[Plan] = []
    for one in sorted(plans, key=lambda plan: plan.rank):
        beaten = any(other.rank[0] <= one.rank[0] + 1e-6 for other in best)
        # as good and by other means is worth a look; the same with more besides is not
        other_means = one.met and not any(one.touches >= other.touches for other in best)
        if not beaten or other_means or all(one.minutes < other.minutes for other in best):
            best.append(one)
    return best


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
    return load_in_batch(
        sheet, (lines_of(axes, picks[i]) for i in first[: ENOUGH_PLANS + MAX_PER_SET]), targets
    )


def _notes_on_targets(
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
    for i, target in enumerate(targets):
        nearest = int(np.argmin(off[:, i]))
        if off[nearest, i] > 1.0:
            value = show(float(values[nearest, i]), number_named(target.name).quantity, profile)
            said.append(f"{target.label}: the nearest that was found is {value}.")
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
