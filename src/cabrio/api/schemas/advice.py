"""Advice: ranked changes for what a driver said."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from .bench import LineView, RecheckView
from .common import In, NumberName


class AdviceQuery(In):
    symptom: str = Field("", max_length=60)
    phase: str = Field("", max_length=60)
    school: Literal["A", "B"] = "A"
    severity: Literal["slight", "clear", "strong"] = "clear"
    corner: Literal["", "slow", "fast"] = ""
    surface: Literal["", "poor", "good"] = ""


class EffectView(BaseModel):
    """A figure at one place, before and after (SI); `felt` counts steps a driver would feel."""

    name: NumberName
    place: str
    before: float
    after: float
    felt: float


class JudgedView(BaseModel):
    """What a like change came to before; `car` is empty for this car."""

    revision: int
    car: str
    outcome: str
    words: str
    conditions: str


class AdvisedView(BaseModel):
    """A change that could be made. `refused` says why it cannot be made here; then it has no lines."""

    label: str
    number: NumberName
    lines: list[LineView]
    reason: str
    costs: str
    school: str
    effects: list[EffectView]
    loads: list[EffectView]
    """What each axle carries across the car, before and after."""
    confidence: Literal["low", "medium", "high"]
    confidence_why: str
    balance: float | None
    """Change of the grip balance [g]: plus, the rear gives up sooner than before, against the front."""
    felt: float
    minutes: int
    total_minutes: int
    rechecks: list[RecheckView]
    warnings: list[str]
    refused: str
    asks: list[str]
    """Places of its number to write down first, as they stand: then it can be sized."""
    before: list[JudgedView]
    expectation: str


class AdviceView(BaseModel):
    beside: str
    candidates: list[AdvisedView]
