"""Curves agree with the car worked point by point; proposals do what they say."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.car import Given, Line
from cabrio.core.errors import CoreError, Missing, UnknownName
from cabrio.core.knowledge import knowledge
from cabrio.core.sheet.plots import POINTS, sweep
from cabrio.core.sheet.questions import ask, questions
from cabrio.core.sheet.what_if import try_lines

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
                    car = DRAG if station.layouts else CIRCUIT
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
        self.assertIn("pads", {one.kind for one in best.rechecks})
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

    def test_link_holes_for_an_anti_squat(self) -> None:
        best = ask(DRAG, "holes_for_anti_squat", {"anti_squat": 1.2})
        offs = [abs((one.shows[0].after or 0) - 1.2) for one in best]
        self.assertEqual(offs, sorted(offs))
        self.assertTrue(
            {line.name for one in best for line in one.lines}
            <= {"upper_link_hole", "lower_link_hole"}
        )

    def test_clicks_are_alike_left_and_right(self) -> None:
        for one in ask(CIRCUIT, "clicks_for_rebound", {"rebound_ratio_low": 0.8}):
            values = [line.new for line in one.lines]
            self.assertEqual(len(set(values)), 1 if values else 0)

    def test_a_question_that_cannot_be_answered(self) -> None:
        with self.assertRaisesRegex(UnknownName, "no question called"):
            ask(CIRCUIT, "why", {})
        with self.assertRaisesRegex(Missing, "type the value wanted"):
            ask(CIRCUIT, "holes_for_share", {})
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        for name, asked in (("turns_for_cross", "cross_share"), ("holes_for_share", "lltd")):
            with self.assertRaises(CoreError):
                ask(bare, name, {asked: 0.5})
