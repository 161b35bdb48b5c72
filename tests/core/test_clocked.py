"""What a clock wrote of a run: taken as typed or pasted, refused at its field, and what it says."""

from __future__ import annotations

from math import sqrt
from typing import Any
from unittest import TestCase

from cabrio.core.errors import CoreError, Problems
from cabrio.core.record.clocked import ROLLOUT, air_told, check, pass_summary, read
from cabrio.core.record.readings import Reading

SLIP = """R/T .032
60' 1.352
330 3.91
1/8 6.12
MPH 113.4
1000 8.01
1/4 9.68
MPH 139.2"""
MPH = 0.44704


class Pasted(TestCase):
    def test_a_slip_as_the_tower_prints_it(self) -> None:
        found = read("drag", SLIP)
        self.assertEqual(
            found,
            {
                "reaction": ".032",
                "t60": "1.352",
                "t330": "3.91",
                "t660": "6.12",
                "v660": "113.4 mph",
                "t1000": "8.01",
                "t1320": "9.68",
                "v1320": "139.2 mph",
            },
        )

    def test_csv_with_a_head_and_decimal_commas(self) -> None:
        self.assertEqual(
            read("drag", "60,330,660\n1.35,3.9,6.1"), {"t60": "1.35", "t330": "3.9", "t660": "6.1"}
        )
        self.assertEqual(
            read("drag", "60 ft; 1,352\nlane; left\n330 ft;3,91"), {"t60": "1,352", "t330": "3,91"}
        )
        self.assertEqual(
            read("circuit", "S1 31.2\nS2: 40,81"), {"sector1": "31.2", "sector2": "40,81"}
        )

    def test_what_is_no_slip_is_said_to_be_none(self) -> None:
        for text, words in (
            ("", "Paste a time slip"),
            ("60 ft 1.4\n" * 41, "Paste a time slip"),
            ("hello there", "Known are Reaction, 60 ft"),
        ):
            with self.subTest(text[:20]), self.assertRaisesRegex(CoreError, words):
                read("drag", text)


class Typed(TestCase):
    def test_times_and_speeds_with_their_units(self) -> None:
        found = check(
            "drag", {"reaction": "-0.012", "t60": "1,35", "v660": "113 mph", "t330": ""}, "n_mm"
        )
        self.assertEqual(found["reaction"], -0.012)
        self.assertEqual(found["t60"], 1.35)
        self.assertAlmostEqual(found["v660"], 113 * MPH)
        self.assertNotIn("t330", found)
        self.assertEqual(check("circuit", {"sector1": "1:02.5"}, "n_mm"), {"sector1": 62.5})

    def test_all_that_is_wrong_is_told_at_its_field(self) -> None:
        typed: dict[str, Any] = {
            "t60": "1_3",
            "t330": "1:-30",
            "t660": "1:75",
            "v660": "0 mph",
            "reaction": "-3",
            "sector1": "30",
        }
        with self.assertRaises(Problems) as told:
            check("drag", typed, "imperial")
        self.assertEqual({problem.number for problem in told.exception.problems}, set(typed))

    def test_what_was_taken_is_taken_again_from_a_file(self) -> None:
        for text in ("1:32.46", "1:07.31", "2:00.07", "9.68"):
            taken = check("circuit", {"sector1": text}, "n_mm")
            self.assertEqual(check("circuit", taken, "n_mm"), taken)
        for wrong in (float("nan"), float("inf"), -1.0, 0.0, True):
            with self.assertRaises(Problems):
                check("circuit", {"sector1": wrong}, "n_mm")

    def test_a_later_mark_is_not_reached_sooner(self) -> None:
        with self.assertRaises(Problems) as told:
            check("drag", {"t60": 1.4, "t660": 6.1, "t1320": 6.1}, "imperial")
        self.assertEqual([problem.number for problem in told.exception.problems], ["t1320"])


class Says(TestCase):
    def test_the_launch_is_the_mean_from_rest_with_the_rollout(self) -> None:
        # a car at a steady 15 m/s² from rest: the clock starts once it has rolled out
        a = 15.0
        sixty = sqrt(2 * (18.288 + ROLLOUT) / a) - sqrt(2 * ROLLOUT / a)
        self.assertAlmostEqual(pass_summary("drag", {"t60": sixty}).launch or 0.0, a, places=9)
        self.assertIsNone(pass_summary("drag", {"t330": 4.0}).launch)

    def test_increments_and_the_time_in_standard_air(self) -> None:
        says = pass_summary("drag", {"t60": 1.4, "t330": 4.0, "t660": 6.2}, 0.9)
        self.assertEqual(
            [split.label for split in says.splits], ["60 ft to 330 ft", "330 ft to ⅛ mile"]
        )
        self.assertAlmostEqual(says.splits[1].mean_speed, 100.584 / 2.2)
        self.assertEqual(says.finish, 6.2)
        self.assertAlmostEqual(says.corrected or 0.0, 6.2 * 0.9 ** (1 / 3))
        self.assertIsNone(pass_summary("drag", {"t60": 1.4}).corrected)
        self.assertEqual(pass_summary("circuit", {"sector1": 30.0}).splits, ())

    def test_the_air_of_a_reading(self) -> None:
        values = {"air_temperature": [[298.1]], "air_pressure": [[92120.0]], "humidity": [[0.85]]}
        told = air_told(Reading(1, "air", 1, "Oke", "", repeats=values))
        assert told is not None
        self.assertAlmostEqual(told[0], 0.8691499336841786)
        self.assertAlmostEqual(told[1], 1436.9805732706989, places=3)
        steam = {"air_temperature": [[372.0]], "air_pressure": [[60_000.0]], "humidity": [[1.0]]}
        self.assertIsNone(air_told(Reading(1, "air", 1, "Oke", "", repeats=steam)))
