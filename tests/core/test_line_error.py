"""How far off its line a flat moves the car: a line through its own passes, claimed only past its scatter."""

import unittest

import numpy as np

from cabrio.core.errors import Problems
from cabrio.core.record.clocked import check, read
from cabrio.core.record.line_error import PassRecord, line_error_per_flat, passes_at

from .whole_car import DRAG_SETUP


def ran(*pairs: tuple[float, float]) -> list[PassRecord]:
    return [PassRecord(1, flats, off) for flats, off in pairs]


class Learned(unittest.TestCase):
    def test_a_flat_and_where_it_runs_straight(self) -> None:
        found = line_error_per_flat(ran((0.0, 0.30), (0.0, 0.26), (-1.0, 0.02), (-1.0, -0.01)))
        assert found is not None
        self.assertTrue(found.sure)
        self.assertAlmostEqual(found.per_flat, 0.275)
        self.assertEqual(found.straight, -1.0)
        said = found.sentence("n_mm")
        self.assertIn("275 ±", said)
        self.assertIn("to the left by 60 ft", said)
        self.assertIn("straight at −1 flat", said)
        self.assertIn("in to the left", found.sentence("imperial"))

    def test_the_error_holds_as_often_as_it_promises(self) -> None:
        chance = np.random.default_rng(5)
        within = 0
        for _ in range(400):
            flats = chance.integers(-2, 3, 8).astype(float)
            if len(set(flats)) < 2:
                flats[0] += 1
            off = 0.2 * flats + 0.1 + chance.normal(0, 0.05, 8)
            found = line_error_per_flat(
                [PassRecord(1, *pair) for pair in zip(flats, off, strict=True)]
            )
            assert found is not None
            within += abs(found.per_flat - 0.2) < 2 * found.error
        self.assertTrue(0.85 < within / 400 < 0.97, within)

    def test_inside_the_scatter_nothing_is_claimed(self) -> None:
        found = line_error_per_flat(ran((0.0, 0.3), (0.0, -0.25), (-1.0, 0.1), (-1.0, -0.2)))
        assert found is not None
        self.assertIsNone(found.straight)
        self.assertIn("do not move this car beyond what it scatters", found.sentence("n_mm"))

    def test_two_passes_or_one_number_of_flats_say_nothing(self) -> None:
        self.assertIsNone(line_error_per_flat(ran((0.0, 0.3), (-1.0, 0.0))))
        self.assertIsNone(line_error_per_flat(ran((0.0, 0.3), (0.0, 0.2), (0.0, 0.1))))

    def test_only_passes_on_the_same_setup_but_for_the_preload_count(self) -> None:
        setups = {
            1: DRAG_SETUP,
            2: DRAG_SETUP | {"link_preload": [-1.0]},
            3: DRAG_SETUP | {"rebound_clicks": [9.0] * 4},
            4: DRAG_SETUP | {"upper_link_hole": [3.0]},
        }
        runs = [(number, {"off60": 0.1 * number}) for number in setups]
        runs += [(1, {"t60": 1.4}), (9, {"off60": 0.1})]
        found = passes_at(DRAG_SETUP, runs, setups)
        self.assertEqual([one.revision for one in found], [1, 2, 3])
        self.assertEqual(found[1].flats, -1.0)


class WrittenDown(unittest.TestCase):
    def test_with_its_unit_to_either_side_and_not_out_of_the_lane(self) -> None:
        self.assertAlmostEqual(check("drag", {"off60": "-4 in"}, "n_mm")["off60"], -0.1016)
        self.assertAlmostEqual(check("drag", {"off60": "120"}, "n_mm")["off60"], 0.12)
        with self.assertRaises(Problems) as caught:
            check("drag", {"off60": "4 m"}, "n_mm")
        self.assertEqual(caught.exception.problems[0].number, "off60")

    def test_it_is_read_off_a_pasted_slip(self) -> None:
        self.assertEqual(read("drag", "60 ft  1.42\noff line  3 in")["off60"], "3 in")
