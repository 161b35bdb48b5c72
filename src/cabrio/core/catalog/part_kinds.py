"""Every kind of part there is, listed by hand: what they feed and which setting picks inside them."""

from __future__ import annotations

from functools import cache

from ..errors import UnknownName
from .axle_points import AxlePoints
from .damper import Damper
from .fields import NUMBERS
from .link_parts import Bracket, Link
from .part import Part, PartKind
from .parts import AeroMap, Ballast, Bar, BumpRubber, OtherPart, Spacers, Spring, Tyre
from .points import Points

PART_TYPES: tuple[type[Part], ...] = (
    Spring,
    Damper,
    Bar,
    BumpRubber,
    Tyre,
    Spacers,
    Bracket,
    Link,
    Points,
    AxlePoints,
    Ballast,
    AeroMap,
    OtherPart,
)


@cache
def part_kinds() -> dict[str, PartKind]:
    """Every kind of part by name, in the dictionary's order of the set numbers that choose them."""
    order = list(NUMBERS)
    kinds = sorted((cls.kind for cls in PART_TYPES), key=lambda kind: order.index(kind.name))
    return {kind.name: kind for kind in kinds}


def part_kind(name: str) -> PartKind:
    """Raises UnknownName."""
    try:
        return part_kinds()[name]
    except KeyError:
        raise UnknownName(f"There is no kind of part called “{name}”.", value=name) from None


@cache
def fed_by_parts() -> dict[str, str]:
    """Entered numbers that come with a part: the kind that brings each."""
    return {number: kind.name for kind in part_kinds().values() for number in kind.feeds}


@cache
def picked_by(setting: str) -> frozenset[str]:
    """Numbers that a part gives by a setting: a bar's arm by its hole, a tyre's rate by its pressure."""
    kinds = part_kinds().values()
    picked = {
        field.gives.number
        for kind in kinds
        for field in kind.fields
        if field.gives and field.gives.chosen_by == setting
    }
    return frozenset(picked.union(*(kind.feeds for kind in kinds if setting in kind.follows)))
