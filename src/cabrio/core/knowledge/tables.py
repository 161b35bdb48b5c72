"""Reading a table of the knowledge: TOML rows into a dataclass, misspelt keys refused."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, Literal

from ..catalog.tables import DISCIPLINES as DISCIPLINES
from ..catalog.tables import row_of as row_of
from ..catalog.tables import rows as plain
from .references import DisciplineName, NumberName, StationName


@dataclass(frozen=True)
class Clocked:
    """A time [s], a speed [m/s] or a place [m] that is written down of a run; `distance` [m] from the start."""

    id: str
    label: str
    disciplines: tuple[DisciplineName, ...]
    quantity: Literal["time", "speed", "dimension"]
    distance: float = 0.0
    aliases: tuple[str, ...] = ()


@dataclass(frozen=True)
class Talk:
    """What is often said of a station's work, what holds, and the figures of this car that show it."""

    station: StationName
    said: str
    holds: str
    shows: tuple[NumberName, ...]
    disciplines: tuple[DisciplineName, ...] = DISCIPLINES
    layouts: tuple[str, ...] = ()


def rows(table: str, key: str, row_type: type[Any], package: str = __package__) -> list[Any]:
    """The rows [[key]] of a table as their dataclass. Raises ValueError for a key no row has."""
    return [row_of(row_type, raw, f"{table}.toml, [[{key}]]") for raw in plain(package, table, key)]
