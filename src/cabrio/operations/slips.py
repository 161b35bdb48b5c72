"""The change slip: drafting, looking ahead, booking, parking, reapplying, backing out."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.car import Line, check_setting, check_setup, differences, with_lines
from cabrio.core.car.lines import altered, car_after, value_now
from cabrio.core.car.settings import check_free
from cabrio.core.errors import CoreError, Problems, UnknownName, collected
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.core.sheet.what_if import WhatIf, try_lines
from cabrio.storage import cars, logbook, slips
from cabrio.storage.documents import iso, lines_of
from cabrio.storage.models import SlipRow

from .actor import Actor
from .bench import Bench, load
from .errors import Conflict, NotFound
from .texts import checked_text


@dataclass(frozen=True)
class Behind:
    """What others booked since the draft was begun, and which of its lines they touched too."""

    revision: int
    by: str
    lines: tuple[Line, ...]
    overlap: tuple[Line, ...]


@dataclass
class Draft:
    """A person's slip on a car, stored or still empty.

    `base` is the revision it goes onto: where others booked meanwhile and touched none of its numbers, the
    newest one, and `merged` says what they did. Otherwise `behind` does, and it has to be reapplied.
    """

    slip: SlipRow | None
    base: int
    lines: tuple[Line, ...]
    behind: Behind | None
    merged: Behind | None = None
    jobs: tuple[str, ...] = ()
    parked: tuple[SlipRow, ...] = ()

    @property
    def version(self) -> int:
        return self.slip.version if self.slip else 0


def draft(db: Session, actor: Actor, bench: Bench) -> Draft:
    """A person's draft with what was booked since it was begun, and the slips saved for later."""
    mine = slips.open_of(db, bench.row.id, actor.person_id)
    slip = next((one for one in mine if one.state == "draft"), None)
    lines = lines_of(slip)
    base = slip.base if slip else bench.row.revision
    behind, merged = _behind(bench, base, lines), None
    if behind is not None and _goes_on_top(bench, behind, lines):
        base, behind, merged = bench.row.revision, None, behind
    return Draft(
        slip,
        base,
        lines,
        behind,
        merged,
        tuple(slip.jobs) if slip else (),
        tuple(one for one in mine if one.state == "parked"),
    )


def _behind(bench: Bench, base: int, lines: Iterable[Line]) -> Behind | None:
    if base >= bench.row.revision:
        return None
    theirs = differences(bench.at(base).setup, bench.current.setup)
    theirs += altered(bench.car, base, bench.row.revision)
    touched = {(line.name, line.place) for line in theirs}
    overlap = tuple(line for line in lines if (line.name, line.place) in touched)
    return Behind(bench.row.revision, bench.current.by, tuple(theirs), overlap)


def _goes_on_top(bench: Bench, behind: Behind, lines: Iterable[Line]) -> bool:
    """Whether lines that were drafted before others booked can be made after them just as they are."""
    if behind.overlap:
        return False
    wanted = [(line.name, line.place, line.new) for line in lines]
    try:
        return len(_checked(bench, bench.row.revision, wanted)) == len(wanted)
    except CoreError:  # what it sets is not there any more, or is something else
        return False


def preview(bench: Bench, base: int, lines: Iterable[Line], jobs: Iterable[str] = ()) -> WhatIf:
    """Before and after of every figure, what is predicted, and the rechecks that lines and jobs cause.

    Worked once: every panel of a station asks for the same car after the same slip.
    """
    sheet, lines, jobs = bench.booked(base), tuple(lines), tuple(jobs)
    return sheet.once(("after", lines, jobs), lambda: try_lines(sheet, lines, jobs))


def write(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    version: int,
    changes: list[tuple[str, str, Any]],
    why: str,
    expectation: str,
    session_id: int | None,
    jobs: Iterable[str] = (),
) -> tuple[Bench, Draft]:
    """Replace the draft's lines and words. All bad values are refused at once, none is saved.

    `version` is the draft as the writer saw it: another tab's newer draft is a Conflict.
    """
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    found = draft(db, actor, bench)
    if version != found.version:
        raise Conflict(
            "This slip was changed in another window: here is how it stands now.", reason="version"
        )
    lines = _checked(bench, found.base, changes)
    slip = found.slip or SlipRow(
        car_id=car_id,
        author_id=actor.person_id,
        author=actor.name,
        base=found.base,
        state="draft",
        version=0,
        at=now,
    )
    if session_id is not None and logbook.find_session(db, car_id, session_id) is None:
        raise NotFound("There is no such session for this car.")
    slip.why, slip.expectation = checked_text(why, "why"), checked_text(expectation, "expectation")
    slip.session_id, slip.jobs, slip.base = session_id, _known_jobs(jobs), found.base
    slip.version += 1
    slip.at = now
    slips.set_lines(slip, lines)
    db.add(slip)
    db.flush()
    behind = _behind(bench, found.base, lines)
    return bench, replace(
        found, slip=slip, lines=tuple(lines), behind=behind, jobs=tuple(slip.jobs)
    )


def _known_jobs(jobs: Iterable[str]) -> list[str]:
    """The jobs once each, in the order of the table. Raises UnknownName."""
    wanted, known = set(jobs), knowledge().work.jobs
    for job in wanted - set(known):
        raise UnknownName(f"There is no job called “{job}”.", value=job)
    return [job for job in known if job in wanted]


def _checked(bench: Bench, base: int, changes: list[tuple[str, str, Any]]) -> list[Line]:
    setup, car = bench.at(base).setup, bench.car.at(base)
    lines: dict[tuple[str, str], Line] = {}
    problems: list[CoreError] = []
    # parts first: a knob is looked for on the damper that the slip itself fits
    for name, place, new in sorted(changes, key=lambda change: not number_named(change[0]).is_part):
        with collected(problems):
            old = value_now(car, setup, name, place)
            value = check_setting(car, name, place, new)
            if value != old:
                check_free(car, with_lines(setup, lines.values()), name, place, value)
            lines[(name, place)] = Line(name, place, old, value)
    order = {(name, place): i for i, (name, place, _) in enumerate(changes)}
    if problems:
        raise Problems(
            sorted(
                problems,
                key=lambda problem: order.get((problem.number or "", problem.place or ""), 0),
            )
        )
    return sorted(
        (line for line in lines.values() if line.old != line.new),
        key=lambda line: order[line.name, line.place],
    )


def book(db: Session, actor: Actor, car_id: int, now: datetime, *, version: int) -> int:
    """Make the next revision of the draft. One transaction: the revision and the slip, or neither.

    Raises Conflict with the difference where somebody booked meanwhile; the draft stays as it is.
    """
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    found = draft(db, actor, bench)
    if found.slip is None or not (found.lines or found.jobs):
        raise Conflict(
            "There is nothing on the slip to book: change a setting first.", reason="empty"
        )
    if found.behind is not None:
        raise Conflict(
            f"{found.behind.by} booked revision {found.behind.revision} meanwhile. Your slip is "
            "kept: look at the difference, then reapply it.",
            reason="behind",
        )
    if version != found.version:
        raise Conflict(
            "This slip was changed in another window: look at it once more, then book.",
            reason="version",
        )
    setup = check_setup(bench.car, with_lines(bench.current.setup, list(found.lines)))
    number = bench.row.revision + 1
    car = car_after(bench.car, found.lines, revision=number, by=actor.name, at=iso(now))
    if car is not bench.car:
        cars.save_car(bench.row, car)
    cars.add_revision(db, bench.row, number, setup, actor.name, now)
    found.slip.base = found.base
    found.slip.state, found.slip.booked_as, found.slip.at = "booked", number, now
    db.flush()
    return number


def reapply(db: Session, actor: Actor, car_id: int, now: datetime) -> Draft:
    """Put the draft onto the newest revision; its new values stay, its old ones are re-read."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    found = draft(db, actor, bench)
    if found.slip is None:
        raise NotFound("There is no slip to reapply.")
    wanted = [(line.name, line.place, line.new) for line in found.lines]
    slips.set_lines(found.slip, [])
    db.flush()
    slips.set_lines(found.slip, _checked(bench, bench.row.revision, wanted))
    found.slip.base, found.slip.at = bench.row.revision, now
    found.slip.version += 1
    db.flush()
    return draft(db, actor, bench)


def park(db: Session, actor: Actor, car_id: int, now: datetime) -> None:
    """Put the draft by, to be resumed later; the bench is free for another."""
    actor.must("draft")
    bench = load(db, actor, car_id)
    found = draft(db, actor, bench)
    if found.slip is None or not (found.lines or found.jobs):
        raise Conflict("There is nothing on the slip to park.", reason="empty")
    found.slip.state, found.slip.at = "parked", now


def resume(db: Session, actor: Actor, car_id: int, slip_id: int, now: datetime) -> None:
    """Resume a parked slip; the draft in hand is parked in its place."""
    actor.must("draft")
    load(db, actor, car_id)
    wanted = next(
        (s for s in slips.parked_of(db, car_id, actor.person_id) if s.id == slip_id), None
    )
    if wanted is None:
        raise NotFound("That slip is not among those you parked.")
    _clear_hand(db, actor, car_id, now)
    wanted.state, wanted.at = "draft", now
    wanted.version += 1


def _clear_hand(db: Session, actor: Actor, car_id: int, now: datetime) -> None:
    in_hand = slips.draft_of(db, car_id, actor.person_id)
    if in_hand is None:
        return
    if in_hand.lines or in_hand.jobs:
        in_hand.state, in_hand.at = "parked", now
    else:
        db.delete(in_hand)
    db.flush()


def back_out(db: Session, actor: Actor, car_id: int, revision: int, now: datetime) -> None:
    """Write the slip that takes a booked revision's lines back. It is booked like any other."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    lines = bench.at(revision).lines
    if not lines:
        raise Conflict(
            f"Revision {revision} was the first: there is nothing to back out.", reason="empty"
        )
    _start(
        db,
        actor,
        bench,
        now,
        [(line.name, line.place, line.old) for line in lines],
        f"Backs out revision {revision}.",
        f"Everything revision {revision} changed is already back.",
    )


def go_back_to(db: Session, actor: Actor, car_id: int, revision: int, now: datetime) -> None:
    """Write the slip with every move that brings the car back to a revision: settings, parts, facts."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    moves = differences(bench.current.setup, bench.at(revision).setup)
    moves += [line.inverse() for line in altered(bench.car, revision, bench.row.revision)]
    _start(
        db,
        actor,
        bench,
        now,
        [(line.name, line.place, line.new) for line in moves],
        f"Back to revision {revision}.",
        f"The car already stands as on revision {revision}.",
    )


def _start(
    db: Session,
    actor: Actor,
    bench: Bench,
    now: datetime,
    changes: list[tuple[str, str, Any]],
    why: str,
    nothing: str,
) -> None:
    """A new draft with these changes; one in hand is parked."""
    lines = _checked(bench, bench.row.revision, changes)
    if not lines:
        raise Conflict(nothing, reason="empty")
    _clear_hand(db, actor, bench.row.id, now)
    slip = SlipRow(
        car_id=bench.row.id,
        author_id=actor.person_id,
        author=actor.name,
        state="draft",
        base=bench.row.revision,
        why=why,
        jobs=[],
        at=now,
    )
    slips.set_lines(slip, lines)
    db.add(slip)
    db.flush()
