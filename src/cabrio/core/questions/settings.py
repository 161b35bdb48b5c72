"""Questions of settings and parts: which hole, which click, which pressure, which spring."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..car.lines import Line, value_now
from ..car.settings import way_of
from ..catalog.places import PAIRS
from ..catalog.units import show
from ..errors import CoreError, Impossible, Missing
from ..graph.registry import number_named
from ..sheet.build import Sheet
from ..sheet.what_if import refused_newly, try_lines
from ..solve.preload import flats_text
from .question import Proposal, Shown, as_proposal, lines_text, nearest, proposal, question


@question(label="Bar holes for a front share")
def holes_for_share(sheet: Sheet, lltd: float) -> list[Proposal]:
    """Bar holes of both axles that come nearest to a front share of load transfer."""
    return nearest(sheet, "lltd", lltd, ("bar_hole",), ("lltd", "roll_gradient"))


@question(label="Flats for a pinion angle")
def flats_for_pinion(sheet: Sheet, pinion_angle: float) -> list[Proposal]:
    """Flats on the upper bars that bring the pinion from the angle read to a wanted one."""
    v = sheet.worked.values
    if "pinion_angle" not in v or "pinion_per_flat" not in v:
        raise Missing(
            "Flats for a pinion angle need the pinion read, the bolts, and the threads of the bars.",
            number="pinion_angle",
        )
    per_flat = float(v["pinion_per_flat"])
    flats = round((pinion_angle - float(v["pinion_angle"])) / per_flat / 0.5) * 0.5
    after = float(v["pinion_angle"]) + flats * per_flat
    profile = sheet.car.profile
    turned = f"{flats_text(abs(flats))} {'longer' if flats > 0 else 'shorter'}"
    single = sheet.car.rear_layout == "three_link"
    bars = "The upper bar" if single else "Both upper bars alike"
    return [
        replace(
            as_proposal(try_lines(sheet, ()), turned if flats else "As it is", ()),
            shows=(Shown("pinion_angle", "car", float(v["pinion_angle"]), after),),
            notes=(
                f"{bars}: {show(per_flat, 'fine_angle', profile)} per flat, longer turns the nose up.",
                "Read the pinion, the square and the preload again after. Write it down as a bar's "
                "length changed.",
            ),
        )
    ]


@question(label="Clicks for a rebound ratio")
def clicks_for_rebound(sheet: Sheet, rebound_ratio_low: float) -> list[Proposal]:
    """Rebound clicks, left as right, that come nearest to a low-speed damping ratio at each axle."""
    return _clicks(sheet, "rebound", rebound_ratio_low)


@question(label="Clicks for a compression ratio")
def clicks_for_compression(sheet: Sheet, compression_ratio_low: float) -> list[Proposal]:
    """Compression clicks, left as right, that come nearest to a low-speed damping ratio at each axle."""
    return _clicks(sheet, "compression", compression_ratio_low)


def _clicks(sheet: Sheet, face: str, target: float) -> list[Proposal]:
    figure = f"{face}_ratio_low"
    offered = []
    for axle, places in PAIRS.items():
        best = nearest(sheet, figure, target, (f"{face}_clicks",), (figure,), together=places)
        offered += [replace(one, label=f"{axle.capitalize()}: {one.label}") for one in best[:2]]
    return offered


@question(label="Cold pressures for the hot targets")
def cold_pressures(sheet: Sheet) -> list[Proposal]:
    """Cold pressures that reach the hot targets of the car data at the temperatures given there."""
    cold, number = sheet.worked.values.get("cold_pressure"), number_named("tyre_pressure")
    if cold is None:
        raise Missing(
            "Cold pressures need the hot targets and the temperatures in the car data.",
            number="hot_target",
        )
    step = number.step or 1e3
    lines = []
    for i, place in enumerate(number.shape.places):
        new = way_of(number).check(
            sheet.car, number, place, round(round(float(cold[i // 2]) / step) * step, 6)
        )
        old = value_now(sheet.car, sheet.setup, number.name, place)
        if old != new:
            lines.append(Line(number.name, place, old, new))
    return [proposal(sheet, "To the nearest step", lines, ("tyre_rate",))]


@question(label="Softest springs that clear")
def softest_springs(sheet: Sheet) -> list[Proposal]:
    """The softest pair of springs for each axle that keeps it over its least height at speed, the
    standing heights brought back by the perches."""
    offered = []
    for at, (axle, places) in enumerate(PAIRS.items()):
        least = sheet.worked.values.get("least_wheel_rate")
        if least is None:
            refusal = sheet.worked.refused.get("least_wheel_rate")
            raise refusal or Missing(
                "The softest spring needs heights, downforce and the least height.",
                number="least_height",
            )
        for spring in sheet.car.stock("spring", places[0]):
            lines = [
                Line(
                    "spring", place, value_now(sheet.car, sheet.setup, "spring", place), spring.code
                )
                for place in places
            ]
            try:
                tried = try_lines(sheet, lines)
            except CoreError:
                continue
            rate = tried.value("wheel_rate")
            if rate is None or refused_newly(sheet, tried):
                continue
            if float(np.min(rate[2 * at : 2 * at + 2])) >= float(least[at]):
                shows = ("wheel_rate", "axle_frequency")
                label = f"{axle.capitalize()}: {lines_text(sheet, lines)}"
                try:
                    offered.append(as_proposal(tried, label, shows))
                except Impossible:
                    continue  # it binds, or comes loose
                break
        else:
            raise Impossible(
                f"No spring of the inventory keeps the {axle} over its least height: raise it, or "
                "add a stiffer spring.",
                number="spring",
            )
    return offered
