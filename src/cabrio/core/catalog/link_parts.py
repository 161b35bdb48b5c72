"""What holds a live axle to the chassis: brackets with their holes, and the bars between them."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Annotated, Any

from ..errors import Impossible
from .fields import Gives, OneOf, Own, Table, Words
from .part import Chosen, Part, part
from .quantities import PLACE_WORDS, PLACES, Shape

Hole = tuple[float, float]
"""A bolt hole: x ahead of the axle centre line, z above the ground [m]."""


def _holes(rows: list[tuple[float, ...]]) -> tuple[Hole, ...]:
    return tuple((row[0], row[1]) for row in rows)


HOLES = Table(
    "Holes",
    (
        Own("Ahead of the axle", "dimension", least=-2.0, most=4.0),
        Own("Above the ground", "dimension", least=-0.1, most=1.5),
    ),
    _holes,
    list,
    "At ride height, the lowest hole first; take off the height of any blocks.",
    (Gives("bolt_x"), Gives("bolt_z")),
)
GOES_ON = OneOf(
    "Goes on",
    (("", "any bolt"), *((place, PLACE_WORDS[place]) for place in PLACES[Shape.BOLT])),
    "Which bolt it is for, so that its set can be fitted in one press.",
)
HOLE_CHOSEN = {
    "upper chassis": "upper_link_hole",
    "upper axle": "upper_axle_hole",
    "lower chassis": "lower_link_hole",
    "lower axle": "lower_axle_hole",
}


@part(
    "bracket",
    at=Shape.BOLT,
    label="Link bracket",
    plural="Link brackets",
    feeds=("bolt_x", "bolt_z"),
)
@dataclass(frozen=True)
class Bracket(Part):
    """A bracket for one end of a pair of bars, with its bolt holes. The left one; the right mirrors it."""

    holes: Annotated[tuple[Hole, ...], HOLES]
    set_code: Annotated[
        str, Words("Set", "The brackets that go on together, such as: long bars.")
    ] = ""
    goes_on: Annotated[str, GOES_ON] = ""

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        setting = HOLE_CHOSEN.get(place)
        at = 1.0 if setting is None else chosen(setting).value
        if len(self.holes) == 1:
            at = 1.0
        if at is None or not 1 <= at <= len(self.holes):
            return {"bolt_x": None, "bolt_z": None}
        x, z = self.holes[round(at) - 1]
        return {"bolt_x": x, "bolt_z": z}


@part("link", at=Shape.LINK, label="Link", plural="Links")
@dataclass(frozen=True)
class Link(Part):
    """A bar between two brackets: its length between bolt centres and the threads of its ends."""

    length: Annotated[
        float | None, Own("Length between centres", "dimension", above=0.0, most=3.0)
    ] = None
    shortest: Annotated[
        float | None,
        Own(
            "Shortest", "dimension", "Both ends screwed in, their jam nuts on.", above=0.0, most=3.0
        ),
    ] = None
    longest: Annotated[
        float | None,
        Own(
            "Longest",
            "dimension",
            "The maker's least thread still engaged at both ends.",
            above=0.0,
            most=3.0,
        ),
    ] = None
    left_hand: Annotated[float | None, Gives("left_hand_pitch", at="upper right")] = None
    right_hand: Annotated[float | None, Gives("right_hand_pitch", at="upper right")] = None

    def __post_init__(self) -> None:
        lengths = [one for one in (self.shortest, self.length, self.longest) if one is not None]
        if lengths != sorted(lengths):
            raise Impossible(
                "A link is no shorter than its shortest and no longer than its longest.",
                number="length",
            )
