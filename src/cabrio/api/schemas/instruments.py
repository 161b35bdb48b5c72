"""Instruments, as asked and as answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from .bench import LineView
from .common import In


class PadsIn(In):
    """`settle` says that the car was rolled and bounced just now."""

    settle: bool = False


class PadsView(BaseModel):
    """Loads [kg] by corner, None where a pad gives nothing; whether they stand still."""

    loads: list[float | None]
    still: bool


class GaugeIn(In):
    """What the gauge lies on; `zero` takes that as level first."""

    on: Literal["floor", "pinion", "shaft"]
    zero: bool = False


class GaugeShows(BaseModel):
    """Degrees from level, without a sign: which way it points is seen, not shown."""

    degrees: float


class LedgerStep(BaseModel):
    """From one pad reading to the next [kg by corner]: what was done between, predicted, weighed."""

    at: str
    by: str
    revision: int
    since: int
    lines: list[LineView]
    predicted: list[float] | None
    weighed: list[float]
    why: str
    states: list[str]
    """How it was weighed otherwise than before."""


class GainView(BaseModel):
    """The share of what was predicted that was weighed, its standard error, from how many changes; `sure`
    says that the car does something else than the model, `used` that what is tried is worked by it."""

    share: float
    error: float
    count: int
    sure: bool
    used: bool


class LedgerView(BaseModel):
    """The steps between pad readings, the newest first, and what this car's perches really do."""

    steps: list[LedgerStep]
    perches: GainView | None


class RanView(BaseModel):
    """A pass: the revision it ran on, its flats, how far off its line it was at 60 ft [m], + left."""

    revision: int
    flats: float
    off: float


class LineErrorView(BaseModel):
    """The passes that tell, and what they say; empty and None while they say nothing."""

    passes: list[RanView]
    said: str
    straight: float | None
