"""What locates, steers and squares an axle; alignment; arm stops."""

from __future__ import annotations

from typing import Any

import numpy as np

from cabrio.core.checks import finite
from cabrio.core.constants import LEAF_ARM
from cabrio.core.errors import OutOfRange
from cabrio.core.figures.alignment import toe_from_distance
from cabrio.core.figures.live_axle import convergence
from cabrio.core.graph.evaluate import answer
from cabrio.core.solve import square, stops

from .shared import plain

BOLTS = ("upper_chassis_m", "upper_axle_m", "lower_chassis_m", "lower_axle_m")


def roll_centre_live_axle(given: dict[str, Any]) -> dict[str, Any]:
    kind = given["kind"]
    if kind == "watts_link" or kind == "watts":
        return {"roll_centre_height_m": given.get("pivot_height_m", given.get("pivot_m"))}
    if kind == "track_bar":
        ends = given["chassis_end_m"], given["axle_end_m"]
        known = {"track_bar_y": [end[0] for end in ends], "track_bar_z": [end[1] for end in ends]}
        got = answer(["track_bar_roll_centre"], known)
        return {"roll_centre_height_m": plain(got["track_bar_roll_centre"])}
    points = np.asarray([given[key] for key in BOLTS], dtype=np.float64)
    x, y, z = points.T
    got = answer(
        ["arms_roll_centre", "arms_roll_axis_slope"], {"bolt_x": x, "bolt_y": y, "bolt_z": z}
    )
    answers: dict[str, Any] = {
        "roll_centre_height_m": plain(got["arms_roll_centre"]),
        "roll_axis_slope": plain(got["arms_roll_axis_slope"]),
    }
    for name, chassis in (("upper", 0), ("lower", 2)):
        far, high, w = (float(part) for part in convergence(x, y, z, chassis))
        answers[f"{name}_convergence_m"] = [far / w, high / w] if w else None
    return answers


def axle_arc_and_rear_steer(given: dict[str, Any]) -> dict[str, Any]:
    lengths, rises = zip(*(_arm(given[side]) for side in ("left", "right")), strict=True)
    known = {
        "arm_length": lengths,
        "arm_rise": rises,
        "link_spacing": given["arm_spacing_m"],
        "asked_travel": [given["wheel_travel_left_m"], given["wheel_travel_right_m"]],
        "track": [given["track_m"]] * 2,
    }
    got = answer(["arm_travel", "arm_shift", "rear_steer", "left_lead_change"], known)
    sides = ("left", "right")
    return {
        **{f"arm_travel_{side}_m": float(got["arm_travel"][i]) for i, side in enumerate(sides)},
        **{
            f"axle_shift_forward_{side}_m": float(got["arm_shift"][i])
            for i, side in enumerate(sides)
        },
        "rear_steer_rad": plain(got["rear_steer"]),
        "left_lead_change_m": plain(got["left_lead_change"]),
    }


def _arm(arm: dict[str, Any]) -> tuple[float, float]:
    """Length and rise of an arm, however the case gives them."""
    length = arm.get("arm_length_m")
    if length is None:
        length = arm["leaf_front_length_m"] * arm.get("leaf_arm_factor", LEAF_ARM)
    if "angle_rad" in arm:
        finite(angle=arm["angle_rad"])
        return length, length * float(np.sin(arm["angle_rad"]))
    return length, arm.get("axle_above_eye_m", arm.get("axle_above_pivot_m", 0.0))


def squareness(given: dict[str, Any]) -> dict[str, Any]:
    answers: dict[str, Any] = {}
    if "left_diagonal_m" in given:
        answers |= _square(given)
    if readings := given.get("housing_readings_m"):
        around = [readings[place] for place in ("front", "top", "rear", "bottom")]
        rotor = given.get("rotor_diameter_m", given.get("measuring_diameter_m"))
        known = {
            "housing_reading": around,
            "rotor_diameter": rotor,
            "bend_diameter": given.get("measuring_diameter_m", rotor),
        }
        got = answer(["housing_bend", "housing_spread", "housing_limit"], known)
        bend, limit = float(got["housing_bend"]), float(got["housing_limit"])
        answers |= {
            "spread_m": float(got["housing_spread"]),
            "bend_m": bend,
            "limit_m": limit,
            "straight_enough": square.straight_enough(bend, limit),
        }
    return answers


def _square(given: dict[str, Any]) -> dict[str, Any]:
    known = {
        "diagonal": [given["left_diagonal_m"], given["right_diagonal_m"]],
        "plumb_distance": given["fore_aft_m"],
        "axle_offset": given.get("axle_left_of_centre_m"),
        "axle_points": given["point_spacing_m"],
        "link_spacing": given.get("bar_spacing_m"),
        "left_hand_pitch": given.get("left_hand_pitch_m"),
        "right_hand_pitch": given.get("right_hand_pitch_m"),
    }
    got = answer(["axle_skew", "left_end_behind", "simple_square_move"], known)
    answers: dict[str, Any] = {
        "simple_move_m": abs(float(got["simple_square_move"])),
        "skew_rad": float(got["axle_skew"]),
        "left_end_behind_m": float(got["left_end_behind"]),
        "trailing_side": square.trailing_side(float(got["axle_skew"])),
    }
    if given.get("bar_spacing_m") is not None:
        move = square.correction(float(answer(["square_bar_move"], known)["square_bar_move"]))
        answers |= {
            "bar_shortening_trailing_side_m": move.one_side,
            "bar_shortening_if_shared_m": move.each_side,
        }
        if given.get("left_hand_pitch_m") is not None:
            flats = square.correction(float(answer(["square_flats"], known)["square_flats"]))
            answers |= {
                "flats_trailing_side": flats.one_side,
                "flats_each_side_if_shared": flats.each_side,
            }
    return answers


def alignment(given: dict[str, Any]) -> dict[str, Any]:
    answers: dict[str, Any] = {}
    if "toe_m" in given:
        diameter = given["rim_diameter_m"]
        if not diameter > 0:
            raise OutOfRange(
                "Toe is taken across a diameter above zero.",
                number="rim_diameter",
                value=diameter,
                allowed="above 0",
            )
        toe = toe_from_distance(np.asarray(given["toe_m"], dtype=np.float64), np.asarray(diameter))
        known = {"toe": [*toe, *toe], "rim_diameter": diameter}
        got = answer(["total_toe", "total_toe_distance", "thrust_angle"], known)
        answers |= {
            "toe_rad": plain(toe),
            "total_toe_rad": float(got["total_toe"][0]),
            "total_toe_m": float(got["total_toe_distance"][0]),
            "thrust_angle_rad": float(got["thrust_angle"]),
        }
    if sweep := given.get("caster_sweep"):
        casters = [
            float(
                answer(
                    ["swept_caster"],
                    {
                        "camber_out": [one["camber_turned_out_rad"]] * 2,
                        "camber_in": [one["camber_turned_in_rad"]] * 2,
                        "sweep_angle": one["steer_angle_rad"],
                    },
                )["swept_caster"][0]
            )
            for one in sweep
        ]
        answers["caster_rad"] = casters
        if len(casters) == 2:
            split = answer(["caster_split"], {"swept_caster": casters})["caster_split"]
            answers["caster_split_rad"] = float(split)
    if "camber_rad" in given:
        camber = [*given["camber_rad"]] * 2
        answers["cross_camber_rad"] = float(
            answer(["cross_camber"], {"camber": camber[:4]})["cross_camber"][0]
        )
    return answers


def droop_and_inserts(given: dict[str, Any]) -> dict[str, Any]:
    answers: dict[str, Any] = {}
    if "height_at_full_extension_m" in given:
        answers["droop_m"] = stops.droop_travel(
            given["ride_height_m"], given["height_at_full_extension_m"]
        )
    if "lifted_height_m" in given and "ride_height_m" in given:
        answers["pod_droop_m"] = stops.droop_travel(
            given["ride_height_m"], given["lifted_height_m"]
        )
    if "arm_stop_m" in given:
        answers["arm_stop_m"] = stops.arm_stop_keeping_droop(
            given["arm_stop_m"],
            given.get("ride_height_change_m", 0.0),
            given.get("axle_height_in_upright_change_m", 0.0),
        )
    if "tyre_diameter_m" in given:
        found = stops.insert_for(
            given["wanted_ride_height_m"],
            given["base_ride_height_m"],
            given["tyre_diameter_m"],
            given["reference_diameter_m"],
        )
        answers |= {
            "insert_offset_m": found.offset,
            "ride_height_m": found.ride_height,
            "remainder_m": found.remainder,
        }
    return answers
