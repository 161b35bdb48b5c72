"""The seven-unknown standing car: a rigid body on four suspensions, two bars and four tyres.

Unknown are the body's heave, pitch and roll and the height of each wheel. Everything is linear and
counted from the state in which the pads were read: pads after any change keep the weight and both of
its moments by construction (reference §6). Arrays are corners LF, RF, LR, RR; perch shifts and ballast
may carry leading batch dimensions.
"""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from functools import cached_property

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..checks import finite
from ..constants import STANDARD_GRAVITY
from ..errors import Impossible, OutOfRange
from ..graph.registry import Mask

CORNERS = PLACES[Shape.CORNER]


@dataclass(frozen=True)
class StandingCar:
    """The car as it stood on the pads. SI; corners (4,), axles (2,).

    `spring_bases` equals the track of an independent axle: a beam of that base is the same thing.
    `wheel_rates` are k_w at ride height, any slope of the motion ratio included; `spring_rates` and
    `motion_ratios` are along the spring. `ride_rates` are what the springs have at ride height, where a
    tender in series makes that another rate than the main spring's.
    """

    wheelbase: float
    tracks: Array
    pads: Array
    unsprung: Array
    spring_rates: Array
    motion_ratios: Array
    tyre_rates: Array
    spring_bases: Array
    bar_rates: Array = field(default_factory=lambda: np.zeros(2))
    bars_connected: bool = True
    wheel_rates: Array | None = None
    ride_rates: Array | None = None

    def __post_init__(self) -> None:
        for name, least in (
            ("wheelbase", 0.0),
            ("tracks", 0.0),
            ("motion_ratios", 0.0),
            ("tyre_rates", 0.0),
            ("spring_bases", 0.0),
            ("spring_rates", 0.0),
        ):
            values = np.asarray(getattr(self, name))
            if not np.all(np.isfinite(values)) or np.any(values <= least):
                raise OutOfRange(
                    f"The {name.replace('_', ' ')} must all be above zero.",
                    number=name.rstrip("s"),
                    value=values.tolist(),
                    allowed="above 0",
                )
        finite(
            wheelbase=self.wheelbase,
            pad_mass=self.pads,
            unsprung_mass=self.unsprung,
            bar_rate=self.bar_rates,
        )
        if not np.all(self.pads >= 0) or self.pads.sum() <= 0:
            raise OutOfRange(
                "A pad cannot read below zero.",
                number="pad_mass",
                value=self.pads.tolist(),
                allowed="0 and above",
            )

        if np.any(self.unsprung >= self.pads) or np.any(self.unsprung < 0):
            raise OutOfRange(
                "An unsprung mass must be less than its pad reads.",
                number="unsprung_mass",
                value=self.unsprung.tolist(),
                allowed="0 to below the pad",
            )

    @property
    def rates_at_wheel(self) -> Array:
        if self.wheel_rates is not None:
            return self.wheel_rates
        return self.spring_rates * self.motion_ratios**2

    @property
    def rates_in_place(self) -> Array:
        """Rate along the spring at ride height, of the spring or of its stack (4,) [N/m]."""
        return self.spring_rates if self.ride_rates is None else self.ride_rates

    @property
    def perch_rates(self) -> Array:
        """Force at the station for a shift of the perch, k_s·MR (4,) [N/m].

        Not k_w / MR: the part of k_w that a changing motion ratio makes, F_s·MR′, no perch moves.
        """
        return self.rates_in_place * self.motion_ratios

    @cached_property
    def places(self) -> Array:
        """Rows (1, x, y) of each wheel: x behind the front axle, y to the left."""
        x = np.array([0.0, 0.0, self.wheelbase, self.wheelbase])
        half = np.repeat(self.tracks, 2) / 2 * np.array([1, -1, 1, -1])
        return np.stack([np.ones(4), x, half], axis=-1)

    @cached_property
    def to_stations(self) -> Array:
        """Travel at the spring stations from travel at the wheels (4, 4): s/t apart on a beam."""
        share = np.zeros((4, 4))
        for axle, ratio in enumerate(self.spring_bases / self.tracks):
            near, far = (1 + ratio) / 2, (1 - ratio) / 2
            at = slice(2 * axle, 2 * axle + 2)
            share[at, at] = [[near, far], [far, near]]
        return share

    @cached_property
    def bars(self) -> Array:
        """Stiffness of the connected bars between the wheels (4, 4)."""
        stiffness = np.zeros((4, 4))
        if self.bars_connected:
            for axle, rate in enumerate(self.bar_rates):
                at = slice(2 * axle, 2 * axle + 2)
                stiffness[at, at] = 0.5 * rate * np.array([[1, -1], [-1, 1]])
        return stiffness

    @cached_property
    def station_forces(self) -> Array:
        """What each spring station carries standing, seen at the wheel [N]."""
        carried = (self.pads - self.unsprung) * STANDARD_GRAVITY
        return np.asarray(np.linalg.solve(self.to_stations.T, carried), dtype=np.float64)

    @property
    def on_beam(self) -> Mask:
        """Which corners' springs stand elsewhere than at their wheels."""
        return np.asarray(np.repeat(np.abs(self.spring_bases - self.tracks) > 1e-9, 2), np.bool)

    def refuse_pulling(self, forces: Array) -> None:
        """Raise Impossible where a beam axle's spring would have to pull: a coil cannot."""
        pulling = (np.asarray(forces < 0) & self.on_beam).reshape(-1, 4).any(axis=0)
        if pulling.any():
            place = CORNERS[int(np.argmax(pulling))]
            raise Impossible(
                f"{place}: this spring would have to pull on the axle; it comes loose.",
                number="spring_base",
                place=place,
            )


@dataclass(frozen=True)
class Change:
    """What is done to the standing car. Everything counts from the state of the reading.

    `perch_shifts` along the spring, + raises the body; `bar_wheel_shifts` per axle, the left less
    right wheel travel at which the bar is free; ballast in kg behind the front axle and to the left;
    `tyre_radius_changes` of the free radius, + larger.
    """

    perch_shifts: Array = field(default_factory=lambda: np.zeros(4))
    spring_rates: Array | None = None
    spring_free_length_changes: Array = field(default_factory=lambda: np.zeros(4))
    tyre_rates: Array | None = None
    tyre_radius_changes: Array = field(default_factory=lambda: np.zeros(4))
    bar_wheel_shifts: Array = field(default_factory=lambda: np.zeros(2))
    ballast: tuple[tuple[float, float, float], ...] = ()


@dataclass(frozen=True)
class Standing:
    """The car at rest after a change: pads [kg], body height changes over each wheel and wheel centre
    height changes [m], all + up, corners (…, 4)."""

    pads: Array
    ride_height_changes: Array
    wheel_height_changes: Array


def predict(car: StandingCar, change: Change) -> Standing:
    """Where the car comes to rest after a change.

    Raises Impossible where a pad would read below zero, for a wheel has then lifted, or where a beam
    axle's coil would have to pull: both are outside the linear model. OutOfRange for a rate not above
    zero.
    """
    standing = solve(car, change)
    lifted = np.asarray(standing.pads < 0).reshape(-1, 4).any(axis=0)
    if lifted.any():
        place = CORNERS[int(np.argmax(lifted))]
        raise Impossible(
            f"{place}: this would lift the wheel off its pad.", number="pad_mass", place=place
        )
    car.refuse_pulling(car.station_forces)
    after, pushed = _after_springs(car, change)
    moved = (standing.wheel_height_changes - standing.ride_height_changes) @ car.to_stations
    rates = after.rates_at_wheel
    car.refuse_pulling(
        car.station_forces + pushed + rates * moved + after.perch_rates * change.perch_shifts
    )
    return standing


def solve(car: StandingCar, change: Change) -> Standing:
    """The same without the check that every wheel stays down."""
    finite(
        perch_shift=change.perch_shifts,
        ballast=change.ballast,
        spring_free_length_change=change.spring_free_length_changes,
        tyre_radius_change=change.tyre_radius_changes,
        bar_shift=change.bar_wheel_shifts,
        spring_rate=car.spring_rates if change.spring_rates is None else change.spring_rates,
        tyre_rate=car.tyre_rates if change.tyre_rates is None else change.tyre_rates,
    )
    if not car.bars_connected and np.any(np.asarray(change.bar_wheel_shifts) != 0):
        raise Impossible(
            "There is no preload in a bar that is off: connect it, or leave its shift away.",
            number="bar",
        )
    after, offset = _after_springs(car, change)
    offset = offset + after.perch_rates * change.perch_shifts
    wheels = offset @ after.to_stations
    wheels = wheels - np.einsum("ij,...j->...i", after.bars, _bar_travel(change))
    loads, moments = _ballast(change.ballast)
    tyres = after.tyre_rates if change.tyre_rates is None else change.tyre_rates
    if np.any(tyres <= 0):
        raise OutOfRange("A tyre rate must be above zero.", number="tyre_rate", allowed="above 0")
    # another tyre rate under the same load: it stands as if its free radius had changed
    squash = car.pads * STANDARD_GRAVITY * (1 / car.tyre_rates - 1 / tyres)
    radius = change.tyre_radius_changes + squash
    suspension = after.to_stations.T @ (after.rates_at_wheel[:, None] * after.to_stations)
    suspension = suspension + after.bars
    p = after.places
    matrix = np.block(
        [[p.T @ suspension @ p, -p.T @ suspension], [-suspension @ p, suspension + np.diag(tyres)]]
    )
    batch = np.broadcast_shapes(wheels.shape[:-1], radius.shape[:-1])
    wheels, radius = (np.broadcast_to(one, (*batch, 4)) for one in (wheels, radius))
    body = wheels @ p - np.concatenate([[loads], moments])
    right = np.concatenate([body, tyres * radius - wheels], axis=-1)
    rest = np.linalg.solve(matrix, right[..., None])[..., 0]
    wheel_heights = rest[..., 3:]
    gained = tyres * (radius - wheel_heights)
    return Standing(car.pads + gained / STANDARD_GRAVITY, rest[..., :3] @ p.T, wheel_heights)


def _after_springs(car: StandingCar, change: Change) -> tuple[StandingCar, Array]:
    """The car on its new springs, and what they push more at each station in the old place [N]."""
    rates = car.spring_rates if change.spring_rates is None else change.spring_rates
    if np.any(rates <= 0):
        raise OutOfRange(
            "A spring rate must be above zero.",
            number="spring_rate",
            value=rates.tolist(),
            allowed="above 0",
        )
    ratio = car.motion_ratios
    compression = car.station_forces / ratio / car.spring_rates
    longer = np.asarray(change.spring_free_length_changes)
    pushed = rates * (compression + longer) - car.spring_rates * compression
    slope = car.rates_at_wheel - car.rates_in_place * ratio**2
    in_place = 1 / (1 / rates + 1 / car.rates_in_place - 1 / car.spring_rates)
    after = replace(
        car, spring_rates=rates, ride_rates=in_place, wheel_rates=in_place * ratio**2 + slope
    )
    return after, pushed * ratio


def _bar_travel(change: Change) -> Array:
    """Wheel travels that leave the bars free: half of each shift up on the left, half down right."""
    shifts = np.asarray(change.bar_wheel_shifts)
    half: Array = np.repeat(shifts, 2, axis=-1) / 2 * np.array([1, -1, 1, -1])
    return half


def _ballast(ballast: tuple[tuple[float, float, float], ...]) -> tuple[float, Array]:
    loads = sum(mass for mass, _, _ in ballast) * STANDARD_GRAVITY
    about = [sum(m * x for m, x, _ in ballast), sum(m * y for m, _, y in ballast)]
    return loads, np.array(about) * STANDARD_GRAVITY


def energy(car: StandingCar, change: Change, at: Array) -> float:
    """Potential energy [J] of the changed car at a state: three of the body, four wheel heights.

    The slow second way: its minimum is the equilibrium. One change at a time, no batch.
    """
    after, pushed = _after_springs(car, change)
    body, wheels = at[:3], at[3:]
    travel = wheels - after.places @ body
    stations = after.to_stations @ travel
    rate = after.rates_at_wheel
    perch = after.perch_rates * change.perch_shifts + pushed + car.station_forces
    total = float(np.sum(0.5 * rate * stations**2 + perch * stations))
    if after.bars_connected:
        twist = travel[0::2] - travel[1::2] - np.asarray(change.bar_wheel_shifts)
        total += float(np.sum(0.25 * after.bar_rates * twist**2))
    tyres = car.tyre_rates if change.tyre_rates is None else change.tyre_rates
    squash = car.pads * STANDARD_GRAVITY / car.tyre_rates + change.tyre_radius_changes - wheels
    total += float(np.sum(0.5 * tyres * squash**2))
    weight = car.unsprung * STANDARD_GRAVITY
    total += float(np.sum(weight * wheels))
    sprung = (car.pads - car.unsprung) * STANDARD_GRAVITY
    total += float(np.sum(sprung * (after.places @ body)))
    for mass, x, y in change.ballast:
        total += mass * STANDARD_GRAVITY * float(np.array([1.0, x, y]) @ body)
    return total
