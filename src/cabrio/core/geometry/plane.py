"""Points and lines of a plane in homogeneous coordinates, so that parallel is an answer, not an error.

A point is (X, Z, W) with x = X/W and z = Z/W; W = 0 is the point at infinity in direction (X, Z). The
line through two points and the point on two lines are both a cross product (Möbius 1827; see Hartley
and Zisserman, Multiple View Geometry, ch. 2). All take arrays of any leading shape.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..registry import Array, Mask

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


def homogeneous(x: Array, z: Array) -> Array:
    """Points (…, 3) from their coordinates."""
    return np.stack(np.broadcast_arrays(x, z, 1.0), axis=-1)


def cross(a: Array, b: Array) -> Array:
    """The line through two points, or the point on two lines: both (…, 3)."""
    ax, ay, az = a[..., 0], a[..., 1], a[..., 2]
    bx, by, bz = b[..., 0], b[..., 1], b[..., 2]
    return np.stack([ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx], axis=-1)


def unit_line(line: Array) -> Array:
    """The line scaled so that its W is a distance from the origin [m]."""
    scale: Array = line / np.hypot(line[..., 0], line[..., 1])[..., np.newaxis]
    return scale


def meet(first: Array, second: Array) -> Array:
    """The point on two lines; its W is the sine of the angle between them, cleared when negligible."""
    point = cross(unit_line(first), unit_line(second))
    point[..., 2] = np.where(np.abs(point[..., 2]) < NEGLIGIBLE, 0.0, point[..., 2])
    return point


def is_coincident(point: Array) -> Mask:
    """Whether the two lines that gave this point were the same line."""
    return np.hypot(point[..., 0], point[..., 1]) + np.abs(point[..., 2]) < NEGLIGIBLE


def meeting(first: Array, second: Array) -> Meeting:
    """Where two single lines meet, as one of the three answers."""
    x, z, w = (float(part) for part in meet(first, second))
    if w != 0:
        return Point(x / w, z / w)
    slope = float(-first[0] / first[1]) if first[1] else None
    return Coincident(slope) if abs(x) + abs(z) < NEGLIGIBLE else Parallel(slope)
