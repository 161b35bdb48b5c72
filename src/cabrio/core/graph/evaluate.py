"""Working figures from what is known: all of a car at once, some from a few numbers, some in part."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from contextlib import suppress
from functools import lru_cache
from typing import Any

import numpy as np

from ..arrays import Array
from ..catalog.entered import ENTERED
from ..catalog.quantities import Number
from ..errors import CoreError, Impossible, Missing, OutOfRange
from .registry import (
    Figure,
    Need,
    Worked,
    as_array,
    figures,
    numbers,
    reached_past,
    roots_of,
    run,
    upstream,
)

NEVER_ZERO = (
    "total_mass",
    "sprung_mass",
    "sprung_axle_mass",
    "front_axle_mass",
    "wheel_rate",
    "ride_rate",
    "rate_at_ride",
    "wheel_rate_in_roll",
    "critical_damping",
    "air_density",
    "axle_height",
)
"""Worked numbers that, handed in as known, cannot be zero or less."""


def incomplete(values: Mapping[str, list[float | None] | None]) -> dict[str, Need]:
    """Entered numbers without a value at every place, with the places that lack one."""
    needs: dict[str, Need] = {}
    for number in ENTERED:
        given = values.get(number.name)
        if given is None:
            if number.default is None:
                needs[number.name] = Need(number.name, number.shape.places)
            continue
        if None in given:
            places = zip(number.shape.places, given, strict=True)
            empty = tuple(place for place, value in places if value is None)
            needs[number.name] = Need(number.name, empty)
    return needs


def evaluate(
    values: Mapping[str, list[float | None] | None], wanted: Iterable[str] | None = None
) -> Worked:
    """Work every figure (or those wanted, and what they need) from entered values.

    Values are SI lists by place; None or an absent name is missing. A figure that refuses its inputs
    lands in `refused` and is missing to all that need it; nothing is raised.
    """
    needs = incomplete(values)
    arrays: dict[str, Array] = {}
    partial: dict[str, Array] = {}
    for number in ENTERED:
        given = values.get(number.name)
        if number.name in needs:
            if given is not None and any(one is not None for one in given):
                partial[number.name] = as_array(number, given)
            continue
        if given is not None:
            arrays[number.name] = as_array(number, given)
        elif number.default is not None:
            arrays[number.name] = as_array(number, [number.default] * len(number.shape.places))
    worked = split_partial(run(arrays, needs, wanted))
    if partial:
        work_in_part(worked, partial, wanted)
    return worked


def refused_together(values: Mapping[str, list[float | None] | None]) -> list[CoreError]:
    """Why these numbers cannot be as they are, by the figures that rest on them and on nothing else."""
    refused = evaluate(values, _worked_from(frozenset(values))).refused.values()
    return list({one.sentence: one for one in refused}.values())


@lru_cache(maxsize=64)
def _worked_from(names: frozenset[str]) -> tuple[str, ...]:
    return tuple(figure for figure in figures() if names.issuperset(roots_of(figure)))


FILLS = (0.5, 1.0, 2.0)
"""What stands in for an unknown place in turn, of the mean of the known ones (of one, where that is zero): see `work_in_part`."""


def work_in_part(
    worked: Worked, partial: dict[str, Array], wanted: Iterable[str] | None = None
) -> None:
    """Work what is known at some places only, where the places do not hang together.

    A place is told where the figure stays the same whatever is put for the places that are not known, and
    comes out without any of them: one front blade gives the front bar, and says nothing of the balance.
    """
    worked.partial.update(partial)
    keep = None if wanted is None else upstream(wanted)
    with np.errstate(all="ignore"):
        for name in _reached(frozenset(worked.partial)):
            if name in worked.values or name in worked.refused or name in worked.partial:
                continue
            entry = figures()[name]
            if keep is not None and name not in keep:
                continue
            if not any(need in worked.partial for need in entry.needs):
                continue
            found = _in_part(entry, {**worked.values, **worked.partial})
            if isinstance(found, CoreError):
                worked.refused[name] = found
            elif found is not None:
                worked.partial[name] = found


@lru_cache(maxsize=256)
def _reached(names: frozenset[str]) -> tuple[str, ...]:
    """The figures of several places that these numbers reach, in the order of work."""
    found = frozenset[str]().union(*(reached_past(name, frozenset()) for name in names))
    return tuple(
        name
        for name, entry in figures().items()
        if name in found and len(entry.number.shape.places) > 1
    )


def _in_part(entry: Figure, known: Mapping[str, Array]) -> Array | CoreError | None:
    """The figure with NaN at the places that hang on one not known; None where all do. Where it refuses
    whatever the unknown places may be, it is a known one that it refuses: then the refusal."""
    if not entry.is_met(known):
        return None
    inputs = [known.get(need) for need in entry.needs]
    result, refusal, tried = None, None, 0
    try:
        result = np.array(entry.function(*inputs), dtype=np.float64)
    except CoreError as problem:
        refusal = problem
    for fill in FILLS:
        with suppress(CoreError):  # a place cannot be like that: another fill is as good
            filled = entry.function(*(_filled(one, fill) for one in inputs))
            tried += 1
            if result is not None:
                result[
                    ~(np.isclose(result, filled, rtol=1e-12, atol=0.0) & np.isfinite(result))
                ] = np.nan
    if result is None:
        return None if tried else refusal
    return None if tried < 2 or result.shape == () or np.isnan(result).all() else result


def _filled(one: Array | None, fill: float) -> Array | None:
    if one is None or not np.isnan(one).any():
        return one
    return np.where(np.isnan(one), fill * (np.nanmean(one) or 1.0), one)


def answer(wanted: Iterable[str], known: Mapping[str, Any]) -> dict[str, Array]:
    """Figures from known numbers, entered or worked, as SI arrays with any leading batch dimensions.

    Optional numbers take their default; None means not known. Raises OutOfRange for a value that
    cannot be, Missing for what lacks, or the refusal of the figure that stopped the way.
    """
    dictionary, arrays = numbers(), {}
    for name, value in known.items():
        if value is not None:
            arrays[name] = np.asarray(value, dtype=np.float64)
            _possible(dictionary[name], arrays[name])
    for number in ENTERED:
        if number.default is not None and number.name not in arrays:
            arrays[number.name] = as_array(number, [number.default] * len(number.shape.places))
    wanted = list(wanted)
    lacking = {n.name: Need(n.name, n.shape.places) for n in ENTERED if n.name not in arrays}
    worked = _finite(run(arrays, lacking, wanted))
    for name in wanted:
        if name in worked.values:
            continue
        for refused, refusal in worked.refused.items():
            if refused in upstream([name]):
                raise refusal
        needs = ", ".join(need.sentence for need in worked.missing[name])
        raise Missing(f"{dictionary[name].label} needs {needs}.", number=name)
    return worked.values


def _possible(number: Number, values: Array) -> None:
    """Refuse what cannot be: a value not finite, or past the least that the number may ever be."""
    above = 0.0 if number.name in NEVER_ZERO else number.above
    bad = ~np.isfinite(values)
    if above is not None:
        bad |= values <= above
    if number.least is not None:
        bad |= values < number.least
    if number.most == 1.0 and number.quantity == "share":
        bad |= values > 1.0
    if np.any(bad):
        worst = float(values.reshape(-1)[np.argmax(bad.reshape(-1))])
        allowed = (
            f"above {above:g}"
            if above is not None
            else ("finite" if number.least is None else f"at least {number.least:g}")
        )
        raise OutOfRange(
            f"{number.label} of {worst:g} cannot be: it must be {allowed}.",
            number=number.name,
            value=worst,
            allowed=allowed,
        )


def split_partial(worked: Worked) -> Worked:
    """What is known at some places only goes to what is known in part; see `_finite` for the rest."""
    table = figures()
    for name in [value for value in worked.values if value in table]:
        array = worked.values[name]
        known = np.isfinite(array)
        if array.shape and known.any() and not known.all():
            worked.partial[name] = np.where(known, worked.values.pop(name), np.nan)
    return _finite(worked)


def _finite(worked: Worked) -> Worked:
    """No figure leaves as NaN or infinity: what is not finite is refused by its name."""
    table = figures()
    names = [name for name in worked.values if name in table]
    if names:
        together = np.concatenate([worked.values[name].reshape(-1) for name in names])
        if np.isfinite(together).all():
            return worked
    for name in names:
        if not np.all(np.isfinite(worked.values[name])):
            del worked.values[name]
            worked.refused[name] = Impossible(
                f"{table[name].number.label} has no finite value with these numbers.", number=name
            )
    return worked
