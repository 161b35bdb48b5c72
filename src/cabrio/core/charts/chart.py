"""Curves of the car that no sweep of one number gives, each declared once under `@chart`.

A chart says what its axes are; its function draws it for the sheet of one setup.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..errors import UnknownName
from ..sheet.build import Sheet

CORNERS = PLACES[Shape.CORNER]
ALIKE = 0.01
"""Two sides that differ by less, of the greatest value drawn, are one line: their mean."""


@dataclass(frozen=True)
class Axis:
    """What an axis carries: its words and its quantity, which picks the unit."""

    label: str
    quantity: str


@dataclass(frozen=True)
class Line:
    """One line over the chart's own x [SI]; not a number where it has no value. A faint one is one of a
    family, drawn behind and named at its end."""

    label: str
    values: tuple[float, ...]
    faint: bool = False


@dataclass(frozen=True)
class Mark:
    """A place on the x axis with a name, such as ride height or the bump rubber."""

    label: str
    at: float


@dataclass(frozen=True)
class Drawn:
    """A chart for one setup: x [SI], its lines and its marks, and what it says in a sentence."""

    x: tuple[float, ...]
    lines: tuple[Line, ...]
    marks: tuple[Mark, ...] = ()
    note: str = ""


@dataclass(frozen=True)
class Chart:
    """A chart as it is declared."""

    name: str
    label: str
    help: str
    x: Axis
    y: Axis
    draw: Callable[[Sheet], Drawn]


_CHARTS: dict[str, Chart] = {}
Draw = Callable[[Sheet], Drawn]


def chart(*, label: str, x: Axis, y: Axis) -> Callable[[Draw], Draw]:
    """Enter a function of a sheet as a chart. The first paragraph of its docstring is its help."""

    def enter(function: Draw) -> Draw:
        help = " ".join((function.__doc__ or "").split("\n\n")[0].split())
        _CHARTS[function.__name__] = Chart(function.__name__, label, help, x, y, function)
        return function

    return enter


def charts() -> dict[str, Chart]:
    """Every one by name, in the order of its declaration."""
    return _CHARTS


def draw(sheet: Sheet, name: str) -> Drawn:
    """A chart for a setup. Raises UnknownName, Missing with what it lacks, or a refusal."""
    try:
        found = charts()[name]
    except KeyError:
        raise UnknownName(f"There is no chart called “{name}”.", value=name) from None
    return found.draw(sheet)


def by_corner(x: Array, rows: Sequence[Array], words: str = "") -> list[Line]:
    """A line a corner, one an axle where both sides are alike."""
    found: list[Line] = []
    most = max(float(np.nanmax(np.abs(row), initial=0.0)) for row in rows)
    for axle, sides in (("front", (0, 1)), ("rear", (2, 3))):
        left, right = (rows[i] for i in sides)
        gap = np.abs(np.nan_to_num(left) - np.nan_to_num(right))
        alike = float(gap.max(initial=0.0)) <= ALIKE * most
        rows_shown = (
            [(axle, 0.5 * (left + right))] if alike else [(CORNERS[i], rows[i]) for i in sides]
        )
        found += [
            Line(f"{name} {words}".strip(), tuple(float(one) for one in row))
            for name, row in rows_shown
        ]
    return found
