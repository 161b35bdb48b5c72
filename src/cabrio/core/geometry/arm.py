"""A single arm of a live axle: how far its axle end goes forward on the arc about its pivot."""

from __future__ import annotations

import numpy as np

from ..arrays import Array


def forward(length: Array | float, rise: Array | float, travel: Array) -> Array:
    """Forward shift of the axle end of an arm after a travel [m]; rise and travel + upward.

    x = l·(cos θ₀ − cos θ). NaN where the arm does not reach. Lengths broadcast.
    """
    start = np.asarray(rise) / length
    end = (rise + travel) / length
    with np.errstate(invalid="ignore"):
        answer: Array = length * (np.sqrt(1 - start**2) - np.sqrt(1 - end**2))
    return answer
