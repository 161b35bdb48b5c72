"""The topics a case file may have, each a function from its given keys to the answers' keys."""

from collections.abc import Callable
from typing import Any

from . import air_and_tyres, axle, corners, links, motion, points, roll, under_load, weights

Ask = Callable[[dict[str, Any]], dict[str, Any]]

TOPICS: dict[str, Ask] = {
    "corner_weights": weights.corner_weights,
    "cg_height": weights.cg_height,
    "statics_after_change": weights.statics_after_change,
    "turns_for_cross": weights.turns_for_cross,
    "springs_from_frequency": corners.springs_from_frequency,
    "spring_fit": corners.spring_fit,
    "dual_rate": corners.dual_rate,
    "damper_ratio": corners.damper_ratio,
    "anti_roll_bar": roll.anti_roll_bar,
    "roll_and_lltd": roll.roll_and_lltd,
    "side_view_links": links.side_view_links,
    "hole_search": links.hole_search,
    "launch": links.launch,
    "link_preload": links.link_preload,
    "roll_centre_live_axle": axle.roll_centre_live_axle,
    "axle_arc_and_rear_steer": axle.axle_arc_and_rear_steer,
    "squareness": axle.squareness,
    "alignment": axle.alignment,
    "droop_and_inserts": axle.droop_and_inserts,
    "aero_ride_height": air_and_tyres.aero_ride_height,
    "air_density": air_and_tyres.air_density,
    "tyre_pressure": air_and_tyres.tyre_pressure,
    "quarter_car": motion.quarter_car,
    "car_under_load": under_load.car_under_load,
    "drive_torque": under_load.car_under_load,
    "grip_balance": under_load.grip_balance,
    "double_wishbone": points.double_wishbone,
    "strut": points.strut,
    "trailing_arm": points.trailing_arm,
    "axle_in_space": points.axle_in_space,
    "steering": points.steering,
}
