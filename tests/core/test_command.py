"""The command line of the trade."""

import unittest
from dataclasses import replace

from cabrio.core.catalog.disciplines import Phase
from cabrio.core.catalog.inventory import Inventory
from cabrio.core.errors import CoreError, UnknownName
from cabrio.core.sheet.command import Advise, Change, Go, Reach, Why, understand
from cabrio.core.sheet.stock import candidates, curve, nearest, wanted_rate
from tests.core.whole_car import DRAG_SETUP, drag_car
from tests.support.cars import SETUP, car, sheet

CHANGES = [
    ("rear spring 70", [("spring", "LR", "S70"), ("spring", "RR", "S70")]),
    ("lf spring 60 N/mm", [("spring", "LF", "S60")]),
    ("rr spring -1", [("spring", "RR", "S70")]),
    ("front spring f90", [("spring", "LF", "F90"), ("spring", "RF", "F90")]),
    ("front bar +1", [("bar_hole", "front", 3.0)]),
    ("front bar hole 1", [("bar_hole", "front", 1.0)]),
    ("rear bar 5", [("bar_hole", "rear", 5.0)]),
    ("rebound rear -2", [("rebound_clicks", "LR", 8.0), ("rebound_clicks", "RR", 8.0)]),
    ("lf perch +1/2 turn", [("perch_turns", "LF", 0.5)]),
    ("rf perch to -1", [("perch_turns", "RF", -1.0)]),
    ("front bar hole to 1", [("bar_hole", "front", 1.0)]),
    ("bar hole front 1", [("bar_hole", "front", 1.0)]),
]
REFUSED = [
    ("", "Nothing typed"),
    ("rear spring 550", "the nearest is 80 N/mm (S80)"),
    ("rear spring +1", "The inventory ends"),
    ("bar 3", "Say where"),
    ("front wing +1", "names no number to change"),
    ("front bar 9", "goes from 1 to 5"),
    ("go pub", "no station “pub”"),
    ("why bananas", "no number called “bananas”"),
    ("plan", "Say what is wanted"),
    ("plan wing 5", "A plan aims at"),
    ("plan cross", "A plan aims at"),
    ("urb -1 flat", "cannot be preloaded in its links"),
    ("front bump rubber gap 12", "no adjuster for bump rubber gap"),
]


class Phases(unittest.TestCase):
    def test_a_phase_is_called_by_its_id_its_label_and_other_words(self) -> None:
        phase = Phase("hill", "hairpin", "ce", "ce", label="Hair pin", aliases=("switchback",))
        called = [phase.is_called(word) for word in ("hair", "hair p", "switch", "bend")]
        self.assertEqual(called, [True, True, True, False])
        self.assertEqual((phase.words, Phase("hill", "exit", "e", "c").words), ("Hair pin", "exit"))


class Commands(unittest.TestCase):
    def test_a_plan_of_work(self) -> None:
        for typed, wanted in (
            ("plan cross 50", [("cross_share", "car", "50")]),
            (
                "plan frequency rear 2.4 hz and lltd 52 %",
                [("axle_frequency", "rear", "2.4 hz"), ("lltd", "car", "52 %")],
            ),
            (
                "plan axle height 95",
                [("axle_height", "front", "95"), ("axle_height", "rear", "95")],
            ),
        ):
            self.assertEqual(understand(typed, car(), SETUP), Reach(tuple(wanted)), typed)

    def test_changes(self) -> None:
        for text, expected in CHANGES:
            with self.subTest(text):
                found = understand(text, car(), SETUP)
                assert isinstance(found, Change)
                self.assertEqual([(x.name, x.place, x.new) for x in found.lines], expected)

    def test_what_drivers_say_is_a_complaint(self) -> None:
        for typed, symptom in (("why loose", "oversteer"), ("why tight mid", "understeer")):
            found = understand(typed, car(), SETUP)
            assert isinstance(found, Advise)
            self.assertEqual(found.symptom, symptom)

    def test_going_and_explaining(self) -> None:
        self.assertEqual(understand("go springs", car(), SETUP), Go("springs"))
        self.assertEqual(understand("go car in plan", car(), SETUP), Go("plan"))
        self.assertEqual(
            understand("why ride frequency rear", car(), SETUP), Why("ride_frequency", "LR")
        )
        self.assertEqual(understand("why cross", car(), SETUP), Why("cross_share", None))

    def test_a_complaint_asks_what_to_change(self) -> None:
        for text, symptom, phase in (
            ("why understeer mid", "understeer", "mid-corner"),
            ("why understeer", "understeer", ""),
            ("why packs down bumps", "packs_down", "bumps and kerbs"),
            ("why skips straight", "skips", "straight"),
            ("why packs_down straight", "packs_down", "straight"),
        ):
            self.assertEqual(understand(text, car(), SETUP), Advise(symptom, phase), text)
        with self.assertRaisesRegex(UnknownName, "no phase “moon”"):
            understand("why understeer moon", car(), SETUP)
        # a number is asked for as before
        self.assertIsInstance(understand("why cross", car(), SETUP), Why)
        self.assertEqual(understand("go logbook", car(), SETUP), Go("logbook"))
        self.assertEqual(understand("release", car(), SETUP), Go("release"))

    def test_words_that_are_places_are_part_of_some_names(self) -> None:
        for text, name in (
            ("why rear joint", "rear_joint_angle"),
            ("why stroke left open", "stroke_left_open"),
            ("why rear separation", "rear_separation"),
        ):
            self.assertEqual(understand(text, car(), SETUP), Why(name, None), text)

    def test_a_slash_typed_in_the_field_and_a_sign_that_is_the_value_s_own(self) -> None:
        found = understand("/front bar 3", car(), SETUP)
        assert isinstance(found, Change)
        self.assertEqual(found.lines[0].new, 3.0)
        preloaded = drag_car(), DRAG_SETUP
        for text, value in (("preload -1.5", -1.5), ("preload +0.5", -0.5), ("preload to 1", 1.0)):
            found = understand(text, *preloaded)
            assert isinstance(found, Change)
            self.assertEqual(found.lines[0].new, value, text)

    def test_a_label_is_read_whole(self) -> None:
        for text, name, value in (
            ("front travel limiter 60 mm", "front_limiter", 0.06),
            ("lower link hole 3", "lower_link_hole", 3.0),
        ):
            found = understand(text, drag_car(), DRAG_SETUP)
            assert isinstance(found, Change)
            self.assertEqual([(x.name, x.new) for x in found.lines], [(name, value)], text)

    def test_refused_with_what_would_do(self) -> None:
        for text, words in REFUSED:
            with self.subTest(text), self.assertRaises(CoreError) as caught:
                understand(text, car(), SETUP)
            self.assertIn(words, caught.exception.sentence)

    def test_already_there_is_no_line(self) -> None:
        found = understand("front bar 2", car(), SETUP)
        assert isinstance(found, Change)
        self.assertEqual((found.lines, found.note), ((), "Bar hole is already there."))


class Stores(unittest.TestCase):
    def test_nearest_first_and_ties_to_the_softer(self) -> None:
        stores = car().parts.of("spring")
        self.assertEqual(nearest(stores, 65e3).code, "S60")
        self.assertEqual(
            [c.spring.code for c in candidates(sheet(), "rear", 72e3)], ["S70", "S80", "S60"]
        )
        self.assertNotIn("F90", [c.spring.code for c in candidates(sheet(), "rear", None)])

    def test_a_candidate_is_what_the_sheet_would_be(self) -> None:
        fitted = next(c for c in candidates(sheet(), "rear", None) if c.spring.code == "S80")
        now = sheet()
        self.assertAlmostEqual(fitted.frequency or 0, (now.value("axle_frequency") or [0, 0])[1])
        self.assertAlmostEqual(
            fitted.seat_at_droop or 0, min((now.value("seat_at_droop") or [0] * 4)[2:])
        )

    def test_one_axle_out_of_reach_leaves_the_other(self) -> None:
        found = sheet(target_frequency=[2.2, 9.0], tyre_in_series=[1.0])
        self.assertIsNotNone(wanted_rate(found, "front"))
        with self.assertRaises(CoreError):
            wanted_rate(found, "rear")

    def test_without_springs_at_the_other_axle_there_is_no_ratio_to_show(self) -> None:
        bare = sheet()
        bare.worked.values.pop("spring_rate")
        self.assertEqual(
            {candidate.frequency_ratio for candidate in candidates(bare, "front", 7e4)}, {None}
        )
        self.assertNotIn(
            None, {candidate.frequency_ratio for candidate in candidates(sheet(), "front", 7e4)}
        )

    def test_missing_inputs_leave_no_rate_and_empty_stores_no_rows(self) -> None:
        self.assertIsNone(wanted_rate(sheet(motion_ratio=[None] * 4), "front"))
        bare = sheet()
        bare.car = replace(bare.car, parts=Inventory())
        self.assertEqual(candidates(bare, "front", 5e4), [])
        with self.assertRaisesRegex(CoreError, "no spring for this axle"):
            nearest((), 5e4)

    def test_the_curve_rises_with_rate(self) -> None:
        rates, frequencies = curve(sheet(), "front", 4e4, 9e4, 5)
        self.assertEqual(len(rates), 5)
        self.assertEqual(frequencies, sorted(frequencies))
