"""A beam axle carried through heave and roll by its links.

Four lengths and two tyres on the ground hold it; with five lengths the pose is that of least squared
misfit, all links alike stiff. A Watt's link adds its crank's turn, one unknown and two lengths for one.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..errors import Impossible
from .frame import (
    Ground,
    Pose,
    cross,
    dot,
    ground,
    length,
    standing,
    turn_by,
    turned,
    unit,
    way_there,
)
from .live_axle import LiveAxle, Watt

NEWTON_STEPS, CLOSED, SINGULAR = 40, 1e-12, 1e-7
BINDS = 0.010
"""Misfit of a link beyond which the axle is held fast rather than led [m]."""
AHEAD, UP = np.array([1.0, 0.0, 0.0]), np.array([0.0, 0.0, 1.0])


@dataclass(frozen=True)
class AxleAt:
    """The axle in its states: pose, the crank's turn [rad], and the ground, (n,) each."""

    axle: LiveAxle
    ground: Ground
    lift: Array
    pose: Pose
    crank: Array

    @cached_property
    def spin(self) -> Array:
        """Spin axes (n, 2, 3)."""
        return np.stack([turned(self.pose.turn, axis) for axis in self.axle.axes], -2)

    @cached_property
    def contacts(self) -> Array:
        """Both patches (n, 2, 3)."""
        up = self.ground.up[..., None, :]
        down = unit(dot(self.spin, up)[..., None] * self.spin - up)
        centres = np.stack([self.pose.at(centre) for centre in self.axle.centres], -2)
        radii = np.array([wheel.radius for wheel in self.axle.wheels])[:, None]
        found: Array = centres + radii * down
        return found

    def conditions(self) -> tuple[Array, Array, Array, Array]:
        """Lengths missed (n, k) with their rows (n, k, 7), and heights missed (n, 2) with theirs."""
        here = self.pose.centre
        missed, rows = [], []
        still = np.zeros_like(self.crank)[..., None]
        for chassis, axle in self.axle.lengths:
            end = self.pose.at(axle)
            off = end - chassis
            missed.append(length(off) - length(axle - chassis))
            along = unit(off)
            rows.append(np.concatenate((along, cross(end - here, along), still), -1))
        if (pivot := self.axle.pivot) is not None:
            # it slides level in the body, fore and aft and across: held up and down alone
            end = self.pose.at(pivot)
            missed.append(end[..., 2] - pivot[2])
            level = np.broadcast_to(UP, end.shape)
            rows.append(np.concatenate((level, cross(end - here, level), still), -1))
        if self.axle.watt is not None:
            for off, fixed, row in self._watt(self.axle.watt):
                missed.append(off - fixed)
                rows.append(row)
        up = self.ground.up
        patches = self.contacts
        down = np.stack(
            [np.concatenate((up, cross(patches[..., i, :] - here, up), still), -1) for i in (0, 1)],
            -2,
        )
        low = np.stack([self.ground.height(patches[..., i, :]) for i in (0, 1)], -1) - self.lift
        return np.stack(missed, -1), np.stack(rows, -2), low, down

    def crank_arms(self, watt: Watt) -> list[Array]:
        """From the pivot to both ends of a Watt's crank, as it has turned (n, 3) each."""
        spun = turn_by(self.crank[..., None] * AHEAD)
        arms = [turned(spun, one - watt.pivot) for one in watt.crank]
        return [turned(self.pose.turn, arm) for arm in arms] if watt.on_axle else arms

    def watt_bars(self, watt: Watt) -> list[tuple[Array, Array]]:
        """Both bars of a Watt's link where they are now: the end on the chassis, the end on the axle."""
        arms = self.crank_arms(watt)
        still = np.broadcast_to
        if watt.on_axle:
            pivot = self.pose.at(watt.pivot)
            return [
                (still(end, arm.shape), pivot + arm)
                for end, arm in zip(watt.ends, arms, strict=True)
            ]
        return [
            (watt.pivot + arm, self.pose.at(end)) for end, arm in zip(watt.ends, arms, strict=True)
        ]

    def _watt(self, watt: Watt) -> list[tuple[Array, float, Array]]:
        """Each of its two bars: how long it is now, how long it must be, and its row."""
        here = self.pose.centre
        axis = turned(self.pose.turn, AHEAD) if watt.on_axle else np.broadcast_to(AHEAD, here.shape)
        sense = 1.0 if watt.on_axle else -1.0
        fixed = [float(length(a - b)) for a, b in zip(watt.crank, watt.ends, strict=True)]
        found = []
        for long, arm, (chassis, axle) in zip(
            fixed, self.crank_arms(watt), self.watt_bars(watt), strict=True
        ):
            along = unit(axle - chassis)
            spin = sense * dot(along, cross(axis, arm))[..., None]
            row = np.concatenate((along, cross(axle - here, along), spin), -1)
            found.append((length(axle - chassis), long, row))
        return found


def at_rest(axle: LiveAxle, states: int) -> AxleAt:
    """The axle at ride height, as often as there are states."""
    middle = axle.centres.mean(0)
    level = ground(np.zeros(states), np.zeros(states))
    return AxleAt(axle, level, np.zeros((states, 2)), standing(middle, states), np.zeros(states))


def carried(axle: LiveAxle, heave: Array, roll: Array, lift: Array | None = None) -> AxleAt:
    """The axle at each heave and roll (n,), each patch `lift` (n, 2) above the ground.

    Raises Impossible where the links do not locate it, do not close there, or bind.
    """
    lift = np.zeros((len(heave), 2)) if lift is None else lift
    here = at_rest(axle, len(heave))
    _held(here)
    reach = np.abs(heave) + np.abs(np.sin(roll)) + np.abs(lift).max(-1, initial=0.0)
    for share in way_there(float(reach.max(initial=0.0))):
        here = _closed(
            AxleAt(axle, ground(heave * share, roll * share), lift * share, here.pose, here.crank)
        )
    misfit = here.conditions()[0]
    if np.abs(misfit).max(initial=0.0) > BINDS:
        raise Impossible(
            "The axle binds on the way there: its links cannot all keep their lengths.",
            number="links",
        )
    return here


def _held(standing: AxleAt) -> None:
    _, rows, _, level = standing.conditions()
    every = np.concatenate((rows, level), -2)[0]
    if standing.axle.watt is None:
        every = every[:, :6]
    values = np.linalg.svd(every, compute_uv=False)
    if values[-1] < SINGULAR * values[0]:
        raise Impossible(
            "These links do not locate the axle: two parallel pairs need a track bar or a Watt's "
            "link.",
            number="links",
        )


def _closed(here: AxleAt) -> AxleAt:
    unknowns = 7 if here.axle.watt is not None else 6
    for _ in range(NEWTON_STEPS):
        missed, rows, low, level = here.conditions()
        if not np.isfinite(missed).all():
            break
        a, c = rows[..., :unknowns], level[..., :unknowns]
        turned_rows = np.swapaxes(a, -1, -2)
        count = len(missed)
        kkt = np.zeros((count, unknowns + 2, unknowns + 2))
        kkt[:, :unknowns, :unknowns] = turned_rows @ a
        kkt[:, :unknowns, unknowns:] = np.swapaxes(c, -1, -2)
        kkt[:, unknowns:, :unknowns] = c
        asked = np.zeros((count, unknowns + 2))
        asked[:, :unknowns] = -(turned_rows @ missed[..., None])[..., 0]
        asked[:, unknowns:] = -low
        try:
            step = np.linalg.solve(kkt, asked[..., None])[:, :unknowns, 0]
        except np.linalg.LinAlgError:
            break
        longest = float(np.abs(step).max())
        cut = np.minimum(1.0, 0.3 / np.maximum(np.abs(step).max(-1, keepdims=True), 1e-300))
        step = step * cut
        spin = step[:, 6] if unknowns == 7 else 0.0
        here = AxleAt(
            here.axle, here.ground, here.lift, here.pose.along(step[:, :6]), here.crank + spin
        )
        if longest < CLOSED:
            return here
    raise Impossible("The axle's links do not close there.", number="wheel_travel")
