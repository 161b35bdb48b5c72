"""Sheets for the wall and the car: which page a car has, and several cars' pages in one file."""

from __future__ import annotations

from datetime import datetime

from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible, UnknownName
from cabrio.core.knowledge import knowledge
from cabrio.core.sheet.printed import change_sheet, setup_sheet
from cabrio.core.sheet.side_view import side_of_sheet
from cabrio.files import links_sheet, paper
from cabrio.storage import cars, logbook
from cabrio.storage import slips as stored
from cabrio.storage.documents import lines_of

from . import slips
from .actor import Actor
from .bench import Bench, load
from .errors import NotFound

MOST_CARS = 20


def setup(db: Session, actor: Actor, car_ids: list[int], size: paper.Size, now: datetime) -> bytes:
    """The set-up sheets of cars of this team, a page each."""
    actor.must("look")
    if not car_ids:
        raise Impossible("Say whose set-up sheet is wanted.", number="cars")
    if len(car_ids) > MOST_CARS:
        raise Impossible(f"At most {MOST_CARS} cars in one file.", number="cars")
    pages: list[paper.Page] = []
    for car_id in car_ids:
        bench = load(db, actor, car_id)
        sheet = bench.sheet()
        kinds = knowledge().readings
        waiting = [
            kinds[name].label
            for name, stands in sheet.standings.items()
            if stands.status != "fresh" and not kinds[name].when_needed
        ]
        content = paper.setup(setup_sheet(sheet), waiting)
        pages.append((_title(db, bench, "Set-up sheet", now), content))
    return paper.book(pages, size)


def changes(
    db: Session,
    actor: Actor,
    car_id: int,
    size: paper.Size,
    now: datetime,
    revision: int | None = None,
) -> bytes:
    """The change sheet of this person's slip, or of the slip that made a revision.

    Raises NotFound where there is none.
    """
    actor.must("look")
    bench = load(db, actor, car_id)
    draft = slips.draft(db, actor, bench)
    if revision is None and (draft.lines or draft.jobs):
        slip, lines, jobs, at = draft.slip, draft.lines, draft.jobs, draft.base
        what = f"Changes for revision {at + 1}, not booked"
    else:
        wanted = bench.row.revision if revision is None else revision
        slip = stored.booked_slip(db, car_id, wanted)
        if slip is None:
            raise NotFound(f"Revision {wanted} was not made by a slip: it has no change sheet.")
        lines, jobs, at = lines_of(slip), tuple(slip.jobs), wanted - 1
        what = f"Changes for revision {wanted}"
    made, again = change_sheet(bench.booked(at), lines, jobs)
    content = paper.changes(
        made,
        again,
        slip.why if slip else "",
        slip.expectation if slip else "",
        sum(one.minutes for one in again),
    )
    return paper.book([(_title(db, bench, what, now), content)], size)


def links(db: Session, actor: Actor, car_id: int, size: paper.Size, now: datetime) -> bytes:
    """The side view of a live rear axle with its holes and numbers. Raises as `side_of_sheet` does."""
    actor.must("look")
    bench = load(db, actor, car_id)
    sheet = bench.sheet()
    side = side_of_sheet(sheet)
    behind = sheet.value("cg_behind_front")
    ahead = side.wheelbase - (behind[0] if behind else side.wheelbase / 2)
    content = links_sheet.links(side, ahead, bench.car.profile)
    return paper.book([(_title(db, bench, "Links from the side", now), content)], size)


def order(
    db: Session, actor: Actor, car_id: int, procedure: str, size: paper.Size, now: datetime
) -> bytes:
    """The sheet of an order of work of this car's discipline. Raises UnknownName for another."""
    actor.must("look")
    bench = load(db, actor, car_id)
    work = knowledge().work
    for one in work.procedures:
        if one.id == procedure and bench.car.discipline in one.disciplines:
            cautions = {name: each.text for name, each in work.cautions.items()}
            content = paper.order(one, work.steps_of(procedure), cautions)
            return paper.book([(_title(db, bench, one.label, now), content)], size)
    raise UnknownName(f"This car has no order of work “{procedure}”.", number="procedure")


def every_car(db: Session, actor: Actor) -> list[int]:
    """The cars of this team, for a file of them all."""
    return [row.id for row in cars.cars_of(db, actor.team_id)][:MOST_CARS]


def _title(db: Session, bench: Bench, what: str, now: datetime) -> paper.Title:
    car = bench.car
    session = logbook.next_session(db, bench.row.id, now)
    about = [car.discipline, f"revision {bench.row.revision}"]
    if session is not None:
        about.append(f"for {session.name}, {session.event.name}")
    number = f"no. {car.race_number}" if car.race_number else ""
    return paper.Title(" ".join(filter(None, (car.name, number))), what, " · ".join(about))
