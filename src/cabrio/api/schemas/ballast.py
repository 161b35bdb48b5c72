"""Ballast tried at a place of the car before there is a piece of it."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, Field

from .bench import LineView, MovedView
from .common import In


class BallastQuery(In):
    """Mass and place as typed; with `solve` the mass is worked that brings that to `target`."""

    mass: str = Field(default="", max_length=60)
    behind_front: str = Field(default="", max_length=60)
    to_left: str = Field(default="", max_length=60)
    solve: Literal["", "total_mass", "front_share", "left_share", "cross_share"] = ""
    target: str = Field(default="", max_length=60)


class BallastView(BaseModel):
    """A mass at a place [SI], and the pads and shares before and with it."""

    mass: float
    behind_front: float
    to_left: float
    moved: list[MovedView]
    restore: list[LineView]
    """Perch turns that bring the heights back, in whole steps; none where they cannot be told."""
