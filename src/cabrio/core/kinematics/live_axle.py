"""A beam axle's points: its links, a track bar or a Watt's link, and what cannot be among them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..checks import finite
from ..errors import Impossible
from .frame import length
from .side import COINCIDE, NO_ARM, Wheel, apart, point_words

MIRROR = np.array([1.0, -1.0, 1.0])
Ends = tuple[Array, Array]
"""The chassis end and the axle end of what acts between them."""


@dataclass(frozen=True)
class Link:
    """A bar from the chassis to the axle (x, y left +, z). `mirror` means one on each side, `right` the
    right one's ends where they are no mirror of the left one's."""

    name: str
    chassis: Array
    axle: Array
    mirror: bool = False
    right: Ends | None = None

    def both(self) -> list[Ends]:
        """The bar, or the left one and the right one."""
        mirrored = (self.chassis * MIRROR, self.axle * MIRROR) if self.mirror else None
        return [(self.chassis, self.axle), *(ends for ends in [self.right or mirrored] if ends)]


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
    `spring` and `damper` are the left one's chassis end and axle end; the right ones mirror them where
    not measured. `pivot` is the front of a torque arm, which is one with the housing and slides level
    in the body.
    """

    wheel: Wheel
    links: Sequence[Link]
    right: Wheel | None = None
    track_bar: Link | None = None
    watt: Watt | None = None
    spring: Ends | None = None
    damper: Ends | None = None
    pivot: Array | None = None
    right_spring: Ends | None = None
    right_damper: Ends | None = None

    def __post_init__(self) -> None:
        """Raise Impossible for points that hold no axle."""
        self._check_links()
        self._check_acting()
        self._check_watt()
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

    def _check_links(self) -> None:
        for link in (*self.links, *([self.track_bar] if self.track_bar else [])):
            for chassis, axle in link.both():
                finite(chassis_end=chassis, axle_end=axle)
                if length(axle - chassis) < COINCIDE:
                    raise Impossible(
                        f"Both ends of the {point_words(link.name)} are in one place.",
                        number=link.name,
                    )
        if self.track_bar is not None and self.watt is not None:
            raise Impossible(
                "An axle has a track bar or a Watt's link, not both.", number="track_bar"
            )

    def _check_acting(self) -> None:
        for name, sides in self.acting.items():
            for ends in sides:
                finite(chassis_end=ends[0], axle_end=ends[1])
                if length(ends[1] - ends[0]) < COINCIDE:
                    raise Impossible(f"Both ends of the {name} are in one place.", number=name)

    def _check_watt(self) -> None:
        if (watt := self.watt) is not None:
            finite(watt_pivot=watt.pivot, watt_crank=watt.crank, watt_ends=watt.ends)
            for end, crank in zip(watt.ends, watt.crank, strict=True):
                apart("bar's end", end, "crank's end", crank)
                if length((crank - watt.pivot) * np.array([0.0, 1.0, 1.0])) < NO_ARM:
                    raise Impossible("The Watt's crank has no length.", number="watt_crank")

    @property
    def held(self) -> int:
        """How many lengths hold it; a Watt's two bars hold one, its crank turns with the other."""
        return len(self.lengths) + sum(one is not None for one in (self.watt, self.pivot))

    @property
    def acting(self) -> dict[str, tuple[Ends, Ends]]:
        """The springs and the dampers that were measured, left and right."""
        held = {
            "spring": (self.spring, self.right_spring),
            "damper": (self.damper, self.right_damper),
        }
        return {
            name: (left, right or (left[0] * MIRROR, left[1] * MIRROR))
            for name, (left, right) in held.items()
            if left is not None
        }

    @property
    def wheels(self) -> tuple[Wheel, Wheel]:
        return self.wheel, self.right or self.wheel

    @cached_property
    def lengths(self) -> list[tuple[Array, Array]]:
        """Every bar from chassis to axle in the order given, pairs left then right, the track bar last."""
        bars = [*self.links, *([self.track_bar] if self.track_bar else [])]
        return [ends for one in bars for ends in one.both()]

    @cached_property
    def centres(self) -> Array:
        """Both wheel centres in the car's axes (2, 3)."""
        return np.stack((self.wheels[0].centre, self.wheels[1].centre * MIRROR))

    @cached_property
    def axes(self) -> Array:
        """Both spin axes, outward, in the car's axes (2, 3)."""
        return np.stack((self.wheels[0].axis, self.wheels[1].axis * MIRROR))
