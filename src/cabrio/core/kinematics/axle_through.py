"""What a beam axle's geometry says in each state: its angles, roll centre, antis and spring ratios."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..checks import above_zero, finite
from .axle_pose import AxleAt, at_rest, carried
from .frame import OFFSETS, STEP, Pose, by_differences, cross, dot, ground, length, unit
from .live_axle import LiveAxle
from .readout import or_none
from .side import left_share_checked

Acting = tuple[Array, Array, Array]
"""A spring's or damper's shortening [m], its ratio in heave and its ratio in roll."""


@dataclass(frozen=True)
class AxleThrough:
    """A live axle through its states. The car's axes and signs; lengths in m, angles in rad."""

    axle: LiveAxle
    heave: Array
    roll: Array
    at: AxleAt
    moved: tuple[Array, Array]
    """The axle's motion (n, 6) per metre that the left, and the right, patch rises alone."""

    @property
    def forward(self) -> Array:
        moved: Array = self.at.pose.centre[..., 0] - self.at.pose.start[0]
        return moved

    @property
    def left(self) -> Array:
        """How far the axle's middle has gone to the left along the ground [m]."""
        off = dot(self.at.pose.centre - self.at.ground.base, self.at.ground.out)
        moved: Array = off - self.at.pose.start[1]
        return moved

    @property
    def steer(self) -> Array:
        return steer_of(self.at)

    @property
    def roll_steer(self) -> Array:
        """Wheels aiming left per roll with the left side up [rad/rad]: at the rear + is understeer."""
        at = self.at
        left, right = (at.ground.outward(at.contacts[..., i, :])[..., None] for i in (0, 1))
        rolling = -(left * self.moved[0] + right * self.moved[1])
        turn = np.broadcast_to(rolling[..., None, 3:], at.spin.shape)
        swing = cross(turn, at.spin)
        # the ground's own axes turn with the roll: outward goes down by as much
        outward = dot(swing, at.ground.out[..., None, :]) - dot(at.spin, at.ground.up[..., None, :])
        ahead, out = at.spin[..., 0], dot(at.spin, at.ground.out[..., None, :])
        toe = (swing[..., 0] * out - ahead * outward) / (ahead**2 + out**2)
        found: Array = -(toe[..., 0] + toe[..., 1]) / 2
        return found

    @property
    def housing(self) -> Array:
        """How far the housing has turned, nose up +, against the ground [rad]."""
        return np.arcsin(dot(self.at.pose.turn[..., :, 0], self.at.ground.up))

    @property
    def wheel_travel(self) -> tuple[Array, Array]:
        risen = self.at.contacts - at_rest(self.axle, 1).contacts
        return risen[..., 0, 2], risen[..., 1, 2]

    @property
    def camber(self) -> tuple[Array, Array]:
        up = -np.arcsin(dot(self.at.spin, self.at.ground.up[..., None, :]))
        return up[..., 0], up[..., 1]

    @property
    def toe(self) -> tuple[Array, Array]:
        return toe_of(self.at)

    @property
    def misfit(self) -> Array:
        """How much longer each bar would have to be than it is (n, k) [m]."""
        return self.at.conditions()[0]

    def _patch(self, twist: Array, which: int) -> Array:
        return self.at.pose.velocity(twist, self.at.contacts[..., which, :])

    def _force_slopes(self, share: float) -> tuple[Array, Array]:
        """What the links bear downward at the left and the right wheel per side force to the left."""
        out = self.at.ground.out
        found = []
        for twist in self.moved:
            borne = share * dot(self._patch(twist, 0), out)
            found.append(-(borne + (1 - share) * dot(self._patch(twist, 1), out)))
        return found[0], found[1]

    def roll_centre(self, left_share: float = 0.5) -> Array:
        """Height over the ground by force [m]."""
        left_share_checked(left_share)
        left, right = self._force_slopes(left_share)
        across = [self.at.ground.outward(self.at.contacts[..., i, :]) for i in (0, 1)]
        return -(across[0] * left + across[1] * right)

    def jacking(self, left_share: float = 0.5) -> Array:
        """Lift on the body per side force to the left [-]."""
        left, right = self._force_slopes(left_share)
        return left + right

    @cached_property
    def _heaving(self) -> Array:
        return self.moved[0] + self.moved[1]

    def lengthwise_slope(self) -> Array:
        """q in equal rise, the wheels fixed to the housing: both patches' mean."""
        speeds = [self._patch(self._heaving, i) for i in (0, 1)]
        left, right = (speed[..., 0] / dot(speed, self.at.ground.up) for speed in speeds)
        return (left + right) / 2

    def side_view_ic(self) -> tuple[Array, Array]:
        """Ahead and up of the instant centre in equal rise; NaN beyond 100 m."""
        turn = dot(self._heaving[..., 3:], self.at.ground.out)
        turn = or_none(turn)
        middle = self.at.contacts.mean(-2)
        speed = (self._patch(self._heaving, 0) + self._patch(self._heaving, 1)) / 2
        up = self.at.ground.height(middle)
        return (
            middle[..., 0] + dot(speed, self.at.ground.up) / turn,
            up - speed[..., 0] / turn,
        )

    def anti(self, wheelbase: float, cg_height: float, share: float) -> Array:
        """Share of the load transfer that a rear axle's links carry [%], brakes and drive on the housing."""
        above_zero(wheelbase=wheelbase, cg_height=cg_height)
        finite(share=share)
        long, high = wheelbase - self.forward, cg_height - self.heave
        return -self.lengthwise_slope() * share * long / high * 100

    def acting(self, name: str) -> tuple[Acting, Acting]:
        """A left and right spring or damper: shortening [m], its ratio in heave, and in roll
        (opposite travel)."""
        left, right = self.axle.acting[name]
        across = self.moved[0] - self.moved[1]
        return self._ends(*left, across), self._ends(*right, -across)

    def _ends(self, fixed: Array, start: Array, rolling: Array) -> Acting:
        now = self.at.pose.at(start)
        along = unit(now - fixed)
        heave, roll = (
            -dot(along, self.at.pose.velocity(twist, now)) for twist in (self._heaving, rolling)
        )
        return length(start - fixed) - length(now - fixed), heave, roll


def toe_of(at: AxleAt) -> tuple[Array, Array]:
    """Toe of both wheels, in + [rad]."""
    ahead = at.spin[..., 0]
    out = dot(at.spin, at.ground.out[..., None, :])
    return np.arctan2(ahead[..., 0], out[..., 0]), np.arctan2(ahead[..., 1], -out[..., 1])


def steer_of(at: AxleAt) -> Array:
    """Where both wheels aim together, left + [rad]."""
    left, right = toe_of(at)
    return (right - left) / 2


def through(axle: LiveAxle, heave: Array, roll: Array | None = None) -> AxleThrough:
    """The axle through its states, (n,) each. Raises Impossible as `carried` does."""
    heave = np.atleast_1d(np.asarray(heave, float))
    roll = np.zeros_like(heave) if roll is None else np.asarray(roll, float)
    finite(heave=heave, roll=roll)
    count, steps = len(heave), len(OFFSETS)
    # the state itself and each patch a step up alone, all in one batch
    kinds = 1 + 2 * steps
    lifts = np.zeros((kinds, count, 2))
    for i, offset in enumerate(OFFSETS):
        lifts[1 + i, :, 0] = lifts[1 + steps + i, :, 1] = offset * STEP
    every = carried(axle, np.tile(heave, kinds), np.tile(roll, kinds), lifts.reshape(-1, 2))

    def block(i: int) -> Pose:
        rows = slice(i * count, (i + 1) * count)
        return Pose(every.pose.start, every.pose.centre[rows], every.pose.turn[rows])

    here = block(0)
    twists = []
    for start in (1, 1 + steps):
        poses = [block(start + i) for i in range(steps)]
        speed = by_differences([pose.centre for pose in poses])
        turn = by_differences([_turn_between(here.turn, pose.turn) for pose in poses])
        twists.append(np.concatenate((speed, turn), -1))
    at = AxleAt(axle, ground(heave, roll), np.zeros((count, 2)), here, every.crank[:count])
    return AxleThrough(axle, heave, roll, at, (twists[0], twists[1]))


def _turn_between(before: Array, after: Array) -> Array:
    """The small turn from one attitude to another (n, 3) [rad]."""
    skew = after @ np.swapaxes(before, -1, -2)
    sine = (
        np.stack(
            (
                skew[..., 2, 1] - skew[..., 1, 2],
                skew[..., 0, 2] - skew[..., 2, 0],
                skew[..., 1, 0] - skew[..., 0, 1],
            ),
            -1,
        )
        / 2
    )
    long = length(sine)[..., None]
    found: Array = np.where(
        long > 0, sine * np.arcsin(np.minimum(long, 1.0)) / np.maximum(long, 1e-300), sine
    )
    return found
