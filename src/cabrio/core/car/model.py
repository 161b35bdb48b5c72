"""The car as a document: what it is given, what hardware it can wear, and a setup's legal values."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any, Literal

from ..catalog.checks import check_value
from ..catalog.hardware import Bar, BumpRubber, Damper, Hole
from ..catalog.quantities import AXLE_OF_CORNER, Kind, Number
from ..errors import CoreError, Impossible, OutOfRange, Problems, UnknownName
from ..graph.registry import number_named, numbers

Discipline = Literal["circuit", "drag", "drift"]
FrontLayout = Literal["independent", "beam_axle"]
RearLayout = Literal[
    "independent",
    "parallel_four_link",
    "triangulated_four_link",
    "three_link",
    "torque_arm",
    "leaf",
]
Driven = Literal["front", "rear", "all"]
RatioIs = Literal["spring_per_wheel", "wheel_per_spring"]
Setup = Mapping[str, list[Any]]

LAYOUT_OF = {"link_preload": "parallel_four_link"}
"""Set numbers that only one rear layout can make."""


@dataclass(frozen=True)
class Given:
    """A given number of this car: SI values by place, and who said so when.

    `estimated` stains everything worked from it.
    """

    values: tuple[float | None, ...]
    estimated: bool = False
    by: str = ""
    at: str = ""


@dataclass(frozen=True)
class Spring:
    """A spring in the stores. Rate in N/m, lengths in m; `fits` names its axle, or both."""

    code: str
    rate: float
    free_length: float | None = None
    solid_length: float | None = None
    fits: Literal["front", "rear", "both"] = "both"

    def fits_axle(self, axle: str) -> bool:
        return self.fits in (axle, "both")


@dataclass(frozen=True)
class Adjuster:
    """What a set number can be on this car: its range, and which end its counting starts from."""

    lowest: float
    highest: float
    counted: Literal["", "from_closed", "from_open"] = ""


@dataclass(frozen=True)
class Car:
    """One car: its discipline and layout, given numbers, stores, adjusters and parts.

    Dampers by corner, bars and bump rubbers by axle, bracket holes by bolt; what is not written down
    is unknown, not absent: no bar is said with `NO_BAR`.
    """

    name: str
    race_number: str
    discipline: Discipline
    use: str
    driven: Driven = "rear"
    front_layout: FrontLayout = "independent"
    rear_layout: RearLayout = "independent"
    profile: Literal["n_mm", "kgf_mm", "imperial"] = "n_mm"
    ratio_is: RatioIs = "spring_per_wheel"
    given: dict[str, Given] = field(default_factory=dict)
    springs: tuple[Spring, ...] = ()
    adjusters: dict[str, Adjuster] = field(default_factory=dict)
    dampers: dict[str, Damper] = field(default_factory=dict)
    bars: dict[str, Bar] = field(default_factory=dict)
    rubbers: dict[str, BumpRubber] = field(default_factory=dict)
    link_holes: dict[str, tuple[Hole, ...]] = field(default_factory=dict)

    def spring(self, code: str | None) -> Spring | None:
        return next((spring for spring in self.springs if spring.code == code), None)

    def springs_for(self, axle: str) -> tuple[Spring, ...]:
        """The stores for one axle, softest first."""
        fitting = (spring for spring in self.springs if spring.fits_axle(axle))
        return tuple(sorted(fitting, key=lambda spring: (spring.rate, spring.code)))

    def settable(self) -> tuple[Number, ...]:
        """The set numbers this car has hardware for, in the dictionary's order."""
        return tuple(
            number
            for number in numbers().values()
            if number.on_slip and (number.name == "spring" or number.name in self.adjusters)
        )

    def with_given(self, name: str, given: Given) -> Car:
        return replace(self, given=self.given | {name: given})


@dataclass(frozen=True)
class Line:
    """One change: a set number at a place, from what to what."""

    name: str
    place: str
    old: Any
    new: Any

    def inverse(self) -> Line:
        return Line(self.name, self.place, self.new, self.old)


def check_setting(car: Car, name: str, place: str, value: Any) -> Any:
    """The value a set number may take on this car, or one of the core's refusals."""
    number = number_named(name)
    if number.kind is not Kind.SET or not number.on_slip:
        raise UnknownName(f"{number.label} is not something a slip can change.", number=name)
    number.index(place)
    if name == "spring":
        return _check_spring(car, place, value)
    wants = LAYOUT_OF.get(name)
    if wants and car.rear_layout != wants:
        raise Impossible(
            "This rear axle cannot be preloaded in its links; on triangulated upper arms use the "
            "anti-roll bar's drop link instead.", number=name, place=place)  # fmt: skip
    adjuster = car.adjusters.get(name)
    if adjuster is None:
        raise UnknownName(f"This car has no adjuster for {number.label.lower()}.", number=name)
    checked = check_value(number, place, value, car.profile, confirmed=True)
    if not adjuster.lowest - 1e-9 <= checked <= adjuster.highest + 1e-9:
        allowed = f"{adjuster.lowest:g} to {adjuster.highest:g}"
        raise OutOfRange(
            f"{number.where(place)} goes from {allowed} on this car, not to {checked:g}.",
            number=name, place=place, value=checked, allowed=allowed)  # fmt: skip
    return checked


def _check_spring(car: Car, place: str, code: Any) -> str | None:
    """A code of the stores that fits here. None, no spring written down yet, holds until one is."""
    if code is None:
        return None
    axle = AXLE_OF_CORNER[place]
    spring = car.spring(code)
    if spring is None:
        raise UnknownName(
            f"There is no spring “{code}” in the stores: add it there first.",
            number="spring", place=place, value=code)  # fmt: skip
    if not spring.fits_axle(axle):
        raise Impossible(f"Spring {code} does not fit the {axle} axle.", number="spring",
                         place=place, value=code)  # fmt: skip
    return spring.code


def check_setup(car: Car, setup: Setup) -> dict[str, list[Any]]:
    """A whole setup, checked: every settable number, at every place. All problems at once."""
    problems: list[CoreError] = []
    checked: dict[str, list[Any]] = {}
    settable = {number.name: number for number in car.settable()}
    for name in setup:
        if name not in settable:
            problems.append(UnknownName(f"This car cannot set “{name}”.", number=name))
    for name, number in settable.items():
        values = setup.get(name)
        if values is None or len(values) != len(number.shape.places):
            problems.append(Impossible(f"{number.label} needs a value at "
                                       f"{', '.join(number.shape.places)}.", number=name))  # fmt: skip
            continue
        checked[name] = []
        for place, value in zip(number.shape.places, values, strict=True):
            try:
                checked[name].append(check_setting(car, name, place, value))
            except CoreError as problem:
                problems.append(problem)
    if problems:
        raise Problems(problems)
    return checked


USUAL_ADJUSTERS: dict[str, Adjuster] = {
    "perch_turns": Adjuster(-20, 20),
    "bar_hole": Adjuster(1, 5),
    "compression_clicks": Adjuster(0, 24, "from_closed"),
    "rebound_clicks": Adjuster(0, 24, "from_closed"),
    "tyre_pressure": Adjuster(0.5e5, 3.5e5),
    "camber": Adjuster(-0.14, 0.04),
    "toe": Adjuster(-0.02, 0.02),
    "link_preload": Adjuster(-2, 2),
    "upper_link_hole": Adjuster(1, 3),
    "lower_link_hole": Adjuster(1, 3),
}
"""What a new car is taken to have, until its own ranges are written down."""
LINKED = ("link_preload", "upper_link_hole", "lower_link_hole")


def usual_adjusters(rear_layout: RearLayout) -> dict[str, Adjuster]:
    linked = rear_layout == "parallel_four_link"
    return {name: a for name, a in USUAL_ADJUSTERS.items() if linked or name not in LINKED}


def first_setup(car: Car) -> dict[str, list[Any]]:
    """The setup of a car about which nothing is known: nothing fitted, adjusters at their middle."""
    setup: dict[str, list[Any]] = {}
    for number in car.settable():
        count = len(number.shape.places)
        if number.name == "spring":
            setup[number.name] = [None] * count
            continue
        adjuster = car.adjusters[number.name]
        middle = (
            0.0
            if adjuster.lowest < 0 < adjuster.highest
            else (adjuster.lowest + adjuster.highest) / 2
        )
        setup[number.name] = [
            float(round(middle)) if number.quantity != "pressure" else middle
        ] * count
    return setup


def differences(old: Setup, new: Setup) -> list[Line]:
    """What differs between two setups, in the dictionary's order."""
    lines = []
    for number in numbers().values():
        before, after = old.get(number.name), new.get(number.name)
        if before is None and after is None:
            continue
        count = len(number.shape.places)
        for place, a, b in zip(
            number.shape.places, before or [None] * count, after or [None] * count, strict=True
        ):
            if a != b:
                lines.append(Line(number.name, place, a, b))
    return lines


def with_lines(setup: Setup, lines: list[Line]) -> dict[str, list[Any]]:
    """The setup after these lines. The old values are not looked at."""
    changed = {name: list(values) for name, values in setup.items()}
    for line in lines:
        number = number_named(line.name)
        if line.name not in changed:
            raise UnknownName(f"This car cannot set “{line.name}”.", number=line.name)
        changed[line.name][number.index(line.place)] = line.new
    return changed
