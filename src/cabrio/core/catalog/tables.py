"""Reading a table that ships beside a package: TOML rows, misspelt keys refused."""

from __future__ import annotations

import tomllib
from dataclasses import fields
from importlib.resources import files
from typing import Any


def rows(package: str, table: str, key: str) -> list[dict[str, Any]]:
    """The rows [[key]] of a table beside a package."""
    document = tomllib.loads((files(package) / f"{table}.toml").read_text("utf-8"))
    found: list[dict[str, Any]] = document[key]
    return found


LAYOUT_GROUPS: dict[str, tuple[str, ...]] = {
    row["id"]: tuple(row["layouts"]) for row in rows("cabrio.core.catalog", "layouts", "group")
}
"""Groups of rear layouts by the names that a row may use for them."""
BAR_LINKS = LAYOUT_GROUPS["linked bars"]
DISCIPLINES: tuple[str, ...] = tuple(
    row["id"] for row in rows("cabrio.core.catalog", "disciplines", "discipline")
)
"""The ids of all disciplines, in the order of their table: whom a row is for that names none."""


def layouts_of(layouts: str | list[str]) -> tuple[str, ...]:
    """Rear layouts as a row tells them: one by one, or a group by its name; empty for all."""
    return LAYOUT_GROUPS[layouts] if isinstance(layouts, str) else tuple(layouts)


def row_of(row_type: type[Any], raw: dict[str, Any], where: str) -> Any:
    """One row as its dataclass. Raises ValueError for a key it does not have."""
    unknown = set(raw) - {field.name for field in fields(row_type)}
    if unknown:
        raise ValueError(f"{where}: unknown {', '.join(sorted(unknown))}")
    values = {k: tuple(v) if isinstance(v, list) else v for k, v in raw.items()}
    if "layouts" in raw:
        values["layouts"] = layouts_of(raw["layouts"])
    return row_type(**values)
