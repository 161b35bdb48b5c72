"""What the dampers push with at their clicks, and how much of critical that is."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..car.fitted import click_of
from ..catalog.damper import DynoCurve
from ..catalog.parts import FACES, Damper, Face
from ..errors import Missing
from ..sheet.build import Sheet
from ..simulate.of_car import suspension
from ..simulate.suspension import DamperLaw
from ..solve.clicks import ladder
from .chart import CORNERS, Axis, Drawn, Line, Mark, by_corner, chart

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
    return np.array([law.force(sign * float(speed)) for speed in speeds])


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


SHAFT, MEASURED = Axis("Shaft speed", "shaft_speed"), Axis("Force, + compression", "force")


@chart(label="Dyno curves, front", x=SHAFT, y=MEASURED)
def dyno_front(sheet: Sheet) -> Drawn:
    """Every click of the left front damper as the dyno measured it; the clicks that are set over them."""
    return _dyno(sheet, "LF")


@chart(label="Dyno curves, rear", x=SHAFT, y=MEASURED)
def dyno_rear(sheet: Sheet) -> Drawn:
    """Every click of the left rear damper as the dyno measured it; the clicks that are set over them."""
    return _dyno(sheet, "LR")


def _dyno(sheet: Sheet, place: str) -> Drawn:
    damper = sheet.car.fitted(sheet.setup, "damper", place)
    if not isinstance(damper, Damper):
        raise Missing("Dyno curves need a damper that is fitted.", number="damper")
    curves = {
        face: adjustment
        for face in FACES
        if (adjustment := damper.adjustment(face)) is not None and adjustment.curves
    }
    if not curves:
        raise Missing("Dyno curves need the damper's dyno sheet.", number="damper_curve")
    fastest = max(curve.speeds[-1] for one in curves.values() for curve in one.curves)
    speeds = np.linspace(0.0, fastest, POINTS)
    family, at_set, words = [], [], []
    for face, adjustment in curves.items():
        sign = 1.0 if face == "compression" else -1.0

        def line(label: str, curve: DynoCurve, sign: float = sign, *, faint: bool = False) -> Line:
            forces = sign * np.interp(speeds, curve.speeds, curve.forces, np.nan, np.nan)
            return Line(label, tuple(forces.tolist()), faint)

        family += [
            line(f"{face} {curve.click:g}", curve, faint=True) for curve in adjustment.curves
        ]
        now = click_of(sheet.car, sheet.setup, place, face)
        if now is not None:
            least, most = adjustment.measured
            if least <= now <= most:
                near = adjustment.curves[0].speeds
                forces = adjustment.force(now, np.array(near)).tolist()
                at_set.append(line(f"{face}, as set", DynoCurve(now, near, tuple(forces))))
                words.append(f"{face} {now:g}")
    note = f"Set: {' and '.join(words)}." if words else ""
    return Drawn(tuple(speeds.tolist()), (*at_set, *family), note=note)


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
    return Drawn(tuple(float(click) for click in clicks), tuple(lines), tuple(marks))


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
