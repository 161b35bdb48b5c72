"""Fuel from start to finish: weight is kept, it goes where the tank is, and the balance with it."""

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.car import Given
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.fuel import burn, lacking

from .whole_car import CIRCUIT_SETUP, KNOWN, circuit_car, sheet

GRIP = {"tyre_grip": 2 * [1.5], "tyre_grip_loss": 2 * [0.15], "tyre_grip_load": 2 * [3e3]}
TANK = {"tank_behind_front": [2.1], "fuel_start": [40.0], "fuel_finish": [4.0]}


def fuelled(**told: Any) -> Sheet:
    car = circuit_car()
    given = {name: Given(tuple(values)) for name, values in (TANK | GRIP | told).items()}
    of = sheet(replace(car, given=car.given | given), CIRCUIT_SETUP)
    of.worked.values["fuel_mass"] = np.asarray(20.0)
    return of


class Fuel(unittest.TestCase):
    def test_weight_and_its_place_are_kept(self) -> None:
        of = fuelled()
        weighed, start, finish = burn(of.car, of.worked)
        np.testing.assert_allclose(weighed.pads, of.value("pad_mass"))
        base = KNOWN["wheelbase"][0]
        for one, more in ((start, 20.0), (finish, -16.0)):
            gained = one.pads - weighed.pads
            self.assertAlmostEqual(float(gained.sum()), more)
            self.assertAlmostEqual(float(gained[2:].sum()) * base, more * 2.1)
        self.assertLess(start.front_share, finish.front_share)
        self.assertLess(start.heights[2], finish.heights[2])

    def test_a_tank_to_one_side_moves_the_cross(self) -> None:
        middle = burn(fuelled().car, fuelled().worked)[1]
        left = fuelled(tank_to_left=[0.4])
        aside = burn(left.car, left.worked)[1]
        self.assertGreater(aside.pads[[0, 2]].sum(), middle.pads[[0, 2]].sum() + 4)

    def test_the_balance_goes_with_the_weight_and_the_height_of_the_tank(self) -> None:
        of = fuelled()
        _, start, finish = burn(of.car, of.worked)
        assert start.balance is not None and finish.balance is not None
        self.assertNotAlmostEqual(start.balance, finish.balance, 4)
        high = fuelled(tank_height=[0.9])
        self.assertNotAlmostEqual(
            burn(high.car, high.worked)[1].balance or 0.0, start.balance, places=4
        )
        bare = sheet(circuit_car(), CIRCUIT_SETUP)
        self.assertEqual({need.name for need in lacking(bare.worked)}, set(TANK))
