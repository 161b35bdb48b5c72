"""The loaded car of a sheet, and what one step of each setting does to it."""

import unittest

import numpy as np

from cabrio.core.car import first_setup
from cabrio.core.car.lines import Line
from cabrio.core.catalog.parts import AeroMap, Ballast, Tyre
from cabrio.core.catalog.quantities import Shape
from cabrio.core.constants import STANDARD_GRAVITY
from cabrio.core.errors import Impossible, Missing
from cabrio.core.sheet.build import Sheet, build
from cabrio.core.sheet.steps import step_effects
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.under_load.air import Air
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.grip import Tyres, balance
from cabrio.core.under_load.limits import first_lift
from cabrio.core.under_load.look import look
from cabrio.core.under_load.near import over
from cabrio.core.under_load.of_sheet import NEEDED, loaded_car, shaft_of, tyres
from cabrio.core.under_load.state import load

from .test_estimates import new
from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

CIRCUIT = sheet(circuit_car(), CIRCUIT_SETUP)
GRIP = Tyres(np.array([1.5, 1.5]), np.array([0.15, 0.15]), np.array([3e3, 3e3]), np.ones(2))


def grip(of: Sheet) -> Tyres:
    return tyres(of.worked) or GRIP


class MappedAir(unittest.TestCase):
    """The air by a map over the heights, fitted as a part."""

    GRID = tuple(
        (front, rear, 0.9 - 4 * front, 1.2 - 2 * rear, 0.8)
        for rear in (0.03, 0.09, 0.15)
        for front in (0.02, 0.08, 0.14)
    )

    def test_the_loaded_car_takes_its_areas_from_the_map_at_its_own_heights(self) -> None:
        parts = circuit_car().parts.with_part("aero_map", AeroMap(self.GRID, code="wing 2"))
        of = sheet(circuit_car(parts=parts), CIRCUIT_SETUP | {"aero_map": ["wing 2"]})
        car = loaded_car(of.car, of.worked)
        self.assertIsInstance(car.air, Air)
        state = load(car, Demand(0.0, 0.0, 50.0))
        low = (state.heights[0].reshape(2, 2)).mean(-1)
        density = float(of.worked.values["air_density"])
        head = 0.5 * density * 50.0**2
        wanted = head * np.array([0.9 - 4 * low[0], 1.2 - 2 * low[1]])
        np.testing.assert_allclose(state.outside.downforce[0], wanted, rtol=1e-6)
        # with speed the car comes down, and by this map gains area as it does
        faster = load(car, Demand(0.0, 0.0, 70.0)).outside.downforce[0, 0]
        self.assertGreater(faster / state.outside.downforce[0, 0], (70 / 50) ** 2)

    def test_the_figures_take_it_at_the_heights_the_car_stands_at(self) -> None:
        parts = circuit_car().parts.with_part("aero_map", AeroMap(self.GRID, code="wing 2"))
        car = circuit_car(parts=parts)
        on = sheet(car, CIRCUIT_SETUP | {"aero_map": ["wing 2"]})
        v = on.worked.values
        heights = v["ride_height"].reshape(2, 2).mean(-1)
        wanted = np.array([0.9 - 4 * heights[0], 1.2 - 2 * heights[1]])
        np.testing.assert_allclose(v["lift_area"], wanted)
        np.testing.assert_allclose(
            v["downforce"] / (0.5 * v["air_density"] * v["speed"] ** 2), wanted
        )
        self.assertIn("at the heights it stands at", on.origins["lift_area"].words)
        # put on and taken off again by a slip, it says the same
        off = sheet(car, CIRCUIT_SETUP)
        fit = try_lines(off, [Line("aero_map", "car", None, "wing 2")])
        np.testing.assert_allclose(fit.worked.values["lift_area"], wanted)
        self.assertTrue(fit.effect_known)
        bare = try_lines(on, [Line("aero_map", "car", "wing 2", None)])
        np.testing.assert_allclose(bare.worked.values["lift_area"], off.worked.values["lift_area"])

    def test_without_heights_the_slip_says_what_the_map_waits_for(self) -> None:
        parts = circuit_car().parts.with_part("aero_map", AeroMap(self.GRID, code="wing 2"))
        of = build(circuit_car(parts=parts), CIRCUIT_SETUP)
        trial = try_lines(of, [Line("aero_map", "car", None, "wing 2")])
        self.assertIn("Downforce by the map: not known", trial.unknown[-1].sentence)

    def test_a_perch_turn_moves_the_map_s_areas_with_the_heights(self) -> None:
        parts = circuit_car().parts.with_part("aero_map", AeroMap(self.GRID, code="wing 2"))
        of = sheet(circuit_car(parts=parts), CIRCUIT_SETUP | {"aero_map": ["wing 2"]})
        lines = [
            Line("perch_turns", place, of.setup["perch_turns"][i], of.setup["perch_turns"][i] - 1)
            for i, place in enumerate(("LF", "RF"))
        ]
        after = try_lines(of, lines).worked.values
        lower = after["ride_height"][:2].mean() - of.worked.values["ride_height"][:2].mean()
        self.assertNotEqual(lower, 0.0)
        gained = after["lift_area"][0] - of.worked.values["lift_area"][0]
        self.assertAlmostEqual(gained, -4 * lower)

    def test_a_map_with_a_hole_in_it_is_refused(self) -> None:
        with self.assertRaisesRegex(Impossible, "3 by 3 are 9, not 8"):
            AeroMap(self.GRID[:-1])
        with self.assertRaisesRegex(Impossible, "two heights"):
            AeroMap(self.GRID[:1])
        with self.assertRaisesRegex(Impossible, "once"):
            AeroMap((*self.GRID, self.GRID[0]))


class OneStep(unittest.TestCase):
    def test_every_step_is_what_the_changed_car_has_by_itself(self) -> None:
        car, demand = loaded_car(CIRCUIT.car, CIRCUIT.worked), Demand(0.0, 9.0, 0.0)
        here = balance(car, GRIP, Demand())
        found = step_effects(CIRCUIT, car, GRIP, here, demand)
        self.assertGreater(len(found), 4)
        sizes = [abs(one.balance or 0.0) for one in found]
        self.assertEqual(sizes, sorted(sizes, reverse=True))
        for one in found:
            trial = try_lines(CIRCUIT, one.lines)
            alone = balance(loaded_car(trial.car, trial.worked), GRIP, Demand()).balance
            assert alone is not None and here.balance is not None and one.balance is not None
            self.assertAlmostEqual(one.balance, alone - here.balance, places=5)

    def test_a_piece_of_ballast_on_the_shelf_is_a_step(self) -> None:
        parts = circuit_car().parts.with_part("ballast", Ballast(15.0, 2.4, 0.3, code="B15"))
        of = sheet(circuit_car(parts=parts), CIRCUIT_SETUP)
        car = loaded_car(of.car, of.worked)
        here = balance(car, GRIP, Demand())
        found = step_effects(of, car, GRIP, here, Demand(0.0, 9.0, 0.0))
        piece = next(one for one in found if one.lines[0].name == "ballast")
        trial = try_lines(of, piece.lines)
        alone = balance(loaded_car(trial.car, trial.worked), GRIP, Demand()).balance
        assert alone is not None and here.balance is not None and piece.balance is not None
        self.assertAlmostEqual(piece.balance, alone - here.balance, places=5)
        worn = CIRCUIT_SETUP | {"ballast": ["B15", *[None] * (len(Shape.BALLAST.places) - 1)]}
        fitted = step_effects(sheet(of.car, worn), car, GRIP, here, Demand(0.0, 9.0, 0.0))
        self.assertNotIn("ballast", [one.lines[0].name for one in fitted])

    def test_pressure_perch_and_rubber_are_steps_too(self) -> None:
        parts = circuit_car().parts
        for place in ("LF", "RF", "LR", "RR"):
            tyre = Tyre(
                rate=200e3, pressure=1.4e5, second_rate=260e3, second_pressure=2.0e5, code=place
            )
            parts = parts.with_part("tyre", tyre)
        worn = CIRCUIT_SETUP | {"tyre": ["LF", "RF", "LR", "RR"], "tyre_pressure": [1.6e5] * 4}
        of = sheet(circuit_car(parts=parts), worn)
        self.assertEqual(of.value("tyre_rate"), [220e3] * 4)
        car = loaded_car(of.car, of.worked)
        demand = Demand(0.0, 11.0, 0.0)
        here = balance(car, GRIP, Demand())
        found = {
            (effect.lines[0].name, effect.lines[0].place): effect
            for effect in step_effects(of, car, GRIP, here, demand)
        }
        wanted = {("tyre_pressure", "LF"), ("perch_turns", "LR"), ("rubber_gap", "front")}
        self.assertLessEqual(wanted, set(found))
        for key in wanted:
            trial = try_lines(of, found[key].lines)
            alone = balance(loaded_car(trial.car, trial.worked), GRIP, Demand()).balance
            assert alone is not None and here.balance is not None
            self.assertAlmostEqual(found[key].balance or 0.0, alone - here.balance, places=5)

    def test_bar_steps_go_the_way_the_bars_do(self) -> None:
        car = loaded_car(CIRCUIT.car, CIRCUIT.worked)
        here = balance(car, GRIP, Demand())
        found = step_effects(CIRCUIT, car, GRIP, here, Demand(0.0, 9.0, 0.0))
        by = {(one.lines[0].name, one.lines[0].place): one for one in found}
        self.assertLess(by["bar_hole", "front"].front_share or 0.0, 0.0)  # a longer arm is softer
        self.assertGreater(by["bar_hole", "rear"].front_share or 0.0, 0.0)

    def test_at_a_load_the_car_cannot_carry_no_share_is_told(self) -> None:
        car = loaded_car(CIRCUIT.car, CIRCUIT.worked)
        here = balance(car, GRIP, Demand())
        found = step_effects(CIRCUIT, car, GRIP, here, Demand(0.0, 40.0, 0.0))
        self.assertEqual({one.front_share for one in found}, {None})
        self.assertTrue(all(one.balance is not None for one in found))


class Around(unittest.TestCase):
    def test_each_point_is_what_a_look_at_it_alone_finds(self) -> None:
        car, demand = loaded_car(CIRCUIT.car, CIRCUIT.worked), Demand(0.0, 0.0, 40.0)
        found = over(car, GRIP, demand, balance(car, GRIP, demand))
        for i in (0, 4, 8):
            alone = balance(car, GRIP, Demand(0.0, 0.0, found.speeds[i])).balance
            got = found.balance[i]
            assert alone is not None and got is not None
            self.assertAlmostEqual(got, alone, places=5)
        for i in (3, 6, 10):
            limit = found.sideways[i]
            assert limit is not None
            alone_ = balance(car, GRIP, Demand(found.along[i], 0.0, 40.0)).car
            self.assertAlmostEqual(limit, alone_, places=3)

    def test_there_is_no_limit_where_the_tyres_cannot_brake_so_hard(self) -> None:
        car, demand = loaded_car(CIRCUIT.car, CIRCUIT.worked), Demand(0.0, 0.0, 0.0)
        found = over(car, GRIP, demand, balance(car, GRIP, demand))
        self.assertIsNone(found.sideways[0])
        self.assertLess(found.along[0], -14)


class OfASheet(unittest.TestCase):
    def test_a_gentle_corner_agrees_with_the_linear_figures(self) -> None:
        car = loaded_car(CIRCUIT.car, CIRCUIT.worked)
        state = look(car, None, Demand(0.0, 1.0)).state
        assert state is not None
        line = CIRCUIT.worked.values["load_transfer"] / STANDARD_GRAVITY
        np.testing.assert_allclose(state.transfer[0], line, rtol=0.01)

    def test_what_it_lacks_is_named_with_what_it_would_need(self) -> None:
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        with self.assertRaisesRegex(Missing, "under load needs"):
            loaded_car(bare.car, bare.worked)
        self.assertIn("track", [need.name for need in bare.worked.lacking(NEEDED)])

    def test_a_look_says_what_cannot_be_and_still_tells_the_limits(self) -> None:
        car = loaded_car(CIRCUIT.car, CIRCUIT.worked)
        over = look(car, GRIP, Demand(0.0, 40.0))
        self.assertIsNone(over.state)
        self.assertIn("roll over", over.refused)
        assert over.roll_over is not None and over.lift is not None
        self.assertLess(over.lift[0], over.roll_over)
        self.assertEqual(over.lift, first_lift(car, Demand(), True))
        hard = look(car, GRIP, Demand(-14.5, 2.0))
        self.assertIsNone(hard.balance)
        self.assertTrue(hard.unbalanced or hard.refused)

    def test_a_launch_with_the_shafts_torque(self) -> None:
        live = new("drag", "parallel_four_link")
        found = build(live, first_setup(live))
        car, shaft = loaded_car(live, found.worked), shaft_of(live, found.worked)
        assert shaft is not None
        with_it = look(car, None, Demand(9.8, 0.0, 0.0, shaft))
        assert with_it.state is not None and with_it.front_lift and with_it.wheels_up
        left, right = with_it.state.loads[0, 2:]
        self.assertGreater(left, right)  # the left rear is pressed
        line = float(found.worked.values["shaft_load_shift"]) * 9.8 / STANDARD_GRAVITY
        self.assertAlmostEqual(-float(with_it.state.torque[0, 1]), line, places=6)
        back = float(with_it.state.handed_back[0])
        self.assertAlmostEqual((left - right) / 2, line * (1 - back), delta=0.01 * line)
        self.assertEqual(with_it.front_lift[1], "LF")
        self.assertLess(with_it.front_lift[0], with_it.wheels_up)
        without = look(car, None, Demand(9.8))
        assert without.state is not None and without.front_lift
        self.assertEqual(without.front_lift[1], "both")
        braking = look(car, None, Demand(-5.0))
        self.assertIsNone(braking.front_lift)
        self.assertLess(braking.wheels_up or 0.0, 0.0)

    def test_an_independent_rear_has_no_shaft_on_its_wheels(self) -> None:
        self.assertIsNone(shaft_of(CIRCUIT.car, CIRCUIT.worked))

    def test_a_drag_car_on_its_beam(self) -> None:
        drag = sheet(drag_car(), DRAG_SETUP)
        needs = {need.name for need in drag.worked.lacking(NEEDED)}
        self.assertLessEqual(needs, {"unsprung_cg_height", "roll_centre_height"})
