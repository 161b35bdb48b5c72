"""Rear bite against flats of link preload, as this car's own pads told it."""

from __future__ import annotations

import numpy as np

from ..catalog.units import MEASURES, show
from ..errors import Missing
from ..sheet.build import Sheet
from ..solve.preload import MOST_FLATS
from .chart import Axis, Drawn, Line, Mark, chart


@chart(
    label="Rear bite over flats",
    x=Axis("Flats from neutral, − loads the left rear", "flats"),
    y=Axis("Left rear less right rear", "mass"),
)
def bite_over_flats(sheet: Sheet) -> Drawn:
    """The line through the pads read at different flats, the rest of the setup alike, and how far it may
    be off."""
    if sheet.bite is None:
        raise Missing(
            "Rear bite over flats needs the pads read at two numbers of flats, the rest of the setup "
            "alike.",
            number="link_preload",
        )

    def shown(mass: float) -> str:
        return show(mass, "mass", sheet.car.profile)

    step = MEASURES["flats"].for_profile(sheet.car.profile).precision
    flats = np.arange(-MOST_FLATS, MOST_FLATS + step / 2, step)  # a row each as it is shown
    line = sheet.bite.at_neutral + sheet.bite.per_flat * flats
    middle = float(np.mean([bite.flats for bite in sheet.bites]))
    off = 2 * (sheet.bite.error or 0.0) * np.abs(flats - middle)
    lines = (
        Line("by the pads", tuple(line.tolist())),
        Line("may be", tuple((line + off).tolist()), faint=True),
        Line("may be ", tuple((line - off).tolist()), faint=True),
    )
    marks = tuple(
        Mark(f"read {shown(bite.left_rear - bite.right_rear)}", bite.flats) for bite in sheet.bites
    )
    note = f"{shown(sheet.bite.per_flat)} per flat, from {sheet.bite.count} readings."
    return Drawn(tuple(flats.tolist()), lines, marks, note)
