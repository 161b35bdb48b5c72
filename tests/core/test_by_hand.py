"""Each figure once by hand, on a car whose numbers are easy: g = 9.80665 m/s², lengths in m.

The car: wheelbase 2.5, tracks 1.5 and 1.6; pads 300, 250, 200, 250 (1000 in all); unsprung 30 a corner;
motion ratio 0.8 upright; springs 50 N/mm, free 0.25, solid 0.1; tyres 200 N/mm; droop 0.05, bump 0.06.
"""

import unittest
from math import cos, pi, sqrt

from cabrio.core.registry import evaluate, figures

G = 9.80665
CAR: dict[str, list[float | None] | None] = {
    "wheelbase": [2.5], "track": [1.5, 1.6], "pad_mass": [300.0, 250.0, 200.0, 250.0],
    "unsprung_mass": [30.0] * 4, "motion_ratio": [0.8] * 4, "tyre_rate": [200e3] * 4,
    "spring_rate": [50e3] * 4, "spring_free_length": [0.25] * 4, "spring_solid_length": [0.1] * 4,
    "droop_travel": [0.05] * 4, "bump_travel": [0.06] * 4, "target_frequency": [1.5, 2.0],
}  # fmt: skip
FORCE_LF = 270 * G / 0.8  # what the left front spring carries
WHEEL = 50e3 * 0.64
RIDE = WHEEL * 200e3 / (WHEEL + 200e3)
ASKED = (2 * pi * 1.5) ** 2 * 245  # front corners carry 270 and 220 sprung
BY_HAND: dict[str, tuple[int, float]] = {
    "total_mass": (0, 1000.0),
    "front_share": (0, 0.55),
    "left_share": (0, 0.5),
    "cross_share": (0, 0.45),
    "rear_bite": (0, -50.0),
    "balanced_cross": (0, 0.55 * 0.5 + 0.45 * 0.5),
    "cross_off_balance": (0, -0.05),
    "cg_behind_front": (0, 2.5 * 0.45),
    "cg_offset": (0, (50 * 1.5 - 50 * 1.6) / 2000),
    "sprung_mass": (3, 220.0),
    "spring_motion_ratio": (0, 0.8),
    "spring_force": (0, FORCE_LF),
    "wheel_rate": (2, WHEEL),
    "ride_rate": (1, RIDE),
    "static_compression": (0, FORCE_LF / 50e3),
    "seat_at_droop": (0, FORCE_LF / 50e3 - 0.04),
    "bind_margin": (0, 0.25 - (FORCE_LF / 50e3 + 0.048) - 0.1),
    "spring_energy": (0, FORCE_LF**2 / (2 * 50e3)),
    "spring_energy_over_droop": (
        0,
        25e3 * ((FORCE_LF / 50e3) ** 2 - (FORCE_LF / 50e3 - 0.04) ** 2),
    ),
    "ride_frequency": (2, sqrt(WHEEL / 170) / (2 * pi)),
    "ride_frequency_on_tyre": (2, sqrt(RIDE / 170) / (2 * pi)),
    "axle_frequency": (0, sqrt(WHEEL / 245) / (2 * pi)),
    "axle_frequency_on_tyre": (0, sqrt(RIDE / 245) / (2 * pi)),
    "frequency_ratio": (0, sqrt(245 / 195)),
    "target_ratio": (0, 2.0 / 1.5),
    "target_wheel_rate": (0, ASKED),
    "target_wheel_rate_on_tyre": (0, ASKED * 200e3 / (200e3 - ASKED)),
    "target_spring_rate": (0, ASKED / 0.64),
    "target_spring_rate_on_tyre": (0, ASKED * 200e3 / (200e3 - ASKED) / 0.64),
}


class ByHand(unittest.TestCase):
    def test_every_figure_once(self) -> None:
        values = evaluate(CAR).values
        for name, (place, expected) in BY_HAND.items():
            with self.subTest(name):
                got = float(values[name].reshape(-1)[place])
                self.assertAlmostEqual(got, expected, delta=1e-9 * max(1.0, abs(expected)))

    def test_no_figure_is_left_out(self) -> None:
        self.assertEqual(set(BY_HAND), set(figures()))

    def test_a_loose_spring_gives_no_more_energy(self) -> None:
        loose = evaluate(CAR | {"droop_travel": [0.2] * 4}).values
        self.assertLess(loose["seat_at_droop"][0], 0)
        self.assertAlmostEqual(loose["spring_energy_over_droop"][0], loose["spring_energy"][0])

    def test_an_inclined_spring_works_through_its_cosine(self) -> None:
        angle = 0.3
        upright = evaluate(CAR).values["wheel_rate"][0]
        leaning = evaluate(CAR | {"spring_angle": [angle] * 4}).values["wheel_rate"][0]
        self.assertAlmostEqual(leaning / upright, cos(angle) ** 2)

    def test_limits(self) -> None:
        rigid = evaluate(CAR | {"tyre_rate": [1.9e6] * 4}).values
        self.assertLess(rigid["wheel_rate"][0] / rigid["ride_rate"][0], 1.02)
        even = evaluate(CAR | {"pad_mass": [250.0] * 4}).values
        self.assertEqual(float(even["cg_offset"]), 0.0)
        self.assertEqual(float(even["cross_off_balance"]), 0.0)


class UpsetTable(unittest.TestCase):
    """The recheck table, row by row, as the trade holds it: change → (doubtful, void)."""

    ROWS = (
        ("spring", "circuit", {"pads", "droop", "alignment", "bar_neutral"}, {"heights", "bolts"}),
        (
            "perch_turns",
            "circuit",
            {"droop", "alignment", "bar_neutral"},
            {"heights", "pads", "bolts"},
        ),
        ("bar_hole", "drift", set(), {"bar_neutral", "bolts"}),
        ("rebound_clicks", "drift", {"clicks"}, set()),
        ("compression_clicks", "drag", {"clicks"}, set()),
        ("tyre_pressure", "circuit", {"heights", "pads"}, {"pressures"}),
        ("camber", "circuit", set(), {"alignment", "bolts"}),
        ("toe", "drift", set(), {"alignment", "bolts"}),
        (
            "spring",
            "drag",
            {"pads", "droop", "alignment", "bar_neutral", "pinion"},
            {"heights", "bolts"},
        ),
        ("link_preload", "drag", set(), {"pads", "preload", "bolts"}),
        ("upper_link_hole", "drag", {"square"}, {"pinion", "preload", "bolts"}),
        ("lower_link_hole", "drag", {"square"}, {"pinion", "preload", "bolts"}),
    )

    def test_every_row(self) -> None:
        from cabrio.core.car import Line
        from cabrio.core.recheck import rechecks

        for name, discipline, doubtful, void in self.ROWS:
            with self.subTest(f"{name}, {discipline}"):
                found = rechecks([Line(name, "x", 0, 1)], discipline)
                self.assertEqual({r.kind for r in found if r.verdict == "doubtful"}, doubtful)
                self.assertEqual({r.kind for r in found if r.verdict == "void"}, void)
                self.assertTrue(all(r.why and r.how and r.minutes > 0 for r in found))

    def test_no_change_on_the_slip_goes_without_a_recheck(self) -> None:
        from cabrio.core.knowledge import knowledge
        from cabrio.core.registry import numbers

        upset = {name for rule in knowledge().upsets for name in rule.changed}
        self.assertEqual(upset, {n.name for n in numbers().values() if n.on_slip})
