"""The loaded car: against its own energy, against the linear figures, and where it ends."""

import json
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from cabrio.cases.topics.under_load import _car, _demand, _tyres
from cabrio.cases.units import in_si
from cabrio.core.arrays import Array
from cabrio.core.constants import STANDARD_GRAVITY as G
from cabrio.core.errors import Impossible, OutOfRange
from cabrio.core.graph.evaluate import answer
from cabrio.core.under_load.car import LoadedCar, Rubber, SideView
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.forces import (
    body_at,
    coil_compression,
    coils_loose,
    contact_loads,
    outside,
    station_travel,
    unbalanced,
    wheel_travel,
)
from cabrio.core.under_load.grip import balance
from cabrio.core.under_load.limits import first_front_lift, first_lift, roll_over, wheels_up
from cabrio.core.under_load.settle import settle
from cabrio.core.under_load.slopes import slopes
from cabrio.core.under_load.state import load, loaded

FOLDER = Path(__file__).parent / "cases"


def given(topic: str, name: str) -> dict[str, Any]:
    cases = json.loads((FOLDER / f"{topic}.json").read_text("utf-8"))["cases"]
    found: dict[str, Any] = next(in_si(case["given"]) for case in cases if case["name"] == name)
    return found


SALOON = given("car_under_load", "saloon cornering gently, straight line elements")
SINGLE = given("car_under_load", "winged single-seater in a fast corner, on its rubbers")
MAPPED = given("car_under_load", "winged single-seater braking into a corner, areas from a map")
LIFTED = given("car_under_load", "front-driven saloon, the inner rear wheel lifted")
BEAMS = given("car_under_load", "three tonnes on two beams")
STOPS = given("car_under_load", "saloon on its bump stops, past the rubber's table")
LAUNCH = given("drive_torque", "torque from the final drive")


def level() -> LoadedCar:
    """A car whose sprung mass neither rises nor sinks as it rolls: evenly loaded, nothing that jacks."""
    car = _car(SALOON)
    return replace(
        car,
        pads=np.full(4, 300.0),
        unsprung=np.full(4, 40.0),
        beam=(True, True),
        spring_bases=car.tracks,
    )


def energy(car: LoadedCar, demand: Demand, z: Array, held: Array) -> float:
    """Potential energy of springs, rubbers, bars and tyres, less the work of loads held as they are."""
    travel, at = wheel_travel(car, z), station_travel(car, z)
    coils = np.where(
        coils_loose(car, at), 0.0, 0.5 * car.spring_rates * coil_compression(car, at) ** 2
    )
    stored = coils.sum()
    for corner, rubber in enumerate(car.rubbers):
        if rubber is not None:
            path = np.linspace(0.0, at[0, corner], 20001)
            stored += np.trapezoid(rubber.force(path), path)
    stored += (0.25 * car.bar_rates * (travel[0, 0::2] - travel[0, 1::2]) ** 2).sum()
    stored += (contact_loads(car, z) ** 2 / (2 * car.tyre_rates)).sum()
    body, wheels = held[:3], held[3:]
    weight = (car.sprung * G * body_at(car, z)[0]).sum() + (car.unsprung * G * z[0, 3:]).sum()
    return float(stored + weight - body @ z[0, :3] - wheels @ z[0, 3:])


class Energy(unittest.TestCase):
    def test_a_state_is_the_least_energy_with_its_outside_loads_held(self) -> None:
        for told in (SALOON, SINGLE, LIFTED, BEAMS):
            car, demand = _car(told), _demand(told)
            state = loaded(car, demand)
            self.assertFalse(state.settled.stops.any(), "no stop in force in these")
            load_ = outside(car, demand.spread(1), state.settled.z)
            held = np.concatenate([load_.on_body(car)[0], load_.on_wheels(car)[0]])
            least = energy(car, demand, state.settled.z, held)
            moves = np.random.default_rng(7).normal(size=(30, 7)) * 1e-4
            around = [energy(car, demand, state.settled.z + move, held) for move in moves]
            self.assertGreater(min(around), least)
            self.assertLess(
                abs(energy(car, demand, state.settled.z + 1e-7 * moves[:1], held) - least), 1e-6
            )

    def test_the_slopes_are_those_of_the_forces(self) -> None:
        for told in (SALOON, SINGLE, LIFTED, BEAMS, STOPS):
            car, demand = _car(told), _demand(told).spread(1)
            found = settle(car, demand)
            by_steps = (
                np.stack(
                    [
                        unbalanced(car, demand, found.z + step, found.stops)
                        - unbalanced(car, demand, found.z - step, found.stops)
                        for step in 1e-7 * np.eye(7)
                    ],
                    axis=-1,
                )[0]
                / 2e-7
            )
            exact = slopes(car, demand, found.z)[0]
            np.testing.assert_allclose(exact, by_steps, atol=1e-8 * np.abs(by_steps).max())


class AgainstTheLinearFigures(unittest.TestCase):
    def test_roll_and_transfer_where_the_line_holds(self) -> None:
        car = level()
        state = loaded(car, Demand(sideways=3.0))
        known = {
            "wheelbase": [car.wheelbase],
            "track": car.tracks,
            "pad_mass": car.pads,
            "unsprung_mass": car.unsprung,
            "unsprung_cg_height": car.unsprung_heights,
            "cg_height": [car.cg_height],
            "roll_centre_height": car.roll_centres,
            "wheel_rate": car.spring_rates * car.ratios**2,
            "tyre_rate": car.tyre_rates,
            "spring_base": car.tracks,
            "bar_wheel_rate": car.bar_rates,
            "lateral_acceleration": 3.0,
        }
        known = {name: np.squeeze(np.asarray(value)) for name, value in known.items()}
        line = answer(["roll_angle", "load_transfer", "lltd"], known)
        self.assertAlmostEqual(float(state.roll[0]), float(line["roll_angle"]), places=12)
        np.testing.assert_allclose(state.transfer[0], line["load_transfer"], rtol=1e-9)
        self.assertAlmostEqual(float(state.front_share[0]), float(line["lltd"]), places=9)

    def test_a_lifted_wheel_gives_no_more(self) -> None:
        car, told = _car(LIFTED), _demand(LIFTED)
        state = loaded(car, told)
        harder = loaded(car, replace(told, sideways=1.05 * float(told.sideways)))
        self.assertTrue(state.lifted[0, 2] and harder.lifted[0, 2])
        self.assertEqual(state.loads[0, 2], 0.0)
        more = harder.transfer - state.transfer
        self.assertLess(abs(more[0, 1]), 0.1 * more[0, 0])  # the other axle takes the rest


class Invariants(unittest.TestCase):
    def test_loads_carry_the_weight_and_the_air(self) -> None:
        for told in (SALOON, SINGLE, MAPPED, LIFTED, BEAMS, STOPS, LAUNCH):
            state = loaded(_car(told), _demand(told))
            carried = state.car.mass * G + state.outside.downforce[0].sum()
            self.assertAlmostEqual(float(state.loads.sum()), float(carried), places=4)
            parts = state.elastic + state.geometric + state.unsprung + state.torque
            np.testing.assert_allclose(parts, state.transfer)

    def test_a_turn_the_other_way_is_the_mirror(self) -> None:
        car = level()
        left, right = loaded(car, Demand(sideways=8.0)), loaded(car, Demand(sideways=-8.0))
        np.testing.assert_allclose(left.loads[0, [1, 0, 3, 2]], right.loads[0])
        self.assertAlmostEqual(float(left.roll[0]), -float(right.roll[0]))

    def test_a_batch_is_each_alone(self) -> None:
        car = _car(SINGLE)
        sideways = np.array([0.0, 5.0, 15.0, 21.0])
        together = load(car, Demand(0.0, sideways, 52.0))
        for i, acceleration in enumerate(sideways):
            alone = loaded(car, Demand(0.0, float(acceleration), 52.0))
            np.testing.assert_allclose(together.loads[i], alone.loads[0], rtol=1e-9)

    def test_a_batch_of_cars_is_each_alone(self) -> None:
        car = _car(SINGLE)
        bars = np.array([[0.0, 31e3], [70e3, 31e3], [70e3, 0.0]])
        together = load(replace(car, bar_rates=bars), Demand(0.0, 15.0, 52.0))
        for i, rates in enumerate(bars):
            alone = loaded(replace(car, bar_rates=rates), Demand(0.0, 15.0, 52.0))
            np.testing.assert_allclose(together.loads[i], alone.loads[0], rtol=1e-9)


class WhereItEnds(unittest.TestCase):
    def test_a_wheel_has_nothing_left_where_it_first_lifts(self) -> None:
        car, demand = _car(BEAMS), _demand(BEAMS)
        found = first_lift(car, demand, True)
        assert found is not None
        at, wheel = found
        just = load(car, Demand(0.0, np.array([0.999, 1.001]) * at))
        index = ("LF", "RF", "LR", "RR").index(wheel)
        self.assertGreater(just.loads[0, index], 0)
        self.assertEqual(just.loads[1, index], 0)

    def test_there_is_no_state_past_the_roll_over_and_it_says_so(self) -> None:
        car, demand = _car(BEAMS), _demand(BEAMS)
        at = roll_over(car, demand, True).at
        self.assertTrue(load(car, Demand(0.0, 0.9999 * at)).holds[0])
        with self.assertRaisesRegex(Impossible, "roll over"):
            loaded(car, Demand(0.0, 1.0001 * at))
        rigid = float(np.mean(car.tracks)) / (2 * float(car.cg_height)) * G
        self.assertLess(at, rigid)

    def test_wheels_that_come_up_along_the_car(self) -> None:
        car, demand = _car(LAUNCH), _demand(LAUNCH)
        most = wheels_up(car, 0.0, forward=True, shaft=demand.shaft)
        first = first_front_lift(car, 0.0, demand.shaft)
        assert first is not None
        self.assertLess(first[0], most)
        with self.assertRaisesRegex(Impossible, "front wheels come off"):
            loaded(car, Demand(1.001 * most, 0.0, 0.0, demand.shaft))
        with self.assertRaisesRegex(Impossible, "rear wheels come off"):
            loaded(car, Demand(1.001 * wheels_up(car, 0.0, forward=False)))

    def test_heights_off_the_map_are_refused(self) -> None:
        car = _car(MAPPED)
        with self.assertRaisesRegex(Impossible, "map does not cover"):
            loaded(car, Demand(0.0, 0.0, 140.0))

    def test_what_cannot_be_is_refused_by_name(self) -> None:
        car = _car(SALOON)
        for words, change in (
            ("unsprung mass", {"unsprung": np.full(4, 999.0)}),
            ("tyre rate", {"tyre_rates": np.zeros(4)}),
            ("brake share", {"brake_rear": 1.2}),
            ("between its springs", {"beam": (True, False), "spring_bases": None}),
            ("droop travel", {"droop": np.full(4, -0.1)}),
        ):
            with self.subTest(words), self.assertRaisesRegex((OutOfRange, Impossible), words):
                replace(car, **change)  # type: ignore[arg-type]
        with self.assertRaisesRegex(OutOfRange, "start at no deflection"):
            Rubber(0.01, 1.0, np.array([[0.0, 0.01], [10.0, 20.0]]))
        with self.assertRaisesRegex(Impossible, "no slope"):
            SideView(0.0, 0.3, 0.3).share(True, 0.4, 2.6, 0.5)


class Grip(unittest.TestCase):
    def test_bars_move_nothing_where_load_costs_no_grip(self) -> None:
        told = given("grip_balance", "live axle out of a corner")
        car, tyres = _car(told), replace(_tyres(told), loss=np.zeros(2))
        demand = Demand(0.0, 0.0)
        plain = balance(car, tyres, demand).balance
        stiffer = balance(replace(car, bar_rates=car.bar_rates * [2.0, 1.0]), tyres, demand).balance
        assert plain is not None and stiffer is not None
        self.assertAlmostEqual(plain, stiffer, places=6)

    def test_a_stiffer_front_bar_pushes(self) -> None:
        told = given("grip_balance", "live axle out of a corner")
        car, tyres = _car(told), _tyres(told)
        plain = balance(car, tyres, Demand(0.0, 0.0)).balance
        front = balance(replace(car, bar_rates=car.bar_rates * [1.5, 1.0]), tyres, Demand()).balance
        assert plain is not None and front is not None
        self.assertLess(front, plain)

    def test_more_braking_than_the_tyres_have(self) -> None:
        told = given("grip_balance", "saloon braking into a corner")
        with self.assertRaisesRegex(Impossible, "cannot brake as asked"):
            balance(_car(told), _tyres(told), Demand(-12.0))
