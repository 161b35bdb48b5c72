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

from ..arrays import Array as Array
from ..catalog.entered import ENTERED, LOADED
from ..catalog.quantities import Kind, Number, Shape
from ..errors import CoreError, Missing, UnknownName

Mask = NDArray[np.bool_]
Formula = Callable[..., Array]


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


_SUBJECTS: list[str] = []
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
    """What a figure is, paragraph by paragraph, and when it is wrong: what stands after “Wrong”. Its example is
    for who reads the code."""
    docstring = docstring.partition("\n\n>>> ")[0]
    paragraphs = [" ".join(part.split()) for part in docstring.split("\n\n")]
    help, _, wrong = "\n\n".join(paragraphs).partition("Wrong ")
    return help.strip(), wrong.strip()


def list_subjects(modules: Iterable[str]) -> None:
    """Say in which order people see the modules of formulas."""
    _SUBJECTS.extend(modules)


def _position(function: Callable[..., Any]) -> tuple[int, int]:
    """Where a formula stands: its subject in the order of work, then its line."""
    subject, line = function.__module__, function.__code__.co_firstlineno
    return _SUBJECTS.index(subject) if subject in _SUBJECTS else 0, line


@cache
def figures() -> dict[str, Figure]:
    """Every figure, each after all that it needs."""
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
    for name in sorted(_FIGURES, key=lambda figure: _position(_FIGURES[figure].function)):
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
    """An entry of the dictionary. Raises UnknownName."""
    try:
        return numbers()[name]
    except KeyError:
        raise UnknownName(f"There is no number called “{name}”.", number=name) from None


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
