"""The set-ups that a plan looks at: combinations of what may be moved, and every target's figure at each."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import downstream, figures, number_named, run
from ..sheet.build import Sheet
from ..solve.side_view import Picks
from .axes import Axis
from .target_figures import is_loaded, now
from .targets import Target

MOST = 100_000
"""Set-ups that are all looked at; where there are more, the best are followed axis by axis."""
BEAM = 400
"""How many of the best are followed then."""
BATCH, LEAST_BATCH = 20_000, 64
SEEDS = 3
"""The best single changes for each target, which are followed together where not all can be looked at."""


def looked_through(
    sheet: Sheet, axes: Sequence[Axis], targets: Sequence[Target]
) -> tuple[Picks, Array]:
    """Combinations as indices into the axes' options (n, axes), and their figures (n, targets).

    All of them where that is few enough. Else axis by axis from here, twice: every option of an axis on
    each of the best so far, so that no step is left out however many axes there are.
    """
    counts = [len(axis.options) for axis in axes]
    if np.prod(counts, dtype=float) <= MOST:
        grid = np.meshgrid(*map(np.arange, counts), indexing="ij")
        picks: Picks = np.stack([one.ravel() for one in grid], axis=-1)
        return picks, _in_batches(sheet, axes, picks, targets)
    wanted, within = (np.array([getattr(t, n) for t in targets]) for n in ("wanted", "within"))
    picks = _seeds(sheet, axes, targets, (wanted, within))
    values = _in_batches(sheet, axes, picks, targets)
    for at in (*range(len(axes)), *range(len(axes))):
        off = np.nan_to_num((values - wanted) / within, nan=1e6)
        best = picks[np.argsort((off**2).sum(axis=1), kind="stable")[:BEAM]]
        more = np.repeat(best, counts[at], axis=0)
        more[:, at] = np.tile(np.arange(counts[at]), len(best))
        both, first = np.unique(np.concatenate((picks, more)), axis=0, return_index=True)
        new = both[first >= len(picks)]
        picks = np.concatenate((picks, new))
        values = np.concatenate((values, _in_batches(sheet, axes, new, targets)))
    return picks, values


def _seeds(
    sheet: Sheet, axes: Sequence[Axis], targets: Sequence[Target], aim: tuple[Array, Array]
) -> Picks:
    """Where the search begins: the car as it stands, what does best for each target alone, and those together."""
    here = still(axes)
    alone = np.concatenate(
        [
            np.where(np.arange(len(axes)) == at, np.arange(len(axis.options))[:, None], here)
            for at, axis in enumerate(axes)
        ]
    )
    off = np.nan_to_num((_in_batches(sheet, axes, alone, targets) - aim[0]) / aim[1], nan=1e6)
    best = [
        alone[np.argsort(np.abs(off[:, i]), kind="stable")[:SEEDS]] for i in range(len(targets))
    ]
    together = []
    for several in product(*best):
        made = here.copy()
        for one in several:
            made = np.where(one != here, one, made)
        together.append(made)
    seeds: Picks = np.unique(np.concatenate((here[None, :], *best, together)), axis=0)
    return seeds


def still(axes: Sequence[Axis]) -> Picks:
    """Where every axis stays as it is."""
    return np.array([next(i for i, o in enumerate(axis.options) if o.by == 0) for axis in axes])


def _in_batches(
    sheet: Sheet, axes: Sequence[Axis], picks: Picks, targets: Sequence[Target]
) -> Array:
    if not len(picks):
        return np.zeros((0, len(targets)))
    return np.concatenate(
        [
            _values(sheet, axes, picks[at : at + BATCH], targets)
            for at in range(0, len(picks), BATCH)
        ]
    )


def _values(sheet: Sheet, axes: Sequence[Axis], picks: Picks, targets: Sequence[Target]) -> Array:
    """Every target's figure at every combination (n, targets) [SI]; NaN where it has none."""
    before = sheet.worked.values
    names = {name for axis in axes for option in axis.options for name in option.change}
    arrays = {name: value for name, value in before.items() if name not in figures()}
    for name in names:
        total = np.broadcast_to(before[name], (len(picks), *before[name].shape)).copy()
        still = np.zeros(before[name].shape)
        for i, axis in enumerate(axes):
            if any(name in option.change for option in axis.options):
                total += np.stack([o.change.get(name, still) for o in axis.options])[picks[:, i]]
        arrays[name] = total
    reached = downstream(names)
    kept = {n: value for n, value in before.items() if n in figures() and n not in reached}
    wanted = [name for name in names_of(targets) if not is_loaded(name)]
    worked = run(arrays | kept, {}, wanted).values
    if any(name not in worked for name in wanted):
        # a figure refuses all at once: look for the part of them that it refuses
        if len(picks) <= LEAST_BATCH:
            return np.full((len(picks), len(targets)), np.nan)
        half = len(picks) // 2
        parts = (picks[:half], picks[half:])
        return np.concatenate([_values(sheet, axes, part, targets) for part in parts])
    columns = []
    for target in targets:
        if is_loaded(target.name):
            columns.append(_balances(sheet, axes, picks, target))
            continue
        number, value = number_named(target.name), worked[target.name]
        if number.shape is not Shape.CAR:
            value = value[..., number.index(target.place)]
        columns.append(np.broadcast_to(value, len(picks)))
    return np.stack(columns, axis=-1)


def _balances(sheet: Sheet, axes: Sequence[Axis], picks: Picks, target: Target) -> Array:
    """The grip balance at every combination (n,) [m/s²], what each option does alone added up."""
    here = now(sheet, target)
    total = np.full(len(picks), np.nan if here is None else here)
    for i, axis in enumerate(axes):
        total += np.array([option.balance for option in axis.options])[picks[:, i]]
    return total


def names_of(targets: Sequence[Target]) -> tuple[str, ...]:
    """The figures that targets are for, each once."""
    return tuple(dict.fromkeys(target.name for target in targets))
