"""Bolts plotted on blocks: the mean of the sides, the block taken off, slips caught."""

from __future__ import annotations

import unittest

import numpy as np

from cabrio.core.errors import CoreError, Impossible, OutOfRange
from cabrio.core.solve.plot_sheet import plotted

LEFT = np.array([[0.45, 0.55], [0.04, 0.65], [0.60, 0.41], [0.03, 0.38]])
BLOCK = 0.2


class PlotSheet(unittest.TestCase):
    def test_the_block_is_taken_off_and_the_sides_are_meant(self) -> None:
        right = LEFT + np.array([0.002, -0.001])
        found = plotted(LEFT, right, BLOCK)
        np.testing.assert_allclose(found.bolts, LEFT + np.array([0.001, -0.0005 - BLOCK]))
        np.testing.assert_allclose(found.right_less_left, right - LEFT)
        self.assertEqual(found.doubts, ())

    def test_one_side_alone_is_taken_as_it_is(self) -> None:
        found = plotted(LEFT, None, BLOCK)
        np.testing.assert_allclose(found.bolts, LEFT - np.array([0.0, BLOCK]))
        self.assertIsNone(found.right_less_left)

    def test_sides_that_differ_are_named_with_how_much(self) -> None:
        right = LEFT.copy()
        right[2, 1] += 0.0064
        found = plotted(LEFT, right, BLOCK, profile="imperial")
        self.assertEqual(len(found.doubts), 1)
        self.assertRegex(
            found.doubts[0], r"^Lower bar's chassis bolt is 0.25\d? in higher on the right"
        )

    def test_a_bar_that_works_out_another_length_is_named(self) -> None:
        upper = float(np.linalg.norm(LEFT[0] - LEFT[1]))
        self.assertEqual(plotted(LEFT, None, 0.0, lengths=(upper + 0.004, None)).doubts, ())
        found = plotted(LEFT, None, 0.0, lengths=(upper + 0.02, None))
        self.assertIn("The upper bar works out", found.doubts[0])

    def test_a_bolt_between_the_holes_of_its_bracket_is_named(self) -> None:
        x, z = LEFT[0]
        on = ((x, z - 0.019), (x, z), (x, z + 0.019))
        off = tuple((a, b + 0.0095) for a, b in on)
        self.assertEqual(plotted(LEFT, None, 0.0, holes=(on, (), (), ())).doubts, ())
        found = plotted(LEFT, None, 0.0, holes=(off, (), (), ()))
        self.assertIn("off the nearest hole", found.doubts[0])

    def test_what_cannot_be_is_refused_at_its_bolt(self) -> None:
        def refused(bolts: np.ndarray, block: float = BLOCK) -> CoreError:  # type: ignore[type-arg]
            with self.assertRaises(CoreError) as caught:
                plotted(bolts, None, block)
            return caught.exception

        self.assertIsInstance(refused(LEFT, -0.1), OutOfRange)
        under = refused(LEFT, 0.6)
        self.assertIsInstance(under, Impossible)
        self.assertIn("under the ground", under.sentence)
        one_place = LEFT.copy()
        one_place[1] = one_place[0]
        self.assertIn("in one place", refused(one_place).sentence)
        backward = LEFT[[1, 0, 2, 3]]
        self.assertIn("runs back from the axle", refused(backward).sentence)
