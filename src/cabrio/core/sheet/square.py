"""What the diagonals say of the axle, and which links to turn: sentences in the car's own units."""

from __future__ import annotations

from ..catalog.units import MEASURES, show
from ..errors import Missing
from ..solve.preload import flats_text
from ..solve.square import correction, trailing_side
from .build import Sheet

NEEDED = ("axle_skew", "left_end_behind")
SQUARE_ENOUGH = 0.001
"""Less than this behind is within what a tape shows [m]."""
BEYOND_LINKS = 0.025
"""More than this is not taken up by turning a link [m]."""
FLATS_SHOWN = MEASURES["flats"].for_profile("n_mm").precision
"""As the row of the figure shows them: no two numbers for one turn."""


def what_to_move(sheet: Sheet) -> tuple[str, ...]:
    """From the diagonals read to the links to turn, upper and lower alike.

    Raises Missing until both diagonals were read: what stands in for them is nothing to go by.
    """
    stands = sheet.standings.get("square")
    if stands is None or stands.reading is None or "diagonal" not in stands.reading.values:
        raise Missing("What to turn needs both diagonals read.", number="diagonal")
    sheet.worked.require(NEEDED, "What to turn needs")
    v, profile = sheet.worked.values, sheet.car.profile
    behind, side = float(v["left_end_behind"]), trailing_side(float(v["axle_skew"]))
    if abs(behind) < SQUARE_ENOUGH or side == "none":
        return ("Square, within what a tape can show.",)
    sentences = [f"The {side} end stands {show(abs(behind), 'fine_dimension', profile)} behind."]
    if "square_bar_move" not in v:
        return tuple(sentences)
    move = float(v["square_bar_move"])
    if "square_flats" in v:
        turned = correction(float(v["square_flats"]))
        one, each = (_flats(size) for size in (turned.one_side, turned.each_side))
    else:
        turned = correction(move)
        one, each = (
            show(size, "fine_dimension", profile) for size in (turned.one_side, turned.each_side)
        )
    other = "right" if side == "left" else "left"
    lowers = sheet.car.rear_layout == "triangulated_four_link"
    which, alike = ("lower link", "") if lowers else ("links", ", upper and lower alike")
    sentences.append(
        f"Shorten the {side} {which} by {one}{alike}; or the {side} by {each} and lengthen the "
        f"{other} by as much."
    )
    if abs(move) > BEYOND_LINKS:
        sentences.append(
            "That is more than links are usually turned: measure again, then look at the brackets."
        )
    return tuple(sentences)


def _flats(size: float) -> str:
    return flats_text(round(size / FLATS_SHOWN) * FLATS_SHOWN)
