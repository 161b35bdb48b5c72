"""What the dampers push with at their clicks, and how much of critical that is."""

from __future__ import annotations

import numpy as np

from ..car.fitted import click_of
from ..catalog.parts import FACES, Damper, Face
from ..catalog.quantities import Array
from ..errors import Missing
from ..sheet.build import Sheet
from ..simulate.of_car import suspension
from ..simulate.suspension import DamperLaw
from ..solve.clicks import ladder
from . import CORNERS, Axis, Drawn, Line, Mark, by_corner, chart

POINTS = 61
FASTEST = 0.3
"""How far the curves are drawn where the dyno went farther [m/s]."""


def _laws(sheet: Sheet) -> list[DamperLaw]:
    """The damper of every corner at its clicks. Raises Missing for the first that lacks something."""
    return [suspension(sheet, place).damper for place in CORNERS]


def _speeds(laws: list[DamperLaw]) -> Array:
    """Wheel speeds up to the slowest that every sheet was measured to [m/s]."""
    return np.linspace(0.0, min(FASTEST, *(law.measured_to for law in laws)), POINTS)


def _forces(law: DamperLaw, speeds: Array, sign: int) -> Array:
    return np.array([law.force(sign * float(one)) for one in speeds])


@chart(
    label="Damper force at the wheel",
    x=Axis("Wheel speed", "shaft_speed"),
    y=Axis("Force, + compression", "force"),
)
def damper_force(sheet: Sheet) -> Drawn:
    """Force at the wheel over its speed, at the clicks that are set: compression above, rebound below."""
    laws = _laws(sheet)
    speeds = _speeds(laws)
    lines = [
        line
        for words, sign in (("compression", 1), ("rebound", -1))
        for line in by_corner(speeds, [_forces(law, speeds, sign) for law in laws], words)
    ]
    return Drawn(tuple(speeds.tolist()), tuple(lines))


@chart(
    label="Damping ratio",
    x=Axis("Wheel speed", "shaft_speed"),
    y=Axis("Share of critical", "proportion"),
)
def damping_ratio(sheet: Sheet) -> Drawn:
    """Force over speed as a share of critical damping, the tyre left out: high while the damper is
    slow and falling is digressive."""
    sheet.worked.require(("critical_damping",), "The damping ratio needs")
    critical = sheet.worked.values["critical_damping"]
    laws = _laws(sheet)
    speeds = _speeds(laws)[1:]
    lines = []
    for words, sign in (("compression", 1), ("rebound", -1)):
        rows = [
            sign * _forces(law, speeds, sign) / speeds / float(critical[i])
            for i, law in enumerate(laws)
        ]
        lines += by_corner(speeds, rows, words)
    return Drawn(tuple(speeds.tolist()), tuple(lines))


@chart(
    label="Damping ratio over clicks",
    x=Axis("Clicks, as the damper counts", "clicks"),
    y=Axis("Share of critical, low speed", "proportion"),
)
def ratio_over_clicks(sheet: Sheet) -> Drawn:
    """What each click makes of the low-speed damping ratio, left side of each axle; where the clicks
    are set is marked."""
    needed = ("critical_damping", "damper_motion_ratio")
    sheet.worked.require(needed, "The damping ratio over clicks needs")
    rungs: dict[str, dict[int, float]] = {}
    marks = []
    for axle, place in (("front", "LF"), ("rear", "LR")):
        damper = sheet.car.fitted(sheet.setup, "damper", place)
        for face in FACES:
            adjustment = damper.adjustment(face) if isinstance(damper, Damper) else None
            if adjustment is None or not adjustment.curves:
                continue
            words = f"{axle} {face}"
            rungs[words] = _by_click(sheet, place, face)
            now = click_of(sheet.car, sheet.setup, place, face)
            if now is not None:
                marks.append(Mark(words, now))
    if not rungs:
        raise Missing("The damping ratio over clicks needs dyno sheets.", number="damper_curve")
    clicks = sorted({click for row in rungs.values() for click in row})
    lines = [
        Line(words, tuple(row.get(click, np.nan) for click in clicks))
        for words, row in rungs.items()
    ]
    return Drawn(tuple(float(one) for one in clicks), tuple(lines), tuple(marks))


def _by_click(sheet: Sheet, place: str, face: Face) -> dict[int, float]:
    damper = sheet.car.fitted(sheet.setup, "damper", place)
    assert isinstance(damper, Damper)
    at, v = CORNERS.index(place), sheet.worked.values
    adjustment = damper.adjustment(face)
    assert adjustment is not None
    found = ladder(
        adjustment, "low", float(v["damper_motion_ratio"][at]), float(v["critical_damping"][at])
    )
    return {one.click: one.ratio for one in found}
