"""Trying changes on a car without booking them: the one engine behind slip, advice and questions.

A perch, a spring, a tyre, ballast or a preload moves load and heights that no figure works out from
the old readings; those go through the seven-unknown equilibrium. What it predicts of a read number is
named as predicted; what cannot be known is said, with what it would need.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any

import numpy as np

from ..arrays import Array
from ..car.fitted import FittedNumbers, Rows, numbers_from_parts
from ..car.lines import Line, car_after, with_lines
from ..car.model import Car, Setup
from ..catalog.parts import Ballast, Tyre
from ..catalog.quantities import PLACES, Shape
from ..errors import CoreError
from ..graph.evaluate import split_partial, work_in_part
from ..graph.registry import Need, Worked, as_array, downstream, figures, number_named, numbers, run
from ..record.gain import Gain
from ..record.recheck import Recheck, rechecks
from ..solve.preload import Bite
from ..statics import Change, StandingCar, predict
from ..under_load.of_sheet import standing_lift
from .build import MovedRow, Sheet, moved, moved_by_points

CORNERS = PLACES[Shape.CORNER]
NEEDED = (
    "wheelbase",
    "track",
    "pad_mass",
    "unsprung_mass",
    "spring_rate",
    "motion_ratio",
    "tyre_rate",
    "spring_base",
    "wheel_rate",
    "spring_motion_ratio",
)
PREDICTED = ("pad_mass", "ride_height")


@dataclass(frozen=True)
class Unknown:
    """Something the change moves that cannot be told, and the numbers it would need."""

    words: str
    needs: tuple[Need, ...] = ()

    @property
    def sentence(self) -> str:
        needs = ", ".join(need.sentence for need in self.needs)
        return f"{self.words}: not known" + (f", it needs {needs}." if needs else ".")


PERCHES = "A perch moves {:.0f} % of the load worked out for it, as this car's own pads told."
BITE_UNKNOWN = Unknown("Bite per flat (from pads read at neutral and at a flat)")


@dataclass
class WhatIf:
    """The figures after changes that were only tried, and what their size rests on."""

    sheet: Sheet
    lines: tuple[Line, ...]
    jobs: tuple[str, ...]
    car: Car
    setup: dict[str, list[Any]]
    parts: FittedNumbers
    worked: Worked
    predicted: tuple[str, ...] = ()
    unknown: tuple[Unknown, ...] = field(default=())
    brought: frozenset[str] = frozenset()
    """Numbers that parts bring otherwise than before."""
    notes: tuple[str, ...] = ()
    """What its size rests on besides the readings."""

    def value(self, name: str) -> Array | None:
        return self.worked.values.get(name)

    @cached_property
    def moved(self) -> list[MovedRow]:
        by_points = moved_by_points(self.sheet.parts, self.parts)
        return moved(self.sheet.worked, self.worked) + by_points

    @cached_property
    def as_sheet(self) -> Sheet:
        """The car after the change, as a sheet of its own: where its numbers came from is as before."""
        before = self.sheet
        return Sheet(
            self.car,
            self.setup,
            self.worked,
            before.origins,
            before.standings,
            before.bite,
            before.bites,
            before.perches,
        )

    @property
    def rechecks(self) -> list[Recheck]:
        return rechecks(self.lines, self.sheet.car, self.jobs)

    @property
    def refused(self) -> list[CoreError]:
        """Refusals that were not there before."""
        return [
            one
            for name, one in self.worked.refused.items()
            if name not in self.sheet.worked.refused
        ]

    @property
    def effect_known(self) -> bool:
        """Whether anything was worked from the changed numbers: only then can nothing be said to move."""
        return bool(self._reached & {*self.worked.values, *self.worked.partial})

    @cached_property
    def _reached(self) -> frozenset[str]:
        return frozenset(
            downstream({line.name for line in self.lines} | self.brought) & set(figures())
        )


def standing_car(sheet: Sheet) -> StandingCar | None:
    """The car on its pads, bars free; None where something it needs is not known."""
    values = sheet.worked.values
    return standing_of(values) if all(name in values for name in NEEDED) else None


def standing_of(values: Mapping[str, Array]) -> StandingCar:
    """The same from numbers that are all there."""
    return StandingCar(
        wheelbase=float(values["wheelbase"]),
        tracks=values["track"],
        pads=values["pad_mass"],
        unsprung=values["unsprung_mass"],
        spring_rates=values["spring_rate"],
        motion_ratios=values["spring_motion_ratio"],
        tyre_rates=values["tyre_rate"],
        spring_bases=values["spring_base"],
        bars_connected=False,
        wheel_rates=values["wheel_rate"],
        ride_rates=values["rate_at_ride"],
    )


def try_lines(
    sheet: Sheet,
    lines: Iterable[Line],
    jobs: Iterable[str] = (),
    bite: Bite | None = None,
    wanted: Iterable[str] | None = None,
) -> WhatIf:
    """The car's figures if these lines were made, or only those wanted and what they rest on.

    `bite` is the bite per flat to go by instead of the one this car's own pads told.

    Raises Impossible where the change would lift a wheel off its pad.
    """
    lines = tuple(lines)
    setup, car = with_lines(sheet.setup, lines), car_after(sheet.car, lines)
    before = sheet.worked.values
    arrays = {n: value for n, value in before.items() if n not in figures()}
    parts = numbers_from_parts(car, setup)
    partial = {n: value for n, value in sheet.worked.partial.items() if n not in figures()}
    _apply(car, setup, lines, arrays, partial)
    brought = _apply_part_numbers(car, sheet.parts.rows, parts.rows, arrays, partial)
    predicted, unknown, notes = _predict_standing(sheet, car, setup, arrays)
    preloaded, without = _preloaded(lines, arrays, bite or sheet.bite)
    predicted, unknown = (
        predicted + preloaded,
        unknown + without + _update_downforce(car, arrays, before),
    )
    if arrays.get("lift_area") is not before.get("lift_area"):
        brought |= {"lift_area"}
    # what the changes do not reach is taken as it is: it was worked once already
    changed = {n for n, a in arrays.items() if a is not before.get(n)}
    changed |= {n for n in before if n not in arrays and n not in figures()}
    reached = downstream(changed)
    kept = {n: value for n, value in before.items() if n in figures() and n not in reached}
    needs = {
        name: Need(name, number_named(name).shape.places)
        for name in numbers()
        if name not in arrays and name not in figures()
    }
    worked = split_partial(run(arrays | kept, needs, wanted))
    if partial:
        work_in_part(worked, partial, wanted)
    return WhatIf(
        sheet, lines, tuple(jobs), car, setup, parts, worked, predicted, unknown, brought, notes
    )


def _apply(
    car: Car,
    setup: dict[str, list[Any]],
    lines: tuple[Line, ...],
    arrays: dict[str, Array],
    partial: dict[str, Array],
) -> None:
    """The entered numbers after the lines: settings and facts."""
    for name in {line.name for line in lines}:
        number = number_named(name)
        if number.is_part:
            continue
        known = car.row(name)
        if number.is_fact:
            _put(name, known, arrays, partial)
            continue
        chosen = list(setup.get(name) or ())
        row = [known[i] if one is None else one for i, one in enumerate(chosen)]
        if (now := arrays.get(name, partial.get(name))) is not None:
            # a place without a line stays what it is known to be, by a check that found another value
            changed = {number.index(line.place) for line in lines if line.name == name}
            row = [
                one if i in changed or np.isnan(was) else float(was)
                for i, (one, was) in enumerate(zip(row, now.reshape(-1), strict=True))
            ]
        _put(name, row, arrays, partial)


def _apply_part_numbers(
    car: Car, before: Rows, after: Rows, arrays: dict[str, Array], partial: dict[str, Array]
) -> frozenset[str]:
    """What the parts bring otherwise than before; answers with the names."""
    brought = frozenset(name for name, row in after.items() if row != before.get(name))
    for name in brought:
        _put(name, after[name], arrays, partial)
    gone = before.keys() - after.keys()
    for name in gone:
        # what came with a part that is off again is as it was given, or not known
        _put(name, car.row(name), arrays, partial)
    return brought | gone


def _put(
    name: str, row: Sequence[object], arrays: dict[str, Array], partial: dict[str, Array]
) -> None:
    """Enter a number where every place has one, and in part where some do."""
    arrays.pop(name, None)
    partial.pop(name, None)
    if any(one is not None for one in row):
        into = partial if None in row else arrays
        into[name] = as_array(number_named(name), row)


def _predict_standing(
    sheet: Sheet, car: Car, setup: Setup, arrays: dict[str, Array]
) -> tuple[tuple[str, ...], tuple[Unknown, ...], tuple[str, ...]]:
    """Pads and heights after what moves the standing car, from where it stood when they were read: what
    is predicted, what is not known, what to say of it."""
    before = sheet.worked.values
    perch = run(arrays, {}, ["perch_shift"]).values.get("perch_shift")
    turned = _changed(before.get("perch_turns"), arrays.get("perch_turns"))
    sprung = _changed(before.get("spring_rate"), arrays.get("spring_rate")) or _changed(
        before.get("spring_free_length"), arrays.get("spring_free_length")
    )
    tyres = _changed(before.get("tyre_rate"), arrays.get("tyre_rate"))
    added = _ballast(car, setup) != _ballast(sheet.car, sheet.setup)
    radii = _radii(sheet, car, setup)
    if not (turned or sprung or tyres or added or radii.any()):
        return (), (), ()
    standing = standing_car(sheet)
    needs = list(sheet.worked.lacking(NEEDED)) if standing is None else []
    shift = np.zeros(4)
    if turned:
        if perch is None or "perch_shift" not in before:
            needs += [Need(n, ()) for n in ("perch_turns", "perch_pitch") if n not in before]
        else:
            shift = perch - before["perch_shift"]
    longer = np.zeros(4)
    if sprung:
        old, new = before.get("spring_free_length"), arrays.get("spring_free_length")
        if old is None or new is None:
            needs.append(Need("spring_free_length", ()))
        else:
            longer = new - old
        if "spring_rate" not in arrays:
            needs.append(Need("spring_rate", ()))
    if standing is None or needs:
        return (), (Unknown("Pads and heights after this", tuple(dict.fromkeys(needs))),), ()
    stood = predict(
        standing,
        Change(
            perch_shifts=shift,
            spring_rates=arrays["spring_rate"],
            spring_free_length_changes=longer,
            tyre_rates=arrays["tyre_rate"],
            tyre_radius_changes=radii,
            ballast=tuple(_ballast_change(sheet, car, setup)),
        ),
    )
    pads, notes = stood.pads, tuple[str, ...]()
    if turned and sheet.perches is not None:
        pads = pads + _perch_correction(standing, shift, sheet.perches)
        notes = (PERCHES.format(100 * sheet.perches.share),)
    arrays["pad_mass"] = pads
    if "ride_height" not in arrays:
        return ("pad_mass",), (Unknown("Heights after this", (Need("ride_height", ()),)),), notes
    arrays["ride_height"] = arrays["ride_height"] + stood.ride_height_changes
    return PREDICTED, (), notes


def _perch_correction(standing: StandingCar, shift: Array, gain: Gain) -> Array:
    """What the pads do beside what is worked where the perches of this car move another share of it [kg]:
    round the diagonals only, so that the weight and both its moments stay."""
    moved = predict(standing, Change(perch_shifts=shift)).pads - standing.pads
    pattern = np.linalg.svd(standing.places.T)[2][-1]
    found: Array = (gain.share - 1.0) * pattern * float(pattern @ moved)
    return found


def _changed(before: Array | None, after: Array | None) -> bool:
    if before is after:
        return False
    return before is None or after is None or not np.array_equal(before, after)


def _ballast(car: Car, setup: Setup) -> list[tuple[float, float, float]]:
    """Mass [kg], behind the front axle and to the left [m] of every piece fitted."""
    pieces = (car.fitted(setup, "ballast", place) for place in PLACES[Shape.BALLAST])
    return [
        (piece.mass, piece.behind_front, piece.to_left)
        for piece in pieces
        if isinstance(piece, Ballast)
    ]


def _ballast_change(sheet: Sheet, car: Car, setup: Setup) -> list[tuple[float, float, float]]:
    """What is added, and what is taken off as mass below zero at its place."""
    off = [(-mass, x, y) for mass, x, y in _ballast(sheet.car, sheet.setup)]
    return _ballast(car, setup) + off


def _radii(sheet: Sheet, car: Car, setup: Setup) -> Array:
    """How much larger the free radius of each tyre is, where both were measured [m]."""
    change = np.zeros(4)
    for i, place in enumerate(CORNERS):
        old, new = sheet.car.fitted(sheet.setup, "tyre", place), car.fitted(setup, "tyre", place)
        if isinstance(old, Tyre) and isinstance(new, Tyre) and old.diameter and new.diameter:
            change[i] = (new.diameter - old.diameter) / 2
    return change


def _update_downforce(
    car: Car, arrays: dict[str, Array], before: Mapping[str, Array]
) -> tuple[Unknown, ...]:
    """Downforce areas by the aero map where one is fitted, or by the facts once it is off."""
    if all(arrays.get(name) is before.get(name) for name in ("air_map", "ride_height")):
        return ()
    if "air_map" not in arrays:
        if "air_map" in before:
            _put("lift_area", car.row("lift_area"), arrays, {})
        return ()
    lift = standing_lift(arrays)
    if lift is None:
        return (Unknown("Downforce by the map", (Need("ride_height", ()),)),)
    arrays["lift_area"] = lift
    return ()


def _preloaded(
    lines: Iterable[Line], arrays: dict[str, Array], bite: Bite | None
) -> tuple[tuple[str, ...], tuple[Unknown, ...]]:
    """Rear bite after links are turned by flats, from the pads the team read at other flats."""
    flats = sum(
        (line.new or 0.0) - (line.old or 0.0)
        for line in lines
        if number_named(line.name).quantity == "flats"
    )
    if not flats:
        return (), ()
    if bite is None or "pad_mass" not in arrays:
        return (), (BITE_UNKNOWN,)
    half = bite.per_flat * flats / 2
    # load goes round the diagonals: what the left rear gains, the left front loses by its track
    front = half * float(arrays["track"][1] / arrays["track"][0]) if "track" in arrays else half
    arrays["pad_mass"] = arrays["pad_mass"] + np.array([-front, front, half, -half])
    return ("pad_mass",), ()


def moved_by(
    sheet: Sheet, trial: WhatIf, name: str, place: str
) -> tuple[float | None, float | None]:
    """A figure before and after at one place; None where it has no value."""
    at = number_named(name).index(place)
    before, after = sheet.by_place(name), trial.worked.by_place(name)
    return (before[at] if before else None), (after[at] if after else None)


NEEDS_AN_ANSWER = (
    "wheel_rate",
    "bind_margin",
    "roll_gradient",
    "launch_transfer",
    "least_wheel_rate",
    "swing_slope",
)
"""Figures whose refusal means that the car cannot be like that, and not only that a question falls away."""


def refused_newly(sheet: Sheet, trial: WhatIf) -> list[CoreError]:
    """What the change makes impossible that was possible before."""
    return [
        refusal
        for name, refusal in trial.worked.refused.items()
        if name in NEEDS_AN_ANSWER and name not in sheet.worked.refused
    ]
