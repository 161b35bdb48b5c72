"""Answers that once were given and had no sense, and numbers that were refused and do exist."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.catalog.checks import check_value
from cabrio.core.errors import Impossible
from cabrio.core.graph.evaluate import answer
from cabrio.core.graph.registry import number_named
from cabrio.core.statics import Change, predict

from .test_statics import CAR


class WhatCannotBe(unittest.TestCase):
    def test_a_spring_bound_where_the_car_stands_is_refused(self) -> None:
        known = {
            "spring_free_length": [0.2] * 4,
            "spring_solid_length": [0.16] * 4,
            "spring_rate": [60e3] * 4,
            "static_compression": [0.045] * 4,
            "motion_ratio": [0.9] * 4,
            "bump_travel": [0.05] * 4,
        }
        with self.assertRaisesRegex(Impossible, "coil-bound where the car stands"):
            answer(["bind_margin"], known)
        known["static_compression"] = [0.03] * 4
        self.assertLess(float(answer(["bind_margin"], known)["bind_margin"][0]), 0)

    def test_a_housing_out_of_round_is_told_apart_from_a_bent_one(self) -> None:
        oval = {"housing_reading": [1.450, 1.452, 1.450, 1.452]}
        self.assertAlmostEqual(
            float(answer(["housing_out_of_round"], oval)["housing_out_of_round"]), 0.002
        )
        self.assertAlmostEqual(float(answer(["housing_bend"], oval)["housing_bend"]), 0.0)
        around = [1.45 + 0.001 * np.cos(0.4 - i * np.pi / 2) for i in range(4)]
        bent = answer(["housing_out_of_round", "housing_bend"], {"housing_reading": around})
        self.assertAlmostEqual(float(bent["housing_out_of_round"]), 0.0)
        self.assertAlmostEqual(float(bent["housing_bend"]), 0.002)

    def test_a_plumb_point_further_off_than_both_diagonals_are_long(self) -> None:
        known = {
            "diagonal": [3.905, 3.9],
            "plumb_distance": 4.2,
            "axle_offset": 0.0,
            "axle_points": 1.5,
        }
        with self.assertRaisesRegex(Impossible, "longer than both diagonals"):
            answer(["axle_skew"], known)

    def test_preload_in_a_bar_that_is_off_is_refused(self) -> None:
        with self.assertRaisesRegex(Impossible, "bar that is off"):
            predict(
                replace(CAR, bars_connected=False),
                Change(bar_wheel_shifts=np.array([0.002, 0.0])),
            )

    def test_long_cars_and_fast_ones(self) -> None:
        for name, typed in (("wheelbase", "7.6 m"), ("speed", "160 m/s")):
            value = check_value(number_named(name), "car", typed, "n_mm", confirmed=True)
            self.assertGreater(value, 6.0)
