"""What to do about an axle that is not square, from its figures (reference §9)."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Side = Literal["left", "right", "none"]


@dataclass(frozen=True)
class Correction:
    """Shorten the bars of the trailing side by this much, or half on it and lengthen the other's half.

    In metres or in flats, as the figure it was made from. Upper and lower alike; with triangulated
    uppers the lowers only.
    """

    trailing: Side
    one_side: float
    each_side: float


def trailing_side(skew: float) -> Side:
    """Which end of the axle stands behind [from the skew, rad, + left]."""
    return "left" if skew > 0 else "right" if skew < 0 else "none"


def correction(move: float) -> Correction:
    """The correction for a signed move of the left bars, + shorten [m or flats]."""
    return Correction(trailing_side(move), abs(move), abs(move) / 2)


def straight_enough(bend: float, limit: float) -> bool:
    """Whether a housing's bend is within the limit at the same diameter [m]."""
    return bend <= limit
