"""The adjusters of a car: what each setting can be, for the car or for one place."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.car import Adjuster, Car
from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.quantities import Kind, Number
from cabrio.core.catalog.units import show
from cabrio.core.errors import CoreError, Impossible, Problems, UnknownName
from cabrio.core.graph.registry import number_named
from cabrio.storage import cars

from .actor import Actor
from .bench import load
from .errors import Conflict, NotFound
from .versions import check_version


def set_range(
    db: Session,
    actor: Actor,
    car_id: int,
    name: str,
    *,
    lowest: Any,
    highest: Any,
    counted: str,
    place: str = "",
    seen: str | None = None,
) -> Car:
    """Write down what an adjuster of this car can do: its ends, and where its counting starts.

    With a place for that place alone. A setting without an adjuster yet gets one. Refused where the
    setup on the car would fall outside.
    """
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    number = number_named(name)
    if number.kind is not Kind.SET or not number.on_slip or number.is_part:
        raise UnknownName(f"{number.label} is not something with an adjuster.", number=name)
    if not bench.car.has(number):
        raise Impossible(f"A car with this rear axle has no {number.label.lower()}.", number=name)
    problems: list[CoreError] = []
    ends: dict[str, float] = {}
    if place:
        number.index(place)
    for end, typed in (("lowest", lowest), ("highest", highest)):
        try:
            ends[end] = check_value(
                number, place or number.shape.places[0], typed, bench.car.profile, confirmed=True
            )
        except CoreError as problem:
            problem.number, problem.place = end, None
            problems.append(problem)
    if not problems and ends["lowest"] >= ends["highest"]:
        problems.append(Impossible("The upper end must be above the lower one.", number="highest"))
    before = bench.car.adjusters.get(name)
    check_version(before, seen, "adjuster")
    if not problems:
        span = (ends["lowest"], ends["highest"])
        if place:
            made = replace(
                before or Adjuster(*span), at=(before.at if before else {}) | {place: span}
            )
        else:
            made = Adjuster(*span, counted, before.at if before else {})  # type: ignore[arg-type]
        problems += _outside(
            bench.current.setup.get(name) or [], made, number, bench.row.revision, bench.car
        )
    if problems:
        raise Problems(problems)
    car = replace(bench.car, adjusters=bench.car.adjusters | {name: made})
    cars.save_car(bench.row, car)
    return car


def _outside(
    values: list[Any], adjuster: Adjuster, number: Number, revision: int, car: Car
) -> list[CoreError]:
    for place, value in zip(number.shape.places, values, strict=False):
        low, high = adjuster.range_at(place)
        if value is not None and not low <= value <= high:
            shown = show(value, number.quantity, car.profile)
            return [
                Impossible(
                    f"Revision {revision} stands at {shown}: a range must hold what is on the car.",
                    number="highest",
                    place=place,
                )
            ]
    return []


def remove_adjuster(db: Session, actor: Actor, car_id: int, name: str) -> Car:
    """Take an adjuster off the car, or a place's own range. Refused while the setup uses it."""
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    number = number_named(name)
    if name not in bench.car.adjusters:
        raise NotFound(f"{bench.car.name} has no adjuster for {number.label.lower()}.")
    if any(one is not None for one in bench.current.setup.get(name) or ()):
        raise Conflict(
            f"{number.label} is set on revision {bench.row.revision}: its adjuster is in use."
        )
    rest = {n: a for n, a in bench.car.adjusters.items() if n != name}
    car = replace(bench.car, adjusters=rest)
    cars.save_car(bench.row, car)
    return car
