"""Events, sessions, runs, words and verdicts."""

from __future__ import annotations

from datetime import date
from typing import Any, Literal

from pydantic import BaseModel, Field

from cabrio.core.record.floor import Learned, State
from cabrio.files.bounds import Confidence, Day, Id, Laps, Moment, Name, Note, Typed, Word

from .common import In, NumberName
from .work import RevisionView


class AmendmentView(BaseModel):
    """What was corrected: the fields that differ, as they were and as they are [SI]."""

    before: dict[str, Any]
    after: dict[str, Any]
    why: str
    by: str
    at: str


class WordsView(BaseModel):
    phase: str
    text: str


class ClockedView(BaseModel):
    """A time [s] or speed [m/s], and by how much it is off that of the run before it."""

    id: str
    value: float
    off: float | None


class SplitView(BaseModel):
    label: str
    time: float
    mean_speed: float


class PictureView(BaseModel):
    id: int
    version: str
    name: str
    kind: str
    phase: str
    shows: str
    by: str
    at: str


class RunView(BaseModel):
    id: int
    version: str
    number: int
    revision: int
    driver: str
    laps: int | None
    best_time: float | None
    clocked: list[ClockedView]
    splits: list[SplitView]
    launch: float | None
    """Mean acceleration over the first 60 ft [m/s²]; none where that was not clocked."""
    corrected: float | None
    """The last mark's time in standard air [s]."""
    density_altitude: float | None
    not_ready: list[str]
    """What stood against the run when the car was let out all the same; `by` signed for it."""
    released_why: str
    tyres: str
    confidence: int | None
    words: list[WordsView]
    note: str
    floor: dict[str, State]
    pictures: list[PictureView]
    by: str
    at: str
    amended: list[AmendmentView]


class SessionView(BaseModel):
    id: int
    version: str
    event_id: int
    name: str
    kind: str
    starts_at: str
    surface: str
    air_temperature: float | None
    track_temperature: float | None
    note: str
    runs: list[RunView]
    revisions: list[int]
    amended: list[AmendmentView]


class EventView(BaseModel):
    id: int
    version: str
    name: str
    place: str
    starts_on: date
    ends_on: date
    lap_length: float | None
    """[m]"""
    note: str
    amended: list[AmendmentView]


class LogbookView(BaseModel):
    events: list[EventView]
    sessions: list[SessionView]
    revisions: list[RevisionView]
    changed: list[NumberName]
    """All that was ever changed on this car by a slip."""
    older: str | None
    """What to ask for next with `before`; null where there is nothing older."""


class LogbookQuery(In):
    before: Word = ""
    part: Word = ""


class SessionName(BaseModel):
    id: int
    name: str
    event: str


class SessionNames(BaseModel):
    sessions: list[SessionName]


class EventIn(In):
    name: Name
    place: Name = ""
    starts_on: Day
    ends_on: Day
    lap: Typed = None
    note: Note = ""


class EventFixIn(EventIn):
    why: Note


class SessionTyped(In):
    name: Name
    kind: Word
    starts_at: Moment
    surface: Name = ""
    air: Typed = None
    track: Typed = None
    note: Note = ""


class SessionIn(SessionTyped):
    event_id: Id


class SessionFixIn(SessionTyped):
    why: Note


class RunTyped(In):
    driver: Name = ""
    laps: Laps | None = None
    best_time: Typed = None
    times: dict[Word, Typed] = Field(default={}, max_length=20)
    tyres: Name = ""
    floor: dict[Literal["front", "rear"], State] = Field(default={}, max_length=2)
    """The axles under which it was looked, and whether the floor had touched."""
    note: Note = ""


class RunIn(RunTyped):
    released_why: Note = ""


class RunFixIn(RunTyped):
    why: Note


class SlipTextIn(In):
    text: str = Field(max_length=2000)


class TimesRead(BaseModel):
    """What a pasted time slip says, as it was written there, by what is clocked."""

    times: dict[str, str]


class FloorView(BaseModel):
    learned: list[Learned]


class PictureIn(In):
    """A photo or a short clip, its bytes in base64."""

    name: Name = ""
    data: str = Field(max_length=9_000_000)


class PictureSays(In):
    """Which phase it shows, and what is to be seen; empty: not said, left out: as it is."""

    phase: Word | None = None
    shows: Name | None = None


class RunTableIn(In):
    """A pasted table of runs; `columns` says what each of its columns is, empty for none."""

    text: str = Field(max_length=200_000)
    columns: list[Word] | None = Field(default=None, max_length=60)


class RunField(BaseModel):
    id: str
    label: str


class RunTableView(BaseModel):
    """The table as it would be logged, and what is wrong with it."""

    headings: list[str]
    columns: list[str]
    fields: list[RunField]
    rows: list[list[str]]
    runs: int
    problems: list[str]


class RunTableAddIn(In):
    text: str = Field(max_length=200_000)
    columns: list[Word] = Field(max_length=60)
    released_why: Note = ""


class Added(BaseModel):
    count: int


class SpokenIn(In):
    phase: Word
    text: Note


class SpeakIn(In):
    words: list[SpokenIn] = Field(max_length=20)
    confidence: Confidence | None = None


class FoundView(BaseModel):
    """A figure read after a change [SI]: before it, as the model expected it, as it was read."""

    name: NumberName
    place: str
    before: float
    expected: float | None
    found: float
    as_expected: bool


class OutcomeView(BaseModel):
    """What came of a revision: figures read after it, and what the clock says of the runs."""

    found: list[FoundView]
    before: int
    after: int
    said: str
    beyond: bool
    confounders: list[str]
    again: bool
    """The setting before was run once more after it."""


class VerdictIn(In):
    outcome: Literal["better", "same", "worse", "not tested"]
    decision: Literal["keep", "back out", "open"]
    words: Note = ""
