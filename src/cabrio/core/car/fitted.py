"""What the parts in use bring with them: numbers by place, from the setup and the hardware."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import numpy as np

from ..catalog.hardware import NO_RUBBER, Bar, BumpRubber, Face
from ..catalog.quantities import PLACES, Shape
from ..constants import HIGH_SPEED, LOW_SPEED
from ..errors import CoreError
from ..figures.live_axle import arms_roll_centre, track_bar_roll_centre
from .model import Car, Setup

CORNERS, AXLES, BOLTS = PLACES[Shape.CORNER], PLACES[Shape.AXLE], PLACES[Shape.BOLT]
HOLE_SETTING = {"upper chassis": "upper_link_hole", "lower chassis": "lower_link_hole"}
Rows = dict[str, list[Any]]


def fitted(car: Car, setup: Setup) -> Rows:
    """Every number that comes with a part: springs, bars, dampers, rubbers, bolts, spring base."""
    bolts = _bolts(car, setup)
    return {
        **_springs(car, setup), **_bars(car, setup), **_dampers(car, setup), **_rubbers(car, setup),
        **bolts, **_spring_base(car), **_roll_centres(car, bolts),
    }  # fmt: skip


def _springs(car: Car, setup: Setup) -> Rows:
    springs = [car.spring(code) for code in setup.get("spring", [])]
    if len(springs) != len(CORNERS):
        return {}
    return {
        "spring_rate": [spring.rate if spring else None for spring in springs],
        "spring_free_length": [spring.free_length if spring else None for spring in springs],
        "spring_solid_length": [spring.solid_length if spring else None for spring in springs],
    }


def _bars(car: Car, setup: Setup) -> Rows:
    if not car.bars:
        return {}
    bars = [car.bars.get(axle) for axle in AXLES]
    holes = setup.get("bar_hole") or [1.0, 1.0]

    def of(pick: Any) -> list[Any]:
        return [None if bar is None else pick(bar) for bar in bars]

    def blade(name: str) -> list[Any]:
        return of(lambda bar: float(getattr(bar.blade, name)) if bar.blade else 0.0)

    return {
        "bar_outer": of(lambda bar: bar.outer), "bar_inner": of(lambda bar: bar.inner),
        "bar_length": of(lambda bar: bar.length),
        "bar_arm": [_arm(bar, hole) for bar, hole in zip(bars, holes, strict=True)],
        "bar_motion_ratio": of(lambda bar: bar.motion_ratio),
        "bar_shear_modulus": of(lambda bar: bar.shear_modulus),
        "blade_width": blade("width"), "blade_thickness": blade("thickness"),
        "blade_length": blade("length"), "blade_angle": blade("angle"),
        "blade_guided": blade("guided"),
    }  # fmt: skip


def _arm(bar: Bar | None, hole: float | None) -> float | None:
    """The arm at a hole; none where the bar has no such hole: the figures then say what they lack."""
    if bar is None or hole is None or not 1 <= hole <= len(bar.arms):
        return bar.arms[0] if bar is not None and len(bar.arms) == 1 else None
    return bar.arm(round(hole))


def _dampers(car: Car, setup: Setup) -> Rows:
    if not car.dampers:
        return {}
    rows: Rows = {}
    faces: tuple[Face, ...] = ("compression", "rebound")
    for face in faces:
        for speed, band in (("low", LOW_SPEED), ("high", HIGH_SPEED)):
            rows[f"{face}_{speed}"] = [chord_at(car, setup, place, face, band) for place in CORNERS]
    return rows


def chord_at(
    car: Car, setup: Setup, place: str, face: Face, band: tuple[float, float]
) -> float | None:
    """Chord of a fitted damper at the clicks set [N·s/m]; None where it is not known."""
    damper = car.dampers.get(place)
    adjustment = damper.adjustment(face) if damper else None
    if adjustment is None or not adjustment.curves:
        return None
    try:
        return adjustment.chord(click_of(car, setup, place, face), band)
    except CoreError:
        return None


def click_of(car: Car, setup: Setup, place: str, face: Face) -> float:
    """The click set at a place, in the damper's own counting."""
    damper = car.dampers[place]
    adjustment = damper.adjustment(face)
    assert adjustment is not None
    if adjustment.dead_at is not None:
        return adjustment.dead_at
    set_to = setup.get(f"{face}_clicks")
    if adjustment.clicks == 0 or set_to is None:
        return 0.0
    click = float(set_to[CORNERS.index(place)])
    counted = car.adjusters[f"{face}_clicks"].counted or adjustment.counted
    return click if counted == adjustment.counted else adjustment.clicks - click


def _rubbers(car: Car, setup: Setup) -> Rows:
    """Both curves padded to one length, so that they stand side by side in one array."""
    rubbers: list[BumpRubber] = [car.rubbers.get(axle, NO_RUBBER) for axle in AXLES]
    points = max(len(rubber.deflection) for rubber in rubbers)
    rows: Rows = {"rubber_curve": [rubber.table(points).tolist() for rubber in rubbers]}
    if not car.rubbers and "rubber_gap" not in setup:
        rows["rubber_gap"] = [0.0, 0.0]
    return rows


def _bolts(car: Car, setup: Setup) -> Rows:
    """Bolts in the holes in use, over the ones given."""
    if not car.link_holes:
        return {}
    rows: Rows = {}
    for axis, name in enumerate(("bolt_x", "bolt_z")):
        given = car.given.get(name)
        row: list[float | None] = list(given.values) if given else [None] * len(BOLTS)
        for i, place in enumerate(BOLTS):
            holes = car.link_holes.get(place, ())
            setting = setup.get(HOLE_SETTING.get(place, ""), [1.0])[0]
            if holes and setting is not None and 1 <= setting <= len(holes):
                row[i] = holes[round(setting) - 1][axis]
        rows[name] = row
    return rows


def _spring_base(car: Car) -> Rows:
    """An independent axle's springs act at its track; a beam axle's base has to be given."""
    track = car.given.get("track")
    base = car.given.get("spring_base")
    row: list[float | None] = []
    for i, layout in enumerate((car.front_layout, car.rear_layout)):
        here = track if layout == "independent" else base
        row.append(here.values[i] if here else None)
    return {"spring_base": row}


def _roll_centres(car: Car, bolts: Rows) -> Rows:
    """The rear roll centre worked from the arms or the track bar, where nobody gave it."""
    given = car.given.get("roll_centre_height")
    row: list[float | None] = list(given.values) if given else [None, None]
    if row[1] is not None or car.rear_layout == "independent":
        return {}
    names: tuple[str, ...]
    work: Callable[..., Any]
    if car.rear_layout == "triangulated_four_link":
        names, work = ("bolt_x", "bolt_y", "bolt_z"), arms_roll_centre
    else:
        names, work = ("track_bar_y", "track_bar_z"), track_bar_roll_centre
    rows = [
        bolts.get(name) or (car.given[name].values if name in car.given else ()) for name in names
    ]
    if any(not one or None in one for one in rows):
        return {}
    try:
        row[1] = float(work(*(np.asarray(one, dtype=np.float64) for one in rows)))
    except CoreError:
        return {}
    return {"roll_centre_height": row}
