"""Side view of a live axle, hole search, launch and link preload."""

from __future__ import annotations

from math import hypot
from typing import Any

import numpy as np

from cabrio.core.checks import finite
from cabrio.core.errors import Impossible
from cabrio.core.geometry.plane import Meeting, Parallel, Point
from cabrio.core.graph.evaluate import answer
from cabrio.core.solve import preload
from cabrio.core.solve import side_view as view
from cabrio.core.solve.one_arm import torque_arm

from .shared import four, plain

BOLTS = ("upper_chassis_m", "upper_axle_m", "lower_chassis_m", "lower_axle_m")


def _bolts(given: dict[str, Any]) -> dict[str, Any]:
    points = [given[key] for key in BOLTS]
    return {"bolt_x": [point[0] for point in points], "bolt_z": [point[1] for point in points]}


def _ic(centre: Meeting | None) -> dict[str, Any]:
    if isinstance(centre, Point):
        return {"ic_x_m": centre.x, "ic_z_m": centre.z, "parallel_slope": None}
    slope = centre.slope if isinstance(centre, Parallel) else None
    return {"ic_x_m": None, "ic_z_m": None, "parallel_slope": slope}


def _on_torque_arm(given: dict[str, Any]) -> dict[str, Any]:
    """A torque arm rigid with the housing, in place of the two upper points."""
    chassis, axle = given["lower_chassis_m"], given["lower_axle_m"]
    pivot = tuple(given["torque_arm_front_m"])
    finite(lower_chassis=chassis, lower_axle=axle, torque_arm_front=pivot)
    answers = _ic(torque_arm((tuple(chassis), tuple(axle)), (pivot[0], pivot[1])))
    run, rise = chassis[0] - axle[0], axle[1] - chassis[1]
    if not run:
        raise Impossible("The lower arm stands upright: anti-squat has no value.", number="bolt_x")
    got = answer(
        ["torque_arm_ic_z", "anti_squat"],
        {
            "torque_arm_x": pivot[0],
            # the lower arms' line, told by where it is under the axle
            "lower_bolt_z": axle[1] + axle[0] * rise / run,
            "arm_length": [hypot(run, rise)] * 2,
            "arm_rise": [rise] * 2,
            "cg_height": given["cg_height_m"],
            "wheelbase": given["wheelbase_m"],
            "rear_drive_share": 1.0,
        },
    )
    return answers | {"anti_squat_percent": 100 * float(got["anti_squat"])}


def side_view_links(given: dict[str, Any]) -> dict[str, Any]:
    answers = _on_torque_arm(given) if "torque_arm_front_m" in given else _on_bars(given)
    if (share := given.get("rear_brake_share")) is not None:
        finite(rear_brake_share=share)
        answers["anti_lift_percent"] = answers["anti_squat_percent"] * float(share)
    return answers


def _on_bars(given: dict[str, Any]) -> dict[str, Any]:
    known = _bolts(given) | {
        "wheelbase": given["wheelbase_m"],
        "cg_height": given["cg_height_m"],
        "rear_drive_share": 1.0,
    }
    got = answer(["anti_squat"], known)
    x, z = np.asarray(known["bolt_x"]), np.asarray(known["bolt_z"])
    answers = _ic(view.instant_centre_of(x, z))
    answers["anti_squat_percent"] = 100 * float(got["anti_squat"])
    driveline = None
    if pinion := given.get("pinion"):
        driveline = view.Driveline(
            pinion["pinion_axis_rad"],
            tuple(pinion["pinion_joint_m"]),
            tuple(pinion["gearbox_joint_m"]),
        )
        joints = {
            f"{joint}_joint_{axis}": pinion[f"{joint}_joint_m"][i]
            for joint in ("pinion", "gearbox")
            for i, axis in enumerate("xz")
        }
        shaft = answer(["shaft_slope"], joints)["shaft_slope"]
        answers["pinion_angle_rad"] = pinion["pinion_axis_rad"] - float(shaft)
    if "travels_m" in given:
        views = view.through_travel(
            x,
            z,
            travels=given["travels_m"],
            radius=given["loaded_radius_m"],
            wheelbase=given["wheelbase_m"],
            cg_height=given["cg_height_m"],
            driveline=driveline,
        )
        answers["through_travel"] = [_travelled(one) for one in views]
        answers["pinion_stays_negative"] = view.stays_nose_down(views)
    return answers


def _travelled(one: view.SideView) -> dict[str, Any]:
    squat = None if one.anti_squat is None else 100 * one.anti_squat
    return _ic(one.centre) | {
        "travel_m": one.travel,
        "anti_squat_percent": squat,
        "housing_rotation_rad": one.housing_turn,
        "axle_shift_forward_m": one.axle_shift,
        "pinion_angle_rad": one.pinion_angle,
        "shaft_slope_rad": one.shaft_slope,
    }


def hole_search(given: dict[str, Any]) -> dict[str, Any]:
    def holes(key: str) -> tuple[tuple[float, float], ...]:
        return tuple((hole[0], hole[1]) for hole in given[key])

    sets = view.HoleSets(
        holes("upper_chassis_holes_m"),
        holes("upper_axle_holes_m"),
        holes("lower_chassis_holes_m"),
        holes("lower_axle_holes_m"),
    )
    wanted = view.Wanted(
        given["wanted_anti_squat_percent"] / 100,
        given["wanted_ic_x_m"],
        given.get("anti_squat_scale_percent", 10.0) / 100,
        given.get("ic_scale_m", 0.1),
    )
    count, best = view.search_holes(
        sets,
        tuple(given["holes_now"]),
        wanted,
        wheelbase=given["wheelbase_m"],
        cg_height=given["cg_height_m"],
        show=int(given.get("show", 10)),
    )
    return {
        "combinations": count,
        "best": [
            {
                "holes": list(one.holes),
                "score": one.score,
                "holes_moved": one.holes_moved,
                "ic_x_m": one.ic.x,
                "ic_z_m": one.ic.z,
                "anti_squat_percent": 100 * one.anti_squat,
                "upper_bar_length_m": one.upper_bar,
                "lower_bar_length_m": one.lower_bar,
                "pinion_change_rad_per_m_bump": one.pinion_per_bump,
            }
            for one in best
        ],
    }


def launch(given: dict[str, Any]) -> dict[str, Any]:
    front, rear = given["front_wheel_rate_n_per_m"], given["rear_wheel_rate_n_per_m"]
    known = {
        "total_mass": given["total_mass_kg"],
        "launch_acceleration": given["acceleration_m_per_s2"],
        "cg_height": given["cg_height_m"],
        "wheelbase": given["wheelbase_m"],
        "front_axle_mass": given["front_axle_load_kg"],
        "anti_squat": given["anti_squat_percent"] / 100,
        "rear_drive_share": 1.0,
        "wheel_rate": [front, front, rear, rear],
        "tyre_rate": four(given["rear_tyre_rate_n_per_m"]),
        "front_limiter": given["front_limiter_travel_m"],
        "shaft_showing": [given["rear_shaft_showing_m"]] * 2,
        "damper_motion_ratio": four(given["rear_damper_motion_ratio"]),
        "damper_stroke": [given["rear_damper_stroke_m"]] * 2,
    }
    figures = {
        "load_transfer_n": "launch_transfer",
        "rear_separation_m": "rear_separation",
        "rear_tyre_deflection_m": "rear_tyre_squash",
        "front_rise_m": "front_rise",
        "rear_shaft_showing_after_m": "shaft_in_launch",
    }
    got = answer([*figures.values(), "stroke_left_open", "front_rise_free"], known)
    answers: dict[str, Any] = {key: plain(got[name]) for key, name in figures.items()}
    answers["front_on_limiter"] = bool(got["front_rise_free"] > got["front_rise"])
    within = got["shaft_in_launch"] >= 0 and got["stroke_left_open"] >= 0
    return answers | {"rear_shaft_within_stroke": bool(within)}


def link_preload(given: dict[str, Any]) -> dict[str, Any]:
    preload.refuse_triangulated(given.get("upper_arms_triangulated", False))
    flats = given["flats"]
    known: dict[str, Any] = {
        "link_preload": flats,
        "left_hand_pitch": given["left_hand_pitch_m"],
        "right_hand_pitch": given["right_hand_pitch_m"],
    }
    figures = {"length_change_m": "preload_length_change"}
    if "upper_chassis_m" in given:
        known |= _bolts(given) | {
            "link_spacing": given["bar_pair_spacing_m"],
            "track": [given["track_m"]] * 2,
        }
        figures |= {
            "axle_set_over_at_bars_m": "axle_set_over",
            "axle_roll_bound_rad": "axle_set_over_roll",
            "axle_set_over_at_track_m": "axle_set_over_at_track",
        }
    got = answer(figures.values(), known)
    answers: dict[str, Any] = {key: plain(got[name]) for key, name in figures.items()}
    answers |= {"loads": preload.loads(flats), "beyond_two_flats": preload.beyond_limit(flats)}
    if readings := given.get("readings"):
        bite = preload.bite_per_flat(
            [
                preload.BiteReading(
                    reading["flats"], reading["left_rear_kg"], reading["right_rear_kg"]
                )
                for reading in readings
            ]
        )
        answers |= {"bite_kg_per_flat": bite.per_flat, "bite_at_neutral_kg": bite.at_neutral}
    return answers
