"""What a number is: its kind, its shape and the places it has a value at.

The entered numbers are listed in `entered`; worked ones enter from their own function (see
`registry`). Values are SI; a corner array is ordered LF, RF, LR, RR, an axle array front, rear.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from typing import Literal

from ..errors import UnknownName

Stiffens = Literal["", "up", "down", "by_counting"]
"""Which way a setting goes stiffer: a click's direction depends on where its counting starts."""


class Kind(StrEnum):
    """Where a number's value comes from."""

    GIVEN = "given"
    SET = "set"
    READ = "read"
    WORKED = "worked"


class Shape(StrEnum):
    """How many values a number has, and at which places."""

    CAR = "car"
    AXLE = "axle"
    CORNER = "corner"
    SIDE = "side"
    BOLT = "bolt"
    CLOCK = "clock"
    BAR_END = "bar_end"
    LINK = "link"
    BALLAST = "ballast"
    SPARE = "spare"

    @property
    def places(self) -> tuple[str, ...]:
        return PLACES[self]


PLACES: dict[Shape, tuple[str, ...]] = {
    Shape.CAR: ("car",),
    Shape.AXLE: ("front", "rear"),
    Shape.CORNER: ("LF", "RF", "LR", "RR"),
    Shape.SIDE: ("left", "right"),
    Shape.BOLT: ("upper chassis", "upper axle", "lower chassis", "lower axle"),
    Shape.CLOCK: ("front", "top", "rear", "bottom"),
    Shape.BAR_END: ("chassis end", "axle end"),
    Shape.LINK: ("upper left", "upper right", "lower left", "lower right"),
    Shape.BALLAST: tuple(f"ballast {i}" for i in range(1, 7)),
    Shape.SPARE: tuple(f"part {i}" for i in range(1, 7)),
}

PLACE_WORDS = {
    "car": "car",
    "front": "front",
    "rear": "rear",
    "LF": "left front",
    "RF": "right front",
    "LR": "left rear",
    "RR": "right rear",
    "left": "left",
    "right": "right",
    "upper chassis": "upper bar, chassis bolt",
    "upper axle": "upper bar, axle bolt",
    "lower chassis": "lower bar, chassis bolt",
    "lower axle": "lower bar, axle bolt",
    "top": "top",
    "bottom": "bottom",
    "chassis end": "chassis end",
    "axle end": "axle end",
}

AXLE_OF_CORNER = {"LF": "front", "RF": "front", "LR": "rear", "RR": "rear"}
FACTS = ("car", "suspension", "links", "aero")
"""Groups of given numbers that describe the car itself; the rest is the state we look at it in."""


def axle_of(place: str) -> str:
    """The axle a place belongs to; the place itself where it is none of a corner."""
    return AXLE_OF_CORNER.get(place, place)


@dataclass(frozen=True)
class Number:
    """One entry of the dictionary.

    `least` and `most` bound what is possible at all; outside `usual` a person is asked to confirm.
    All three are SI. `default` marks an optional number: what is assumed while nobody gave it.
    `system` groups the set numbers that one change to the car touches; `group` the facts that one
    look at the car gives. `wrong` says when a worked number should not be used. `layouts` names the
    rear layouts that have this number, empty for all. `checks` is the set number that a read one
    tells the true value of, and `within` how far the two may differ [SI], or `tolerance` the number
    that says so. `accepts_inverse` marks a ratio that people also write the other way up. `only_with` names a kind of part that must be fitted
    somewhere, or an entered number that must be above zero somewhere, or the figure is about a part that this car does not wear. `beyond` says what to do
    instead of a setting outside of `usual`: advice proposes none there. `is_description` marks a part that is
    a survey of the car: where there was none before, nothing was moved and no reading is upset.
    `single_corner` says that a step is taken at one corner alone, for it moves weight across the car.
    `from_load_model` marks a worked number that is no figure of the graph: the whole car is loaded for it.
    """

    name: str
    kind: Kind
    shape: Shape
    quantity: str
    label: str
    help: str
    least: float | None = None
    most: float | None = None
    above: float | None = None
    usual: tuple[float, float] | None = None
    step: float | None = None
    default: float | None = None
    system: str | None = None
    group: str = ""
    on_slip: bool = False
    sign: str = ""
    formula: str = ""
    source: str = ""
    wrong: str = ""
    layouts: tuple[str, ...] = ()
    checks: str = ""
    within: float = 0.0
    tolerance: str = ""
    stiffens: Stiffens = ""
    whole: bool = False
    accepts_inverse: bool = False
    only_with: str = ""
    beyond: str = ""
    is_description: bool = False
    single_corner: bool = False
    from_load_model: bool = False

    @property
    def is_part(self) -> bool:
        """Whether its value is the code of a part rather than a figure."""
        return self.quantity == "part"

    @property
    def is_fact(self) -> bool:
        """Whether it describes the car itself, so that work on the car can alter it."""
        return self.kind is Kind.GIVEN and self.group in FACTS

    def where(self, place: str) -> str:
        """The label with its place, as a person would say it: 'spring, left rear'."""
        return self.label if place == "car" else f"{self.label}, {PLACE_WORDS[place]}"

    def index(self, place: str) -> int:
        if place not in self.shape.places:
            wanted = ", ".join(self.shape.places)
            raise UnknownName(
                f"{self.label} has no place “{place}”: use {wanted}.", number=self.name, place=place
            )
        return self.shape.places.index(place)
