"""The dictionary."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from cabrio.core.catalog.quantities import Shape

from .common import NumberName


class NumberEntry(BaseModel):
    name: NumberName
    kind: Literal["given", "set", "read", "worked"]
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
