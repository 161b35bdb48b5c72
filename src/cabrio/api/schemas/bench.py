"""The garage, the car and its bench, readings and the slip, as they are shown."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from pydantic import BaseModel

from .common import NumberName, Status


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


class PreviousPartView(BaseModel):
    """What a correction replaced: the fields that differ, as `PartView.values` has them."""

    values: dict[str, Any]
    by: str
    at: str


class PartView(BaseModel):
    """A part of the inventory; values by field: SI figures, words, or rows of figures.

    `ranks` is the figure that sorts it among its like.
    """

    code: str
    version: str
    fits: Literal["front", "rear", "both"]
    note: str
    values: dict[str, Any]
    ranks: float | None
    fitted_at: list[str]
    in_revision: int | None
    corrected: list[PreviousPartView]


class AdjusterView(BaseModel):
    version: str
    lowest: float
    highest: float
    counted: str
    at: dict[str, list[float]]
    usual: bool
    """The usual range of such a setting, which a car has until its own is written down."""


class OptionView(BaseModel):
    """A part that can be chosen: its code, how it is shown among its like, and both in words."""

    value: str
    shown: str
    words: str


class ChoicesView(BaseModel):
    """What a setting can be at a place: from `low` to `high` by `step` [SI], beginning at `start`, or one of
    `options`; `blocked` says why it cannot be moved, empty where it can."""

    unit: str
    blocked: str
    low: float | None
    high: float | None
    step: float | None
    start: float | None
    options: list[OptionView]


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
    `ends` says why it does not hold where it is looked at; empty where it does. `places` is how each
    place stands, where several readings tell of them; empty where all stand alike.
    """

    values: list[float | None] | None
    by_points: list[str]
    ends: str
    status: Status
    places: list[Status]
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
    repeats: dict[str, list[list[float | None]]]
    values: dict[str, list[float | None]]
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


class KeptView(BaseModel):
    """An earlier reading that still tells of places the latest one left out, and how it stands there."""

    revision: int
    by: str
    at: str
    status: Status
    values: dict[NumberName, list[float | None]]


class StandingView(BaseModel):
    """How a kind of reading stands; `values` are what was read last at each place [SI]."""

    kind: str
    status: Status
    differs: list[DifferView]
    reading: ReadingView | None
    values: dict[NumberName, list[float | None]]
    kept: list[KeptView]
    reasons: list[ReasonView]
    runs_since: int
    """Runs logged since it was taken, up to a hundred."""
    decides: str
    """Why it is time to look again after so many runs; empty before."""


class PreviousView(BaseModel):
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
    was: list[PreviousView]


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


class SignedView(BaseModel):
    """Who let the car run past a limit, and on what it was decided."""

    id: int
    by: str
    at: str
    on: str
    """On what it was decided, in words."""


class LimitView(BaseModel):
    """A limit that the car is past, where it is read; `bars` keeps it in until it is signed for."""

    kind: str
    station: str
    words: str
    bars: bool
    signed: SignedView | None


class BetterView(BaseModel):
    """A fact as a reading tells it [SI], its ± (nine in ten), and where it is from; null where it tells nothing."""

    fact: NumberName
    kind: str
    values: list[float | None]
    within: list[float | None]
    source: str
    lacks: list[NumberName]
    """What it rests on that nobody read or measured yet."""
    refused: str
    """Why it cannot be, where what was read and what it rests on do not go together."""


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
    after: dict[NumberName, list[float | None]]
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
    discipline: str
    use: str
    driven: str
    front_layout: str
    rear_layout: str
    profile: str
    ratio_is: Literal["spring_per_wheel", "wheel_per_spring"]
    revision: int
    stamp: str
    """Another one with every write to the car, its revisions or its readings."""
    booked_by: str
    booked_at: str
    setup: dict[NumberName, list[Any]]
    baseline: int
    adjusters: dict[NumberName, AdjusterView]
    choices: dict[NumberName, dict[str, ChoicesView]]
    """What every setting can be at each place."""
    parts: dict[str, list[PartView]]
    uneven: list[str]
    not_here: dict[NumberName, dict[str, str]]
    """Settings, and readings of them, that mean nothing at a place of this car, and why."""
    not_ready: list[BarView]
    """What keeps the car from being released; none where it is ready to run."""
    limits: list[LimitView]
    better: list[BetterView]
    measure_next: list[StainView]
    given: dict[NumberName, GivenView]
    figures: dict[NumberName, FigureView]
    bands: list[BandView]
    standings: list[StandingView]
    session: SessionRef | None
    slip: SlipView
