"""What a side's geometry says in each state: angles, their gains, the lines of its motion."""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..checks import above_zero
from ..errors import Impossible
from . import carried as moved
from .corner import AS_MEASURED, Changed, Corner, States, carried
from .frame import Ground, cross, dot, unit
from .side import Acting, Side

NO_TURN = 0.01
"""Turn per metre [rad/m] under which an instant centre is beyond 100 m, and none is named."""


@dataclass(frozen=True)
class Strut:
    """A spring or damper through the states: shortening [m], its ratio and the ratio's slope [1/m]."""

    travel: Array
    ratio: Array
    slope: Array


@dataclass(frozen=True)
class Bar:
    """The bar's arm: turn [rad, + in bump], its ratio and the ratio's slope [1/m], its length [m]."""

    turn: Array
    ratio: Array
    slope: Array
    arm: float


@dataclass(frozen=True)
class Readout:
    """A side through its states. Own frame, ground axes; angles in rad, lengths in m; (n,) each."""

    corner: Corner
    start: Corner
    acting: dict[str, Strut] = field(default_factory=dict)
    bar: Bar | None = None

    @property
    def _ground(self) -> Ground:
        return self.corner.states.ground

    @property
    def wheel_travel(self) -> Array:
        """The patch's rise against the body [m]."""
        return self.corner.contact[..., 2] - self.start.contact[..., 2]

    @cached_property
    def _axis(self) -> tuple[Array, Array, Array]:
        return self._ground.axes(self.corner.axis)

    @property
    def camber(self) -> Array:
        return -np.arcsin(self._axis[2])

    @property
    def toe(self) -> Array:
        return np.arctan2(self._axis[0], self._axis[1])

    def _gain(self, twist: Array) -> tuple[Array, Array]:
        """How camber and toe change under a motion."""
        ahead, out, up = self._axis
        d_ahead, d_out, d_up = self._ground.axes(cross(twist[..., 3:], self.corner.axis))
        flat = 1 - up**2
        return -d_up / np.sqrt(flat), (d_ahead * out - ahead * d_out) / flat

    @property
    def camber_gain(self) -> Array:
        """Camber per metre of bump [rad/m]."""
        return self._gain(self.corner.twist)[0]

    @property
    def bump_steer(self) -> Array:
        """Toe per metre of bump [rad/m], in +."""
        return self._gain(self.corner.twist)[1]

    def bump_steer_across(self, rim_diameter: float) -> Array:
        """Toe across a rim [m] per metre of bump [-]; the rim's diameter in m."""
        above_zero(rim_diameter=rim_diameter)
        return rim_diameter * np.cos(self.toe) * self.bump_steer

    @property
    def toe_per_rack(self) -> Array:
        """Toe per metre of the rack outward [rad/m]."""
        return self._gain(self.corner.rack_twist)[1]

    @property
    def wheel_centre_forward(self) -> Array:
        """How far the wheel centre has moved ahead [m]; recession is minus."""
        moved: Array = self.corner.pose.centre[..., 0] - self.corner.side.wheel.centre[0]
        return moved

    @property
    def half_track(self) -> Array:
        """From the centre plane to the patch, along the ground [m]."""
        return self._ground.outward(self.corner.contact)

    @property
    def half_track_change(self) -> Array:
        return self.half_track - self.start.states.ground.outward(self.start.contact)

    @cached_property
    def _patch(self) -> tuple[Array, Array, Array]:
        """The patch's velocity ahead, outward and up, the wheel fixed to the upright."""
        return self._ground.axes(self.corner.velocity(self.corner.contact))

    @cached_property
    def _turn(self) -> tuple[Array, Array, Array]:
        return self._ground.axes(self.corner.twist[..., 3:])

    @property
    def _contact(self) -> tuple[Array, Array, Array]:
        ahead, out, up = self._ground.axes(self.corner.contact - self._ground.base)
        return ahead, out, up

    @property
    def front_view_ic(self) -> tuple[Array, Array]:
        """Outward and up of the instant centre in the plane across the car; NaN beyond 100 m."""
        turn = or_none(self._turn[0])
        _, out, up = self._contact
        return out - self._patch[2] / turn, up + self._patch[1] / turn

    @property
    def side_view_ic(self) -> tuple[Array, Array]:
        """Ahead and up of the instant centre in the wheel's plane along the car; NaN beyond 100 m."""
        turn = or_none(self._turn[1])
        ahead, _, up = self._contact
        return ahead + self._patch[2] / turn, up - self._patch[0] / turn

    @property
    def side_slope(self) -> Array:
        """p: outward velocity of the patch over its rise; the links bear −p per outward force."""
        return self._patch[1] / self._patch[2]

    @property
    def line_height(self) -> Array:
        """Height of the patch's line to the instant centre, over the centre plane [m]."""
        return self.side_slope * self.half_track

    def lengthwise_slope(self, *, locked: bool) -> Array:
        """q: forward velocity of the patch over its rise; `locked` turns the wheel with the upright."""
        twist = self.corner.twist
        if not locked:
            turn, axis = twist[..., 3:], self.corner.axis
            free = turn - dot(turn, axis)[..., None] * axis
            twist = np.concatenate((twist[..., :3], free), -1)
        ahead, _, up = self._ground.axes(self.corner.pose.velocity(twist, self.corner.contact))
        found: Array = ahead / up
        return found

    @cached_property
    def kingpin(self) -> tuple[Array, Array] | None:
        """A point of the kingpin line and its direction upward, where the wheel has one."""
        named = self.corner.side.layout.kingpin
        if named is None:
            return None
        low, high = (self._end(name) for name in named)
        return low, unit(high - low)

    def _end(self, name: str) -> Array:
        corner = self.corner
        return (corner.upright if name in corner.side.layout.upright else corner.chassis)(name)

    @property
    def kingpin_angles(self) -> tuple[Array, Array]:
        """Caster (top back +) and kingpin inclination (top inward +)."""
        assert self.kingpin is not None
        ahead, out, up = self._ground.axes(self.kingpin[1])
        return np.arctan2(-ahead, up), np.arctan2(-out, up)

    @property
    def trail_and_scrub(self) -> tuple[Array, Array]:
        """The kingpin line's foot ahead of the patch, and the patch outside of it [m]."""
        assert self.kingpin is not None
        low, along = self.kingpin
        up = self._ground.up
        down = self._ground.height(low) / dot(along, up)
        foot = low - down[..., None] * along
        ahead = unit(cross(self.corner.axis, up))
        off = foot - self.corner.contact
        return dot(off, ahead), -dot(off, cross(up, ahead))

    @property
    def over_centre_margin(self) -> Array:
        """Angle of the tie rod to the steering arm, seen along the kingpin, from in line [rad, 0 to π/2]."""
        assert self.kingpin is not None
        low, along = self.kingpin
        outer = self._end("tie_rod_outer")

        def seen(vector: Array) -> Array:
            return unit(vector - dot(vector, along)[..., None] * along)

        rod, arm = seen(outer - self._end("tie_rod_inner")), seen(outer - low)
        return np.arctan2(np.abs(dot(cross(rod, arm), along)), np.abs(dot(rod, arm)))


def or_none(turn: Array) -> Array:
    """A turn per metre, NaN where its centre is too far off to be named."""
    return np.where(np.abs(turn) < NO_TURN, np.nan, turn)


def read_out(side: Side, states: States, changed: Changed = AS_MEASURED) -> Readout:
    """A side through the states asked for. Raises Impossible where it cannot be carried there."""
    corner = carried(side, states, changed)
    start = carried(side, States(*(np.zeros(1) for _ in range(3))))
    acting = {name: _acting(corner, told) for name, told in side.acting.items()}
    return Readout(corner, start, acting, _bar(corner, start))


def _acting(corner: Corner, acting: Acting) -> Strut:
    return Strut(
        moved.travel(corner, acting),
        moved.motion_ratio(corner, acting),
        moved.slope(corner, lambda near: moved.motion_ratio(near, acting)),
    )


def _bar(corner: Corner, start: Corner) -> Bar | None:
    bar = corner.side.bar
    if bar is None:
        return None
    rate = float(moved.bar_arm(start, bar).rate[0])
    if abs(rate) < moved.STILL:
        raise Impossible("The bar is not moved by the wheel.", number="bar")
    sense = np.sign(rate)
    arm = moved.bar_ratio(start, bar, sense)[0] / (sense * rate)
    return Bar(
        sense * moved.bar_arm(corner, bar).angle,
        moved.bar_ratio(corner, bar, sense),
        moved.slope(corner, lambda near: moved.bar_ratio(near, bar, sense)),
        float(arm),
    )
