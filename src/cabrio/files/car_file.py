"""The car file: a car with all its record, as JSON with a published schema. Lossless both ways."""

from __future__ import annotations

import json
from datetime import date, datetime
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from cabrio.core.car import Car, Line, check_setup
from cabrio.core.car.upgrade import setup_upgraded, upgraded
from cabrio.core.catalog.part import part_kinds
from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.core.record.clocked import check_clocked
from cabrio.core.record.readings import Reading, Taken
from cabrio.core.record.watch import Kind as WatchedKind
from cabrio.core.record.watch import check_kept
from cabrio.core.sheet.build import Revision, Sheet, build

VERSION = 2


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class FileLine(Strict):
    name: str
    place: str
    old: Any
    new: Any


class FileVerdict(Strict):
    outcome: Literal["better", "same", "worse", "not tested"]
    decision: Literal["keep", "back out", "open"]
    words: str = ""
    by: str
    at: datetime


class FileSlip(Strict):
    """What made a revision. `session` is [event, session] counted from 0 within this file."""

    author: str
    why: str = ""
    expectation: str = ""
    session: tuple[int, int] | None = None
    lines: list[FileLine]
    jobs: list[str] = []
    verdicts: list[FileVerdict] = []


class FileRevision(Strict):
    number: int = Field(ge=1)
    setup: dict[str, list[Any]]
    by: str
    at: datetime
    slip: FileSlip | None = None


class FileReading(Strict):
    """One reading. Values are SI; corner rows are LF, RF, LR, RR; one row a settle."""

    kind: str
    revision: int = Field(ge=1)
    settles: dict[str, list[list[float]]] = {}
    conditions: dict[str, bool] = {}
    taken: Taken = Taken()
    note: str = ""
    by: str
    at: datetime
    withdrawn_by: str | None = None
    withdrawn_at: datetime | None = None
    withdrawn_why: str | None = None


class FileRun(Strict):
    number: int = Field(ge=1)
    revision: int = Field(ge=1)
    driver: str = ""
    laps: int | None = Field(default=None, ge=0)
    best_time: float | None = Field(default=None, gt=0)
    times: dict[str, float] = {}
    not_ready: list[str] = Field(default=[], max_length=60)
    released_why: str = Field(default="", max_length=2000)
    tyres: str = ""
    confidence: int | None = Field(default=None, ge=1, le=5)
    words: list[dict[str, str]] = []
    note: str = ""
    by: str
    at: datetime


class FileSession(Strict):
    """Temperatures in K."""

    name: str
    kind: str
    starts_at: datetime
    surface: str = ""
    air_temperature: float | None = None
    track_temperature: float | None = None
    note: str = ""
    runs: list[FileRun] = []


class FileEvent(Strict):
    name: str
    place: str = ""
    starts_on: date
    ends_on: date
    lap_length: float | None = Field(default=None, ge=100, le=50_000)
    note: str = ""
    sessions: list[FileSession] = []


class FileDone(Strict):
    revision: int = Field(ge=1)
    by: str
    at: datetime


class FileWatched(Strict):
    """An issue, a part off the car, a torque, a class limit or a service; its figures are SI."""

    kind: WatchedKind
    words: str = Field(min_length=1, max_length=120)
    data: dict[str, str | float | bool | int] = {}
    opened_by: str
    opened_at: datetime
    closed_by: str | None = None
    closed_at: datetime | None = None
    closed_words: str = Field(default="", max_length=4000)
    done: list[FileDone] = Field(default=[], max_length=1000)


class FileTick(Strict):
    step: str = Field(max_length=120)
    by: str
    at: datetime
    undone_by: str | None = None
    undone_at: datetime | None = None


class FileWalk(Strict):
    """An order of work as it was walked through, with every tick."""

    procedure: str = Field(max_length=60)
    started_by: str
    started_at: datetime
    ended_at: datetime | None = None
    ticks: list[FileTick] = Field(default=[], max_length=1000)


class CarFile(Strict):
    """A car file. All values are SI: m, kg, N/m, rad, Pa, K. Drafts not yet booked are not in it."""

    format: Literal["cabrio-car"]
    version: Literal[2]
    car: Car
    on_revision: int = Field(ge=1)
    revisions: list[FileRevision] = Field(min_length=1)
    readings: list[FileReading] = []
    events: list[FileEvent] = []
    watched: list[FileWatched] = Field(default=[], max_length=1000)
    walks: list[FileWalk] = Field(default=[], max_length=1000)


def read(text: str | bytes) -> CarFile:
    """A car file from its text. Raises Problems with a sentence for each thing that is wrong."""
    try:
        document = json.loads(text, parse_constant=_no_constant)
    except UnicodeDecodeError as problem:
        raise _refused("This is not a car file: it is not text.") from problem
    except RecursionError as problem:
        raise _refused("This is not a car file: it is nested too deep.") from problem
    except json.JSONDecodeError as problem:
        raise _refused(
            f"The file ends or breaks at line {problem.lineno}: it may have been cut short. "
            "Export it once more."
        ) from problem
    if not isinstance(document, dict) or document.get("format") != "cabrio-car":
        raise _refused("This is not a car file: it has no “format”: “cabrio-car”.")
    version = document.get("version")
    if isinstance(version, int) and version > VERSION:
        raise _refused(
            f"This file was written by a later version (file version {version}; this one "
            f"reads up to {VERSION}). Update, or export it again from there."
        )
    try:
        file = CarFile.model_validate(_todays(document))
    except ValidationError as problem:
        raise Problems([_sentence(error) for error in problem.errors()[:10]]) from problem
    _check(file)
    return file


def _todays(document: dict[str, Any]) -> dict[str, Any]:
    """A file of the first version in the form of this one; what is malformed is left to the checks."""
    if document.get("version") != 1 or not isinstance(document.get("car"), dict):
        return document
    try:
        car, codes = upgraded(document["car"])
        revisions = [
            {**one, "setup": setup_upgraded(one["setup"], codes)} for one in document["revisions"]
        ]
        readings = [_reading_today(one) for one in document.get("readings", [])]
    except (KeyError, TypeError, ValueError, AttributeError):
        return {**document, "version": VERSION}
    return {
        **document,
        "version": VERSION,
        "car": car,
        "revisions": revisions,
        "readings": readings,
    }


def _reading_today(reading: dict[str, Any]) -> dict[str, Any]:
    fuel = reading.get("fuel_mass")
    kept = {k: v for k, v in reading.items() if k != "fuel_mass"}
    if fuel is not None:
        kept["settles"] = {**kept.get("settles", {}), "fuel_mass": [[fuel]]}
    return kept


def _no_constant(name: str) -> float:
    raise _refused(f"The file has a {name} where a number belongs.")


def _refused(sentence: str) -> Problems:
    return Problems([Impossible(sentence, number="file")])


def _sentence(error: Any) -> CoreError:
    where = ".".join(str(part) for part in error["loc"]) or "the file"
    return Impossible(f"In {where}: {error['msg'][0].lower()}{error['msg'][1:]}.", number="file")


def _check(file: CarFile) -> None:
    """What the schema alone cannot say: the parts of the file must fit together."""
    problems: list[CoreError] = []

    def refuse(sentence: str) -> None:
        problems.append(Impossible(sentence, number="file"))

    wanted = list(range(1, len(file.revisions) + 1))
    if [revision.number for revision in file.revisions] != wanted:
        refuse(f"Revisions must run from 1 to {len(wanted)} without a gap.")
    elif file.on_revision != wanted[-1]:
        refuse(f"The car must be on its last revision, {wanted[-1]}.")
    for name, given in file.car.given.items():
        try:
            places = len(number_named(name).shape.places)
            if len(given.values) != places:
                refuse(f"{name} has {len(given.values)} values and needs {places}.")
        except CoreError as problem:
            refuse(problem.sentence)
    for kind in part_kinds():
        for part in file.car.parts.of(kind):
            try:
                part.check()
                part.check_on(file.car.facts)
            except CoreError as problem:
                refuse(f"{part.code}: {problem.sentence}")
    for revision in file.revisions:
        newest = revision.number == wanted[-1]
        try:
            check_setup(file.car, revision.setup, ranges=newest)
        except Problems as several:
            refuse(f"Revision {revision.number}: {several.problems[0].sentence}")
        slip = revision.slip
        if slip and slip.session:
            event, session = slip.session
            if not (
                0 <= event < len(file.events) and 0 <= session < len(file.events[event].sessions)
            ):
                refuse(f"Revision {revision.number} names a session that the file does not have.")
    known = set(wanted)
    if any(reading.revision not in known for reading in file.readings):
        refuse("A reading belongs to a revision that the file does not have.")
    kinds = knowledge().readings
    for reading in file.readings:
        if reading.kind not in kinds:
            refuse(f"There is no kind of reading called “{reading.kind}”.")
            continue
        extra = set(reading.settles) - set(kinds[reading.kind].numbers)
        if extra:
            refuse(f"{kinds[reading.kind].label} does not record {', '.join(sorted(extra))}.")
        for name, rows in reading.settles.items():
            try:
                places = len(number_named(name).shape.places)
            except CoreError as problem:
                refuse(problem.sentence)
                continue
            if not rows or any(len(row) != places for row in rows):
                refuse(f"A reading of {name} needs {places} values in each settle.")
    runs = [run for event in file.events for session in event.sessions for run in session.runs]
    if any(run.revision not in known for run in runs):
        refuse("A run was made on a revision that the file does not have.")
    for run in runs:
        try:
            check_clocked(file.car.discipline, run.times)
        except Problems as several:
            refuse(f"Run {run.number}: {several.problems[0].sentence}")
    for one in file.watched:
        try:
            check_kept(one.kind, one.data)
        except CoreError as problem:
            refuse(f"{one.words}: {problem.sentence}")
        except Problems as several:
            refuse(f"{one.words}: {several.problems[0].sentence}")
    orders = {one.id for one in knowledge().work.procedures}
    if any(one.procedure not in orders for one in file.walks):
        refuse("An order of work was walked that there is none of.")
    for procedure in orders:
        if sum(one.procedure == procedure and one.ended_at is None for one in file.walks) > 1:
            refuse("An order of work is under way twice.")
    if problems:
        raise Problems(problems)


def write(file: CarFile) -> str:
    return json.dumps(file.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"


def schema() -> dict[str, Any]:
    """The JSON Schema of a car file."""
    document = CarFile.model_json_schema(mode="serialization")
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **document}


def sheet_of(file: CarFile) -> Sheet:
    """The worked sheet of the car as the file leaves it."""
    revisions = [
        Revision(
            r.number,
            r.setup,
            _lines(r),
            r.by,
            r.at.isoformat(),
            tuple(r.slip.jobs) if r.slip else (),
        )
        for r in file.revisions
    ]
    readings = [
        Reading(
            id=i,
            kind=r.kind,
            revision=r.revision,
            by=r.by,
            at=r.at.isoformat(),
            settles=r.settles,
            conditions=r.conditions,
            note=r.note,
            taken=r.taken,
            withdrawn_at=r.withdrawn_at.isoformat() if r.withdrawn_at else None,
        )
        for i, r in enumerate(file.readings)
    ]
    return build(file.car, file.revisions[-1].setup, readings, revisions)


def _lines(revision: FileRevision) -> tuple[Line, ...]:
    lines = revision.slip.lines if revision.slip else []
    return tuple(Line(line.name, line.place, line.old, line.new) for line in lines)
