"""Curves of the car: figures over one number, worked in one batch of the graph.

A plot is two lines of a station's table: the number that is swept and the figures that follow. A
curve that no sweep gives is one of the `charts`.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Number, Shape
from ..errors import Missing, UnknownName
from ..graph.registry import figures, number_named, run
from .build import Sheet

POINTS = 41
SWEPT = (Shape.CAR, Shape.AXLE, Shape.CORNER)


@dataclass(frozen=True)
class Curve:
    """One figure at one place over the swept number [SI]; None where it has no value there."""

    name: str
    place: str
    values: tuple[float | None, ...]


@dataclass(frozen=True)
class Curves:
    """Figures over one number. `here` is where the car stands on it, None where it is not known."""

    x: str
    values: tuple[float, ...]
    curves: tuple[Curve, ...]
    here: float | None = None


def sweep(
    sheet: Sheet, x: str, names: tuple[str, ...], worked: Mapping[str, Array] | None = None
) -> Curves:
    """Figures over the usual range of an entered number, all else as it stands.

    `worked` are other values of the car, as after a slip. Raises UnknownName for a number that cannot
    be swept, Missing where none of the figures can be worked.
    """
    number = number_named(x)
    values = sheet.worked.values if worked is None else worked
    arrays = {name: array for name, array in values.items() if name not in figures()}
    here = arrays.get(x)
    at = np.linspace(*_range(number, here), POINTS)
    count = len(number.shape.places)
    arrays[x] = at if number.shape is Shape.CAR else np.repeat(at[:, None], count, axis=1)
    found = run(arrays, {}, names).values
    if any(name not in found for name in names):
        found = _point_by_point(arrays, x, names)
    curves = [
        curve
        for name in names
        if name in found
        for curve in _curves(number_named(name), found[name])
    ]
    if not curves:
        labels = ", ".join(number_named(name).label.lower() for name in names)
        raise Missing(
            f"There is nothing to draw yet: {labels} cannot be worked on this car.", number=names[0]
        )
    stands = None if here is None else float(np.mean(here))
    return Curves(x, tuple(at.tolist()), tuple(curves), stands)


def _point_by_point(arrays: dict[str, Array], x: str, names: tuple[str, ...]) -> dict[str, Array]:
    """Figures that refuse some of the range, such as past a lifted wheel: not a number there."""
    swept = arrays[x]
    each = [run(arrays | {x: at}, {}, names).values for at in swept]
    found = {}
    for name in names:
        shape = next((one[name].shape for one in each if name in one), None)
        if shape is not None:
            found[name] = np.stack([one.get(name, np.full(shape, np.nan)) for one in each])
    return found


def _range(number: Number, here: Array | None) -> tuple[float, float]:
    """What to sweep over: the usual range, widened to where the car stands."""
    low, high = number.usual or (number.least, number.most)
    if low is None or high is None or number.shape not in SWEPT:
        raise UnknownName(f"{number.label} has no range to draw over.", number=number.name)
    if here is not None:
        low, high = min(low, float(np.min(here))), max(high, float(np.max(here)))
    return low, high


def _curves(number: Number, array: Array) -> list[Curve]:
    """One curve a place; left and right of an axle are one where they are alike."""
    rows = (
        np.broadcast_to(array, (POINTS, *array.shape[1:])) if array.ndim else np.full(POINTS, array)
    )
    columns = rows.reshape(POINTS, -1)
    found: list[Curve] = []
    for i, place in enumerate(number.shape.places):
        values = tuple(float(value) if np.isfinite(value) else None for value in columns[:, i])
        if any(value is not None for value in values) and all(
            curve.values != values for curve in found
        ):
            found.append(Curve(number.name, place, values))
    return found
