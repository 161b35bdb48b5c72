"""What the spring, its tender and the bump rubber push with through the wheel's travel."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.parts import Spring
from ..catalog.units import show
from ..constants import STANDARD_GRAVITY
from ..figures.rubber import rubber_force, rubber_rate
from ..figures.shapes import at_corners
from ..figures.stack import stack_force, stack_rate_at
from ..sheet.build import Sheet
from .chart import Axis, Drawn, Line, Mark, by_corner, chart

POINTS = 81
NEEDED = (
    "spring_rate",
    "static_compression",
    "motion_ratio",
    "motion_ratio_slope",
    "spring_angle",
    "tender_rate",
    "tender_gap",
    "droop_travel",
    "bump_travel",
)
RUBBER = ("rubber_curve", "rubber_gap", "rubber_motion_ratio")
TRAVEL = Axis("Wheel travel, + bump", "fine_dimension")


@dataclass(frozen=True)
class Through:
    """Wheel travel (n,) [m]; load [N] and rate [N/m] at each wheel (n, 4)."""

    travel: Array
    load: Array
    rate: Array


def through(sheet: Sheet) -> Through:
    """Every corner from full droop to full bump. Raises Missing with all that lacks."""
    v = sheet.worked.values
    sheet.worked.require(NEEDED, "The springs through their travel need")
    travel = np.linspace(-v["droop_travel"].max(), v["bump_travel"].max(), POINTS)
    at = travel[:, None]
    ratio = v["motion_ratio"] + v["motion_ratio_slope"] * at
    along = v["static_compression"] + (
        v["motion_ratio"] * at + 0.5 * v["motion_ratio_slope"] * at**2
    ) * np.cos(v["spring_angle"])
    stack = (v["spring_rate"], v["tender_rate"], v["tender_gap"])
    held = along > 0  # a loose coil pushes with nothing
    force = np.where(held, stack_force(along, *stack), 0.0)
    at_wheel = ratio * np.cos(v["spring_angle"])
    rate = np.where(
        held,
        stack_rate_at(along, *stack) * at_wheel**2
        + force * v["motion_ratio_slope"] * np.cos(v["spring_angle"]),
        0.0,
    )
    load = force * at_wheel
    if all(name in v for name in RUBBER):
        by, gap = at_corners(v["rubber_motion_ratio"]), at_corners(v["rubber_gap"])
        curve = v["rubber_curve"].repeat(2, axis=0)
        squeezed = at * by - gap
        load = load + rubber_force(curve, squeezed) * by
        rate = rate + rubber_rate(curve, squeezed) * by**2
    beyond = (at < -v["droop_travel"] - 1e-9) | (at > v["bump_travel"] + 1e-9)
    return Through(travel, np.where(beyond, np.nan, load), np.where(beyond, np.nan, rate))


def _marks(sheet: Sheet) -> tuple[Mark, ...]:
    """Ride height, the ends of the travel, and where each axle's rubber is first touched."""
    v = sheet.worked.values
    marks = [
        Mark("full droop", -float(v["droop_travel"].max())),
        Mark("ride height", 0.0),
        Mark("full bump", float(v["bump_travel"].max())),
    ]
    if all(name in v for name in RUBBER):
        for i, axle in enumerate(("front", "rear")):
            touch = float(v["rubber_gap"][i] / v["rubber_motion_ratio"][i])
            if touch < float(v["bump_travel"][2 * i : 2 * i + 2].max()) and np.any(
                v["rubber_curve"][i, 1] > 0
            ):
                marks.append(Mark(f"{axle} rubber", touch))
    return tuple(marks)


@chart(label="Load at the wheel", x=TRAVEL, y=Axis("Load", "force"))
def spring_load(sheet: Sheet) -> Drawn:
    """What spring, tender and rubber carry at the wheel, from full droop to full bump."""
    found = through(sheet)
    lines = by_corner(found.travel, list(found.load.T))
    return Drawn(tuple(found.travel.tolist()), tuple(lines), _marks(sheet))


@chart(label="Wheel rate", x=TRAVEL, y=Axis("Wheel rate", "rate"))
def spring_rate_at_wheel(sheet: Sheet) -> Drawn:
    """Rate at the wheel, the ratio's own rise and the rubber counted in."""
    found = through(sheet)
    lines = by_corner(found.travel, list(found.rate.T))
    return Drawn(tuple(found.travel.tolist()), tuple(lines), _marks(sheet))


@chart(
    label="Load left as the front rises",
    x=Axis("Front rises by", "height"),
    y=Axis("Load of one spring at the wheel", "force"),
)
def load_as_it_rises(sheet: Sheet) -> Drawn:
    """What the left front spring still pushes up as the front extends, and what every other spring of the
    inventory would: where its line ends the coil goes loose."""
    needed = ("sprung_mass", "spring_rate", "motion_ratio", "spring_angle", "droop_travel")
    sheet.worked.require(needed, "The load left as the front rises needs")
    v = sheet.worked.values
    standing = float(v["sprung_mass"][0]) * STANDARD_GRAVITY
    ratio = float(v["motion_ratio"][0] * np.cos(v["spring_angle"][0]))
    travel = np.linspace(0.0, float(v["droop_travel"][:2].max()) * 1.25, POINTS)

    def line(label: str, rate: float, *, faint: bool) -> Line:
        left = standing - rate * ratio**2 * travel
        return Line(label, tuple(np.where(left >= 0, left, np.nan).tolist()), faint)

    rate = float(v["spring_rate"][0])
    fitted = sheet.car.fitted(sheet.setup, "spring", "LF")
    lines = [line("as fitted" if fitted else "by the estimated rate", rate, faint=False)]
    lines += [
        line(one.code, one.rate, faint=True)
        for one in sheet.car.stock("spring", "LF")
        if isinstance(one, Spring) and one != fitted
    ]
    marks = [Mark("full droop", float(v["droop_travel"][:2].max()))]
    if "front_limiter" in v and float(v["front_limiter"]) < travel[-1]:
        marks.append(Mark("limiter", float(v["front_limiter"])))
    energy = (standing / ratio) ** 2 / (2 * rate)
    note = (
        f"Stored in it at ride height: {show(energy, 'energy', sheet.car.profile)}. Energy to a load is "
        "F²/2k: a softer spring stores more, a longer one of the same rate no more."
    )
    return Drawn(tuple(travel.tolist()), tuple(lines), tuple(marks), note)
