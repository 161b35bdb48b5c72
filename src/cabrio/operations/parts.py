"""The inventory: adding, correcting and removing parts, and reading their tables from text."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.car import Car, PreviousPart
from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.fields import PartField
from cabrio.core.catalog.part import Part, PartKind, assembled, entered_fields, left_out
from cabrio.core.catalog.part_kinds import part_kind
from cabrio.core.errors import (
    CoreError,
    Impossible,
    Missing,
    OutOfRange,
    Problems,
    UnknownName,
    collected,
)
from cabrio.storage import cars
from cabrio.storage.documents import iso

from .actor import Actor
from .bench import Bench, load
from .errors import Conflict
from .texts import checked_text, named
from .versions import check_version

MOST_ROWS = 600
MOST_PARTS = 400
MOST_CORRECTIONS = 400


def save_part(
    db: Session,
    actor: Actor,
    car_id: int,
    now: datetime,
    *,
    kind: str,
    code: str,
    values: Mapping[str, Any],
    fits: str = "both",
    note: str = "",
    instead_of: str | None = None,
    confirmed: bool = False,
    seen: str | None = None,
) -> Car:
    """Put a part into the inventory, or correct one. Figures in any unit; all problems at once.

    A code that the record names cannot be changed. A correction keeps what was there before.
    """
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    entry = part_kind(kind)
    problems: list[CoreError] = []
    old = bench.car.part(kind, instead_of) if instead_of else None
    if instead_of and old is None:
        raise UnknownName(
            f"There is no {entry.label.lower()} {instead_of} in the inventory.", number="code"
        )
    check_version(old, seen, entry.label.lower())
    if len(bench.car.parts.of(kind)) >= MOST_PARTS and not instead_of:
        raise Impossible(f"An inventory holds at most {MOST_PARTS} of a kind.", number="code")
    checked = _checked_fields(entry, values, bench.car.profile, confirmed, problems)
    if fits not in ("front", "rear", "both"):
        problems.append(
            UnknownName("A part fits the front, the rear or both axles.", number="fits")
        )
    if not problems:
        with collected(problems):
            part = replace(
                assembled(entry, named(code, "code"), checked, old),
                fits=fits,  # type: ignore[arg-type]
                note=checked_text(note, "note"),
            )
            part.check()
            part.check_on(bench.car.facts)
            if instead_of and part.code != instead_of:
                _free(bench, kind, instead_of, "Its code cannot change")
            parts = bench.car.parts.with_part(kind, part, instead_of=instead_of)
    if problems:
        raise Problems(problems)
    car = replace(bench.car, parts=parts)
    was = _replaced(old, part) if old else {}
    if was:
        kept = PreviousPart(kind, part.code, was, actor.name, iso(now))
        car = replace(car, corrected=(*car.corrected, kept)[-MOST_CORRECTIONS:])
    cars.save_car(bench.row, car)
    return car


def _checked_fields(
    kind: PartKind,
    values: Mapping[str, Any],
    profile: str,
    confirmed: bool,
    problems: list[CoreError],
) -> dict[str, Any]:
    """The fields of a part [SI], as typed in any unit; what is refused is added to the problems."""
    checked: dict[str, Any] = {}
    for name in set(values) - {field.id for field in kind.fields}:
        problems.append(UnknownName(f"A {kind.label.lower()} has no field “{name}”.", number=name))
    for field in kind.fields:
        try:
            checked[field.id] = _value(field, values.get(field.id), profile, confirmed)
        except Problems as several:
            problems += several.problems
        except CoreError as problem:
            problem.number, problem.place = field.id, None
            problems.append(problem)
    if not problems:
        problems += [
            Missing(f"{one.label} is needed beside the rest of it.", number=one.id)
            for one in left_out(kind, checked)
        ]
    return checked


def _replaced(old: Part, new: Part) -> dict[str, Any]:
    """The fields a correction changes, as they were."""
    then, now = entered_fields(old), entered_fields(new)
    return {name: value for name, value in then.items() if value != now[name]}


def _value(field: PartField, typed: Any, profile: str, confirmed: bool) -> Any:
    """One field as the core holds it. Raises the refusals at the field; a table's name their row."""
    if typed and isinstance(typed, list) is not (field.kind == "table"):
        expected = "rows are expected" if field.kind == "table" else "one value is expected"
        raise Impossible(f"{field.label}: {expected}.", number=field.id)
    if field.kind == "table":
        return _table(field, typed or [], profile)
    if field.kind == "flag":
        return bool(typed)
    empty = typed is None or (isinstance(typed, str) and not typed.strip())
    if field.kind == "words":
        return checked_text(str(typed or ""), field.id, 400)
    if field.kind == "choice":
        options = [key for key, _ in field.options]
        if not empty and typed not in options:
            raise UnknownName(f"{field.label}: use one of {', '.join(options)}.", number=field.id)
        return None if empty else typed
    if empty:
        if field.needed and len(field.path) == 1:
            raise Missing(f"{field.label} is needed.", number=field.id)
        return None
    value = check_value(field.number, "car", typed, profile, confirmed=confirmed)
    if field.whole and not value.is_integer():
        raise OutOfRange(f"{field.label}: a whole number is expected.", number=field.id)
    return int(value) if field.whole else value


def _table(field: PartField, rows: Any, profile: str) -> Any:
    """The rows as the core holds them; those of a table with named rows in the order of its names."""
    assert field.table is not None
    names = field.table.names
    filled = [row for row in rows if any(cell not in (None, "") for cell in row)]
    if len(rows if names else filled) > (len(names) or MOST_ROWS):
        raise Impossible(f"{field.label}: at most {len(names) or MOST_ROWS} rows.", number=field.id)
    if not filled:
        if field.needed and len(field.path) == 1:
            raise Missing(f"{field.label}: type at least one row.", number=field.id)
        return None
    problems: list[CoreError] = []
    checked: list[tuple[float, ...]] = []
    for i, row in enumerate(rows if names else filled):
        cells = [] if row not in filled else _row(field, row, i, profile, problems)
        checked.append(tuple(cells))
    if problems:
        raise Problems(problems)
    checked += [()] * (len(names) - len(checked))
    return field.table.build(checked)


def _row(
    field: PartField, row: Any, at: int, profile: str, problems: list[CoreError]
) -> list[float]:
    """One row of figures; what is wrong with it goes to the problems, by row and column."""
    assert field.table is not None
    names = field.table.names
    cells = []
    for j, column in enumerate(field.columns):
        cell = row[j] if j < len(row) and row[j] is not None else ""
        try:
            cells.append(check_value(column, "car", cell, profile, confirmed=True))
        except CoreError as problem:
            problem.number, problem.place = field.id, f"{at}.{j}"
            where = names[at].label if names else f"Row {at + 1}"
            problem.sentence = f"{where}: {problem.sentence}"
            problems.append(problem)
    return cells


def _free(bench: Bench, kind: str, code: str, words: str) -> None:
    """Raise Conflict while some revision wears the part: the record needs it."""
    worn = [
        revision.number for revision in bench.revisions if code in (revision.setup.get(kind) or ())
    ]
    if worn:
        raise Conflict(
            f"{words}: {part_kind(kind).label.lower()} {code} is in revision {worn[-1]}."
        )


def remove_part(db: Session, actor: Actor, car_id: int, *, kind: str, code: str) -> Car:
    """Take a part out of the inventory; refused while any revision wears it, for the record's sake."""
    actor.must("give")
    bench = load(db, actor, car_id, lock=True)
    part_kind(kind)
    car = replace(bench.car, parts=bench.car.parts.without(kind, code))
    _free(bench, kind, code, "It stays in the inventory")
    cars.save_car(bench.row, car)
    return car


def table_field(kind: str, field: str) -> PartField:
    """A table of a kind of part. Raises UnknownName."""
    found = next(
        (one for one in part_kind(kind).fields if one.id == field and one.kind == "table"), None
    )
    if found is None:
        raise UnknownName(
            f"A {part_kind(kind).label.lower()} has no table “{field}”.", number=field
        )
    return found


def row_problems(field: PartField, rows: list[list[str]], profile: str) -> list[str]:
    """What is wrong with a table, row by row, before anything of it is taken."""
    try:
        _table(field, rows, profile)
    except Problems as several:
        return [problem.sentence for problem in several.problems]
    except CoreError as problem:
        return [problem.sentence]
    return []
