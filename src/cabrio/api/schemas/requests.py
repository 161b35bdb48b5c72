"""Request schemas of a car: facts, parts, readings and slips as they are sent, and the short answers."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import BaseModel, Field

from cabrio.files.bounds import (
    Id,
    Name,
    Note,
    PartValue,
    Repeats,
    Row,
    Table,
    Typed,
    Version,
    Word,
)

from .bench import ReadingView
from .common import AsSent, In, NumberName


class GiveIn(In):
    values: dict[NumberName, Row] = Field(default={}, max_length=400)
    estimated: dict[NumberName, bool] = Field(default={}, max_length=400)
    source: dict[NumberName, Annotated[str, Field(max_length=200)]] = Field(
        default={}, max_length=40
    )
    """Where a value is from that a reading told: kept beside it."""
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
    values: dict[Word, PartValue] = Field(default={}, max_length=60)
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
    discipline: Word
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


class CarFileIn(AsSent):
    """A car file as it was written, of at most 16 MB: docs/schemas/car-file.schema.json tells all that it holds."""

    format: Literal["cabrio-car"]
    version: Literal[1, 2]


class Imported(BaseModel):
    id: int
    name: str


class ReadingIn(In):
    kind: Word
    repeats: dict[NumberName, Repeats] = Field(default={}, max_length=40)
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


class AsFoundIn(In):
    changes: list[ChangeIn] = Field(min_length=1, max_length=400)


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
