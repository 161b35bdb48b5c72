"""The springs station, workings, revisions side by side."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from cabrio.files.bounds import Id, Typed, Word

from .bench import LineView, MovedView, NeedView
from .common import In, NumberName, Status


class CutQuery(In):
    """Active coils of the spring at a corner, and how many of them go."""

    place: Literal["LF", "RF", "LR", "RR"] = "LF"
    coils: str = Field(default="", max_length=60)
    off: str = Field(default="", max_length=60)


class CutView(BaseModel):
    """The spring at a corner after the cut, and what it does at the wheel [SI]."""

    code: str
    rate: float
    free_length: float
    drop: float
    wheel_drop: float
    wheel_rate: float


class CandidateView(BaseModel):
    code: str
    rate: float
    frequency: float | None
    compression: float | None
    seat_at_droop: float | None
    bind_margin: float | None
    frequency_ratio: float | None
    energy: float | None
    off_target: float | None


class SpringsAxle(BaseModel):
    axle: Literal["front", "rear"]
    figure: NumberName
    wanted_rate: float | None
    problem: str | None
    missing: list[NeedView]
    candidates: list[CandidateView]
    curve_rates: list[float]
    curve_frequencies: list[float]


class SpringsView(BaseModel):
    axles: list[SpringsAxle]


class PlotQuery(In):
    """`y` names figures, comma between them."""

    x: NumberName
    y: str = Field(max_length=2000)


class LineOfChart(BaseModel):
    """A line of a chart, over the chart's own x [SI]; None where it has no value."""

    label: str
    values: list[float | None]
    faint: bool


class MarkView(BaseModel):
    """A named place on a chart's x axis [SI]."""

    label: str
    at: float


class DrawnView(BaseModel):
    """A chart of one setup [SI]."""

    x: list[float]
    lines: list[LineOfChart]
    marks: list[MarkView]
    note: str


class ChartView(BaseModel):
    """A chart, booked and as the slip would have it. `missing` says why there is none."""

    missing: str
    booked: DrawnView | None
    drafted: DrawnView | None


class TreadView(BaseModel):
    """Sentences by corner; a corner whose tread was not read has none."""

    says: dict[str, list[str]]


class CurveView(BaseModel):
    name: NumberName
    place: str
    values: list[float | None]


class PlotView(BaseModel):
    """Figures over one number [SI], booked and, where there is a slip, drafted."""

    x: NumberName
    values: list[float]
    here: float | None
    booked: list[CurveView]
    drafted: list[CurveView]


class AskIn(In):
    """Targets by what the question asks for, as typed."""

    targets: dict[Word, Typed] = Field(max_length=8)


class ProposalView(BaseModel):
    label: str
    lines: list[LineView]
    shows: list[MovedView]
    minutes: int
    rechecks: list[str]
    notes: list[str]


class Proposals(BaseModel):
    proposals: list[ProposalView]


class OriginView(BaseModel):
    kind: str
    words: str
    by: str
    at: str
    estimated: bool
    status: Status


class InputView(BaseModel):
    name: NumberName
    values: list[float | None] | None
    origin: OriginView | None
    assumed: bool
    status: Status


class WorkingView(BaseModel):
    name: NumberName
    values: list[float | None] | None
    origin: OriginView | None
    inputs: list[InputView]
    missing: list[NeedView]
    refused: str | None
    estimated: list[NumberName]
    status: Status
    convention: str


class VerdictView(BaseModel):
    """A verdict that a later one stands over."""

    outcome: str
    decision: str
    words: str
    by: str
    at: str


class RevisionView(BaseModel):
    number: int
    by: str
    at: str
    why: str
    expectation: str
    lines: list[LineView]
    jobs: list[str]
    session_id: int | None
    outcome: str | None
    decision: str | None
    verdict_words: str
    earlier_verdicts: list[VerdictView]
    as_found: list[LineView]
    """What was written down as it stood on the car, by no slip."""


class CompareQuery(In):
    left: Id
    right: Id


class CompareView(BaseModel):
    left: RevisionView
    right: RevisionView
    set_otherwise: list[LineView]
    moved: list[MovedView]
    unequal: list[str]
    corrected: list[str]
    """What was corrected after one of them was booked."""
