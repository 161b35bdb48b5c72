"""A new car is never blank: typical values stand in for what nobody has measured, marked as estimates."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np

from ..arrays import Array
from ..car.applies import applying
from ..car.fitted import fitted
from ..car.model import Car, Given
from ..catalog.entered import ENTERED
from ..catalog.quantities import Number
from ..catalog.units import in_words
from ..graph.evaluate import evaluate
from ..graph.registry import figures, number_named
from ..knowledge import Typical, knowledge

FIRST = ("wheelbase", "track", "pad_mass")
"""What the others are scaled by."""
WORKED_FROM = ("target", "critical", "tilt", "square")
REFERENCE = {"mass": 1000.0, "wheelbase": 2.5, "track": 1.5}


def wanted(car: Car) -> list[Number]:
    """Entered numbers that some figure of this layout is worked from, and that have no usual default."""
    needed = {need for name in applying(car) & set(figures()) for need in figures()[name].needs}
    shown = [n for n in ENTERED if n.name in needed or n.name == "target_frequency"]
    return [
        n for n in shown if n.default is None and car.has(n) and n.quantity not in ("part", "curve")
    ]


def typical_for(car: Car, name: str) -> Typical | None:
    """The typical value for a number on a car of this use and layout."""
    return next(
        (
            row
            for row in knowledge().typical
            if row.number == name
            and row.fits(car.discipline, car.use, car.front_layout, car.rear_layout)
        ),
        None,
    )


def with_estimates(car: Car) -> Car:
    """The car with a typical value at every place of every number nobody has given."""
    rows = {n.name: typical_for(car, n.name) for n in wanted(car)}

    def turn(name: str) -> tuple[bool, int]:
        """When a number's turn comes: after what its own typical value is scaled by."""
        row = rows[name]
        after = WORKED_FROM.index(row.scale) + 1 if row and row.scale in WORKED_FROM else 0
        return name not in FIRST, after

    order = sorted(rows, key=turn)
    for name in order:
        row = rows[name]
        if row is not None:
            car = _filled(car, number_named(name), row)
    return car


def _filled(car: Car, number: Number, row: Typical) -> Car:
    """One number's empty places filled; what was given stays as it is."""
    places = len(number.shape.places)
    given = car.given.get(number.name) or Given((None,) * places)
    if None not in given.values:
        return car
    values = _values(car, number, row)
    if values is None:
        return car
    merged = tuple(
        old if old is not None else new for old, new in zip(given.values, values, strict=True)
    )
    guessed = tuple(old is None or given.estimated_at(i) for i, old in enumerate(given.values))
    return car.with_given(
        number.name,
        replace(
            given,
            values=merged,
            why=in_words(row.reason, car.profile),
            estimated=True if all(guessed) else guessed,
        ),
    )


def _values(car: Car, number: Number, row: Typical) -> list[float] | None:
    places = len(number.shape.places)
    base = list(row.values) * (places // len(row.values))
    if row.scale in REFERENCE:
        factor = _size(car, row.scale) / REFERENCE[row.scale]
        return [one * factor for one in base]
    if row.scale:
        found = WORK[row.scale](_worked(car), np.asarray(base))
        return None if found is None else [float(one) for one in np.broadcast_to(found, (places,))]
    return base


def _size(car: Car, of: str) -> float:
    if of == "mass":
        return float(sum(value or 0.0 for value in car.given["pad_mass"].values))
    values = [value for value in car.given[of].values if value is not None]
    return float(np.mean(values))


def _worked(car: Car) -> dict[str, Array]:
    """Every figure that the estimates so far allow, no part fitted and nothing set."""
    values: dict[str, Any] = {name: list(given.values) for name, given in car.known.items()}
    values.update(fitted(car, {}))
    return evaluate(values).values


def _target(worked: dict[str, Array], base: Array) -> Array | None:
    rate = worked.get("target_spring_rate")
    return None if rate is None else base * (np.repeat(rate, 2) if rate.shape == (2,) else rate)


def _critical(worked: dict[str, Array], base: Array) -> Array | None:
    """Chords that give the wanted damping ratios."""
    critical, ratio = worked.get("critical_damping"), worked.get("damper_motion_ratio")
    return None if critical is None or ratio is None else base * critical / ratio**2


def _tilt(worked: dict[str, Array], base: Array) -> Array | None:
    """The front pads that tell the estimated CG height: moments about the front axle, raised."""
    names = ("total_mass", "front_share", "cg_height", "loaded_radius", "tilt_angle", "wheelbase")
    if any(name not in worked for name in names):
        return None
    total, share, height, radius, angle, base_length = (worked[name] for name in names)
    hub = share * radius[0] + (1 - share) * radius[1]
    return np.asarray(total * share + (height - hub) * total * np.tan(angle) / base_length)


def _square(worked: dict[str, Array], base: Array) -> Array | None:
    if "plumb_distance" not in worked or "axle_points" not in worked:
        return None
    return np.asarray(np.hypot(worked["plumb_distance"], worked["axle_points"] / 2))


WORK: dict[str, Callable[[dict[str, Array], Array], Array | None]] = {
    "target": _target,
    "critical": _critical,
    "tilt": _tilt,
    "square": _square,
}
