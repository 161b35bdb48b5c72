"""What the work is, as checked data: stations, readings, what upsets what, bands, schools, words.

The tables are TOML beside this file, checked when first read: an unknown number, reading or key is an
error at once, so a misspelling cannot silently switch a rule off. Every band is a starting point.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import dataclass, is_dataclass, replace
from functools import cache, cached_property
from typing import Literal

from ..catalog.disciplines import Discipline, disciplines
from ..catalog.places import GROUPS, places_of
from ..catalog.quantities import PLACES
from ..graph.registry import numbers
from .references import (
    Altered,
    CautionName,
    ConditionName,
    DisciplineName,
    NumberName,
    PlaceName,
    ReadingName,
    StationName,
    UseName,
    check_references,
)
from .rules import Rule as Rule
from .tables import DISCIPLINES as DISCIPLINES
from .tables import Clocked as Clocked
from .tables import Talk, row_of
from .tables import rows as _rows
from .typical import Typical as Typical
from .typical import read_typical
from .work import Work, check_work, read_work

Verdict = Literal["doubtful", "void"]
CATALOG = "cabrio.core.catalog"
PanelKind = Literal[
    "passes",
    "cut",
    "ready",
    "corners",
    "big",
    "settings",
    "figures",
    "readings",
    "stock",
    "schools",
    "conventions",
    "measure_next",
    "uneven",
    "note",
    "plot",
    "question",
    "under_load",
    "geometry",
    "fuel",
    "ladder",
    "chart",
    "bands",
    "tread",
    "in_time",
    "contact",
    "line_error",
    "ledger",
    "set_and_read",
    "ballast",
    "facts",
    "watched",
    "side_view",
    "holes",
    "square",
    "stroke",
    "plot_sheet",
    "floor",
]


@dataclass(frozen=True)
class Panel:
    """One part of a station's page. Without names it shows the station's own.

    A plot draws its names over the number `x`; a question and a chart are told by the names of their
    functions.
    """

    kind: PanelKind
    names: tuple[NumberName, ...] = ()
    drawing: str = ""
    topic: str = ""
    text: str = ""
    x: NumberName = ""
    question: str = ""
    chart: str = ""
    disciplines: tuple[str, ...] = ()
    layouts: tuple[str, ...] = ()


@dataclass(frozen=True, kw_only=True)
class ForCars:
    """What some cars have and others do not: by discipline, and by the layout of the rear axle."""

    disciplines: tuple[DisciplineName, ...] = DISCIPLINES
    layouts: tuple[str, ...] = ()

    def fits(self, discipline: str, rear_layout: str | None) -> bool:
        """Whether such a car has it; without a layout, whether one of that discipline may have it."""
        return discipline in self.disciplines and (
            not self.layouts or rear_layout is None or rear_layout in self.layouts
        )


@dataclass(frozen=True, kw_only=True)
class Station(ForCars):
    """One job of the route, in the order the work is done."""

    id: str
    label: str
    about: str
    readings: tuple[ReadingName, ...] = ()
    sets: tuple[NumberName, ...] = ()
    shows: tuple[NumberName, ...] = ()
    cautions: tuple[CautionName, ...] = ()
    caution: str = ""
    panel: tuple[Panel, ...] = ()


@dataclass(frozen=True, kw_only=True)
class ReadingKind(ForCars):
    """A reading or a check: what it writes down and under which conditions it counts.

    `optional` numbers may stay empty; those `together` tell only with every place read; those
    `at_once` tell of one moment: nothing of an earlier reading fills them up. `tick` is the label of a
    check that needs no number. `when_needed`
    kinds are not missed by the route. `tools` are instruments to choose from, `stages` an outside
    visit with readings before and after. `differs` says what it means where a check finds another
    value than the one set; with `damage` the car has to be looked over before it runs, and only an
    engineer's inspection ends that: the reading that `inspects` it, with words and what was looked at. After
    `again_after` runs it is asked for again, for what `decides` says; 0 for never.
    """

    id: str
    label: str
    how: str
    minutes: int
    station: StationName
    numbers: tuple[NumberName, ...] = ()
    optional: tuple[str, ...] = ()
    together: tuple[str, ...] = ()
    at_once: tuple[str, ...] = ()
    conditions: tuple[ConditionName, ...] = ()
    when_needed: bool = False
    damage: bool = False
    inspects: str = ""
    tools: tuple[str, ...] = ()
    stages: bool = False
    differs: str = ""
    tick: str = ""
    again_after: int = 0
    decides: str = ""

    @property
    def ability(self) -> str:
        """What a person must be able to do to take it."""
        return "inspect" if self.inspects else "read"

    @property
    def is_check(self) -> bool:
        """Whether ticking it off is enough: no number has to be written down."""
        return bool(self.tick)


@dataclass(frozen=True)
class Condition:
    """One thing that must hold for a reading to count."""

    id: str
    label: str
    why: str


@dataclass(frozen=True)
class Alters:
    """Facts and fitted parts of which a change is a job done on the car, with all that it upsets.

    A fact that no row names upsets what any undone bolt does.
    """

    job: str
    names: tuple[NumberName, ...]


@dataclass(frozen=True)
class Invalidation:
    """After a change of these numbers, or these jobs, the reading is doubtful or void, and why.

    `unaffected` are figures worked from it that the change cannot move, nor what is worked from them alone:
    a perch never moves front share.
    """

    changed: tuple[Altered, ...]
    reading: ReadingName
    verdict: Verdict
    why: str
    unaffected: tuple[Altered, ...] = ()


@dataclass(frozen=True)
class Band:
    """A starting target range of a number [SI], by use of the car; `place` is an axle, a side, … or "any"."""

    number: NumberName
    uses: tuple[UseName, ...]
    place: PlaceName
    low: float
    high: float

    @property
    def places(self) -> tuple[str, ...]:
        """The number's own places that it is for: a rear range of camber is for both rear corners."""
        shape = numbers()[self.number].shape
        return shape.places if self.place == "any" else places_of(self.place, shape)


@dataclass(frozen=True)
class Use:
    """What the car is used for, which picks its bands."""

    id: str
    label: str
    disciplines: tuple[DisciplineName, ...]


@dataclass(frozen=True)
class School:
    """One of several held views on a choice; both are offered, neither is scolded."""

    id: str
    topic: str
    label: str
    low: float
    high: float
    offer: float
    reason: str


@dataclass(frozen=True)
class System:
    """A group of set numbers that one change to the car touches."""

    id: str
    label: str


@dataclass(frozen=True)
class Knowledge:
    """All tables, read once. `upsets` say what a change invalidates, `bands` are target ranges."""

    stations: tuple[Station, ...]
    readings: dict[str, ReadingKind]
    conditions: dict[str, Condition]
    upsets: tuple[Invalidation, ...]
    bands: tuple[Band, ...]
    uses: dict[str, Use]
    schools: tuple[School, ...]
    systems: dict[str, System]
    disciplines: dict[str, Discipline]
    talk: tuple[Talk, ...]
    clocked: tuple[Clocked, ...]
    work: Work
    alters: tuple[Alters, ...]
    typical: tuple[Typical, ...]

    @cached_property
    def work_of(self) -> dict[str, str]:
        """The job that a change of a fact is, by its name."""
        bolted = {number.name: "bolted" for number in numbers().values() if number.is_fact}
        return bolted | {name: row.job for row in self.alters for name in row.names}

    @cached_property
    def has_typical(self) -> frozenset[str]:
        """Numbers that a typical value stands in for: none of what only the car itself can tell."""
        return frozenset(row.number for row in self.typical)

    @property
    def stations_by_id(self) -> dict[str, Station]:
        return {station.id: station for station in self.stations}

    def stations_for(self, discipline: str, rear_layout: str | None = None) -> tuple[Station, ...]:
        """Stations of a car in the order of its work; without a layout, of any such car."""
        inside = (self.stations_by_id[name] for name in self.disciplines[discipline].stations)
        return tuple(one for one in inside if one.fits(discipline, rear_layout))

    def readings_for(
        self, discipline: str, rear_layout: str | None = None
    ) -> tuple[ReadingKind, ...]:
        """Readings of a car; without a layout, of any car of that discipline."""
        return tuple(
            reading for reading in self.readings.values() if reading.fits(discipline, rear_layout)
        )

    def band(self, number: str, use: str, place: str) -> Band | None:
        """The target range of a number at one of its places; None where there is none."""
        found = (band for band in self.bands if band.number == number and use in band.uses)
        return next((one for one in found if place in one.places), None)


@cache
def knowledge() -> Knowledge:
    """The tables, read and checked once."""
    work = read_work()
    readings = {row.id: row for row in _rows("readings", "reading", ReadingKind, CATALOG)}
    book = Knowledge(
        stations=tuple(
            _whole(row, work, readings) for row in _rows("stations", "station", Station)
        ),
        readings=readings,
        conditions={row.id: row for row in _rows("readings", "condition", Condition, CATALOG)},
        upsets=tuple(_rows("invalidations", "upset", Invalidation)),
        bands=tuple(_rows("bands", "band", Band)),
        uses={row.id: row for row in _rows("bands", "use", Use)},
        schools=tuple(_rows("bands", "school", School)),
        systems={row.id: row for row in _rows("stations", "system", System)},
        disciplines=disciplines(),
        clocked=tuple(_rows("clocked", "clocked", Clocked)),
        talk=tuple(_rows("talk", "talk", Talk)),
        work=work,
        alters=tuple(_rows("invalidations", "alters", Alters)),
        typical=read_typical(),
    )
    check(book)
    return book


def _whole(station: Station, work: Work, readings: dict[str, ReadingKind]) -> Station:
    """The station with the readings that belong to it and its cautions spelled out, each written once."""
    said = " ".join(work.caution(name).text for name in station.cautions)
    panels = tuple(row_of(Panel, raw, f"station {station.id}") for raw in station.panel)  # type: ignore[arg-type]
    taken = tuple(reading.id for reading in readings.values() if reading.station == station.id)
    return replace(station, caution=said, panel=panels, readings=taken)


def check(book: Knowledge) -> None:
    """Refuse a table that names a row which does not exist, or that cannot be. Raises ValueError."""
    rows = [
        row for table in (*vars(book).values(), *vars(book.work).values()) for row in _in(table)
    ]
    check_references(rows, _known(book))
    _check_disciplines(book)
    for reading in book.readings.values():
        if "readings" not in {panel.kind for panel in book.stations_by_id[reading.station].panel}:
            raise ValueError(f"station {reading.station} has no panel for its reading {reading.id}")
        if {*reading.optional, *reading.together, *reading.at_once} - set(reading.numbers):
            raise ValueError(f"reading {reading.id} can do without a number that it does not have")
    for band in book.bands:
        if band.low >= band.high or not band.places:
            raise ValueError(f"the target range of {band.number} has no room, or no place")
    for number in numbers().values():
        if number.system and number.system not in book.systems:
            raise ValueError(f"{number.name} belongs to “{number.system}”, which is no system")
    check_work(book.work, book.disciplines)


def _check_disciplines(book: Knowledge) -> None:
    for id, discipline in book.disciplines.items():
        inside = {station.id for station in book.stations if id in station.disciplines}
        if sorted(inside) != sorted(discipline.stations):
            raise ValueError(f"the order of work of {id} is not of its stations, each once")
        if strange := set(discipline.decided_by) - set(numbers()):
            raise ValueError(f"discipline {id} is decided by “{min(strange)}”, no number")


def _in(table: object) -> Iterable[object]:
    """The rows of a table, whichever way it is kept."""
    rows = table.values() if isinstance(table, dict) else table if isinstance(table, tuple) else ()
    return [row for row in rows if is_dataclass(row)]


def _known(book: Knowledge) -> dict[str, Collection[str]]:
    """What each kind of reference may name."""
    work, every = book.work, numbers()
    settings = {n.name for n in every.values() if n.on_slip or n.step}
    return {
        "number": every,
        "setting": settings,
        "number or job": {*every, *work.jobs},
        "job": work.jobs,
        "reading": book.readings,
        "condition": book.conditions,
        "station": book.stations_by_id,
        "procedure": {procedure.id for procedure in work.procedures},
        "caution": work.cautions,
        "symptom": work.symptoms,
        "phase": {
            name for discipline in book.disciplines.values() for name in discipline.phase_ids
        },
        "discipline": book.disciplines,
        "use": book.uses,
        "place": {*GROUPS, *(place for places in PLACES.values() for place in places), "any"},
        "school": {view.id for view in work.views},
        "felt amount": work.felt,
    }
