"""Limits walked together against each walked alone, and those found from a limit that is near."""

from __future__ import annotations

import unittest

import numpy as np

from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.grip import balance, spare
from cabrio.core.under_load.limits import (
    first,
    first_each,
    first_lift,
    lift_and_roll_over,
    roll_over,
    sideways_measure,
    wheels_left,
)
from cabrio.core.under_load.look import look
from cabrio.core.under_load.near import axle_limits, over
from cabrio.core.under_load.of_sheet import loaded_car
from cabrio.core.under_load.state import Loaded, load

from .test_one_step import CIRCUIT, GRIP

CAR = loaded_car(CIRCUIT.car, CIRCUIT.worked)
SPEED = 45.0


def sideways(sizes: np.ndarray) -> Demand:  # type: ignore[type-arg]
    return Demand(np.zeros_like(sizes), sizes, np.full_like(sizes, SPEED))


class Together(unittest.TestCase):
    def test_events_walked_together_are_found_where_each_is_alone(self) -> None:
        most = sideways_measure(CAR, SPEED)
        lefts = [wheels_left, None, lambda states: spare(GRIP, 0, states)]
        for found, left in zip(first_each(CAR, sideways, most, lefts), lefts, strict=True):
            alone = first(CAR, sideways, most, left)
            assert found is not None and alone is not None
            self.assertAlmostEqual(found.at / alone.at, 1.0, 7)
            self.assertTrue(found.before.holds[0])

    def test_an_event_that_never_comes_leaves_the_others_be(self) -> None:
        def never(states: Loaded) -> np.ndarray:  # type: ignore[type-arg]
            return np.ones(len(states.holds))

        measure = sideways_measure(CAR, SPEED)
        events = [never, lambda s: 1.0 - np.abs(s.demand.sideways)]
        found = first_each(CAR, sideways, measure, events)
        rolled = roll_over(CAR, Demand(0.0, 0.0, SPEED), True)
        assert found[0] is not None and found[1] is not None
        self.assertAlmostEqual(found[0].at, rolled.at, 5)
        self.assertAlmostEqual(found[1].at, 1.0, 6)

    def test_lift_and_roll_over_are_the_two_of_them(self) -> None:
        demand = Demand(0.0, 0.0, SPEED)
        for left_turn in (True, False):
            lift, rolled = lift_and_roll_over(CAR, demand, left_turn)
            alone = first_lift(CAR, demand, left_turn)
            over = roll_over(CAR, demand, left_turn)
            assert lift is not None and rolled is not None and alone is not None
            self.assertAlmostEqual(lift[0], alone[0], 5)
            self.assertEqual(lift[1], alone[1])
            self.assertAlmostEqual(rolled.at, over.at, 5)
            self.assertGreater(rolled.at, abs(lift[0]))

    def test_a_limit_is_where_its_axle_has_nothing_left(self) -> None:
        found = balance(CAR, GRIP, Demand(0.0, 0.0, SPEED))
        for axle, limit in enumerate((found.front, found.rear)):
            assert limit is not None
            state = load(CAR, Demand(0.0, limit, SPEED))
            self.assertAlmostEqual(float(spare(GRIP, axle, state)[0]), 0.0, 6)

    def test_a_look_is_those_limits(self) -> None:
        told = look(CAR, GRIP, Demand(0.0, 9.0, SPEED))
        lift, rolled = lift_and_roll_over(CAR, Demand(0.0, 0.0, SPEED), True)
        assert rolled is not None and told.roll_over is not None
        self.assertEqual(told.lift, lift)
        self.assertAlmostEqual(told.roll_over, rolled.at)


class Near(unittest.TestCase):
    HERE = balance(CAR, GRIP, Demand(0.0, 0.0, SPEED))

    def test_both_axles_in_one_batch_are_as_one_by_one(self) -> None:
        speeds = np.array([0.0, 30.0, 60.0])
        front, rear = axle_limits(CAR, GRIP, Demand(0.0, 0.0, speeds), self.HERE)
        for i, speed in enumerate(speeds):
            alone = balance(CAR, GRIP, Demand(0.0, 0.0, float(speed)))
            assert alone.front is not None and alone.rear is not None
            self.assertAlmostEqual(front[i], alone.front, 4)
            self.assertAlmostEqual(rear[i], alone.rear, 4)

    def test_around_a_demand_the_middle_is_the_balance_itself(self) -> None:
        found = over(CAR, GRIP, Demand(0.0, 0.0, SPEED), self.HERE)
        at = [acceleration for acceleration in found.sideways if acceleration is not None]
        self.assertGreater(len(at), 5)
        straight = float(
            np.interp(0.0, found.along, [np.nan if v is None else v for v in found.sideways])
        )
        self.assertAlmostEqual(straight / abs(self.HERE.car), 1.0, 1)
