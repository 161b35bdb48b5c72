"""Reading a table that ships beside a package: TOML rows, misspelt keys refused."""

from __future__ import annotations

import tomllib
from dataclasses import fields
from importlib.resources import files
from typing import Any

DISCIPLINES = ("circuit", "drag", "drift")


def rows(package: str, table: str, key: str) -> list[dict[str, Any]]:
    """The rows [[key]] of a table beside a package."""
    document = tomllib.loads((files(package) / f"{table}.toml").read_text("utf-8"))
    found: list[dict[str, Any]] = document[key]
    return found


def row_of(row_type: type[Any], raw: dict[str, Any], where: str) -> Any:
    """One row as its dataclass. Raises ValueError for a key it does not have."""
    unknown = set(raw) - {field.name for field in fields(row_type)}
    if unknown:
        raise ValueError(f"{where}: unknown {', '.join(sorted(unknown))}")
    values = {k: tuple(v) if isinstance(v, list) else v for k, v in raw.items()}
    if values.get("disciplines") == ("all",):
        values["disciplines"] = DISCIPLINES
    return row_type(**values)
