"""What is watched on a car: open issues, parts off, torques, class limits, service."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from cabrio.core.record.watch import Kind as WatchedKind

from .common import In


class WatchedView(BaseModel):
    """One thing watched and how it stands; `bars` says that it keeps the car in."""

    id: int
    kind: WatchedKind
    words: str
    stands: str
    bars: bool
    opened_by: str
    opened_at: str
    done_by: str
    done_at: str | None


class WatchedList(BaseModel):
    watched: list[WatchedView]


class WatchIn(In):
    """What to watch, its fields as typed: which count follows from its kind."""

    kind: WatchedKind
    words: str = Field(max_length=120)
    bars: bool = False
    value: str = Field(default="", max_length=60)
    source: str = Field(default="", max_length=120)
    loaded: bool = False
    system: str = Field(default="", max_length=40)
    number: str = Field(default="", max_length=60)
    least: str = Field(default="", max_length=60)
    most: str = Field(default="", max_length=60)
    every: str = Field(default="", max_length=10)
    unit: Literal["runs", "days", "km", "miles"] = "runs"


class SignedForIn(In):
    """A limit that the car is past, as it is said, and on what it is decided to let it run."""

    limit: str = Field(max_length=400)
    decided_on: Literal["measured_again", "part_changed", "rule_allows", "other"]
    said: str = Field(default="", max_length=400)


class SettledIn(In):
    words: str = Field(default="", max_length=4000)
