"""A beam axle's points: its links, a track bar or a Watt's link, and what cannot be among them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..catalog.checks import finite
from ..catalog.quantities import Array
from ..errors import Impossible
from .frame import length
from .side import COINCIDE, NO_ARM, Wheel, apart, said

MIRROR = np.array([1.0, -1.0, 1.0])


@dataclass(frozen=True)
class Link:
    """A bar from the chassis to the axle (x, y left +, z); `mirror` means one on each side."""

    name: str
    chassis: Array
    axle: Array
    mirror: bool = False

    def both(self) -> list[tuple[Array, Array]]:
        ends = [(self.chassis, self.axle)]
        return [*ends, (self.chassis * MIRROR, self.axle * MIRROR)] if self.mirror else ends


@dataclass(frozen=True)
class Watt:
    """A Watt's link: a crank on the axle, or on the chassis, and a bar from each of its ends."""

    pivot: Array
    crank: tuple[Array, Array]
    ends: tuple[Array, Array]
    on_axle: bool = True


@dataclass(frozen=True)
class LiveAxle:
    """A beam axle's points at ride height, in the car's axes (y left +).

    `right` is the right wheel in its own frame (y outward), the left one's mirror where not measured.
    `spring` and `damper` are the left one's chassis end and axle end, mirrored on the right. `pivot` is
    the front of a torque arm, which is one with the housing and slides level in the body.
    """

    wheel: Wheel
    links: Sequence[Link]
    right: Wheel | None = None
    track_bar: Link | None = None
    watt: Watt | None = None
    spring: tuple[Array, Array] | None = None
    damper: tuple[Array, Array] | None = None
    pivot: Array | None = None

    def __post_init__(self) -> None:
        for one in (*self.links, *([self.track_bar] if self.track_bar else [])):
            finite(chassis_end=one.chassis, axle_end=one.axle)
            if length(one.axle - one.chassis) < COINCIDE:
                raise Impossible(
                    f"Both ends of the {said(one.name)} are in one place.", number=one.name
                )
        if self.track_bar is not None and self.watt is not None:
            raise Impossible(
                "An axle has a track bar or a Watt's link, not both.", number="track_bar"
            )
        for name, ends in self.acting.items():
            finite(chassis_end=ends[0], axle_end=ends[1])
            if length(ends[1] - ends[0]) < COINCIDE:
                raise Impossible(f"Both ends of the {name} are in one place.", number=name)
        if (watt := self.watt) is not None:
            finite(watt_pivot=watt.pivot, watt_crank=watt.crank, watt_ends=watt.ends)
            for end, crank in zip(watt.ends, watt.crank, strict=True):
                apart("bar's end", end, "crank's end", crank)
                if length((crank - watt.pivot) * np.array([0.0, 1.0, 1.0])) < NO_ARM:
                    raise Impossible("The Watt's crank has no length.", number="watt_crank")
        if self.pivot is not None:
            finite(torque_arm_pivot=self.pivot)
            if abs(self.pivot[0]) < NO_ARM:
                raise Impossible("The torque arm has no length.", number="torque_arm_pivot")
        if not 4 <= self.held <= 5:
            raise Impossible(
                "These links do not locate the axle: four lengths hold it, five at most.",
                number="links",
                allowed="4 or 5 lengths",
            )
        for wheel in self.wheels:
            wheel.check()

    @property
    def held(self) -> int:
        """How many lengths hold it; a Watt's two bars hold one, its crank turns with the other."""
        return len(self.lengths) + sum(one is not None for one in (self.watt, self.pivot))

    @property
    def acting(self) -> dict[str, tuple[Array, Array]]:
        """The spring and the damper that were measured: chassis end and axle end."""
        both = {"spring": self.spring, "damper": self.damper}
        return {name: ends for name, ends in both.items() if ends is not None}

    @property
    def wheels(self) -> tuple[Wheel, Wheel]:
        return self.wheel, self.right or self.wheel

    @cached_property
    def lengths(self) -> list[tuple[Array, Array]]:
        """Every bar from chassis to axle in the order given, pairs left then right, the track bar last."""
        told = [*self.links, *([self.track_bar] if self.track_bar else [])]
        return [ends for one in told for ends in one.both()]

    @cached_property
    def centres(self) -> Array:
        """Both wheel centres in the car's axes (2, 3)."""
        return np.stack((self.wheels[0].centre, self.wheels[1].centre * MIRROR))

    @cached_property
    def axes(self) -> Array:
        """Both spin axes, outward, in the car's axes (2, 3)."""
        return np.stack((self.wheels[0].axis, self.wheels[1].axis * MIRROR))
