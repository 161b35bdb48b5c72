"""A change only tried: the graph follows it, and the standing car where load moves."""

import unittest
from dataclasses import replace
from types import SimpleNamespace
from typing import Any

import numpy as np

from cabrio.core.car import Line, Spring, with_lines
from cabrio.core.catalog.parts import AeroMap, Ballast, Tyre
from cabrio.core.errors import Impossible
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.what_if import moved_by, refused_newly, standing_car, try_lines
from cabrio.core.solve.preload import Bite

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

CIRCUIT, DRAG = sheet(circuit_car(), CIRCUIT_SETUP), sheet(drag_car(), DRAG_SETUP)


def perch(*turns: float) -> list[Line]:
    return [
        Line("perch_turns", place, 0.0, turn)
        for place, turn in zip(("LF", "RF", "LR", "RR"), turns, strict=True)
        if turn
    ]


class Trials(unittest.TestCase):
    def test_nothing_tried_nothing_moved(self) -> None:
        trial = try_lines(CIRCUIT, [])
        for name, value in CIRCUIT.worked.values.items():
            np.testing.assert_array_equal(trial.worked.values[name], value, err_msg=name)
        self.assertEqual(trial.predicted, ())

    def test_what_came_with_a_part_goes_when_it_is_taken_off(self) -> None:
        grid = tuple((f, r, 1.4, 1.9, 0.8) for f in (0.0, 0.2) for r in (0.0, 0.2))
        parts = circuit_car().parts.with_part("aero_map", AeroMap(grid, code="wing"))
        car = circuit_car(parts=parts)
        on = sheet(car, CIRCUIT_SETUP | {"aero_map": ["wing"]})
        off = try_lines(on, [Line("aero_map", "car", "wing", None)])
        bare = sheet(car, CIRCUIT_SETUP)
        self.assertNotIn("air_map", off.worked.values)
        for name in ("lift_area", "downforce", "height_at_speed"):
            np.testing.assert_allclose(
                off.worked.values[name], bare.worked.values[name], err_msg=name
            )
        # and put back on again it is what it was
        again = try_lines(off.as_sheet, [Line("aero_map", "car", None, "wing")])
        np.testing.assert_allclose(again.worked.values["downforce"], on.worked.values["downforce"])

    def test_the_sheet_itself_is_left_alone(self) -> None:
        before = {name: value.copy() for name, value in CIRCUIT.worked.values.items()}
        try_lines(CIRCUIT, [*perch(1, 0, 0, 1), Line("spring", "LF", "90/200", "120/200")])
        for name, value in before.items():
            np.testing.assert_array_equal(CIRCUIT.worked.values[name], value)

    def test_a_diagonal_of_perches_moves_cross_and_keeps_the_moments(self) -> None:
        trial = try_lines(CIRCUIT, perch(0, 1, 1, 0))
        before, after = moved_by(CIRCUIT, trial, "cross_share", "car")
        assert before is not None and after is not None
        self.assertGreater(after, before + 0.001)
        # the left share is not among them: with unequal tracks it moves a little, the CG does not
        for name in ("front_share", "cg_offset", "total_mass"):
            was, now = moved_by(CIRCUIT, trial, name, "car")
            assert was is not None and now is not None
            self.assertAlmostEqual(was, now, places=9, msg=name)
        self.assertEqual(trial.predicted, ("pad_mass", "ride_height"))

    def test_there_and_back(self) -> None:
        there = try_lines(CIRCUIT, perch(1, 0, 0, 0)).value("cross_share")
        back = try_lines(CIRCUIT, perch(-1, 0, 0, 0)).value("cross_share")
        here = CIRCUIT.worked.values["cross_share"]
        assert there is not None and back is not None
        self.assertAlmostEqual(float(there + back), 2 * float(here), places=9)

    def test_a_wheel_that_would_lift_is_refused(self) -> None:
        with self.assertRaisesRegex(Impossible, "lift the wheel"):
            try_lines(CIRCUIT, perch(80, 0, 0, 80))

    def test_bite_per_flat_moves_the_diagonals(self) -> None:
        flat = [Line("link_preload", "car", -1.0, -2.0)]
        bite = Bite(-8.0, 0.0, None)
        trial = try_lines(DRAG, flat, bite=bite)
        before, after = moved_by(DRAG, trial, "rear_bite", "car")
        assert before is not None and after is not None
        self.assertAlmostEqual(after - before, 8.0)
        for name in ("total_mass", "front_share", "cg_offset"):
            was, now = moved_by(DRAG, trial, name, "car")
            assert was is not None and now is not None
            self.assertAlmostEqual(was, now, places=9, msg=name)
        self.assertEqual(try_lines(DRAG, flat).predicted, ())

    def test_what_it_needs_to_stand(self) -> None:
        self.assertIsNotNone(standing_car(CIRCUIT))
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        self.assertIsNone(standing_car(bare))
        self.assertEqual(try_lines(bare, perch(1, 0, 0, 0)).predicted, ())

    def test_a_spring_brings_its_lengths(self) -> None:
        trial = try_lines(CIRCUIT, [Line("spring", "LF", "90/200", "120/200")])
        before, after = moved_by(CIRCUIT, trial, "axle_frequency", "front")
        assert before is not None and after is not None
        self.assertGreater(after, before)
        was, now = moved_by(CIRCUIT, trial, "bind_margin", "LF")
        assert was is not None and now is not None
        self.assertGreater(now, was)
        self.assertEqual(refused_newly(CIRCUIT, trial), [])

    def test_a_stiffer_spring_at_a_kept_perch_raises_the_car_and_ballast_moves_the_pads(
        self,
    ) -> None:
        stiff = try_lines(CIRCUIT, [Line("spring", p, "80/200", "100/200") for p in ("LR", "RR")])
        self.assertEqual(stiff.predicted, ("pad_mass", "ride_height"))
        rise = stiff.worked.values["ride_height"] - CIRCUIT.worked.values["ride_height"]
        self.assertTrue((rise[2:] > 0.001).all())
        piece = Ballast(20.0, 1.0, 0.3, code="lead")
        car = replace(circuit_car(), parts=circuit_car().parts.with_part("ballast", piece))
        tried = try_lines(sheet(car, CIRCUIT_SETUP), [Line("ballast", "ballast 1", None, "lead")])
        gained = tried.worked.values["pad_mass"] - CIRCUIT.worked.values["pad_mass"]
        self.assertAlmostEqual(float(gained.sum()), 20.0)
        self.assertGreater(gained[0] + gained[2], gained[1] + gained[3])
        # and taken off again the car stands as it did
        worn = sheet(car, CIRCUIT_SETUP | {"ballast": ["lead", *[None] * 5]})
        back = try_lines(worn, [Line("ballast", "ballast 1", "lead", None)]).worked.values[
            "pad_mass"
        ]
        self.assertAlmostEqual(float((worn.worked.values["pad_mass"] - back).sum()), 20.0)

    def test_larger_tyres_all_round_raise_the_car_by_half_of_what_they_are_larger(self) -> None:
        parts = circuit_car().parts
        for code, diameter in (("small", 0.640), ("large", 0.660)):
            parts = parts.with_part("tyre", Tyre(diameter=diameter, code=code))
        car = circuit_car(parts=parts)
        small = sheet(car, CIRCUIT_SETUP | {"tyre": ["small"] * 4})
        corners = ("LF", "RF", "LR", "RR")
        lines = [Line("tyre", corner, "small", "large") for corner in corners]
        before, after = (
            trial.worked.values["ride_height"] for trial in (small, try_lines(small, lines))
        )
        np.testing.assert_allclose(after - before, 0.010, atol=1e-9)
        self.assertIn("ride_height", try_lines(small, lines).predicted)

    def test_what_cannot_be_known_is_said_with_what_it_needs(self) -> None:
        given = {k: v for k, v in circuit_car().given.items() if k != "perch_pitch"}
        tried = try_lines(sheet(circuit_car(given=given), CIRCUIT_SETUP), perch(1, 0, 0, 0))
        self.assertEqual(tried.predicted, ())
        self.assertIn("not known, it needs perch pitch", tried.unknown[0].sentence)

    def test_nothing_is_said_to_stand_still_where_nothing_was_worked(self) -> None:
        click = [Line("rebound_clicks", "LF", 10.0, 9.0)]
        self.assertTrue(try_lines(CIRCUIT, click).effect_known)
        bare = sheet(circuit_car(given={}, damper={}), CIRCUIT_SETUP)
        self.assertFalse(try_lines(bare, [Line("toe", "LF", 0.0, 0.001)]).moved == [])
        self.assertFalse(try_lines(bare, [Line("spring", "LF", "90/200", "80/200")]).effect_known)

    def test_a_fact_altered_on_the_car_moves_what_rests_on_it(self) -> None:
        before = DRAG.worked.values["bolt_z"][1]
        tried = try_lines(DRAG, [Line("bolt_z", "upper axle", float(before), float(before) - 0.02)])
        self.assertIn("anti_squat", {name for name, *_ in tried.moved})
        self.assertIn("preload", {recheck.kind for recheck in tried.rechecks})
        self.assertEqual(tried.car.given["bolt_z"].earlier, DRAG.car.given["bolt_z"])

    def test_a_perch_that_is_turned_already_is_turned_on_from_there(self) -> None:
        turned = sheet(circuit_car(), CIRCUIT_SETUP | {"perch_turns": [2.0, 0.0, 0.0, 0.0]})
        on = try_lines(turned, [Line("perch_turns", "LF", 2.0, 3.0)])
        first = try_lines(CIRCUIT, perch(1, 0, 0, 0))
        for name in ("pad_mass", "ride_height"):
            moved = [
                trial.worked.values[name] - of.worked.values[name]
                for of, trial in ((turned, on), (CIRCUIT, first))
            ]
            np.testing.assert_allclose(*moved, atol=1e-6, err_msg=name)

    def test_a_perch_that_nobody_had_set_predicts_nothing(self) -> None:
        unset = sheet(circuit_car(), CIRCUIT_SETUP | {"perch_turns": [None, 0.0, 0.0, 0.0]})
        tried = try_lines(unset, [Line("perch_turns", "LF", None, 1.0)])
        self.assertEqual(tried.predicted, ())
        self.assertIn("perch", tried.unknown[0].sentence)

    def test_bars_are_free_while_the_car_is_weighed(self) -> None:
        moved = []
        for hole in (1.0, 4.0):
            here = sheet(circuit_car(), CIRCUIT_SETUP | {"bar_hole": [hole, 3.0]})
            after = try_lines(here, perch(1, 0, 0, 0)).worked.values["pad_mass"]
            moved.append(after - here.worked.values["pad_mass"])
        np.testing.assert_allclose(*moved, atol=1e-9)

    def test_what_a_car_lacks_to_stand_is_told_with_what_the_change_lacks(self) -> None:
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        needs = [need.name for need in try_lines(bare, perch(1, 0, 0, 0)).unknown[0].needs]
        self.assertIn("wheelbase", needs)
        self.assertIn("perch_pitch", needs)
        unsprung = sheet(circuit_car(), CIRCUIT_SETUP | {"spring": [None, *["90/200"] * 3]})
        tried = try_lines(unsprung, [Line("spring", "LF", None, "90/200")])
        self.assertEqual(tried.predicted, ())
        self.assertIn("spring_free_length", [need.name for need in tried.unknown[0].needs])

    def test_a_shorter_spring_of_the_same_rate_lowers_its_corner(self) -> None:
        short = Spring("90/180", 90e3, 0.18, 0.06)
        car = circuit_car(parts=circuit_car().parts.with_part("spring", short))
        here = sheet(car, CIRCUIT_SETUP)
        tried = try_lines(here, [Line("spring", "LF", "90/200", "90/180")])
        fell = here.worked.values["ride_height"] - tried.worked.values["ride_height"]
        self.assertEqual(int(np.argmax(fell)), 0)
        self.assertTrue(0.002 < fell[0] < 0.03, fell)

    def test_a_tyre_of_which_no_size_is_known_moves_no_height(self) -> None:
        parts = circuit_car().parts
        for tyre in (Tyre(diameter=0.64, code="small"), Tyre(code="slick")):
            parts = parts.with_part("tyre", tyre)
        car = circuit_car(parts=parts)
        for old, new in (("small", "slick"), ("slick", "small")):
            here = sheet(car, CIRCUIT_SETUP | {"tyre": [old] * 4})
            self.assertEqual(try_lines(here, [Line("tyre", "LF", old, new)]).predicted, ())

    def test_downforce_follows_the_map_where_the_car_rises_and_only_there(self) -> None:
        grid = tuple((f, r, 1.4 - f, 1.9 - r, 0.8) for f in (0.0, 0.2) for r in (0.0, 0.2))
        parts = circuit_car().parts.with_part("aero_map", AeroMap(grid, code="wing"))
        on = sheet(circuit_car(parts=parts), CIRCUIT_SETUP | {"aero_map": ["wing"]})
        still = try_lines(on, [Line("bar_hole", "front", 2.0, 3.0)])
        self.assertNotIn("lift_area", still.brought)
        risen = try_lines(on, perch(1, 1, 1, 1))
        lost = on.worked.values["lift_area"] - risen.worked.values["lift_area"]
        rise = risen.worked.values["axle_height"] - on.worked.values["axle_height"]
        np.testing.assert_allclose(lost, rise, rtol=1e-6)

    def test_flats_count_from_nothing_where_nobody_had_set_any(self) -> None:
        bite = Bite(-8.0, 0.0, None)
        for old, new, moved in ((None, -1.0, 8.0), (-1.0, None, -8.0)):
            here = sheet(drag_car(), DRAG_SETUP | {"link_preload": [old]})
            trial = try_lines(here, [Line("link_preload", "car", old, new)], bite=bite)
            before, after = moved_by(here, trial, "rear_bite", "car")
            assert before is not None and after is not None
            self.assertAlmostEqual(after - before, moved)

    def test_only_a_refusal_that_the_car_cannot_live_with_counts(self) -> None:
        no, odd = Impossible("no"), Impossible("odd")

        def worked(**refused: Impossible) -> Any:
            return SimpleNamespace(worked=SimpleNamespace(refused=refused))

        trial = worked(wheel_rate=no, cross_share=odd)
        self.assertEqual(refused_newly(worked(), trial), [no])
        self.assertEqual(refused_newly(worked(wheel_rate=no), trial), [])

    def test_a_part_and_settings_on_one_slip_all_count(self) -> None:
        lines = [
            Line("spring", "LF", "90/200", "120/200"),
            Line("bar_hole", "front", 2.0, 4.0),
            Line("camber", "LF", -0.05, -0.06),
            Line("toe", "LF", 0.0, 0.001),
            Line("rubber_gap", "rear", 0.02, 0.01),
        ]
        tried = try_lines(CIRCUIT, lines).worked.values
        for line in lines[1:]:
            at = number_named(line.name).index(line.place)
            self.assertEqual(float(tried[line.name].reshape(-1)[at]), line.new, line.name)

    def test_tried_from_the_sheet_it_is_the_sheet_built_anew(self) -> None:
        """What the engine keeps and what it works again come to the same as working everything."""
        lines = [Line("bar_hole", "front", 2.0, 4.0), Line("rubber_gap", "rear", 0.02, 0.01)]
        tried = try_lines(CIRCUIT, lines)
        anew = sheet(circuit_car(), with_lines(CIRCUIT_SETUP, lines))
        self.assertEqual(set(tried.worked.values), set(anew.worked.values))
        for name, value in anew.worked.values.items():
            np.testing.assert_allclose(tried.worked.values[name], value, rtol=1e-12, err_msg=name)
