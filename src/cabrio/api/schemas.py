"""What the API takes and gives. Names of numbers come from the one dictionary."""

from __future__ import annotations

from datetime import date, datetime
from typing import TYPE_CHECKING, Any, Literal

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypeAliasType

from cabrio.core.registry import numbers

if TYPE_CHECKING:
    NumberName = str
else:
    NumberName = TypeAliasType("NumberName", Literal[tuple(numbers())])

Typed = str | float | None
"""A value as typed (text with any unit) or as SI."""
Status = Literal["fresh", "doubtful", "void", "missing"]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


# --- sign-in -------------------------------------------------------------------------------------
class Me(BaseModel):
    name: str | None
    team: str | None
    role: str | None
    abilities: list[str]
    token: str
    demo: bool


class SignIn(In):
    email: str
    password: str


class DemoSignIn(In):
    person: int


class DemoPerson(BaseModel):
    id: int
    name: str
    role: str


class DemoPeople(BaseModel):
    people: list[DemoPerson]


# --- vocabulary ----------------------------------------------------------------------------------
class NumberEntry(BaseModel):
    name: NumberName
    kind: Literal["given", "set", "read", "worked"]
    shape: Literal["car", "axle", "corner"]
    quantity: str
    label: str
    help: str
    sign: str
    formula: str
    source: str
    step: float | None
    default: float | None
    system: str | None
    on_slip: bool


class ShownAs(BaseModel):
    """shown = factor·SI + offset, rounded to precision."""

    symbol: str
    factor: float
    offset: float
    precision: float


class StationEntry(BaseModel):
    id: str
    label: str
    disciplines: list[str]
    about: str
    readings: list[str]
    sets: list[NumberName]
    shows: list[NumberName]
    caution: str


class ReadingKindEntry(BaseModel):
    id: str
    label: str
    disciplines: list[str]
    how: str
    minutes: int
    numbers: list[NumberName]
    conditions: list[str]


class ConditionEntry(BaseModel):
    id: str
    label: str
    why: str


class UseEntry(BaseModel):
    id: str
    label: str
    disciplines: list[str]


class SchoolEntry(BaseModel):
    id: str
    topic: str
    label: str
    low: float
    high: float
    offer: float
    reason: str


class WordsEntry(BaseModel):
    discipline: str
    phases: list[str]
    session_kinds: list[str]


class Vocabulary(BaseModel):
    numbers: list[NumberEntry]
    places: dict[str, list[str]]
    measures: dict[str, dict[str, ShownAs]]
    profiles: dict[str, str]
    stations: list[StationEntry]
    readings: list[ReadingKindEntry]
    conditions: list[ConditionEntry]
    uses: list[UseEntry]
    schools: list[SchoolEntry]
    words: list[WordsEntry]
    coil_bind_margin: float


# --- the car and its bench -----------------------------------------------------------------------
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


class Garage(BaseModel):
    cars: list[GarageCar]


class SpringView(BaseModel):
    code: str
    rate: float
    free_length: float | None
    solid_length: float | None
    fits: Literal["front", "rear", "both"]
    worn: bool


class AdjusterView(BaseModel):
    lowest: float
    highest: float
    counted: str


class NeedView(BaseModel):
    name: NumberName
    places: list[str]
    sentence: str


class FigureView(BaseModel):
    """A number's SI values by place, or why it has none."""

    values: list[float] | None
    status: Status
    estimated: list[NumberName]
    missing: list[NeedView]
    refused: str | None


class BandView(BaseModel):
    number: NumberName
    place: str
    low: float
    high: float


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
    fuel_mass: float | None
    note: str
    withdrawn_by: str | None
    withdrawn_at: str | None
    withdrawn_why: str | None


class ReasonView(BaseModel):
    verdict: str
    why: str
    revision: int | None


class StandingView(BaseModel):
    kind: str
    status: Status
    reading: ReadingView | None
    reasons: list[ReasonView]


class GivenView(BaseModel):
    values: list[float | None]
    estimated: bool
    by: str
    at: str


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


class BehindView(BaseModel):
    revision: int
    by: str
    lines: list[LineView]
    overlap: list[LineView]


class AsideView(BaseModel):
    id: int
    base: int
    why: str
    at: str
    lines: list[LineView]


class SlipView(BaseModel):
    version: int
    base: int
    lines: list[LineView]
    why: str
    expectation: str
    session_id: int | None
    moved: list[MovedView]
    after: dict[NumberName, list[float]]
    refused: list[str]
    rechecks: list[RecheckView]
    minutes: int
    mixed: list[str]
    behind: BehindView | None
    aside: list[AsideView]


class BenchView(BaseModel):
    id: int
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
    adjusters: dict[NumberName, AdjusterView]
    springs: list[SpringView]
    given: dict[NumberName, GivenView]
    figures: dict[NumberName, FigureView]
    bands: list[BandView]
    standings: list[StandingView]
    session: SessionRef | None
    slip: SlipView


class GiveIn(In):
    values: dict[NumberName, list[Typed]] = {}
    estimated: dict[NumberName, bool] = {}
    confirmed: bool = False


class SettleIn(In):
    profile: str | None = None
    ratio_is: Literal["spring_per_wheel", "wheel_per_spring"] | None = None
    use: str | None = None


class SpringIn(In):
    code: str
    rate: Typed
    free_length: Typed = None
    solid_length: Typed = None
    fits: Literal["front", "rear", "both"] = "both"
    confirmed: bool = False


class CodeIn(In):
    code: str


class ImportIn(In):
    text: str


class Imported(BaseModel):
    id: int
    name: str


# --- readings ------------------------------------------------------------------------------------
class ReadingIn(In):
    kind: str
    settles: dict[NumberName, list[list[Typed]]] = {}
    conditions: dict[str, bool] = {}
    fuel: Typed = None
    note: str = ""
    confirmed: bool = False


class WhyIn(In):
    why: str


class Readings(BaseModel):
    readings: list[ReadingView]


# --- slip ----------------------------------------------------------------------------------------
class ChangeIn(In):
    name: NumberName
    place: str
    new: str | float


class SlipIn(In):
    version: int
    changes: list[ChangeIn]
    why: str = ""
    expectation: str = ""
    session_id: int | None = None


class BookIn(In):
    version: int


class ResumeIn(In):
    slip: int


class Booked(BaseModel):
    revision: int


class CommandIn(In):
    text: str


class WhyTarget(BaseModel):
    name: NumberName
    place: str | None


class ChangeView(BaseModel):
    name: NumberName
    place: str
    new: str | float


class CommandView(BaseModel):
    go: str | None
    why: WhyTarget | None
    changes: list[ChangeView]
    note: str


# --- springs station, working, compare -----------------------------------------------------------
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


class OriginView(BaseModel):
    kind: str
    words: str
    by: str
    at: str
    estimated: bool
    status: Status


class InputView(BaseModel):
    name: NumberName
    values: list[float] | None
    origin: OriginView | None
    assumed: bool
    status: Status


class WorkingView(BaseModel):
    name: NumberName
    values: list[float] | None
    origin: OriginView | None
    inputs: list[InputView]
    missing: list[NeedView]
    refused: str | None
    estimated: list[NumberName]
    status: Status
    convention: str


class RevisionView(BaseModel):
    number: int
    by: str
    at: str
    why: str
    expectation: str
    lines: list[LineView]
    session_id: int | None
    outcome: str | None
    decision: str | None
    verdict_words: str


class Revisions(BaseModel):
    revisions: list[RevisionView]


class CompareQuery(In):
    left: int
    right: int


class CompareView(BaseModel):
    left: RevisionView
    right: RevisionView
    set_otherwise: list[LineView]
    moved: list[MovedView]
    unequal: list[str]


# --- logbook -------------------------------------------------------------------------------------
class WordsView(BaseModel):
    phase: str
    text: str


class RunView(BaseModel):
    id: int
    number: int
    revision: int
    driver: str
    laps: int | None
    best_time: float | None
    tyres: str
    confidence: int | None
    words: list[WordsView]
    note: str
    by: str
    at: str


class SessionView(BaseModel):
    id: int
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


class EventView(BaseModel):
    id: int
    name: str
    place: str
    starts_on: date
    ends_on: date
    note: str


class LogbookView(BaseModel):
    events: list[EventView]
    sessions: list[SessionView]
    revisions: list[RevisionView]


class EventIn(In):
    name: str
    place: str = ""
    starts_on: date
    ends_on: date
    note: str = ""


class SessionIn(In):
    event_id: int
    name: str
    kind: str
    starts_at: datetime
    surface: str = ""
    air: Typed = None
    track: Typed = None
    note: str = ""


class RunIn(In):
    driver: str = ""
    laps: int | None = None
    best_time: Typed = None
    tyres: str = ""
    note: str = ""


class SpokenIn(In):
    phase: str
    text: str


class SpeakIn(In):
    words: list[SpokenIn]
    confidence: int | None = None


class VerdictIn(In):
    outcome: Literal["better", "same", "worse", "not tested"]
    decision: Literal["keep", "back out", "open"]
    words: str = ""


class Ok(BaseModel):
    ok: bool = True
