"""Open issues, parts off the car, torques, class limits and service: opened, done, closed; what bars the car."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible
from cabrio.core.record.watch import Stands, Watched, checked, stands
from cabrio.core.sheet.release import Bar, Limit, bars_release, past_limits
from cabrio.storage import logbook, watched
from cabrio.storage.logbook import Driven
from cabrio.storage.models import WatchedDoneRow, WatchedRow

from .actor import Actor
from .bench import Bench, load
from .errors import NotAllowed, NotFound
from .texts import checked_text, named

MOST_OPEN = 100


@dataclass(frozen=True)
class Looked:
    """A watched thing with how it stands on the car now."""

    row: WatchedRow
    stands: Stands


def of_car(db: Session, bench: Bench, now: datetime) -> list[Looked]:
    """What is open on a car, what keeps it in first."""
    rows = watched.open_on(db, bench.row.id)
    if not rows:
        return []
    sheet = bench.sheet()
    figures = {name: sheet.value(name) for name in {r.data.get("number", "") for r in rows} if name}
    driven = logbook.driven_since(
        db, bench.row.id, [_since(row) for row in rows if row.kind == "service"]
    )
    found = [
        Looked(
            row,
            stands(
                _watched(bench, row, driven.get(_since(row), Driven()), now),
                figures,
                bench.car.profile,
            ),
        )
        for row in rows
    ]
    return sorted(found, key=lambda one: not one.stands.bars)


def _since(row: WatchedRow) -> datetime:
    """Since when it counts: it was last done, or opened."""
    return row.done[-1].at if row.done else row.opened_at


def _watched(bench: Bench, row: WatchedRow, driven: Driven, now: datetime) -> Watched:
    last = row.done[-1] if row.done else None
    revision = last.revision if last else 0
    touched = {system for system, at in bench.last_touched().items() if at > revision}
    return Watched(
        row.id,
        row.kind,
        row.words,
        row.data,
        frozenset(touched),
        last is not None,
        driven.runs,
        (now - _since(row)).days,
        driven.far,
        driven.untold,
    )


def against(db: Session, bench: Bench, now: datetime) -> tuple[Bar, ...]:
    """All that stands against letting the car run: its readings, then what is watched."""
    held = [
        Bar(f"watched-{one.row.id}", one.stands.words)
        for one in of_car(db, bench, now)
        if one.stands.bars
    ]
    past = [
        Bar(one.kind, one.words)
        for one, signed in limits_of(db, bench)
        if one.bars and signed is None
    ]
    return (*bars_release(bench.sheet()), *past, *held)


def limits_of(db: Session, bench: Bench) -> list[tuple[Limit, WatchedRow | None]]:
    """The limits that the car is past, each with what was signed for it as it stands."""
    past = past_limits(bench.sheet())
    if not past:
        return []
    signed = {
        (row.data["limit"], row.data["since"]): row
        for row in watched.open_on(db, bench.row.id)
        if row.kind == "signed"
    }
    return [(one, signed.get((one.words, one.since))) for one in past]


def sign(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    limit: str,
    decided_on: str,
    words: str,
) -> WatchedRow:
    """Let the car run past a limit as it stands now: who, on what, kept. What was signed for and does not
    stand any more is closed. Signed for twice it is signed once.

    Raises NotFound where the car is not past such a limit (any more).
    """
    actor.must("release")
    bench = load(db, actor, car_id, lock=True)
    found = limits_of(db, bench)
    one, before = next(((a, b) for a, b in found if a.bars and a.words == limit), (None, None))
    if one is None:
        raise NotFound("The car is not past this limit any more: look again.")
    if before is not None:
        return before
    typed = {"limit": one.words, "since": one.since, "decided_on": decided_on}
    data = checked("signed", typed | {"said": checked_text(words, "said")}, bench.car.profile)
    standing = {row.id for _, row in found if row is not None}
    for row in watched.open_on(db, car_id):
        if row.kind == "signed" and row.id not in standing:
            row.closed_by, row.closed_at = actor.name, now
            row.closed_words = "It does not stand like that any more."
    return _opened(db, actor, car_id, now, "signed", one.kind, data)


def add(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    kind: str,
    words: str,
    typed: Mapping[str, Any],
) -> WatchedRow:
    """Watch something on a car. Raises the field's problems."""
    actor.must("log")
    if kind == "signed":
        raise Impossible("A limit is signed for where it is said.", number="kind")
    bench = load(db, actor, car_id, lock=True)
    label = named(words, "words")
    if not label:
        raise Impossible("Say what it is.", number="words")
    data = checked(kind, typed, bench.car.profile)
    open_now = watched.open_on(db, car_id)
    if len(open_now) >= MOST_OPEN:
        raise Impossible(
            f"At most {MOST_OPEN} are watched at once: close some first.", number="words"
        )
    for one in open_now:  # asked for twice it is watched once
        if (one.kind, one.words, one.data) == (kind, label, data):
            return one
    return _opened(db, actor, car_id, now, kind, label, data)


def _opened(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    kind: str,
    words: str,
    data: dict[str, Any],
) -> WatchedRow:
    row = WatchedRow(
        car_id=car_id,
        kind=kind,
        words=words,
        data=data,
        opened_by=actor.name,
        opened_at=now,
        closed_words="",
    )
    db.add(row)
    db.flush()
    return row


def done(db: Session, actor: Actor, car_id: int, watched_id: int, now: datetime) -> None:
    """A torque was pulled or a service done, on the revision now on the car."""
    actor.must("read")
    bench, row = _open(db, actor, car_id, watched_id)
    if row.kind not in ("torque", "service"):
        raise Impossible("Close it with a word on how it was settled.", number="words")
    row.done.append(WatchedDoneRow(revision=bench.row.revision, by=actor.name, at=now))
    db.flush()


def close(
    db: Session, actor: Actor, car_id: int, watched_id: int, now: datetime, *, words: str
) -> None:
    """Close what is watched, with a word on how; an issue that bars the car is an engineer's to clear."""
    actor.must("read")
    _, row = _open(db, actor, car_id, watched_id)
    how = checked_text(words, "words")
    if row.kind == "issue":
        if not how:
            raise Impossible("Say how it was settled.", number="words")
        if row.data["bars"]:
            actor.must("release")
    if row.kind == "signed":
        actor.must("release")
    if row.kind == "limit" and "give" not in actor.abilities():
        raise NotAllowed(f"As {actor.role} you cannot take a class limit away: ask an engineer.")
    row.closed_by, row.closed_at, row.closed_words = actor.name, now, how
    db.flush()


def _open(db: Session, actor: Actor, car_id: int, watched_id: int) -> tuple[Bench, WatchedRow]:
    bench = load(db, actor, car_id, lock=True)
    row = watched.find(db, car_id, watched_id)
    if row is None:
        raise NotFound("This is not watched on this car any more.")
    return bench, row
