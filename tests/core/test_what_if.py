"""A change only tried: the graph follows it, and the standing car where load moves."""

import unittest

import numpy as np

from cabrio.core.car import Line
from cabrio.core.errors import Impossible
from cabrio.core.sheet.what_if import moved_by, refused_newly, standing_car, try_lines
from cabrio.core.solve.preload import Bite

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

CIRCUIT, DRAG = sheet(circuit_car(), CIRCUIT_SETUP), sheet(drag_car(), DRAG_SETUP)


def perch(*turns: float) -> list[Line]:
    return [Line("perch_turns", place, 0.0, turn)
            for place, turn in zip(("LF", "RF", "LR", "RR"), turns, strict=True) if turn]  # fmt: skip


class Trials(unittest.TestCase):
    def test_nothing_tried_nothing_moved(self) -> None:
        trial = try_lines(CIRCUIT, [])
        for name, value in CIRCUIT.worked.values.items():
            np.testing.assert_array_equal(trial.worked.values[name], value, err_msg=name)
        self.assertEqual(trial.predicted, ())

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
