"""Where the linear figures end: said where it is so, nowhere else, and as the loaded car has it."""

import unittest
from dataclasses import replace
from typing import Any

from cabrio.core.car import Car, Given
from cabrio.core.constants import STANDARD_GRAVITY
from cabrio.core.graph.registry import numbers
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.ends import ENDS
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.limits import first_lift
from cabrio.core.under_load.of_sheet import loaded_car

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet


def with_given(car: Car, **told: Any) -> Car:
    given = {name: Given(tuple(values)) for name, values in told.items()}
    return replace(car, given=car.given | given)


def circuit(**told: Any) -> Sheet:
    return sheet(with_given(circuit_car(), **told), CIRCUIT_SETUP)


def drag(**told: Any) -> Sheet:
    return sheet(with_given(drag_car(), **told), DRAG_SETUP)


class Ends(unittest.TestCase):
    def test_a_car_within_its_range_has_nothing_to_say(self) -> None:
        self.assertEqual(circuit(lateral_acceleration=[9.0]).ends, {})

    def test_the_inner_wheel_lifts(self) -> None:
        past = circuit(lateral_acceleration=[30.0], lift_area=[0.0, 0.0])
        self.assertRegex(past.ends["lltd"], "At 3.06 g the inner (front|rear) wheel is off")
        self.assertNotIn("total_mass", past.ends)
        within = circuit(lateral_acceleration=[9.0], lift_area=[0.0, 0.0])
        self.assertEqual(within.ends, {})
        for here, there in zip(past.value("lltd") or [], within.value("lltd") or [], strict=True):
            self.assertAlmostEqual(here, there, 12)  # the figure itself stays what a hand works

    def test_it_ends_where_the_loaded_car_lifts_its_wheel(self) -> None:
        """No stops and no rubbers, a car that is even: the two part by what its lean moves besides."""
        free = {"lift_area": [0.0, 0.0], "droop_travel": [0.5] * 4, "bump_travel": [0.5] * 4}
        setup = CIRCUIT_SETUP | {"rubber_gap": [0.5, 0.5]}
        car = with_given(circuit_car(), lateral_acceleration=[30.0], speed=[0.0], **free)
        here = sheet(car, setup)
        said = float(here.ends["lltd"].split("up to ")[1].split(" g")[0])
        lifts = first_lift(loaded_car(here.car, here.worked), Demand(0.0, 0.0, 0.0), True)
        assert lifts is not None
        self.assertAlmostEqual(said / (lifts[0] / STANDARD_GRAVITY), 1.0, delta=0.06)

    def test_the_rear_lifts_in_braking(self) -> None:
        self.assertIn("rear wheels are off", circuit(braking=[60.0]).ends["braking_transfer"])
        self.assertNotIn("braking_transfer", circuit(braking=[9.0]).ends)

    def test_the_launch_runs_out_of_droop_and_raises_the_cg(self) -> None:
        said = drag(droop_travel=[0.04] * 4).ends
        self.assertIn("has 40.0 mm of droop", said["front_rise"])
        self.assertIn("raises the CG", said["launch_transfer"])
        wide = drag(droop_travel=[0.2] * 4, launch_acceleration=[1.0]).ends
        self.assertEqual(wide, {})
        tight = drag(droop_travel=[0.004] * 4).ends
        self.assertIn("The rear would separate", tight["rear_separation"])

    def test_every_end_names_figures_that_there_are(self) -> None:
        for end in ENDS:
            self.assertLessEqual(set(end.of) | set(end.needs), set(numbers()))
