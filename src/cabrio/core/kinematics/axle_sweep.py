"""A live axle through its travel or its roll: its curves and its picture."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..errors import Impossible
from .axle import Car
from .axle_through import AxleThrough, through
from .live_axle import LiveAxle
from .picture import Curve, Disc, Over, Stick, Swept, Which, clamped

FREE = 4
"""Lengths that hold an axle and leave it its two freedoms: one more strains the others."""
STRAINED = 1e-6
"""Less than this is what the solver leaves, and no strain [m]."""
SIDES: tuple[Which, Which] = ("left", "right")


def sweep(
    axle: LiveAxle,
    over: Over,
    *,
    low: float | None = None,
    high: float | None = None,
    car: Car | None = None,
    shares: tuple[float | None, float | None] = (None, None),
) -> Swept:
    """The axle from `low` to `high` [m or rad, + left side up], or as far as its links reach.

    `car` with `shares`, of braking and of driving force, asks for the antis besides. Raises Impossible
    where the axle is not located, or for a rack.
    """
    if over == "rack":
        raise Impossible("There is no rack on a live axle.", number="rack_travel")

    def ask(at: Array) -> AxleThrough:
        still = np.zeros_like(at)
        return through(axle, at, still) if over == "travel" else through(axle, still, at)

    at, short, found = clamped(over, low, high, ask)
    none = np.full((len(at), 2), np.nan)
    return Swept(
        over,
        at,
        short,
        _curves(found, over, car, shares),
        _sticks(found),
        _discs(found),
        found.roll_centre(),
        (none, none),
        np.stack(found.side_view_ic(), -1),
    )


def _curves(
    found: AxleThrough, over: Over, car: Car | None, shares: tuple[float | None, float | None]
) -> list[Curve]:
    ahead, up = found.side_view_ic()
    curves = [
        Curve("roll_centre", "Roll centre height", "height", found.roll_centre(), None),
        Curve("housing", "Housing turns, + nose up", "fine_angle", found.housing, None),
        Curve("forward", "Axle moves ahead", "fine_dimension", found.forward, None),
        Curve("left", "Axle moves left", "fine_dimension", found.left, None),
        Curve("roll_steer", "Roll steer, + understeer", "share", found.roll_steer, None),
    ]
    if found.axle.held > FREE:
        strain = np.abs(found.misfit).max(-1)
        if np.nanmax(strain, initial=0.0) > STRAINED:
            curves.append(Curve("misfit", "Links strained by", "fine_dimension", strain, None))
    for name in found.axle.acting:
        left, right = found.acting(name)
        at, words = (2, " in roll") if over == "roll" else (1, "")
        label = f"{name.capitalize()} ratio{words}"
        curves.append(Curve(f"{name}_ratio", label, "ratio", left[at], right[at]))
    if over == "roll":
        return [Curve("steer", "Axle steers, + left", "fine_angle", found.steer, None), *curves]
    curves += [
        Curve("ic_ahead", "Instant centre ahead", "dimension", ahead, None),
        Curve("ic_up", "Instant centre height", "dimension", up, None),
    ]
    if car is not None:
        for share, label in zip(shares, ("Anti-lift", "Anti-squat"), strict=True):
            if share:
                part = found.anti(car.wheelbase, car.cg_height, share) / 100
                name = label.lower().replace("-", "_")
                curves.insert(0, Curve(name, label, "anti", part, None))
    return curves


def _seen(found: AxleThrough, point: Array) -> Array:
    """A point of the body in the picture's axes: ahead, left along the ground, above it."""
    ground = found.at.ground
    at = np.broadcast_to(point, found.at.pose.centre.shape)
    return np.stack((at[..., 0], ground.outward(at), ground.height(at)), -1)


def _sticks(found: AxleThrough) -> list[Stick]:
    axle, pose = found.axle, found.at.pose
    lines: list[tuple[str, Which, list[Array]]] = []
    for link in axle.links:
        for side, (chassis, end) in zip(SIDES, link.both(), strict=False):
            lines.append((link.name, side, [chassis, pose.at(end)]))
    if (bar := axle.track_bar) is not None:
        lines.append(("track_bar", "left", [bar.chassis, pose.at(bar.axle)]))
    if (watt := axle.watt) is not None:
        upper, lower = found.at.watt_bars(watt)
        lines.append(("watt_upper_bar", "left", list(upper)))
        lines.append(("watt_lower_bar", "left", list(lower)))
        at = 1 if watt.on_axle else 0
        lines.append(("watt_crank", "left", [upper[at], lower[at]]))
    if axle.pivot is not None:
        lines.append(("torque_arm", "left", [pose.centre, pose.at(axle.pivot)]))
    for name, both in axle.acting.items():
        for side, (chassis, end) in zip(SIDES, both, strict=True):
            lines.append((name, side, [pose.at(end), chassis]))
    centres = [pose.at(centre) for centre in axle.centres]
    lines.append(("housing", "left", centres))
    return [
        Stick(name, side, np.stack([_seen(found, end) for end in ends], -2))
        for name, side, ends in lines
    ]


def _discs(found: AxleThrough) -> list[Disc]:
    ground = found.at.ground
    curves = []
    for i, side in enumerate(SIDES):
        axis = found.at.spin[..., i, :]
        ahead, out, up = ground.axes(axis)
        curves.append(
            Disc(
                side,
                _seen(found, found.at.pose.at(found.axle.centres[i])),
                np.stack((ahead, out, up), -1),
                found.axle.wheels[i].radius,
            )
        )
    return curves
