"""A small made-up circuit car whose figures can be worked by hand."""

from __future__ import annotations

from typing import Any

from cabrio.core.car import Adjuster, Car, Given, Spring
from cabrio.core.catalog.inventory import Inventory
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet, build

PADS = [250.0, 240.0, 230.0, 235.0]
ALL_HELD = {
    "driver_aboard": True,
    "bars_free": True,
    "pressures_set": True,
    "pads_zeroed": True,
    "settled": True,
}
SETUP: dict[str, list[Any]] = {
    "spring": ["S70", "S70", "S80", "S80"],
    "perch_turns": [0.0, 0.0, 0.0, 0.0],
    "bar_hole": [2.0, 3.0],
    "rebound_clicks": [12.0, 12.0, 10.0, 10.0],
}


def given(**changes: list[float | None]) -> dict[str, Given]:
    values: dict[str, list[float | None]] = {
        "wheelbase": [2.5],
        "track": [1.5, 1.52],
        "unsprung_mass": [30, 30, 34, 34],
        "motion_ratio": [0.9] * 4,
        "tyre_rate": [220e3] * 4,
        "droop_travel": [0.03] * 4,
        "bump_travel": [0.05] * 4,
        "target_frequency": [2.2, 2.3],
        **changes,
    }
    return {
        name: Given(tuple(value), by="Ada", at="2026-05-01T08:00:00+00:00")
        for name, value in values.items()
    }


def car(**changes: list[float | None]) -> Car:
    return Car(
        name="Test",
        race_number="1",
        discipline="circuit",
        use="race_no_downforce",
        given=given(**changes),
        parts=Inventory(
            spring=(
                Spring("S60", 60e3, 0.2, 0.09),
                Spring("S70", 70e3, 0.2, 0.095),
                Spring("S80", 80e3, 0.2, 0.1),
                Spring("F90", 90e3, 0.18, 0.1, fits="front"),
            )
        ),
        adjusters={
            "perch_turns": Adjuster(-5, 5),
            "bar_hole": Adjuster(1, 5),
            "rebound_clicks": Adjuster(0, 20, "from_closed"),
        },
    )


def pads(revision: int = 1, values: list[float] | None = None, **more: Any) -> Reading:
    repeats = {"pad_mass": [values or PADS]}
    return Reading(1, "pads", revision, "Ada", "2026-05-02T09:00", repeats, dict(ALL_HELD), **more)


def sheet(**changes: list[float | None]) -> Sheet:
    return build(car(**changes), SETUP, [pads()], [Revision(1, SETUP)])
