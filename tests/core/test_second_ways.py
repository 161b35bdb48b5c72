"""Formulas against slower ways to the same number: quadrature, root finding, whole matrices."""

import unittest
from math import pi
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.integrate import quad
from scipy.optimize import brentq

from cabrio.core.catalog.parts import Bar, Blade
from cabrio.core.catalog.parts import rubber as bump_rubber
from cabrio.core.errors import CoreError, Impossible, OutOfRange
from cabrio.core.figures import rubber, stack
from cabrio.core.geometry.arm import forward
from cabrio.core.graph.evaluate import answer
from cabrio.core.graph.registry import as_array, figures, number_named, run
from cabrio.core.solve import arms, bars, cg, springs, stops
from tests.support.plain import everything

from .whole_car import KNOWN, known

G = 9.80665
rate = st.floats(5e3, 200e3)


class Stack(unittest.TestCase):
    @given(rate, rate, st.floats(0.0, 0.05), st.floats(0.0, 0.12))
    def test_force_energy_and_rate_belong_together(
        self, main: float, tender: float, gap: float, travel: float
    ) -> None:
        of = (np.asarray(main), np.asarray(tender), np.asarray(gap))
        cross = gap * (main + tender) / main

        def force(x: float) -> float:
            return float(stack.stack_force(np.asarray(x), *of))

        area = quad(force, 0, travel, points=[min(cross, travel)])[0]
        self.assertAlmostEqual(
            float(stack.stack_energy(np.asarray(travel), *of)), area, delta=1e-7 * max(1.0, area)
        )
        back = stack.stack_travel(np.asarray(force(travel)), *of)
        self.assertAlmostEqual(float(back), travel, delta=1e-12)
        if abs(travel - cross) > 1e-5:
            slope = (force(travel + 1e-7) - force(travel - 1e-7)) / 2e-7
            self.assertAlmostEqual(
                float(stack.stack_rate_at(np.asarray(travel), *of)) / slope, 1, 4
            )

    def test_a_stack_that_cannot_be(self) -> None:
        of: dict[str, Any] = {"spring_rate": [5e4] * 4, "tender_rate": [2e4] * 4}
        with self.assertRaisesRegex(OutOfRange, "Tender gap"):
            answer(["crossover_travel"], of | {"tender_gap": [-0.01] * 4})
        with self.assertRaisesRegex(Impossible, "no tender"):
            answer(["crossover_travel"], of | {"tender_rate": [0.0] * 4})


class Rubber(unittest.TestCase):
    CURVE = bump_rubber((0.0, 0.004, 0.008, 0.012), (0.0, 250.0, 700.0, 1600.0))

    @given(st.floats(0, 12e3), st.floats(30e3, 150e3), st.floats(0, 0.02), st.floats(0.4, 1.1))
    def test_travel_balances_the_load(
        self, load: float, rate: float, gap: float, ratio: float
    ) -> None:
        table = self.CURVE.curve(4)

        def short(z: float) -> float:
            return (
                rate * z
                + ratio * float(rubber.rubber_force(table, np.asarray(ratio * z - gap)))
                - load
            )

        slow = brentq(short, -0.1, 1.0, xtol=1e-14)
        quick = rubber.travel_under(
            np.asarray(load), np.asarray(rate), table, np.asarray(gap), np.asarray(ratio)
        )
        self.assertAlmostEqual(float(quick), slow, delta=1e-10)

    def test_past_the_table_the_last_slope_goes_on_and_is_flagged(self) -> None:
        table = self.CURVE.curve(6)  # padded, as beside a longer one
        self.assertAlmostEqual(float(rubber.rubber_force(table, np.asarray(0.014))), 1600 + 450)
        self.assertEqual(
            rubber.exceeded(self.CURVE.curve(4), np.array([0.011, 0.013])).tolist(), [False, True]
        )
        for wrong in (((0.0,), (0.0,)), ((0.001, 0.002), (0.0, 1.0)), ((0.0, 0.002), (5.0, 1.0))):
            with self.assertRaises(Impossible):
                bump_rubber(*wrong)


class Aero(unittest.TestCase):
    KNOWN = known(
        "wheelbase",
        "cg_height",
        "anti_dive",
        "lift_area",
        "least_height",
        "ride_height",
        "rubber_curve",
        "rubber_gap",
        "rubber_motion_ratio",
        "tyre_rate",
        "pad_mass",
    ) | {"speed": 60.0, "braking": 9.0}

    def test_the_softest_spring_just_clears(self) -> None:
        """Second way: on that very wheel rate, rubber left out, the car stands at the least height."""
        least = answer(["least_wheel_rate"], self.KNOWN)["least_wheel_rate"]
        bare = self.KNOWN | {"rubber_gap": [1.0, 1.0], "wheel_rate": np.repeat(least, 2)}
        np.testing.assert_allclose(
            answer(["clearance_at_speed"], bare)["clearance_at_speed"], 0, atol=1e-12
        )
        soft = bare | {"wheel_rate": 0.9 * np.repeat(least, 2)}
        self.assertLess(answer(["clearance_at_speed"], soft)["clearance_at_speed"].max(), 0)

    def test_no_spring_clears(self) -> None:
        for changed, message in (
            ({"least_height": [0.11, 0.03]}, "already at or under"),
            ({"tyre_rate": [20e3] * 4}, "tyres alone"),
        ):
            with self.assertRaisesRegex(Impossible, message):
                answer(["least_wheel_rate"], self.KNOWN | changed)


class Roll(unittest.TestCase):
    NEEDS = (
        "pad_mass",
        "unsprung_mass",
        "unsprung_cg_height",
        "cg_height",
        "roll_centre_height",
        "track",
        "wheelbase",
        "tyre_rate",
        "lateral_acceleration",
    )

    @settings(max_examples=40)
    @given(st.floats(10e3, 120e3), st.floats(10e3, 120e3), st.floats(0, 40e3), st.floats(0, 0.3))
    def test_the_three_unknowns_at_once(
        self, front: float, rear: float, bar: float, centre: float
    ) -> None:
        car = known(*self.NEEDS) | {
            "wheel_rate": [front, front, rear, rear],
            "spring_base": KNOWN["track"],
            "bar_wheel_rate": [bar, bar / 2],
            "roll_centre_height": [0.0, centre],
        }
        try:
            got = answer(["load_transfer", "roll_angle", "wheel_pair_roll"], car)
        except Impossible:
            return  # too soft to stand: the case files hold that
        track = np.array(KNOWN["track"])
        ks = got["suspension_roll_stiffness"]
        kt = 0.5 * np.array([200e3, 220e3]) * track**2
        s = (
            got["sprung_axle_mass"] * [0.0, centre]
            + np.array([60, 80]) * KNOWN["unsprung_cg_height"]
        )
        sprung, arm, ay = got["sprung_axle_mass"].sum(), float(got["roll_moment_arm"]), 9.0
        matrix = np.array(
            [
                [ks.sum() - sprung * G * arm, -ks[0], -ks[1]],
                [-ks[0], ks[0] + kt[0] - G * s[0], 0],
                [-ks[1], 0, ks[1] + kt[1] - G * s[1]],
            ]
        )
        roll, *pairs = np.linalg.solve(matrix, ay * np.array([sprung * arm, *s]))
        self.assertAlmostEqual(float(got["roll_angle"]), roll, places=12)
        np.testing.assert_allclose(got["wheel_pair_roll"], pairs, rtol=1e-9)
        # moments about the ground: what leaves the inner wheels holds the whole car up
        pair = np.array(pairs)
        whole = sprung * (arm * (ay + G * roll)) + (s * (ay + G * pair)).sum()
        self.assertAlmostEqual(
            float((got["load_transfer"] * track).sum()), whole, delta=1e-6 * whole
        )

    def test_bars_share_and_do_not_add(self) -> None:
        def transfer(bar: float) -> Any:
            car = known(*self.NEEDS) | {
                "wheel_rate": [6e4] * 4,
                "spring_base": KNOWN["track"],
                "track": [1.5, 1.5],
                "bar_wheel_rate": [bar, 0.0],
                "tyre_rate": [1e12] * 4,
            }
            return answer(["load_transfer", "lltd"], car)

        soft, stiff = transfer(0.0), transfer(6e4)
        self.assertGreater(float(stiff["lltd"]), float(soft["lltd"]))
        total = [float(one["load_transfer"].sum()) for one in (soft, stiff)]
        self.assertLess(abs(total[1] / total[0] - 1), 0.03)


class Bars(unittest.TestCase):
    def test_a_softer_hole_lower_on_the_ladder(self) -> None:
        rungs = bars.ladder(Bar(0.025, 0.9, (0.18, 0.2, 0.22), 0.6, blade=Blade(0.03, 0.006, 0.15)))
        self.assertEqual([rung.hole for rung in rungs], [1, 2, 3])
        self.assertGreater(rungs[0].wheel_rate, rungs[2].wheel_rate)

    @given(st.floats(0, pi / 2), st.booleans())
    def test_a_blade_lies_between_flat_and_on_edge(self, angle: float, guided: bool) -> None:
        def rate(at: float) -> float:
            bar = Bar(0.025, 0.9, (0.2,), 0.6, blade=Blade(0.03, 0.006, 0.15, (at,), guided))
            return bars.ladder(bar)[0].wheel_rate

        self.assertLessEqual(rate(0.0) * (1 - 1e-12), rate(angle))
        self.assertLessEqual(rate(angle), rate(pi / 2) * (1 + 1e-12))

    def test_no_bar_is_no_rate_and_a_bore_must_fit(self) -> None:
        none = Bar.kind.none_fitted
        assert isinstance(none, Bar)
        self.assertEqual(bars.ladder(none)[0].wheel_rate, 0.0)
        with self.assertRaisesRegex(Impossible, "bore"):
            bars.ladder(Bar(0.02, 0.9, (0.2,), 0.6, inner=0.02))
        with self.assertRaisesRegex(OutOfRange, "holes 1 to 1, not 3"):
            none.arm(3)


class CgHeight(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.floats(0.3, 0.8), st.floats(-0.05, 0.05), st.floats(0.2, 0.9))
    def test_a_height_that_was_put_in_comes_out(
        self, height: float, bigger: float, lift: float
    ) -> None:
        """Second way: the car as points, turned until the rear wheel centre is up by the lift."""
        base, front, mass, radius = 2.5, 0.52, 1000.0, 0.3
        behind = base * (1 - front)

        def risen(angle: float) -> float:
            return base * np.sin(angle) + bigger * np.cos(angle) - bigger - lift

        angle = float(brentq(risen, 0.0, 1.4))
        along = behind * np.cos(angle) - (height - radius) * np.sin(angle)
        rear = base * np.cos(angle) - bigger * np.sin(angle)
        found = cg.by_tilt(
            wheelbase=base,
            total_mass=mass,
            front_level=mass * front,
            front_raised=mass * (1 - along / rear),
            radii=(radius, radius + bigger),
            rear_lift=lift,
        )
        self.assertAlmostEqual(found.height, height, places=9)
        self.assertAlmostEqual(found.tilt or 0, angle, places=9)

    def test_a_rule_of_thumb_says_so(self) -> None:
        self.assertTrue(cg.by_rule_of_thumb(camshaft=0.6).estimated)
        self.assertEqual(cg.by_rule_of_thumb(camshaft=0.6).height, 0.6)
        for wrong in ({}, {"camshaft": -0.1}):
            with self.assertRaises(CoreError):
                cg.by_rule_of_thumb(**wrong)
        with self.assertRaisesRegex(OutOfRange, "whole car"):
            cg.by_tilt(
                wheelbase=2.5,
                total_mass=900,
                front_level=950,
                front_raised=960,
                radii=(0.3, 0.3),
                rear_lift=0.4,
            )


class Small(unittest.TestCase):
    def test_a_cut_coil_is_stiffer_shorter_and_the_corner_lower(self) -> None:
        found = springs.cut(30e3, 0.4, 8, 1, 3000)
        self.assertAlmostEqual(found.rate, 30e3 * 8 / 7)
        self.assertAlmostEqual(found.free_length, 0.35)
        self.assertAlmostEqual(found.drop, 0.3 - (0.35 - 3000 / found.rate))
        with self.assertRaises(Impossible):
            springs.cut(30e3, 0.4, 8, 8, 3000)

    def test_a_soft_mount_in_the_row(self) -> None:
        self.assertAlmostEqual(springs.in_series(60e3, 60e3), 30e3)
        with self.assertRaises(OutOfRange):
            springs.in_series(60e3, 0)

    def test_inserts_in_half_millimetres_leave_a_remainder(self) -> None:
        found = stops.insert_for(0.0052, 0.005, 0.0630, 0.0640)
        self.assertAlmostEqual(found.offset, 0.0005)
        self.assertAlmostEqual(found.remainder, 0.0002)
        self.assertLessEqual(abs(found.remainder), 0.00025 + 1e-12)
        with self.assertRaises(OutOfRange):
            stops.insert_for(0.015, 0.005, 0.063, 0.064)

    def test_an_arm_level_half_way_does_not_steer(self) -> None:
        rise = arms.rise_without_steer(0.04)
        shift = forward(np.full(2, 0.5), np.full(2, rise), np.full(2, 0.04))
        np.testing.assert_allclose(shift, 0, atol=1e-15)
        self.assertAlmostEqual(arms.pivot_change(0.03, rise), 0.05)
        self.assertAlmostEqual(arms.effective_arm(0.6), 0.45)
        with self.assertRaises(OutOfRange):
            arms.effective_arm(0.0)

    def test_flat_ride_needs_a_quicker_rear(self) -> None:
        both = {"wheelbase": 2.5, "wheel_rate": [3e4] * 4}
        with self.assertRaisesRegex(Impossible, "never catches up"):
            answer(["flat_ride_speed"], both | {"sprung_mass": [200.0, 200.0, 210.0, 210.0]})

    def test_stops_and_damper_length(self) -> None:
        self.assertAlmostEqual(stops.arm_stop_keeping_droop(0.005, 0.0005, 0.0002), 0.0043)
        change = stops.length_for_droop(0.004, 0.5)
        self.assertAlmostEqual(change.length_change, 0.002)
        self.assertAlmostEqual(change.perch_shift, -change.length_change)
        for wrong in (
            lambda: stops.droop_travel(0.006, 0.005),
            lambda: stops.length_for_droop(1, 0),
        ):
            with self.assertRaises(OutOfRange):
                wrong()


class WholeGraph(unittest.TestCase):
    def test_the_graph_is_what_plain_numpy_says_written_straight_down(self) -> None:
        arrays = {name: as_array(number_named(name), value) for name, value in KNOWN.items()}
        worked, plain = run(arrays), everything(arrays)
        self.assertEqual(worked.refused, {})
        self.assertEqual(set(plain), set(figures()))
        for name, value in plain.items():
            np.testing.assert_allclose(
                worked.values[name], value, rtol=1e-9, atol=1e-12, err_msg=name
            )
