"""The angle gauge over TCP: the simulated one as it would be held, and lines that are not a gauge's."""

from __future__ import annotations

import unittest

from cabrio.instruments.gauge import ask, parsed
from cabrio.instruments.line import NoAnswer
from cabrio.instruments.simulated_gauge import OFF, STEP, SimulatedGauge


class Gauge(unittest.TestCase):
    def setUp(self) -> None:
        self.gauge = SimulatedGauge()
        self.address = self.gauge.start()
        self.addCleanup(self.gauge.server_close)
        self.addCleanup(self.gauge.shutdown)

    def mean(self, degrees: float, car: int = 1) -> float:
        return sum(ask(self.address, car, degrees) for _ in range(30)) / 30

    def test_its_zero_is_off_until_it_is_zeroed_on_the_floor(self) -> None:
        off = abs(self.mean(3.0) - 3.0)
        self.assertGreater(off, OFF / 6)
        self.assertLess(ask(self.address, 1, 0.0, zero=True), 0.2)
        self.assertAlmostEqual(self.mean(3.0), 3.0, delta=0.05)
        # another car's gauge was not zeroed by it
        self.assertGreater(abs(self.mean(3.0, car=2) - 3.0), OFF / 6)

    def test_it_shows_no_sign_and_comes_in_steps(self) -> None:
        ask(self.address, 1, 0.0, zero=True)
        self.assertAlmostEqual(self.mean(-2.5), 2.5, delta=0.05)
        shown = ask(self.address, 1, 2.5)
        self.assertAlmostEqual(shown / STEP, round(shown / STEP), places=6)

    def test_zeroed_on_a_slope_it_shows_the_angle_between(self) -> None:
        ask(self.address, 1, 1.5, zero=True)
        self.assertAlmostEqual(self.mean(4.0), 2.5, delta=0.05)

    def test_lines_that_are_no_reading_are_refused(self) -> None:
        for line, words in (
            ("angle=--", "not settled"),
            ("angle=-3", "no angle"),
            ("angle=91", "no angle"),
            ("angle=nan", "no angle"),
            ("angle=steep", "no angle"),
            ("LF=1 RF=2", "no reading"),
            ("", "no reading"),
        ):
            with self.subTest(line), self.assertRaisesRegex(NoAnswer, words):
                parsed(line)

    def test_what_is_not_there_or_no_address_is_said(self) -> None:
        with self.assertRaisesRegex(NoAnswer, "does not answer"):
            ask("127.0.0.1:1", 1, 0.0)
        with self.assertRaisesRegex(NoAnswer, "no address of angle gauge"):
            ask("here", 1, 0.0)
