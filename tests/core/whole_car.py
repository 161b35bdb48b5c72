"""A made-up live-axle car of which everything is known, as numbers and as a car with hardware."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from math import pi
from typing import Any

from cabrio.core.car import Adjuster, Car, Given, Spring
from cabrio.core.catalog.inventory import Inventory
from cabrio.core.catalog.part import Part
from cabrio.core.catalog.part_kinds import part_kind
from cabrio.core.catalog.parts import Adjustment, Bar, Blade, Bracket, Damper, DynoCurve, rubber
from cabrio.core.graph.registry import as_array, number_named
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet, build

DEGREE = pi / 180
Values = dict[str, Any]
RUBBER = rubber((0.0, 0.005, 0.01), (0.0, 300.0, 1200.0))

KNOWN: Values = {
    "jacking_share": [1.0, 1.0],
    "wheelbase": [2.5],
    "track": [1.5, 1.6],
    "pad_mass": [300.0, 250.0, 200.0, 250.0],
    "unsprung_mass": [30.0, 30.0, 40.0, 40.0],
    "unsprung_cg_height": [0.3, 0.32],
    "cg_height": [0.5],
    "loaded_radius": [0.3, 0.32],
    "roll_centre_height": [0.05, 0.25],
    "rear_brake_share": [0.4],
    "rear_drive_share": [1.0],
    "anti_dive": [0.2, 0.3],
    "motion_ratio": [0.8, 0.8, 0.9, 0.9],
    "motion_ratio_slope": [0.5] * 4,
    "spring_angle": [0.2] * 4,
    "spring_base": [1.5, 1.1],
    "perch_pitch": [0.002, 0.002],
    "tyre_rate": [200e3, 200e3, 220e3, 220e3],
    "droop_travel": [0.05] * 4,
    "bump_travel": [0.06] * 4,
    "damper_motion_ratio": [0.85] * 4,
    "damper_stroke": [0.15, 0.16],
    "tender_rate": [20e3] * 4,
    "tender_gap": [0.02] * 4,
    "rubber_motion_ratio": [0.7, 0.8],
    "lift_area": [0.6, 0.9],
    "least_height": [0.03, 0.03],
    "bolt_x": [0.45, 0.04, 0.6, 0.03],
    "bolt_y": [0.40, 0.15, 0.42, 0.44],
    "bolt_z": [0.34, 0.44, 0.2, 0.17],
    "link_spacing": [0.9],
    "left_hand_pitch": [0.0016],
    "right_hand_pitch": [0.0016],
    "pinion_joint_x": [0.3],
    "pinion_joint_z": [0.32],
    "gearbox_joint_x": [1.4],
    "gearbox_joint_z": [0.36],
    "gearbox_slope": [0.03],
    "track_bar_y": [0.5, -0.45],
    "track_bar_z": [0.26, 0.22],
    "arm_length": [0.6, 0.5],
    "arm_rise": [0.02, -0.01],
    "torque_arm_x": [1.1],
    "wheelie_bar_reach": [1.5],
    "wheelie_bar_gap": [0.06],
    "ladder_pivot_x": [0.8],
    "ladder_pivot_z": [0.28],
    "lower_bolt_z": [0.2],
    "lateral_acceleration": [9.0],
    "launch_acceleration": [12.0],
    "braking": [8.0],
    "speed": [55.0],
    "lltd_above_weight": [-0.08],
    "final_drive": [4.0],
    "asked_travel": [-0.04, 0.03],
    "tyre_grip": [1.4, 1.5],
    "tyre_grip_loss": [0.12, 0.15],
    "tyre_grip_load": [3000.0, 3500.0],
    "rim_diameter": [0.45],
    "bend_diameter": [0.3],
    "rotor_diameter": [0.28],
    "target_frequency": [1.9, 2.0],
    "tyre_in_series": [0.0],
    "hot_target": [1.9e5, 1.8e5],
    "perch_turns": [1.0, 0.0, -2.0, 0.5],
    "rubber_gap": [0.015, 0.02],
    "bar_hole": [1.0, 1.0],
    "blade_position": [1.0, 2.0],
    "compression_clicks": [5.0] * 4,
    "rebound_clicks": [5.0] * 4,
    "tyre_pressure": [1.6e5] * 4,
    "camber": [-0.05, -0.04, -0.02, -0.01],
    "caster": [0.1, 0.0],
    "toe": [-0.001, -0.002, 0.003, 0.001],
    "link_preload": [-1.0],
    "upper_link_hole": [1.0],
    "lower_link_hole": [1.0],
    "front_limiter": [0.08],
    "spring_rate": [90e3, 90e3, 80e3, 80e3],
    "spring_free_length": [0.3] * 4,
    "spring_solid_length": [0.1] * 4,
    "rubber_curve": [[[0.0, 0.005, 0.01], [0.0, 300.0, 1200.0]]] * 2,
    "bar_outer": [0.025, 0.022],
    "bar_inner": [0.018, 0.0],
    "bar_length": [0.9, 0.8],
    "bar_shear_modulus": [79.3e9] * 2,
    "blade_youngs_modulus": [207e9] * 2,
    "bar_arm": [0.2, 0.18],
    "bar_motion_ratio": [0.6, 0.7],
    "blade_width": [0.03, 0.025],
    "blade_thickness": [0.006, 0.005],
    "blade_length": [0.15, 0.14],
    "blade_angle": [0.4, 0.8],
    "blade_guided": [0.0, 1.0],
    "compression_low": [2500.0] * 4,
    "compression_high": [1200.0] * 4,
    "rebound_low": [4000.0] * 4,
    "rebound_high": [1800.0] * 4,
    "ride_height": [0.10, 0.102, 0.11, 0.109],
    "lifted_height": [0.15, 0.152, 0.17, 0.168],
    "shaft_showing": [0.07, 0.08],
    "fuel_mass": [20.0],
    "pinion_angle": [-0.03],
    "driver_mass": [82.0],
    "wheel_offset": [0.01] * 4,
    "pinion_angle_hanging": [-0.02],
    "preload_found": [-1.0],
    "compression_found": [5.0] * 4,
    "rebound_found": [5.0] * 4,
    "pressure_found": [1.6e5] * 4,
    "hot_pressure": [2e5] * 4,
    "camber_found": [-0.05, -0.04, -0.02, -0.01],
    "caster_found": [0.1, 0.0],
    "toe_found": [-0.001, -0.002, 0.003, 0.001],
    "front_raised_mass": [580.0],
    "rear_lift": [0.4],
    "wheel_raised": [0.03, 0.03, 0.04, 0.04],
    "spring_shortened": [0.024, 0.024, 0.03, 0.03],
    "spring_load_first": [300.0] * 4,
    "spring_load_second": [1500.0] * 4,
    "spring_length_first": [0.19] * 4,
    "spring_length_second": [0.166] * 4,
    "tyre_load_light": [250.0] * 4,
    "tyre_load_heavy": [330.0] * 4,
    "hub_height_light": [0.31] * 4,
    "hub_height_heavy": [0.28] * 4,
    "wheel_alone": [36.5] * 4,
    "diagonal": [3.905, 3.9],
    "plumb_distance": [3.6],
    "axle_offset": [0.005],
    "axle_points": [1.5],
    "housing_reading": [1.4501, 1.4505, 1.4509, 1.4502],
    "sweep_angle": [0.35],
    "camber_out": [0.01, 0.012],
    "camber_in": [-0.055, -0.05],
    "side_wheelbase": [2.503, 2.498],
    "rail_gap": [0.182, 0.176],
    "body_gap": [0.031, 0.039],
    "lock_inner": [0.90, 0.88],
    "lock_outer": [0.72, 0.71],
    "inner_clearance": [0.022, 0.02],
    "inner_clearance_bump": [0.009, 0.012],
    "inner_clearance_droop": [0.018, 0.02],
    "outer_clearance": [0.03, 0.028],
    "outer_clearance_bump": [0.014, 0.008],
    "outer_clearance_droop": [0.026, 0.03],
    "tread_inner": [360.0] * 4,
    "tread_middle": [356.0] * 4,
    "tread_outer": [350.0] * 4,
    "cold_temperature": [290.0],
    "hot_temperature": [350.0, 345.0],
    "air_temperature": [295.0],
    "air_pressure": [99e3],
    "humidity": [0.5],
}


def known(*names: str) -> Values:
    """Numbers of the car as the arrays a formula sees."""
    return {name: as_array(number_named(name), KNOWN[name]) for name in names}


def dyno(clicks: int, stiff: float) -> tuple[DynoCurve, ...]:
    """Curves from closed to open: the force falls evenly to a quarter."""
    speeds = (0.0, 0.05, 0.1, 0.25, 0.4)
    shape = (20.0, 200.0, 320.0, 560.0, 720.0)
    return tuple(
        DynoCurve(c, speeds, tuple(stiff * f * (1 - 0.75 * c / clicks) for f in shape))
        for c in (0, clicks // 2, clicks)
    )


def damper(dead_at: float | None = None) -> Damper:
    return Damper(
        Adjustment(20, "from_closed", dyno(20, 0.8)),
        Adjustment(20, "from_closed", dyno(20, 1.6), dead_at),
    )


def circuit_car(**changed: Any) -> Car:
    given = {
        name: Given(tuple(KNOWN[name]))
        for name in (
            "wheelbase",
            "track",
            "unsprung_mass",
            "unsprung_cg_height",
            "cg_height",
            "loaded_radius",
            "roll_centre_height",
            "rear_brake_share",
            "motion_ratio",
            "perch_pitch",
            "droop_travel",
            "bump_travel",
            "damper_motion_ratio",
            "rim_diameter",
            "lift_area",
            "speed",
            "spring_base",
        )
    } | {"tyre_rate": Given((2e5,) * 4, estimated=True), "least_height": Given((0.02, 0.02))}
    of: dict[str, Any] = {
        "name": "Plover",
        "race_number": "9",
        "discipline": "circuit",
        "use": "race_some_downforce",
        "given": given,
        "adjusters": {
            "perch_turns": Adjuster(-10, 10),
            "bar_hole": Adjuster(1, 4),
            "blade_position": Adjuster(1, 3),
            "compression_clicks": Adjuster(0, 20, "from_closed"),
            "rebound_clicks": Adjuster(0, 20, "from_closed"),
            "tyre_pressure": Adjuster(1e5, 2.5e5),
            "camber": Adjuster(-5 * DEGREE, 0.0),
            "toe": Adjuster(-DEGREE, DEGREE),
            "rubber_gap": Adjuster(0.0, 0.03),
        },
    }
    parts: dict[str, dict[str, Part]] = {
        "damper": {place: damper() for place in ("LF", "RF", "LR", "RR")},
        "bar": {
            "front": Bar(0.025, 0.9, (0.18, 0.2, 0.22, 0.24), 0.6, inner=0.018),
            "rear": Bar(
                0.022,
                0.8,
                (0.16, 0.18, 0.2, 0.22),
                0.7,
                blade=Blade(0.03, 0.006, 0.15, (0.2, 0.4, 0.8)),
            ),
        },
        "bump_rubber": dict.fromkeys(("front", "rear"), RUBBER),
    }
    return _worn(
        of,
        parts,
        changed,
        tuple(Spring(f"{k}/200", k * 1e3, 0.2, 0.08) for k in (70, 80, 90, 100, 120)),
    )


def _worn(
    of: Values, parts: dict[str, dict[str, Part]], changed: Values, springs: tuple[Spring, ...]
) -> Car:
    """The car with its inventory: each part told by its place, as the setups below name them."""
    parts = {kind: changed.pop(kind, by_place) for kind, by_place in parts.items()}
    lists = {
        kind: tuple(replace(one, code=f"{kind} {place}") for place, one in by_place.items())
        for kind, by_place in parts.items()
    }
    return Car(**(of | {"parts": Inventory(spring=springs, **lists)} | changed))


def wearing(*kinds: str) -> Values:
    """A setup's part codes: at every place the part that is told by it."""
    return {kind: [f"{kind} {place}" for place in part_kind(kind).shape.places] for kind in kinds}


def worn_at(car: Car, kind: str, place: str) -> Any:
    """The part that the car has for a place."""
    return car.part(kind, f"{kind} {place}")


CIRCUIT_SETUP: Values = wearing("damper", "bar", "bump_rubber") | {
    "spring": ["90/200"] * 2 + ["80/200"] * 2,
    "perch_turns": [0.0] * 4,
    "rubber_gap": [0.015, 0.02],
    "bar_hole": [2.0, 3.0],
    "blade_position": [1.0, 2.0],
    "compression_clicks": [8.0] * 4,
    "rebound_clicks": [10.0] * 4,
    "tyre_pressure": [1.6e5] * 4,
    "camber": [-3 * DEGREE, -3 * DEGREE, -2 * DEGREE, -2 * DEGREE],
    "toe": [0.0, 0.0, 0.1 * DEGREE, 0.1 * DEGREE],
}


def drag_car(**changed: Any) -> Car:
    given = {
        name: Given(tuple(KNOWN[name]))
        for name in (
            "wheelbase",
            "track",
            "unsprung_mass",
            "cg_height",
            "loaded_radius",
            "motion_ratio",
            "perch_pitch",
            "tyre_rate",
            "droop_travel",
            "bump_travel",
            "damper_motion_ratio",
            "bolt_x",
            "bolt_z",
            "link_spacing",
            "left_hand_pitch",
            "right_hand_pitch",
            "pinion_joint_x",
            "pinion_joint_z",
            "gearbox_joint_x",
            "gearbox_joint_z",
            "launch_acceleration",
            "spring_base",
            "damper_stroke",
        )
    }
    of: dict[str, Any] = {
        "name": "Ruff",
        "race_number": "77",
        "discipline": "drag",
        "use": "drag",
        "rear_layout": "parallel_four_link",
        "given": given,
        "adjusters": {
            "perch_turns": Adjuster(-10, 10),
            "bar_hole": Adjuster(1, 3),
            "compression_clicks": Adjuster(0, 20, "from_open"),
            "rebound_clicks": Adjuster(0, 20, "from_open"),
            "tyre_pressure": Adjuster(0.5e5, 2.0e5),
            "toe": Adjuster(-DEGREE, DEGREE),
            "link_preload": Adjuster(-3, 3),
            "upper_link_hole": Adjuster(1, 3),
            "lower_link_hole": Adjuster(1, 3),
            "front_limiter": Adjuster(0.02, 0.12),
        },
    }
    parts: dict[str, dict[str, Part]] = {
        "damper": {place: damper() for place in ("LF", "RF", "LR", "RR")},
        "bar": {"front": Bar(0.0), "rear": Bar(0.028, 0.8, (0.16, 0.18, 0.2), 0.7)},
        "bracket": {
            "upper chassis": Bracket(((0.45, 0.32), (0.45, 0.34), (0.45, 0.36))),
            "lower chassis": Bracket(((0.6, 0.19), (0.6, 0.21), (0.6, 0.23))),
        },
    }
    return _worn(
        of, parts, changed, tuple(Spring(f"{k}", k * 1e3, 0.35, 0.12) for k in (20, 24, 28, 32))
    )


DRAG_SETUP: Values = wearing("damper", "bar", "bracket") | {
    "spring": ["28"] * 2 + ["24"] * 2,
    "perch_turns": [0.0] * 4,
    "bar_hole": [1.0, 2.0],
    "compression_clicks": [10.0] * 4,
    "rebound_clicks": [8.0] * 4,
    "tyre_pressure": [1.2e5] * 4,
    "toe": [0.0] * 4,
    "link_preload": [-1.0],
    "upper_link_hole": [2.0],
    "lower_link_hole": [2.0],
    "front_limiter": [0.08],
}


def sheet(car: Car, setup: Values, also: Sequence[Reading] = (), **more: Any) -> Sheet:
    """The car's sheet with pads and heights read on its first revision, and what else was."""
    at = "2026-05-01T09:00"
    conditions = dict.fromkeys(
        ("driver_aboard", "bars_free", "pressures_set", "pads_zeroed", "settled"), True
    )
    pads = [280.0, 262.0, 236.0, 240.0]
    readings = [
        Reading(1, "pads", 1, "Kit", at, {"pad_mass": [pads]}, conditions),
        Reading(2, "heights", 1, "Kit", at, {"ride_height": [KNOWN["ride_height"]]}, conditions),
    ]
    if car.discipline == "drag":
        readings.append(
            Reading(3, "pinion", 1, "Kit", at, {"pinion_angle": [[-0.035]]}, conditions)
        )
    return build(car, setup, [*readings, *also], [Revision(1, setup)], **more)
