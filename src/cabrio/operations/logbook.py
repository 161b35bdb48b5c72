"""Events, sessions, runs, the driver's words and the verdict on a slip."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import date, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.catalog.units import parse
from cabrio.core.errors import CoreError, Impossible, OutOfRange, Problems, UnknownName, collected
from cabrio.core.knowledge import knowledge
from cabrio.core.record.clocked import check, pass_summary, seconds
from cabrio.core.record.floor import check_floor
from cabrio.core.record.readings import Reading
from cabrio.storage import logbook, slips
from cabrio.storage.models import EventRow, RunRow, SessionRow, VerdictRow

from .actor import Actor
from .amended import amended
from .bench import Bench, load
from .errors import Conflict, NotFound, NotReady
from .texts import checked_text
from .versions import check_version
from .watched import against as standing_against

SHORTEST_LAP, LONGEST_LAP = 100.0, 50_000.0
"""What a lap of a track may be long [m]."""


def add_event(db: Session, actor: Actor, **typed: Any) -> EventRow:
    """Add an event of the team, from what is typed of it: see `event_values`."""
    actor.must("log")
    event = EventRow(team_id=actor.team_id, **event_values(**typed))
    db.add(event)
    db.flush()
    return event


def event_values(
    *, name: str, place: str, starts_on: date, ends_on: date, lap: Any = None, note: str = ""
) -> dict[str, Any]:
    """What is typed of an event, checked. A lap's length may have its unit; km without."""
    problems: list[CoreError] = []
    lap_length = None
    if lap not in (None, ""):
        try:
            lap_length = _lap_length(lap)
        except CoreError as problem:
            problem.number = "lap"
            problems.append(problem)
    if not name.strip():
        problems.append(Impossible("An event needs a name.", number="name"))
    if ends_on < starts_on:
        problems.append(Impossible("The last day cannot be before the first.", number="ends_on"))
    if problems:
        raise Problems(problems)
    return {
        "name": name.strip(),
        "place": place.strip(),
        "starts_on": starts_on,
        "ends_on": ends_on,
        "lap_length": lap_length,
        "note": note.strip(),
    }


def _lap_length(typed: Any) -> float:
    metres = parse(typed, "distance", "n_mm")
    if not SHORTEST_LAP <= metres <= LONGEST_LAP:
        raise OutOfRange(
            f"A lap is {SHORTEST_LAP:g} m to {LONGEST_LAP / 1000:g} km long, such as 3.2 km."
        )
    return metres


def add_session(
    db: Session, actor: Actor, car_id: int, *, event_id: int, **typed: Any
) -> SessionRow:
    """Add a session of this car, from what is typed of it: see `session_values`."""
    actor.must("log")
    bench = load(db, actor, car_id)
    if logbook.find_event(db, actor.team_id, event_id) is None:
        raise NotFound("There is no such event in your team.")
    session = SessionRow(event_id=event_id, car_id=car_id, **session_values(bench, **typed))
    db.add(session)
    db.flush()
    return session


def session_values(
    bench: Bench,
    *,
    name: str,
    kind: str,
    starts_at: datetime,
    surface: str = "",
    air: Any = None,
    track: Any = None,
    note: str = "",
) -> dict[str, Any]:
    """What is typed of a session, checked. Temperatures may have their unit."""
    problems: list[CoreError] = []
    if not name.strip():
        problems.append(Impossible("A session needs a name.", number="name"))
    kinds = knowledge().disciplines[bench.car.discipline].session_kinds
    if kind not in kinds:
        problems.append(UnknownName(f"A session here is one of {', '.join(kinds)}.", number="kind"))
    kelvin: dict[str, float | None] = {"air": None, "track": None}
    for field, typed in (("air", air), ("track", track)):
        if typed in (None, ""):
            continue
        try:
            kelvin[field] = _temperature(typed, bench.car.profile)
        except CoreError as problem:
            problem.number = field
            problems.append(problem)
    if problems:
        raise Problems(problems)
    return {
        "name": name.strip(),
        "kind": kind,
        "starts_at": starts_at,
        "surface": surface.strip(),
        "air_temperature": kelvin["air"],
        "track_temperature": kelvin["track"],
        "note": note.strip(),
    }


def _temperature(typed: Any, profile: str) -> float:
    kelvin = parse(typed, "temperature", profile)
    if not 220 < kelvin < 360:
        raise OutOfRange("That temperature cannot be: write one between −50 and 85 °C.")
    return kelvin


def add_run(
    db: Session,
    actor: Actor,
    car_id: int,
    session_id: int,
    now: datetime,
    *,
    released_why: str = "",
    **typed: Any,
) -> RunRow:
    """Log a run on the revision now on the car, from what is typed of it: see `run_values`.

    A car that is not ready runs only where an engineer signs for it with a reason: the run keeps it.
    Raises NotReady until then.
    """
    actor.must("log")
    bench = load(db, actor, car_id, lock=True)
    session = logbook.find_session(db, car_id, session_id)
    if session is None:
        raise NotFound("There is no such session of this car.")
    values = run_values(bench, **typed)
    against = standing_against(db, bench, now)
    why = checked_text(released_why, "released_why")
    if against and not why:
        raise NotReady(
            "The car is not ready to run. An engineer may let it out with a reason.",
            not_ready=[one.words for one in against],
        )
    if against:
        actor.must("release")
    run = RunRow(
        session_id=session.id,
        car_id=car_id,
        number=logbook.runs_in(db, session.id) + 1,
        revision=bench.row.revision,
        not_ready=[one.words for one in against],
        released_why=why if against else "",
        words=[],
        by=actor.name,
        at=now,
        **values,
    )
    db.add(run)
    db.flush()
    return run


def run_values(
    bench: Bench,
    *,
    driver: str = "",
    laps: int | None = None,
    best_time: str | float | None = None,
    times: Mapping[str, Any] | None = None,
    tyres: str = "",
    note: str = "",
    floor: Mapping[str, str] | None = None,
) -> dict[str, Any]:
    """What is typed of a run, checked, with what was clocked; the last mark is its time."""
    problems: list[CoreError] = []
    if laps is not None and laps < 0:
        problems.append(OutOfRange("Laps cannot be below zero.", number="laps"))
    best: float | None = None
    clocked: dict[str, float] = {}
    with collected(problems):
        best = None if best_time in (None, "") else seconds(best_time, "best_time")
    with collected(problems):
        clocked = check(bench.car.discipline, times or {}, bench.car.profile)
    with collected(problems):
        check_floor(dict(floor or {}))
    if problems:
        raise Problems(problems)
    return {
        "floor": dict(floor or {}),
        "driver": driver.strip(),
        "laps": laps,
        "best_time": best
        if best is not None
        else pass_summary(bench.car.discipline, clocked).finish,
        "times": clocked,
        "tyres": tyres.strip(),
        "note": note.strip(),
    }


AIR_HOLDS = timedelta(hours=3)
"""How long the air that was read stands for a run."""


def air_at(readings: Iterable[Reading], at: datetime) -> Reading | None:
    """The air last read before a run, where it still stands for it."""
    standing = [
        reading
        for reading in readings
        if reading.kind == "air"
        and reading.withdrawn_at is None
        and timedelta(0) <= at - datetime.fromisoformat(reading.at) <= AIR_HOLDS
    ]
    return max(standing, key=lambda one: datetime.fromisoformat(one.at), default=None)


def speak(
    db: Session,
    actor: Actor,
    car_id: int,
    run_id: int,
    now: datetime,
    *,
    words: list[dict[str, str]],
    confidence: int | None,
    seen: str | None = None,
) -> RunRow:
    """Write the driver's words of a run, by phase, and the confidence from 1 to 5."""
    actor.must("speak")
    bench = load(db, actor, car_id)
    run = logbook.find_run(db, car_id, run_id)
    if run is None:
        raise NotFound("There is no such run of this car.")
    check_version(run, seen, "run")
    for spoken in words:
        check_phase(bench.car.discipline, spoken["phase"])
    if confidence is not None and not 1 <= confidence <= 5:
        raise OutOfRange(
            "Confidence goes from 1 (none left) to 5 (all of it).", number="confidence"
        )
    spoken_words = [
        {"phase": w["phase"], "text": w["text"].strip()} for w in words if w["text"].strip()
    ]
    before = {"words": run.words, "confidence": run.confidence}
    after = {"words": spoken_words, "confidence": confidence}
    if run.words and before != after:
        amended(
            db, actor, "run", run.id, before, after, "The driver's words were written anew.", now
        )
    run.words, run.confidence = spoken_words, confidence
    return run


def check_phase(discipline: str, phase: str) -> None:
    """Raise UnknownName for a phase that cars of a discipline do not go through."""
    phases = knowledge().disciplines[discipline].phase_ids
    if phase not in phases:
        raise UnknownName(
            f"A {discipline} car has no phase “{phase}”: {', '.join(phases)}.", number="phase"
        )


NOT_TESTED = "not tested"
OUTCOMES = ("better", "same", "worse", NOT_TESTED)
DECISIONS = ("keep", "back out", "open")


def judge(
    db: Session,
    actor: Actor,
    car_id: int,
    revision: int,
    now: datetime,
    *,
    outcome: str,
    decision: str,
    words: str = "",
) -> VerdictRow:
    """Give the verdict on the slip that made a revision. A later verdict stands over an earlier, which
    is kept and shown."""
    actor.must("judge")
    load(db, actor, car_id)
    slip = slips.booked_slip(db, car_id, revision)
    if slip is None:
        raise Conflict(f"Revision {revision} was not made by a slip: there is nothing to judge.")
    if outcome not in OUTCOMES or decision not in DECISIONS:
        raise UnknownName(f"A verdict is one of {', '.join(OUTCOMES)}, and {', '.join(DECISIONS)}.")
    if outcome != NOT_TESTED and not logbook.has_run(db, car_id, revision):
        raise Conflict(
            f"No run was logged on revision {revision}: log one first, or say “{NOT_TESTED}”."
        )
    verdict = VerdictRow(
        slip_id=slip.id,
        outcome=outcome,
        decision=decision,
        words=words.strip(),
        by=actor.name,
        at=now,
    )
    db.add(verdict)
    db.flush()
    return verdict
