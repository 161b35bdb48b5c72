"""The car as the loaded state needs it, and what is asked of it.

SI; corners LF, RF, LR, RR (…, 4), axles front and rear (…, 2). Leading dimensions are a batch of cars.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field, fields, replace
from functools import cached_property
from typing import Any

import numpy as np

from ..catalog.checks import above_zero, finite, not_below_zero
from ..catalog.quantities import Array, Flags, Indexes
from ..constants import STANDARD_GRAVITY
from ..errors import Impossible, OutOfRange
from ..figures.shapes import axle_sum

NO_LIMIT = np.inf
"""A travel without a stop."""


@dataclass(frozen=True)
class Rubber:
    """A bump rubber at a corner: gap at the rubber [m], its ratio, and its table from (0, 0).

    `forces` [N] at `deflections` [m], both rising. Past the end of the table the last slope goes on.
    """

    gap: float
    ratio: float
    deflections: Array
    forces: Array

    def __post_init__(self) -> None:
        above_zero(rubber_ratio=self.ratio)
        not_below_zero(rubber_gap=self.gap)
        finite(rubber_gap=self.gap, deflections=self.deflections, forces=self.forces)
        x, y = np.asarray(self.deflections), np.asarray(self.forces)
        rising = len(x) == len(y) >= 2 and x[0] == 0 and y[0] == 0
        if not rising or not np.all(np.diff(x) > 0) or not np.all(np.diff(y) > 0):
            raise OutOfRange(
                "A bump rubber's table must start at no deflection and no force, and rise.",
                number="rubber_curve",
                allowed="rising from (0, 0)",
            )

    def force(self, travel: Array) -> Array:
        """Force at the station [N] at a travel there [m]."""
        pressed = self.ratio * travel - self.gap
        over = np.maximum(pressed - self.deflections[-1], 0.0)
        found: Array = self.ratio * (
            np.interp(pressed, self.deflections, self.forces) + self._last_slope * over
        )
        return found

    def rate(self, travel: Array) -> Array:
        """Its rate at the station [N/m] at a travel there [m]."""
        pressed = self.ratio * travel - self.gap
        slopes = np.diff(self.forces) / np.diff(self.deflections)
        piece = np.searchsorted(self.deflections, pressed, side="right") - 1
        found = self.ratio**2 * slopes[np.clip(piece, 0, len(slopes) - 1)]
        return np.where(pressed > 0, found, 0.0)

    @cached_property
    def _last_slope(self) -> float:
        rise = self.forces[-1] - self.forces[-2]
        return float(rise / (self.deflections[-1] - self.deflections[-2]))


@dataclass(frozen=True)
class AirMap:
    """Lift areas per axle and the drag area [m²] over the mean heights of both axles [m].

    Tables are [front height][rear height], both heights rising; between the points bilinear.
    """

    front_heights: Array
    rear_heights: Array
    front_lift: Array
    rear_lift: Array
    drag: Array

    def __post_init__(self) -> None:
        finite(**{one.name: getattr(self, one.name) for one in fields(self)})
        for heights in (self.front_heights, self.rear_heights):
            if len(heights) < 2 or not np.all(np.diff(heights) > 0):
                raise OutOfRange(
                    "The heights of an aero map must rise, and be two at least.",
                    number="lift_area",
                )
        size = (len(self.front_heights), len(self.rear_heights))
        if any(np.shape(one) != size for one in (self.front_lift, self.rear_lift, self.drag)):
            raise OutOfRange(
                "An aero map needs one area for every pair of heights.", number="lift_area"
            )

    def covers(self, heights: Array) -> Flags:
        """Whether mean heights (…, 2) lie on the map."""
        low = np.array([self.front_heights[0], self.rear_heights[0]])
        high = np.array([self.front_heights[-1], self.rear_heights[-1]])
        found: Flags = np.all((heights >= low) & (heights <= high), axis=-1)
        return found

    def at(self, heights: Array) -> tuple[Array, Array]:
        """Lift areas (…, 2) and drag area (…) at mean heights (…, 2); the map's edge goes on outside."""
        parts = []
        for at, edges in (
            (heights[..., 0], self.front_heights),
            (heights[..., 1], self.rear_heights),
        ):
            i = np.clip(np.searchsorted(edges, at, side="right") - 1, 0, len(edges) - 2)
            share = np.clip((at - edges[i]) / (edges[i + 1] - edges[i]), 0.0, 1.0)
            parts.append((i, share))
        (i, p), (j, q) = parts

        def between(table: Array) -> Array:
            low = (1 - q) * table[i, j] + q * table[i, j + 1]
            high = (1 - q) * table[i + 1, j] + q * table[i + 1, j + 1]
            return (1 - p) * low + p * high

        lift = np.stack([between(self.front_lift), between(self.rear_lift)], axis=-1)
        return lift, between(self.drag)


@dataclass(frozen=True)
class Air:
    """Density [kg/m³], downforce and drag areas [m²], the height of the drag [m]; or a map of areas."""

    density: float
    lift: Array
    drag: float | Array
    drag_height: float | Array = 0.0
    map: AirMap | None = None

    def __post_init__(self) -> None:
        above_zero(air_density=self.density)
        finite(lift_area=self.lift, drag_area=self.drag, drag_height=self.drag_height)

    def at(self, heights: Array | None) -> tuple[Array, Array]:
        """Lift areas (…, 2) and drag area (…) at the mean heights of the axles."""
        if self.map is None or heights is None:
            return self.lift, np.asarray(self.drag)
        return self.map.at(heights)


@dataclass(frozen=True)
class LoadedCar:
    """The car on its pads as it runs, with all that carries it from there.

    `ratios` are spring travel over wheel travel at ride height, `ratio_slopes` their change per metre
    of bump. `bar_rates` are wheel rates in roll [N/m], 0 for a bar that is off. `beam` says which
    axles are one piece; `spring_bases` is where a beam's springs stand apart, an independent axle's
    its track. `droop` and `bump` are travels to the stops, infinite for none. `anti_braking` and
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


@dataclass(frozen=True)
class Shaft:
    """Torque of the propeller shaft on a live rear axle: given [N·m], or by the final drive.

    `sign` +1: it turns clockwise seen from in front of the car.
    """

    torque: float | None = None
    final_drive: float = 0.0
    radius: float = 0.0
    sign: int = 1

    def __post_init__(self) -> None:
        if self.torque is not None:
            finite(shaft_torque=self.torque)
            not_below_zero(shaft_torque=self.torque)
        else:
            above_zero(final_drive_ratio=self.final_drive, loaded_radius=self.radius)


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


@dataclass(frozen=True)
class Demand:
    """What is asked: + forward, + to the left [m/s²], speed [m/s], and the shaft's torque."""

    along: float | Array = 0.0
    sideways: float | Array = 0.0
    speed: float | Array = 0.0
    shaft: Shaft | None = None

    def __post_init__(self) -> None:
        finite(acceleration=self.along, cornering_acceleration=self.sideways, speed=self.speed)
        not_below_zero(speed=self.speed)

    def spread(self, size: int) -> Demand:
        """The same for each member of a batch, where it is one for all."""
        rows = (
            np.atleast_1d(np.asarray(x, float)) for x in (self.along, self.sideways, self.speed)
        )
        along, sideways, speed = (np.broadcast_to(row, (size,)) for row in rows)
        return Demand(along, sideways, speed, self.shaft)

    @property
    def size(self) -> int:
        """How many demands there are."""
        return max(np.size(one) for one in (self.along, self.sideways, self.speed))

    def of(self, at: Indexes | slice) -> Demand:
        """The demands of some members of a batch."""
        along, sideways, speed = (
            np.asarray(x)[at] for x in (self.along, self.sideways, self.speed)
        )
        return Demand(along, sideways, speed, self.shaft)

    def grown(self, share: float) -> Demand:
        """A part of it: accelerations and air in proportion, and a given torque with them."""
        shaft = self.shaft
        if shaft is not None and shaft.torque is not None:
            shaft = replace(shaft, torque=share * shaft.torque)
        along, sideways, speed = (np.asarray(x) for x in (self.along, self.sideways, self.speed))
        return Demand(share * along, share * sideways, np.sqrt(share) * speed, shaft)


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
            "heights",
            "anti_braking",
            "anti_driving",
        ),
        1,
    ),
}
"""Numbers of a car that a batch may vary, by how many dimensions one car's have."""
