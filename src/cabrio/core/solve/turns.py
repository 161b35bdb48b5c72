"""Turns of the four perches for a wanted cross, with every ride height kept (reference §6)."""

from __future__ import annotations

from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..checks import finite
from ..constants import STANDARD_GRAVITY
from ..errors import Impossible, OutOfRange
from ..figures.shapes import LR, RF
from ..statics.equilibrium import Change, Standing, StandingCar, predict, solve

CORNERS = PLACES[Shape.CORNER]


@dataclass(frozen=True)
class Turned:
    """Perch turns (4,), + raises the body, and what the car then stands at."""

    turns: Array
    standing: Standing

    @property
    def cross(self) -> float:
        return cross_of(self.standing.pads)


@dataclass(frozen=True)
class TurnsForCross:
    """`exact` keeps all four heights; `nearest` rounds each alone; `best` of the sixteen roundings.

    `notes` say what stands in the way: thread that is used up.
    """

    exact: Turned
    nearest: Turned
    best: Turned
    notes: tuple[str, ...] = ()


def cross_of(pads: Array) -> float:
    """The diagonal right front and left rear over the total [0..1]."""
    return float((pads[RF] + pads[LR]) / pads.sum())


def turns_for_cross(
    car: StandingCar,
    target: float,
    pitches: Array,
    step: float,
    left_on_thread: tuple[Array, Array] | None = None,
) -> TurnsForCross:
    """Turns that bring the cross to `target` [0..1], bars free; `pitches` in m a turn, `step` in turns.

    `left_on_thread` are the least and most turns still possible at each corner. Raises Impossible
    where a wheel would leave its pad on the way.
    """
    finite(perch_pitch=pitches, step=step)
    if not 0 < target < 1:
        raise OutOfRange(
            "A cross lies between 0 and 1.",
            number="cross_share",
            value=target,
            allowed="0 to 100 %",
        )
    _turnable(pitches, step)
    free = replace(car, bars_connected=False)
    exact = turns_keeping_heights(free, target) / pitches

    def at(turns: Array) -> Turned:
        return Turned(turns, predict(free, Change(perch_shifts=turns * pitches)))

    roundings = _roundings(exact, step)
    stood = solve(free, Change(perch_shifts=roundings * pitches))
    cross = (stood.pads[:, RF] + stood.pads[:, LR]) / stood.pads.sum(axis=1)
    moved = (stood.ride_height_changes**2).sum(axis=1)
    order = [
        (
            round(abs(cross[i] - target), 12),
            round(float(moved[i]), 15),
            np.abs(roundings[i]).sum(),
            i,
        )
        for i in range(len(roundings))
    ]
    best = roundings[min(order)[3]] + 0.0
    nearest = np.round(exact / step) * step + 0.0
    return TurnsForCross(at(exact), at(nearest), at(best), _notes(best, left_on_thread))


def turns_keeping_heights(car: StandingCar, target: float) -> Array:
    """Perch shifts along the spring [m] that reach the cross and move the body nowhere.

    Load can only move round the diagonals, by the one pattern that keeps the weight and both of its
    moments; each wheel sinks on its tyre by its own share of it, and the perch makes that up.
    """
    pattern = np.linalg.svd(car.places.T)[2][-1]
    gain = pattern[RF] + pattern[LR]
    if abs(gain) < 1e-12:
        raise Impossible(
            "The cross of this car does not move with its perches.", number="cross_share"
        )
    loads = pattern * (target - cross_of(car.pads)) * car.pads.sum() * STANDARD_GRAVITY / gain
    return _shifts_carrying(car, loads)


def turns_restoring_heights(
    car: StandingCar, ballast: tuple[tuple[float, float, float], ...], pitches: Array
) -> Turned:
    """Perch turns that bring all four ride heights back after ballast (kg, m behind the front, m left).

    Each wheel keeps what the ballast laid on it: its tyre sinks, its spring gives, its perch makes up
    for both. Raises Impossible where a wheel would leave its pad.
    """
    if np.any(pitches <= 0):
        raise OutOfRange(
            "The thread pitch must be above zero.", number="perch_pitch", allowed="above 0"
        )
    free = replace(car, bars_connected=False)
    added = Change(ballast=ballast)
    loads = (predict(free, added).pads - car.pads) * STANDARD_GRAVITY
    shifts = _shifts_carrying(free, loads)
    standing = predict(free, replace(added, perch_shifts=shifts))
    return Turned(shifts / pitches, standing)


def _shifts_carrying(car: StandingCar, loads: Array) -> Array:
    """Perch shifts along the spring [m] under which the wheels carry these loads [N] more, body still."""
    sunk = car.to_stations @ (-loads / car.tyre_rates)
    pushed = np.linalg.solve(car.to_stations.T, loads)
    shift: Array = (pushed - car.rates_at_wheel * sunk) / car.perch_rates
    return shift


def _notes(turns: Array, left: tuple[Array, Array] | None) -> tuple[str, ...]:
    if left is None:
        return ()
    found = []
    for place, turn, least, most in zip(CORNERS, turns, *left, strict=True):
        if not least <= turn <= most:
            found.append(
                f"{place}: {turn:+g} turns, but the thread has {least:+g} to {most:+g} left."
            )
    return tuple(found)


def turns_for_heights(car: StandingCar, changes: Array, pitches: Array, step: float) -> Turned:
    """Perch turns, in whole steps, that change the four ride heights by `changes` [m], the cross kept.

    Of the roundings the one whose heights come nearest; cross decides between equals. The changes
    have to be those of a rigid body: what is asked of the four beyond that is shared out. Raises
    OutOfRange for a pitch or step not above zero, Impossible where a wheel would leave its pad.
    """
    finite(perch_pitch=pitches, step=step, ride_height=changes)
    _turnable(pitches, step)
    free = replace(car, bars_connected=False)
    each = solve(free, Change(perch_shifts=np.diag(pitches)))
    cross = _cross_gain(free, each.pads)
    rows = np.vstack((each.ride_height_changes.T, cross))
    exact = np.linalg.lstsq(rows, np.append(changes, 0.0), rcond=None)[0]
    roundings = _roundings(exact, step)
    missed = roundings @ rows.T - np.append(changes, 0.0)
    order = [
        (round(float((one[:4] ** 2).sum()), 12), abs(float(one[4])), i)
        for i, one in enumerate(missed)
    ]
    turns = roundings[min(order)[2]] + 0.0
    return Turned(turns, predict(free, Change(perch_shifts=turns * pitches)))


def _turnable(pitches: Array, step: float) -> None:
    if step <= 0 or np.any(pitches <= 0):
        raise OutOfRange(
            "The step and the thread pitch must be above zero.",
            number="perch_pitch",
            allowed="above 0",
        )


def _roundings(exact: Array, step: float) -> Array:
    """The sixteen ways to round four turns up or down to whole steps (16, 4)."""
    low, high = np.floor(exact / step + 1e-9) * step, np.ceil(exact / step - 1e-9) * step
    return np.array(list(product(*zip(low, high, strict=True))))


def _cross_gain(car: StandingCar, pads: Array) -> Array:
    """How far the cross moves for each row of pads (…, 4)."""
    found: Array = (pads[..., RF] + pads[..., LR]) / pads.sum(-1) - cross_of(car.pads)
    return found
