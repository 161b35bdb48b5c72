"""What is on a car as it was found: settings nobody had written down, taken as they stand and not as a change."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.car.settings import check_free, check_setting
from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.core.graph.registry import number_named
from cabrio.storage import cars, slips

from .actor import Actor
from .bench import Bench, load
from .errors import Conflict


def write_as_found(
    db: Session, actor: Actor, car_id: int, now: datetime, changes: Sequence[tuple[str, str, Any]]
) -> int:
    """Take settings as they stand on the car: the next revision, made by no slip.

    So nothing is predicted, no reading is upset and there is nothing to judge. Only what nobody has set may be
    told so: what is set already is changed by the slip. All bad values are refused at once.
    """
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    setup = {name: list(values) for name, values in bench.current.setup.items()}
    problems: list[CoreError] = []
    for name, place, value in changes:
        try:
            _put(bench, setup, name, place, value)
        except CoreError as problem:
            problem.number, problem.place = problem.number or name, problem.place or place
            problems.append(problem)
    for name, place, value in changes if not problems else ():
        try:  # with everything on the car: a hole that its bar has not, points off the ground
            value = setup[name][number_named(name).index(place)]
            check_free(bench.car, setup, name, place, value)
        except CoreError as problem:
            problem.number, problem.place = problem.number or name, problem.place or place
            problems.append(problem)
    if problems:
        raise Problems(problems)
    if setup == bench.current.setup:
        raise Conflict("Nothing was written down: give a setting its value first.", reason="empty")
    number = bench.row.revision + 1
    cars.add_revision(db, bench.row, number, setup, actor.name, now)
    db.flush()
    return number


def _put(bench: Bench, setup: dict[str, list[Any]], name: str, place: str, value: Any) -> None:
    number = number_named(name)
    checked = check_setting(bench.car, name, place, value)
    at = number.index(place)
    if number.is_fact or name not in setup:
        raise Impossible(f"{number.label} is not set on this car.", number=name, place=place)
    if setup[name][at] is not None:
        raise Impossible(
            f"{number.where(place)} is set already: change it by the slip.",
            number=name,
            place=place,
            value=value,
        )
    setup[name][at] = checked


def undo_as_found(db: Session, actor: Actor, car_id: int, now: datetime) -> int:
    """Take back what was written down as found last, while nothing was booked after it. The record keeps both."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    if not was_found(db, bench, bench.row.revision):
        raise Conflict(
            "The last revision was booked by a slip: undo it in the logbook.", reason="empty"
        )
    number = bench.row.revision + 1
    before = bench.at(bench.row.revision - 1).setup
    cars.add_revision(db, bench.row, number, before, actor.name, now)
    db.flush()
    return number


def was_found(db: Session, bench: Bench, revision: int) -> bool:
    """Whether a revision was written down as found: it adds to the one before, by no slip."""
    if revision < 2 or slips.booked_slip(db, bench.row.id, revision) is not None:
        return False
    before, after = bench.at(revision - 1).setup, bench.at(revision).setup
    return all(
        was is None or was == now
        for name, row in after.items()
        for was, now in zip(before.get(name) or [None] * len(row), row, strict=True)
    )
