"""What a car makes of a change against what the model makes of it, learned from changes that were weighed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np

FEWEST = 2
"""Changes that a gain is learned from; fewer say nothing of its error."""


@dataclass(frozen=True)
class Gain:
    """The share of what was predicted that was found [-], its standard error, and from how many changes."""

    share: float
    error: float
    count: int

    @property
    def sure(self) -> bool:
        """Whether the car does something else than the model, beyond twice the error."""
        return abs(self.share - 1.0) > 2 * self.error


def gain(predicted: Sequence[float], found: Sequence[float]) -> Gain | None:
    """The line through nothing of what was found over what was predicted, by least squares.

    None below two changes, or where nothing was predicted to move.
    """
    x, y = np.asarray(predicted, np.float64), np.asarray(found, np.float64)
    weight = float((x * x).sum())
    if len(x) < FEWEST or weight <= 0:
        return None
    share = float((x * y).sum()) / weight
    left = float(((y - share * x) ** 2).sum())
    return Gain(share, sqrt(left / (len(x) - 1) / weight), len(x))
