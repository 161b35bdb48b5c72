"""Points and lines of a plane in homogeneous coordinates, so that parallel is an answer, not an error.

A point is (X, Z, W) with x = X/W and z = Z/W; W = 0 is the point at infinity in direction (X, Z). The
line through two points and the point on two lines are both a cross product (Möbius 1827; see Hartley
and Zisserman, Multiple View Geometry, ch. 2). The three parts are arrays of one leading shape, kept
apart rather than stacked: that is several times quicker for a single car.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..graph.registry import Mask

NEGLIGIBLE = 1e-9
"""Sine of the angle under which two bars count as parallel: a tenth of a micron over 100 m."""


@dataclass(frozen=True)
class Point:
    """The lines meet here [m]."""

    x: float
    z: float


@dataclass(frozen=True)
class Parallel:
    """The lines meet at infinity; `slope` is rise over run of both [-], None where both are upright."""

    slope: float | None


@dataclass(frozen=True)
class Coincident:
    """Both are the same line: every point of it is shared, so none is singled out."""

    slope: float | None


Meeting = Point | Parallel | Coincident


Triple = tuple[Array, Array, Array]


def cross(a: Triple, b: Triple) -> Triple:
    """The line through two points, or the point on two lines."""
    return (a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0])


def line_through(x1: Array, z1: Array, x2: Array, z2: Array) -> Triple:
    """The line through two places, scaled so that its W is its distance from the origin [m]."""
    along, up = x2 - x1, z2 - z1
    length = np.hypot(along, up)
    return -up / length, along / length, (x1 * up - z1 * along) / length


def meet(first: Triple, second: Triple) -> Triple:
    """The point on two scaled lines; its W is the sine of their angle, cleared when negligible."""
    x, z, w = cross(first, second)
    return x, z, np.where(np.abs(w) < NEGLIGIBLE, 0.0, w)


def is_coincident(point: Triple) -> Mask:
    """Whether the two lines that gave this point were the same line."""
    return np.hypot(point[0], point[1]) + np.abs(point[2]) < NEGLIGIBLE


def meeting(first: Triple, second: Triple) -> Meeting:
    """Where two single scaled lines meet, as one of the three answers."""
    x, z, w = (float(part) for part in meet(first, second))
    if w != 0:
        return Point(x / w, z / w)
    slope = float(-first[0] / first[1]) if first[1] else None
    return Coincident(slope) if abs(x) + abs(z) < NEGLIGIBLE else Parallel(slope)
