"""The car as a document: what it is, its facts, its inventory and its adjusters."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, Literal

from ..catalog.inventory import Inventory
from ..catalog.part import Part, valued
from ..catalog.part_kinds import part_kind
from ..catalog.parts import Counted, Spring
from ..catalog.quantities import Number, axle_of
from ..graph.registry import number_named, on_slip

FrontLayout = Literal["independent", "beam_axle"]
RearLayout = Literal[
    "independent",
    "parallel_four_link",
    "triangulated_four_link",
    "three_link",
    "torque_arm",
    "ladder_bar",
    "leaf",
]
Driven = Literal["front", "rear", "all"]
RatioIs = Literal["spring_per_wheel", "wheel_per_spring"]
Setup = Mapping[str, list[Any]]
OF_UPRIGHTS = {"front": ("points",), "rear": ("points", "caster")}
"""Settings of an axle that only uprights of their own have; a beam axle in front has its caster all the same."""


@dataclass(frozen=True)
class Previous:
    """What a fact was given as before it was measured better."""

    values: tuple[float | None, ...]
    estimated: bool | tuple[bool, ...] = False
    by: str = ""
    at: str = ""


@dataclass(frozen=True)
class Given:
    """A fact of this car: SI values by place, and who said so when.

    An estimate, for all places or by place, stains everything worked from it; `why` is the reason of
    a typical value, or the reading that a value is from. `since` is the revision whose work on the car
    altered it, `earlier` what it was before; `was` holds what it was corrected from, newest last.
    """

    values: tuple[float | None, ...]
    estimated: bool | tuple[bool, ...] = False
    by: str = ""
    at: str = ""
    why: str = ""
    since: int = 0
    was: tuple[Previous, ...] = ()
    earlier: Given | None = None

    def estimated_at(self, index: int) -> bool:
        return self.estimated if isinstance(self.estimated, bool) else self.estimated[index]

    @property
    def guessed(self) -> bool:
        """Whether any place of it is an estimate."""
        return any(self.estimated_at(i) for i, value in enumerate(self.values) if value is not None)


@dataclass(frozen=True)
class PreviousPart:
    """What a correction of a part replaced: the fields that differ, by id, as they were [SI]."""

    kind: str
    code: str
    values: dict[str, Any]
    by: str = ""
    at: str = ""


@dataclass(frozen=True)
class Adjuster:
    """What a set number can be on this car: its range, and which end its counting starts from.

    `at` holds the range of a place that differs from the others.
    """

    lowest: float
    highest: float
    counted: Literal["", "from_closed", "from_open"] = ""
    at: dict[str, tuple[float, float]] = field(default_factory=dict)

    def range_at(self, place: str) -> tuple[float, float]:
        return self.at.get(place, (self.lowest, self.highest))


@dataclass(frozen=True)
class Car:
    """One car: its discipline and layout, facts, inventory and adjusters.

    Which parts it wears is part of a setup. What is not written down is unknown, not absent: that
    nothing is fitted at a place is said by a code of its own.
    """

    name: str
    race_number: str
    discipline: str
    use: str
    driven: Driven = "rear"
    front_layout: FrontLayout = "independent"
    rear_layout: RearLayout = "independent"
    profile: Literal["n_mm", "kgf_mm", "imperial"] = "n_mm"
    ratio_is: RatioIs = "spring_per_wheel"
    given: dict[str, Given] = field(default_factory=dict)
    parts: Inventory = field(default_factory=Inventory)
    adjusters: dict[str, Adjuster] = field(default_factory=dict)
    baseline: int = 1
    corrected: tuple[PreviousPart, ...] = ()

    @property
    def facts(self) -> dict[str, tuple[float | None, ...]]:
        """The figures given for the car itself, by number and place [SI]."""
        return {name: one.values for name, one in self.known.items()}

    @cached_property
    def known(self) -> dict[str, Given]:
        """The facts that say something. One emptied again is as if nobody gave it, and so is each place of a
        number that something is assumed of."""
        return {
            name: replace(one, values=tuple(self.row(name))) if None in one.values else one
            for name, one in self.given.items()
            if any(value is not None for value in one.values)
        }

    def row(self, name: str) -> list[float | None]:
        """What a fact is at each place [SI]: what was given, or what is assumed while nobody gives it."""
        number, given = number_named(name), self.given.get(name)
        values = given.values if given else (None,) * len(number.shape.places)
        return [number.default if value is None else value for value in values]

    def part(self, kind: str, code: Any) -> Part | None:
        return self.parts.part(kind, code)

    def fitted(self, setup: Setup, kind: str, place: str) -> Part | None:
        """The part at a place; None where nothing is written down."""
        codes = setup.get(kind)
        if codes is None:
            return None
        return self.part(kind, codes[part_kind(kind).shape.places.index(place)])

    def stock(self, kind: str, place: str) -> tuple[Part, ...]:
        """The parts of a kind that fit a place, softest first where they have a rank."""
        rank = part_kind(kind).rank
        fitting = [part for part in self.parts.of(kind) if part.fits_at(place)]
        return tuple(
            sorted(fitting, key=lambda one: (valued(one, (rank,)) if rank else 0.0, one.code))
        )

    def spring(self, code: str | None) -> Spring | None:
        found = self.part("spring", code)
        return found if isinstance(found, Spring) else None

    def springs_for(self, axle: str) -> tuple[Spring, ...]:
        """The springs for one axle, softest first."""
        return tuple(one for one in self.stock("spring", axle) if isinstance(one, Spring))

    def has(self, number: Number) -> bool:
        """Whether this number applies to the car's layout at all."""
        return not number.layouts or self.rear_layout in number.layouts

    def has_not(self, name: str, place: str) -> str:
        """Why a setting that the car has, or its reading, means nothing at one place; empty where it does."""
        name = number_named(name).checks or name
        axle = axle_of(place)
        layout = self.front_layout if axle == "front" else self.rear_layout
        means = layout == "independent" or name not in OF_UPRIGHTS.get(axle, ())
        return "" if means else "on an independent axle only"

    def settable(self) -> tuple[Number, ...]:
        """The set numbers this car has hardware for, in the dictionary's order."""
        return self._settable

    @cached_property
    def _settable(self) -> tuple[Number, ...]:
        return tuple(
            number
            for number in on_slip()
            if ((number.is_part and self.has(number)) or number.name in self.adjusters)
        )

    def counting(self, name: str) -> Counted | Literal[""]:
        adjuster = self.adjusters.get(name)
        return adjuster.counted if adjuster else ""

    def with_given(self, name: str, given: Given) -> Car:
        return replace(self, given=self.given | {name: given})

    def at(self, revision: int) -> Car:
        """The car with its facts as they stood on a revision, as best known now."""
        facts: dict[str, Given] = {}
        for name, found in self.given.items():
            one: Given | None = found
            while one is not None and one.since > revision:
                one = one.earlier
            if one is not None:
                facts[name] = one
        return replace(self, given=facts)
