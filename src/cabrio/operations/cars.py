"""The car itself: making and copying one, its facts and conventions."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any, get_args

from sqlalchemy.orm import Session

from cabrio.core.car import Car, Given, Setup, check_setup, first_setup, off_the_ground
from cabrio.core.car.model import Driven, FrontLayout, Previous, RearLayout
from cabrio.core.car.usual import usual_adjusters
from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.catalog.quantities import Kind, Number, axle_of
from cabrio.core.catalog.units import PROFILES, show
from cabrio.core.errors import (
    CoreError,
    Impossible,
    OutOfRange,
    Problems,
    UnknownName,
    Unusual,
    collected,
)
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import DISCIPLINES, knowledge
from cabrio.core.record.readings import Taken
from cabrio.core.sheet.estimates import with_estimates
from cabrio.storage import cars
from cabrio.storage.documents import car_document, iso
from cabrio.storage.models import CarRow

from . import readings
from .actor import Actor
from .bench import load
from .errors import Conflict
from .texts import named, one_line

CHOICES: dict[str, tuple[str, ...]] = {
    "discipline": DISCIPLINES,
    "driven": get_args(Driven),
    "front_layout": get_args(FrontLayout),
    "rear_layout": get_args(RearLayout),
    "profile": tuple(PROFILES),
    "ratio_is": ("spring_per_wheel", "wheel_per_spring"),
}
AT_HAND = ("wheelbase", "track")
MOST_KEPT = 200
"""Corrections kept of one fact."""


def add_car(
    db: Session,
    actor: Actor,
    now: datetime,
    *,
    name: str,
    race_number: str,
    discipline: str,
    use: str = "",
    driven: str = "rear",
    front_layout: str = "independent",
    rear_layout: str = "independent",
    profile: str = "n_mm",
    given: Mapping[str, list[Any]] | None = None,
    pads: list[Any] | None = None,
    confirmed: bool = False,
) -> CarRow:
    """Add a car: what it is, and the few numbers at hand. Typical values stand in for all others.

    Nothing is set and nothing is fitted. All problems are raised at once.
    """
    actor.must("give")
    problems: list[CoreError] = []
    told = {
        "discipline": discipline,
        "driven": driven,
        "front_layout": front_layout,
        "rear_layout": rear_layout,
        "profile": profile,
    }
    for field, value in told.items():
        _choice(field, value, problems)
    _layout_allowed(discipline, rear_layout, problems)
    use = use or next(
        (one.id for one in knowledge().uses.values() if discipline in one.disciplines), ""
    )
    car = _identity(Car("", "", "circuit", ""), name, race_number, problems)
    if problems:
        raise Problems(problems)
    car = replace(car, use=use, **told)  # type: ignore[arg-type]
    _check_use(car, use)
    for name_, typed in (given or {}).items():
        with collected(problems):
            if name_ not in AT_HAND:
                raise UnknownName(f"“{name_}” is given in the car data.", number=name_)
            car = _corrected(car, actor, now, name_, typed, estimated=None, confirmed=confirmed)
    pads = pads if pads and any(pad not in (None, "") for pad in pads) else None
    weighed = _weighed(car, pads, problems, confirmed)
    if problems:
        raise Problems(problems)
    car = replace(car, adjusters=usual_adjusters(car))
    scaled = car.with_given("pad_mass", Given(tuple(weighed))) if weighed else car
    filled = with_estimates(scaled)
    if weighed:
        filled = replace(filled, given={k: v for k, v in filled.given.items() if k != "pad_mass"})
    row = _added(db, actor, now, filled, check_setup(filled, first_setup(filled)))
    if weighed:
        readings.take(
            db,
            actor,
            row.id,
            now,
            kind="pads",
            repeats={"pad_mass": [list(weighed)]},
            conditions={},
            taken=Taken(),
            note="Typed with the new car.",
            confirmed=True,
        )
    return row


def _weighed(
    car: Car, pads: list[Any] | None, problems: list[CoreError], confirmed: bool
) -> list[float] | None:
    if pads is None:
        return None
    number, weighed = number_named("pad_mass"), []
    for place, typed in zip(number.shape.places, pads, strict=False):
        with collected(problems):
            weighed.append(
                check_value(
                    number,
                    place,
                    typed if typed is not None else "",
                    car.profile,
                    confirmed=confirmed,
                )
            )
    return weighed


def _identity(car: Car, name: str, race_number: str, problems: list[CoreError]) -> Car:
    with collected(problems):
        name, race_number = named(name, "name"), named(race_number, "race_number")
        if not name:
            raise Impossible("A car needs a name.", number="name")
    return replace(car, name=name, race_number=race_number)


def _layout_allowed(discipline: str, rear_layout: str, problems: list[CoreError]) -> None:
    """Whether cars of that discipline have such a rear axle."""
    row = knowledge().disciplines.get(discipline)
    refusal = row.layout_refusal(rear_layout) if row else ""
    if refusal and rear_layout in CHOICES["rear_layout"]:
        problems.append(Impossible(refusal, number="rear_layout", value=rear_layout))


def _choice(field: str, value: str, problems: list[CoreError]) -> None:
    if value not in CHOICES[field]:
        allowed = ", ".join(CHOICES[field])
        problems.append(
            UnknownName(
                f"There is no such {field.replace('_', ' ')}: use one of {allowed}.",
                number=field,
                value=value,
                allowed=allowed,
            )
        )


def _check_use(car: Car, use: str) -> None:
    uses = knowledge().uses
    if use not in uses or car.discipline not in uses[use].disciplines:
        raise UnknownName(f"There is no car type “{use}” for a {car.discipline} car.", number="use")


def _added(
    db: Session, actor: Actor, now: datetime, car: Car, setup: dict[str, list[Any]]
) -> CarRow:
    row = CarRow(team_id=actor.team_id, document=car_document(car), revision=1, added_at=now)
    db.add(row)
    db.flush()
    cars.add_revision(db, row, 1, setup, actor.name, now)
    db.flush()
    return row


def copy_car(db: Session, actor: Actor, car_id: int, now: datetime, *, name: str) -> CarRow:
    """A new car like this one: facts, inventory, adjusters and the setup on it; its record starts anew."""
    actor.must("give")
    bench = load(db, actor, car_id)
    problems: list[CoreError] = []
    car = _identity(bench.car, name, "", problems)
    if problems:
        raise Problems(problems)
    given = {name: replace(one, since=0, earlier=None, was=()) for name, one in car.given.items()}
    car = replace(car, given=given, baseline=1, corrected=())
    return _added(db, actor, now, car, dict(bench.current.setup))


def give(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    values: Mapping[str, list[Any]],
    estimated: Mapping[str, bool],
    confirmed: bool = False,
    seen: Mapping[str, list[Any] | None] | None = None,
    source: Mapping[str, str] | None = None,
) -> Car:
    """Give facts and targets, or measure them better; text is parsed in the car's units, None empties.

    What stood before is kept with who and when. All problems are raised at once and nothing is saved
    with any. `seen` is what the writer saw of them [SI], None where nothing was given: where somebody
    changed it meanwhile it is a Conflict. `source` says where a value is from, by fact.
    """
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    car = bench.car
    merged = dict(values)
    for name, values_seen in (seen or {}).items():
        row = _merged(car, name, values.get(name), values_seen)
        if row is not None:
            merged[name] = row
    problems: list[CoreError] = []
    for name, typed in merged.items():
        with collected(problems):
            car = _corrected(
                car, actor, now, name, typed, estimated=estimated.get(name), confirmed=confirmed
            )
            if reason := one_line((source or {}).get(name, "")):
                car = car.with_given(name, replace(car.given[name], why=reason))
    for name in set(estimated) - set(values):
        if name in car.given:
            car = car.with_given(
                name,
                _kept(
                    replace(car.given[name], estimated=estimated[name]), car.given[name], actor, now
                ),
            )
    if "loaded_radius" in merged and not confirmed:
        problems += _off_the_ground(car, bench.current.setup)
    if problems:
        raise Problems(problems)
    cars.save_car(bench.row, car)
    return car


def _off_the_ground(car: Car, setup: Setup) -> list[CoreError]:
    """What to confirm where fitted points were measured from another height than the radius given now."""
    said = {
        warning: Unusual(
            f"{warning} Read the points again, too.", number="loaded_radius", place=axle_of(place)
        )
        for kind in part_kinds()
        for place, code in zip(number_named(kind).shape.places, setup.get(kind, ()), strict=False)
        if isinstance(code, str) and (warning := off_the_ground(car, kind, place, code))
    }
    return list(said.values())


def _merged(
    car: Car, name: str, typed: list[Any] | None, seen: list[Any] | None
) -> list[Any] | None:
    """What to write where a fact was seen so: the places that were not touched stay as they are now.

    So two places typed one after the other never stand against each other. Raises Conflict where somebody
    changed a place that is written, meanwhile; or any place, where the fact was only looked at.
    """
    number, given = number_named(name), car.given.get(name)
    size = len(number.shape.places)
    now: list[Any] = list(given.values) if given else [None] * size
    if (typed is not None and len(typed) != size) or (seen is not None and len(seen) != size):
        return typed
    was: list[Any] = list(seen) if seen is not None else [None] * size
    written = [
        typed is None or isinstance(typed[i], str) or typed[i] != was[i] for i in range(size)
    ]
    if any(now[i] != was[i] for i in range(size) if written[i]):
        values_now = ", ".join(
            show(one, number.quantity, car.profile) if isinstance(one, int | float) else "nothing"
            for one in now
        )
        by = given.by if given and given.by else "Somebody"
        raise Conflict(
            f"{by} changed {number.label.lower()} meanwhile: it is {values_now} now. What you typed is still "
            "here: look at it, then give it again.",
            reason="changed",
            number=name,
        )
    return None if typed is None else [typed[i] if written[i] else now[i] for i in range(size)]


def _corrected(
    car: Car,
    actor: Actor,
    now: datetime,
    name: str,
    typed: list[Any],
    *,
    estimated: bool | None,
    confirmed: bool,
) -> Car:
    """The car with one fact given: only the places that changed count as given now."""
    number = _givable(name, typed)
    values = _given_values(number, typed, car, confirmed)
    places = range(len(values))
    before = car.given.get(name) or Given((None,) * len(values))
    same = [
        before.values[i] is not None
        and values[i] is not None
        and abs((values[i] or 0.0) - (before.values[i] or 0.0)) <= 1e-12
        for i in places
    ]
    # what somebody typed is given, even where it is what was assumed: a zero that was measured is one
    guessed: tuple[bool, ...] = tuple(
        same[i] and before.estimated_at(i) and not isinstance(typed[i], str) for i in places
    )
    if estimated is not None:
        guessed = (estimated,) * len(values)
    told: bool | tuple[bool, ...] = any(guessed) if len(set(guessed)) == 1 else guessed
    made = replace(
        before, values=tuple(values), estimated=told, why=before.why if any(guessed) else ""
    )
    return car.with_given(name, _kept(made, before, actor, now))


def _kept(made: Given, before: Given, actor: Actor, now: datetime) -> Given:
    """The fact signed and dated, with what it was before; a typical value is no record of anybody's."""
    was = before.was
    if before.by and any(value is not None for value in before.values):
        was = (*was, Previous(before.values, before.estimated, before.by, before.at))[-MOST_KEPT:]
    return replace(made, by=actor.name, at=iso(now), was=was)


def _givable(name: str, typed: list[Any]) -> Number:
    number = number_named(name)
    target = number.kind is Kind.SET and not number.on_slip and number.step is not None
    chosen = (
        number.kind is Kind.SET and number.quantity in ("flag", "pressure") and not number.on_slip
    )
    if not (number.kind is Kind.GIVEN or target or chosen):
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
        with collected(problems):
            if (
                number.accepts_inverse
                and car.ratio_is == "wheel_per_spring"
                and isinstance(cell, str)
            ):
                cell = _inverted(number, place, cell, car)
            values.append(check_value(number, place, cell, car.profile, confirmed=confirmed))
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
            number=number.name,
            place=place,
            value=ratio,
            allowed="at least 0.667",
        )
    return 1 / ratio


def settle(db: Session, actor: Actor, car_id: int, **typed: str | None) -> Car:
    """Change what the car is and how it is shown: name, number, use, driven axle, layouts, units.

    Another layout brings its own adjusters, and typical values for what it needs besides.
    """
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    changes = {field: value for field, value in typed.items() if value is not None}
    problems: list[CoreError] = []
    for field in set(changes) & set(CHOICES):
        _choice(field, changes[field], problems)
    if "rear_layout" in changes:
        _layout_allowed(bench.car.discipline, changes["rear_layout"], problems)
    name, number = (
        changes.pop("name", bench.car.name),
        changes.pop("race_number", bench.car.race_number),
    )
    car = _identity(bench.car, name, number, problems)
    if problems:
        raise Problems(problems)
    car = replace(car, **changes)  # type: ignore[arg-type]
    if "use" in changes:
        _check_use(car, changes["use"])
    if {"front_layout", "rear_layout"} & set(changes):
        kept = {n: a for n, a in car.adjusters.items() if car.has(number_named(n))}
        car = with_estimates(replace(car, adjusters=usual_adjusters(car) | kept))
    cars.save_car(bench.row, car)
    return car


def name_baseline(db: Session, actor: Actor, car_id: int, revision: int) -> Car:
    """Say which revision is the one to go back to."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    bench.at(revision)
    car = replace(bench.car, baseline=revision)
    cars.save_car(bench.row, car)
    return car
