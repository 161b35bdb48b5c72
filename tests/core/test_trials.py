"""The car in time: against the settled car, against itself softer, and what cannot be asked."""

import unittest

import numpy as np

from cabrio.core.car import Given, Line
from cabrio.core.errors import CoreError, Missing, UnknownName
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.simulate.trials import TRIALS, Run, checked_size, contact_at, run_trial
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.of_sheet import loaded_car, shaft_of
from cabrio.core.under_load.state import loaded

from .whole_car import CIRCUIT_SETUP, KNOWN, circuit_car, sheet

CIRCUIT = sheet(circuit_car(), CIRCUIT_SETUP)


def of(run: Run, label: str) -> tuple[float | None, ...]:
    return next(wheel.values for wheel in (*run.wheels, *run.body) if wheel.label == label)


def click(name: str, at: int) -> float:
    return float(CIRCUIT.setup[name][at])


class Trials(unittest.TestCase):
    def test_every_trial_runs_at_its_usual_size(self) -> None:
        for name, told in TRIALS.items():
            with self.subTest(name=name):
                found = run_trial(CIRCUIT, name, 30.0, told.usual)
                self.assertTrue(np.isfinite(found.drive.loads).all())
                self.assertEqual(len(of(found, "Greatest load")), 4)
                self.assertIn("inertia", found.assumed[0])

    def test_a_steering_step_ends_at_the_roll_of_the_figures(self) -> None:
        found = run_trial(CIRCUIT, "steer", 30.0, 3.0)
        gradient = float(CIRCUIT.worked.values["roll_gradient"])
        self.assertAlmostEqual(found.drive.roll[-1] / (gradient * 3.0), 1.0, 1)
        greatest, settles = of(found, "Roll")
        assert greatest is not None and settles is not None
        self.assertGreaterEqual(greatest, abs(found.drive.roll[-1]))
        self.assertGreater(settles, 0.3)

    def test_braking_ends_at_the_transfer(self) -> None:
        found = run_trial(CIRCUIT, "brake", 30.0, 3.0)
        v = CIRCUIT.worked.values
        gained = found.drive.loads[-1, :2].sum() - v["pad_mass"][:2].sum() * 9.80665
        wanted = float(v["total_mass"] * 3.0 * v["cg_height"] / v["wheelbase"])
        self.assertAlmostEqual(gained / wanted, 1.0, 1)

    def test_a_launch_ends_at_the_transfer_and_the_limiter_holds_the_front_down(self) -> None:
        soft, held = (
            sheet(circuit_car(), CIRCUIT_SETUP | {"front_limiter": [limit]})
            for limit in (0.2, 0.004)
        )
        v = soft.worked.values
        found = run_trial(soft, "launch", 5.0, 4.0)
        gained = found.drive.loads[-1, 2:].sum() - v["pad_mass"][2:].sum() * 9.80665
        wanted = float(v["total_mass"] * 4.0 * v["cg_height"] / v["wheelbase"])
        self.assertAlmostEqual(gained / wanted, 1.0, 1)
        rose = [
            of(run_trial(one, "launch", 5.0, 4.0), "Most droop travel")[0] for one in (soft, held)
        ]
        assert rose[0] is not None and rose[1] is not None
        self.assertGreater(rose[0], 0.008)
        self.assertLess(rose[1], 0.006)

    def test_the_shaft_s_torque_presses_the_left_rear_as_on_the_loaded_car(self) -> None:
        car = circuit_car(rear_layout="three_link")
        for name in ("final_drive", "loaded_radius"):
            car = car.with_given(name, Given(tuple(KNOWN[name])))
        live = sheet(car, CIRCUIT_SETUP)
        v = live.worked.values
        found = run_trial(live, "launch", 5.0, 1.0)
        self.assertFalse(any("final drive" in one for one in found.assumed))
        gained = found.drive.loads[-1] - v["pad_mass"] * 9.80665
        front, rear = gained[0] - gained[1], gained[2] - gained[3]
        self.assertGreater(rear, 0.0)
        # the torque is between engine and axle: only the body leaning over is left to turn the car
        self.assertAlmostEqual(front * v["track"][0] + rear * v["track"][1], 0.0, delta=0.1 * rear)
        told = loaded_car(live.car, live.worked)
        straight = Demand(0.0, 0.0, 0.0, None)
        launched = Demand(1.0, 0.0, 0.0, shaft_of(live.car, live.worked))
        settled = (loaded(told, launched).loads - loaded(told, straight).loads)[0]
        self.assertAlmostEqual(rear / (settled[2] - settled[3]), 1.0, delta=0.1)

    def test_the_kerb_is_under_the_left_wheels(self) -> None:
        low, high = (run_trial(CIRCUIT, "kerb", 25.0, size) for size in (0.01, 0.03))
        most = of(high, "Greatest load")
        assert most[0] is not None and most[1] is not None
        self.assertGreater(most[0], most[1])
        self.assertGreater(most[0], of(low, "Greatest load")[0] or 0.0)

    def test_stiffer_springs_vary_the_load_more_on_one_and_the_same_road(self) -> None:
        codes = [one.code for one in CIRCUIT.car.stock("spring", "LF")]
        lines = [
            Line("spring", place, CIRCUIT.setup["spring"][i], codes[-1])
            for i, place in enumerate(("LF", "RF"))
        ]
        stiff = try_lines(CIRCUIT, lines).as_sheet
        soft, hard = (
            of(run_trial(one, "rough", 30.0, 2.0), "Load variation")[0] for one in (CIRCUIT, stiff)
        )
        assert soft is not None and hard is not None
        self.assertNotEqual(soft, hard)
        again = of(run_trial(CIRCUIT, "rough", 30.0, 2.0), "Load variation")[0]
        self.assertEqual(soft, again)

    def test_contact_at_the_clicks_set_is_that_of_the_car_as_it_is(self) -> None:
        here = contact_at(CIRCUIT, "rebound_clicks", "rear", click("rebound_clicks", 2), 30.0)
        whole = run_trial(CIRCUIT, "rough", 30.0, TRIALS["rough"].usual).drive.load_variation
        self.assertAlmostEqual(here, float(whole[2:].mean()), 9)
        shut = contact_at(CIRCUIT, "rebound_clicks", "rear", 0.0, 30.0)
        self.assertNotAlmostEqual(shut, here, 3)
        with self.assertRaisesRegex(CoreError, "goes from 0 to 20"):
            contact_at(CIRCUIT, "rebound_clicks", "rear", 40.0, 30.0)

    def test_what_cannot_be_asked(self) -> None:
        with self.assertRaisesRegex(UnknownName, "no trial called"):
            run_trial(CIRCUIT, "jump", 30.0, 1.0)
        with self.assertRaisesRegex(CoreError, "Kerb height") as caught:
            checked_size("kerb", "3 m", "n_mm")
        self.assertEqual(caught.exception.number, "size")
        self.assertAlmostEqual(checked_size("kerb", "2 in", "n_mm"), 0.0508)
        self.assertEqual(checked_size("kerb", " ", "n_mm"), TRIALS["kerb"].usual)
        with self.assertRaisesRegex(Missing, "still needs"):
            run_trial(sheet(circuit_car(given={}), CIRCUIT_SETUP), "kerb", 30.0, 0.03)
