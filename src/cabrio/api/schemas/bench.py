"""The garage, the car and its bench, readings and the slip."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel, Field

from cabrio.files.bounds import (
    CarFileText,
    Id,
    Name,
    Note,
    Repeats,
    Row,
    Table,
    Typed,
    Version,
    Word,
)

from .common import In, NumberName, Status


class GarageCar(BaseModel):
    id: int
    name: str
    race_number: str
    discipline: str
    use: str
    profile: str
    revision: int
    booked_by: str
    booked_at: str
    stale: dict[str, int]
    session: str | None
    event: str | None
    total_mass: float | None
    front_share: float | None
    wheelbase: float | None
    track: list[float] | None


class BrokenCar(BaseModel):
    """A car whose record does not hold together: it takes no other one down."""

    id: int
    name: str


class Garage(BaseModel):
    cars: list[GarageCar]
    broken: list[BrokenCar]


class PartWasView(BaseModel):
    """What a correction replaced: the fields that differ, as `PartView.values` has them."""

    values: dict[str, Any]
    by: str
    at: str


class PartView(BaseModel):
    """A part of the inventory; values by field: SI figures, words, or rows of figures.

    `ranks` is the figure that sorts it among its like; `blocked` says which settings it holds fast.
    """

    code: str
    fits: Literal["front", "rear", "both"]
    note: str
    values: dict[str, Any]
    ranks: float | None
    fitted_at: list[str]
    in_revision: int | None
    blocked: dict[str, str]
    corrected: list[PartWasView]


class AdjusterView(BaseModel):
    lowest: float
    highest: float
    counted: str
    at: dict[str, list[float]]


class NeedView(BaseModel):
    name: NumberName
    places: list[str]
    sentence: str


class UnknownView(BaseModel):
    """What a change moves that cannot be told, and what it would need."""

    words: str
    needs: list[NeedView]


class StainView(BaseModel):
    """An estimate, and the deciding figures that rest on it."""

    name: NumberName
    stains: list[NumberName]
    why: str


class FigureView(BaseModel):
    """A number's SI values by place, or why it has none.

    `by_points` are places where it is worked from the suspension's points, in the place of what was typed.
    `ends` says why it does not hold where it is looked at; empty where it does.
    """

    values: list[float] | None
    by_points: list[str]
    ends: str
    status: Status
    estimated: list[NumberName]
    missing: list[NeedView]
    refused: str | None


class BandView(BaseModel):
    number: NumberName
    place: str
    low: float
    high: float


class TakenView(BaseModel):
    """With what, where and when in a visit a reading was taken; `zero` was taken off it [SI]."""

    instrument: str
    place: str
    by_eye: bool
    stage: str
    zero: dict[NumberName, float]


class ReadingView(BaseModel):
    id: int
    kind: str
    revision: int
    by: str
    at: str
    settles: dict[str, list[list[float]]]
    values: dict[str, list[float]]
    spread: dict[str, list[float]]
    conditions: dict[str, bool]
    unmet: list[str]
    taken: TakenView
    note: str
    withdrawn_by: str | None
    withdrawn_at: str | None
    withdrawn_why: str | None


class ReasonView(BaseModel):
    verdict: str
    why: str
    revision: int | None


class DifferView(BaseModel):
    """A check that found another value than the one set [SI]."""

    name: NumberName
    place: str
    booked: float
    found: float


class StandingView(BaseModel):
    kind: str
    status: Status
    differs: list[DifferView]
    reading: ReadingView | None
    reasons: list[ReasonView]
    runs_since: int
    """Runs logged since it was taken, up to a hundred."""
    settles: str
    """Why it is time to look again after so many runs; empty before."""


class WasView(BaseModel):
    values: list[float | None]
    estimated: bool
    by: str
    at: str


class GivenView(BaseModel):
    """A fact: estimates by place, why a typical value stands, what it was corrected from."""

    values: list[float | None]
    estimated: list[bool]
    by: str
    at: str
    why: str
    since: int
    was: list[WasView]


class SessionRef(BaseModel):
    id: int
    name: str
    event: str
    place: str
    starts_at: str
    surface: str
    air_temperature: float | None


class LineView(BaseModel):
    name: NumberName
    place: str
    old: Any
    new: Any


class MovedView(BaseModel):
    name: NumberName
    place: str
    before: float | None
    after: float | None


class RecheckView(BaseModel):
    kind: str
    label: str
    verdict: str
    why: str
    how: str
    minutes: int


class BarView(BaseModel):
    """One thing that keeps the car from being released; `damage` where it may be broken."""

    kind: str
    words: str
    damage: bool


class BehindView(BaseModel):
    revision: int
    by: str
    lines: list[LineView]
    overlap: list[LineView]


class ParkedView(BaseModel):
    id: int
    base: int
    why: str
    at: str
    lines: list[LineView]
    jobs: list[str]


class SlipView(BaseModel):
    version: int
    base: int
    lines: list[LineView]
    jobs: list[str]
    why: str
    expectation: str
    session_id: int | None
    moved: list[MovedView]
    after: dict[NumberName, list[float]]
    predicted: list[NumberName]
    unknown: list[UnknownView]
    notes: list[str]
    effect_known: bool
    refused: list[str]
    rechecks: list[RecheckView]
    minutes: int
    mixed: list[str]
    behind: BehindView | None
    """Others booked meanwhile what this slip changes too: it has to be reapplied."""
    merged: BehindView | None
    """Others booked meanwhile, nothing of which this slip touches: it goes on top as it is."""
    parked: list[ParkedView]


class ImportedView(BaseModel):
    """Who brought the car in by a file; up to that revision the record is as the file tells."""

    by: str
    at: datetime
    revision: int


class BenchView(BaseModel):
    id: int
    imported: ImportedView | None
    name: str
    race_number: str
    discipline: Literal["circuit", "drag", "drift"]
    use: str
    driven: str
    front_layout: str
    rear_layout: str
    profile: str
    ratio_is: Literal["spring_per_wheel", "wheel_per_spring"]
    revision: int
    booked_by: str
    booked_at: str
    setup: dict[NumberName, list[Any]]
    baseline: int
    adjusters: dict[NumberName, AdjusterView]
    parts: dict[str, list[PartView]]
    uneven: list[str]
    not_ready: list[BarView]
    """What keeps the car from being released; none where it is ready to run."""
    measure_next: list[StainView]
    given: dict[NumberName, GivenView]
    figures: dict[NumberName, FigureView]
    bands: list[BandView]
    standings: list[StandingView]
    session: SessionRef | None
    slip: SlipView


class GiveIn(In):
    values: dict[NumberName, Row] = Field(default={}, max_length=400)
    estimated: dict[NumberName, bool] = Field(default={}, max_length=400)
    confirmed: bool = False
    seen: dict[NumberName, Row | None] = Field(default={}, max_length=400)
    """What the writer saw of them [SI]: refused where somebody changed one meanwhile. What is left out is
    written over."""


class SettleIn(In):
    name: Name | None = None
    race_number: Word | None = None
    profile: Word | None = None
    ratio_is: Literal["spring_per_wheel", "wheel_per_spring"] | None = None
    use: Word | None = None
    driven: Word | None = None
    front_layout: Word | None = None
    rear_layout: Word | None = None


class RangeIn(In):
    lowest: Typed
    highest: Typed
    counted: Literal["", "from_closed", "from_open"] = ""
    place: Word = ""


class PartIn(In):
    """A part: values by field, as typed; rows of a table as lists of cells. `instead_of` corrects one."""

    kind: Word
    code: Word
    values: dict[Word, Any] = Field(default={}, max_length=60)
    fits: Literal["front", "rear", "both"] = "both"
    note: Note = ""
    instead_of: Word | None = None
    confirmed: bool = False


class PartRef(In):
    kind: Word
    code: Word


class TableIn(In):
    """A table as pasted or read from a CSV file."""

    kind: Word
    field: Word
    text: Table


class TableView(BaseModel):
    """Rows of cells as they would be typed, and what is wrong with single ones."""

    rows: list[list[str]]
    problems: list[str]


class CarIn(In):
    name: Name
    race_number: Word = ""
    discipline: Literal["circuit", "drag", "drift"]
    use: Word = ""
    driven: Word = "rear"
    front_layout: Word = "independent"
    rear_layout: Word = "independent"
    profile: Word = "n_mm"
    given: dict[NumberName, Row] = Field(default={}, max_length=400)
    pads: Row | None = None
    confirmed: bool = False


class NameIn(In):
    name: Name


class RevisionIn(In):
    revision: Id


class ImportIn(In):
    text: CarFileText


class Imported(BaseModel):
    id: int
    name: str


class ReadingIn(In):
    kind: Word
    settles: dict[NumberName, Repeats] = Field(default={}, max_length=40)
    conditions: dict[Word, bool] = Field(default={}, max_length=40)
    zero: dict[NumberName, Typed] = Field(default={}, max_length=40)
    instrument: Note = ""
    place: Note = ""
    by_eye: bool = False
    stage: Literal["", "before", "after"] = ""
    note: Note = ""
    confirmed: bool = False


class WhyIn(In):
    why: Note


class Readings(BaseModel):
    readings: list[ReadingView]
    count: int
    """How many there are, told or not."""


class ReadingsQuery(In):
    kind: Word = ""


class ChangeIn(In):
    name: NumberName
    place: Word
    new: Typed


class SlipIn(In):
    version: Version
    changes: list[ChangeIn] = Field(max_length=400)
    jobs: list[Word] = Field(default=[], max_length=60)
    why: Note = ""
    expectation: Note = ""
    session_id: Id | None = None


class BookIn(In):
    version: Version


class ResumeIn(In):
    slip: Id


class Booked(BaseModel):
    revision: int


class CommandIn(In):
    text: Name


class WhyTarget(BaseModel):
    name: NumberName
    place: str | None


class ChangeView(BaseModel):
    name: NumberName
    place: str
    new: str | float | None


class CommandView(BaseModel):
    go: str | None
    why: WhyTarget | None
    changes: list[ChangeView]
    note: str
