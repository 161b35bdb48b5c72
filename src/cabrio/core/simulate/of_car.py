"""The car on its sheet as the model that moves: its rates, its damper curves at the clicks set, its rubbers."""

from __future__ import annotations

from dataclasses import dataclass
from math import inf

import numpy as np

from ..arrays import Array
from ..car.fitted import click_of
from ..catalog.parts import BumpRubber, Damper, Face
from ..catalog.quantities import AXLE_OF_CORNER, PLACES, Shape
from ..constants import STANDARD_GRAVITY
from ..errors import Missing
from ..graph.registry import Need
from ..sheet.build import Sheet
from ..under_load.of_sheet import anti_in_braking, shaft_of
from .full_car import FullCar, estimated_inertias
from .quarter_car import QuarterCar
from .suspension import Curve, DamperLaw, Suspension

CORNERS, AXLES = PLACES[Shape.CORNER], PLACES[Shape.AXLE]
AT_A_CORNER = (
    "pad_mass",
    "unsprung_mass",
    "sprung_mass",
    "wheel_rate",
    "tyre_rate",
    "droop_travel",
    "damper_motion_ratio",
)
OF_THE_CAR = (
    *AT_A_CORNER,
    "wheelbase",
    "track",
    "cg_height",
    "sprung_cg_height",
    "spring_base",
    "roll_centre_height",
    "unsprung_cg_height",
    "bar_wheel_rate",
    "anti_dive",
)


@dataclass(frozen=True)
class Model:
    """The whole car ready to drive, and what was assumed because nobody gave it."""

    car: FullCar
    assumed: tuple[str, ...]


def full_car(sheet: Sheet) -> Model:
    """The seven-degree-of-freedom model of a car at its setup.

    Raises Missing with every number it lacks. A beam axle's springs stand at their base: what they
    give less in roll than at the track is taken off the bar.
    """
    values = _known(sheet, OF_THE_CAR)
    pads, unsprung, track = values["pad_mass"], values["unsprung_mass"], values["track"]
    wheel_rate = values["wheel_rate"]
    sprung = pads - unsprung
    rear = float(sprung[2:].sum() / sprung.sum())
    base = float(values["wheelbase"])
    pitch, roll = estimated_inertias(
        float(sprung.sum()), rear * base, (1 - rear) * base, float(track.mean())
    )
    assumed = ["Pitch and roll inertia are estimated from the masses' places."]
    squat = sheet.worked.values.get("anti_squat")
    if squat is None:
        assumed.append(
            "Anti-squat is not known and left out: all of the launch goes over the springs."
        )
    at_base = (values["spring_base"] / track) ** 2 - 1
    rates = 0.5 * (wheel_rate[0::2] + wheel_rate[1::2])
    car = FullCar(
        sprung_mass=float(sprung.sum()),
        unsprung=unsprung,
        pads=pads,
        pitch_inertia=pitch,
        roll_inertia=roll,
        wheelbase=base,
        tracks=track,
        cg_height=float(values["cg_height"]),
        sprung_cg_height=float(values["sprung_cg_height"]),
        roll_centres=values["roll_centre_height"],
        unsprung_cg_heights=values["unsprung_cg_height"],
        suspensions=tuple(suspension(sheet, place) for place in CORNERS),
        tyre_rates=values["tyre_rate"],
        bar_rates=values["bar_wheel_rate"] + rates * at_base,
        anti_dive=anti_in_braking(sheet.worked.values),
        anti_squat=0.0 if squat is None else float(squat) * float(values["rear_drive_share"]),
        shaft_arm=_shaft_arm(sheet),
    )
    return Model(car, tuple(assumed))


def _shaft_arm(sheet: Sheet) -> float:
    """Torque of the shaft on the rear axle over the driving force [m]; zero without a live driven one."""
    shaft = shaft_of(sheet.car, sheet.worked)
    if shaft is None:
        return 0.0
    return float(sheet.worked.values["rear_drive_share"]) * shaft.radius / shaft.final_drive


def quarter_car(sheet: Sheet, place: str) -> tuple[QuarterCar, Suspension]:
    """One corner: its masses and rates, and its suspension with rubber, stop and damper curve.

    The plain damping of the quarter car is the curve's chord up to 0.1 m/s at the wheel. Raises
    Missing with every number it lacks.
    """
    values, at = _known(sheet, AT_A_CORNER), CORNERS.index(place)
    leg = suspension(sheet, place)
    chord = 10 * leg.damper.force(0.1), -10 * leg.damper.force(-0.1)
    return QuarterCar(
        float(values["sprung_mass"][at]),
        float(values["unsprung_mass"][at]),
        float(values["wheel_rate"][at]),
        float(values["tyre_rate"][at]),
        *chord,
    ), leg


def suspension(sheet: Sheet, place: str) -> Suspension:
    """The suspension of one corner at the setup. Raises Missing without rates or a dyno sheet."""
    values, at = _known(sheet, AT_A_CORNER), CORNERS.index(place)
    ratio = float(values["damper_motion_ratio"][at])
    damper = DamperLaw(_curve(sheet, place, "compression"), _curve(sheet, place, "rebound"), ratio)
    gap, rubber = _rubber(sheet, AXLE_OF_CORNER[place])
    load = float(values["sprung_mass"][at]) * STANDARD_GRAVITY
    droop = float(values["droop_travel"][at])
    if AXLE_OF_CORNER[place] == "front" and "front_limiter" in sheet.worked.values:
        droop = min(droop, float(sheet.worked.values["front_limiter"]))
    return Suspension(
        float(values["wheel_rate"][at]),
        damper,
        load,
        droop,
        gap,
        rubber,
    )


def _known(sheet: Sheet, names: tuple[str, ...]) -> dict[str, Array]:
    """The values, or Missing with all that lacks, in words."""
    values = sheet.worked.values
    needs: dict[str, Need] = {}
    for name in names:
        if name in values:
            continue
        if name in sheet.worked.refused:
            raise sheet.worked.refused[name]
        lacking = sheet.worked.missing.get(name) or (Need(name, ()),)
        needs |= {need.name: need for need in lacking}
    if needs:
        words = ", ".join(need.sentence for need in needs.values())
        raise Missing(f"To set the car moving it still needs {words}.", number=next(iter(needs)))
    return values


def _curve(sheet: Sheet, place: str, face: Face) -> Curve:
    """Force over shaft speed at the click set, at the speeds the dyno sheet has."""
    damper = sheet.car.fitted(sheet.setup, "damper", place)
    if not isinstance(damper, Damper):
        raise Missing(f"{place}: no damper is on the car.", number="damper", place=place)
    adjustment = damper.adjustment(face)
    click = None if adjustment is None else click_of(sheet.car, sheet.setup, place, face)
    if adjustment is None or not adjustment.curves:
        raise Missing(
            f"{place}: the damper has no dyno sheet in {face}.", number="damper_curve", place=place
        )
    fastest = min(curve.speeds[-1] for curve in adjustment.curves)
    slowest = max(curve.speeds[0] for curve in adjustment.curves)
    measured = sorted({v for curve in adjustment.curves for v in curve.speeds})
    speeds = [v for v in measured if slowest <= v <= fastest]
    if click is None:
        raise Missing(
            f"{place}: nobody has set the {face} clicks.", number=f"{face}_clicks", place=place
        )
    forces = adjustment.force(click, np.array(speeds))
    if speeds[0] > 0:  # below the slowest measured speed the curve runs to nothing
        speeds, forces = [0.0, *speeds], np.concatenate(([0.0], forces))
    return Curve(tuple(speeds), tuple(forces.tolist()))


def _rubber(sheet: Sheet, axle: str) -> tuple[float, Curve | None]:
    """Wheel travel to first touch and the rubber's curve at the wheel; none where none is fitted."""
    rubber = sheet.car.fitted(sheet.setup, "bump_rubber", axle)
    gap, ratio = (sheet.worked.values.get(name) for name in ("rubber_gap", "rubber_motion_ratio"))
    if not isinstance(rubber, BumpRubber) or gap is None or ratio is None:
        return inf, None
    at = AXLES.index(axle)
    by = float(ratio[at])
    curve = Curve(tuple(d / by for d in rubber.deflection), tuple(f * by for f in rubber.force))
    return float(gap[at]) / by, curve
