"""The side view of a live axle on bars, and the search over its holes."""

from __future__ import annotations

from pydantic import BaseModel, Field

from cabrio.files.bounds import Word

from .bench import LineView, NeedView
from .common import In


class HolesView(BaseModel):
    """A bolt's bracket: its holes ahead of the axle and above the ground [m], the one in use, and the
    setting that picks it; empty where there is none to pick."""

    place: str
    holes: list[list[float]]
    here: int | None
    setting: str


class SideStateView(BaseModel):
    """The bars at one travel [m, bump +], each from its axle end to its chassis end (x, z), the axle's shift
    ahead, what they give."""

    travel: float
    bars: list[list[list[float]]]
    shift: float
    centre: list[float] | None
    anti_squat: float | None
    pinion: float | None
    joints: list[float] | None


class SideOnView(BaseModel):
    """A car from its side, SI. `cg_error` is what its CG height is good to, `slim` its wheelbase over that
    height, where rules of thumb agree or not."""

    wheelbase: float
    cg_height: float
    cg_error: float
    radii: list[float]
    holes: list[HolesView]
    centre: list[float] | None
    anti_squat: float | None
    band: list[float] | None
    states: list[SideStateView]
    short: str
    assumed: str
    slim: float
    rules_agree: bool


class BracketSetView(BaseModel):
    """Brackets that go on together, whether they are on the car, and the lines that fit them."""

    name: str
    fitted: bool
    lines: list[LineView]


class SideView(BaseModel):
    """Booked, and with the slip. `missing` says why there is nothing, `needs` which numbers lack; `sets` are
    the sets of brackets this car has to choose from."""

    missing: str
    needs: list[NeedView]
    booked: SideOnView | None
    drafted: SideOnView | None
    sets: list[BracketSetView]


class HolesQuery(In):
    """What the bars should give, as typed; `ic_x` and `clear`, the least height of a bolt, may be empty."""

    anti_squat: str = Field(default="", max_length=60)
    ic_x: str = Field(default="", max_length=60)
    clear: str = Field(default="", max_length=60)
    nose_down: bool = False


class HoleChoiceView(BaseModel):
    """One combination of holes, counted from 1 in the order of the bolts, with bar lengths re-set."""

    holes: list[int]
    moved: int
    anti_squat: float
    ic_x: float
    ic_z: float
    upper_bar: float
    lower_bar: float
    pinion_per_bump: float
    pinion: list[float] | None
    roll_steer: float
    lowest: float | None
    lines: list[LineView]


class HolesFound(BaseModel):
    """How many combinations there are, and the nearest of them, best first."""

    count: int
    out_of_reach: int
    """Combinations that the links' threads do not reach."""
    too_low: int
    """Combinations whose bolts come lower than was asked for."""
    choices: list[HoleChoiceView]


class PlotSheetIn(In):
    """The four bolts of each side as measured, ahead of the axle and above the floor, as typed; the
    right side may be empty. `block` is how high the car stands on its blocks."""

    block: str = Field(default="0", max_length=60)
    left: list[tuple[Word, Word]] = Field(min_length=4, max_length=4)
    right: list[tuple[Word, Word]] = Field(default=[], max_length=4)


class PlotSheetView(BaseModel):
    """Bolts ahead of the axle and above the ground [m], what the right ones are more, what to look at
    again, and the bolts that come with a bracket and not from here."""

    bolts: list[list[float]]
    apart: list[list[float]] | None
    doubts: list[str]
    brackets: list[str]


class SaysView(BaseModel):
    """What a reading says, in sentences in the car's units."""

    says: list[str]


class GaugeQuery(In):
    """Two gauge readings as typed, without a sign, and whether each rises towards the front."""

    pinion: str = Field(default="", max_length=60)
    pinion_rises: bool = False
    shaft: str = Field(default="", max_length=60)
    shaft_rises: bool = False


class GaugeView(BaseModel):
    """Both slopes and the pinion angle [rad], and how the pinion stands in words."""

    pinion: float
    shaft: float
    angle: float
    says: str
