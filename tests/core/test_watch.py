"""What is watched on a car: when a torque or a service is due, what a class limit says, what is refused."""

from __future__ import annotations

import unittest
from typing import Any

from cabrio.core.errors import CoreError, Problems
from cabrio.core.record.watch import Watched, checked, stands


def watched(kind: str, typed: dict[str, Any], **more: Any) -> Watched:
    return Watched(1, kind, "It", checked(kind, typed, "n_mm"), **more)


def said(one: Watched, **figures: list[float] | None) -> tuple[bool, str]:
    found = stands(one, figures, "n_mm")
    return found.bars, found.words


class Due(unittest.TestCase):
    def test_a_torque_is_due_until_pulled_and_after_its_system_was_touched(self) -> None:
        typed = {"value": "85", "source": "the maker", "system": "springs", "loaded": True}
        self.assertEqual(said(watched("torque", typed))[0], True)
        pulled = {"ever_checked": True}
        self.assertFalse(said(watched("torque", typed, **pulled))[0])
        self.assertFalse(said(watched("torque", typed, touched=frozenset({"bars"}), **pulled))[0])
        due, words = said(watched("torque", typed, touched=frozenset({"springs"}), **pulled))
        self.assertTrue(due)
        self.assertIn("85 N·m, standing on its wheels, by the maker", words)
        anything = watched("torque", typed | {"system": ""}, touched=frozenset({"bars"}), **pulled)
        self.assertTrue(said(anything)[0])

    def test_a_service_counts_runs_or_days(self) -> None:
        for unit, gone in (("runs", {"runs": 5}), ("days", {"days": 5})):
            typed = {"every": "5", "unit": unit}
            self.assertTrue(said(watched("service", typed, **gone))[0])
            bars, words = said(watched("service", typed))
            self.assertEqual((bars, words), (False, f"It: in 5 {unit}"))

    def test_a_service_by_distance_counts_what_the_logbook_tells_and_says_what_it_does_not(
        self,
    ) -> None:
        typed = {"every": "200", "unit": "km"}
        self.assertEqual(said(watched("service", typed, driven=50_000.0)), (False, "It: in 150 km"))
        bars, words = said(watched("service", typed, driven=50_000.0, untold=1))
        self.assertFalse(bars)
        self.assertIn("in at most 150 km.", words)
        self.assertIn("1 run has no laps", words)
        bars, words = said(watched("service", typed, driven=212_000.0, untold=2))
        self.assertTrue(bars)
        self.assertIn("due, at least 212 km since it was done. 2 runs have", words)
        miles = typed | {"unit": "miles"}
        self.assertEqual(said(watched("service", miles, driven=160_934.4))[1], "It: in 100 miles")

    def test_a_part_off_bars_and_an_issue_where_it_is_said_to(self) -> None:
        self.assertIn("Refit it", said(watched("removed", {}))[1])
        self.assertTrue(said(watched("removed", {}))[0])
        self.assertFalse(said(watched("issue", {}))[0])
        self.assertTrue(said(watched("issue", {"bars": True}))[0])


class Limits(unittest.TestCase):
    def test_a_limit_holds_or_says_where_it_does_not(self) -> None:
        low = watched("limit", {"number": "ride_height", "least": "60 mm"})
        self.assertEqual(said(low, ride_height=[0.06, 0.061, 0.07, 0.07])[0], False)
        bars, words = said(low, ride_height=[0.0585, 0.061, 0.07, 0.07])
        self.assertTrue(bars)
        self.assertIn("58.5 mm at LF", words)
        self.assertNotIn("RF", words)
        bars, words = said(low, ride_height=None)
        self.assertTrue(bars)
        self.assertIn("Not known", words)

    def test_least_and_most_in_any_unit(self) -> None:
        both = watched("limit", {"number": "total_mass", "least": "2100 lb", "most": "1000 kg"})
        self.assertAlmostEqual(both.data["least"], 952.5, 1)
        self.assertTrue(said(both, total_mass=[1001.0])[0])
        self.assertFalse(said(both, total_mass=[960.0])[0])


class Refused(unittest.TestCase):
    def test_each_field_says_what_would_do(self) -> None:
        for kind, typed, field, words in (
            ("torque", {"value": "tight", "source": "x"}, "value", "not a number"),
            ("torque", {"value": "-5", "source": "x"}, "value", "above zero"),
            ("torque", {"value": "85"}, "source", "part's maker"),
            (
                "torque",
                {"value": "85", "source": "x", "system": "moon"},
                "system",
                "no such system",
            ),
            ("limit", {"number": "name"}, "number", "which figure"),
            ("limit", {"number": "total_mass"}, "least", "least, the most"),
            (
                "limit",
                {"number": "total_mass", "least": "2", "most": "1"},
                "most",
                "above the most",
            ),
            ("service", {"every": "soon"}, "every", "whole number"),
            ("service", {"every": "5", "unit": "moons"}, "unit", "One of runs, days, km, miles"),
        ):
            with self.subTest(kind=kind, **typed), self.assertRaises(Problems) as caught:
                checked(kind, typed, "n_mm")
            (problem,) = caught.exception.problems
            self.assertEqual(problem.number, field)
            self.assertIn(words, problem.sentence)
        with self.assertRaisesRegex(CoreError, "nothing to watch"):
            checked("rumour", {}, "n_mm")
