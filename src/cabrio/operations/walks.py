"""Walking through an order of work: started, ticked by person and time, left and taken up again."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy.orm import Session

from cabrio.core.errors import UnknownName
from cabrio.core.knowledge import knowledge
from cabrio.storage import walks
from cabrio.storage.models import TickRow, WalkRow

from .actor import Actor
from .bench import Bench, load


def of_car(db: Session, actor: Actor, car_id: int) -> Sequence[WalkRow]:
    """The walks that are open on a car, their standing ticks with them."""
    actor.must("look")
    load(db, actor, car_id)
    return walks.open_walks(db, car_id)


def start(db: Session, actor: Actor, car_id: int, procedure: str, now: datetime) -> WalkRow:
    """Begin an order of work afresh; the walk that was open ends and is kept."""
    actor.must("read")
    _known(load(db, actor, car_id, lock=True), procedure)
    before = walks.open_walk(db, car_id, procedure)
    if before is not None:
        if not before.ticks:
            return before
        before.ended_at = now
        db.flush()
    walk = WalkRow(car_id=car_id, procedure=procedure, started_by=actor.name, started_at=now)
    db.add(walk)
    db.flush()
    return walk


def tick(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    procedure: str,
    step: str,
    done: bool,
) -> None:
    """Tick a step of an order of work, or take the tick back. Said twice it stands once.

    Raises UnknownName for an order of work or a step that this car does not have.
    """
    actor.must("read")
    steps = _known(load(db, actor, car_id, lock=True), procedure)
    if step not in steps:
        raise UnknownName(f"This order of work has no step “{step}”.", number="step")
    walk = walks.open_walk(db, car_id, procedure)
    if walk is None:
        if not done:
            return
        walk = start(db, actor, car_id, procedure, now)
    standing = walks.standing_tick(db, walk.id, step)
    if done and standing is None:
        db.add(TickRow(walk_id=walk.id, step=step, by=actor.name, at=now))
    elif not done and standing is not None:
        standing.undone_by, standing.undone_at = actor.name, now
    db.flush()


def _known(bench: Bench, procedure: str) -> list[str]:
    """The steps of an order of work by name. Raises UnknownName for another discipline's."""
    work = knowledge().work
    for one in work.procedures:
        if one.id == procedure and bench.car.discipline in one.disciplines:
            return [step.label for step in work.steps_of(procedure)]
    raise UnknownName(f"This car has no order of work “{procedure}”.", number="procedure")
