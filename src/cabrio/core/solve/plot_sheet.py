"""The bolts of a live axle as plotted on blocks: both sides, what their mean is, what cannot be."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.parts import Hole
from ..catalog.quantities import PLACES, Shape
from ..catalog.units import show
from ..errors import Impossible, OutOfRange

BOLTS = PLACES[Shape.BOLT]
SIDES_AGREE, LENGTH_AGREES, ON_A_HOLE = 0.003, 0.006, 0.004
"""How far left and right, a bar's length, and a bolt and its hole may be apart [m]; workshop practice."""
HIGHEST_BLOCK = 1.0


@dataclass(frozen=True)
class Plotted:
    """The bolts (4, 2) ahead of the axle and above the ground [m], mean of the sides measured; how much
    farther and higher the right ones are (4, 2), None with one side; and what to look at again."""

    bolts: Array
    right_less_left: Array | None
    doubts: tuple[str, ...]


def plotted(
    left: Array,
    right: Array | None,
    block: float,
    *,
    lengths: tuple[float | None, float | None] = (None, None),
    holes: Sequence[tuple[Hole, ...]] = ((), (), (), ()),
    profile: str = "n_mm",
) -> Plotted:
    """Heights over the floor less the blocks the car stands on. `lengths` are the upper and lower bar's
    between centres where known, `holes` each bolt's bracket's.

    Raises OutOfRange for a block that no car stands on, Impossible for a bolt under the ground, two in
    one place, or a bar that runs back from the axle.
    """
    if not 0 <= block <= HIGHEST_BLOCK:
        raise OutOfRange(
            "The blocks must be between 0 and 1 m high.",
            number="block",
            value=block,
            allowed="0 to 1 m",
        )
    sides = [side - np.array([0.0, block]) for side in (left, right) if side is not None]
    for side in sides:
        _refuse(side)
    bolts: Array = np.mean(sides, axis=0)
    apart = sides[1] - sides[0] if len(sides) > 1 else None
    doubts = [
        *_sides(apart, profile),
        *_lengths(bolts, lengths, profile),
        *_off_a_hole(bolts, holes, profile),
    ]
    return Plotted(bolts, apart, tuple(doubts))


def _refuse(side: Array) -> None:
    for i, (_, high) in enumerate(side):
        if high <= 0:
            raise Impossible(
                f"{_name(i)} comes out under the ground once the blocks are taken off.",
                number="bolt_z",
                place=BOLTS[i],
            )
    for chassis, axle in ((0, 1), (2, 3)):
        if float(np.linalg.norm(side[chassis] - side[axle])) < 0.05:
            raise Impossible(
                f"Both bolts of the {BOLTS[chassis].split()[0]} bar are in one place.",
                number="bolt_x",
                place=BOLTS[chassis],
            )
        if side[chassis][0] <= side[axle][0]:
            raise Impossible(
                f"The {BOLTS[chassis].split()[0]} bar runs back from the axle: its chassis bolt must "
                "be ahead of its axle bolt.",
                number="bolt_x",
                place=BOLTS[chassis],
            )


def _sides(apart: Array | None, profile: str) -> list[str]:
    found = []
    for i, (ahead, up) in enumerate([] if apart is None else apart):
        for off, more, less in ((ahead, "farther ahead", "farther back"), (up, "higher", "lower")):
            if abs(off) > SIDES_AGREE:
                size = show(abs(float(off)), "fine_dimension", profile)
                found.append(
                    f"{_name(i)} is {size} {more if off > 0 else less} on the right: measure both "
                    "again, then look at the brackets."
                )
    return found


def _lengths(bolts: Array, lengths: Sequence[float | None], profile: str) -> list[str]:
    found = []
    for (chassis, axle), length in zip(((0, 1), (2, 3)), lengths, strict=True):
        worked = float(np.linalg.norm(bolts[chassis] - bolts[axle]))
        if length is not None and abs(worked - length) > LENGTH_AGREES:
            found.append(
                f"The {BOLTS[chassis].split()[0]} bar works out "
                f"{show(worked, 'dimension', profile)} between its bolts, it is "
                f"{show(length, 'dimension', profile)}: one of them is off."
            )
    return found


def _off_a_hole(bolts: Array, holes: Sequence[tuple[Hole, ...]], profile: str) -> list[str]:
    found = []
    for i, drilled in enumerate(holes):
        if len(drilled) < 2:
            continue
        off = float(np.linalg.norm(np.array(drilled) - bolts[i], axis=-1).min())
        if off > ON_A_HOLE:
            found.append(
                f"{_name(i)} lies {show(off, 'fine_dimension', profile)} off the nearest hole of its "
                "bracket."
            )
    return found


def _name(i: int) -> str:
    bar, end = BOLTS[i].split()
    return f"{bar.capitalize()} bar's {end} bolt"
