"""The side view of a live axle, of a sheet: its bars and brackets, its instant centre, its travel.

Ahead of the rear axle and above the ground [m]. What is worked through travel has the tyre standing on
the ground, so that a travel in bump is the body coming down.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from math import hypot, inf

import numpy as np

from ..arrays import Array
from ..car.lines import Line
from ..car.model import Car, Setup
from ..catalog.parts import HOLE_CHOSEN, Bracket, Hole, Link
from ..catalog.quantities import PLACES, Shape
from ..catalog.tables import BAR_LINKS
from ..errors import Impossible, Missing
from ..geometry.plane import Point
from ..graph.registry import Worked
from ..solve.one_arm import on_ladder_bars, on_leaves, on_torque_arm
from ..solve.side_view import (
    Driveline,
    HoleChoice,
    HoleSets,
    SideView,
    Wanted,
    anti_squat_band,
    search_holes,
    through_travel,
)
from .build import Sheet

BOLTS = PLACES[Shape.BOLT]
BOLTED = ("bolt_x", "bolt_z")
ALWAYS = ("wheelbase", "cg_height", "loaded_radius")
OWN_NEEDS: dict[str, tuple[str, ...]] = {
    **dict.fromkeys(BAR_LINKS, BOLTED),
    "torque_arm": ("torque_arm_x", "lower_bolt_z", "arm_length", "arm_rise"),
    "ladder_bar": ("ladder_pivot_x", "ladder_pivot_z"),
    "leaf": ("arm_length", "arm_rise"),
}
"""What the side view of each rear layout is drawn from, besides wheelbase, CG height and tyres."""
ASSUMED = {
    "torque_arm": "The torque arm’s pivot is drawn at the axle’s height: what counts is how far ahead "
    "it slides. The lower arms are drawn from under the axle.",
    "ladder_bar": "The instant centre is the bars’ own front pivot, and stays there.",
    "leaf": "The leaves’ front halves as the arms they act as. No instant centre and no anti-squat: how "
    "far the housing turns depends on how the leaves bend.",
}
"""What the picture of a layout takes for granted."""
DRIVELINE = (
    "pinion_slope",
    "pinion_joint_x",
    "pinion_joint_z",
    "gearbox_joint_x",
    "gearbox_joint_z",
)
RULES_AGREE = (5.3, 6.3)
"""Wheelbase over CG height between which a usual band of IC lengths is one of anti-squats too."""
STATES = 13
"""States in droop, and as many in bump, ride height in both."""
USUAL_TRAVEL = (-0.06, 0.05)
"""Droop and bump where the car's own are not known [m]."""
GUESSED_CG, MEASURED_CG = 0.10, 0.015
"""What a CG height is good to: a share of it where it is an estimate, else a length [m]."""


@dataclass(frozen=True)
class Holes:
    """The holes of a bolt's bracket, which of them is in use (from 0), and the setting that picks it."""

    place: str
    holes: tuple[Hole, ...]
    here: int | None
    setting: str


@dataclass(frozen=True)
class Side:
    """The side view at ride height and through travel.

    `centre` is the instant centre, None where the bars are parallel; `anti_squat` with its least and
    most for what the CG height is good to. `rules_agree` says whether rules of thumb for the IC's length
    and for anti-squat mean the same on a car of this wheelbase and CG height.
    """

    wheelbase: float
    cg_height: float
    cg_error: float
    radii: tuple[float, float]
    holes: tuple[Holes, ...]
    centre: tuple[float, float] | None
    anti_squat: float | None
    band: tuple[float, float] | None
    views: tuple[SideView, ...]
    gearbox_slope: float | None
    short: str = ""
    """Why the travel is not drawn as far as it goes; empty where it is."""
    assumed: str = ""
    """What the picture takes for granted on this layout."""

    @property
    def slim(self) -> float:
        """Wheelbase over CG height."""
        return self.wheelbase / self.cg_height

    @property
    def rules_agree(self) -> bool:
        return RULES_AGREE[0] <= self.slim <= RULES_AGREE[1]

    @property
    def travels(self) -> list[float]:
        return [view.travel for view in self.views]


def on_bars(car: Car) -> bool:
    """Whether the rear axle hangs on upper and lower bars."""
    return car.rear_layout in BAR_LINKS


def needed(car: Car) -> tuple[str, ...]:
    """The numbers that the side view of this car needs; none where nothing is drawn of its layout."""
    own = OWN_NEEDS.get(car.rear_layout, ())
    return (*own, *ALWAYS) if own else ()


def side_of_sheet(sheet: Sheet) -> Side:
    """The side view of a sheet, worked once. Raises as `side_of` does."""
    origin = sheet.origins.get("cg_height")
    guessed = origin is not None and origin.estimated
    return sheet.once(
        ("side",), lambda: side_of(sheet.car, sheet.setup, sheet.worked, guessed=guessed)
    )


def side_of(car: Car, setup: Setup, worked: Worked, *, guessed: bool) -> Side:
    """The side view of a car at a setup. Raises Missing with all that it lacks, or Impossible.

    `guessed` says that the CG height is an estimate.
    """
    if not (names := needed(car)):
        raise Impossible("An independent rear is drawn from its points.", number="points")
    worked.require(names, "The side view needs")
    v = worked.values
    base, high = float(v["wheelbase"]), float(v["cg_height"])
    radius = float(v["loaded_radius"][1])
    error = GUESSED_CG * high if guessed else MEASURED_CG
    common = {"radius": radius, "wheelbase": base, "cg_height": high}
    views, short = _travelled(v, partial(_through(car, v, _driveline(worked)), **common))
    here = min(views, key=lambda view: abs(view.travel))
    squat = here.anti_squat
    return Side(
        base,
        high,
        error,
        (float(v["loaded_radius"][0]), radius),
        tuple(_holes(car, setup, i, v["bolt_x"], v["bolt_z"]) for i in range(len(BOLTS)))
        if on_bars(car)
        else (),
        (here.centre.x, here.centre.z) if isinstance(here.centre, Point) else None,
        squat,
        None if squat is None else anti_squat_band(squat, high, error),
        tuple(views),
        float(v["gearbox_slope"]) if "gearbox_slope" in v else None,
        short,
        ASSUMED.get(car.rear_layout, ""),
    )


def _through(
    car: Car, v: Mapping[str, Array], driveline: Driveline | None
) -> Callable[..., list[SideView]]:
    """What moves this car's axle through travels."""
    if car.rear_layout == "ladder_bar":
        pivot = (float(v["ladder_pivot_x"]), float(v["ladder_pivot_z"]))
        return partial(on_ladder_bars, pivot, driveline=driveline)
    if on_bars(car):
        return partial(through_travel, v["bolt_x"], v["bolt_z"], driveline=driveline)
    length, rise = _mean_arm(v["arm_length"], v["arm_rise"])
    if car.rear_layout == "leaf":
        return partial(on_leaves, length, rise)
    pivot_x, bolt_z = float(v["torque_arm_x"]), float(v["lower_bolt_z"])
    return partial(on_torque_arm, pivot_x, bolt_z, length, rise, driveline=driveline)


def _mean_arm(lengths: Array, rises: Array) -> tuple[float, float]:
    """Length and rise of the arm that stands for both sides: their mean length at their mean slope."""
    slope = float(np.mean(rises / np.sqrt(lengths**2 - rises**2)))
    length = float(np.mean(lengths))
    return length, length * slope / hypot(1.0, slope)


def _travelled(
    v: Mapping[str, Array], through: Callable[..., list[SideView]]
) -> tuple[list[SideView], str]:
    """Through the rear's own travel, or as much of it as the bars reach."""
    low, top = USUAL_TRAVEL
    if "droop_travel" in v and "bump_travel" in v:
        low, top = -float(v["droop_travel"][2]), float(v["bump_travel"][2])
    short = ""
    for share in (1.0, 0.75, 0.5, 0.25, 0.0):
        travels = _states(low * share, top * share) if share else np.zeros(1)
        try:
            return through(travels=travels.tolist()), short
        except Impossible as refusal:
            short, number = refusal.sentence, refusal.number
    raise Impossible(short, number=number)


def _states(low: float, top: float) -> Array:
    """Travels from droop to bump, ride height among them."""
    return np.concatenate((np.linspace(low, 0.0, STATES), np.linspace(0.0, top, STATES)[1:]))


def _driveline(worked: Worked) -> Driveline | None:
    v = worked.values
    if worked.lacking(DRIVELINE):
        return None
    return Driveline(
        float(v["pinion_slope"]),
        (float(v["pinion_joint_x"]), float(v["pinion_joint_z"])),
        (float(v["gearbox_joint_x"]), float(v["gearbox_joint_z"])),
    )


def _holes(car: Car, setup: Setup, at: int, x: Array, z: Array) -> Holes:
    """A bolt's holes: its bracket's, or the one place where the bolt was measured."""
    place = BOLTS[at]
    setting = HOLE_CHOSEN[place]
    bracket = car.fitted(setup, "bracket", place)
    bolt = (float(x[at]), float(z[at]))
    if not isinstance(bracket, Bracket):
        return Holes(place, (bolt,), 0, "")
    chosen = (setup.get(setting) or [None])[0]
    here = 0 if len(bracket.holes) == 1 else None if chosen is None else round(float(chosen)) - 1
    choosable = len(bracket.holes) > 1 and setting in car.adjusters
    return Holes(place, bracket.holes, here, setting if choosable else "")


def bracket_holes(car: Car, setup: Setup) -> list[tuple[Hole, ...]]:
    """The holes of each bolt's bracket; none where the bolt was measured itself."""
    fitted = (car.fitted(setup, "bracket", place) for place in BOLTS)
    return [one.holes if isinstance(one, Bracket) else () for one in fitted]


@dataclass(frozen=True)
class BracketSet:
    """The brackets of one set, whether all of them are on the car, and the slip lines that fit them."""

    name: str
    fitted: bool
    lines: tuple[Line, ...]


def bracket_sets(car: Car, setup: Setup) -> list[BracketSet]:
    """The sets that the inventory's brackets make, by their names; none below two."""
    codes = setup.get("bracket") or [None] * len(BOLTS)
    sets: dict[str, dict[str, str]] = {}
    for part in car.parts.of("bracket"):
        if isinstance(part, Bracket) and part.set_code and part.goes_on:
            sets.setdefault(part.set_code, {})[part.goes_on] = part.code
    found = []
    for name, places in sorted(sets.items()):
        lines = tuple(
            Line("bracket", place, now, places[place])
            for place, now in zip(BOLTS, codes, strict=True)
            if places.get(place, now) != now
        )
        found.append(BracketSet(name, not lines, lines))
    return found if len(found) > 1 else []


def bar_lengths(car: Car, setup: Setup) -> tuple[float | None, float | None]:
    """The upper and the lower bar's length between centres, where the links fitted tell it [m]."""
    found = []
    for bar in ("upper", "lower"):
        links = (car.fitted(setup, "link", f"{bar} {side}") for side in ("left", "right"))
        lengths = [link.length for link in links if isinstance(link, Link) and link.length]
        found.append(sum(lengths) / len(lengths) if lengths else None)
    return found[0], found[1]


def bar_reach(car: Car, setup: Setup) -> tuple[tuple[float, float], tuple[float, float]]:
    """The least and most length of the upper and the lower bar [m], as far as the links fitted tell."""
    found = []
    for bar in ("upper", "lower"):
        links = [car.fitted(setup, "link", f"{bar} {side}") for side in ("left", "right")]
        fitted = [link for link in links if isinstance(link, Link)]
        found.append(
            (
                max((one.shortest or 0.0 for one in fitted), default=0.0),
                min((one.longest or inf for one in fitted), default=inf),
            )
        )
    return found[0], found[1]


def hole_sets(sheet: Sheet) -> tuple[HoleSets, tuple[int, int, int, int]]:
    """Every hole that the settings of this car reach, and those in use. Raises Missing or Impossible."""
    sheet.worked.require((*BOLTED, *ALWAYS), "The search over holes needs")
    v = sheet.worked.values
    every = [_holes(sheet.car, sheet.setup, i, v["bolt_x"], v["bolt_z"]) for i in range(len(BOLTS))]
    if not any(one.setting for one in every):
        raise Impossible(
            "No bracket of this car has holes to choose from: add the brackets with their holes to "
            "the inventory, and their adjusters to the car data.",
            number="bracket",
        )
    reached = [one.holes if one.setting else (one.holes[one.here or 0],) for one in every]
    now = tuple((one.here or 0) if one.setting else 0 for one in every)
    return HoleSets(*reached), now  # type: ignore[return-value]


@dataclass(frozen=True)
class Found:
    """A combination of holes, and the slip lines that lead to it."""

    choice: HoleChoice
    lines: tuple[Line, ...]


@dataclass(frozen=True)
class Search:
    """How many combinations there are, how many the bars cannot be set to or come too low, and the nearest
    of the rest."""

    count: int
    out_of_reach: int
    too_low: int
    found: list[Found]


def holes_near(
    sheet: Sheet,
    anti_squat: float,
    ic_x: float | None = None,
    *,
    show: int,
    nose_down: bool = False,
    clear: float = 0.0,
) -> Search:
    """The combinations nearest to an anti-squat and, where it is wanted, an IC length [m], of those the
    links' threads reach. With `nose_down` only those whose pinion stays under the shaft in travel; `clear`
    is how high every bolt has to stay above the ground through it [m].

    Raises Missing, or Impossible where no bracket has a choice of holes, the threads reach none, or none
    keeps the nose down or the bolts clear.
    """
    sets, now = hole_sets(sheet)
    side = side_of_sheet(sheet)
    driveline = _driveline(sheet.worked)
    if nose_down and driveline is None:
        raise Missing(
            "To keep the pinion nose down it has to be read, and both joints of the shaft given.",
            number="pinion_angle",
        )
    wanted = Wanted(anti_squat, ic_x or 1.0, ic_scale=0.1 if ic_x is not None else 1e9)
    count, choices = search_holes(
        sets,
        now,
        wanted,
        wheelbase=side.wheelbase,
        cg_height=side.cg_height,
        show=10_000,
        travels=side.travels,
        radius=side.radii[1],
        driveline=driveline,
    )
    upper, lower = bar_reach(sheet.car, sheet.setup)
    every = len(choices)
    choices = [
        choice
        for choice in choices
        if upper[0] <= choice.upper_bar <= upper[1] and lower[0] <= choice.lower_bar <= lower[1]
    ]
    if every and not choices:
        raise Impossible(
            "No combination is within reach of the links: each would leave too little thread engaged, "
            "or need a shorter bar.",
            number="bolt_x",
        )
    out_of_reach = every - len(choices)
    within = len(choices)
    choices = [choice for choice in choices if choice.lowest is None or choice.lowest >= clear]
    if within and not choices:
        raise Impossible(
            "No combination keeps its bolts that far above the ground through the travel: ask for less, "
            "or raise the car first.",
            number="clear",
        )
    low_enough = len(choices)
    if nose_down:
        choices = [
            choice for choice in choices if choice.pinion_range and choice.pinion_range[1] < 0
        ]
        if not choices:
            raise Impossible(
                "No combination keeps the pinion nose down through the travel: set the pinion "
                "lower at ride height first.",
                number="pinion_angle",
            )
    return Search(
        count,
        out_of_reach,
        within - low_enough,
        [Found(choice, _lines(sheet, choice)) for choice in choices[:show]],
    )


def _lines(sheet: Sheet, choice: HoleChoice) -> tuple[Line, ...]:
    v, found = sheet.worked.values, []
    for i, hole in enumerate(choice.holes):
        bolt = _holes(sheet.car, sheet.setup, i, v["bolt_x"], v["bolt_z"])
        if bolt.setting and hole != bolt.here:
            old = None if bolt.here is None else float(bolt.here + 1)
            found.append(Line(bolt.setting, "car", old, float(hole + 1)))
    return tuple(found)
