"""A straight line through points that scatter."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True)
class StraightLine:
    """Slope [y per x] and value at x = 0 [y] by least squares; the standard deviation about it [y], None
    with two points, and the standard error of the slope [y per x]."""

    slope: float
    at_zero: float
    scatter: float | None
    error: float


def line_through(x: Sequence[float], y: Sequence[float], noise: float) -> StraightLine:
    """The line through two points or more that do not share one x.

    `noise` is what one y is good to where two points alone tell no scatter.
    """
    at, of = np.asarray(x, np.float64), np.asarray(y, np.float64)
    slope, at_zero = np.polyfit(at, of, 1)
    off = of - (slope * at + at_zero)
    free = len(at) - 2
    scatter = float(np.sqrt((off**2).sum() / free)) if free > 0 else None
    size = noise if scatter is None else max(scatter, 1e-9)
    error = float(size / np.sqrt(((at - at.mean()) ** 2).sum()))
    return StraightLine(float(slope), float(at_zero), scatter, error)
