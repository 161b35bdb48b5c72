"""Suspension from its points: the cases' keys to the core's objects and back."""

from __future__ import annotations

from typing import Any

import numpy as np

from cabrio.core.errors import Missing
from cabrio.core.kinematics import axle_through, live_axle
from cabrio.core.kinematics.axle import Axle, Car, Through, effect, through
from cabrio.core.kinematics.corner import Changed
from cabrio.core.kinematics.layouts import LAYOUTS
from cabrio.core.kinematics.readout import Readout
from cabrio.core.kinematics.side import Acting, BarLink, Rocker, Side, Wheel
from cabrio.core.kinematics.steering import steered

from .shared import plain


def _point(given: dict[str, Any], key: str, mirror: Any) -> Any:
    return np.asarray(given[f"{key}_m"], float) * mirror


def _wheel(given: dict[str, Any], mirror: Any) -> Wheel:
    return Wheel(
        _point(given, "wheel_centre", mirror),
        float(given["camber_rad"]),
        float(given["toe_rad"]),
    )


def _side(kind: str, given: dict[str, Any], *, right: bool) -> Side:
    mirror = np.array([1.0, -1.0 if right else 1.0, 1.0])
    points = {
        name: _point(given, name, mirror) for name in LAYOUTS[kind].points if f"{name}_m" in given
    }
    acting = {}
    for name in ("spring", "damper"):
        if (told := given.get(name)) is None:
            continue
        if told["on"] == "strut" and "moving_m" not in told:
            acting[name] = Acting("strut", points["strut_lower"], points["strut_top"])
        else:
            ends = (_point(told, "moving", mirror), _point(told, "chassis", mirror))
            acting[name] = Acting(told["on"], *ends)
    rocker = bar = None
    if (told := given.get("rocker")) is not None:
        rocker = Rocker(
            _point(told, "pivot", mirror),
            _point(told, "axis", mirror),
            told["rod_on"],
            _point(told, "rod_moving", mirror),
            _point(told, "rod_rocker", mirror),
        )
    if (told := given.get("bar")) is not None:
        first, second = (np.asarray(one, float) * mirror for one in told["axis_m"])
        bar = BarLink(
            told["on"],
            _point(told, "link_moving", mirror),
            _point(told, "link_bar", mirror),
            (first, second),
        )
    return Side(kind, points, _wheel(given, mirror), **acting, rocker=rocker, bar=bar)


def _axle(kind: str, given: dict[str, Any]) -> Axle:
    right = given.get("right")
    return Axle(
        _side(kind, given["left"], right=False),
        None if right is None else _side(kind, right, right=True),
        given.get("axle", "front") == "front",
    )


def _none(value: Any) -> Any:
    """NaN is none, whole points too."""
    if isinstance(value, list):
        found = [_none(one) for one in value]
        return None if None in found else found
    return None if np.isnan(value) else plain(value)


SIDES = {
    "wheel_travel_m": "wheel_travel",
    "camber_rad": "camber",
    "toe_rad": "toe",
    "camber_gain_rad_per_m": "camber_gain",
    "bump_steer_rad_per_m": "bump_steer",
    "wheel_centre_forward_m": "wheel_centre_forward",
    "half_track_change_m": "half_track_change",
}


def _states(given: dict[str, Any]) -> tuple[Any, Any, Any]:
    rows = given["states"]

    def every(key: str) -> Any:
        return np.array([row.get(key, 0.0) for row in rows], float)

    return every("heave_m"), every("roll_rad"), every("rack_travel_m")


def _answers(given: dict[str, Any], axle: Axle, found: Through) -> list[dict[str, Any]]:
    both = found.sides
    share = given.get("left_lateral_share", 0.5)
    columns: dict[str, Any] = {
        key: _pair(*(getattr(side, name) for side in both)) for key, name in SIDES.items()
    }
    columns["front_view_ic_m"] = [
        [
            _none([sign * float(side.front_view_ic[0][i]), float(side.front_view_ic[1][i])])
            for sign, side in zip((1.0, -1.0), both, strict=True)
        ]
        for i in range(len(found.heave))
    ]
    columns["side_view_ic_m"] = [
        [_none([float(part[i]) for part in side.side_view_ic]) for side in both]
        for i in range(len(found.heave))
    ]
    columns |= _kingpins(both)
    columns["roll_centre_height_m"] = found.roll_centre(share)
    columns["jacking_per_side_force"] = found.jacking(share)
    centre = found.kinematic_centre()
    columns["kinematic_roll_centre_m"] = [
        _none([float(part[i]) for part in centre]) for i in range(len(found.heave))
    ]
    columns |= _antis(given, axle, found)
    if (rim := given.get("rim_diameter_m")) is not None:
        columns["bump_steer_m_per_m"] = _pair(*(side.bump_steer_across(rim) for side in both))
    columns |= _moved(both)
    return [
        {key: plain(value[i]) for key, value in columns.items()} for i in range(len(found.heave))
    ]


def _pair(left: Any, right: Any) -> list[list[float]]:
    return [[float(one), float(other)] for one, other in zip(left, right, strict=True)]


def _kingpins(both: tuple[Readout, Readout]) -> dict[str, Any]:
    if both[0].kingpin is None:
        return {}
    angles = [side.kingpin_angles for side in both]
    feet = [side.trail_and_scrub for side in both]
    return {
        "caster_rad": _pair(*(angle[0] for angle in angles)),
        "kingpin_inclination_rad": _pair(*(angle[1] for angle in angles)),
        "scrub_radius_m": _pair(*(one[1] for one in feet)),
        "mechanical_trail_m": _pair(*(one[0] for one in feet)),
    }


def _antis(given: dict[str, Any], axle: Axle, found: Through) -> dict[str, Any]:
    if given.get("cg_height_m") is None or given.get("wheelbase_m") is None:
        return {}
    car = Car(
        given["wheelbase_m"],
        given["cg_height_m"],
        given.get("brakes", "outboard") == "inboard",
        given.get("drive", "inboard") == "outboard",
    )
    names = (
        ("anti_dive_percent", "anti_lift_drive_percent")
        if axle.front
        else ("anti_lift_percent", "anti_squat_percent")
    )
    columns = {}
    for name, key, braking in zip(
        names, ("brake_share", "drive_share"), (True, False), strict=True
    ):
        if (part := given.get(key)) is not None:
            columns[name] = _pair(*found.anti(car, part, braking=braking))
    return columns


def _moved(both: tuple[Readout, Readout]) -> dict[str, Any]:
    columns: dict[str, Any] = {}
    left, right = both
    for name in left.acting.keys() & right.acting.keys():
        pair = (left.acting[name], right.acting[name])
        columns |= {
            f"{name}_travel_m": _pair(*(one.travel for one in pair)),
            f"{name}_motion_ratio": _pair(*(one.ratio for one in pair)),
            f"wheel_per_{name}": _pair(*(1 / one.ratio for one in pair)),
            f"{name}_motion_ratio_slope_per_m": _pair(*(one.slope for one in pair)),
        }
    if left.bar is not None and right.bar is not None:
        bars = (left.bar, right.bar)
        columns |= {
            "bar_turn_rad": _pair(*(bar.turn for bar in bars)),
            "bar_motion_ratio": _pair(*(bar.ratio for bar in bars)),
            "bar_motion_ratio_slope_per_m": _pair(*(bar.slope for bar in bars)),
            "bar_arm_length_m": [[bar.arm for bar in bars]] * len(left.camber),
        }
    return columns


def _changes(given: dict[str, Any], side: Side) -> dict[str, Any]:
    rows = []
    for told in given.get("changes", ()):
        longer, moved = {}, {}
        if (link := told.get("link")) is not None:
            by = told.get("longer_m")
            longer[link] = told["turns"] * told["pitch_m"] if by is None else by
        else:
            moved = {name: np.asarray(told["by_m"], float) for name in told["points"]}
        found = effect(side, Changed(moved, longer))
        row = {
            "name": told["name"],
            "camber_change_rad": found.camber,
            "toe_change_rad": found.toe,
            "bump_steer_change_rad_per_m": found.bump_steer,
            "roll_centre_height_change_m": found.roll_centre_height,
            "half_track_change_m": found.half_track,
            "caster_change_rad": found.caster,
            "kingpin_inclination_change_rad": found.kingpin_inclination,
        }
        rows.append({key: value for key, value in row.items() if value is not None})
    return {"changes": rows} if rows else {}


def _independent(kind: str) -> Any:
    def ask(given: dict[str, Any]) -> dict[str, Any]:
        axle = _axle(kind, given)
        found = through(axle, *_states(given))
        return {"states": _answers(given, axle, found)} | _changes(given, axle.left)

    return ask


double_wishbone, strut, trailing_arm = map(
    _independent, ("double_wishbone", "strut", "trailing_arm")
)


def steering(given: dict[str, Any]) -> dict[str, Any]:
    axle = _axle(given["kind"], given)
    racks = np.asarray(given["rack_travels_m"], float)
    found = steered(
        axle,
        given["wheelbase_m"],
        racks,
        float(given.get("heave_m", 0.0)),
        given.get("rack_per_turn_m"),
    )
    both = found.through.sides
    count = len(racks)
    columns: dict[str, Any] = {
        "steer_rad": _pair(*found.steer),
        "camber_rad": _pair(*(side.camber for side in both)),
        **_kingpins(both),
        "bump_steer_rad_per_m": _pair(*(side.bump_steer for side in both)),
        "steer_per_rack_rad_per_m": _pair(*found.per_rack),
        "over_centre_margin_rad": _pair(*(side.over_centre_margin for side in both)),
        "ackermann_percent": found.ackermann,
        "turn_radius_m": found.turn_radius,
        "turning_circle_m": found.turning_circle,
    }
    if found.ratio is not None:
        columns["steering_ratio"] = found.ratio
    states = [
        {
            key: value[i] if isinstance(value[i], list) else _none(float(value[i]))
            for key, value in columns.items()
        }
        for i in range(count)
    ]
    return {"states": states} | _changes(given, axle.left)


def _link(name: str, link: dict[str, Any]) -> live_axle.Link:
    return live_axle.Link(
        name,
        _point(link, "chassis", 1.0),
        _point(link, "axle", 1.0),
        bool(link.get("mirror", False)),
    )


def axle_in_space(given: dict[str, Any]) -> dict[str, Any]:
    right, bar, watt, spring = (given.get(k) for k in ("right", "track_bar", "watt", "spring"))
    if not given.get("links"):
        raise Missing("The case does not give links.", number="links")
    axle = live_axle.LiveAxle(
        _wheel(given["left"], 1.0),
        [_link(one.get("name", "link"), one) for one in given["links"]],
        None if right is None else _wheel(right, live_axle.MIRROR),
        None if bar is None else _link("track bar", bar),
        None
        if watt is None
        else live_axle.Watt(
            _point(watt, "pivot", 1.0),
            (_point(watt, "crank_upper", 1.0), _point(watt, "crank_lower", 1.0)),
            (_point(watt, "end_upper", 1.0), _point(watt, "end_lower", 1.0)),
            watt.get("pivot_on", "axle") == "axle",
        ),
        None if spring is None else (_point(spring, "chassis", 1.0), _point(spring, "axle", 1.0)),
    )
    heave, roll, _ = _states(given)
    found = axle_through.through(axle, heave, roll)
    share = given.get("left_lateral_share", 0.5)
    ic = found.side_view_ic()
    columns: dict[str, Any] = {
        "axle_forward_m": found.forward,
        "axle_left_m": found.left,
        "axle_steer_rad": found.steer,
        "housing_rotation_rad": found.housing,
        "wheel_travel_m": _pair(*found.wheel_travel),
        "camber_rad": _pair(*found.camber),
        "toe_rad": _pair(*found.toe),
        "roll_centre_height_m": found.roll_centre(share),
        "jacking_per_side_force": found.jacking(share),
        "roll_steer_rad_per_rad": found.roll_steer,
        "side_view_ic_m": [_none([float(part[i]) for part in ic]) for i in range(len(heave))],
        "link_misfit_m": [row.tolist() for row in found.misfit],
    }
    if given.get("cg_height_m") is not None and given.get("wheelbase_m") is not None:
        for name, key in (
            ("anti_lift_percent", "brake_share"),
            ("anti_squat_percent", "drive_share"),
        ):
            if (part := given.get(key)) is not None:
                columns[name] = found.anti(given["wheelbase_m"], given["cg_height_m"], part)
    if spring is not None:
        left, other = found.acting("spring")
        for at, name in enumerate(
            ("spring_travel_m", "spring_motion_ratio_heave", "spring_motion_ratio_roll")
        ):
            columns[name] = _pair(left[at], other[at])
    return {
        "states": [
            {key: plain(value[i]) for key, value in columns.items()} for i in range(len(heave))
        ]
    }
