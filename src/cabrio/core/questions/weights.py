"""Questions of weights and heights: what to turn, and which ballast to bolt down."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import product

import numpy as np

from ..arrays import Array
from ..car.lines import Line, value_now
from ..catalog.parts import Ballast
from ..catalog.quantities import PLACES, Shape
from ..catalog.units import show, symbol_of
from ..errors import CoreError, Impossible, Missing
from ..graph.registry import number_named
from ..sheet.build import Sheet
from ..sheet.what_if import WhatIf, moved_by, standing_car, try_lines
from ..solve.ballast import PARTS, Place, Share, mass_for
from ..solve.preload import flats_for_bite as solve_flats
from ..solve.preload import flats_text
from ..solve.turns import cross_of, turns_restoring_heights
from ..solve.turns import turns_for_cross as solve_turns
from ..solve.turns import turns_for_heights as solve_heights
from ..statics.equilibrium import StandingCar
from .question import MOST_OFFERED, Proposal, as_proposal, lines_text, proposal, question, stepped

TURNED = "perch_turns"
MOST_PIECES, MOST_TRIED = 16, 48
"""Pieces of ballast on the shelf whose every combination is looked at, and how many of them are worked."""


def _standing(sheet: Sheet) -> tuple[StandingCar, Array, float]:
    """The car on its pads, the pitch of every perch [m] and the step it turns by."""
    car, pitch = standing_car(sheet), sheet.worked.values.get("perch_pitch")
    if car is None or pitch is None:
        raise Missing(
            "Turns need the pads, springs, tyres and the perch pitch of this car.",
            number="perch_pitch",
        )
    return car, np.repeat(pitch, 2), number_named(TURNED).step or 0.25


def _by_place(turns: Array) -> dict[str, float]:
    places = number_named(TURNED).shape.places
    return {place: float(turn) for place, turn in zip(places, turns, strict=True)}


@question(label="Turns for a cross")
def turns_for_cross(sheet: Sheet, cross_share: float) -> list[Proposal]:
    """Perch turns that bring the cross to a target with every ride height kept, bars free."""
    car, pitches, step = _standing(sheet)
    aim = cross_share
    if sheet.perches is not None:
        # turned further, or less far, by what a turn of this very car moves
        here = cross_of(car.pads)
        aim = here + (cross_share - here) / sheet.perches.share
    found = solve_turns(car, aim, pitches, step)
    offered: list[tuple[str, dict[str, float]]] = []
    for words, turned in (
        ("Closest in quarter turns", found.best),
        ("Each corner rounded", found.nearest),
    ):
        turns = _by_place(turned.turns)
        if not offered or turns != offered[0][1]:
            offered.append((words, turns))
    return [
        proposal(
            sheet,
            words,
            stepped(sheet, TURNED, turns),
            ("cross_share", "pad_mass"),
            found.notes,
        )
        for words, turns in offered
    ]


@question(label="Turns for ride heights")
def turns_for_heights(
    sheet: Sheet, axle_height_front: float, axle_height_rear: float
) -> list[Proposal]:
    """Perch turns that bring both axles to their heights with the cross kept, bars free."""
    car, pitches, step = _standing(sheet)
    now = sheet.worked.values.get("axle_height")
    if now is None:
        raise Missing("Turns for heights start from heights that were read.", number="ride_height")
    wanted = np.repeat(np.array([axle_height_front, axle_height_rear]) - now, 2)
    found = solve_heights(car, wanted, pitches, step)
    lines = stepped(sheet, TURNED, _by_place(found.turns))
    return [proposal(sheet, "Nearest whole steps", lines, ("axle_height", "cross_share"))]


def turns_after_ballast(sheet: Sheet, place: Place, mass: float) -> tuple[Line, ...]:
    """Perch turns, in whole steps, that bring the heights back after a mass [kg] put at a place.

    Raises Missing without the perch pitch, Impossible where a wheel would leave its pad.
    """
    car, pitches, step = _standing(sheet)
    turned = turns_restoring_heights(car, ((mass, place.behind_front, place.left),), pitches)
    return tuple(stepped(sheet, TURNED, _by_place(np.round(turned.turns / step) * step)))


@question(label="Flats for a rear bite")
def flats_for_bite(sheet: Sheet, rear_bite: float) -> list[Proposal]:
    """Link preload, in half flats from neutral, that brings the rear bite to a wanted one, by what this
    car's own pads said at other flats."""
    if sheet.bite is None:
        raise Missing(
            "Bite per flat is learned from this car: read the pads at neutral and at a flat, the rest "
            "of the setup alike.",
            number="link_preload",
        )
    profile = sheet.car.profile
    flats = solve_flats(sheet.bite, rear_bite, profile=profile)
    old = value_now(sheet.car, sheet.setup, "link_preload", "car")
    lines = [] if old == flats else [Line("link_preload", "car", old, flats)]
    error = (
        f" ± {show(sheet.bite.error, 'mass', profile, unit=False)}"
        if sheet.bite.error is not None
        else ""
    )
    slope = show(sheet.bite.per_flat, "mass", profile, unit=False)
    note = (
        f"{slope}{error} {symbol_of('mass', profile)} per flat, from {sheet.bite.count} readings of the "
        "pads."
    )
    return [
        proposal(sheet, flats_text(flats, signed=True), lines, ("rear_bite", "pad_mass"), (note,))
    ]


@question(label="Ballast for a front share")
def ballast_for_front(sheet: Sheet, front_share: float) -> list[Proposal]:
    """Pieces of ballast on the shelf, at their places, that come nearest to a front share."""
    return _ballast(sheet, "front_share", front_share, "front")


@question(label="Ballast for a left share")
def ballast_for_left(sheet: Sheet, left_share: float) -> list[Proposal]:
    """Pieces of ballast on the shelf, at their places, that come nearest to a left share."""
    return _ballast(sheet, "left_share", left_share, "left")


@question(label="Ballast for a minimum mass")
def ballast_for_mass(sheet: Sheet, total_mass: float) -> list[Proposal]:
    """The least ballast on the shelf that brings the car to a mass: fewest pieces, then the steadiest cross."""

    def over(pads: Array) -> Array:
        left = pads.sum(-1) - total_mass
        return np.where(left < -1e-6, np.inf, left)

    tried = _nearest(sheet, over)
    if not tried:
        raise Impossible(
            "All the ballast on the shelf does not bring the car to that mass: add pieces to the "
            "inventory.",
            number="total_mass",
        )
    cross = sheet.worked.values["cross_share"]
    tried.sort(
        key=lambda one: (
            round(float(one.worked.values["pad_mass"].sum()), 3),
            len(one.lines),
            abs(float(one.worked.values["cross_share"] - cross)),
        )
    )
    shows = ("total_mass", "front_share", "left_share", "cross_share")
    return [as_proposal(one, lines_text(sheet, one.lines), shows) for one in tried[:MOST_OFFERED]]


def _ballast(sheet: Sheet, figure: str, target: float, share: Share) -> list[Proposal]:
    part = PARTS[share]
    ranked = [
        (abs((moved_by(sheet, one, figure, "car")[1] or 0.0) - target), len(one.lines), one)
        for one in _nearest(sheet, lambda pads: np.abs(pads @ part / pads.sum(-1) - target))
    ]
    ranked.sort(key=lambda row: row[:2])
    notes = _exactly(sheet, share, target)
    shows = (figure, "total_mass", "cross_share")
    return [
        as_proposal(one, lines_text(sheet, one.lines), shows, notes if i == 0 else ())
        for i, (_, _, one) in enumerate(ranked[:MOST_OFFERED])
    ]


def _nearest(sheet: Sheet, off: Callable[[Array], Array]) -> list[WhatIf]:
    """The choices of pieces on the shelf, bolted down in the free places, that come nearest: pads (n, 4)
    in, how far off out, infinite for what will not do.

    What each piece does to the pads adds up well enough to choose by; those chosen are worked whole.
    """
    number, places = number_named("ballast"), PLACES[Shape.BALLAST]
    worn = list(sheet.setup.get("ballast") or [None] * len(places))
    free = [place for place, code in zip(places, worn, strict=True) if code is None]
    shelf = [part for part in sheet.car.parts.of(number.name) if part.code not in worn][
        :MOST_PIECES
    ]
    if not shelf:
        raise Missing(
            "There is no ballast on the shelf: add its pieces, with their mass and place, to the "
            "inventory.",
            number="ballast",
        )
    pads = sheet.worked.values.get("pad_mass")
    if pads is None:
        raise Missing("Ballast needs the pads that the car was weighed on.", number="pad_mass")
    if not free:
        raise Impossible(
            f"All {len(places)} places for ballast are taken: take a piece off first.",
            number="ballast",
        )

    def fitted(codes: Sequence[str]) -> WhatIf:
        lines = [
            Line("ballast", place, None, code) for place, code in zip(free, codes, strict=False)
        ]
        return try_lines(sheet, lines)

    alone = np.array([fitted([one.code]).worked.values["pad_mass"] - pads for one in shelf])
    taken = np.array(list(product((False, True), repeat=len(shelf))))
    taken = taken[taken.sum(-1) <= len(free)]
    far = off(pads + taken @ alone)
    order = np.lexsort((taken.sum(-1), far))[:MOST_TRIED]
    found = []
    for i in order[np.isfinite(far[order])]:
        try:
            found.append(fitted([one.code for one, on in zip(shelf, taken[i], strict=True) if on]))
        except CoreError:
            continue
    return found


def _exactly(sheet: Sheet, share: Share, target: float) -> tuple[str, ...]:
    """How much mass would do it at each place that the shelf's pieces are for."""
    car = standing_car(sheet)
    if car is None:
        return ()
    found = []
    for part in sheet.car.parts.of("ballast"):
        if not isinstance(part, Ballast):
            continue
        try:
            answer = mass_for(car, Place(part.code, part.behind_front, part.to_left), share, target)
        except CoreError:
            continue
        found.append(f"{show(answer.mass, 'mass', sheet.car.profile)} where {part.code} sits")
    return (f"Exactly: {'; or '.join(found)}.",) if found else ()
