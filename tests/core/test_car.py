"""Legal settings, differences and their inverses."""

import unittest
from typing import Any

from hypothesis import given
from hypothesis import strategies as st

from cabrio.core.car import check_setting, check_setup, differences, with_lines
from cabrio.core.catalog.checks import check_value
from cabrio.core.errors import CoreError, OutOfRange, Problems, Unusual
from cabrio.core.graph.registry import number_named
from tests.support.cars import SETUP, car

REFUSED = [
    ("spring", "LF", "S99", "There is no spring “S99” in the inventory"),
    ("spring", "LR", "F90", "does not fit the rear axle"),
    ("bar_hole", "front", 6, "goes from 1 to 5, the usual range, not to 6: write"),
    ("bar_hole", "LF", 2, "has no place “LF”: use front, rear"),
    ("perch_turns", "LF", 6, "goes from −5.00 to 5.00 turns on this car, not to 6.00."),
    ("rebound_clicks", "LF", -1, "must be at least 0 clicks"),
    ("compression_clicks", "LF", 3, "no adjuster for compression"),
    ("link_preload", "car", 1, "cannot be preloaded in its links"),
    ("wheel_rate", "LF", 1, "not something a slip can change"),
    ("rebound_clicks", "LF", "loose", "is not a number"),
]


class Settings(unittest.TestCase):
    def test_refused_with_the_range_that_would_do(self) -> None:
        for name, place, value, sentence in REFUSED:
            with self.subTest(name=name, value=value), self.assertRaises(CoreError) as caught:
                check_setting(car(), name, place, value)
            self.assertIn(sentence, caught.exception.sentence)

    def test_all_problems_of_a_setup_come_at_once(self) -> None:
        wrong = SETUP | {"bar_hole": [9.0, 0.0], "rebound_clicks": [1.0]}
        with self.assertRaises(Problems) as caught:
            check_setup(car(), wrong)
        self.assertEqual(len(caught.exception.problems), 3)


class Bounds(unittest.TestCase):
    def check(self, name: str, typed: Any) -> float:
        return check_value(number_named(name), "LF", typed, "n_mm")

    def test_impossible_is_refused_and_unusual_is_asked_about(self) -> None:
        for name, typed, error, words in [
            ("unsprung_mass", "0", OutOfRange, "must be above 0.0 kg"),
            ("unsprung_mass", "-3 kg", OutOfRange, "must be above 0.0 kg"),
            ("unsprung_mass", "200 kg", Unusual, "far from the usual 12.0 kg to 110.0 kg"),
            ("motion_ratio", "1.9", OutOfRange, "it is then 0.526"),
            ("motion_ratio", "1.4", Unusual, "Confirm it"),
            ("tyre_rate", "20 N/mm", Unusual, "far from the usual"),
        ]:
            with self.subTest(typed), self.assertRaisesRegex(error, words) as caught:
                self.check(name, typed)
            self.assertEqual((caught.exception.number, caught.exception.place), (name, "LF"))

    def test_a_confirmed_value_is_taken(self) -> None:
        number = number_named("unsprung_mass")
        self.assertEqual(check_value(number, "LF", "200 kg", "n_mm", confirmed=True), 200.0)


CHANGES = st.lists(
    st.tuples(
        st.sampled_from(["LF", "RF", "LR", "RR"]), st.floats(-5, 5).map(lambda x: round(x, 2))
    ),
    max_size=6,
)


class Lines(unittest.TestCase):
    @given(CHANGES)
    def test_a_slip_and_its_way_back_leave_the_setup(
        self, changes: list[tuple[str, float]]
    ) -> None:
        after = {name: list(values) for name, values in SETUP.items()}
        for place, value in changes:
            after["perch_turns"][number_named("perch_turns").index(place)] = value
        lines = differences(SETUP, after)
        self.assertEqual(with_lines(SETUP, lines), after)
        self.assertEqual(with_lines(after, [line.inverse() for line in lines]), SETUP)

    def test_alike_setups_have_no_lines(self) -> None:
        self.assertEqual(differences(SETUP, SETUP), [])
