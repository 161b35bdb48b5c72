"""The dictionary."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from cabrio.core.catalog.quantities import Shape
from cabrio.core.knowledge import PanelKind

from .common import NumberName


class DoorEntry(BaseModel):
    """Where a number is entered: a view of the car, and what to look for on it."""

    view: str
    anchor: str
    words: str


class NumberEntry(BaseModel):
    name: NumberName
    kind: Literal["given", "set", "read", "worked"]
    from_load_model: bool
    """Worked by loading the car, and not on every bench."""
    shape: Shape
    quantity: str
    label: str
    help: str
    sign: str
    formula: str
    source: str
    wrong: str
    step: float | None
    default: float | None
    system: str | None
    group: str
    on_slip: bool
    is_part: bool
    is_fact: bool
    accepts_inverse: bool
    single_corner: bool
    layouts: list[str]
    checks: str
    within: float
    tolerance: str
    doors: dict[str, DoorEntry]


class ShownAs(BaseModel):
    """shown = factor·SI + offset, rounded to precision."""

    symbol: str
    factor: float
    offset: float
    precision: float


class PanelEntry(BaseModel):
    kind: PanelKind
    names: list[NumberName]
    drawing: str
    topic: str
    text: str
    x: str
    question: str
    chart: str
    disciplines: list[str]
    layouts: list[str]


class StationEntry(BaseModel):
    id: str
    label: str
    disciplines: list[str]
    layouts: list[str]
    about: str
    readings: list[str]
    sets: list[NumberName]
    shows: list[NumberName]
    caution: str
    panel: list[PanelEntry]


class ReadingKindEntry(BaseModel):
    id: str
    label: str
    disciplines: list[str]
    how: str
    minutes: int
    numbers: list[NumberName]
    optional: list[NumberName]
    together: list[NumberName]
    """Numbers that tell only with every place read."""
    at_once: list[NumberName]
    """Numbers of one moment: nothing of an earlier reading fills them up."""
    conditions: list[str]
    tick: str
    when_needed: bool
    ability: str
    """What a person must be able to do to take it."""
    tools: list[str]
    stages: bool
    differs: str


class OptionEntry(BaseModel):
    value: str
    words: str


class ColumnEntry(BaseModel):
    label: str
    quantity: str


class ChoiceEntry(BaseModel):
    """A choice among a part's fields, and those of its values that count."""

    field: str
    values: list[str]


class RowEntry(BaseModel):
    """A row of a table that has a name; it is asked for while every choice is one of its values."""

    id: str
    label: str
    group: str
    asked: list[ChoiceEntry]


class PartFieldEntry(BaseModel):
    """One field of a part's form. `number` is the number it feeds, where it feeds one by itself."""

    id: str
    kind: Literal["figure", "words", "choice", "flag", "table"]
    label: str
    help: str
    group: str
    needed: bool
    quantity: str
    number: str
    options: list[OptionEntry]
    columns: list[ColumnEntry]
    rows: list[RowEntry]


class PartKindEntry(BaseModel):
    name: NumberName
    label: str
    plural: str
    help: str
    layouts: list[str]
    can_be_none: bool
    has_axle: bool
    fields: list[PartFieldEntry]


class AxisEntry(BaseModel):
    label: str
    quantity: str


class ChartEntry(BaseModel):
    """A chart: its name, its words, and what its axes carry."""

    name: str
    label: str
    help: str
    x: AxisEntry
    y: AxisEntry


class AskedEntry(BaseModel):
    """A figure that a question wants a value of, at an axle where each has its own."""

    key: str
    name: NumberName
    place: str


class TrialEntry(BaseModel):
    """Something that can be done to the car in time; `usual` is its size while nobody says [SI]."""

    id: str
    label: str
    help: str
    size: AxisEntry
    usual: float


class QuestionEntry(BaseModel):
    """An inverse question, and the figures it wants a value of."""

    name: str
    label: str
    help: str
    asks: list[AskedEntry]


class JobEntry(BaseModel):
    id: str
    label: str


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


class PhaseEntry(BaseModel):
    id: str
    label: str


class DisciplineEntry(BaseModel):
    """A discipline: the phases its drivers speak of in their order in time, and what sets its cars apart."""

    id: str
    label: str
    phases: list[PhaseEntry]
    profile: str
    """The units that a new car of it begins with."""
    layouts: list[str]
    """The rear layouts that it allows; empty for all."""
    paired: list[str]
    """The axles whose two sides are set alike and step together."""
    session_kinds: list[str]
    clock: Literal["laps", "pass"]
    corners: bool
    """Whether such a car is driven round corners."""


class SymptomEntry(BaseModel):
    """What a driver says the car does, and the phases in which a rule answers it."""

    id: str
    label: str
    disciplines: list[str]
    phases: list[str]
    schools: list[str]
    """The schools that answer it differently; none where there is one answer."""


class HeldEntry(BaseModel):
    """One of several held views on a question that no number settles."""

    id: str
    topic: str
    label: str
    reason: str


class AimEntry(BaseModel):
    """A figure that a plan of work may aim at, and how far off still counts as reached [SI]."""

    number: NumberName
    within: float
    disciplines: list[str]


class SystemEntry(BaseModel):
    """What one change to the car touches, and the numbers of it."""

    id: str
    label: str
    numbers: list[str]


class TalkEntry(BaseModel):
    """What is often said of a station's work, what holds, and the figures that show it."""

    station: str
    said: str
    holds: str
    shows: list[NumberName]
    disciplines: list[str]
    layouts: list[str]


class ClockedEntry(BaseModel):
    """A time, a speed or a place that is written down of a run."""

    id: str
    label: str
    disciplines: list[str]
    quantity: Literal["time", "speed", "dimension"]
    distance: float


class StepEntry(BaseModel):
    """A step of an order of work, and the station it is done at."""

    label: str
    do: str
    station: str
    readings: list[str]
    cautions: list[str]
    """What to mind at this very step, in words."""


class ProcedureEntry(BaseModel):
    """An order of work. `school` says who holds it, where others hold another one."""

    id: str
    label: str
    disciplines: list[str]
    school: str
    steps: list[StepEntry]


class Vocabulary(BaseModel):
    numbers: list[NumberEntry]
    places: dict[str, list[str]]
    measures: dict[str, dict[str, ShownAs]]
    profiles: dict[str, str]
    stations: list[StationEntry]
    orders: dict[str, list[str]]
    procedures: list[ProcedureEntry]
    readings: list[ReadingKindEntry]
    conditions: list[ConditionEntry]
    uses: list[UseEntry]
    schools: list[SchoolEntry]
    disciplines: list[DisciplineEntry]
    clocked: list[ClockedEntry]
    talk: list[TalkEntry]
    rollout: float
    """How far a car is taken to roll before its clock starts [m]."""
    symptoms: list[SymptomEntry]
    views: list[HeldEntry]
    aims: list[AimEntry]
    systems: list[SystemEntry]
    limited: list[NumberName]
    """What a class may bound."""
    parts: list[PartKindEntry]
    jobs: list[JobEntry]
    questions: list[QuestionEntry]
    charts: list[ChartEntry]
    trials: list[TrialEntry]
    choices: dict[str, list[str]]
    coil_bind_margin: float
