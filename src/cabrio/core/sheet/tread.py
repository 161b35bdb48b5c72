"""What the three temperatures across each tread say of camber and pressure. Team practice, not physics."""

from __future__ import annotations

from ..catalog.quantities import PLACES, Shape
from ..catalog.units import show
from ..graph.registry import number_named
from ..knowledge import knowledge
from .build import Sheet

CORNERS = PLACES[Shape.CORNER]
SAID = {
    "inner_less_outer": (
        "the outer edge works hardest: more negative camber",
        "the inner edge works hardest: less negative camber, or less toe-out",
    ),
    "middle_less_edges": (
        "the edges are hotter than the middle: more pressure",
        "the middle is hotter than the edges: less pressure",
    ),
}
"""What to try below the band, and above it."""


def tread_says(sheet: Sheet) -> dict[str, tuple[str, ...]]:
    """A sentence or two a corner; empty where the tread was not read, or no band is known."""
    found: dict[str, tuple[str, ...]] = {}
    for i, place in enumerate(CORNERS):
        told, asked = [], 0
        for name, (below, above) in SAID.items():
            values = sheet.worked.values.get(name)
            band = knowledge().band(name, sheet.car.use, place)
            if values is None or band is None:
                continue
            asked += 1
            value = float(values[i])
            if not band.low <= value <= band.high:
                label = number_named(name).label
                by = show(value, "temperature_difference", sheet.car.profile)
                told.append(f"{label} {by}: {below if value < band.low else above}.")
        if asked:
            found[place] = tuple(told) or ("Even across the tread.",)
    return found
