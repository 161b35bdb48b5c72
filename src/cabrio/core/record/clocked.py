"""What a clock wrote of a run: times and speeds checked, read from pasted text, and what they say."""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any

from ..catalog.units import parse, show
from ..errors import CoreError, Impossible, OutOfRange, Problems, UnknownName
from ..graph.evaluate import answer
from ..knowledge import Clocked, knowledge
from .readings import Reading

MAX_TIME_S = 36_000.0
"""No run lasts longer [s]."""
FASTEST = 250.0
"""No car here is faster [m/s]."""
FARTHEST_OFF = 3.0
"""No car is farther off its line in its own lane [m]."""
FALSE_START = -2.0
"""A reaction may lie before the light by this much [s]: a foul start still runs."""
ROWS = 40
LETTERS = 2000


ROLLOUT = 0.28
"""How far a staged car usually rolls before its clock starts [m]: more staged shallow, less deep."""


@dataclass(frozen=True)
class Split:
    """From one mark to the next: how long it took [s], and the mean speed there [m/s]."""

    label: str
    time: float
    mean_speed: float


@dataclass(frozen=True)
class Pass:
    """What a clocked run from rest says.

    `launch` is the mean acceleration over the first 60 ft [m/s²]. `corrected` is the last time brought to
    standard air [s], None where no air was read.
    """

    launch: float | None
    splits: tuple[Split, ...]
    finish: float | None
    corrected: float | None


def fields_of(discipline: str) -> tuple[Clocked, ...]:
    """What is clocked of a run in a discipline, in the order it is written down."""
    return tuple(one for one in knowledge().clocked if discipline in one.disciplines)


def seconds(typed: str | float, field: str) -> float:
    """`1:32.45` or `92.45` as seconds. Raises OutOfRange at the field."""
    # a figure is one already: of a car file, whose sums of minutes have all their decimals
    figure = isinstance(typed, int | float) and not isinstance(typed, bool)
    wrote = None if figure else _CLOCK.fullmatch(str(typed).strip().replace(",", "."))
    found = float(typed) if figure else float("nan")
    if wrote and (not wrote["minutes"] or 0 <= float(wrote["rest"]) < 60):
        found = 60 * float(wrote["minutes"] or 0) + float(wrote["rest"])
    lowest = FALSE_START if field == "reaction" else 0.0
    if not lowest < found < MAX_TIME_S:
        raise OutOfRange(
            f"“{typed}” is not a time: write one such as 1:32.45 or 9.87.",
            number=field,
            value=typed,
        )
    return found


def check(discipline: str, typed: Mapping[str, Any], profile: str) -> dict[str, float]:
    """Times [s] and speeds [m/s] as typed; empty ones are left out. Raises Problems, all at once."""
    known = {field.id: field for field in fields_of(discipline)}
    problems: list[CoreError] = [
        UnknownName(f"Nothing called “{name}” is clocked on a {discipline} car.", number=name)
        for name in typed.keys() - known.keys()
    ]
    found: dict[str, float] = {}
    for name, one in known.items():
        if typed.get(name) in (None, ""):
            continue
        try:
            found[name] = _value(one, typed[name], profile)
        except CoreError as refusal:
            refusal.number, refusal.place = name, None
            problems.append(refusal)
    if not problems:
        problems += _out_of_order(known, found)
    if problems:
        raise Problems(problems)
    return found


def check_clocked(discipline: str, times: Mapping[str, float]) -> None:
    """Raise Problems for times [s] and speeds [m/s] that no clock can have written."""
    check(discipline, times, "n_mm")


def _value(one: Clocked, typed: Any, profile: str) -> float:
    if one.quantity == "time":
        return seconds(typed, one.id)
    if one.quantity == "dimension":
        off = parse(typed, "dimension", profile)
        if not abs(off) <= FARTHEST_OFF:
            most = show(FARTHEST_OFF, "dimension", profile)
            raise OutOfRange(f"{one.label}: at most {most} either way.", value=typed)
        return off
    speed = parse(typed, "speed", profile)
    if not 0 < speed < FASTEST:
        raise OutOfRange(f"{one.label}: “{typed}” is not a speed of a car.", value=typed)
    return speed


def _marks(known: Mapping[str, Clocked], times: Mapping[str, float]) -> list[Clocked]:
    """The marks of a run from rest that were clocked, in their order down the track."""
    return [
        one for one in known.values() if one.distance and one.quantity == "time" and one.id in times
    ]


def marks_of(discipline: str, times: Mapping[str, float]) -> dict[str, float]:
    """The times to the marks that were clocked [s], by label, in their order down the track."""
    known = {field.id: field for field in fields_of(discipline)}
    return {mark.label: times[mark.id] for mark in _marks(known, times)}


def _out_of_order(known: Mapping[str, Clocked], times: Mapping[str, float]) -> list[CoreError]:
    """A later mark reached sooner than an earlier one."""
    return [
        Impossible(
            f"{after.label} cannot be reached in {times[after.id]:g} s when {before.label} takes "
            f"{times[before.id]:g} s.",
            number=after.id,
        )
        for before, after in pairwise(_marks(known, times))
        if times[after.id] <= times[before.id]
    ]


def air_told(reading: Reading) -> tuple[float, float] | None:
    """Density over the standard day's, and density altitude [m], of a reading of the air."""
    air = {name: row[0] for name, row in reading.values.items()}
    try:
        worked = answer(("density_ratio", "density_altitude"), air)
    except CoreError:
        return None
    return float(worked["density_ratio"]), float(worked["density_altitude"])


def pass_summary(
    discipline: str, times: Mapping[str, float], density_ratio: float | None = None
) -> Pass:
    """What the times of a run say; `density_ratio` is the air's over the standard day's.

    The clock starts once the car has rolled out of the beam, so it moves by then: with rollout r the mean
    acceleration is 2·(√(s + r) − √r)²/t². A time goes with the cube root of power, and power with the
    density of the air: so for an engine that breathes freely, and where grip is not what limits.
    """
    known = {field.id: field for field in fields_of(discipline)}
    marks = _marks(known, times)
    splits = tuple(
        Split(
            f"{before.label} to {after.label}",
            took := times[after.id] - times[before.id],
            (after.distance - before.distance) / took,
        )
        for before, after in pairwise(marks)
    )
    first, last = (marks[0], marks[-1]) if marks else (None, None)
    short = first is not None and first.id == "t60"
    finish = times[last.id] if last is not None else None
    corrected = None
    if finish is not None and density_ratio is not None:
        corrected = finish * float(density_ratio) ** (1 / 3)
    launch = None
    if first is not None and short:
        rolled = math.sqrt(first.distance + ROLLOUT) - math.sqrt(ROLLOUT)
        launch = 2 * (rolled / times[first.id]) ** 2
    return Pass(launch, splits, finish, corrected)


_CLOCK = re.compile(
    r"(?:(?P<minutes>\d{1,3}):)?(?P<rest>[+-]?(?:\d{1,5}(?:\.\d{0,6})?|\.\d{1,6}))", re.ASCII
)

BARE = ("mph", "km/h", "speed")
"""On a slip a speed without a mark is that of the mark above it."""


def read(discipline: str, text: str) -> dict[str, str]:
    """Times from a pasted slip: a name and its value a line, or a line of names over one of values.

    Values stay as they were written, lines without a known name are left. Raises Impossible for text that
    is no slip, UnknownName where it has no name that is known.
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not lines or len(lines) > ROWS or len(text) > LETTERS:
        raise Impossible(
            f"Paste a time slip here: up to {ROWS} lines, each a name and its value.", number="slip"
        )
    fields = fields_of(discipline)
    names = {
        _plain(name): field for field in fields for name in (field.id, field.label, *field.aliases)
    }
    parted = _parted_by(lines)
    rows = [[cell.strip() for cell in line.split(parted) if cell.strip()] for line in lines]
    headed = len(rows) == 2 and len(rows[0]) == len(rows[1]) > 1
    if headed and all(_plain(name) in names for name in rows[0]):
        pairs = list(zip(*rows, strict=True))
    else:
        pairs = [_pair(row, names) for row in rows]
    found: dict[str, str] = {}
    mark = 0.0
    for name, value in pairs:
        one = names.get(_plain(name))
        if one is None and _plain(name) in BARE:
            at_mark = (f for f in fields if f.quantity == "speed" and f.distance == mark)
            one = next(at_mark, None)
        if one is not None and value:
            unit = next((u for u in ("mph", "km/h") if u in name.casefold()), "")
            bare = one.quantity == "speed" and value[-1:].isdigit()
            found[one.id] = f"{value} {unit}".strip() if bare else value
            mark = one.distance or mark
    if not found:
        known = ", ".join(field.label for field in fields)
        raise UnknownName(
            f"No line of it has a name that is known here. Known are {known}.", number="slip"
        )
    return found


def _parted_by(lines: list[str]) -> str | None:
    """What parts the cells; a comma only where it is not the decimal one. None: spaces."""
    for mark in "\t;|":
        if any(mark in line for line in lines):
            return mark
    commas = any(
        line.count(",") > 1 or ", " in line or ("," in line and "." in line) for line in lines
    )
    return "," if commas else None


def _pair(row: list[str], names: Mapping[str, Clocked]) -> tuple[str, str]:
    """The name and the value of a line: the longest name that it begins with, then the rest."""
    words = " ".join(row).split()
    for size in range(len(words) - 1, 0, -1):
        name = " ".join(words[:size])
        if _plain(name) in names or _plain(name) in BARE:
            return name, " ".join(words[size:])
    return row[0], ""


def _plain(name: str) -> str:
    return re.sub(r"[\s._:=-]+", " ", name).strip().casefold()
