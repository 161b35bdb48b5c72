"""What a car makes of a change against what the model makes of it, learned from changes that were weighed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

import numpy as np
from scipy.special import stdtrit

FEWEST = 3
"""Changes that a gain is learned from; fewer say nothing of its error."""


LEAST_SHARE, MOST_SHARE = 0.5, 1.5
"""Beyond this the car or a reading is wrong, and nothing is gone by."""


@dataclass(frozen=True)
class Gain:
    """The share of what was predicted that was found [-], its standard error, and from how many changes."""

    share: float
    error: float
    count: int

    @property
    def sure(self) -> bool:
        """Whether the car does something else than the model, by Student's t: two weighings leave much open."""
        most = float(stdtrit(self.count - 1, 0.975))
        return abs(self.share - 1.0) > most * self.error

    @property
    def usable(self) -> bool:
        """Whether to go by it instead of the model: surely otherwise, and not so far off that something
        must be wrong on the car or in a reading."""
        return self.sure and LEAST_SHARE <= self.share <= MOST_SHARE


def gain(predicted: Sequence[float], found: Sequence[float]) -> Gain | None:
    """The line through nothing of what was found over what was predicted, by least squares.

    None below three changes, or where nothing was predicted to move.
    """
    x, y = np.asarray(predicted, np.float64), np.asarray(found, np.float64)
    weight = float((x * x).sum())
    if len(x) < FEWEST or weight <= 0:
        return None
    share = float((x * y).sum()) / weight
    left = float(((y - share * x) ** 2).sum())
    return Gain(share, sqrt(left / (len(x) - 1) / weight), len(x))
