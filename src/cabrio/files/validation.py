"""Whether the parts of a car file fit together and are what the screens would have taken, said in sentences.

What the schema alone cannot say. The same checks of the core stand behind the forms: a value's bounds, a
part's fields, a setup's settings, what is clocked and watched.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any

from cabrio.core.car import Car, Line, check_setup, differences
from cabrio.core.car.lines import with_lines
from cabrio.core.car.model import Adjuster, Given, Previous
from cabrio.core.car.settings import has_valid_type
from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.part import Part, PartKind, valued
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.catalog.quantities import Kind, Number
from cabrio.core.errors import CoreError, Problems
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import DISCIPLINES, ReadingKind, knowledge
from cabrio.core.record.clocked import check_clocked
from cabrio.core.record.readings import STAGES
from cabrio.core.record.watch import check_kept

from .bounds import is_moment
from .car_file_format import CarFile, FileLine, FileReading, FileRevision

Sentences = Iterator[str]
MAX_NAME_CHARS, MAX_CODE_CHARS, MAX_TEXT_CHARS, MAX_OF_A_KIND, MAX_ROWS = 120, 120, 4000, 400, 600
MAX_REPEATS = 40


def unfit(file: CarFile) -> Sentences:
    """Everything that is wrong with a file of the right shape, as sentences."""
    if file.car.discipline not in knowledge().disciplines:
        yield f"There is no discipline “{file.car.discipline[:40]}”: use one of {', '.join(DISCIPLINES)}."
        return
    yield from _car(file.car, file.on_revision)
    yield from _revisions(file)
    yield from _readings(file)
    yield from _runs(file)
    yield from _watched(file)


def _refusal(check: Callable[..., Any], *given: Any, before: str = "", **named: Any) -> Sentences:
    """The first refusal of a check."""
    try:
        check(*given, **named)
    except Problems as several:
        yield f"{before}{several.problems[0].sentence}"
    except CoreError as problem:
        yield f"{before}{problem.sentence}"


def _possible(number: Number, place: str, value: Any, before: str = "") -> Sentences:
    """Whether a value [SI] is within what is possible at all."""
    if isinstance(value, bool) or not isinstance(value, int | float):
        yield f"{before}{number.label} is not a number."
        return
    yield from _refusal(check_value, number, place, value, "n_mm", confirmed=True, before=before)


def _car(car: Car, newest: int) -> Sentences:
    if not 0 < len(car.name.strip()) <= MAX_NAME_CHARS or len(car.race_number) > 60:
        yield f"A car has a name, of at most {MAX_NAME_CHARS} letters, and a short race number."
    if car.use and car.use not in knowledge().uses:
        yield f"A {car.discipline} car is not used as “{car.use[:40]}”."
    if refusal := knowledge().disciplines[car.discipline].layout_refusal(car.rear_layout):
        yield refusal
    wrong = [said for name, given in car.given.items() for said in _given(name, given, newest)]
    yield from wrong
    if wrong:
        return  # parts are held against what is given
    for name, adjuster in car.adjusters.items():
        yield from _adjuster(name, adjuster)
    for kind, entry in part_kinds().items():
        yield from _inventory(car, kind, entry)
    yield from _corrected(car)


def _adjuster(name: str, adjuster: Adjuster) -> Sentences:
    """Whether an adjuster is of a setting, its ends the right way round."""
    try:
        number = number_named(name)
    except CoreError as problem:
        yield problem.sentence
        return
    if number.kind is not Kind.SET or not number.on_slip or number.is_part:
        yield f"{number.label} is not something with an adjuster."
    for low, high in ((adjuster.lowest, adjuster.highest), *adjuster.at.values()):
        if not low < high:
            yield f"{number.label}: the upper end must be above the lower one."
    if not set(adjuster.at) <= set(number.shape.places):
        yield f"{number.label} has no such places."


def _inventory(car: Car, kind: str, entry: PartKind) -> Sentences:
    """The parts of one kind, no two of one code."""
    parts = car.parts.of(kind)
    codes = [part.code for part in parts]
    if len(codes) > MAX_OF_A_KIND:
        yield f"An inventory holds at most {MAX_OF_A_KIND} of a kind."
    for code in {code for code in codes if codes.count(code) > 1}:
        yield f"There are two of {entry.label.lower()} {code[:40]}."
    for part in parts:
        yield from _part(part, entry, car)


def _given(name: str, given: Given | None, newest: int) -> Sentences:
    """A fact and what stood there before, every value within what is possible."""
    try:
        number = number_named(name)
    except CoreError as problem:
        yield problem.sentence
        return
    # what is read stands here as a typical value, until it is read
    if number.kind is Kind.WORKED:
        yield f"{number.label} is not given: it is worked."
        return
    places, later = number.shape.places, newest + 1
    while given is not None:
        if len(given.why) > MAX_TEXT_CHARS or len(given.was) > MAX_OF_A_KIND:
            yield f"{number.label}: more was said of it than is kept."
            return
        if not 0 <= given.since < later:
            yield f"{number.label} was altered by a revision that the file does not have."
            return
        entries: list[Given | Previous] = [given, *given.was]
        for one in entries:
            several = not isinstance(one.estimated, bool) and len(one.estimated) != len(places)
            if len(one.values) != len(places) or several:
                yield f"{name} has {len(one.values)} values and needs {len(places)}."
                return
            for place, value in zip(places, one.values, strict=True):
                if value is not None:
                    yield from _possible(number, place, value)
            yield from _signed(number.label, one.by, one.at)
        later = given.since
        given = given.earlier


def _signed(of: str, by: str, at: str) -> Sentences:
    """Who said so, and when: both may be empty."""
    if len(by) > MAX_NAME_CHARS or (at and not is_moment(at)):
        yield f"{of}: a name has at most {MAX_NAME_CHARS} letters, and a time its zone."


def _corrected(car: Car) -> Sentences:
    """What corrections of parts replaced."""
    if len(car.corrected) > MAX_OF_A_KIND:
        yield "More corrections than are kept."
    for was in car.corrected:
        kind = part_kinds().get(was.kind)
        if kind is None or len(was.code) > MAX_CODE_CHARS:
            yield "A correction is of no kind of part."
        elif not was.values.keys() <= {
            "code",
            "fits",
            "note",
            *(field.id for field in kind.fields),
        }:
            yield f"{kind.label} {was.code}: a correction is of a field that it does not have."
        else:
            yield from _signed(f"{kind.label} {was.code}", was.by, was.at)


def _part(part: Part, kind: Any, car: Car) -> Sentences:
    if not 0 < len(part.code.strip()) <= MAX_CODE_CHARS or len(part.note) > MAX_TEXT_CHARS:
        yield f"A {kind.label.lower()} has a code of at most {MAX_CODE_CHARS} letters."
        return
    for field in kind.fields:
        value = valued(part, field.path)
        if value is None:
            continue
        if field.kind == "figure":
            yield from _possible(field.number, "car", value, f"{part.code}: ")
        elif field.kind == "words" and len(str(value)) > MAX_TEXT_CHARS:
            yield f"{part.code}: {field.label} is too long."
        elif field.kind == "table" and hasattr(value, "__len__") and len(value) > MAX_ROWS:
            yield f"{part.code}: {field.label} has at most {MAX_ROWS} rows."
    yield from _refusal(part.check, before=f"{part.code}: ")
    yield from _refusal(part.check_on, car.facts, before=f"{part.code}: ")


def _revisions(file: CarFile) -> Sentences:
    wanted = list(range(1, len(file.revisions) + 1))
    if [revision.number for revision in file.revisions] != wanted:
        yield f"Revisions must run from 1 to {len(wanted)} without a gap."
        return
    if file.on_revision != wanted[-1]:
        yield f"The car must be on its last revision, {wanted[-1]}."
    before: FileRevision | None = None
    for revision in file.revisions:
        newest = revision.number == wanted[-1]
        where = f"Revision {revision.number}: "
        setup, whole = revision.setup, True
        if before is not None and not newest:
            # what stands as in the one before was looked at there; true would pass for the 1 before it
            known, whole = before.setup, False
            setup = {
                n: at for n, at in setup.items() if at != known.get(n) or bool in map(type, at)
            }
        wrong = list(_setup(file.car, setup, newest, whole, where))
        yield from wrong or _made_by(revision, before, where)
        if wrong:
            return  # those after it are told by what changed
        slip = revision.slip
        if slip and slip.session:
            event, session = slip.session
            if not (
                0 <= event < len(file.events) and 0 <= session < len(file.events[event].sessions)
            ):
                yield f"Revision {revision.number} names a session that the file does not have."
        before = revision


def _setup(
    car: Car, setup: dict[str, list[Any]], ranges: bool, whole: bool, where: str
) -> Sentences:
    """Whether every value is possible, and told as it is kept: a screen takes “12.5 psi”, a file Pa."""
    try:
        checked = check_setup(car, setup, ranges=ranges, whole=whole)
    except Problems as several:
        yield f"{where}{several.problems[0].sentence}"
        return
    for name, values in setup.items():
        if values != checked[name]:
            yield f"{where}{number_named(name).label} is told in words and not as a figure in SI."
            return


def _made_by(revision: FileRevision, before: FileRevision | None, where: str) -> Sentences:
    """Whether a slip's lines are those that make its setup of the one before."""
    slip = revision.slip
    if slip is None:
        return
    unknown = set(slip.jobs) - set(knowledge().work.jobs)
    if unknown:
        yield f"{where}there is no job called “{sorted(unknown)[0][:40]}”."
    if len({(line.name, line.place) for line in slip.lines}) < len(slip.lines):
        yield f"{where}two of its lines are of the same place."
        return
    for line in slip.lines:
        if problem := _line_problem(line, before):
            yield f"{where}{problem}"
            return
    if before is None:
        return
    try:
        made = with_lines(before.setup, [Line(x.name, x.place, x.old, x.new) for x in slip.lines])
    except CoreError as problem:
        yield f"{where}{problem.sentence}"
        return
    if made != revision.setup and differences(made, revision.setup):
        yield f"{where}its lines do not make its setup of the one before."


NO_VALUE = "a line is no value."


def _line_problem(line: FileLine, before: FileRevision | None) -> str:
    """What is wrong with a line: its value, or what it says stood there; empty where nothing is."""
    try:
        number = number_named(line.name)
        at = number.index(line.place)
        if not (has_valid_type(number, line.old) and has_valid_type(number, line.new)):
            return NO_VALUE
        if before is not None and not number.is_fact:
            stood = before.setup.get(line.name)
            if (stood[at] if stood else None) != line.old:
                return f"{number.where(line.place)} was not what its line says it was."
        if number.is_fact and line.new is not None:
            check_value(number, line.place, line.new, "n_mm", confirmed=True)
    except CoreError as problem:
        return problem.sentence
    except (TypeError, AttributeError):
        return NO_VALUE
    return ""


def _readings(file: CarFile) -> Sentences:
    known = {revision.number for revision in file.revisions}
    for reading in file.readings:
        if reading.revision not in known:
            yield "A reading belongs to a revision that the file does not have."
            return
        if not _together(reading.withdrawn_at, reading.withdrawn_why):
            yield "A reading is withdrawn at a time and with a reason, or not at all."
        yield from _reading(reading, file.car)


def _reading(reading: FileReading, car: Car) -> Sentences:
    kinds = knowledge().readings
    if reading.kind not in kinds:
        yield f"There is no kind of reading called “{reading.kind}”."
        return
    kind = kinds[reading.kind]
    if not kind.fits(car.discipline, None):
        yield f"{kind.label} is not read on a {car.discipline} car."
    extra = set(reading.settles) - set(kind.numbers)
    if extra:
        yield f"{kind.label} does not record {', '.join(sorted(extra))}."
        return
    if set(reading.conditions) - set(knowledge().conditions):
        yield f"{kind.label} has no such condition."
    yield from _taken(reading, kind)
    for name, rows in reading.settles.items():
        yield from _repeats(name, rows, kind)


def _taken(reading: FileReading, kind: ReadingKind) -> Sentences:
    """With what, where and in which stage it was taken, and what was taken off it."""
    taken = reading.taken
    if taken.stage not in STAGES or (taken.stage and not kind.stages):
        yield f"{kind.label} has no stage “{taken.stage[:40]}”."
    if len(taken.instrument) > MAX_TEXT_CHARS or len(taken.place) > MAX_TEXT_CHARS:
        yield f"{kind.label}: an instrument and a place are named in at most {MAX_TEXT_CHARS} letters."
    if not taken.zero.keys() <= set(kind.numbers):
        yield f"{kind.label}: a zero was taken off what it does not record."


def _repeats(name: str, rows: list[list[float | None]], kind: ReadingKind) -> Sentences:
    """The repeats of one number, each with a value for every place."""
    number = number_named(name)
    places = number.shape.places
    if not rows or len(rows) > MAX_REPEATS or any(len(row) != len(places) for row in rows):
        yield f"A reading of {name} needs {len(places)} values in each repeat."
        return
    for row in rows:
        if name in kind.together and None in row:
            yield f"{kind.label}: {number.label.lower()} is read at every place."
        for place, value in zip(places, row, strict=True):
            if value is not None:
                yield from _possible(number, place, value)


def _runs(file: CarFile) -> Sentences:
    known = {revision.number for revision in file.revisions}
    discipline = knowledge().disciplines[file.car.discipline]
    for event in file.events:
        if event.ends_on < event.starts_on:
            yield f"{event.name}: the last day cannot be before the first."
        for session in event.sessions:
            if session.kind not in discipline.session_kinds:
                yield f"A session here is one of {', '.join(discipline.session_kinds)}."
            if len({run.number for run in session.runs}) < len(session.runs):
                yield f"{session.name}: two of its runs have one number."
            for run in session.runs:
                if run.revision not in known:
                    yield "A run was made on a revision that the file does not have."
                if any(word.phase not in discipline.phase_ids for word in run.words):
                    yield f"Run {run.number}: the driver speaks of no such place."
                if run.times:
                    yield from _refusal(
                        check_clocked, file.car.discipline, run.times, before=f"Run {run.number}: "
                    )


def _watched(file: CarFile) -> Sentences:
    for one in file.watched:
        yield from _refusal(check_kept, one.kind, one.data, before=f"{one.words}: ")
        if not _together(one.closed_at, one.closed_by):
            yield f"{one.words}: it was closed at a time and by somebody, or not at all."
    orders = {one.id for one in knowledge().work.procedures}
    if any(one.procedure not in orders for one in file.walks):
        yield "An order of work was walked that there is none of."
    for procedure in orders:
        if sum(one.procedure == procedure and one.ended_at is None for one in file.walks) > 1:
            yield "An order of work is under way twice."
    for walk in file.walks:
        ticked = [tick.step for tick in walk.ticks if tick.undone_at is None]
        if len(set(ticked)) < len(ticked):
            yield "A step of an order of work is ticked twice."
        if not all(_together(tick.undone_at, tick.undone_by) for tick in walk.ticks):
            yield "A tick was taken back at a time and by somebody, or not at all."


def _together(*fields: Any) -> bool:
    """Whether all of them are told, or none."""
    return len({one is None for one in fields}) == 1
