"""Fuel from start to finish, as answered."""

from __future__ import annotations

from pydantic import BaseModel

from .bench import NeedView


class FuelledView(BaseModel):
    """The car with some fuel aboard [SI]: pads, body heights against the reading + up, shares, balance [g]."""

    fuel: float
    pads: list[float]
    heights: list[float]
    front_share: float
    cross_share: float
    rear_bite: float
    balance: float | None


class BurnView(BaseModel):
    weighed: FuelledView
    start: FuelledView
    finish: FuelledView


class FuelView(BaseModel):
    """The car from start to finish: booked, and with the slip; `refused` says why it cannot be."""

    needs: list[NeedView]
    refused: str
    booked: BurnView | None
    drafted: BurnView | None
