"""Figures once by hand, on a car whose numbers are easy; the rest are asked for by the worked cases.

g = 9.80665 m/s², lengths in m. The car: wheelbase 2.5, tracks 1.5 and 1.6; pads 300, 250, 200, 250
(1000 in all); unsprung 30 a corner; motion ratio 0.8 upright; springs 50 N/mm, free 0.25, solid 0.1;
tyres 200 N/mm; droop 0.05, bump 0.06.
"""

import unittest
from math import asin, atan, cos, exp, hypot, pi, sin, sqrt, tan
from pathlib import Path
from unittest import mock

from cabrio.cases import failures, read_folder
from cabrio.core.graph import evaluate as evaluating
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.graph.registry import figures

from .whole_car import KNOWN, Values

G = 9.80665
CAR: Values = KNOWN | {
    "unsprung_mass": [30.0] * 4,
    "motion_ratio": [0.8] * 4,
    "motion_ratio_slope": [0.0] * 4,
    "spring_angle": [0.0] * 4,
    "tyre_rate": [200e3] * 4,
    "spring_rate": [50e3] * 4,
    "spring_free_length": [0.25] * 4,
    "tender_rate": [0.0] * 4,
    "target_frequency": [1.5, 2.0],
    "blade_length": [0.0, 0.0],
}
FORCE_LF = 270 * G / 0.8  # what the left front spring carries
WHEEL = 50e3 * 0.64
RIDE = WHEEL * 200e3 / (WHEEL + 200e3)
ASKED = (2 * pi * 1.5) ** 2 * 245  # front corners carry 270 and 220 sprung
SHAFT = atan(0.04 / 1.1)
FLAT = 0.0032 / 6
# upper bar: falls 0.1 over 0.41 to the front; lower: rises 0.03 over 0.57
UPPER, LOWER = -0.1 / 0.41, 0.03 / 0.57
ARM_IC = 0.2 - 1.1 * (tan(asin(0.02 / 0.6)) + tan(asin(-0.01 / 0.5))) / 2
APART = (0.44 - 0.04 * UPPER) - (0.17 - 0.03 * LOWER)
IC_X = APART / (LOWER - UPPER)
IC_Z = 0.17 + (IC_X - 0.03) * LOWER
SQUAT = IC_Z / IC_X * 2.5 / 0.5
TILT = tan(asin(0.42 / hypot(2.5, 0.02)) - atan(0.02 / 2.5))
VAPOUR = 0.5 * 611.2 * exp(17.62 * 21.85 / (243.12 + 21.85))
AIR = ((99e3 - VAPOUR) / 287.05287 + VAPOUR / 461.523) / 295
DOWN = 0.5 * AIR * 55**2 * 0.9
EVEN = (450 * G + DOWN - 1600) / (1000 * G + DOWN * 1.5 / 0.9)
MOMENT = pi * 0.022**4 / 32
MOVED = 1000 * 12 * 0.5 / 2.5
BY_HAND: dict[str, tuple[int, float]] = {
    "cross_off_balance": (0, -0.05),
    "tilted_cg_error": (0, (2.5 - 0.02 * TILT) / (1000 * TILT)),
    "rate_at_ride": (0, 50e3),
    "wheel_rate": (2, WHEEL),
    "ride_rate": (1, RIDE),
    "static_compression": (0, FORCE_LF / 50e3),
    "bind_margin": (0, 0.25 - (FORCE_LF / 50e3 + 0.048) - 0.1),
    "spring_energy": (0, FORCE_LF**2 / (2 * 50e3)),
    "travel_until_loose": (0, FORCE_LF / 50e3 / 0.8),
    "perch_shift": (2, -0.004),
    "perch_wheel_shift": (3, 0.001 / 0.8),  # its motion ratio is constant
    "axle_frequency": (0, sqrt(WHEEL / 245) / (2 * pi)),
    "axle_frequency_on_tyre": (0, sqrt(RIDE / 245) / (2 * pi)),
    "frequency_ratio": (0, sqrt(245 / 195)),
    "flat_ride_speed": (0, 2.5 / (2 * pi * (sqrt(245 / WHEEL) - sqrt(195 / WHEEL)))),
    "target_ratio": (0, 2.0 / 1.5),
    "target_wheel_rate": (0, ASKED),
    "target_spring_rate_on_tyre": (0, ASKED * 200e3 / (200e3 - ASKED) / 0.64),
    "compression_ratio_low": (0, 2500 * 0.85**2 / (2 * sqrt(WHEEL * 270))),
    "compression_ratio_high": (0, 1200 * 0.85**2 / (2 * sqrt(WHEEL * 270))),
    "rebound_ratio_low": (2, 4000 * 0.85**2 / (2 * sqrt(WHEEL * 170))),
    "rebound_ratio_high": (2, 1800 * 0.85**2 / (2 * sqrt(WHEEL * 170))),
    "sprung_axle_mass": (1, 390.0),
    "sprung_cg_height": (0, (500 - 60 * 0.3 - 60 * 0.32) / 880),
    "wheel_rate_in_roll": (1, WHEEL * (1.1 / 1.6) ** 2),
    "wheelbase_split": (0, 0.005),
    "axle_off_rails": (0, 0.003),
    "axle_off_body": (0, 0.004),
    "lock_clearance": (1, 0.008),
    # steered left: inner 0.90 rad, the right wheel outside at 0.71 rad
    "lock_ackermann": (0, (0.90 - 0.71) / (atan(1 / (1 / tan(0.71) - 1.5 / 2.5)) - 0.71)),
    "turning_circle": (0, 2 * 2.5 / sin(0.71)),
    "tyre_roll_stiffness": (0, 0.5 * 200e3 * 1.5**2),
    "suspension_roll_stiffness": (
        1,
        0.5 * WHEEL * 1.1**2 + 0.5 * 1.6**2 * 0.49 * 2 * 79.3e9 * MOMENT / 0.8 / 0.18**2,
    ),
    "bar_polar_moment": (1, MOMENT),
    "bar_torsional_rate": (1, 79.3e9 * MOMENT / 0.8),
    "bar_end_rate_torsion": (1, 2 * 79.3e9 * MOMENT / 0.8 / 0.18**2),
    "bar_end_rate": (1, 2 * 79.3e9 * MOMENT / 0.8 / 0.18**2),
    "blade_second_moment": (
        0,
        1 / (cos(0.4) ** 2 / (0.03 * 0.006**3 / 12) + sin(0.4) ** 2 / (0.006 * 0.03**3 / 12)),
    ),
    "spring_roll_share": (0, 1.5**2 / (1.5**2 + 1.1**2)),
    "axle_mass_moment": (1, 390 * 0.25 + 60 * 0.32),
    "swing_slope": (0, IC_Z / IC_X),
    "ic_x": (0, IC_X),
    "ic_z": (0, IC_Z),
    "anti_lift": (0, SQUAT * 0.4),
    "upper_bar_length": (0, hypot(0.41, 0.1)),
    "lower_bar_length": (0, hypot(0.57, 0.03)),
    "upper_bar_slope": (0, UPPER),
    "lower_bar_slope": (0, LOWER),
    "bar_lines_apart": (0, APART),
    "pinion_per_bump": (0, -1 / IC_X),
    "pinion_slope": (0, -0.03 + SHAFT),
    "rear_joint_angle": (0, 0.03),
    "front_joint_angle": (0, abs(SHAFT - 0.03)),
    "length_per_flat": (0, FLAT),
    "pinion_per_flat": (0, FLAT / (APART * cos(atan(UPPER)))),
    "torque_arm_ic_z": (0, ARM_IC),
    "limiter_left": (0, 0.08 - MOVED / 2 / WHEEL),
    "wheelie_bar_lift": (0, 0.06 * 2.5 / 1.5),
    "ladder_slope": (0, 0.28 / 0.8),
    "torque_arm_slope": (0, ARM_IC / 1.1),
    "links_slope": (0, IC_Z / IC_X),
    "rear_bite_share": (0, -0.05),
    "front_axle_mass": (0, 550.0),
    "upper_bar_force": (0, 6000 * (IC_Z / IC_X - LOWER) / (UPPER - LOWER) * hypot(1, UPPER)),
    "lower_bar_force": (0, 6000 * (UPPER - IC_Z / IC_X) / (UPPER - LOWER) * hypot(1, LOWER)),
    "front_rise_free": (0, MOVED / 2 / WHEEL),
    "stroke_left_open": (0, 0.16 - 0.08 - (SQUAT - 1) * MOVED / 2 / WHEEL * 0.85),
    "shaft_needed_in_bump": (0, 0.051),
    "stroke_left_closed": (1, 0.08 - 0.051),
    "axle_height": (0, 0.101),
    "rake": (0, 0.1095 - 0.101),
    "height_split": (0, -0.002),
    "droop_read": (2, 0.06),
    "motion_ratio_read": (2, 0.75),
    "spring_rate_read": (0, 1200 / 0.024),
    "tyre_rate_read": (1, 9.80665 * 80 / 0.03),
    "unsprung_mass_read": (3, 36.5),
    "toe_distance": (2, 0.45 * sin(0.003)),
    "total_toe": (0, -0.003),
    "thrust_angle": (0, -0.001),
    "cross_camber": (1, -0.01),
    "even_brake_share": (0, EVEN),
    "brake_share_off": (0, 0.4 - EVEN),
    "braking_transfer": (1, -1000 * 8 * 0.5 / 2.5),
    "spring_load_at_speed": (1, 0.5 * (DOWN - 1600 * 0.7)),
    "clearance_at_speed": (1, 0.1095 - 0.03 - (DOWN - 1120) / 2 / WHEEL - (DOWN - 1600) / 400e3),
    "travel_to_rubber": (0, 0.015 / 0.7),
    # 300 and 250 kg in front, grip 1.4 at 3000 N, 0.12 lost by as much again
    "standing_grip": (
        0,
        1.4 * sum((1 - 0.12 * (m * G / 3000 - 1)) * m for m in (300, 250)) / 550,
    ),
    "shaft_load_shift": (0, 1000 * 12 * KNOWN["loaded_radius"][1] / (4 * 1.6)),
    "most_useful_load": (0, 3000 * 1.12 / 0.24),
    "housing_out_of_round": (0, abs(1.4501 + 1.4509 - 1.4505 - 1.4502) / 2),
}


NOTHING_NEW = ("quarter_car", "car_under_load", "drive_torque", "grip_balance")
"""Topics that are solved or integrated, and ask for no figure that others do not."""


def asked_by_cases() -> set[str]:
    """Every figure that a worked case asks the core for."""
    asked: set[str] = set()
    real = evaluating.run

    def record(arrays, needs=None, wanted=None):  # type: ignore[no-untyped-def]
        asked.update(wanted or ())
        return real(arrays, needs, wanted)

    with mock.patch.object(evaluating, "run", record):
        for _, topic, case in read_folder(Path(__file__).parent / "cases"):
            if topic not in NOTHING_NEW:
                failures(topic, case)
    return asked


class ByHand(unittest.TestCase):
    def test_every_figure_once(self) -> None:
        values = evaluate(CAR).values
        for name, (place, expected) in BY_HAND.items():
            with self.subTest(name):
                got = float(values[name].reshape(-1)[place])
                self.assertAlmostEqual(got, expected, delta=1e-9 * abs(expected))

    def test_no_figure_is_left_out(self) -> None:
        self.assertEqual(
            set(figures()) - set(BY_HAND) - asked_by_cases(), {"lltd_off_start", "jacking_force"}
        )

    def test_what_follows_from_load_transfer(self) -> None:
        got = evaluate(CAR).values
        # the axle's tyres push 2·a_y·ΔW/g apart, each over a link that slopes 2·z_rc/t
        wanted = 4 * 9 / G * got["load_transfer"][1] * 0.25 / 1.6
        self.assertAlmostEqual(float(got["jacking_force"][1]), wanted)
        self.assertAlmostEqual(
            float(got["lltd_off_start"]),
            float(got["lltd"]) - float(got["front_share"]) - CAR["lltd_above_weight"][0],
        )

    def test_a_loose_spring_gives_no_more_energy(self) -> None:
        loose = evaluate(CAR | {"droop_travel": [0.2] * 4}).values
        self.assertLess(loose["seat_at_droop"][0], 0)
        self.assertAlmostEqual(loose["spring_energy_over_droop"][0], loose["spring_energy"][0])

    def test_an_inclined_spring_works_through_its_cosine(self) -> None:
        angle = 0.3
        upright = evaluate(CAR).values["wheel_rate"][0]
        leaning = evaluate(CAR | {"spring_angle": [angle] * 4}).values["wheel_rate"][0]
        self.assertAlmostEqual(leaning / upright, cos(angle) ** 2)

    def test_a_tender_below_its_crossover_softens_the_corner(self) -> None:
        force = FORCE_LF
        deep = evaluate(CAR | {"tender_rate": [25e3] * 4, "tender_gap": [0.2] * 4}).values
        self.assertAlmostEqual(deep["rate_at_ride"][0], 50e3 * 25e3 / 75e3)
        self.assertAlmostEqual(deep["static_compression"][0], force / 50e3 + force / 25e3)
        closed = evaluate(CAR | {"tender_rate": [25e3] * 4, "tender_gap": [0.02] * 4}).values
        self.assertAlmostEqual(closed["rate_at_ride"][0], 50e3)
        self.assertAlmostEqual(closed["static_compression"][0], 0.02 + force / 50e3)
        # the ring spares the main spring nothing: it binds as it would alone, less the tender's travel
        alone = evaluate(CAR).values["bind_margin"][0]
        self.assertAlmostEqual(closed["bind_margin"][0], alone)

    def test_limits(self) -> None:
        rigid = evaluate(CAR | {"tyre_rate": [1.9e6] * 4}).values
        self.assertLess(rigid["wheel_rate"][0] / rigid["ride_rate"][0], 1.02)
        even = evaluate(CAR | {"pad_mass": [250.0] * 4}).values
        self.assertEqual(float(even["cg_offset"]), 0.0)
        self.assertEqual(float(even["cross_off_balance"]), 0.0)
