"""Measured points as a table of a part: one row a named point, and which of them a sheet must have."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..arrays import Array
from ..errors import CoreError, Impossible, Missing
from .fields import OneOf, Own, RowName, Table
from .part import Part, kind_of

Place = tuple[float, float, float]
"""A point in the columns' order [m]."""
Named = tuple[tuple[str, Place], ...]
AHEAD = Own("Ahead of the axle", "fine_dimension", least=-3.0, most=3.0)
ABOVE = Own("Above the ground", "fine_dimension", least=-0.2, most=2.0)


def places(names: tuple[RowName, ...], across: Own, help: str) -> Table:
    """The table of the points: ahead, `across` as its own column says, above the ground."""

    def built(rows: list[tuple[float, ...]]) -> Named:
        # a sheet kept before a kind had its last points has fewer rows, never more
        if len(rows) > len(names):
            raise Impossible(f"There are {len(names)} points at most.", number="places")
        return tuple(
            (name.id, (row[0], row[1], row[2]))
            for name, row in zip(names, rows, strict=False)
            if len(row) == 3
        )

    def taken_apart(columns: Named) -> list[tuple[float, ...]]:
        known = dict(columns)
        return [known.get(name.id, ()) for name in names]

    return Table("Points", (AHEAD, across, ABOVE), built, taken_apart, help, names=names)


def not_measured(label: str, options: Iterable[tuple[str, str]]) -> OneOf:
    """What something is on, or that nobody measured it."""
    return OneOf(label, (("", "not measured"), *options))


class Measured(Part):
    """A sheet of measured points. Each kind declares its own fields and, last of them, its table."""

    places: Named

    def __post_init__(self) -> None:
        # what cannot be is refused where it is typed: what the points make is built once and kept
        try:
            self.make()
        except CoreError as refusal:
            rows = [name.id for name in self._names()]
            if refusal.number in rows:
                refusal.place = f"{rows.index(refusal.number)}.0"
            if refusal.number not in [field.id for field in kind_of(type(self)).fields]:
                refusal.number = "places"
            raise

    def check(self) -> None:
        """Raise Impossible for points that hold no wheel, or that something cannot follow."""
        try:
            self.stand()
        except CoreError as refusal:
            refusal.number, refusal.place = "places", None
            raise

    def make(self) -> object:
        """What the points make, for the kinematics. Raises Missing, all at once, or Impossible."""
        raise NotImplementedError

    def stand(self) -> object:
        """Work it at ride height. Raises Impossible."""
        raise NotImplementedError

    def known(self) -> dict[str, Array]:
        """The points by name. Raises Missing, all that lack at once."""
        found = {name: np.array(place) for name, place in self.places}
        lacking = [name for name in self._names() if self.asks(name) and name.id not in found]
        if lacking:
            raise Missing(
                f"Still to measure: {'; '.join(name.label.lower() for name in lacking)}.",
                number=lacking[0].id,
            )
        return found

    def asks(self, name: RowName) -> bool:
        """Whether this sheet must have the point."""
        return all(getattr(self, field) in values for field, values in name.asked)

    def _names(self) -> tuple[RowName, ...]:
        tables = (field.table for field in kind_of(type(self)).fields if field.table)
        return next(table.names for table in tables)
