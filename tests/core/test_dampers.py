"""Dyno sheets, clicks in both countings, dead knobs, and valving kept as data."""

import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from cabrio.core.catalog.parts import Adjustment, Damper, DynoCurve, Shim, Valving
from cabrio.core.errors import CoreError, Impossible, Missing, OutOfRange
from cabrio.core.solve.clicks import click_for, ladder

from .whole_car import dyno

CLOSED = Adjustment(20, "from_closed", dyno(20, 1.0))
OPEN = Adjustment(
    20, "from_open", tuple(DynoCurve(20 - c.click, c.speeds, c.forces) for c in dyno(20, 1.0))
)


class Countings(unittest.TestCase):
    @given(st.integers(0, 20), st.floats(0, 0.4))
    def test_one_damper_counted_from_either_end(self, click: int, speed: float) -> None:
        self.assertAlmostEqual(
            float(CLOSED.force(click, np.asarray(speed))),
            float(OPEN.force(20 - click, np.asarray(speed))),
        )
        self.assertEqual(CLOSED.from_open(click), OPEN.from_open(20 - click))
        self.assertEqual(OPEN.from_closed(20 - click), click)

    def test_between_clicks_and_speeds_lines_are_straight(self) -> None:
        force = float(CLOSED.force(5, np.asarray(0.075)))
        self.assertAlmostEqual(force, 260.0 * (1 - 0.75 * 5 / 20))

    def test_a_force_at_standstill_is_not_damping(self) -> None:
        self.assertAlmostEqual(CLOSED.chord(0, (0.0, 0.05)), (200 - 20) / 0.05)

    def test_past_what_was_measured_is_refused(self) -> None:
        part = Adjustment(20, "from_closed", dyno(20, 1.0)[:2])
        for click, speed in ((21, 0.1), (-1, 0.1), (15, 0.1), (5, 0.5)):
            with self.subTest(click=click, speed=speed), self.assertRaises(OutOfRange) as caught:
                part.force(click, np.asarray(speed))
            self.assertTrue(caught.exception.allowed)
        with self.assertRaisesRegex(Missing, "no dyno sheet"):
            Adjustment(20, "from_closed").force(3, np.asarray(0.1))

    def test_a_sheet_that_cannot_be(self) -> None:
        for speeds, forces in (((0.0, 0.1), (0.0,)), ((0.1, 0.1), (0.0, 1.0)), ((0.0,), (0.0,))):
            with self.assertRaises(Impossible):
                DynoCurve(0, speeds, forces)


class ClickSearch(unittest.TestCase):
    @given(st.floats(0.05, 1.5))
    def test_the_nearest_of_all_and_ties_to_the_softer(self, target: float) -> None:
        for adjustment in (CLOSED, OPEN):
            best = click_for(adjustment, target, "low", 0.8, 6000.0)
            every = ladder(adjustment, "low", 0.8, 6000.0)
            self.assertEqual(len(every), 21)
            self.assertAlmostEqual(
                abs(best.ratio - target), min(abs(r.ratio - target) for r in every)
            )
        here = click_for(CLOSED, target, "low", 0.8, 6000.0).click
        self.assertEqual(here, 20 - click_for(OPEN, target, "low", 0.8, 6000.0).click)

    def test_exactly_between_two_clicks_goes_softer(self) -> None:
        a, b = ladder(CLOSED, "low", 0.8, 6000.0)[4:6]
        self.assertEqual(
            click_for(CLOSED, (a.ratio + b.ratio) / 2, "low", 0.8, 6000.0).click, b.click
        )

    def test_dead_and_knobless(self) -> None:
        for adjustment, message in (
            (Adjustment(20, "from_closed", dyno(20, 1.0), 7), "dead at click 7"),
            (Adjustment(0, "from_closed", dyno(20, 1.0)[:1]), "no knob"),
        ):
            with self.assertRaisesRegex(CoreError, message):
                click_for(adjustment, 0.5, "low", 0.8, 6000.0)


class Builds(unittest.TestCase):
    def test_stacks_are_compared_shim_by_shim(self) -> None:
        here = Valving("rebound", (Shim(0.04, 0.0002), Shim(0.038, 0.00015)), bleed="1.2 mm")
        there = Valving("rebound", (Shim(0.04, 0.0002), Shim(0.036, 0.00015), Shim(0.02, 0.0003)))
        self.assertEqual(here.differences(here), [])
        self.assertEqual(
            here.differences(there),
            [
                "shim 2: 38 × 0.15 mm against 36 × 0.15 mm",
                "shim 3: none against 20 × 0.30 mm",
                "bleed: 1.2 mm against none",
            ],
        )

    def test_single_and_double_adjustable(self) -> None:
        single = Damper(None, CLOSED)
        self.assertIsNone(single.adjustment("compression"))
        self.assertIs(single.adjustment("rebound"), CLOSED)
