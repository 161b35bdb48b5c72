"""An axle's geometry from its points, as asked and as answered."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel

from .bench import NeedView
from .common import In


class GeometryQuery(In):
    axle: Literal["front", "rear"] = "front"
    over: Literal["travel", "roll", "rack"] = "travel"


class SidesView(BaseModel):
    """One figure over the sweep [SI]: left and right, or the axle's own; None where it has no value.

    `drawn` says that its curve is worth a plot of its own.
    """

    name: str
    label: str
    quantity: str
    left: list[float | None]
    right: list[float | None] | None
    drawn: bool


class StickView(BaseModel):
    """A line of the picture: at every state, its points ahead, left of the centre and above ground [m]."""

    name: str
    side: Literal["left", "right"]
    points: list[list[list[float]]]


class DiscView(BaseModel):
    """A wheel: at every state its centre and its axis outward, ahead, left and up [m, -]; its radius [m]."""

    side: Literal["left", "right"]
    centre: list[list[float]]
    axis: list[list[float]]
    radius: float


class SweptView(BaseModel):
    """An axle over its travel or roll [m, rad], or its rack's travel [m], and the picture of it.

    `short` says that its links do not reach the whole way. `roll_centre` is its height [m]; `centres`
    the instant centres of both sides, left of the car's centre and above ground [m], `side_centre` the
    one of the left wheel or the axle seen from the side, ahead and above ground [m]. `measured` says that
    it is worked from measured points, not from its bolts' numbers.
    """

    kind: str
    measured: bool
    at: list[float]
    short: bool
    curves: list[SidesView]
    sticks: list[StickView]
    discs: list[DiscView]
    roll_centre: list[float]
    centres: list[list[list[float] | None]]
    side_centre: list[list[float] | None]


class AdjustmentView(BaseModel):
    """One turn of a link, or one shim, and what it changes at ride height [SI]; toe is not set again."""

    label: str
    turned: bool
    by: float
    camber: float
    toe: float
    caster: float | None
    bump_steer: float
    roll_centre: float
    half_track: float


class AdjustedView(BaseModel):
    """What one turn or shim does on a side; on either where they are each other's mirror."""

    side: Literal["either", "left", "right"]
    ways: list[AdjustmentView]


class GeometryView(BaseModel):
    """What the points or bars of an axle give: booked, and with the slip.

    `missing` says why there is nothing, `needs` which numbers of a live axle's bars are not there.
    """

    missing: str
    axles: list[Literal["front", "rear"]]
    booked: SweptView | None
    drafted: SweptView | None
    adjustments: list[AdjustedView]
    needs: list[NeedView]
