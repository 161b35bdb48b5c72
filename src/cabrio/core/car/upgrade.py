"""Documents of the first form, brought to today's: parts that a car carried by place become its inventory.

Plain dictionaries in and out, for stored cars and car files alike.
"""

from __future__ import annotations

from typing import Any

CORNERS, AXLES = ("LF", "RF", "LR", "RR"), ("front", "rear")
BOLTS = ("upper chassis", "upper axle", "lower chassis", "lower axle")
Codes = dict[str, list[str | None]]


def is_first_form(car: dict[str, Any]) -> bool:
    """Whether a car's document is of the form that had no inventory."""
    return "parts" not in car and any(
        key in car for key in ("springs", "dampers", "bars", "rubbers", "link_holes")
    )


def upgraded(car: dict[str, Any]) -> tuple[dict[str, Any], Codes]:
    """The car's document in today's form, and the part codes that each of its setups wears besides."""
    kept = {
        k: v
        for k, v in car.items()
        if k not in ("springs", "dampers", "bars", "rubbers", "link_holes")
    }
    codes: Codes = {}

    def by_place(kind: str, places: tuple[str, ...], old: dict[str, Any]) -> list[Any]:
        if old:
            codes[kind] = [f"{kind} {place}" if place in old else None for place in places]
        return [{**old[place], "code": f"{kind} {place}"} for place in places if place in old]

    rubbers = {
        place: {"table": [list(row) for row in zip(one["deflection"], one["force"], strict=True)]}
        for place, one in (car.get("rubbers") or {}).items()
    }
    holes = {place: {"holes": one} for place, one in (car.get("link_holes") or {}).items()}
    parts = {
        "spring": list(car.get("springs") or ()),
        "damper": by_place("damper", CORNERS, car.get("dampers") or {}),
        "bar": by_place(
            "bar", AXLES, {at: _bar(one) for at, one in (car.get("bars") or {}).items()}
        ),
        "bump_rubber": by_place("bump_rubber", AXLES, rubbers),
        "bracket": by_place("bracket", BOLTS, holes),
    }
    return {**kept, "parts": parts}, codes


def _bar(old: dict[str, Any]) -> dict[str, Any]:
    """A bar whose blades had one angle: the only position they have."""
    blade = old.get("blade")
    if not blade or "angle" not in blade:
        return old
    rest = {key: value for key, value in blade.items() if key != "angle"}
    return {**old, "blade": {**rest, "angles": [blade["angle"]]}}


def setup_upgraded(setup: dict[str, Any], codes: Codes) -> dict[str, Any]:
    """A setup of such a car with the parts it wore."""
    return {**setup, **{kind: row for kind, row in codes.items() if kind not in setup}}
