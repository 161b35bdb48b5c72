"""Lines that no test held once: how a reading was taken, how often, and what a larger tyre does."""

import unittest
from dataclasses import replace

from cabrio.core.car import Line
from cabrio.core.catalog.parts import Tyre
from cabrio.core.errors import Problems
from cabrio.core.record.readings import MOST_REPEATS, Taken, check_repeats, kind_named
from cabrio.core.record.standing import standing
from cabrio.core.sheet.what_if import try_lines
from tests.support.cars import car, pads

from .whole_car import CIRCUIT_SETUP, circuit_car, sheet

SPRINGS = [Line("spring", "LR", "S80", "S70"), Line("spring", "RR", "S80", "S70")]


class HowItWasTaken(unittest.TestCase):
    def test_by_eye_is_in_doubt(self) -> None:
        self.assertEqual(standing("pads", [pads()], {}).status, "fresh")
        eyed = pads(taken=Taken(by_eye=True))
        self.assertEqual(standing("pads", [eyed], {}).status, "doubtful")

    def test_as_it_came_is_not_how_it_stands(self) -> None:
        came = replace(pads(), id=9, at="2026-06-01T09:00", taken=Taken(stage="before"))
        self.assertEqual(standing("pads", [came], {}).status, "missing")
        found = standing("pads", [pads(), came], {})
        assert found.reading is not None
        self.assertEqual(found.reading.id, 1)

    def test_a_reading_whose_conditions_did_not_hold_spares_nothing(self) -> None:
        good = standing("pads", [pads()], {2: SPRINGS})
        self.assertTrue(good.reasons)
        loose = replace(pads(), conditions={})
        self.assertEqual(
            standing("pads", [loose], {2: SPRINGS}).readings[0].unaffected(), frozenset()
        )

    def test_no_more_repeats_than_are_taken(self) -> None:
        kind = kind_named("pads", car())
        row = [250.0, 240.0, 230.0, 235.0]
        check_repeats(kind, {"pad_mass": [row] * MOST_REPEATS}, "n_mm", confirmed=True)
        with self.assertRaisesRegex(Problems, f"at most {MOST_REPEATS} repeats"):
            check_repeats(kind, {"pad_mass": [row] * (MOST_REPEATS + 1)}, "n_mm", confirmed=True)


class ALargerTyre(unittest.TestCase):
    def test_it_raises_the_car_by_half_of_what_its_diameter_is_larger(self) -> None:
        made = circuit_car()
        for code, size in (("A", 0.6), ("B", 0.62)):
            tyre = Tyre(code=code, rate=200e3, diameter=size)
            made = replace(made, parts=made.parts.with_part("tyre", tyre))
        setup = CIRCUIT_SETUP | {"tyre": ["A"] * 4}
        here = sheet(made, setup)
        lines = [Line("tyre", place, "A", "B") for place in ("LF", "RF", "LR", "RR")]
        before, after = here.value("ride_height"), try_lines(here, lines).value("ride_height")
        assert before is not None and after is not None
        for was, now in zip(before, after.tolist(), strict=True):
            self.assertAlmostEqual(now - was, 0.01, 6)

    def test_what_a_removed_part_took_away_is_unknown_again(self) -> None:
        """A bar off the car gives nothing: its rate goes, and the balance is not that of before."""
        here = sheet(circuit_car(), CIRCUIT_SETUP)
        code = here.setup["bar"][0]
        off = try_lines(here, [Line("bar", "front", code, None)])
        self.assertIsNotNone(here.value("bar_outer"))
        self.assertIsNone(off.value("bar_outer"))
        self.assertIsNone(off.value("bar_wheel_rate"))
        self.assertIsNone(off.value("lltd"))
        rear = off.worked.by_place("bar_outer")
        assert rear is not None
        self.assertIsNone(rear[0])
        self.assertEqual(rear[1], (here.value("bar_outer") or [None, None])[1])
