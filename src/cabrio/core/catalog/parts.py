"""The kinds of part a car can wear, each declared once (see `part`)."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Annotated, Any

import numpy as np

from ..arrays import Array
from ..checks import finite
from ..constants import SHEAR_MODULUS_STEEL, YOUNGS_MODULUS_STEEL
from ..errors import Impossible, OutOfRange
from .damper import FACES as FACES
from .damper import Adjustment as Adjustment
from .damper import Counted as Counted
from .damper import Damper as Damper
from .damper import DynoCurve as DynoCurve
from .damper import Face as Face
from .damper import Shim as Shim
from .damper import Valving as Valving
from .fields import Gives, Group, Own, Table, Words
from .link_parts import HOLE_CHOSEN as HOLE_CHOSEN
from .link_parts import Bracket as Bracket
from .link_parts import Hole as Hole
from .link_parts import Link as Link
from .part import Chosen, Part, part
from .quantities import Shape


@part(
    "spring",
    at=Shape.CORNER,
    label="Spring",
    plural="Springs",
    feeds=("spring_rate",),
    rank="true_rate",
)
@dataclass(frozen=True)
class Spring(Part):
    """A coil spring. Where its rate was measured, that is the rate worked with."""

    code: str = field()  # told first, as on the spring
    rate: Annotated[float, Own("Rate", "rate", "As marked on the spring.", above=0.0, most=3.0e6)]
    free_length: Annotated[float | None, Gives("spring_free_length")] = None
    solid_length: Annotated[float | None, Gives("spring_solid_length")] = None
    measured_rate: Annotated[
        float | None,
        Own("Measured rate", "rate", "As the spring tester read it.", above=0.0, most=3.0e6),
    ] = None
    pair: Annotated[str, Words("Pair", "The spring it was matched with.")] = ""
    runs: Annotated[float | None, Own("Runs on it", "count", least=0.0, most=1e5)] = None

    def __post_init__(self) -> None:
        if self.free_length and self.solid_length and self.solid_length >= self.free_length:
            raise Impossible(
                "The solid length must be less than the free length.", number="solid_length"
            )
        if self.rate <= 0:
            raise OutOfRange(
                "A spring rate must be above zero.",
                number="rate",
                value=self.rate,
                allowed="above 0",
            )

    @property
    def true_rate(self) -> float:
        return self.measured_rate or self.rate

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        return {**super().provides(place, chosen), "spring_rate": self.true_rate}


@dataclass(frozen=True)
class Blade:
    """A blade at each end of a bar [m], its angles by position [rad]. `guided`: its tip cannot move
    sideways.
    """

    width: Annotated[float, Gives("blade_width")]
    thickness: Annotated[float, Gives("blade_thickness")]
    length: Annotated[float, Gives("blade_length")]
    angles: Annotated[tuple[float, ...], Gives("blade_angle", chosen_by="blade_position")] = (0.0,)
    guided: Annotated[bool, Gives("blade_guided")] = False
    youngs_modulus: Annotated[float, Gives("blade_youngs_modulus")] = YOUNGS_MODULUS_STEEL

    def __post_init__(self) -> None:
        if not self.angles:
            raise Impossible(
                "A blade needs its angle, at one position or more.", number="blade_angle"
            )


NO_BLADE = {
    "blade_width": 0.0,
    "blade_thickness": 0.0,
    "blade_length": 0.0,
    "blade_angle": 0.0,
    "blade_guided": 0.0,
    "blade_youngs_modulus": YOUNGS_MODULUS_STEEL,
}


@part(
    "bar",
    at=Shape.AXLE,
    label="Anti-roll bar",
    plural="Anti-roll bars",
    none_fitted=lambda made: made(0.0, code="none"),
    rank="outer",
)
@dataclass(frozen=True)
class Bar(Part):
    """An anti-roll bar with its arms by hole, the hole nearest the bar first. Lengths in m."""

    outer: Annotated[float, Gives("bar_outer")]
    length: Annotated[float, Gives("bar_length")] = 1.0
    arms: Annotated[tuple[float, ...], Gives("bar_arm", chosen_by="bar_hole")] = (1.0,)
    motion_ratio: Annotated[float, Gives("bar_motion_ratio")] = 1.0
    inner: Annotated[float, Gives("bar_inner")] = 0.0
    blade: Annotated[Blade | None, Group("Blade")] = None
    shear_modulus: Annotated[float, Gives("bar_shear_modulus")] = SHEAR_MODULUS_STEEL

    def __post_init__(self) -> None:
        if self.outer and self.inner >= self.outer:
            raise Impossible("The bore must be less than the diameter.", number="inner")

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        found = super().provides(place, chosen)
        return found | NO_BLADE if self.blade is None else found

    def blocks(self, setting: str) -> str:
        if setting == "blade_position" and self.blade is None:
            return "this bar has no blades."
        return ""

    def arm(self, hole: int) -> float:
        """Arm length at a hole counted from 1. Raises OutOfRange."""
        if not 1 <= hole <= len(self.arms):
            raise OutOfRange(
                f"This bar has holes 1 to {len(self.arms)}, not {hole}.",
                number="bar_hole",
                value=hole,
                allowed=f"1 to {len(self.arms)}",
            )
        return self.arms[hole - 1]


def _force_table(rows: list[tuple[float, ...]]) -> tuple[tuple[float, float], ...]:
    return tuple((row[0], row[1]) for row in sorted(rows))


FORCES = Table(
    "Force table",
    (Own("Deflection", "height", least=0.0, most=0.3), Own("Force", "force", least=0.0, most=1e5)),
    _force_table,
    list,
    "From first touch: deflection and force, the first row zero.",
    (Gives("rubber_curve"),),
)


@part(
    "bump_rubber",
    at=Shape.AXLE,
    label="Bump rubber",
    plural="Bump rubbers",
    feeds=("rubber_curve",),
    none_fitted=lambda made: made(((0.0, 0.0), (1.0, 0.0)), code="none"),
    assume_none=True,
)
@dataclass(frozen=True)
class BumpRubber(Part):
    """A bump rubber as measured from first touch. Deflection in m rises from zero, force in N."""

    table: Annotated[tuple[tuple[float, float], ...], FORCES]

    def __post_init__(self) -> None:
        if len(self.table) < 2:
            raise Impossible(
                "A bump rubber needs a force for every deflection, two points or more.",
                number="rubber_curve",
            )
        finite(rubber_curve=[*self.deflection, *self.force])
        steps = zip(self.deflection, self.deflection[1:], strict=False)
        forces = zip(self.force, self.force[1:], strict=False)
        if (
            self.deflection[0] != 0
            or any(b <= a for a, b in steps)
            or any(b < a for a, b in forces)
        ):
            raise Impossible(
                "A bump rubber's deflections rise from zero and its force never falls.",
                number="rubber_curve",
            )

    @property
    def deflection(self) -> tuple[float, ...]:
        return tuple(row[0] for row in self.table)

    @property
    def force(self) -> tuple[float, ...]:
        return tuple(row[1] for row in self.table)

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        return {"rubber_curve": self.curve(POINTS).tolist()}

    def curve(self, points: int) -> Array:
        """The curve as an array (2, points); short tables go on along their last slope."""
        d, f = list(self.deflection), list(self.force)
        slope = (f[-1] - f[-2]) / (d[-1] - d[-2])
        while len(d) < points:
            d.append(d[-1] + 0.01)
            f.append(f[-1] + 0.01 * slope)
        return np.array([d[:points], f[:points]])


POINTS = 24
"""All curves are brought to this length, so that they stand side by side in one array."""
NO_FORCE = ((0.0, 0.0), (1.0, 0.0))
NO_RUBBER = BumpRubber(NO_FORCE)


def rubber(deflection: tuple[float, ...], force: tuple[float, ...], code: str = "") -> BumpRubber:
    """A bump rubber from its two columns. Raises Impossible where they differ in length."""
    if len(deflection) != len(force):
        raise Impossible(
            "A bump rubber needs a force for every deflection, two points or more.",
            number="rubber_curve",
        )
    return BumpRubber(tuple(zip(deflection, force, strict=True)), code=code)


@part(
    "tyre",
    at=Shape.CORNER,
    label="Tyre",
    plural="Tyres",
    feeds=("tyre_rate",),
    follows=("tyre_pressure",),
)
@dataclass(frozen=True)
class Tyre(Part):
    """A tyre of a set, as measured. With its rate at two pressures it follows the pressure that is set."""

    set_code: Annotated[str, Words("Set", "The four that belong together.")] = ""
    size: Annotated[str, Words("Size", "As on the sidewall.")] = ""
    compound: Annotated[str, Words("Compound")] = ""
    diameter: Annotated[float | None, Own("Free diameter", "dimension", above=0.0, most=1.5)] = None
    rate: Annotated[
        float | None, Own("Tyre rate", "rate", "Load over squash.", above=0.0, most=2.0e6)
    ] = None
    pressure: Annotated[
        float | None,
        Own("At the pressure", "pressure", "Cold, as it was measured at.", 0.0, 1e6),
    ] = None
    second_rate: Annotated[
        float | None, Own("Second rate", "rate", "At another pressure.", above=0.0, most=2.0e6)
    ] = None
    second_pressure: Annotated[
        float | None, Own("At the second pressure", "pressure", "", 0.0, 1e6)
    ] = None
    cycles: Annotated[float | None, Own("Heat cycles", "count", least=0.0, most=500.0)] = None
    wear: Annotated[float | None, Own("Tread left", "fine_dimension", least=0.0, most=0.05)] = None

    def __post_init__(self) -> None:
        if self.second_rate is None and self.second_pressure is None:
            return
        if None in (self.rate, self.pressure, self.second_rate, self.second_pressure):
            raise Impossible(
                "Two rates need the pressure that each was measured at.", number="second_rate"
            )
        if self.pressure == self.second_pressure:
            raise Impossible(
                "The two rates were measured at one pressure: that tells nothing of another.",
                number="second_pressure",
            )

    def rate_at(self, pressure: float | None) -> float | None:
        """Its rate at a cold pressure [N/m], on the straight line of its two; as measured without them.

        Never below half the softer of the two: the line ends somewhere.
        """
        rate, at, second, other = self.rate, self.pressure, self.second_rate, self.second_pressure
        if rate is None or at is None or second is None or other is None or pressure is None:
            return rate
        found = rate + (second - rate) / (other - at) * (pressure - at)
        return max(found, 0.5 * min(rate, second))

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        return super().provides(place, chosen) | {
            "tyre_rate": self.rate_at(chosen("tyre_pressure").value)
        }


STACKED = Table(
    "Stack",
    (Own("Thickness", "fine_dimension", least=0.0, most=0.2),),
    lambda rows: tuple(row[0] for row in rows),
    lambda value: [(one,) for one in value],
    "Spacers in their order, from the mount down.",
)


@part("spacers", at=Shape.CORNER, label="Spacers and mounts", plural="Spacers and mounts")
@dataclass(frozen=True)
class Spacers(Part):
    """The stack between spring, damper and body: the mount, spacers in their order, the nut."""

    mount: Annotated[str, Words("Top mount")] = ""
    thicknesses: Annotated[tuple[float, ...], STACKED] = ()
    nut: Annotated[str, Words("Nut")] = ""


OVERHANG, ASIDE = 1.2, 0.2
"""How far past an axle, and outside the wider track's wheels, a piece can still be on the car [m]."""


def check_on_car(
    behind_front: float, to_left: float, wheelbase: float, widest_track: float
) -> None:
    """Raise Impossible for a place [m] that no car of this wheelbase and track [m] reaches."""
    if not -OVERHANG <= behind_front <= wheelbase + OVERHANG:
        raise Impossible(
            "That place is off the car: no car reaches so far past an axle. Measure from the front "
            "axle, to the rear.",
            number="behind_front",
            value=behind_front,
        )
    aside = widest_track / 2 + ASIDE
    if abs(to_left) > aside:
        raise Impossible(
            "That place is off the car: it lies outside the wheels. Measure from the centre line.",
            number="to_left",
            value=to_left,
        )


@part("ballast", at=Shape.BALLAST, label="Ballast", plural="Ballast")
@dataclass(frozen=True)
class Ballast(Part):
    """A piece of ballast, and where it is bolted down."""

    mass: Annotated[float, Own("Mass", "mass", above=0.0, most=500.0)]
    behind_front: Annotated[float, Own("Behind the front axle", "dimension", least=-2.0, most=6.0)]
    to_left: Annotated[
        float, Own("Left of the centre line", "dimension", "Minus to the right.", -1.5, 1.5)
    ] = 0.0
    height: Annotated[float | None, Own("Height", "dimension", least=0.0, most=2.0)] = None

    def check_on(self, facts: Mapping[str, Sequence[float | None]]) -> None:
        wheelbase = facts.get("wheelbase", (None,))[0]
        tracks = [one for one in facts.get("track", ()) if one is not None]
        if wheelbase is not None and tracks:
            check_on_car(self.behind_front, self.to_left, wheelbase, max(tracks))


MAP = Table(
    "Map",
    (
        Own("Front height", "height", "Mean of the front axle.", -0.05, 0.5),
        Own("Rear height", "height", "Mean of the rear axle.", -0.05, 0.5),
        Own("Front downforce area", "area", "Minus lifts.", -10.0, 20.0),
        Own("Rear downforce area", "area", "Minus lifts.", -10.0, 20.0),
        Own("Drag area", "area", "", 0.0, 10.0),
    ),
    tuple,
    list,
    "Every front height with every rear height, in any order.",
    (Gives("air_map"),),
)


@part("aero_map", at=Shape.CAR, label="Aero map", plural="Aero maps")
@dataclass(frozen=True)
class AeroMap(Part):
    """Downforce and drag areas over the heights of both axles, as the tunnel or the simulation gave them."""

    points: Annotated[tuple[tuple[float, ...], ...], MAP]

    def __post_init__(self) -> None:
        fronts, rears = ({row[axle] for row in self.points} for axle in (0, 1))
        pairs = {row[:2] for row in self.points}
        if min(len(fronts), len(rears)) < 2:
            raise Impossible("An aero map needs two heights or more of each axle.", number="points")
        if len(pairs) != len(self.points) or len(pairs) != len(fronts) * len(rears):
            raise Impossible(
                f"An aero map needs every front height with every rear height, once: "
                f"{len(fronts)} by {len(rears)} are {len(fronts) * len(rears)}, not "
                f"{len(self.points)}.",
                number="points",
            )

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        """Both axles' own map: its front heights, rear heights, areas, and the car's drag areas."""
        front, rear, front_area, rear_area, drag = zip(*sorted(self.points), strict=True)
        return {
            "air_map": tuple(
                [list(front), list(rear), list(area), list(drag)]
                for area in (front_area, rear_area)
            )
        }


@part("other_part", at=Shape.SPARE, label="Other part", plural="Other parts")
@dataclass(frozen=True)
class OtherPart(Part):
    """Any other part worth a record: what it is, and what was noticed."""

    what: Annotated[str, Words("What it is")] = ""
