"""The time domain against closed forms, against the steady figures, and what must stay as it is."""

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.errors import Impossible, OutOfRange
from cabrio.core.graph.evaluate import answer
from cabrio.core.simulate import roads
from cabrio.core.simulate.full_car import FullCar, drive, estimated_inertias
from cabrio.core.simulate.quarter_car import QuarterCar, ride, ride_sine
from cabrio.core.simulate.run import Cancelled
from cabrio.core.simulate.suspension import STOP_RATE, Curve, DamperLaw, Suspension

G = 9.80665
CORNER = QuarterCar(230.0, 36.0, 34e3, 210e3, 2400.0, 2400.0)
PADS, UNSPRUNG = np.array([270.0, 270.0, 245.0, 245.0]), np.array([36.0, 36.0, 38.0, 38.0])


def suspension(rate: float = 36e3, **more: Any) -> Suspension:
    return Suspension(rate, DamperLaw.straight(2600.0, 4200.0), **more)


def car(**changed: Any) -> FullCar:
    of: dict[str, Any] = {
        "sprung_mass": float((PADS - UNSPRUNG).sum()),
        "unsprung": UNSPRUNG,
        "pads": PADS,
        "pitch_inertia": 1300.0,
        "roll_inertia": 320.0,
        "wheelbase": 2.5,
        "tracks": np.array([1.52, 1.5]),
        "cg_height": 0.48,
        "sprung_cg_height": 0.5,
        "roll_centres": np.array([0.05, 0.1]),
        "unsprung_cg_heights": np.array([0.3, 0.3]),
        "suspensions": tuple(suspension() for _ in range(4)),
        "tyre_rates": np.full(4, 220e3),
        "bar_rates": np.array([20e3, 10e3]),
        "anti_dive": np.array([0.25, 0.3]),
        "anti_squat": 0.4,
    }
    return FullCar(**(of | changed))


LEVEL = roads.Road.alike(roads.flat)


class OneSuspension(unittest.TestCase):
    def test_each_part_of_its_force(self) -> None:
        rubber = Curve((0.0, 0.01), (0.0, 1000.0))
        one = suspension(static_load=1500.0, droop=0.05, rubber_gap=0.03, rubber=rubber)
        self.assertAlmostEqual(one.push(0.01, 0.0), 360.0)
        self.assertAlmostEqual(one.push(0.035, 0.0), 36e3 * 0.035 + 500)
        self.assertAlmostEqual(one.push(0.05, 0.0), 36e3 * 0.05 + 2000, msg="past the table")
        self.assertAlmostEqual(one.push(-0.045, 0.0), -1500.0, msg="the coil is loose")
        self.assertAlmostEqual(one.push(-0.051, 0.0), -1500.0 - 0.001 * STOP_RATE)
        self.assertAlmostEqual(one.push(0.0, 0.1), 260.0)
        self.assertAlmostEqual(one.push(0.0, -0.1), -420.0)

    def test_a_damper_works_through_its_motion_ratio(self) -> None:
        curve = Curve((0.0, 0.1, 0.2), (30.0, 300.0, 400.0))
        law = DamperLaw(curve, curve, 0.5)
        self.assertAlmostEqual(law.force(0.2), 150.0)
        self.assertAlmostEqual(law.force(0.6), 0.5 * 500.0, msg="the last slope goes on")
        self.assertEqual(law.force(0.0), 0.0, msg="friction does not push at standstill")
        self.assertAlmostEqual(law.measured_to, 0.4)

    def test_what_cannot_be(self) -> None:
        for wrong in (lambda: Curve((0.0,), (1.0,)), lambda: Curve((0.0, 0.0), (1.0, 2.0))):
            with self.assertRaises(Impossible):
                wrong()
        with self.assertRaises(OutOfRange):
            suspension(rate=0.0)


class Quarter(unittest.TestCase):
    def test_integrating_and_the_transfer_function_agree(self) -> None:
        """Second way: an unequal damper that hardly differs is integrated, the equal one is not."""
        uneven = replace(CORNER, rebound_damping=CORNER.rebound_damping * (1 + 1e-9))
        closed, slow = (ride_sine(one, 0.004, 6.0, 15.0) for one in (CORNER, uneven))
        self.assertAlmostEqual(slow.load_variation / closed.load_variation, 1, places=4)
        self.assertAlmostEqual(slow.body_movement_ratio / closed.body_movement_ratio, 1, places=3)
        self.assertAlmostEqual(slow.least_load / closed.least_load, 1, places=4)

    def test_a_tyre_cannot_pull(self) -> None:
        flying = ride_sine(CORNER, 0.02, 1.9, 25.0)
        self.assertTrue(flying.leaves_ground)
        self.assertEqual(flying.least_load, 0.0)
        self.assertGreater(flying.load_variation, 0.5)

    def test_a_very_slow_road_is_followed(self) -> None:
        slow = ride_sine(CORNER, 0.01, 100.0, 1.0)
        self.assertAlmostEqual(slow.body_movement_ratio, 1.0, places=3)
        self.assertLess(slow.load_variation, 1e-4)

    def test_two_masses_swing_a_little_apart_from_one(self) -> None:
        body, hop = CORNER.natural_frequencies()
        one = answer(
            ["ride_frequency_on_tyre", "wheel_hop"],
            {
                "sprung_mass": [230.0] * 4,
                "wheel_rate": [34e3] * 4,
                "tyre_rate": [210e3] * 4,
                "unsprung_mass": [36.0] * 4,
            },
        )
        self.assertTrue(0.95 < body / float(one["ride_frequency_on_tyre"][0]) < 1)
        self.assertTrue(1 < hop / float(one["wheel_hop"][0]) < 1.05)

    def test_over_a_bump_it_comes_to_rest_again(self) -> None:
        found = ride(CORNER, suspension(34e3), roads.bump(0.03, 1.5), 15.0, 5.0)
        self.assertGreater(found.body.max(), 0.005)
        self.assertAlmostEqual(float(found.body[-1]), 0.0, places=5)
        self.assertAlmostEqual(float(found.loads[-1]) / CORNER.weight, 1.0, places=4)
        self.assertGreater(found.load_variation, 0)

    def test_what_cannot_be(self) -> None:
        for name in ("sprung_mass", "wheel_rate", "tyre_rate"):
            with self.assertRaises(OutOfRange) as caught:
                replace(CORNER, **{name: 0.0})
            self.assertEqual(caught.exception.number, name)
        with self.assertRaises(OutOfRange):
            replace(CORNER, bump_damping=-1.0)
        with self.assertRaisesRegex(OutOfRange, "wavelength"):
            ride_sine(CORNER, 0.01, 0.0, 10.0)


class WholeCar(unittest.TestCase):
    def test_settled_in_a_corner_it_agrees_with_the_figures(self) -> None:
        ay = 4.0
        found = drive(car(), LEVEL, 20.0, 5.0, action=roads.ramp(leftward=ay))
        got = answer(
            ["roll_angle", "load_transfer"],
            {
                "pad_mass": PADS,
                "unsprung_mass": UNSPRUNG,
                "wheel_rate": [36e3] * 4,
                "track": [1.52, 1.5],
                "spring_base": [1.52, 1.5],
                "tyre_rate": [220e3] * 4,
                "bar_wheel_rate": [20e3, 10e3],
                "sprung_cg_height": 0.5,
                "wheelbase": 2.5,
                "roll_centre_height": [0.05, 0.1],
                "unsprung_cg_height": [0.3, 0.3],
                "lateral_acceleration": ay,
            },
        )
        self.assertAlmostEqual(float(found.roll[-1] / got["roll_angle"]), 1, delta=0.01)
        gained = (found.loads[-1] - PADS * G)[1::2]
        np.testing.assert_allclose(gained, got["load_transfer"], rtol=0.01)

    def test_settled_under_brakes_and_drive_loads_move_by_height_over_wheelbase(self) -> None:
        for forward in (-6.0, 4.0):
            found = drive(car(), LEVEL, 20.0, 3.5, action=roads.ramp(forward=forward))
            moved = PADS.sum() * forward * 0.48 / 2.5
            gained = found.loads[-1] - PADS * G
            self.assertAlmostEqual(float(gained[2:].sum()), moved, delta=0.01 * abs(moved))
            self.assertAlmostEqual(float(gained.sum()), 0, delta=1.0)
            share = 1 - (0.3 if forward < 0 else 0.4)  # what the links do not carry at the rear
            self.assertAlmostEqual(float(found.travels[-1, 2]), moved * share / 2 / 36e3, places=4)
        self.assertLess(
            drive(car(), LEVEL, 20.0, 3.0, action=roads.ramp(forward=-6.0)).pitch[-1], 0
        )

    def test_a_symmetric_car_stays_so(self) -> None:
        found = drive(car(), roads.Road.alike(roads.bump(0.03, 1.0)), 20.0, 2.0)
        self.assertLess(np.abs(found.roll).max(), 1e-12)
        np.testing.assert_allclose(found.loads[:, 0], found.loads[:, 1], atol=1e-6)
        self.assertGreater(np.abs(found.heave).max(), 1e-3)
        self.assertAlmostEqual(float(found.loads[-1, 0]) / PADS[0] / G, 1, delta=0.02)

    def test_left_and_right_mirrored(self) -> None:
        kerb = roads.kerb(0.04, 0.3, 1.0)
        left = drive(car(), roads.Road(kerb, roads.flat), 20.0, 1.5)
        right = drive(car(), roads.Road(roads.flat, kerb), 20.0, 1.5)
        np.testing.assert_allclose(left.roll, -right.roll, atol=1e-9)
        np.testing.assert_allclose(left.loads[:, [1, 0, 3, 2]], right.loads, atol=1e-3)
        self.assertGreater(left.roll.max(), 0)

    def test_a_kerb_taken_fast_lifts_a_wheel(self) -> None:
        found = drive(car(), roads.Road(roads.kerb(0.08, 0.2, 0.6), roads.flat), 25.0, 1.0)
        self.assertGreater(found.off_the_ground[0], 0)
        self.assertEqual(found.loads.min(), 0.0)

    def test_one_rough_road_tells_two_dampers_apart(self) -> None:
        def varies(rebound: float) -> float:
            legs = tuple(
                replace(suspension(), damper=DamperLaw.straight(rebound / 2, rebound))
                for _ in range(4)
            )
            road = roads.Road(roads.rough("C", 60, 1), roads.rough("C", 60, 2))
            return float(drive(car(suspensions=legs), road, 25.0, 2.0).load_variation.mean())

        self.assertEqual(varies(4000.0), varies(4000.0))
        self.assertLess(varies(4000.0), varies(400.0))

    def test_it_says_when_a_damper_ran_faster_than_it_was_measured(self) -> None:
        slow = Curve((0.0, 0.05), (0.0, 120.0))
        legs = tuple(replace(suspension(), damper=DamperLaw(slow, slow)) for _ in range(4))
        bumpy = roads.Road.alike(roads.bump(0.05, 0.6))
        self.assertTrue(drive(car(suspensions=legs), bumpy, 25.0, 0.6).beyond_damper)
        self.assertFalse(drive(car(suspensions=legs), LEVEL, 25.0, 0.3).beyond_damper)

    def test_progress_is_told_and_a_run_can_be_stopped(self) -> None:
        heard: list[float] = []
        drive(car(), roads.Road.alike(roads.bump(0.03, 1.0)), 20.0, 1.0, progress=heard.append)
        self.assertEqual(heard, sorted(heard))
        self.assertEqual(heard[-1], 1.0)
        self.assertGreater(len(heard), 3)
        with self.assertRaises(Cancelled):
            drive(car(), LEVEL, 20.0, 5.0, progress=lambda share: share < 0.3)

    def test_inertias_nobody_measured(self) -> None:
        pitch, roll = estimated_inertias(900, 1.2, 1.3, 1.5)
        self.assertAlmostEqual(pitch, 900 * 1.2 * 1.3)
        self.assertAlmostEqual(roll, 900 * 0.36)

    def test_what_cannot_be(self) -> None:
        for name, value in (("pitch_inertia", 0.0), ("tyre_rates", np.zeros(4)), ("wheelbase", -1)):
            with self.assertRaises(OutOfRange) as caught:
                car(**{name: value})
            self.assertEqual(caught.exception.number, name)
        for speed, duration in ((20.0, 0.0), (-1.0, 1.0), (float("nan"), 1.0)):
            with self.assertRaises(OutOfRange):
                drive(car(), LEVEL, speed, duration)


class Roads(unittest.TestCase):
    def test_a_rough_road_has_the_roughness_of_its_class(self) -> None:
        at = np.arange(20, 500, 0.05)
        heights = {name: roads.rough(name, 500, 3)(at) for name in "ABC"}
        for rougher, smoother in (("B", "A"), ("C", "B")):
            self.assertAlmostEqual(
                float(heights[rougher].std() / heights[smoother].std()), 2, places=6
            )
        # the power between 0.05 and 5 cycles a metre: G0·n0²·(1/0.05 − 1/5), n0 = 0.1
        power = 256e-6 * 0.1**2 * (1 / 0.05 - 1 / 5)
        self.assertAlmostEqual(float(heights["C"].var()) / power, 1, delta=0.15)

    def test_the_same_seed_is_the_same_road(self) -> None:
        at = np.linspace(0, 50, 100)
        one, again, other = (roads.rough("B", 50, seed)(at) for seed in (1, 1, 2))
        np.testing.assert_array_equal(one, again)
        self.assertGreater(np.abs(one - other).max(), 1e-4)

    def test_shapes(self) -> None:
        at = np.array([4.9, 5.5, 6.1])
        np.testing.assert_allclose(roads.bump(0.02, 1.0)(at), [0, 0.02, 0], atol=1e-12)
        np.testing.assert_allclose(
            roads.kerb(0.05, 0.2, 0.5)(np.array([5.0, 5.4, 5.8, 7.0])),
            [0, 0.05, 0.025, 0],
            atol=1e-12,
        )
        self.assertEqual(roads.ramp(forward=2.0, over=1.0, start=0.0)(0.5), (1.0, 0.0))

    def test_what_cannot_be(self) -> None:
        for wrong in (
            lambda: roads.rough("Z", 10),
            lambda: roads.sine(0.01, 0.0),
            lambda: roads.bump(0.01, -1),
            lambda: roads.ramp(over=0.0),
        ):
            with self.assertRaises(OutOfRange):
                wrong()
