"""A plan of work: targets in, the few best sets of changes out."""

from __future__ import annotations

from pydantic import BaseModel, Field

from cabrio.files.bounds import Word

from .advice import EffectView
from .bench import LineView, RecheckView
from .common import In, NumberName


class TargetIn(In):
    """A figure at a place and the value wanted, as typed."""

    name: NumberName
    place: str = Field(max_length=40)
    value: str = Field(max_length=60)


class PlanIn(In):
    """What is wanted, and what may be touched: systems, minutes, readings that must not be upset."""

    targets: list[TargetIn] = Field(max_length=6)
    systems: list[Word] = Field(max_length=20)
    minutes: int | None = Field(default=None, ge=1, le=100_000)
    spare: list[Word] = Field(default=[], max_length=40)


class ReachedView(BaseModel):
    """A target, its figure now and after the plan [SI]; `met` says that it counts as reached."""

    name: NumberName
    place: str
    wanted: float
    before: float
    after: float
    met: bool


class WorkView(BaseModel):
    """One piece of the work, in words, and the station it is done at."""

    station: str
    said: str
    minutes: int


class PlanView(BaseModel):
    """Changes in the order of work, what they reach, minutes with all they make stale."""

    lines: list[LineView]
    work: list[WorkView]
    reached: list[ReachedView]
    met: bool
    minutes: int
    rechecks: list[RecheckView]
    notes: list[str]
    besides: list[EffectView]
    """What else a driver would feel of it, most first."""
    expectation: str


class PlansView(BaseModel):
    """The few best plans, out of how many set-ups, and what to say beside them."""

    count: int
    plans: list[PlanView]
    notes: list[str]
