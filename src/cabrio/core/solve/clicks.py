"""Clicks for a wanted damping ratio, and what each click gives (reference §3)."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil, floor
from typing import Literal

import numpy as np

from ..catalog.parts import Adjustment
from ..checks import finite
from ..constants import HIGH_SPEED, LOW_SPEED
from ..errors import Impossible
from ..figures.dampers import damping_ratio

Band = Literal["low", "high"]
BANDS: dict[Band, tuple[float, float]] = {"low": LOW_SPEED, "high": HIGH_SPEED}


@dataclass(frozen=True)
class ClickRatio:
    """One click, in the adjuster's own counting, and the damping ratio it gives [-]."""

    click: int
    ratio: float


def ladder(
    adjustment: Adjustment, band: Band, motion_ratio: float, critical: float
) -> list[ClickRatio]:
    """Every whole click inside the measured range with its ratio, by click.

    `critical` is the critical damping at the wheel [N·s/m]. Raises Missing without a dyno sheet.
    """
    least, most = adjustment.measured
    rungs = []
    for click in range(ceil(least), floor(most) + 1):
        chord = adjustment.chord(click, BANDS[band])
        ratio = damping_ratio(np.asarray(chord), np.asarray(motion_ratio), np.asarray(critical))
        rungs.append(ClickRatio(click, float(ratio)))
    return rungs


def click_for(
    adjustment: Adjustment, target: float, band: Band, motion_ratio: float, critical: float
) -> ClickRatio:
    """The whole click whose ratio is nearest the target; ties to the softer.

    Raises Impossible on an adjuster that no longer turns or has no knob, Missing without a sheet.
    """
    if adjustment.dead_at is not None:
        raise Impossible(
            f"This adjuster is dead at click {adjustment.dead_at:g}: nothing can be set on it.",
            number="damper_clicks",
        )
    if adjustment.clicks == 0:
        raise Impossible("This damper has no knob in that direction.", number="damper_clicks")
    finite(target=target, motion_ratio=motion_ratio, critical_damping=critical)
    rungs = ladder(adjustment, band, motion_ratio, critical)
    return min(
        rungs, key=lambda rung: (abs(rung.ratio - target), -adjustment.from_closed(rung.click))
    )
