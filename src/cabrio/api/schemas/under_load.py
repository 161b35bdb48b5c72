"""The car under load, as asked and as answered."""

from __future__ import annotations

from pydantic import BaseModel, Field

from .bench import LineView, NeedView
from .common import In, NumberName


class UnderLoadQuery(In):
    """What the car is put under [SI]: + to the left, + forward; nothing asked is what the car data ask."""

    sideways: float | None = Field(default=None, ge=-60.0, le=60.0)
    along: float = Field(default=0.0, ge=-60.0, le=60.0)
    speed: float | None = Field(default=None, ge=0.0, le=450.0)


class LoadCaseView(BaseModel):
    """The car under one load [SI], or why it cannot be; its limits and which axle gives up first."""

    refused: str
    loads: list[float]
    lifted: list[bool]
    on_rubber: list[bool]
    on_stop: list[bool]
    travels: list[float]
    heights: list[float]
    roll: float | None
    pitch: float | None
    front_share: float | None
    springs_across: list[float]
    links_across: list[float]
    unsprung_across: list[float]
    lift: float | None
    lift_wheel: str
    roll_over: float | None
    front_lift: float | None
    front_lift_wheel: str
    wheels_up: float | None
    rear_difference: float | None
    handed_back: float | None
    front_limit: float | None
    rear_limit: float | None
    balance: float | None
    limited_by: str
    gradient: float | None
    unbalanced: str


class StepView(BaseModel):
    """One step of a setting, and what it moves: balance [g], front share of load transfer."""

    lines: list[LineView]
    balance: float | None
    front_share: float | None


class UnderLoadView(BaseModel):
    """The car under the load asked for: booked, and as the slip would have it."""

    sideways: float
    along: float
    speed: float
    needs: list[NeedView]
    estimated: list[NumberName]
    booked: LoadCaseView | None
    drafted: LoadCaseView | None
    steps: list[StepView]


class AroundView(BaseModel):
    """The balance [g] over speed [m/s], and the limit [m/s²] over braking and driving [m/s²]."""

    speeds: list[float]
    balance: list[float | None]
    along: list[float]
    sideways: list[float | None]


class AroundLoadView(BaseModel):
    """How balance and limit go around the load asked for: booked, and as the slip would have it."""

    booked: AroundView | None
    drafted: AroundView | None


class LadderQuery(UnderLoadQuery):
    """`settings` to lay out, comma between them: of each axle the first that has a choice."""

    settings: str = Field(default="bar_hole,blade_position", max_length=200)


class RailView(BaseModel):
    """What an axle can be set to: the setting, its values and the bar's wheel rate [N/m] at each.

    A bar without a choice has no setting. `here` is where it stands now.
    """

    axle: str
    setting: NumberName | None
    values: list[float | None]
    rates: list[float | None]
    here: int | None


class RungView(BaseModel):
    """One combination: the lines to it, front share of load transfer, roll [rad per m/s²], balance [g]."""

    lines: list[LineView]
    front_share: float | None
    roll: float | None
    balance: float | None
    in_band: bool | None


class LadderView(BaseModel):
    """Every combination of both axles' bars, front by rear. `missing` says why there is none."""

    missing: str
    front: RailView | None
    rear: RailView | None
    rungs: list[list[RungView]]
