"""The change slip: drafting, looking ahead, booking, setting aside, carrying over, backing out."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.car.model import Line, check_setting, check_setup, differences, with_lines
from cabrio.core.errors import CoreError, Problems
from cabrio.core.graph.registry import number_named
from cabrio.core.record.recheck import Recheck, mixed_systems, rechecks
from cabrio.core.sheet.build import Sheet, build, moved
from cabrio.storage import cars, logbook, slips
from cabrio.storage.documents import lines_of
from cabrio.storage.models import SlipRow

from .actor import Actor
from .bench import Bench, load
from .errors import Conflict, NotFound


@dataclass(frozen=True)
class Behind:
    """What others booked since the draft was begun, and which of its lines they touched too."""

    revision: int
    by: str
    lines: tuple[Line, ...]
    overlap: tuple[Line, ...]


@dataclass
class Preview:
    """What booking this slip would do, worked on the car."""

    before: Sheet
    after: Sheet
    moved: list[tuple[str, str, float | None, float | None]]
    rechecks: list[Recheck]
    mixed: list[str]


@dataclass
class Draft:
    """A person's slip on a car, stored or still empty."""

    slip: SlipRow | None
    base: int
    lines: tuple[Line, ...]
    behind: Behind | None

    @property
    def version(self) -> int:
        return self.slip.version if self.slip else 0


def draft(db: Session, actor: Actor, bench: Bench) -> Draft:
    slip = slips.draft_of(db, bench.row.id, actor.person_id)
    lines = lines_of(slip)
    base = slip.base if slip else bench.row.revision
    return Draft(slip, base, lines, _behind(bench, base, lines))


def _behind(bench: Bench, base: int, lines: Iterable[Line]) -> Behind | None:
    if base >= bench.row.revision:
        return None
    theirs = differences(bench.at(base).setup, bench.current.setup)
    touched = {(line.name, line.place) for line in theirs}
    overlap = tuple(line for line in lines if (line.name, line.place) in touched)
    return Behind(bench.row.revision, bench.current.by, tuple(theirs), overlap)


def preview(bench: Bench, base: int, lines: Iterable[Line]) -> Preview:
    """Before and after of every figure, and the rechecks the lines cause."""
    lines = list(lines)
    setup = bench.at(base).setup
    before = build(bench.car, setup, bench.readings, bench.revisions)
    after = build(bench.car, with_lines(setup, lines), bench.readings, bench.revisions, draft=lines)
    return Preview(before, after, moved(before, after), rechecks(lines, bench.car.discipline),
                   mixed_systems(lines))  # fmt: skip


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
) -> tuple[Bench, Draft]:
    """Replace the draft's lines and words. All bad values are refused at once, none is saved.

    `version` is the draft as the writer saw it: another tab's newer draft is a Conflict.
    """
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    found = draft(db, actor, bench)
    if version != found.version:
        raise Conflict("This slip was changed in another window: here is how it stands now.",
                       reason="version")  # fmt: skip
    lines = _checked(bench, found.base, changes)
    slip = found.slip or SlipRow(
        car_id=car_id, author_id=actor.person_id, author=actor.name, base=found.base, state="draft",
        version=0, at=now,
    )  # fmt: skip
    if session_id is not None and logbook.find_session(db, car_id, session_id) is None:
        raise NotFound("There is no such session for this car.")
    slip.why, slip.expectation, slip.session_id = why.strip(), expectation.strip(), session_id
    slip.version += 1
    slip.at = now
    slips.set_lines(slip, lines)
    db.add(slip)
    db.flush()
    return bench, Draft(slip, found.base, tuple(lines), _behind(bench, found.base, lines))


def _checked(bench: Bench, base: int, changes: list[tuple[str, str, Any]]) -> list[Line]:
    setup = bench.at(base).setup
    lines: dict[tuple[str, str], Line] = {}
    problems: list[CoreError] = []
    for name, place, new in changes:
        try:
            value = check_setting(bench.car, name, place, new)
            old = setup[name][number_named(name).index(place)]
            lines[(name, place)] = Line(name, place, old, value)
        except CoreError as problem:
            problems.append(problem)
    if problems:
        raise Problems(problems)
    return [line for line in lines.values() if line.old != line.new]


def book(db: Session, actor: Actor, car_id: int, now: datetime, *, version: int) -> int:
    """Make the next revision of the draft. One transaction: the revision and the slip, or neither.

    Raises Conflict with the difference where somebody booked meanwhile; the draft stays as it is.
    """
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    found = draft(db, actor, bench)
    if found.slip is None or not found.lines:
        raise Conflict("There is nothing on the slip to book: change a setting first.",
                       reason="empty")  # fmt: skip
    if found.behind is not None:
        raise Conflict(
            f"{found.behind.by} booked revision {found.behind.revision} meanwhile. Your slip is "
            "kept: look at the difference, then carry it over.", reason="behind")  # fmt: skip
    if version != found.version:
        raise Conflict("This slip was changed in another window: look at it once more, then book.",
                       reason="version")  # fmt: skip
    setup = check_setup(bench.car, with_lines(bench.current.setup, list(found.lines)))
    number = bench.row.revision + 1
    cars.add_revision(db, bench.row, number, setup, actor.name, now)
    found.slip.state, found.slip.booked_as, found.slip.at = "booked", number, now
    db.flush()
    return number


def carry_over(db: Session, actor: Actor, car_id: int, now: datetime) -> Draft:
    """Put the draft onto the newest revision; its new values stay, its old ones are re-read."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    found = draft(db, actor, bench)
    if found.slip is None:
        raise NotFound("There is no slip to carry over.")
    wanted = [(line.name, line.place, line.new) for line in found.lines]
    slips.set_lines(found.slip, [])
    db.flush()
    slips.set_lines(found.slip, _checked(bench, bench.row.revision, wanted))
    found.slip.base, found.slip.at = bench.row.revision, now
    found.slip.version += 1
    db.flush()
    return draft(db, actor, bench)


def set_aside(db: Session, actor: Actor, car_id: int, now: datetime) -> None:
    """Put the draft by, to be resumed later; the bench is free for another."""
    actor.must("draft")
    bench = load(db, actor, car_id)
    found = draft(db, actor, bench)
    if found.slip is None or not found.lines:
        raise Conflict("There is nothing on the slip to set aside.", reason="empty")
    found.slip.state, found.slip.at = "aside", now


def resume(db: Session, actor: Actor, car_id: int, slip_id: int, now: datetime) -> None:
    """Take a slip that was set aside up again; a draft in hand is set aside in its place."""
    actor.must("draft")
    load(db, actor, car_id)
    wanted = next((s for s in slips.aside_of(db, car_id, actor.person_id) if s.id == slip_id), None)
    if wanted is None:
        raise NotFound("That slip is not among those you set aside.")
    _clear_hand(db, actor, car_id, now)
    wanted.state, wanted.at = "draft", now
    wanted.version += 1


def _clear_hand(db: Session, actor: Actor, car_id: int, now: datetime) -> None:
    in_hand = slips.draft_of(db, car_id, actor.person_id)
    if in_hand is None:
        return
    if in_hand.lines:
        in_hand.state, in_hand.at = "aside", now
    else:
        db.delete(in_hand)
    db.flush()


def back_out(db: Session, actor: Actor, car_id: int, revision: int, now: datetime) -> None:
    """Write the slip that takes a booked revision's lines back. It is booked like any other."""
    actor.must("draft")
    bench = load(db, actor, car_id, lock=True)
    lines = bench.at(revision).lines
    if not lines:
        raise Conflict(f"Revision {revision} was the first: there is nothing to back out.",
                       reason="empty")  # fmt: skip
    changes = [(line.name, line.place, line.old) for line in lines]
    inverse = _checked(bench, bench.row.revision, changes)
    if not inverse:
        raise Conflict(f"Everything revision {revision} changed is already back.", reason="empty")
    _clear_hand(db, actor, car_id, now)
    slip = SlipRow(car_id=car_id, author_id=actor.person_id, author=actor.name, state="draft",
                   base=bench.row.revision, why=f"Backs out revision {revision}.", at=now)  # fmt: skip
    slips.set_lines(slip, inverse)
    db.add(slip)
    db.flush()
