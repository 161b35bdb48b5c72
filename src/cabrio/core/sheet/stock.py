"""Which spring in the inventory comes nearest to a target frequency, and what each would give."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.parts import Spring
from ..catalog.quantities import PLACES, Shape
from ..errors import CoreError, Missing
from ..figures.frequency import spring_rate_for, wheel_rate_on_tyre_for
from ..graph.registry import figures, run
from .build import Sheet

AXLES = PLACES[Shape.AXLE]


@dataclass(frozen=True)
class Candidate:
    """One spring of the inventory fitted on both sides of an axle, and what it would give.

    Compression, seat and bind are the worse of the two corners [m]; None where an input is missing.
    """

    spring: Spring
    frequency: float | None
    compression: float | None
    seat_at_droop: float | None
    bind_margin: float | None
    frequency_ratio: float | None
    energy: float | None
    off_target: float | None


def nearest(springs: Sequence[Spring], wanted: float) -> Spring:
    """The spring whose rate is nearest the wanted one [N/m]; ties to the softer. Raises Missing."""
    if not springs:
        raise Missing("The inventory holds no spring for this axle: add one to choose from.")
    return min(springs, key=lambda spring: (abs(spring.rate - wanted), spring.rate))


def candidates(sheet: Sheet, axle: str, wanted_rate: float | None) -> list[Candidate]:
    """Every spring of the inventory for an axle, nearest to the wanted rate first.

    All springs are worked in one batch of the graph, left and right alike, the other axle as it is.
    """
    springs = sheet.car.springs_for(axle)
    if not springs:
        return []
    worked = _batch(sheet, axle, springs)
    here = slice(0, 2) if axle == "front" else slice(2, 4)
    at = AXLES.index(axle)

    def corner(name: str, pick: str) -> list[float | None]:
        array = worked.get(name)
        if array is None:
            return [None] * len(springs)
        side = np.broadcast_to(array, (len(springs), 4))[:, here]
        return [None if np.isnan(row).any() else float(getattr(row, pick)()) for row in side]

    frequency = worked.get(by_convention(sheet, "axle_frequency"))
    ratio = None if frequency is None else frequency[:, 1] / frequency[:, 0]
    known = "spring_rate" in sheet.worked.values  # else there is no frequency of the other axle
    ratio = frequency[:, 1] / frequency[:, 0] if known and frequency is not None else None
    compression, energy = corner("static_compression", "max"), corner("spring_energy", "mean")
    seat, bind = corner("seat_at_droop", "min"), corner("bind_margin", "min")
    rows = [
        Candidate(
            spring=spring,
            frequency=None if frequency is None else float(frequency[i, at]),
            compression=compression[i],
            seat_at_droop=seat[i],
            bind_margin=bind[i],
            frequency_ratio=None if ratio is None else float(ratio[i]),
            energy=energy[i],
            off_target=None if wanted_rate is None else spring.rate - wanted_rate,
        )
        for i, spring in enumerate(springs)
    ]
    if wanted_rate is not None:
        rows.sort(key=lambda row: (abs(row.spring.rate - wanted_rate), row.spring.rate))
    return rows


def _batch(sheet: Sheet, axle: str, springs: Sequence[Spring]) -> dict[str, Array]:
    """The graph for all springs at once; lengths that a spring lacks are NaN and shown as missing."""
    inputs = {n: value for n, value in sheet.worked.values.items() if n not in figures()}
    here = [0, 1] if axle == "front" else [2, 3]
    for name, attribute in (
        ("spring_rate", "true_rate"),
        ("spring_free_length", "free_length"),
        ("spring_solid_length", "solid_length"),
    ):
        column = [getattr(spring, attribute) for spring in springs]
        fitted = inputs.get(name)
        base = np.full(4, np.nan) if fitted is None else fitted
        if name == "spring_rate" and fitted is None:
            base = np.full(4, 1.0)  # the other axle has no spring yet: its own figures are not read
        table = np.tile(base, (len(springs), 1)).astype(np.float64)
        table[:, here] = np.array([np.nan if one is None else one for one in column])[:, np.newaxis]
        inputs[name] = table
    return run(inputs).values


def curve(
    sheet: Sheet, axle: str, least: float, most: float, points: int = 40
) -> tuple[list[float], list[float]]:
    """Axle frequency [Hz] against spring rate [N/m], both corners alike; empty where not workable."""
    rates = np.linspace(least, most, points)
    springs = [Spring(str(i), float(rate)) for i, rate in enumerate(rates)]
    try:
        frequency = _batch(sheet, axle, springs).get(by_convention(sheet, "axle_frequency"))
    except CoreError:
        return [], []
    if frequency is None:
        return [], []
    return rates.tolist(), frequency[:, AXLES.index(axle)].tolist()


def in_series(sheet: Sheet) -> bool:
    """Whether the car's targets count the tyre as a spring under the suspension."""
    return (sheet.value("tyre_in_series") or [0.0])[0] > 0.5


def by_convention(sheet: Sheet, name: str) -> str:
    """The figure of that name in the car's own frequency convention."""
    return f"{name}_on_tyre" if in_series(sheet) else name


def wanted_rate(sheet: Sheet, axle: str) -> float | None:
    """Spring rate that gives one axle its target [N/m], whatever the other axle's target is.

    None where an input is missing; raises Impossible where no spring can give it.
    """
    needs = figures()[by_convention(sheet, "target_wheel_rate")].needs
    needs += figures()["target_spring_rate"].needs[1:]
    values = sheet.worked.values
    if any(name not in values for name in needs):
        return None
    at, here = AXLES.index(axle), slice(0, 2) if axle == "front" else slice(2, 4)

    def mean(array: Array) -> Array:
        return np.asarray(array[here].mean())

    target, sprung = values["target_frequency"][at], mean(values["sprung_mass"])
    rising = values["spring_force"] * values["motion_ratio_slope"] * np.cos(values["spring_angle"])
    try:
        if in_series(sheet):
            wheel = wheel_rate_on_tyre_for(target, sprung, mean(values["tyre_rate"]))
        else:
            wheel = np.asarray((2 * np.pi * target) ** 2 * sprung)
        ratio_squared = mean(values["spring_motion_ratio"] ** 2)
        return float(spring_rate_for(wheel, ratio_squared, mean(rising)))
    except CoreError as problem:
        problem.place = axle
        raise
