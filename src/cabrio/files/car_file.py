"""The car file: a car with all its record, as JSON with a published schema. Lossless both ways."""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from itertools import islice
from math import isfinite
from typing import Any

from pydantic import ValidationError

from cabrio.core.car import Line
from cabrio.core.car.upgrade import setup_upgraded, upgraded
from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet, build

from .bounds import error_message, not_kept
from .car_file_format import CarFile, FileRevision
from .validation import unfit

MOST = 140_000
"""Lists and objects of one file: a car of years has 105,000."""
ESCAPED = re.compile(r"\\u(?:0000|[dD][89a-fA-F])")
"""How what cannot be kept is written: a NUL, or half of a pair."""
MOST_TOLD = 20
"""Sentences on what is wrong with a file."""
VERSION = 2


Tell = Callable[[str], None]
"""Hears what is begun."""
READING, CHECKING = "Reading the file", "Checking it"


def read(text: str | bytes, tell: Tell = lambda _: None) -> CarFile:
    """A car file from its text. Raises Problems with a sentence for each thing that is wrong."""
    tell(READING)
    document = _document(text)
    tell(CHECKING)
    try:
        file = CarFile.model_validate(_todays(document))
    except ValidationError as problem:
        raise Problems([_sentence(error) for error in problem.errors()[:10]]) from problem
    wrong = list(islice(unfit(file), MOST_TOLD))
    if wrong:
        raise Problems([Impossible(said, number="file") for said in wrong])
    return file


def _document(text: str | bytes) -> dict[str, Any]:
    """The JSON document of a car file of a version that is known. Raises Problems."""
    document, text = _parsed(text)
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
    return document


def _parsed(text: str | bytes) -> tuple[Any, str]:
    """What stands in a JSON text, and the text itself. Raises Problems."""
    try:
        if isinstance(text, bytes):
            text = text.decode(json.detect_encoding(text))
        if (count := text.count("{") + text.count("[")) > MOST:
            raise _refused(f"This file holds {count} entries; at most {MOST} are taken.")
        document = json.loads(
            text, parse_constant=_no_constant, parse_float=_finite, object_pairs_hook=_once
        )
        return document, text
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
    said = error_message(error)
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
            repeats=r.settles,
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
