"""What this car's own pads said at different flats: the readings that bite per flat is learned from."""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from ..car.model import Setup
from ..errors import Missing
from ..solve.preload import Bite, BiteReading, bite_per_flat
from .readings import Reading

PRELOAD = "link_preload"
ASIDE = frozenset({PRELOAD, "compression_clicks", "rebound_clicks", "front_limiter"})
"""Settings that move no load on the standing car, and the preload itself."""


def bite_readings(
    setup: Setup, readings: Iterable[Reading], setups: Mapping[int, Setup]
) -> list[BiteReading]:
    """The pads read on setups that are this one but for the preload, with all that has to hold for pads."""
    here = standing(setup)
    found = []
    for reading in readings:
        worn = setups.get(reading.revision)
        if (
            reading.kind != "pads"
            or reading.withdrawn_at is not None
            or worn is None
            or reading.unmet()
        ):
            continue
        flats = (worn.get(PRELOAD) or [None])[0]
        if flats is None or standing(worn) != here:
            continue
        _, _, left, right = reading.whole("pad_mass")
        found.append(BiteReading(float(flats), left, right))
    return found


def learned(
    setup: Setup, readings: Iterable[Reading], setups: Mapping[int, Setup]
) -> tuple[list[BiteReading], Bite | None]:
    """The readings, and the bite per flat they make; None where all stand at one number of flats."""
    found = bite_readings(setup, readings, setups)
    try:
        return found, bite_per_flat(found)
    except Missing:
        return found, None


def standing(setup: Setup) -> dict[str, list[object]]:
    """What a setup sets, less what moves no load on the standing car, and the preload."""
    return {
        name: list(values)
        for name, values in setup.items()
        if name not in ASIDE and any(value is not None for value in values)
    }
