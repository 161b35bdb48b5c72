"""Runs from a table: a timing sheet or a spreadsheet, its columns matched, looked at, then logged at once."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.core.record.clocked import check, fields_of, seconds
from cabrio.files.table import read_headed

from .actor import Actor
from .bench import Bench, load
from .logbook import add_run

MOST_ROWS = 200
LAP = "lap"
"""A column of lap times: all its rows are one run."""
PLAIN = {
    "driver": ("Driver", ("driver", "pilot", "name")),
    LAP: ("Lap time, all rows one run", ("lap time", "laptime", "time")),
    "best_time": ("Best lap", ("best lap", "best time", "best", "fastest")),
    "laps": ("Laps", ("laps", "lap count", "number of laps")),
    "tyres": ("Tyres", ("tyres", "tyre", "tires", "set")),
    "note": ("Note", ("note", "notes", "remark", "comment")),
}
"""What a run has besides what is clocked of it: its label, and what a heading may call it."""


@dataclass(frozen=True)
class Runs:
    """A table as it will be logged: which field each column is, empty for none, and its runs.

    `problems` are sentences by row; with any nothing is logged.
    """

    headings: tuple[str, ...]
    columns: tuple[str, ...]
    fields: tuple[tuple[str, str], ...]
    rows: tuple[tuple[str, ...], ...]
    runs: tuple[dict[str, Any], ...]
    problems: tuple[str, ...]


def read(bench: Bench, text: str, columns: Sequence[str] | None = None) -> Runs:
    """The runs in a table, its columns as they are told or as their headings say. Raises Impossible."""
    table = read_headed(text)
    if len(table.rows) > MOST_ROWS:
        raise Impossible(f"At most {MOST_ROWS} rows at once.", number="text")
    discipline = bench.car.discipline
    known = {field.id: (field.label.lower(),) for field in fields_of(discipline)}
    names = {name: words for name, (_, words) in PLAIN.items()} | known
    if columns is None:
        columns = _guessed(table.header, names)
    if len(columns) != len(table.header) or any(
        column and column not in names for column in columns
    ):
        raise Impossible("Say for every column of the table what it is.", number="columns")
    named_columns = [column for column in columns if column]
    twice = {one for one in named_columns if named_columns.count(one) > 1}
    if twice:
        raise Impossible(f"Two columns cannot both be {sorted(twice)[0]}.", number="columns")
    runs, problems = [], []
    for i, row in enumerate(table.rows):
        cells = {name: cell for name, cell in zip(columns, row, strict=True) if name and cell}
        try:
            runs.append(_run(bench, cells, known))
        except CoreError as refusal:
            problems.append(f"Row {i + 1}: {refusal.sentence}")
    if LAP in columns and not problems:
        runs = [_one_run(runs)]
    fields = [(name, label) for name, (label, _) in PLAIN.items()]
    fields += [(field.id, field.label) for field in fields_of(discipline)]
    return Runs(
        table.header, tuple(columns), tuple(fields), table.rows, tuple(runs), tuple(problems)
    )


def _guessed(header: Sequence[str], names: dict[str, tuple[str, ...]]) -> list[str]:
    """What each heading is, by its whole words first; a field is taken once."""
    plain = [one.split("(")[0].split("[")[0].strip().lower() for one in header]
    found = [""] * len(header)
    for exact in (True, False):
        for name, words in names.items():
            if name in found:
                continue
            for i, heading in enumerate(plain):
                here = heading in words if exact else any(word in heading for word in words)
                if not found[i] and heading and here:
                    found[i] = name
                    break
    return found


def _run(bench: Bench, cells: dict[str, str], known: dict[str, Any]) -> dict[str, Any]:
    """One row as the fields of a run, checked as the screens check them."""
    found: dict[str, Any] = {
        name: cells[name] for name in ("driver", "tyres", "note") if name in cells
    }
    if "laps" in cells:
        if not cells["laps"].isdecimal() or int(cells["laps"]) > 10_000:
            raise Impossible(f"“{cells['laps']}” is not a valid number of laps.", number="laps")
        found["laps"] = int(cells["laps"])
    for name in ("best_time", LAP):
        if name in cells:
            text = cells[name].removesuffix("s").strip()
            seconds(text, name)
            found["best_time"] = text
    times = {name: cells[name] for name in known if name in cells}
    check(bench.car.discipline, times, bench.car.profile)
    return found | {"times": times}


def _one_run(laps: Sequence[dict[str, Any]]) -> dict[str, Any]:
    """A column of laps as one run: how many, and the best of them."""
    timed = [lap for lap in laps if "best_time" in lap]
    if not timed:
        raise Impossible("There is no lap time in it.", number="text")
    best = min(timed, key=lambda one: seconds(one["best_time"], LAP))
    return {**timed[0], "best_time": best["best_time"], "laps": len(timed), "times": {}}


def look(db: Session, actor: Actor, car_id: int, text: str, columns: list[str] | None) -> Runs:
    """The table as it would be logged; changes nothing."""
    actor.must("log")
    return read(load(db, actor, car_id), text, columns)


def add(
    db: Session,
    actor: Actor,
    car_id: int,
    session_id: int,
    now: datetime,
    *,
    text: str,
    columns: list[str],
    released_why: str = "",
) -> int:
    """Log every run of a table, or none of them. Raises Problems with every row's, or `add_run`'s."""
    actor.must("log")
    found = read(load(db, actor, car_id), text, columns)
    if found.problems:
        raise Problems([Impossible(said, number="text") for said in found.problems[:20]])
    if not found.runs:
        raise Impossible("There is no run in it.", number="text")
    for run in found.runs:
        add_run(db, actor, car_id, session_id, now, released_why=released_why, **run)
    return len(found.runs)
