"""From the sheet to the model that moves: the same rates, curves at the clicks set, what lacks named."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.car import Given
from cabrio.core.errors import Impossible, Missing
from cabrio.core.simulate import roads
from cabrio.core.simulate.full_car import drive
from cabrio.core.simulate.of_car import full_car, quarter_car, suspension
from cabrio.core.simulate.quarter_car import ride
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.of_sheet import loaded_car
from cabrio.core.under_load.state import load

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet, worn_at

CIRCUIT = sheet(circuit_car(), CIRCUIT_SETUP)


class OfTheSheet(unittest.TestCase):
    def test_it_settles_where_the_figures_say(self) -> None:
        steady = replace(
            circuit_car(), given=circuit_car().given | {"lateral_acceleration": Given((3.0,))}
        )
        here = sheet(steady, CIRCUIT_SETUP)
        model = full_car(here)
        found = drive(
            model.car, roads.Road.alike(roads.flat), 20.0, 4.0, action=roads.ramp(leftward=3.0)
        )
        wanted = here.worked.values["roll_angle"]
        self.assertAlmostEqual(float(found.roll[-1] / wanted), 1, delta=0.02)
        gained = (found.loads[-1] - found.loads[0])[1::2]
        np.testing.assert_allclose(gained, here.worked.values["load_transfer"], rtol=0.03)
        self.assertIn("inertia", model.assumed[0])
        # and where the loaded car stands, worked without any time
        loaded = load(loaded_car(here.car, here.worked), Demand(0.0, 3.0, 0.0))
        np.testing.assert_allclose(found.loads[-1], loaded.loads[0], rtol=0.03)
        self.assertAlmostEqual(float(found.roll[-1] / loaded.roll[0]), 1, delta=0.03)

    def test_a_beam_axle_rolls_on_its_spring_base(self) -> None:
        # a live rear axle whose springs stand 1.1 m apart under a track of 1.6 m
        layout = replace(circuit_car(), rear_layout="triangulated_four_link")
        here = sheet(layout, CIRCUIT_SETUP)
        car = full_car(here).car
        rate = here.worked.values["wheel_rate"][2:].mean()
        bar = here.worked.values["bar_wheel_rate"][1]
        self.assertAlmostEqual(float(car.bar_rates[1]), float(bar + rate * ((1.1 / 1.6) ** 2 - 1)))

    def test_the_damper_at_the_clicks_set(self) -> None:
        adjustment = worn_at(circuit_car(), "damper", "LF").rebound
        assert adjustment is not None
        leg = suspension(CIRCUIT, "LF")
        shaft = 0.1
        wanted = float(adjustment.force(10, np.asarray(shaft)))
        ratio = 0.85
        self.assertAlmostEqual(leg.damper.force(-shaft / ratio), -wanted * ratio)
        tighter = sheet(circuit_car(), CIRCUIT_SETUP | {"rebound_clicks": [2.0] * 4})
        self.assertGreater(-suspension(tighter, "LF").damper.force(-0.1), -leg.damper.force(-0.1))

    def test_the_rubber_at_the_wheel(self) -> None:
        given = circuit_car().given | {"rubber_motion_ratio": Given((0.7, 0.8))}
        leg = suspension(sheet(circuit_car(given=given), CIRCUIT_SETUP), "LF")
        touch = 0.015 / 0.7
        self.assertAlmostEqual(leg.rubber_gap, touch)
        assert leg.rubber is not None
        # 5 mm of rubber is 300 N along it, seen at the wheel through its ratio
        self.assertAlmostEqual(leg.rubber.at(0.005 / 0.7), 300 * 0.7)
        none = suspension(sheet(circuit_car(bump_rubber={}), CIRCUIT_SETUP), "LF")
        self.assertIsNone(none.rubber)

    def test_two_settings_over_one_bump(self) -> None:
        def variation(clicks: float) -> float:
            here = sheet(circuit_car(), CIRCUIT_SETUP | {"compression_clicks": [clicks] * 4})
            corner, leg = quarter_car(here, "LF")
            return ride(corner, leg, roads.rough("C", 60, 4), 25.0, 2.0).load_variation

        self.assertNotAlmostEqual(variation(0.0), variation(20.0), places=3)

    def test_what_lacks_is_named(self) -> None:
        bare = circuit_car().given
        without = {n: v for n, v in bare.items() if n not in ("cg_height", "roll_centre_height")}
        with self.assertRaisesRegex(Missing, "cg height, roll centre height"):
            full_car(sheet(circuit_car(given=without), CIRCUIT_SETUP))
        with self.assertRaisesRegex(Missing, "LF: no damper is on the car"):
            full_car(sheet(circuit_car(damper={}), CIRCUIT_SETUP))
        with self.assertRaises(Missing):
            full_car(sheet(drag_car(), DRAG_SETUP))  # no roll centres on a drag car's sheet

    def test_a_refusal_on_the_way_is_passed_on(self) -> None:
        heavy = circuit_car().given | {"unsprung_mass": Given((290.0, 30.0, 40.0, 40.0))}
        with self.assertRaisesRegex(Impossible, "unsprung mass must be less"):
            full_car(sheet(circuit_car(given=heavy), CIRCUIT_SETUP))
