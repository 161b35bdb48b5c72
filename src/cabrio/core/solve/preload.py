"""Link preload from what the pads said: bite per flat, and what a change by itself means (§7)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from ..catalog.units import show
from ..checks import finite
from ..errors import Impossible, Missing
from .line import line_through

MOST_FLATS = 2.0
"""Flats either way beyond which mass is moved or the links changed instead; team practice."""
PAD_NOISE = 0.5
"""What a pad's reading is good to, rolled and read again [kg]."""


@dataclass(frozen=True)
class BiteReading:
    """Rear pads [kg] at a number of flats, the rest of the setup alike."""

    flats: float
    left_rear: float
    right_rear: float


@dataclass(frozen=True)
class Bite:
    """Rear bite against flats: slope [kg per flat], bite at neutral [kg], and the scatter about it.

    `scatter` is the standard deviation of the readings from the line [kg], None with two readings;
    `error` the standard error of the slope [kg per flat], from the pads' own noise with two. `count`
    readings it rests on.
    """

    per_flat: float
    at_neutral: float
    scatter: float | None
    error: float | None = None
    count: int = 0


def refuse_triangulated(triangulated: bool) -> None:
    """Raise Impossible for upper arms that cannot carry preload."""
    if triangulated:
        raise Impossible(
            "Triangulated upper arms cannot be preloaded: use the anti-roll bar's drop link.",
            number="link_preload",
        )


def flats_text(flats: float, signed: bool = False) -> str:
    """`1 flat`, `2.5 flats`; with its sign where it has one, a true minus."""
    size = f"{flats:+g}" if signed else f"{flats:g}"
    return f"{size.replace('-', '−')} {'flat' if abs(flats) == 1 else 'flats'}"


def loads(flats: float) -> Literal["left rear", "right rear", "none"]:
    """Which rear wheel a preload presses down: negative flats lengthen the upper right bar."""
    return "left rear" if flats < 0 else "right rear" if flats > 0 else "none"


def beyond_limit(flats: float) -> bool:
    """Whether mass or the links should be changed instead."""
    return abs(flats) > MOST_FLATS + 1e-9


def bite_per_flat(readings: Sequence[BiteReading]) -> Bite:
    """Least-squares line through (flats, LR − RR).

    Raises Missing where all readings stand at one number of flats: with no slope there is no number.
    """
    flats = np.array([reading.flats for reading in readings], dtype=np.float64)
    finite(flats=flats)
    if len(set(flats.tolist())) < 2:
        raise Missing(
            "Bite per flat needs readings at two settings: one at neutral and one at a flat.",
            number="link_preload",
        )
    bite = np.array([reading.left_rear - reading.right_rear for reading in readings])
    finite(flats=flats, pad_mass=bite)
    line = line_through(flats.tolist(), bite.tolist(), float(np.sqrt(2.0)) * PAD_NOISE)
    return Bite(line.slope, line.at_zero, line.scatter, line.error, len(readings))


def flats_for_bite(bite: Bite, wanted: float, step: float = 0.5, profile: str = "n_mm") -> float:
    """Flats that give a wanted rear bite [kg], on the step. Raises Impossible past ±2 flats, in units of the
    profile."""
    if bite.per_flat == 0:
        raise Impossible("Flats do not move the bite of this car.", number="link_preload")
    flats = round((wanted - bite.at_neutral) / bite.per_flat / step) * step
    if beyond_limit(flats):
        raise Impossible(
            f"{show(wanted, 'mass', profile)} of bite would take {flats:+g} flats: beyond two flats move mass or change "
            "the links.",
            number="link_preload",
            value=flats,
            allowed="−2 to +2 flats",
        )
    return flats + 0.0
