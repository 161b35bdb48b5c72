"""What a car file holds: its models, from the car to the last tick. All values are SI."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, field_serializer

from cabrio.core.car import Car
from cabrio.core.record.floor import State
from cabrio.core.record.readings import Taken
from cabrio.core.record.watch import Kind as WatchedKind

from .bounds import Confidence, Day, Id, Kelvin, Laps, Moment, Name, Note, Word

CAR: TypeAdapter[Car] = TypeAdapter(Car)


class Strict(BaseModel):
    """A model that refuses keys it does not have, and numbers that are not finite."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class FileLine(Strict):
    """One change of a slip: the number, the place, what stood there and what is new."""

    name: Word
    place: Word
    old: Any
    new: Any


class FileVerdict(Strict):
    """What was judged of a change, and what is done about it."""

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
    """A booked setup by number and place, and the slip that made it."""

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
    """A run: who drove, on which revision, its times, the driver's words."""

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
    """Days at a place, with their sessions."""

    name: Name
    place: Name = ""
    starts_on: Day
    ends_on: Day
    lap_length: float | None = Field(default=None, ge=100, le=50_000)
    note: Note = ""
    sessions: list[FileSession] = Field(default_factory=list, max_length=2000)


class FileDone(Strict):
    """When a torque was checked or a service done, and on which revision."""

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
    """A step that was ticked, by whom and when, and whether that was taken back."""

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
