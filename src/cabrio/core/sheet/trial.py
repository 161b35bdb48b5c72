"""Trying a change on a car without booking it: the whole graph, and the standing car where it moves.

A perch or a preload moves load that no figure works out from the old pads; those go through the
seven-unknown equilibrium, as far as what is known of the car allows.
"""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from ..car.fitted import fitted
from ..car.model import Line, with_lines
from ..errors import CoreError
from ..graph.registry import Array, Worked, as_array, figures, number_named, run
from ..solve.preload import Bite
from ..statics import Change, StandingCar, predict
from .build import Sheet

NEEDED = ("wheelbase", "track", "pad_mass", "unsprung_mass", "spring_rate", "motion_ratio",
          "tyre_rate", "spring_base", "wheel_rate", "spring_motion_ratio")  # fmt: skip


@dataclass(frozen=True)
class Trial:
    """The figures after a change that was only tried, and what its size rests on."""

    worked: Worked
    predicted: tuple[str, ...] = ()

    def value(self, name: str) -> Array | None:
        return self.worked.values.get(name)


def standing_car(sheet: Sheet) -> StandingCar | None:
    """The car on its pads, bars free; None where something it needs is not known."""
    values = sheet.worked.values
    if any(name not in values for name in NEEDED):
        return None
    return StandingCar(
        wheelbase=float(values["wheelbase"]), tracks=values["track"], pads=values["pad_mass"],
        unsprung=values["unsprung_mass"], spring_rates=values["spring_rate"],
        motion_ratios=values["spring_motion_ratio"], tyre_rates=values["tyre_rate"],
        spring_bases=values["spring_base"], bars_connected=False,
        wheel_rates=values["wheel_rate"],
    )  # fmt: skip


def attempt(sheet: Sheet, lines: Iterable[Line], bite: Bite | None = None) -> Trial:
    """The car's figures if these lines were made. `bite` is the team's own bite per flat.

    Raises Impossible where the change would lift a wheel off its pad.
    """
    lines = list(lines)
    setup = with_lines(sheet.setup, lines)
    arrays = {n: value for n, value in sheet.worked.values.items() if n not in figures()}
    for name in {line.name for line in lines} - {"spring"}:
        arrays[name] = as_array(number_named(name), setup[name])
    for name, row in fitted(sheet.car, setup).items():
        if None not in row:
            arrays[name] = as_array(number_named(name), row)
        else:
            arrays.pop(name, None)
    predicted = _turned(sheet, lines, arrays) + _preloaded(lines, arrays, bite)
    return Trial(run(arrays), predicted)


def _turned(sheet: Sheet, lines: list[Line], arrays: dict[str, Array]) -> tuple[str, ...]:
    """Pads and heights after perch turns, from where the car stood when they were read."""
    turns = np.zeros(4)
    for line in lines:
        if line.name == "perch_turns":
            turns[number_named(line.name).index(line.place)] += line.new - line.old
    pitch = sheet.worked.values.get("perch_pitch")
    car = standing_car(sheet)
    if not turns.any() or pitch is None or car is None:
        return ()
    stood = predict(car, Change(perch_shifts=turns * np.repeat(pitch, 2)))
    arrays["pad_mass"] = stood.pads
    if "ride_height" not in arrays:
        return ("pad_mass",)
    arrays["ride_height"] = arrays["ride_height"] + stood.ride_height_changes
    return ("pad_mass", "ride_height")


def _preloaded(lines: list[Line], arrays: dict[str, Array], bite: Bite | None) -> tuple[str, ...]:
    """Rear bite after a change of preload, from the pads the team read at other flats."""
    flats = sum(line.new - line.old for line in lines if line.name == "link_preload")
    if not flats or bite is None or "pad_mass" not in arrays:
        return ()
    half = bite.per_flat * flats / 2
    # load goes round the diagonals: what the left rear gains, the left front loses by its track
    front = half * float(arrays["track"][1] / arrays["track"][0]) if "track" in arrays else half
    arrays["pad_mass"] = arrays["pad_mass"] + np.array([-front, front, half, -half])
    return ("pad_mass",)


def moved_by(
    sheet: Sheet, trial: Trial, name: str, place: str
) -> tuple[float | None, float | None]:
    """A figure before and after at one place; None where it has no value."""
    at = number_named(name).index(place)
    before, after = sheet.worked.values.get(name), trial.value(name)
    return tuple(None if one is None else float(one.reshape(-1)[at]) for one in (before, after))  # type: ignore[return-value]


NEEDS_AN_ANSWER = ("wheel_rate", "bind_margin", "roll_gradient", "launch_transfer",
                   "least_wheel_rate", "swing_slope")  # fmt: skip
"""Figures whose refusal means that the car cannot be like that, and not only that a question falls away."""


def refused_newly(sheet: Sheet, trial: Trial) -> list[CoreError]:
    """What the change makes impossible that was possible before."""
    return [refusal for name, refusal in trial.worked.refused.items()
            if name in NEEDS_AN_ANSWER and name not in sheet.worked.refused]  # fmt: skip
