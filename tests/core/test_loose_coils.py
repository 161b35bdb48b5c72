"""Cars whose coils come loose before their droop stops, off-centre cars and one-sided air: limits and states."""

import unittest

import numpy as np

from cabrio.core.under_load.air import Air
from cabrio.core.under_load.car import LoadedCar
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.limits import first_front_lift, lift_and_roll_over, wheels_up
from cabrio.core.under_load.look import look
from cabrio.core.under_load.state import load

from .test_load_parts import plain

STANDS, GONE = np.linspace(0.02, 0.999, 25), np.array([1.002, 1.05])


def drawn(rng: np.random.Generator) -> LoadedCar:
    """A car drawn at random, its centre of gravity anywhere and its stops often past a loose coil."""
    left, front, mass = rng.uniform(0.38, 0.62), rng.uniform(0.42, 0.6), rng.uniform(800, 1300)
    sides = np.array([left, 1 - left])
    air = Air(1.2, rng.uniform(0, 2.2, 2), 0.9, 0.45) if rng.integers(2) else None
    return plain(
        pads=mass * np.concatenate([front * sides, (1 - front) * sides]),
        cg_height=rng.uniform(0.35, 0.55),
        spring_rates=rng.uniform(50e3, 200e3, 2).repeat(2),
        ratios=rng.uniform(0.7, 1, 2).repeat(2),
        droop=rng.uniform(0.03, 0.1, 2).repeat(2),
        bump=rng.uniform(0.04, 0.08, 2).repeat(2),
        bar_rates=rng.choice([0, 20e3, 40e3], 2),
        beam=(False, bool(rng.integers(2))),
        spring_bases=np.array([1.5, 1.3]),
        anti_driving=np.array([0, rng.uniform(0, 0.8)]),
        anti_braking=rng.uniform(0, 0.3, 2),
        air=air,
    )


class StateAndLimit(unittest.TestCase):
    """A state and the limit beside it never contradict each other."""

    def test_up_to_a_limit_the_car_stands_and_past_it_there_is_no_state(self) -> None:
        rng = np.random.default_rng(5)
        loose = 0
        for _ in range(3):
            car = drawn(rng)
            speed = float(rng.choice([0.0, 40.0, 70.0]))
            loose += bool(car.may_come_loose)
            for sign in (1.0, -1.0):
                lift, over = lift_and_roll_over(car, Demand(0.0, 0.0, speed), sign > 0)
                assert lift is not None and over is not None
                sizes = np.concatenate([STANDS, GONE]) * over.at
                states = load(car, Demand(0 * sizes, sign * sizes, np.full_like(sizes, speed)))
                self.assertEqual(states.holds.tolist(), (sizes < over.at).tolist())
                clear = np.abs(sizes / abs(lift[0]) - 1) > 1e-4
                wrong = states.holds & clear & (states.lifted.any(-1) != (sizes > abs(lift[0])))
                self.assertFalse(wrong.any(), (lift, sizes[wrong]))
                up = wheels_up(car, speed, forward=sign > 0)
                sizes = np.concatenate([STANDS, GONE]) * up
                states = load(car, Demand(sizes, 0 * sizes, np.full_like(sizes, speed)))
                self.assertEqual(states.holds.tolist(), (np.abs(sizes) < abs(up)).tolist())
        self.assertGreater(loose, 1)

    def test_a_wheel_falls_to_its_stop_and_the_car_stands_again(self) -> None:
        """Rear coils of 180 N/mm are loose long before the stop: the braking goes on past the jump."""
        car = plain(spring_rates=np.array([70e3, 70e3, 180e3, 180e3]), droop=np.full(4, 0.05))
        sizes = -np.linspace(10.0, 1.2 * abs(wheels_up(car, 0.0, forward=False)), 200)
        states = load(car, Demand(sizes, 0 * sizes, 0 * sizes))
        last = int(np.flatnonzero(states.holds)[-1])
        self.assertTrue(states.holds[: last + 1].all())
        self.assertTrue(states.on_droop_stop[last, 2:].all())
        self.assertAlmostEqual(wheels_up(car, 0.0, forward=False) / sizes[last], 1.0, 1)


class OffTheMiddle(unittest.TestCase):
    def test_each_turn_of_a_car_with_62_percent_left_has_its_own_limits(self) -> None:
        pads = 1000.0 * np.array([0.31, 0.19, 0.31, 0.19])
        car = plain(pads=pads)
        ends = {}
        for left_turn in (True, False):
            lift, over = lift_and_roll_over(car, Demand(), left_turn)
            assert lift is not None and over is not None
            ends[left_turn] = over.at
            # the wheels that lift are the inside ones, and the car does not go over before they do
            self.assertIn(lift[1], ("LF", "LR") if left_turn else ("RF", "RR"))
            self.assertLess(abs(lift[0]), over.at)
        self.assertGreater(ends[True], 1.3 * ends[False])


class AirOnOneEnd(unittest.TestCase):
    def test_braking_and_launching_with_air_on_one_axle(self) -> None:
        for areas, along in (((0.3, 1.0), -9.0), ((1.0, 2.6), -9.0), ((1.5, 0.5), 5.0)):
            car = plain(air=Air(1.2, np.array(areas), 0.9))
            found = look(car, None, Demand(along, 0.0, 80.0))
            assert found.wheels_up is not None and found.state is not None
            self.assertGreater(abs(found.wheels_up), abs(along))
            # the rigid car: what the air and the weight press there, over the height
            front = along > 0
            arm = car.places[0, 0] if not front else -car.places[2, 0]
            pressed = 0.5 * 1.2 * 80.0**2 * areas[0 if front else 1] * float(car.wheelbase)
            rigid = (float(car.mass) * 9.80665 * arm + pressed) / (float(car.mass) * 0.45)
            # the air sinks the car, so that it takes more than the rigid one
            self.assertTrue(1.0 < abs(found.wheels_up) / rigid < 1.25)
        launch = first_front_lift(plain(air=Air(1.2, np.array([1.5, 0.5]), 0.9)), 70.0)
        assert launch is not None
        self.assertGreater(launch[0], 5.0)
