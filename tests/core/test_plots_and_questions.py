"""Curves agree with the car worked point by point; proposals do what they say."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.car import Adjuster, Given, Line
from cabrio.core.catalog.parts import Ballast
from cabrio.core.errors import CoreError, Missing, UnknownName
from cabrio.core.knowledge import knowledge
from cabrio.core.questions import ask, questions
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.plots import POINTS, sweep
from cabrio.core.sheet.what_if import standing_car, try_lines
from cabrio.core.solve.turns import turns_for_heights

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

CIRCUIT, DRAG = sheet(circuit_car(), CIRCUIT_SETUP), sheet(drag_car(), DRAG_SETUP)


class Plots(unittest.TestCase):
    def test_a_sweep_is_the_car_worked_at_each_point(self) -> None:
        found = sweep(CIRCUIT, "speed", ("height_at_speed",))
        for i in (0, 17, POINTS - 1):
            given = CIRCUIT.car.given | {"speed": Given((found.values[i],))}
            alone = sheet(replace(CIRCUIT.car, given=given), CIRCUIT_SETUP).value("height_at_speed")
            assert alone is not None
            for curve in found.curves:
                at = ("front", "rear").index(curve.place)
                self.assertAlmostEqual(curve.values[i] or 0, alone[at], places=9)
        self.assertEqual(found.here, 55.0)

    def test_after_a_slip_it_is_drawn_from_the_changed_car(self) -> None:
        tried = try_lines(CIRCUIT, [Line("spring", p, "90/200", "120/200") for p in ("LF", "RF")])
        stiff = sweep(CIRCUIT, "speed", ("travel_at_speed",), tried.worked.values).curves[0].values
        soft = sweep(CIRCUIT, "speed", ("travel_at_speed",)).curves[0].values
        self.assertLess(abs(stiff[-1] or 0), abs(soft[-1] or 0))

    def test_what_cannot_be_drawn_says_so(self) -> None:
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        with self.assertRaisesRegex(Missing, "nothing to draw yet"):
            sweep(bare, "speed", ("height_at_speed",))
        with self.assertRaisesRegex(UnknownName, "no range"):
            sweep(CIRCUIT, "rubber_curve", ("height_at_speed",))

    def test_every_plot_of_the_stations_can_be_drawn(self) -> None:
        for station in knowledge().stations:
            for panel in station.panel:
                if panel.kind == "plot":
                    car = CIRCUIT if "circuit" in station.disciplines else DRAG
                    self.assertTrue(sweep(car, panel.x, panel.names).curves, station.id)


class Questions(unittest.TestCase):
    def test_every_question_of_the_stations_is_one(self) -> None:
        named = {p.question for s in knowledge().stations for p in s.panel if p.kind == "question"}
        self.assertEqual(named, set(questions()))

    def test_turns_reach_the_cross_and_keep_the_heights(self) -> None:
        best = ask(CIRCUIT, "turns_for_cross", {"cross_share": 0.5})[0]
        tried = try_lines(CIRCUIT, best.lines)
        cross = tried.value("cross_share")
        assert cross is not None
        self.assertLess(abs(float(cross) - 0.5), 0.002)
        moved = tried.worked.values["ride_height"] - CIRCUIT.worked.values["ride_height"]
        self.assertLess(np.abs(moved).max(), 0.001)
        self.assertEqual({line.name for line in best.lines}, {"perch_turns"})
        self.assertIn("pads", {recheck.kind for recheck in best.rechecks})
        self.assertGreater(best.minutes, 20)

    def test_holes_are_the_nearest_of_all_there_are(self) -> None:
        offered = ask(CIRCUIT, "holes_for_share", {"lltd": 0.55})
        gaps = []
        for front in range(1, 5):
            for rear in range(1, 5):
                lines = [
                    Line("bar_hole", "front", 2.0, float(front)),
                    Line("bar_hole", "rear", 3.0, float(rear)),
                ]
                got = try_lines(CIRCUIT, lines).value("lltd")
                assert got is not None
                gaps.append(abs(float(got) - 0.55))
        share = next(row.after for row in offered[0].shows if row.name == "lltd")
        assert share is not None
        self.assertAlmostEqual(abs(share - 0.55), min(gaps), places=9)

    def test_flats_for_a_pinion_are_the_figure_s_own(self) -> None:
        v = DRAG.worked.values
        now, per = float(v["pinion_angle"]), float(v["pinion_per_flat"])
        found = ask(DRAG, "flats_for_pinion", {"pinion_angle": now - 2.1 * per})[0]
        self.assertEqual((found.label, found.lines), ("2 flats shorter", ()))
        self.assertAlmostEqual(found.shows[0].after or 0.0, now - 2 * per)
        same = ask(DRAG, "flats_for_pinion", {"pinion_angle": now})[0]
        self.assertEqual(same.label, "As it is")
        with self.assertRaisesRegex(Missing, "need the pinion read"):
            ask(CIRCUIT, "flats_for_pinion", {"pinion_angle": 0.0})

    def test_clicks_are_alike_left_and_right(self) -> None:
        for one in ask(CIRCUIT, "clicks_for_rebound", {"rebound_ratio_low": 0.8}):
            values = [line.new for line in one.lines]
            self.assertEqual(len(set(values)), 1 if values else 0)

    def test_a_target_that_no_setting_gives_is_said_with_what_they_give(self) -> None:
        ratios = sorted(
            shown.after or 0.0
            for one in ask(CIRCUIT, "clicks_for_rebound", {"rebound_ratio_low": 9.0})[:1]
            for shown in one.shows
            if shown.place == "LF"
        )
        for target, reached in ((9.0, False), (ratios[0], True)):
            for one in ask(CIRCUIT, "clicks_for_rebound", {"rebound_ratio_low": target})[:1]:
                said = [note for note in one.notes if "out of reach" in note]
                self.assertEqual(len(said), 0 if reached else 1, said)
        self.assertIn(f" to {ratios[0]:.2f}.", self.out_of_reach(9.0))

    def out_of_reach(self, target: float) -> str:
        (note, *_) = ask(CIRCUIT, "clicks_for_rebound", {"rebound_ratio_low": target})[0].notes
        return note

    def test_turns_bring_both_axles_to_their_heights_and_keep_the_cross(self) -> None:
        now = CIRCUIT.worked.values["axle_height"]
        wanted = {"axle_height_front": now[0] - 0.004, "axle_height_rear": now[1] + 0.003}
        (best,) = ask(CIRCUIT, "turns_for_heights", wanted)
        tried = try_lines(CIRCUIT, best.lines)
        after, cross = tried.value("axle_height"), tried.value("cross_share")
        assert after is not None and cross is not None
        # a step of a quarter turn moves an axle by about half a millimetre
        np.testing.assert_allclose(after, list(wanted.values()), atol=0.4e-3)
        before = float(CIRCUIT.worked.values["cross_share"])
        self.assertLess(abs(float(cross) - before), 0.003)

    def test_a_hand_is_told_which_way_to_wind(self) -> None:
        now = CIRCUIT.worked.values["axle_height"]
        wanted = {"axle_height_front": now[0] - 0.004, "axle_height_rear": now[1]}
        (best,) = ask(CIRCUIT, "turns_for_heights", wanted)
        self.assertRegex(best.label, r": LF wind down \d\.\d\d turns")
        (holes, *_) = ask(CIRCUIT, "holes_for_share", {"lltd": 0.5})
        self.assertRegex(holes.label, r"^bar hole \d \((front|rear)\)")

    def test_exact_turns_for_heights_are_undone_by_the_opposite(self) -> None:
        car = standing_car(CIRCUIT)
        assert car is not None
        pitches = np.full(4, 0.002)
        change = np.array([0.003, 0.003, -0.002, -0.002])
        fine = turns_for_heights(car, change, pitches, 1e-6)
        np.testing.assert_allclose(fine.standing.ride_height_changes, change, atol=1e-8)
        self.assertAlmostEqual(fine.cross, float(CIRCUIT.worked.values["cross_share"]), 6)
        with self.assertRaisesRegex(CoreError, "above zero"):
            turns_for_heights(car, change, pitches * 0, 0.25)

    def ballasted(self, *pieces: Ballast) -> Sheet:
        parts = circuit_car().parts
        for piece in pieces:
            parts = parts.with_part("ballast", piece)
        return sheet(circuit_car(parts=parts), CIRCUIT_SETUP)

    def test_ballast_is_the_best_of_every_choice_on_the_shelf(self) -> None:
        car = self.ballasted(
            Ballast(12.0, 0.2, 0.0, code="nose"),
            Ballast(20.0, 2.4, 0.1, code="boot"),
            Ballast(8.0, 1.2, -0.5, code="sill"),
        )
        share = float(car.worked.values["front_share"])
        best = ask(car, "ballast_for_front", {"front_share": share - 0.004})[0]
        self.assertIn("boot", [line.new for line in best.lines])
        self.assertRegex(best.notes[0], r"^Exactly: .* kg where boot sits")
        mass = float(car.worked.values["total_mass"])
        least = ask(car, "ballast_for_mass", {"total_mass": mass + 19.0})[0]
        self.assertEqual({line.new for line in least.lines}, {"boot"})
        with self.assertRaisesRegex(CoreError, "does not bring the car to that mass"):
            ask(car, "ballast_for_mass", {"total_mass": mass + 500.0})
        # of equal masses the fewest pieces; more pieces than can be tried one by one are no trouble
        many = self.ballasted(*(Ballast(1.0 + i, 0.2 * i, code=f"B{i}") for i in range(12)))
        share = float(many.worked.values["front_share"])
        found = ask(many, "ballast_for_front", {"front_share": share - 0.006})[0]
        after = next(
            shown_figure.after for shown_figure in found.shows if shown_figure.name == "front_share"
        )
        self.assertAlmostEqual(after or 0.0, share - 0.006, 4)
        with self.assertRaisesRegex(CoreError, "no ballast on the shelf"):
            ask(CIRCUIT, "ballast_for_left", {"left_share": 0.5})

    def test_cold_pressures_reach_the_hot_target(self) -> None:
        given = {"hot_target": [180e3, 175e3], "cold_temperature": [291.0]}
        given |= {"hot_temperature": [355.0, 350.0], "air_pressure": [101325.0]}
        facts = {name: Given(tuple(values)) for name, values in given.items()}
        car = circuit_car()
        adjusters = car.adjusters | {"tyre_pressure": Adjuster(50e3, 300e3)}
        of = sheet(
            replace(car, given=car.given | facts, adjusters=adjusters),
            CIRCUIT_SETUP | {"tyre_pressure": [120e3] * 4},
        )
        (found,) = ask(of, "cold_pressures", {})
        cold = of.worked.values["cold_pressure"]
        for line in found.lines:
            axle = 0 if line.place in ("LF", "RF") else 1
            self.assertLess(abs(line.new - float(cold[axle])), 2501.0, line.place)

    def test_the_softest_spring_is_the_first_that_clears(self) -> None:
        for one in ask(CIRCUIT, "softest_springs", {}):
            tried = try_lines(CIRCUIT, one.lines)
            rate, least = tried.value("wheel_rate"), CIRCUIT.worked.values["least_wheel_rate"]
            assert rate is not None
            at = 0 if one.label.startswith("Front") else 1
            self.assertGreaterEqual(rate[2 * at : 2 * at + 2].min(), least[at])

    def test_a_question_that_cannot_be_answered(self) -> None:
        with self.assertRaisesRegex(UnknownName, "no question called"):
            ask(CIRCUIT, "why", {})
        with self.assertRaisesRegex(Missing, "type the value wanted"):
            ask(CIRCUIT, "holes_for_share", {})
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        for name, asked in (("turns_for_cross", "cross_share"), ("holes_for_share", "lltd")):
            with self.assertRaises(CoreError):
                ask(bare, name, {asked: 0.5})
