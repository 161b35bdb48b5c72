"""Side view, holes, squareness and preload: limits, second ways and refusals."""

import unittest
from itertools import product
from math import atan, hypot, sin
from typing import ClassVar

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from cabrio.cases.topics.links import side_view_links
from cabrio.cases.units import Given
from cabrio.core.errors import Impossible, Missing, OutOfRange
from cabrio.core.geometry.four_bar import move
from cabrio.core.geometry.plane import Coincident, Parallel, Point
from cabrio.core.graph.evaluate import answer
from cabrio.core.solve import preload, square
from cabrio.core.solve.one_arm import torque_arm
from cabrio.core.solve.side_view import (
    Driveline,
    HoleSets,
    Wanted,
    anti_squat_band,
    anti_squat_of,
    instant_centre_of,
    search_holes,
    stays_nose_down,
    through_travel,
)

X, Z = np.array([0.45, 0.04, 0.6, 0.03]), np.array([0.34, 0.44, 0.2, 0.17])
RADIUS = 0.32
LINE = Driveline(-0.03, (0.3, 0.32), (1.4, 0.35))
bolt = st.floats(-0.06, 0.06)


class InstantCentre(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.lists(bolt, min_size=8, max_size=8), st.floats(-0.08, 0.08))
    def test_it_is_where_the_housing_has_no_speed(self, moved: list[float], travel: float) -> None:
        """Second way: the axle moved a little both ways; the point of its housing that stood still."""
        x, z = X + np.array(moved[:4]), Z + np.array(moved[4:])
        step = 1e-6
        views = through_travel(
            x,
            z,
            travels=[travel - step, travel, travel + step],
            radius=RADIUS,
            wheelbase=2.6,
            cg_height=0.5,
        )
        before, here, after = views
        turning = (after.housing_turn - before.housing_turn) / (2 * step)
        forward = (after.axle_shift - before.axle_shift) / (2 * step)
        if abs(turning) < 0.05 or not isinstance(here.centre, Point):
            return  # so far away that a difference no longer finds it
        self.assertAlmostEqual(here.centre.x, -1 / turning, delta=1e-4 * abs(1 / turning))
        self.assertAlmostEqual(
            here.centre.z, RADIUS + forward / turning, delta=1e-4 * max(1, abs(forward / turning))
        )

    def test_bars_keep_their_lengths(self) -> None:
        moved = move(X, Z, np.asarray(RADIUS), np.linspace(-0.1, 0.1, 9))
        for chassis, axle in ((0, 1), (2, 3)):
            was = hypot(X[chassis] - X[axle], Z[chassis] - Z[axle])
            now = np.hypot(
                moved.x[:, chassis] - moved.x[:, axle], moved.z[:, chassis] - moved.z[:, axle]
            )
            np.testing.assert_allclose(now, was, rtol=1e-12)

    def test_parallel_is_an_answer(self) -> None:
        x, z = np.array([0.5, 0.0, 0.5, 0.0]), np.array([0.45, 0.42, 0.23, 0.2])
        centre = instant_centre_of(x, z)
        assert isinstance(centre, Parallel)
        self.assertAlmostEqual(centre.slope or 0.0, 0.06)
        self.assertAlmostEqual(anti_squat_of(centre, 0.5, 2.6), 0.06 * 2.6 / 0.5)
        known = {
            "bolt_x": x,
            "bolt_z": z,
            "cg_height": 0.5,
            "wheelbase": 2.6,
            "rear_drive_share": 1.0,
        }
        self.assertAlmostEqual(float(answer(["anti_squat"], known)["anti_squat"]), 0.312)
        self.assertEqual(float(answer(["pinion_per_bump"], known)["pinion_per_bump"]), 0.0)
        with self.assertRaisesRegex(Impossible, r"parallel, with a slope of \+0.0600"):
            answer(["ic_x"], known)

    def test_the_limit_toward_parallel_is_smooth(self) -> None:
        def squat(tilt: float) -> float:
            z = np.array([0.45 + tilt, 0.42, 0.23, 0.2])
            known = {
                "bolt_x": [0.5, 0.0, 0.5, 0.0],
                "bolt_z": z,
                "cg_height": 0.5,
                "wheelbase": 2.6,
                "rear_drive_share": 1.0,
            }
            return float(answer(["anti_squat"], known)["anti_squat"])

        self.assertAlmostEqual(squat(1e-7), squat(0.0), places=5)
        self.assertAlmostEqual(squat(-1e-7), squat(0.0), places=5)

    def test_coincident_upright_and_above_the_axle(self) -> None:
        line = np.array([0.5, 0.0, 0.7, 0.1]), np.array([0.3, 0.2, 0.34, 0.22])
        self.assertIsInstance(instant_centre_of(*line), Coincident)
        with self.assertRaisesRegex(Impossible, "one line"):
            anti_squat_of(Coincident(0.1), 0.5, 2.5)
        for x, z, message in (
            (line[0], line[1], "one line"),
            ([0.0, 0.0, 0.5, 0.0], [0.4, 0.4, 0.2, 0.2], "one place"),
            ([0.5, 0.25, 0.5, 0.25], [0.2, 0.4, 0.5, 0.55], "straight above"),
        ):
            if message == "straight above":  # both lines through (0, 0.6)
                x, z = [0.5, 0.25, 0.5, 0.25], [0.2, 0.4, 0.5, 0.55]
            with self.subTest(message), self.assertRaisesRegex(Impossible, message):
                answer(["swing_slope"], {"bolt_x": x, "bolt_z": z})
        with self.assertRaisesRegex(Impossible, "upright"):
            anti_squat_of(Parallel(None), 0.5, 2.5)
        with self.assertRaisesRegex(Impossible, "upright"):
            answer(["upper_bar_slope"], {"bolt_x": [0.1, 0.1, 0.5, 0.0], "bolt_z": Z})

    def test_a_travel_the_bars_cannot_reach(self) -> None:
        with self.assertRaisesRegex(Impossible, "do not reach"):
            move(X, Z, np.asarray(RADIUS), np.array([0.9]))

    def test_a_band_for_a_height_that_is_not_sure(self) -> None:
        low, high = anti_squat_band(1.2, 0.5, 0.05)
        self.assertAlmostEqual(low, 1.2 * 0.5 / 0.55)
        self.assertAlmostEqual(high, 1.2 * 0.5 / 0.45)
        self.assertEqual(anti_squat_band(1.2, 0.5, 0.0), (1.2, 1.2))
        with self.assertRaises(OutOfRange):
            anti_squat_band(1.2, 0.5, 0.5)

    def test_bars_pass_the_drive_on(self) -> None:
        """Second way: level bars at two heights share the drive by their lever over the ground."""
        level = {
            "bolt_x": [0.5, 0.0, 0.5, 0.0],
            "bolt_z": [0.4, 0.4, 0.2, 0.2],
            "total_mass": 1000.0,
            "launch_acceleration": 10.0,
            "rear_drive_share": 1.0,
        }
        got = answer(["upper_bar_force", "lower_bar_force"], level)
        self.assertAlmostEqual(float(got["upper_bar_force"]), -5000.0)
        self.assertAlmostEqual(float(got["lower_bar_force"]), 10000.0)
        with self.assertRaisesRegex(Impossible, "cannot carry the drive"):
            answer(["upper_bar_force"], level | {"bolt_z": [0.3, 0.3, 0.3, 0.3]})

    def test_three_link_and_torque_arm(self) -> None:
        centre = torque_arm(((0.6, 0.2), (0.03, 0.17)), (1.2, 0.25))
        assert isinstance(centre, Point)
        self.assertAlmostEqual(centre.x, 1.2)
        self.assertAlmostEqual(centre.z, 0.17 + (1.2 - 0.03) * 0.03 / 0.57)
        given = {
            "lower_chassis_m": [0.6, 0.2],
            "lower_axle_m": [0.03, 0.17],
            "torque_arm_front_m": [1.2, 0.25],
            "wheelbase_m": 2.6,
            "cg_height_m": 0.5,
            "rear_brake_share": 0.4,
        }
        got = side_view_links(Given(given))
        squat = 100 * centre.z / centre.x * 2.6 / 0.5
        self.assertAlmostEqual(got["anti_squat_percent"], squat)
        self.assertAlmostEqual(got["anti_lift_percent"], 0.4 * squat)
        self.assertEqual((got["ic_x_m"], got["ic_z_m"]), (centre.x, centre.z))
        with self.assertRaisesRegex(Impossible, "stands upright"):
            side_view_links(Given(given | {"lower_chassis_m": [0.03, 0.4]}))

    def test_the_pinion_curve_starts_at_what_was_read(self) -> None:
        views = through_travel(
            X,
            Z,
            travels=[-0.05, 0.0, 0.05],
            radius=RADIUS,
            wheelbase=2.6,
            cg_height=0.5,
            driveline=LINE,
        )
        shaft = atan(0.03 / 1.1)
        self.assertAlmostEqual(views[1].pinion_angle or 0, -0.03 - shaft)
        self.assertAlmostEqual(views[1].shaft_slope or 0, shaft)
        self.assertIs(stays_nose_down(views), True)
        front, rear = views[1].joint_angles(0.02) or (0.0, 0.0)
        self.assertAlmostEqual(front, abs(shaft - 0.02))
        self.assertAlmostEqual(rear, 0.03 + shaft)
        bare = through_travel(X, Z, travels=[0.0], radius=RADIUS, wheelbase=2.6, cg_height=0.5)
        self.assertIsNone(stays_nose_down(bare))
        self.assertIsNone(bare[0].joint_angles(0.02))


class Holes(unittest.TestCase):
    SETS = HoleSets(
        tuple((0.45, 0.32 + 0.02 * i) for i in range(3)),
        ((0.04, 0.42), (0.04, 0.45)),
        tuple((0.6, 0.18 + 0.02 * i) for i in range(3)),
        ((0.03, 0.16), (0.03, 0.18)),
    )
    CAR: ClassVar[dict[str, float]] = {"wheelbase": 2.6, "cg_height": 0.5}

    def test_the_whole_search_by_hand(self) -> None:
        """Second way: every combination on its own, ranked by the same distance."""
        wanted = Wanted(1.2, 0.9)
        count, best = search_holes(self.SETS, (0, 0, 0, 0), wanted, show=36, **self.CAR)
        slow = []
        for picks in product(range(3), range(2), range(3), range(2)):
            brackets = (
                self.SETS.upper_chassis,
                self.SETS.upper_axle,
                self.SETS.lower_chassis,
                self.SETS.lower_axle,
            )
            points = np.array([b[i] for b, i in zip(brackets, picks, strict=True)])
            centre = instant_centre_of(points[:, 0], points[:, 1])
            if isinstance(centre, Point) and centre.x > 0:
                squat = anti_squat_of(centre, 0.5, 2.6)
                slow.append((hypot((squat - 1.2) / 0.1, (centre.x - 0.9) / 0.1), picks))
        self.assertEqual(count, 36)
        self.assertEqual(len(best), len(slow))
        np.testing.assert_allclose([one.score for one in best], sorted(score for score, _ in slow))
        self.assertEqual(best[0].holes, min(slow)[1])

    def test_pinion_over_the_travel_comes_with_each(self) -> None:
        _, best = search_holes(
            self.SETS,
            (0, 0, 0, 0),
            Wanted(1.2, 0.9),
            show=3,
            radius=RADIUS,
            travels=[-0.06, 0.0, 0.05],
            driveline=LINE,
            **self.CAR,
        )
        for one in best:
            x = [(0.45), (0.04), (0.6), (0.03)]
            z = [
                self.SETS.upper_chassis[one.holes[0]][1],
                self.SETS.upper_axle[one.holes[1]][1],
                self.SETS.lower_chassis[one.holes[2]][1],
                self.SETS.lower_axle[one.holes[3]][1],
            ]
            views = through_travel(
                np.array(x),
                np.array(z),
                travels=[-0.06, 0.0, 0.05],
                radius=RADIUS,
                driveline=LINE,
                **self.CAR,
            )
            angles = [view.pinion_angle or 0.0 for view in views]
            assert one.pinion_range is not None
            np.testing.assert_allclose(one.pinion_range, (min(angles), max(angles)), atol=1e-12)

    def test_refusals(self) -> None:
        with self.assertRaises(Missing):
            search_holes(HoleSets((), (), (), ()), (0, 0, 0, 0), Wanted(1, 1), **self.CAR)
        with self.assertRaises(OutOfRange):
            search_holes(self.SETS, (0, 0, 0, 0), Wanted(1, 1, ic_scale=0), **self.CAR)


class LinkPreload(unittest.TestCase):
    READ = (preload.BiteReading(0, 240, 230), preload.BiteReading(-1, 246, 226))

    def test_the_slope_of_two_readings(self) -> None:
        bite = preload.bite_per_flat(self.READ)
        self.assertAlmostEqual(bite.per_flat, -10)
        self.assertAlmostEqual(bite.at_neutral, 10)
        self.assertIsNone(bite.scatter)
        self.assertEqual(preload.flats_for_bite(bite, 25), -1.5)
        more = preload.bite_per_flat([*self.READ, preload.BiteReading(-1, 245, 227)])
        self.assertGreater(more.scatter or 0, 0)

    def test_no_readings_no_number(self) -> None:
        with self.assertRaisesRegex(Missing, "one at neutral and one at a flat"):
            preload.bite_per_flat([self.READ[0], self.READ[0]])

    def test_beyond_two_flats_and_triangulated(self) -> None:
        with self.assertRaisesRegex(Impossible, "beyond two flats"):
            preload.flats_for_bite(preload.bite_per_flat(self.READ), 60)
        self.assertTrue(preload.beyond_limit(2.5) and not preload.beyond_limit(-2))
        with self.assertRaisesRegex(Impossible, "drop link"):
            preload.refuse_triangulated(True)
        with self.assertRaisesRegex(Impossible, "do not move"):
            preload.flats_for_bite(preload.Bite(0.0, 1.0, None), 5)
        # said in the units of the car
        with self.assertRaisesRegex(Impossible, "^100 lb of bite would take"):
            preload.flats_for_bite(preload.Bite(-8.0, 2.0, None), 45.3592, profile="imperial")

    def test_signs(self) -> None:
        self.assertEqual(
            [preload.loads(f) for f in (-1, 0, 1)], ["left rear", "none", "right rear"]
        )
        longer = answer(
            ["preload_length_change"],
            {"link_preload": -1.0, "left_hand_pitch": 0.0015, "right_hand_pitch": 0.0015},
        )
        self.assertAlmostEqual(float(longer["preload_length_change"]), 0.0005)


class Square(unittest.TestCase):
    @settings(max_examples=40)
    @given(st.floats(-0.02, 0.02), st.floats(-0.03, 0.03))
    def test_a_skew_that_was_put_in_comes_out(self, skew: float, offset: float) -> None:
        """Second way: the axle's ends as points turned by the skew, their diagonals by Pythagoras."""
        half, far = 0.75, 3.8
        left = hypot(far + half * sin(skew), offset + half * np.cos(skew))
        right = hypot(far - half * sin(skew), offset - half * np.cos(skew))
        got = answer(
            ["axle_skew"],
            {
                "diagonal": [left, right],
                "plumb_distance": far,
                "axle_offset": offset,
                "axle_points": 2 * half,
            },
        )
        self.assertAlmostEqual(float(got["axle_skew"]), skew, places=10)

    def test_equal_diagonals_off_centre_are_not_square(self) -> None:
        got = answer(
            ["axle_skew"],
            {
                "diagonal": [3.9, 3.9],
                "plumb_distance": 3.8,
                "axle_offset": 0.01,
                "axle_points": 1.5,
            },
        )
        self.assertAlmostEqual(float(got["axle_skew"]), -atan(0.01 / 3.8))

    def test_the_correction_is_told_by_side(self) -> None:
        self.assertEqual(square.correction(-0.004), square.Correction("right", 0.004, 0.002))
        self.assertEqual(square.trailing_side(0.0), "none")
        self.assertTrue(square.straight_enough(0.001, 0.0015))

    @given(st.floats(0, 2 * np.pi), st.floats(0.0002, 0.003))
    def test_bend_is_free_of_clock_position(self, clock: float, bend: float) -> None:
        spots = clock + np.arange(4) * np.pi / 2
        around = 1.45 + bend / 2 * np.cos(spots)
        got = answer(["housing_bend", "housing_spread"], {"housing_reading": around})
        self.assertAlmostEqual(float(got["housing_bend"]), bend, places=12)
        self.assertLessEqual(float(got["housing_spread"]), bend + 1e-12)
