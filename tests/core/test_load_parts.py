"""What the loaded car is made of: air, rubbers, demands, side views, and cars drawn at random."""

import unittest
from dataclasses import replace
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from cabrio.core.constants import STANDARD_GRAVITY as G
from cabrio.core.errors import CoreError, Impossible, OutOfRange
from cabrio.core.figures.rubber import rubber_force, rubber_rate
from cabrio.core.under_load.air import Air, AirMap
from cabrio.core.under_load.car import LoadedCar, Rubber, SideView
from cabrio.core.under_load.demand import Demand, Shaft
from cabrio.core.under_load.grip import Cornering, Tyres, balance, understeer_gradient
from cabrio.core.under_load.limits import first_lift, roll_over, wheels_up
from cabrio.core.under_load.state import load, loaded

CURVE = np.array([[0.0, 0.005, 0.01, 0.02], [0.0, 300.0, 1200.0, 4200.0]])
MAP = AirMap(
    np.array([0.02, 0.04]),
    np.array([0.03, 0.05, 0.08]),
    np.array([[1.4, 1.5, 1.6], [1.0, 1.1, 1.2]]),
    np.array([[2.0, 2.1, 2.2], [1.8, 1.9, 2.0]]),
    np.array([[0.9, 0.95, 1.0], [0.8, 0.85, 0.9]]),
)


def plain(**changed: Any) -> LoadedCar:
    """An even car on straight springs, with nothing that touches or lifts early."""
    of: dict[str, Any] = {
        "wheelbase": 2.5,
        "tracks": np.array([1.5, 1.5]),
        "pads": np.array([260.0, 250.0, 240.0, 245.0]),
        "unsprung": np.full(4, 35.0),
        "unsprung_heights": np.array([0.3, 0.3]),
        "cg_height": 0.45,
        "roll_centres": np.array([0.05, 0.1]),
        "spring_rates": np.array([60e3, 60e3, 70e3, 70e3]),
        "ratios": np.array([0.95, 0.95, 0.85, 0.85]),
        "tyre_rates": np.full(4, 220e3),
        "bar_rates": np.array([25e3, 15e3]),
    }
    return LoadedCar(**of | changed)


class TheRubber(unittest.TestCase):
    def test_its_rate_is_the_slope_of_its_force(self) -> None:
        for at in (-0.003, 0.002, 0.007, 0.015, 0.03):
            rise = rubber_force(CURVE, np.asarray(at + 1e-7)) - rubber_force(
                CURVE, np.asarray(at - 1e-7)
            )
            self.assertAlmostEqual(
                float(rise) / 2e-7, float(rubber_rate(CURVE, np.asarray(at))), delta=1.0
            )

    def test_nothing_until_it_is_touched_and_straight_on_past_its_end(self) -> None:
        rubber = Rubber(0.01, 0.8, CURVE)
        self.assertEqual(float(rubber.force(np.asarray(0.0124))), 0.0)
        end = (0.02 + 0.01) / 0.8
        self.assertAlmostEqual(float(rubber.force(np.asarray(end))), 0.8 * 4200.0)
        past = rubber.force(np.asarray(end + 0.01)) - rubber.force(np.asarray(end))
        self.assertAlmostEqual(float(past), 0.8**2 * 0.01 * 300e3)

    def test_a_table_that_falls_or_starts_elsewhere_is_refused(self) -> None:
        for wrong in (
            [[0.0, 0.01], [0.0, -5.0]],
            [[0.001, 0.01], [0.0, 5.0]],
            [[0.0], [0.0]],
            [[0.0, 0.01, 0.01], [0.0, 5.0, 9.0]],
        ):
            with self.assertRaises(OutOfRange):
                Rubber(0.01, 1.0, np.array(wrong))
        with self.assertRaisesRegex(OutOfRange, "gap cannot be below zero"):
            Rubber(-0.001, 1.0, CURVE)


class TheAir(unittest.TestCase):
    def test_between_its_points_a_map_is_straight(self) -> None:
        lift, drag = MAP.at(np.array([0.03, 0.04]))
        np.testing.assert_allclose(lift, [1.25, 1.95])
        self.assertAlmostEqual(float(drag), 0.875)
        np.testing.assert_allclose(MAP.at(np.array([0.02, 0.08]))[0], [1.6, 2.2])

    def test_what_it_covers(self) -> None:
        heights = np.array([[0.03, 0.04], [0.01, 0.04], [0.03, 0.09]])
        self.assertEqual(MAP.covers(heights).tolist(), [True, False, False])

    def test_a_map_without_order_or_with_holes_is_refused(self) -> None:
        with self.assertRaisesRegex(OutOfRange, "must rise"):
            replace(MAP, front_heights=np.array([0.04, 0.02]))
        with self.assertRaisesRegex(OutOfRange, "every pair"):
            replace(MAP, drag=np.ones((2, 2)))

    def test_downforce_presses_and_drag_leans_back(self) -> None:
        air = Air(1.2, np.array([0.5, 0.8]), 0.9, 0.4)
        car = plain(air=air)
        still, fast = loaded(car, Demand()), loaded(car, Demand(speed=50.0))
        down = 0.5 * 1.2 * 50**2 * np.array([0.5, 0.8])
        moved = 0.5 * 1.2 * 50**2 * 0.9 * 0.4 / 2.5
        gained = (fast.loads - still.loads)[0].reshape(2, 2).sum(-1)
        np.testing.assert_allclose(gained, down + np.array([-moved, moved]), rtol=1e-9)


class TheDemand(unittest.TestCase):
    def test_air_grows_with_the_square_of_speed(self) -> None:
        half = Demand(2.0, 4.0, 40.0, Shaft(torque=100.0)).grown(0.25)
        self.assertEqual((half.along, half.sideways, half.speed), (0.5, 1.0, 20.0))
        assert half.shaft is not None
        self.assertEqual(half.shaft.torque, 25.0)
        by_drive = Demand(2.0, shaft=Shaft(final_drive=4.0, radius=0.3)).grown(0.5).shaft
        assert by_drive is not None
        self.assertEqual(by_drive.final_drive, 4.0)

    def test_what_cannot_be_asked(self) -> None:
        for wrong in (
            lambda: Demand(speed=-1.0),
            lambda: Demand(along=float("nan")),
            lambda: Shaft(final_drive=0.0, radius=0.3),
            lambda: Shaft(torque=float("inf")),
        ):
            with self.assertRaises(OutOfRange):
                wrong()

    def test_engine_braking_turns_the_axle_the_other_way(self) -> None:
        car = plain(beam=(False, True), spring_bases=np.array([1.5, 1.2]), pads=np.full(4, 250.0))
        split = []
        for torque in (200.0, -200.0):
            state = loaded(car, Demand(-2.0, shaft=Shaft(torque=torque)))
            split.append(float(state.loads[0, 2] - state.loads[0, 3]))
        self.assertGreater(split[0], 10.0)
        self.assertAlmostEqual(split[0], -split[1], 6)

    def test_a_shaft_needs_a_live_axle(self) -> None:
        with self.assertRaisesRegex(Impossible, "live rear axle only"):
            loaded(plain(), Demand(2.0, shaft=Shaft(torque=300.0)))


class TheLinks(unittest.TestCase):
    def test_the_body_takes_what_the_links_do_not(self) -> None:
        outboard = SideView(1.5, 0.3, 0.3).share(True, 0.6, 2.5, 0.5)
        inboard = SideView(1.5, 0.3, 0.3, outboard=False).share(True, 0.6, 2.5, 0.5)
        self.assertAlmostEqual(outboard, 0.2 * 0.6 * 5)
        self.assertAlmostEqual(inboard, 0.0)
        parallel = SideView(slope=0.1, through_links=True).share(False, 1.0, 2.5, 0.5)
        self.assertAlmostEqual(parallel, 0.5)

    def test_anti_dive_keeps_the_nose_up_and_the_loads_alike(self) -> None:
        free, held = plain(), plain(anti_braking=np.array([0.5, 0.0]))
        stop = Demand(-8.0)
        self.assertGreater(float(loaded(held, stop).pitch[0]), float(loaded(free, stop).pitch[0]))
        np.testing.assert_allclose(loaded(held, stop).loads, loaded(free, stop).loads, rtol=5e-3)


class Gradient(unittest.TestCase):
    def test_more_load_in_front_understeers(self) -> None:
        of = Cornering(np.array([11.0, 11.0]), np.array([0.25, 0.25]), np.array([3e3, 3e3]))
        nose = plain(pads=np.array([300.0, 300.0, 200.0, 200.0]))
        even = plain(pads=np.full(4, 250.0))
        heavy, stiffness = understeer_gradient(of, loaded(nose, Demand(sideways=3.0)))
        self.assertGreater(float(heavy[0]), 0.0)
        self.assertGreater(stiffness[0, 0], stiffness[0, 1])
        neutral, _ = understeer_gradient(of, loaded(even, Demand()))
        self.assertAlmostEqual(float(neutral[0]), 0.0, places=9)


pad = st.floats(120.0, 500.0)
spring = st.floats(15e3, 200e3)


@st.composite
def cars(draw: Any) -> LoadedCar:
    """Cars that could be, low and high, soft and stiff, with and without stops."""
    limited = draw(st.booleans())
    return plain(
        pads=np.array([draw(pad) for _ in range(4)]),
        cg_height=draw(st.floats(0.25, 0.7)),
        spring_rates=np.repeat([draw(spring), draw(spring)], 2),
        tyre_rates=np.full(4, draw(st.floats(120e3, 400e3))),
        bar_rates=np.array([draw(st.floats(0, 80e3)), draw(st.floats(0, 80e3))]),
        roll_centres=np.array([draw(st.floats(-0.05, 0.25)), draw(st.floats(-0.05, 0.25))]),
        droop=np.full(4, draw(st.floats(0.01, 0.08)) if limited else np.inf),
        bump=np.full(4, draw(st.floats(0.02, 0.08)) if limited else np.inf),
        rubbers=(Rubber(0.02, 0.9, CURVE),) * 4 if draw(st.booleans()) else (None,) * 4,
    )


class AnyCar(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(cars(), st.floats(-14.0, 14.0), st.floats(-10.0, 8.0))
    def test_a_state_is_in_balance_or_there_is_none(
        self, car: LoadedCar, sideways: float, along: float
    ) -> None:
        try:
            state = loaded(car, Demand(along, sideways))
        except CoreError as refusal:
            self.assertTrue(refusal.sentence)
            return
        self.assertAlmostEqual(float(state.loads.sum()), float(car.mass) * G, delta=1e-3)
        self.assertTrue(np.all(state.loads >= 0))
        self.assertTrue(np.all(state.stations <= car.bump + 1e-9))
        self.assertTrue(np.all(state.stations >= -car.droop - 1e-9))
        self.assertFalse(np.any(state.on_bump_stop & state.on_droop_stop))

    @settings(max_examples=8, deadline=None)
    @given(cars())
    def test_limits_stand_in_their_order(self, car: LoadedCar) -> None:
        try:
            over, lift = roll_over(car, Demand(), True).at, first_lift(car, Demand(), True)
        except CoreError:
            return
        assert lift is not None
        self.assertLessEqual(lift[0], over + 1e-6)
        self.assertTrue(load(car, Demand(0.0, 0.999 * over)).holds[0])
        self.assertGreater(wheels_up(car, 0.0, forward=True), 0.0)
        tyres = Tyres(np.full(2, 1.2), np.full(2, 0.1), np.full(2, 3e3), np.ones(2))
        found = balance(car, tyres, Demand())
        self.assertLessEqual(found.car, over + 1e-6)
        if found.limited_by != "roll_over":
            self.assertAlmostEqual(
                found.car, min(one for one in (found.front, found.rear) if one is not None)
            )
