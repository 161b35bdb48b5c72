"""The car file: a car with all its record, as JSON with a published schema. Lossless both ways."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from itertools import islice
from math import isfinite
from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, ValidationError, field_serializer

from cabrio.core.car import Car, Line
from cabrio.core.car.upgrade import setup_upgraded, upgraded
from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.core.record.floor import State
from cabrio.core.record.readings import Reading, Taken
from cabrio.core.record.watch import Kind as WatchedKind
from cabrio.core.sheet.build import Revision, Sheet, build

from .bounds import Confidence, Day, Id, Kelvin, Laps, Moment, Name, Note, Word, not_kept, said_of
from .validation import unfit

MOST = 140_000
"""Lists and objects of one file: a car of years has 105,000."""
ESCAPED = re.compile(r"\\u(?:0000|[dD][89a-fA-F])")
"""How what cannot be kept is written: a NUL, or half of a pair."""
MOST_TOLD = 20
"""Sentences on what is wrong with a file."""
VERSION = 2


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class FileLine(Strict):
    name: Word
    place: Word
    old: Any
    new: Any


class FileVerdict(Strict):
    outcome: Literal["better", "same", "worse", "not tested"]
    decision: Literal["keep", "back out", "open"]
    words: Note = ""
    by: Name
    at: Moment


class FileSlip(Strict):
    """What made a revision. `session` is [event, session] counted from 0 within this file."""

    author: Name
    why: Note = ""
    expectation: Note = ""
    session: tuple[int, int] | None = None
    lines: list[FileLine] = Field(max_length=400)
    jobs: list[Word] = Field(default_factory=list, max_length=60)
    verdicts: list[FileVerdict] = Field(default_factory=list, max_length=30)


class FileRevision(Strict):
    number: Id
    setup: dict[Word, list[Any]] = Field(max_length=400)
    by: Name
    at: Moment
    slip: FileSlip | None = None


class FileReading(Strict):
    """One reading. Values are SI; corner rows are LF, RF, LR, RR; one row a settle."""

    kind: Word
    revision: Id
    settles: dict[Word, list[list[float | None]]] = Field(default_factory=dict, max_length=40)
    conditions: dict[Word, bool] = Field(default_factory=dict, max_length=40)
    taken: Taken = Taken()
    note: Note = ""
    by: Name
    at: Moment
    withdrawn_by: Name | None = None
    withdrawn_at: Moment | None = None
    withdrawn_why: Note | None = None


class FileWord(Strict):
    """What the driver said, and where on the lap."""

    phase: Word
    text: Note


class FileRun(Strict):
    number: Id
    revision: Id
    driver: Name = ""
    laps: Laps | None = None
    best_time: float | None = Field(default=None, gt=0)
    times: dict[Word, float] = Field(default_factory=dict, max_length=20)
    not_ready: list[Note] = Field(default_factory=list, max_length=60)
    released_why: str = Field(default="", max_length=2000)
    tyres: Name = ""
    floor: dict[Literal["front", "rear"], State] = Field(default_factory=dict, max_length=2)
    confidence: Confidence | None = None
    words: list[FileWord] = Field(default_factory=list, max_length=20)
    note: Note = ""
    by: Name
    at: Moment


class FileSession(Strict):
    """Temperatures in K."""

    name: Name
    kind: Word
    starts_at: Moment
    surface: Name = ""
    air_temperature: Kelvin | None = None
    track_temperature: Kelvin | None = None
    note: Note = ""
    runs: list[FileRun] = Field(default_factory=list, max_length=2000)


class FileEvent(Strict):
    name: Name
    place: Name = ""
    starts_on: Day
    ends_on: Day
    lap_length: float | None = Field(default=None, ge=100, le=50_000)
    note: Note = ""
    sessions: list[FileSession] = Field(default_factory=list, max_length=2000)


class FileDone(Strict):
    revision: Id
    by: Name
    at: Moment


class FileWatched(Strict):
    """An issue, a part off the car, a torque, a class limit or a service; its figures are SI."""

    kind: WatchedKind
    words: str = Field(min_length=1, max_length=120)
    data: dict[str, str | float | bool | int] = Field(default_factory=dict)
    opened_by: Name
    opened_at: Moment
    closed_by: Name | None = None
    closed_at: Moment | None = None
    closed_words: str = Field(default="", max_length=4000)
    done: list[FileDone] = Field(default_factory=list, max_length=1000)


class FileTick(Strict):
    step: str = Field(max_length=120)
    by: Name
    at: Moment
    undone_by: Name | None = None
    undone_at: Moment | None = None


class FileWalk(Strict):
    """An order of work as it was walked through, with every tick."""

    procedure: str = Field(max_length=60)
    started_by: Name
    started_at: Moment
    ended_at: Moment | None = None
    ticks: list[FileTick] = Field(default_factory=list, max_length=200)


class CarFile(Strict):
    """A car file. All values are SI: m, kg, N/m, rad, Pa, K. Drafts not yet booked are not in it."""

    format: Literal["cabrio-car"]
    version: Literal[2]
    car: Car
    on_revision: Id
    revisions: list[FileRevision] = Field(min_length=1, max_length=10_000)
    readings: list[FileReading] = Field(default_factory=list, max_length=10_000)
    events: list[FileEvent] = Field(default_factory=list, max_length=2000)
    watched: list[FileWatched] = Field(default_factory=list, max_length=1000)
    walks: list[FileWalk] = Field(default_factory=list, max_length=300)

    @field_serializer("car")
    def whole(self, car: Car) -> Any:
        """The car itself is told whole: what one of its parts does not say is a kind of its own."""
        return CAR.dump_python(car, mode="json")


CAR: TypeAdapter[Car] = TypeAdapter(Car)
Tell = Callable[[str], None]
"""Hears what is begun."""
READING, CHECKING = "Reading the file", "Checking it"


def read(text: str | bytes, tell: Tell = lambda _: None) -> CarFile:
    """A car file from its text. Raises Problems with a sentence for each thing that is wrong."""
    tell(READING)
    try:
        if isinstance(text, bytes):
            text = text.decode(json.detect_encoding(text))
        if (count := text.count("{") + text.count("[")) > MOST:
            raise _refused(f"This file holds {count} entries; at most {MOST} are taken.")
        document = json.loads(
            text, parse_constant=_no_constant, parse_float=_finite, object_pairs_hook=_once
        )
    except UnicodeDecodeError as problem:
        raise _refused("This is not a car file: it is not text.") from problem
    except RecursionError as problem:
        raise _refused("This is not a car file: it is nested too deep.") from problem
    except json.JSONDecodeError as problem:
        raise _refused(
            f"The file ends or breaks at line {problem.lineno}: it may have been cut short. "
            "Export it once more."
        ) from problem
    except ValueError as problem:
        raise _refused("A number in the file has more digits than any figure.") from problem
    if not isinstance(document, dict) or document.get("format") != "cabrio-car":
        raise _refused("This is not a car file: it has no “format”: “cabrio-car”.")
    version = document.get("version")
    if isinstance(version, int) and version > VERSION:
        raise _refused(
            f"This file was written by a later version (file version {str(version)[:12]}; this one "
            f"reads up to {VERSION}). Update, or export it again from there."
        )
    # a look at each text takes longer than reading them all
    if ESCAPED.search(text) and (where := not_kept(document)) is not None:
        raise _refused(f"In {where.replace('/', '.')} is a character that cannot be kept.")
    tell(CHECKING)
    try:
        file = CarFile.model_validate(_todays(document))
    except ValidationError as problem:
        raise Problems([_sentence(error) for error in problem.errors()[:10]]) from problem
    wrong = list(islice(unfit(file), MOST_TOLD))
    if wrong:
        raise Problems([Impossible(said, number="file") for said in wrong])
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


def _finite(text: str) -> float:
    found = float(text)
    if not isfinite(found):
        raise _refused(f"The file has {text[:40]} where a number belongs: that has no size.")
    return found


def _once(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    found = dict(pairs)
    if len(found) < len(pairs):
        twice = next(key for i, (key, _) in enumerate(pairs) if key in dict(pairs[:i]))
        raise _refused(f"The file tells “{twice[:40]}” twice at one place.")
    return found


def _no_constant(name: str) -> float:
    raise _refused(f"The file has a {name} where a number belongs.")


def _refused(sentence: str) -> Problems:
    return Problems([Impossible(sentence, number="file")])


def _sentence(error: Any) -> CoreError:
    where = ".".join(str(part) for part in error["loc"]) or "the file"
    said = said_of(error)
    return Impossible(f"In {where}: {said[0].lower()}{said[1:]}.", number="file")


def write(file: CarFile) -> str:
    """The text of a car file. What was never said of a run, a reading or a slip is left out: of a car of years
    that is a third."""
    return file.model_dump_json(indent=1, exclude_defaults=True) + "\n"


def schema() -> dict[str, Any]:
    """The JSON Schema of a car file."""
    document = CarFile.model_json_schema(mode="validation")
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
