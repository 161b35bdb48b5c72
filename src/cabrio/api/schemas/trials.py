"""The car in time: what is done to it, and what it does."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from .common import In


class TrialQuery(In):
    """Size and speed as typed, the usual ones where empty; `against` a revision, or the slip."""

    size: str = Field(default="", max_length=60)
    speed: str = Field(default="", max_length=60)
    against: int | None = Field(default=None, ge=1, le=100_000)


class InTimeResult(BaseModel):
    """A number of a run [SI]: of the four wheels, or of the body its greatest and when it settles [s]."""

    label: str
    quantity: str
    values: list[float | None]


class InTimeView(BaseModel):
    """A car through a trial [SI]: loads by corner, the body, and what was assumed."""

    times: list[float]
    loads: list[list[float]]
    heave: list[float]
    pitch: list[float]
    roll: list[float]
    wheels: list[InTimeResult]
    body: list[InTimeResult]
    assumed: list[str]


class TrialView(BaseModel):
    """The setup on the car, and the one it is set against. `missing` says why there is none."""

    size: float
    speed: float
    missing: str
    booked: InTimeView | None
    other: InTimeView | None
    other_words: str


class ContactQuery(In):
    """Both dampers of an axle at one click, over the usual rough road."""

    setting: Literal["compression_clicks", "rebound_clicks"]
    axle: Literal["front", "rear"]
    click: float = Field(ge=-1000.0, le=1000.0)
    speed: str = Field(default="", max_length=60)


class ContactView(BaseModel):
    """How much the tyre load of the axle varies [-]."""

    click: float
    variation: float
