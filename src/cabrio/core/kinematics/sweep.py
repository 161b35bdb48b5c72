"""An independent axle through its travel, its roll or its steering: its curves and its picture."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..errors import Missing
from . import carried as moving
from .axle import Axle, Car, Through, through
from .picture import Curve, Disc, Over, Stick, Swept, Which, clamped
from .readout import Readout
from .steering import Steered, steered


@dataclass(frozen=True)
class Shown:
    """A figure of a side: its name, label and quantity, over what it is shown and over what drawn."""

    name: str
    label: str
    quantity: str
    over: tuple[Over, ...]
    drawn: tuple[Over, ...]
    read: Callable[[Readout], Array | None]


def _ratio(name: str) -> Callable[[Readout], Array | None]:
    return lambda side: side.acting[name].ratio if name in side.acting else None


def _steered_only(read: Callable[[Readout], Array]) -> Callable[[Readout], Array | None]:
    return lambda side: None if side.kingpin is None else read(side)


ALL: tuple[Over, ...] = ("travel", "roll", "rack")
TRAVEL: tuple[Over, ...] = ("travel",)
RACK: tuple[Over, ...] = ("rack",)
SIDE = (
    Shown("camber", "Camber", "fine_angle", ALL, ALL, lambda one: one.camber),
    Shown("toe", "Toe", "fine_angle", ("travel", "roll"), ("travel", "roll"), lambda one: one.toe),
    Shown("bump_steer", "Bump steer", "angle_per_travel", TRAVEL, (), lambda one: one.bump_steer),
    Shown("spring_ratio", "Spring ratio", "ratio", TRAVEL, TRAVEL, _ratio("spring")),
    Shown("damper_ratio", "Damper ratio", "ratio", TRAVEL, TRAVEL, _ratio("damper")),
    Shown(
        "bar_ratio",
        "Bar ratio",
        "ratio",
        TRAVEL,
        TRAVEL,
        lambda one: None if one.bar is None else one.bar.ratio,
    ),
    Shown(
        "half_track",
        "Half-track change",
        "fine_dimension",
        TRAVEL,
        TRAVEL,
        lambda one: one.half_track_change,
    ),
    Shown("caster", "Caster", "angle", ALL, (), _steered_only(lambda one: one.kingpin_angles[0])),
    Shown(
        "kingpin",
        "Kingpin inclination",
        "angle",
        ALL,
        (),
        _steered_only(lambda one: one.kingpin_angles[1]),
    ),
    Shown(
        "trail",
        "Mechanical trail",
        "fine_dimension",
        ALL,
        RACK,
        _steered_only(lambda one: one.trail_and_scrub[0]),
    ),
    Shown(
        "scrub",
        "Scrub radius",
        "fine_dimension",
        ALL,
        (),
        _steered_only(lambda one: one.trail_and_scrub[1]),
    ),
    Shown(
        "margin",
        "Over-centre margin",
        "angle",
        RACK,
        RACK,
        _steered_only(lambda one: one.over_centre_margin),
    ),
)
"""Every figure of a side that a sweep shows."""


def sweep(
    axle: Axle,
    over: Over,
    *,
    low: float | None = None,
    high: float | None = None,
    car: Car | None = None,
    shares: tuple[float | None, float | None] = (None, None),
    rack_per_turn: float | None = None,
) -> Swept:
    """The axle from `low` to `high` [m, rad or m], or as far as its links reach.

    `car` with `shares`, of braking and of driving force, asks for the antis besides; its wheelbase and
    the rack's travel per turn for the steering. Raises Impossible where the axle cannot even stand, Missing for a rack without a car.
    """
    at, short, (found, steer) = clamped(
        over, low, high, lambda at: _through(axle, over, at, car, rack_per_turn)
    )
    curves = _side_curves(found, over) + _axle_curves(found, over, car, shares)
    if steer is not None:
        curves = _steered(steer) + curves
    sides: tuple[tuple[Which, Readout], ...] = (("left", found.left), ("right", found.right))
    return Swept(
        over,
        at,
        short,
        curves,
        [stick for name, side in sides for stick in _sticks(name, side)],
        [_disc(name, side) for name, side in sides],
        found.roll_centre(),
        (_centre("left", found.left), _centre("right", found.right)),
        np.stack(found.left.side_view_ic, -1),
    )


def _through(
    axle: Axle, over: Over, at: Array, car: Car | None, rack_per_turn: float | None
) -> tuple[Through, Steered | None]:
    still = np.zeros_like(at)
    if over == "travel":
        return through(axle, at, still, still), None
    if over == "roll":
        return through(axle, still, at, still), None
    if car is None:
        raise Missing("The wheelbase is not known.", number="wheelbase")
    found = through(axle, still, still, at)
    return found, steered(axle, car.wheelbase, at, rack_per_turn=rack_per_turn)


def _side_curves(found: Through, over: Over) -> list[Curve]:
    curves = []
    for one in SIDE:
        left, right = one.read(found.left), one.read(found.right)
        if over in one.over and left is not None and right is not None:
            curves.append(Curve(one.name, one.label, one.quantity, left, right, over in one.drawn))
    return curves


def _axle_curves(
    found: Through, over: Over, car: Car | None, shares: tuple[float | None, float | None]
) -> list[Curve]:
    if over == "rack":
        return []
    curves = [Curve("roll_centre", "Roll centre height", "height", found.roll_centre(), None)]
    if car is None or over != "travel":
        return curves
    front = found.axle.front
    labels = ("Anti-dive", "Anti-lift in drive") if front else ("Anti-lift", "Anti-squat")
    for share, label, braking in zip(shares, labels, (True, False), strict=True):
        if share:
            left, right = found.anti(car, share, braking=braking)
            both = (left + right) / 200
            curves.append(Curve(label.lower().replace(" ", "_"), label, "anti", both, None))
    return curves


def _steered(found: Steered) -> list[Curve]:
    curves = [
        Curve("steer", "Steer angle, + left", "angle", *found.steer),
        Curve("ackermann", "Ackermann", "anti", found.ackermann / 100, None),
        Curve("turning_circle", "Turning circle", "altitude", found.turning_circle, None, False),
    ]
    if found.ratio is not None:
        curves.append(Curve("steering_ratio", "Steering ratio", "proportion", found.ratio, None))
    return curves


def _seen(side: Which, found: Readout, point: Array) -> Array:
    """Points of the body (…, 3) in the picture's axes."""
    ground = found.corner.states.ground
    at = np.broadcast_to(point, found.corner.pose.centre.shape)
    left = 1.0 if side == "left" else -1.0
    return np.stack((at[..., 0], left * ground.outward(at), ground.height(at)), -1)


def _sticks(side: Which, found: Readout) -> list[Stick]:
    corner = found.corner
    told = corner.side
    lines: list[tuple[str, list[Array]]] = []
    for name, (front, rear, ball) in told.layout.arms.items():
        ends = [corner.chassis(front), corner.upright(ball), corner.chassis(rear)]
        lines.append((name, ends))
    if told.layout.steered:
        rod = [corner.chassis("tie_rod_inner"), corner.upright("tie_rod_outer")]
        lines.append(("tie_rod", rod))
    if found.kingpin is not None and told.layout.kingpin is not None:
        low, high = told.layout.kingpin
        top = corner.upright(high) if high in told.layout.upright else corner.chassis(high)
        lines.append(("kingpin", [corner.upright(low), top]))
    else:
        inner, outer = corner.chassis("pivot_inner"), corner.chassis("pivot_outer")
        lines.append(("arm", [inner, corner.pose.centre, outer, inner]))
    for name, acting in told.acting.items():
        end, fixed = moving.ends(corner, acting)
        lines.append((name, [end.at, fixed]))
    if (turning := told.rocker) is not None:
        rod_end = moving.point_on(corner, turning.rod_on, turning.rod_moving).at
        rocker = moving.rocker(corner, turning)
        lines.append(("rod", [rod_end, rocker.carry(turning.rod_rocker).at]))
        held = [rocker.carry(turning.rod_rocker).at, turning.pivot]
        held += [
            moving.point_on(corner, "rocker", one.moving).at
            for one in told.acting.values()
            if one.on == "rocker"
        ]
        lines.append(("rocker", held))
    if (bar := told.bar) is not None:
        link = moving.point_on(corner, bar.on, bar.moving).at
        arm = moving.bar_arm(corner, bar)
        lines.append(("bar", [link, arm.carry(bar.end).at, _foot(bar.end, *bar.axis)]))
    return [
        Stick(name, side, np.stack([_seen(side, found, end) for end in ends], -2))
        for name, ends in lines
    ]


def _foot(point: Array, one: Array, other: Array) -> Array:
    """Where a bar's arm meets its axis."""
    along = (other - one) / np.linalg.norm(other - one)
    return np.asarray(one + along * float((point - one) @ along))


def _disc(side: Which, found: Readout) -> Disc:
    left = 1.0 if side == "left" else -1.0
    ahead, out, up = found.corner.states.ground.axes(found.corner.axis)
    return Disc(
        side,
        _seen(side, found, found.corner.pose.centre),
        np.stack((ahead, left * out, up), -1),
        found.corner.side.wheel.radius,
    )


def _centre(side: Which, found: Readout) -> Array:
    out, up = found.front_view_ic
    return np.stack((out if side == "left" else -out, up), -1)
