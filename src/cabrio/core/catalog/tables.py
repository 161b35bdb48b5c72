"""Reading a table that ships beside a package: TOML rows, misspelt keys refused."""

from __future__ import annotations

import tomllib
from dataclasses import fields
from importlib.resources import files
from typing import Any

from .quantities import BAR_LINKS, LIVE_AXLES

LAYOUTS = {
    "live axle": LIVE_AXLES,
    "linked bars": BAR_LINKS,
    "parallel four link": ("parallel_four_link",),
    "track bar": ("parallel_four_link", "three_link", "torque_arm", "ladder_bar"),
    "trailing arms": ("three_link", "torque_arm", "leaf"),
}
"""What a table may call a family of rear layouts."""


def rows(package: str, table: str, key: str) -> list[dict[str, Any]]:
    """The rows [[key]] of a table beside a package."""
    document = tomllib.loads((files(package) / f"{table}.toml").read_text("utf-8"))
    found: list[dict[str, Any]] = document[key]
    return found


DISCIPLINES: tuple[str, ...] = tuple(
    row["id"] for row in rows("cabrio.core.catalog", "disciplines", "discipline")
)
"""The ids of all disciplines, in the order of their table: what `disciplines = ["all"]` stands for."""


def layouts_of(told: str | list[str]) -> tuple[str, ...]:
    """Rear layouts as a table tells them: one by one, or a family by its name; empty for all."""
    return LAYOUTS[told] if isinstance(told, str) else tuple(told)


def row_of(row_type: type[Any], raw: dict[str, Any], where: str) -> Any:
    """One row as its dataclass. Raises ValueError for a key it does not have."""
    unknown = set(raw) - {field.name for field in fields(row_type)}
    if unknown:
        raise ValueError(f"{where}: unknown {', '.join(sorted(unknown))}")
    values = {k: tuple(v) if isinstance(v, list) else v for k, v in raw.items()}
    if "layouts" in raw:
        values["layouts"] = layouts_of(raw["layouts"])
    if values.get("disciplines") == ("all",):
        values["disciplines"] = DISCIPLINES
    return row_type(**values)
