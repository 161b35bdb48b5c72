"""The garage, the car and its bench, readings and the slip."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel

from .common import In, NumberName, Status, Typed


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


class RangeIn(In):
    lowest: Typed
    highest: Typed
    counted: Literal["", "from_closed", "from_open"] = ""


class SpringIn(In):
    code: str
    rate: Typed
    free_length: Typed = None
    solid_length: Typed = None
    fits: Literal["front", "rear", "both"] = "both"
    confirmed: bool = False


class CodeIn(In):
    code: str


class CarIn(In):
    name: str
    race_number: str = ""
    discipline: Literal["circuit", "drag", "drift"]
    rear_layout: str = "independent"
    profile: str = "n_mm"


class ImportIn(In):
    text: str


class Imported(BaseModel):
    id: int
    name: str


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
