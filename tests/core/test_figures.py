"""Properties of the formulas, and refusals at their edges."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from cabrio.core.constants import STANDARD_GRAVITY
from cabrio.core.errors import Impossible
from cabrio.core.figures import frequency, masses, springs
from cabrio.core.figures.shapes import worked_once
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.graph.registry import figures, run
from tests.support.cars import PADS, SETUP, sheet

MASS = st.floats(50, 600)


class Masses(unittest.TestCase):
    @given(MASS, MASS, MASS, MASS)
    def test_swapping_sides_mirrors(self, lf: float, rf: float, lr: float, rr: float) -> None:
        track = np.array([1.5, 1.6])
        here, mirrored = np.array([lf, rf, lr, rr]), np.array([rf, lf, rr, lr])
        total = masses.total_mass(here)
        self.assertAlmostEqual(
            float(masses.cg_offset(here, track, total)),
            -float(masses.cg_offset(mirrored, track, total)),
        )
        self.assertAlmostEqual(
            float(masses.cross_share(here, total)), 1 - float(masses.cross_share(mirrored, total))
        )

    @given(st.floats(0.3, 0.7), st.floats(0.3, 0.7))
    def test_balanced_cross_makes_both_axles_alike(self, front: float, left: float) -> None:
        cross = masses.balanced_cross(np.array(front), np.array(left))
        # load moved round the diagonals until the cross is the balanced one
        lf, rf = front * left, front * (1 - left)
        lr = (1 - front) * left
        self.assertAlmostEqual(rf + lr, float(cross))
        self.assertAlmostEqual(lf / rf, lr / ((1 - front) * (1 - left)))

    def test_an_empty_pad_sheet_is_refused(self) -> None:
        with self.assertRaisesRegex(Impossible, "The pads read nothing"):
            masses.total_mass(np.zeros(4))

    def test_a_heavy_hub_is_named_by_its_corner(self) -> None:
        with self.assertRaises(Impossible) as caught:
            masses.sprung_mass(np.array(PADS), np.array([30.0, 30.0, 34.0, 400.0]))
        self.assertEqual((caught.exception.number, caught.exception.place), ("unsprung_mass", "RR"))


class Frequencies(unittest.TestCase):
    @given(st.floats(0.8, 5.0), st.floats(0.4, 1.2), st.floats(80, 400))
    def test_the_asked_spring_gives_the_target(
        self, target: float, ratio: float, sprung: float
    ) -> None:
        values = {
            "pad_mass": [sprung + 30] * 4,
            "unsprung_mass": [30.0] * 4,
            "motion_ratio": [ratio] * 4,
            "target_frequency": [target] * 2,
            "track": [1.5] * 2,
            "spring_base": [1.5] * 2,
        }
        rate = evaluate(values).values["target_spring_rate"][0]
        back = evaluate(values | {"spring_rate": [rate] * 4}).values["axle_frequency"]
        np.testing.assert_allclose(back, target, rtol=1e-12)

    def test_a_beam_s_springs_bear_its_wheels_difference_on_a_shorter_arm(self) -> None:
        mass, ratio = np.array([200.0, 200.0, 260.0, 220.0]), np.ones(4)
        base, track = np.array([1.5, 0.9]), np.array([1.5, 1.5])
        force = springs.spring_force(mass, ratio, base, track) / STANDARD_GRAVITY
        np.testing.assert_allclose(force[:2], [200.0, 200.0])  # an independent axle: its own wheels
        np.testing.assert_allclose(force[2:].sum(), 480.0)
        # about the right spring: wheels at 1.5 apart, springs at 0.9
        np.testing.assert_allclose(force[2] * 0.9, 260 * (0.9 + 0.3) - 220 * 0.3)
        with self.assertRaisesRegex(Impossible, "have to pull"):
            springs.spring_force(np.array([200.0, 200.0, 400.0, 20.0]), ratio, base, track)

    def test_rate_goes_with_the_square_of_frequency(self) -> None:
        once = frequency.target_wheel_rate(np.array([1.0, 2.0]), np.full(4, 200.0))
        self.assertAlmostEqual(once[1] / once[0], 4.0)

    def test_beyond_the_tyre_the_limit_is_said(self) -> None:
        with self.assertRaises(Impossible) as caught:
            frequency.target_wheel_rate_on_tyre(
                np.array([2.0, 6.0]), np.full(4, 200.0), np.full(4, 2e5)
            )
        self.assertEqual(caught.exception.place, "rear")
        self.assertIn("aim below 5.03 Hz", caught.exception.sentence)

    def test_a_falling_ratio_that_leaves_no_rate_is_refused(self) -> None:
        with self.assertRaisesRegex(Impossible, "falling motion ratio"):
            springs.wheel_rate(
                np.full(4, 2e4), np.full(4, 0.5), np.full(4, 4e3), np.full(4, -3.0), np.zeros(4)
            )


class Graph(unittest.TestCase):
    def test_a_batch_is_the_same_as_one_at_a_time(self) -> None:
        base = dict(sheet().worked.values)
        rates = np.array([[5e4] * 4, [7e4] * 4, [9e4] * 4])
        inputs = {name: base[name] for name in base if name not in figures()}
        batch = run(inputs | {"spring_rate": rates}).values
        for i, row in enumerate(rates):
            single = run(inputs | {"spring_rate": row}).values
            for name in ("wheel_rate", "axle_frequency", "seat_at_droop", "frequency_ratio"):
                np.testing.assert_allclose(batch[name][i], single[name], rtol=1e-12)

    def test_what_is_missing_is_named_down_to_the_corner(self) -> None:
        found = sheet(motion_ratio=[0.9, 0.9, None, 0.9])
        needs = found.worked.missing["wheel_rate"]
        self.assertEqual([need.sentence for need in needs], ["motion ratio, LR"])
        self.assertIsNotNone(found.value("cross_share"))

    def test_a_refusal_stops_only_what_needs_it(self) -> None:
        found = sheet(unsprung_mass=[300.0, 30.0, 34.0, 34.0])
        self.assertIn("sprung_mass", found.worked.refused)
        self.assertIsNone(found.value("axle_frequency"))
        self.assertIsNotNone(found.value("front_share"))
        self.assertEqual(found.setup, SETUP)


class WorkedOnce(unittest.TestCase):
    def test_the_same_arrays_are_worked_once_and_others_anew(self) -> None:
        asked: list[float] = []

        @worked_once
        def double(one: np.ndarray) -> np.ndarray:
            asked.append(float(one))
            if one < 0:
                raise Impossible("Below zero.")
            return 2 * one

        here, alike = np.array(3.0), np.array(3.0)
        self.assertEqual((double(here), double(here), double(alike)), (6.0, 6.0, 6.0))
        self.assertEqual(asked, [3.0, 3.0])  # another array is another question, however alike
        below = np.array(-1.0)
        for _ in range(2):
            with self.assertRaises(Impossible):
                double(below)
        self.assertEqual(len(asked), 4)
