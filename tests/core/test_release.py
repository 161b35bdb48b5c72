"""Ready to run: what is void, never read or points to damage keeps the car in; doubt does not."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from unittest import TestCase

from cabrio.core.knowledge import knowledge
from cabrio.core.record.readings import Reading
from cabrio.core.record.standing import Invalidated, Mismatch, Standing
from cabrio.core.sheet.release import bars_release

from .whole_car import DRAG_SETUP, drag_car, sheet


class Release(TestCase):
    def stood(self, *standings: Standing) -> Any:
        return replace(
            sheet(drag_car(), DRAG_SETUP),
            standings={standing.kind: standing for standing in standings},
        )

    def reading(self, kind: str) -> Reading:
        return Reading(1, kind, 1, "Oke", "2026-10-10T12:00:00+00:00")

    def test_fresh_and_doubtful_readings_let_it_out(self) -> None:
        found = self.stood(
            Standing("pads", "fresh", self.reading("pads")),
            Standing("heights", "doubtful", self.reading("heights")),
        )
        self.assertEqual(bars_release(found), ())

    def test_a_reading_that_was_never_taken_bars_unless_it_is_only_needed_at_times(self) -> None:
        at_times = next(reading for reading in knowledge().readings.values() if reading.when_needed)
        found = self.stood(
            Standing("pads", "missing", None),
            Standing("bolts", "missing", None),
            Standing(at_times.id, "missing", None),
        )
        said = [one.words for one in bars_release(found)]
        self.assertEqual(
            said,
            ["Pads: never read on this car.", "Bolt check: never checked on this car."],
        )

    def test_a_void_reading_says_since_when_and_why(self) -> None:
        gone = Invalidated("void", "A perch moves load.", ("perch_turns",), revision=7)
        doubt = Invalidated("doubtful", "It was cold.", ("tyre_pressure",), revision=6)
        found = self.stood(Standing("pads", "void", self.reading("pads"), (doubt, gone)))
        (bar,) = bars_release(found)
        self.assertEqual(bar.words, "Pads: void since revision 7: A perch moves load.")
        self.assertFalse(bar.damage)

    def test_preload_found_gone_points_to_damage_and_comes_first(self) -> None:
        differs = (Mismatch("preload_found", "car", -1.0, 0.0),)
        gone = Invalidated("void", "Something was undone.", ("spring",), revision=2)
        found = self.stood(
            Standing("bolts", "void", self.reading("bolts"), (gone,)),
            Standing(
                "preload", "void", self.reading("preload"), (), differs, self.reading("preload")
            ),
        )
        first, second = bars_release(found)
        self.assertEqual((first.kind, first.damage), ("preload", True))
        self.assertIn("Look for damage before it runs", first.words)
        self.assertEqual((second.kind, second.damage), ("bolts", False))
