"""Orders of work as they are walked through on a car."""

from __future__ import annotations

from pydantic import BaseModel, Field

from .common import In


class TickView(BaseModel):
    step: str
    by: str
    at: str


class WalkView(BaseModel):
    """An order of work under way: who began it when, and the steps ticked."""

    procedure: str
    started_by: str
    started_at: str
    ticks: list[TickView]


class WalksView(BaseModel):
    walks: list[WalkView]


class WalkIn(In):
    procedure: str = Field(max_length=60)


class TickIn(In):
    """A step by its name: done, or its tick taken back."""

    procedure: str = Field(max_length=60)
    step: str = Field(max_length=120)
    done: bool = True
