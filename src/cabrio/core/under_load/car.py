"""The car as the loaded state needs it.

SI; corners LF, RF, LR, RR (…, 4), axles front and rear (…, 2). Leading dimensions are a batch of cars.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any

import numpy as np

from ..arrays import Array, Indexes
from ..checks import above_zero, finite, not_below_zero
from ..constants import STANDARD_GRAVITY
from ..errors import Impossible, OutOfRange
from ..figures.rubber import rubber_force, rubber_rate
from ..figures.shapes import axle_sum
from ..graph.registry import Mask
from .air import Air

NO_LIMIT = np.inf
"""A travel without a stop."""


@dataclass(frozen=True)
class Rubber:
    """A bump rubber at a corner: gap at the rubber [m], its ratio, and its table from (0, 0).

    `curve` (2, n) is deflections [m], then forces [N], both rising. Past its end the last slope goes on.
    """

    gap: float
    ratio: float
    curve: Array

    def __post_init__(self) -> None:
        above_zero(rubber_ratio=self.ratio)
        not_below_zero(rubber_gap=self.gap)
        finite(rubber_gap=self.gap, rubber_curve=self.curve)
        rising = self.curve.shape[-1] >= 2 and not np.any(self.curve[:, 0])
        if not rising or not np.all(np.diff(self.curve) > 0):
            raise OutOfRange(
                "A bump rubber's table must start at no deflection and no force, and rise.",
                number="rubber_curve",
                allowed="rising from (0, 0)",
            )

    def pressed(self, travel: Array) -> Array:
        """How far it is squeezed at a travel of the station [m]; below zero it is not touched."""
        return self.ratio * travel - self.gap

    def force(self, travel: Array) -> Array:
        """Force at the station [N] at a travel there [m]."""
        return self.ratio * rubber_force(self.curve, self.pressed(travel))

    def rate(self, travel: Array) -> Array:
        """Its rate at the station [N/m] at a travel there [m]."""
        return self.ratio**2 * rubber_rate(self.curve, self.pressed(travel))


@dataclass(frozen=True)
class LoadedCar:
    """The car on its pads as it runs, with all that carries it from there.

    `ratios` are spring travel over wheel travel at ride height, `ratio_slopes` their change per metre
    of bump. `bar_rates` are wheel rates in roll [N/m], 0 for a bar that is off. `beam` says which
    axles are one piece; `spring_bases` is where a beam's springs stand apart, an independent axle's
    its track. `droop` and `bump` are travels to the stops, infinite for none. `gaps` are the rubbers' further gaps [m]. `anti_braking` and
    `anti_driving` are the shares A of the transfer that the links carry (1: all of it).
    """

    wheelbase: float | Array
    tracks: Array
    pads: Array
    unsprung: Array
    unsprung_heights: Array
    cg_height: float | Array
    roll_centres: Array
    spring_rates: Array
    ratios: Array
    tyre_rates: Array
    bar_rates: Array
    beam: tuple[bool, bool] = (False, False)
    spring_bases: Array | None = None
    ratio_slopes: Array = field(default_factory=lambda: np.zeros(4))
    droop: Array = field(default_factory=lambda: np.full(4, NO_LIMIT))
    bump: Array = field(default_factory=lambda: np.full(4, NO_LIMIT))
    rubbers: Sequence[Rubber | None] = (None, None, None, None)
    gaps: Array = field(default_factory=lambda: np.zeros(4))
    heights: Array | None = None
    brake_rear: float | Array = 0.4
    drive_rear: float | Array = 1.0
    anti_braking: Array = field(default_factory=lambda: np.zeros(2))
    anti_driving: Array = field(default_factory=lambda: np.zeros(2))
    air: Air | None = None

    def __post_init__(self) -> None:
        finite(**{name: told for name, told in self._numbers() if name not in ("droop", "bump")})
        above_zero(
            wheelbase=self.wheelbase,
            track=self.tracks,
            spring_rate=self.spring_rates,
            motion_ratio=self.ratios,
            tyre_rate=self.tyre_rates,
            cg_height=self.cg_height,
            pad_mass=self.pads,
        )
        not_below_zero(
            unsprung_mass=self.unsprung,
            bar_wheel_rate=self.bar_rates,
            droop_travel=self.droop,
            bump_travel=self.bump,
        )
        for label, share in (("brake share", self.brake_rear), ("drive share", self.drive_rear)):
            if not np.all((np.asarray(share) >= 0) & (np.asarray(share) <= 1)):
                raise OutOfRange(
                    f"The {label} of the rear axle must be from 0 to 1.", number="brake_bias"
                )
        if np.any(self.unsprung >= self.pads):
            raise OutOfRange(
                "An unsprung mass must be less than its pad reads.", number="unsprung_mass"
            )
        if any(self.beam) and self.spring_bases is None:
            raise Impossible(
                "A beam axle needs the distance between its springs.", number="spring_base"
            )
        above_zero(spring_base=self.bases, sprung_cg_height=self.sprung_height)

    @cached_property
    def batch(self) -> dict[str, Array]:
        """The numbers of it that differ between the members of a batch of cars."""
        return {name: told for name, told in self._numbers() if np.ndim(told) > OWN[name]}

    def _numbers(self) -> Iterator[tuple[str, Any]]:
        """Its own numbers by name; those that are not known left out."""
        for name in OWN:
            if getattr(self, name) is not None:
                yield name, getattr(self, name)

    @property
    def size(self) -> int:
        """How many cars there are."""
        return max((len(one) for one in self.batch.values()), default=1)

    def of(self, at: Indexes) -> LoadedCar:
        """Some members of a batch; the car itself where it is one."""
        chosen: dict[str, Any] = {name: one[at] for name, one in self.batch.items()}
        return replace(self, **chosen) if chosen else self

    @cached_property
    def mass(self) -> Array:
        found: Array = np.asarray(self.pads).sum(-1)
        return found

    @cached_property
    def sprung(self) -> Array:
        """Mass the suspension carries at each corner [kg]."""
        found: Array = np.asarray(self.pads) - self.unsprung
        return found

    @cached_property
    def axle_sprung(self) -> Array:
        return axle_sum(self.sprung)

    @cached_property
    def axle_unsprung(self) -> Array:
        return axle_sum(np.asarray(self.unsprung))

    @cached_property
    def axle_mass(self) -> Array:
        """What each axle stands on the pads [kg]."""
        return axle_sum(np.asarray(self.pads))

    @cached_property
    def sprung_mass(self) -> Array:
        found: Array = self.sprung.sum(-1)
        return found

    @cached_property
    def sprung_height(self) -> Array:
        """Height of the sprung mass's centre of gravity [m]."""
        low = (self.axle_unsprung * self.unsprung_heights).sum(-1)
        found: Array = (self.mass * self.cg_height - low) / self.sprung_mass
        return found

    @cached_property
    def places(self) -> Array:
        """Each wheel ahead of the centre of gravity and to the left of the centre line (…, 4, 2) [m]."""
        behind = self.axle_mass[..., 1] / self.mass * self.wheelbase
        ahead = np.stack(
            [behind, behind, behind - self.wheelbase, behind - self.wheelbase], axis=-1
        )
        half = np.repeat(np.asarray(self.tracks), 2, axis=-1) / 2
        left = half * np.array([1, -1, 1, -1])
        return np.stack(np.broadcast_arrays(ahead, left), axis=-1)

    @cached_property
    def sprung_place(self) -> Array:
        """The sprung mass ahead and to the left of the car's centre of gravity (…, 2) [m]."""
        found: Array = (self.sprung[..., None] * self.places).sum(-2) / self.sprung_mass[..., None]
        return found

    @cached_property
    def arm(self) -> Array:
        """Height of the sprung mass over the roll axis [m]."""
        front, rear = self.roll_centres[..., 0], self.roll_centres[..., 1]
        back = self.places[..., 0, 0] - self.sprung_place[..., 0]
        found: Array = self.sprung_height - front - (rear - front) * back / self.wheelbase
        return found

    def pressing(self, corner: int, travel: Array) -> tuple[Rubber, Array] | None:
        """The rubber of a corner, and its travel less what its own gap takes of it; None without one."""
        rubber = self.rubbers[corner]
        if rubber is None:
            return None
        return rubber, travel[..., corner] - np.asarray(self.gaps)[..., corner] / rubber.ratio

    @cached_property
    def bases(self) -> Array:
        if self.spring_bases is None:
            return np.asarray(self.tracks)
        return np.where(self.beam, self.spring_bases, self.tracks)

    @cached_property
    def stations(self) -> Array:
        """Travel at the springs from travel at the wheels (…, 4, 4): s/t apart on a beam."""
        ratio = self.bases / self.tracks
        share = np.zeros((*ratio.shape[:-1], 4, 4))
        for axle in (0, 1):
            near, far = (1 + ratio[..., axle]) / 2, (1 - ratio[..., axle]) / 2
            left, right = 2 * axle, 2 * axle + 1
            share[..., left, left] = share[..., right, right] = near
            share[..., left, right] = share[..., right, left] = far
        return share

    @cached_property
    def standing(self) -> Array:
        """What each spring carries standing, as felt at its station [N]."""
        weight = self.sprung * STANDARD_GRAVITY
        back = np.swapaxes(self.stations, -1, -2)
        found = np.linalg.solve(back, weight[..., None])[..., 0].astype(np.float64)
        if np.any(found <= 0):
            raise Impossible(
                "The car does not stand on all four springs: one of them would have to pull.",
                number="pad_mass",
            )
        return found

    @cached_property
    def may_come_loose(self) -> Mask:
        """Whether some coil is loose before its wheel is on its droop stop (…)."""
        down = np.where(np.isfinite(self.droop), -np.asarray(self.droop), 0.0)
        loaded = self.standing / (self.ratios * self.spring_rates)
        at_stop = loaded + self.ratios * down + 0.5 * self.ratio_slopes * down**2
        found: Mask = np.any(at_stop < 0, axis=-1)
        return found


@dataclass(frozen=True)
class SideView:
    """An axle's links from the side: the instant centre toward the car's middle and its height [m].

    Or `slope`, where the links are parallel. `outboard` brakes and a drive `through_links` put their
    torque into the links; else the body takes it.
    """

    ic_inboard: float = 0.0
    ic_height: float = 0.0
    radius: float = 0.0
    slope: float | None = None
    outboard: bool = True
    through_links: bool = False

    def __post_init__(self) -> None:
        finite(ic_x=self.ic_inboard, ic_z=self.ic_height, loaded_radius=self.radius)

    def share(self, braking: bool, part: float, wheelbase: float, cg_height: float) -> float:
        """The share A of the transfer that the links carry, of a part of the force along (§2)."""
        in_links = self.outboard if braking else self.through_links
        if self.slope is not None:
            slope = self.slope
        elif self.ic_inboard == 0:
            raise Impossible(
                "The instant centre straight above or below the axle gives no slope.",
                number="ic_x",
            )
        else:
            slope = (self.ic_height - (0.0 if in_links else self.radius)) / self.ic_inboard
        return slope * part * wheelbase / cg_height


OWN = {
    "wheelbase": 0,
    "cg_height": 0,
    "brake_rear": 0,
    "drive_rear": 0,
    **dict.fromkeys(
        (
            "tracks",
            "pads",
            "unsprung",
            "unsprung_heights",
            "roll_centres",
            "spring_rates",
            "ratios",
            "tyre_rates",
            "bar_rates",
            "spring_bases",
            "ratio_slopes",
            "droop",
            "bump",
            "gaps",
            "heights",
            "anti_braking",
            "anti_driving",
        ),
        1,
    ),
}
"""Numbers of a car that a batch may vary, by how many dimensions one car's have."""
