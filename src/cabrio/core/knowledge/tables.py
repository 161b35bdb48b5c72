"""Reading a table of the knowledge: TOML rows into a dataclass, misspelt keys refused."""

from __future__ import annotations

import tomllib
from dataclasses import dataclass, fields
from importlib.resources import files
from typing import Any

DISCIPLINES = ("circuit", "drag", "drift")


@dataclass(frozen=True)
class Words:
    """The phases in which a driver speaks about the car, by discipline.

    In a `steady` phase nothing moves for long enough that dampers carry nothing.
    """

    discipline: str
    phases: tuple[str, ...]
    session_kinds: tuple[str, ...]
    steady: tuple[str, ...] = ()


def rows(table: str, key: str, row_type: type[Any]) -> list[Any]:
    """The rows [[key]] of a table beside this file. Raises ValueError for a key no row has."""
    document = tomllib.loads((files(__package__) / f"{table}.toml").read_text("utf-8"))
    return [row_of(row_type, raw, f"{table}.toml, [[{key}]]") for raw in document[key]]


def row_of(row_type: type[Any], raw: dict[str, Any], where: str) -> Any:
    """One row as its dataclass. Raises ValueError for a key it does not have."""
    unknown = set(raw) - {field.name for field in fields(row_type)}
    if unknown:
        raise ValueError(f"{where}: unknown {', '.join(sorted(unknown))}")
    values = {k: tuple(v) if isinstance(v, list) else v for k, v in raw.items()}
    if values.get("disciplines") == ("all",):
        values["disciplines"] = DISCIPLINES
    return row_type(**values)
