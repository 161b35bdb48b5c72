"""What the wheel moves: points on the arms and the upright, rockers, springs, dampers and bar arms.

Every point comes as where it stands and its velocity per metre of wheel travel.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..errors import Impossible
from .corner import NEAR, Corner
from .frame import cross, dot, length, unit
from .side import Acting, BarLink, Rocker

DEAD, STILL = 1e-6, 1e-6
"""Cosine this near one is the dead centre of a rod; a bar turning less than this a metre stands still."""


@dataclass(frozen=True)
class Moving:
    """A point now, and its velocity (n, 3)."""

    at: Array
    velocity: Array


@dataclass(frozen=True)
class Turning:
    """Something that turns about a fixed line: the line, how far it has turned [rad], how fast."""

    start: Array
    along: Array
    angle: Array
    rate: Array

    def carry(self, point: Array) -> Moving:
        """A point of it, given where it was at ride height."""
        arm = point - self.start
        level = dot(arm, self.along) * self.along
        out, over = arm - level, cross(self.along, arm)
        cos, sin = np.cos(self.angle)[..., None], np.sin(self.angle)[..., None]
        square = out * cos + over * sin
        return Moving(self.start + level + square, cross(self.along, square) * self.rate[..., None])


def point_on(corner: Corner, carrier: str, point: Array) -> Moving:
    """A point of the carrier named, given where it was at ride height."""
    if carrier == "rocker":
        assert corner.side.rocker is not None
        return rocker(corner, corner.side.rocker).carry(point)
    if carrier in corner.side.layout.arms:
        return _arm(corner, carrier).carry(point)
    at = corner.pose.at(point)
    return Moving(at, corner.velocity(at))


def _arm(corner: Corner, name: str) -> Turning:
    """An arm turns about its two pivots as far as its ball joint has gone."""
    front, rear, ball = corner.side.layout.arms[name]
    points = corner.side.points
    along = unit(points[rear] - points[front])
    before = points[ball] - points[front]
    out = unit(before - dot(before, along) * along)
    now = corner.upright(ball)
    arm = now - points[front]
    angle = np.arctan2(dot(arm, cross(along, out)), dot(arm, out))
    square = cross(along, arm)
    rate = dot(corner.velocity(now), square) / dot(square, square)
    return Turning(points[front], along, angle, rate)


def rocker(corner: Corner, rocker_arm: Rocker) -> Turning:
    """A rocker follows its rod."""
    found: Turning | None = corner.kept.get("rocker")
    if found is None:
        rod = point_on(corner, rocker_arm.rod_on, rocker_arm.rod_moving)
        found = _follower(
            "rocker",
            rod,
            rocker_arm.rod_moving,
            rocker_arm.rod_rocker,
            rocker_arm.pivot,
            rocker_arm.axis,
        )
        corner.kept["rocker"] = found
    return found


def bar_arm(corner: Corner, told: BarLink) -> Turning:
    """The bar's arm follows its drop link."""
    link = point_on(corner, told.on, told.moving)
    return _follower("bar arm", link, told.moving, told.end, *told.axis)


def _follower(
    name: str, rod: Moving, rod_start: Array, end: Array, one: Array, other: Array
) -> Turning:
    """What turns about a line so that its end keeps its distance from a moving point.

    Turned by θ, the end is level + out·cos θ + over·sin θ from the line's first point, so the rod's
    length gives a·cos θ + b·sin θ = c, which has two roots either side of the dead centre. It keeps the
    one it began on. Raises Impossible out of reach, or at the dead centre.
    """
    along = unit(other - one)
    arm = end - one
    level = dot(arm, along) * along
    out, over = arm - level, cross(along, arm)
    fixed = dot(end - rod_start, end - rod_start)
    away = rod.at - one - level
    a, b = 2 * dot(away, out), 2 * dot(away, over)
    c = dot(out, out) + dot(away, away) - fixed
    reach = np.hypot(a, b)
    share = c / np.maximum(reach, 1e-300)
    # where it stands at ride height says which of the two roots is its own
    began = dot(rod_start - one - level, over)
    if not np.all(np.abs(share) < 1 - DEAD) or abs(float(began)) < STILL * float(length(out)):
        raise Impossible(
            f"The rod of the {name} is out of reach, or stands over centre.",
            number=name.replace(" ", "_"),
        )
    side = -1.0 if began > 0 else 1.0
    angle = np.arctan2(b, a) + side * np.arccos(share)
    angle = np.arctan2(np.sin(angle), np.cos(angle))
    turning = Turning(one, along, angle, np.zeros_like(angle))
    now = turning.carry(end).at
    link = now - rod.at
    lever = dot(link, cross(along, now - one - level))
    return Turning(one, along, angle, dot(link, rod.velocity) / lever)


def ends(corner: Corner, acting: Acting) -> tuple[Moving, Array]:
    """The moving and the fixed end of a spring or damper."""
    if acting.on == "strut" and "strut_top" in corner.side.points:
        return point_on(corner, acting.on, acting.moving), np.asarray(corner.chassis("strut_top"))
    return point_on(corner, acting.on, acting.moving), acting.chassis


def travel(corner: Corner, acting: Acting) -> Array:
    """How much shorter a spring or damper stands than at ride height [m]."""
    moving, fixed = ends(corner, acting)
    return length(acting.moving - acting.chassis) - length(moving.at - fixed)


def motion_ratio(corner: Corner, acting: Acting) -> Array:
    """How much it shortens per wheel travel: spring per wheel, + in bump."""
    moving, fixed = ends(corner, acting)
    return -dot(unit(moving.at - fixed), moving.velocity)


def bar_ratio(corner: Corner, link: BarLink, sense: float) -> Array:
    """How far the arm's end goes round per wheel travel, + as it goes in bump at ride height."""
    long = float(length(cross(link.end - link.axis[0], unit(link.axis[1] - link.axis[0]))))
    return sense * long * bar_arm(corner, link).rate


def slope(corner: Corner, ratio: Callable[[Corner], Array]) -> Array:
    """How a ratio rises per metre of wheel travel: a central difference along the wheel's motion.

    A ratio is a function of the pose, so its slope needs the motion's direction only: no new closing.
    """
    low, high = corner.around
    return (ratio(high) - ratio(low)) / (2 * NEAR)
