"""The car's own data: given numbers, conventions and the stores of springs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any

from pydantic import ValidationError
from sqlalchemy.orm import Session

from cabrio.core.car.model import (
    Adjuster,
    Car,
    Given,
    Spring,
    check_setup,
    first_setup,
    usual_adjusters,
)
from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.quantities import Kind, Number
from cabrio.core.catalog.units import PROFILES, show
from cabrio.core.errors import CoreError, Impossible, OutOfRange, Problems, UnknownName
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.storage import cars
from cabrio.storage.documents import car_document, car_from, iso
from cabrio.storage.models import CarRow

from .actor import Actor
from .bench import load
from .errors import Conflict, NotFound

RATIO = "motion_ratio"


def add_car(
    db: Session,
    actor: Actor,
    now: datetime,
    *,
    name: str,
    race_number: str,
    discipline: str,
    rear_layout: str,
    profile: str,
) -> CarRow:
    """Add a car with nothing given yet, on a first revision with nothing fitted."""
    actor.must("give")
    problems: list[CoreError] = []
    if not name.strip():
        problems.append(Impossible("A car needs a name.", number="name"))
    uses = [use.id for use in knowledge().uses.values() if discipline in use.disciplines]
    try:
        car = car_from({
            "name": name.strip(), "race_number": race_number.strip(), "discipline": discipline,
            "use": uses[0] if uses else "", "rear_layout": rear_layout, "profile": profile,
        })  # fmt: skip
    except ValidationError as problem:
        for error in problem.errors():
            field = str(error["loc"][-1])
            problems.append(
                UnknownName(f"There is no such {field.replace('_', ' ')}.", number=field)
            )
    if problems:
        raise Problems(problems)
    car = replace(car, adjusters=usual_adjusters(car.rear_layout))
    row = CarRow(team_id=actor.team_id, document=car_document(car), revision=1, added_at=now)
    db.add(row)
    db.flush()
    cars.add_revision(db, row, 1, check_setup(car, first_setup(car)), actor.name, now)
    db.flush()
    return row


def give(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    values: Mapping[str, list[Any]],
    estimated: Mapping[str, bool],
    confirmed: bool = False,
) -> Car:
    """Set given numbers and targets; text is parsed in the car's units, None empties a place.

    All problems are raised at once and nothing is saved with any.
    """
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    car = bench.car
    problems: list[CoreError] = []
    for name, typed in values.items():
        try:
            number = _givable(name, typed)
            checked = _given_values(number, typed, car, confirmed)
        except Problems as several:
            problems += several.problems
            continue
        except CoreError as problem:
            problems.append(problem)
            continue
        before = car.given.get(name)
        stays = before.estimated if before else False
        car = car.with_given(
            name, Given(tuple(checked), estimated.get(name, stays), actor.name, iso(now))
        )
    for name in set(estimated) - set(values):
        if name in car.given:
            car = car.with_given(name, replace(car.given[name], estimated=estimated[name]))
    if problems:
        raise Problems(problems)
    cars.save_car(bench.row, car)
    return car


def _givable(name: str, typed: list[Any]) -> Number:
    number = number_named(name)
    if (
        number.kind not in (Kind.GIVEN, Kind.SET)
        or number.on_slip
        or number.name.startswith("spring_r")
    ):
        raise UnknownName(f"{number.label} is not part of the car's data.", number=name)
    if len(typed) != len(number.shape.places):
        places = ", ".join(number.shape.places)
        raise Impossible(f"{number.label} needs a value at {places}.", number=name)
    return number


def _given_values(
    number: Number, typed: list[Any], car: Car, confirmed: bool
) -> list[float | None]:
    problems: list[CoreError] = []
    values: list[float | None] = []
    for place, cell in zip(number.shape.places, typed, strict=True):
        if cell is None or (isinstance(cell, str) and not cell.strip()):
            values.append(None)
            continue
        try:
            if (
                number.name == RATIO
                and car.ratio_is == "wheel_per_spring"
                and isinstance(cell, str)
            ):
                cell = _inverted(number, place, cell, car)
            values.append(check_value(number, place, cell, car.profile, confirmed=confirmed))
        except CoreError as problem:
            problems.append(problem)
    if problems:
        raise Problems(problems)
    return values


def _inverted(number: Number, place: str, typed: str, car: Car) -> float:
    """A ratio typed as wheel over spring, as spring over wheel."""
    ratio = check_value(replace(number, most=None, usual=None), place, typed, car.profile)
    if ratio < 1 / 1.5:
        raise OutOfRange(
            f"{number.where(place)} of {ratio:g} as wheel over spring cannot be: it must be at least "
            f"0.667. If {ratio:g} is spring over wheel, switch the convention.",
            number=number.name, place=place, value=ratio, allowed="at least 0.667")  # fmt: skip
    return 1 / ratio


def settle(
    db: Session,
    actor: Actor,
    car_id: int,
    *,
    profile: str | None = None,
    ratio_is: str | None = None,
    use: str | None = None,
) -> Car:
    """Change how the car is shown and entered: unit profile, ratio convention, use (its bands)."""
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    if profile is not None and profile not in PROFILES:
        raise UnknownName(f"There is no unit profile “{profile}”: {', '.join(PROFILES)}.")
    uses = knowledge().uses
    if use is not None and (use not in uses or bench.car.discipline not in uses[use].disciplines):
        raise UnknownName(f"There is no use “{use}” for a {bench.car.discipline} car.")
    changes = {"profile": profile, "ratio_is": ratio_is, "use": use}
    car = replace(bench.car, **{k: v for k, v in changes.items() if v is not None})  # type: ignore[arg-type]
    cars.save_car(bench.row, car)
    return car


def set_range(
    db: Session, actor: Actor, car_id: int, name: str, *, lowest: Any, highest: Any, counted: str
) -> Car:
    """Write down what an adjuster of this car can do: its ends, and where its counting starts.

    Refused where the setup on the car would fall outside.
    """
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    number = number_named(name)
    if name not in bench.car.adjusters:
        raise NotFound(f"{bench.car.name} has no adjuster for {number.label.lower()}.")
    problems: list[CoreError] = []
    ends: dict[str, float] = {}
    for end, typed in (("lowest", lowest), ("highest", highest)):
        try:
            place = number.shape.places[0]
            ends[end] = check_value(number, place, typed, bench.car.profile, confirmed=True)
        except CoreError as problem:
            problem.number, problem.place = end, None
            problems.append(problem)
    if not problems and ends["lowest"] >= ends["highest"]:
        problems.append(Impossible("The upper end must be above the lower one.", number="highest"))
    for value in bench.current.setup[name]:
        if not problems and not ends["lowest"] <= value <= ends["highest"]:
            shown = show(value, number.quantity, bench.car.profile)
            problems.append(Impossible(f"Revision {bench.row.revision} stands at {shown}: a range "
                                       "must hold what is on the car.", number="highest"))  # fmt: skip
    if problems:
        raise Problems(problems)
    adjuster = Adjuster(ends["lowest"], ends["highest"], counted)  # type: ignore[arg-type]
    car = replace(bench.car, adjusters=bench.car.adjusters | {name: adjuster})
    cars.save_car(bench.row, car)
    return car


def add_spring(
    db: Session,
    actor: Actor,
    car_id: int,
    *,
    code: str,
    rate: Any,
    free_length: Any = None,
    solid_length: Any = None,
    fits: str = "both",
    confirmed: bool = False,
) -> Car:
    """Put a spring into the stores. Rate and lengths in any unit."""
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    problems: list[CoreError] = []
    code = code.strip()
    if not code:
        problems.append(
            Impossible("A spring needs a code to be told by, such as 80/200.", number="code")
        )
    elif bench.car.spring(code):
        problems.append(
            Impossible(f"There is already a spring {code} in the stores.", number="code")
        )
    checked: dict[str, float | None] = {"rate": None, "free_length": None, "solid_length": None}
    for part, typed in (
        ("rate", rate),
        ("free_length", free_length),
        ("solid_length", solid_length),
    ):
        if part != "rate" and typed in (None, ""):
            continue
        number = number_named(f"spring_{part}")
        number = replace(number, shape=number_named("wheelbase").shape)
        try:
            checked[part] = check_value(number, "car", "" if typed is None else typed,
                                        bench.car.profile, confirmed=confirmed)  # fmt: skip
        except CoreError as problem:
            problem.number = part
            problems.append(problem)
    free, solid = checked["free_length"], checked["solid_length"]
    if free is not None and solid is not None and solid >= free:
        problems.append(Impossible("The solid length must be less than the free length.",
                                   number="solid_length"))  # fmt: skip
    if problems:
        raise Problems(problems)
    assert checked["rate"] is not None
    spring = Spring(code, checked["rate"], free, solid, fits)  # type: ignore[arg-type]
    car = replace(bench.car, springs=(*bench.car.springs, spring))
    cars.save_car(bench.row, car)
    return car


def remove_spring(db: Session, actor: Actor, car_id: int, code: str) -> Spring:
    """Take a spring out of the stores; refused while any revision wears it, for the record's sake."""
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    spring = bench.car.spring(code)
    if spring is None:
        raise NotFound(f"There is no spring {code} in the stores.")
    worn = [one.number for one in bench.revisions if code in one.setup.get("spring", [])]
    if worn:
        raise Conflict(
            f"Spring {code} is in revision {worn[-1]}: the record needs it in the stores."
        )
    rest = tuple(one for one in bench.car.springs if one.code != code)
    cars.save_car(bench.row, replace(bench.car, springs=rest))
    return spring
