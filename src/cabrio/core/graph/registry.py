"""Figures and the graph they form.

A figure is a plain function whose argument names are the names of what it needs; `@figure` enters it
in the dictionary and hands the function back unchanged. Order, missing inputs, working and rechecks
are all read off that one graph.
"""

from __future__ import annotations

import inspect
from collections.abc import Callable, Container, Iterable, Mapping
from dataclasses import dataclass, field
from functools import cache
from graphlib import CycleError, TopologicalSorter
from operator import itemgetter
from typing import Any

import numpy as np
from numpy.typing import NDArray

from ..catalog.entered import ENTERED, LOADED
from ..catalog.quantities import Array as Array
from ..catalog.quantities import Kind, Number, Shape
from ..errors import CoreError, Impossible, Missing, OutOfRange, UnknownName

Mask = NDArray[np.bool_]
Formula = Callable[..., Array]


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


@dataclass(frozen=True)
class Figure:
    """A worked number: its dictionary entry, its function, and the names it needs in order.

    `alternatives` are those of its needs of which one is enough: arguments that default to None.
    """

    number: Number
    function: Formula
    needs: tuple[str, ...]
    alternatives: frozenset[str] = frozenset()

    def is_met(self, known: Container[str]) -> bool:
        """Whether what is known is enough to work it."""
        if any(name not in known for name in self.needs if name not in self.alternatives):
            return False
        return not self.alternatives or any(name in known for name in self.alternatives)


@dataclass(frozen=True)
class Need:
    """An input that is not there: which number, at which places."""

    name: str
    places: tuple[str, ...]

    @property
    def sentence(self) -> str:
        number = numbers()[self.name]
        if self.places == number.shape.places or not self.places:
            return number.label.lower()
        return f"{number.label.lower()}, {' and '.join(self.places)}"


@dataclass
class Worked:
    """What the graph gave: values by name, and for each figure without one, the reason.

    `partial` are numbers known at some of their places only, NaN at the others: they are missing to all
    that asks for the whole of them.
    """

    values: dict[str, Array] = field(default_factory=dict)
    partial: dict[str, Array] = field(default_factory=dict)
    missing: dict[str, tuple[Need, ...]] = field(default_factory=dict)
    refused: dict[str, CoreError] = field(default_factory=dict)

    def by_place(self, name: str) -> list[float | None] | None:
        """SI values by place, None where one is not known; None where none is."""
        array = self.values.get(name, self.partial.get(name))
        if array is None:
            return None
        return [None if np.isnan(one) else float(one) for one in array.reshape(-1)]

    def lacking(self, names: Iterable[str]) -> tuple[Need, ...]:
        """What these numbers need and do not have, as entered numbers."""
        found: dict[str, Need] = {}
        for name in names:
            if name in self.values:
                continue
            own = (Need(name, number_named(name).shape.places),)
            for need in self.missing.get(name, ()) or own:
                found[need.name] = need
        return tuple(found.values())

    def require(self, names: Iterable[str], what: str) -> None:
        """Raise Missing where some of these have no value: “`what` … and …”, all of it at once."""
        lacking = self.lacking(names)
        if lacking:
            words = ", ".join(need.sentence for need in lacking)
            raise Missing(f"{what} {words}.", number=lacking[0].name)


_FIGURES: dict[str, Figure] = {}


def figure(
    *,
    label: str,
    quantity: str,
    shape: Shape,
    formula: str,
    source: str,
    sign: str = "",
    only_with: str = "",
) -> Callable[[Formula], Formula]:
    """Enter a function as the worked number of its own name.

    The docstring is its help; what stands after “Wrong” in it says when not to use it.
    """

    def enter(function: Formula) -> Formula:
        name = function.__name__
        if name in _FIGURES or any(name == number.name for number in ENTERED):
            raise ValueError(f"the number {name} is entered twice")
        if not function.__doc__:
            raise ValueError(f"the figure {name} has no docstring")
        help, wrong = _split(inspect.cleandoc(function.__doc__))
        number = Number(
            name,
            Kind.WORKED,
            shape,
            quantity,
            label,
            help,
            sign=sign,
            formula=formula,
            source=source,
            wrong=wrong,
            only_with=only_with,
        )
        parameters = inspect.signature(function).parameters
        either = frozenset(one for one, told in parameters.items() if told.default is None)
        _FIGURES[name] = Figure(number, function, tuple(parameters), either)
        return function

    return enter


def _split(docstring: str) -> tuple[str, str]:
    """What a figure is, paragraph by paragraph, and when it is wrong: what stands after “Wrong”."""
    paragraphs = [" ".join(part.split()) for part in docstring.split("\n\n")]
    help, _, wrong = "\n\n".join(paragraphs).partition("Wrong ")
    return help.strip(), wrong.strip()


@cache
def figures() -> dict[str, Figure]:
    """Every figure, each after all that it needs."""
    from .. import figures as package  # entering happens on import

    package.load()
    known = {number.name for number in ENTERED} | set(_FIGURES)
    for entry in _FIGURES.values():
        unknown = [name for name in entry.needs if name not in known]
        if unknown:
            raise UnknownName(
                f"The figure {entry.number.name} needs {', '.join(unknown)}, which is in no dictionary.",
                number=entry.number.name,
            )
    try:
        TopologicalSorter({n: f.needs for n, f in _FIGURES.items()}).prepare()
    except CycleError as cycle:
        raise ValueError(f"figures need each other in a circle: {cycle.args[1]}") from cycle
    ordered: dict[str, Figure] = {}

    def place(name: str) -> None:
        if name in _FIGURES and name not in ordered:
            for need in _FIGURES[name].needs:
                place(need)
            ordered[name] = _FIGURES[name]

    # by where they stand, not by who happened to import them first: the order is shown to people
    for name in sorted(_FIGURES, key=lambda one: package.standing(_FIGURES[one].function)):
        place(name)
    return ordered


@cache
def on_slip() -> tuple[Number, ...]:
    """What a slip can change, in the dictionary's order: a few of its hundreds."""
    return tuple(number for number in numbers().values() if number.on_slip)


@cache
def numbers() -> dict[str, Number]:
    """The whole dictionary: entered numbers, worked ones in the order of work, those of the loaded car."""
    entered = {number.name: number for number in ENTERED}
    loaded = {number.name: number for number in LOADED}
    return entered | {name: entry.number for name, entry in figures().items()} | loaded


def number_named(name: str) -> Number:
    try:
        return numbers()[name]
    except KeyError:
        raise UnknownName(f"There is no number called “{name}”.", number=name) from None


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
    worked = by_place(run(arrays, needs, wanted))
    if partial:
        work_in_part(worked, partial, wanted)
    return worked


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
        for name, entry in figures().items():
            if name in worked.values or name in worked.refused or name in worked.partial:
                continue
            if (keep is not None and name not in keep) or not entry.number.shape.places[1:]:
                continue
            if not any(need in worked.partial for need in entry.needs):
                continue
            found = _in_part(entry, {**worked.values, **worked.partial})
            if found is not None:
                worked.partial[name] = found


def _in_part(entry: Figure, known: Mapping[str, Array]) -> Array | None:
    """The figure with NaN at the places that hang on one not known; None where all do, or it refuses."""
    if not entry.is_met(known):
        return None
    inputs = [known.get(need) for need in entry.needs]
    try:
        told = np.array(entry.function(*inputs), dtype=np.float64)
        for fill in FILLS:
            tried = entry.function(*(_filled(one, fill) for one in inputs))
            told[~(np.isclose(told, tried, rtol=1e-12, atol=0.0) & np.isfinite(told))] = np.nan
    except CoreError:
        return None
    return None if told.shape == () or np.isnan(told).all() else told


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


def by_place(worked: Worked) -> Worked:
    """What is known at some places only goes to what is known in part; see `_finite` for the rest."""
    table = figures()
    for name in [one for one in worked.values if one in table]:
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


def as_array(number: Number, values: Any) -> Array:
    """SI values as the array a formula sees: corner (4,), axle (2,), car a bare scalar ()."""
    array = np.asarray(values, dtype=np.float64)
    return array[..., 0] if number.shape is Shape.CAR else array


def run(
    arrays: Mapping[str, Array],
    needs: Mapping[str, Need] | None = None,
    wanted: Iterable[str] | None = None,
) -> Worked:
    """Work figures from arrays with any leading batch dimensions.

    A figure handed in among the arrays is taken as it is: a what-if, or a measured value for it.
    """
    worked = Worked(values=dict(arrays))
    values, needs = worked.values, needs or {}
    keep = None if wanted is None else upstream(wanted)
    with np.errstate(all="ignore"):  # what is not finite is refused by name where it is handed out
        for name, function, inputs_from in _plan():
            if name in values or (keep is not None and name not in keep):
                continue  # handed in as known, or nobody asked
            try:
                inputs = inputs_from(values)
            except KeyError:  # an input is missing, or was refused itself
                worked.missing[name] = _lacking(figures()[name], worked, needs)
                continue
            try:
                values[name] = function(*inputs)
            except CoreError as refusal:
                refusal.number = refusal.number or name
                worked.refused[name] = refusal
    return worked


@cache
def _plan() -> tuple[tuple[str, Formula, Callable[[Mapping[str, Array]], Any]], ...]:
    """The figures in order, each with what fetches its inputs in one call."""

    def fetch(entry: Figure) -> Callable[[Mapping[str, Array]], Any]:
        needs = entry.needs
        if entry.alternatives:
            return lambda values: _one_of(entry, values)
        return itemgetter(*needs) if len(needs) > 1 else lambda values: (values[needs[0]],)

    return tuple((name, entry.function, fetch(entry)) for name, entry in figures().items())


def _one_of(entry: Figure, values: Mapping[str, Array]) -> list[Array | None]:
    """The inputs of a figure with alternatives, None for those that are not there.

    Raises KeyError where what is there is not enough.
    """
    if not entry.is_met(values):
        raise KeyError(entry.number.name)
    return [values.get(name) for name in entry.needs]


def _lacking(entry: Figure, worked: Worked, needs: Mapping[str, Need]) -> tuple[Need, ...]:
    found: dict[str, Need] = {}
    for name in entry.needs:
        if name in needs:
            found[name] = needs[name]
        for need in worked.missing.get(name, ()):
            found[need.name] = need
    return tuple(found.values())


def upstream(names: Iterable[str]) -> set[str]:
    """The names themselves and everything they are worked from."""
    seen: set[str] = set()
    waiting = list(names)
    while waiting:
        name = waiting.pop()
        if name in seen:
            continue
        seen.add(name)
        if name in figures():
            waiting.extend(figures()[name].needs)
    return seen


@cache
def roots_of(name: str) -> tuple[str, ...]:
    """The entered numbers that one is worked from, by name; itself, where it is entered."""
    return tuple(sorted(one for one in upstream([name]) if one not in figures()))


@cache
def reached_past(root: str, spared: frozenset[str]) -> frozenset[str]:
    """What a change of one number reaches, where some figures are known not to move with it.

    Whatever is worked from the spared ones alone does not move either.
    """
    reached = {root}
    for name, entry in figures().items():
        if name not in spared and reached.intersection(entry.needs):
            reached.add(name)
    return frozenset(reached)


def downstream(names: Iterable[str]) -> set[str]:
    """Every figure that a change of these names reaches, in no order."""
    reached = set(names)
    for name, entry in figures().items():
        if reached.intersection(entry.needs):
            reached.add(name)
    return reached
