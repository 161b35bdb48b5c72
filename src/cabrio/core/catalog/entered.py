"""The one dictionary of entered numbers, read from its two tables, and what only the loaded car tells.

`numbers.toml` holds what is given and set, `readings.toml` what is read, beside the reading that
takes it. Labels, units, bounds and steps live there and nowhere else.
"""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from .. import constants
from .quantities import Kind, Number, Shape
from .tables import layouts_of, rows

BOUNDS = ("least", "most", "above", "step", "default")
FIELDS = {field.name for field in fields(Number)}


def _bound(bound: float | str) -> float:
    """A bound in SI: a figure, or how many of a named constant, as in "0.1 DEGREE"."""
    if not isinstance(bound, str):
        return bound
    *times, constant = bound.split()
    value: float = getattr(constants, constant)
    return float(times[0]) * value if times else value


def read_number(row: dict[str, Any], kind: Kind, table: str) -> Number:
    """A number as its row tells it. Raises ValueError for a key it does not have."""
    unknown = set(row) - FIELDS
    if unknown:
        raise ValueError(f"{table}, {row.get('name')}: unknown {', '.join(sorted(unknown))}")
    fields = row | {
        "kind": kind,
        "shape": Shape(row["shape"]),
        "layouts": layouts_of(row.get("layouts", [])),
    }
    if "usual" in row:
        fields["usual"] = tuple(row["usual"])
    return Number(**fields | {key: _bound(row[key]) for key in BOUNDS if key in row})


ENTERED: tuple[Number, ...] = tuple(
    read_number(row, kind, f"{table}.toml")
    for table, key, kind in (
        ("numbers", "given", Kind.GIVEN),
        ("numbers", "set", Kind.SET),
        ("readings", "number", Kind.READ),
    )
    for row in rows(__package__, table, key)
)

LOADED: tuple[Number, ...] = tuple(
    read_number(row | {"from_load_model": True}, Kind.WORKED, "numbers.toml")
    for row in rows(__package__, "numbers", "loaded")
)
"""Numbers that no figure works: the car is loaded for them when they are asked for."""
