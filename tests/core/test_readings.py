"""Which readings a change upsets, and what still holds."""

import unittest
from dataclasses import replace
from unittest.mock import patch

from cabrio.core.car import Given, Line
from cabrio.core.constants import DEGREE
from cabrio.core.errors import Problems, UnknownName
from cabrio.core.knowledge import Use, check, knowledge, tables
from cabrio.core.record.readings import Reading, check_repeats, kind_named, mean_of, spread_of
from cabrio.core.record.recheck import mixed_systems, rechecks
from cabrio.core.record.standing import Booked, mismatches, standing
from cabrio.core.sheet.build import Revision, build, moved
from cabrio.core.sheet.working import working
from tests.support.cars import SETUP, car, pads, sheet

CIRCUIT = car()
SPRINGS = [Line("spring", "LR", "S80", "S70"), Line("spring", "RR", "S80", "S70")]
PERCH = [Line("perch_turns", "LF", 0.0, 0.5)]
BAR = [Line("bar_hole", "front", 2.0, 3.0)]


class Invalidated(unittest.TestCase):
    def verdicts(self, lines: list[Line]) -> dict[str, str]:
        return {recheck.kind: recheck.verdict for recheck in rechecks(lines, CIRCUIT)}

    def test_rechecks_of_a_change(self) -> None:
        self.assertEqual(
            self.verdicts(SPRINGS),
            {
                "heights": "void",
                "pads": "doubtful",
                "droop": "doubtful",
                "bar_neutral": "doubtful",
                "alignment": "doubtful",
                "bolts": "void",
            },
        )
        self.assertEqual(self.verdicts(BAR), {"bar_neutral": "void", "bolts": "void"})
        self.assertEqual(self.verdicts([]), {})

    def test_a_graver_verdict_wins(self) -> None:
        self.assertEqual(self.verdicts(SPRINGS + PERCH)["pads"], "void")

    def test_mixed_systems_are_named(self) -> None:
        self.assertEqual(mixed_systems(SPRINGS + PERCH), [])
        self.assertEqual(mixed_systems(SPRINGS + BAR), ["springs and perches", "anti-roll bars"])


class Standing(unittest.TestCase):
    def stand(self, *booked: tuple[int, list[Line]], **more: object) -> str:
        return standing("pads", [pads(**more)], dict(booked)).status  # type: ignore[arg-type]

    def test_fresh_until_something_booked_later_upsets_it(self) -> None:
        self.assertEqual(self.stand((1, PERCH)), "fresh")
        self.assertEqual(self.stand((2, BAR)), "fresh")
        self.assertEqual(self.stand((2, SPRINGS)), "doubtful")
        self.assertEqual(self.stand((2, SPRINGS), (3, PERCH)), "void")

    def test_missing_when_none_or_withdrawn(self) -> None:
        self.assertEqual(standing("pads", [], {}).status, "missing")
        self.assertEqual(self.stand(withdrawn_at="2026", withdrawn_why="bar live"), "missing")

    def test_how_far_off_a_check_may_be_is_the_team_s_to_say(self) -> None:
        half = 0.5 * DEGREE
        camber = Reading(
            1, "alignment", 1, "K", "2026-05-01T09:00", {"camber_found": [[half, 0.0, 0.0, 0.0]]}
        )
        setup = {"camber": [0.0] * 4}
        found = mismatches(camber.values, setup)
        self.assertEqual([(one.name, one.place) for one in found], [("camber_found", "LF")])
        wide = {"camber_tolerance": Given((0.6 * DEGREE,))}
        self.assertEqual(mismatches(camber.values, setup, wide), [])
        self.assertEqual(standing("alignment", [camber], {}, setup, wide).status, "fresh")
        self.assertNotEqual(standing("alignment", [camber], {}, setup).status, "fresh")

    def test_a_condition_not_held_leaves_a_doubt(self) -> None:
        loose = replace(pads(), conditions={"driver_aboard": True})
        found = standing("pads", [loose], {})
        self.assertEqual(found.status, "doubtful")
        self.assertEqual(len(loose.unmet()), 4)

    def test_a_perch_voids_cross_but_never_front_share(self) -> None:
        found = build(
            car(), SETUP, [pads()], [Revision(1, SETUP), Revision(2, SETUP, tuple(PERCH))]
        )
        self.assertEqual(found.status("cross_share"), "void")
        self.assertEqual(found.status("front_share"), "fresh")
        self.assertEqual(found.status("axle_frequency"), "fresh")
        self.assertEqual(found.status("sprung_mass"), "void")


class InPart(unittest.TestCase):
    """A reading of one wheel or one end: what was read is kept, the rest keeps its own standing."""

    def camber(self, id: int, revision: int, *row: float | None, **more: object) -> Reading:
        rows = {"camber_found": [list(row)]}
        return Reading(id, "alignment", revision, "K", f"2026-05-0{id}T09:00", rows, **more)  # type: ignore[arg-type]

    def test_the_rest_keeps_its_value_and_its_own_standing(self) -> None:
        booked: dict[int, Booked | list[Line]] = {
            2: [Line("camber", "LR", -0.01, -0.02)],
            3: [Line("bar_hole", "front", 2.0, 3.0)],
        }
        whole, one = self.camber(1, 1, -0.03, -0.03, -0.01, -0.01), self.camber(2, 3, -0.035)
        one = replace(one, repeats={"camber_found": [[-0.035, None, None, None]]})
        found = standing("alignment", [whole, one], booked)
        self.assertEqual(found.values["camber_found"], [-0.035, -0.03, -0.01, -0.01])
        self.assertEqual([each.status for each in found.readings], ["fresh", "void"])
        self.assertEqual((found.status, found.reading), ("void", one))
        again = self.camber(3, 3, None, -0.031, -0.02, -0.01)
        found = standing("alignment", [whole, one, again], booked)
        self.assertEqual(found.values["camber_found"], [-0.035, -0.031, -0.02, -0.01])
        self.assertEqual((found.status, len(found.readings)), ("fresh", 2))

    def test_a_check_that_found_otherwise_leaves_its_figures_in_doubt(self) -> None:
        off = self.camber(1, 1, -0.03, -0.05, -0.01, -0.01)
        for set_to, status in ((-0.03, "doubtful"), (-0.05, "fresh")):
            setup = SETUP | {"camber": [-0.03, set_to, -0.01, -0.01]}
            found = build(car(), setup, [pads(), off], [Revision(1, setup)])
            self.assertEqual(found.status("camber_found"), status)

    def test_a_place_that_nobody_read_is_a_doubt_where_it_is_set(self) -> None:
        only = self.camber(1, 1, -0.03, -0.03, None, None)
        found = standing("alignment", [only], {}, {"camber": [-0.03, -0.03, -0.01, -0.01]})
        self.assertEqual(found.status, "doubtful")
        self.assertEqual(found.unread, (("camber_found", "LR"), ("camber_found", "RR")))
        front = standing("alignment", [only], {}, {"camber": [-0.03, -0.03, None, None]})
        self.assertEqual((front.status, front.unread), ("fresh", ()))

    def test_what_is_read_at_once_is_not_filled_up(self) -> None:
        first = pads()
        fuel = {**first.repeats, "fuel_mass": [[30.0]]}
        later = replace(first, id=9, at="2026-09-01T09:00")
        found = standing("pads", [replace(first, repeats=fuel), later], {})
        self.assertNotIn("fuel_mass", found.values)

    def test_pads_and_diagonals_are_read_at_every_place(self) -> None:
        for kind, name, row in (
            ("pads", "pad_mass", [["250", "240", "230", ""]]),
            ("square", "diagonal", [["2750", ""]]),
        ):
            with self.assertRaises(Problems):
                check_repeats(knowledge().readings[kind], {name: row}, "n_mm")

    def test_numbers_that_a_kind_needs_are_read_at_the_same_places(self) -> None:
        kind = knowledge().readings["caster_sweep"]
        both = {"sweep_angle": [["20"]], "camber_out": [["-1", ""]]}
        with self.assertRaises(Problems) as caught:
            check_repeats(kind, {**both, "camber_in": [["", "1.5"]]}, "n_mm")
        self.assertEqual(
            {(problem.number, problem.place) for problem in caught.exception.problems},
            {("camber_in", "left"), ("camber_out", "right")},
        )
        loose = replace(kind, optional=("camber_in",))  # what need not be read stands anywhere
        check_repeats(loose, {**both, "camber_in": [["", "1.5"]]}, "n_mm")
        told, _ = check_repeats(kind, {**both, "camber_in": [["1.5", ""]]}, "n_mm")
        self.assertIsNone(told["camber_in"][0][1])

    def test_one_wheel_read_gives_its_figure_and_no_other(self) -> None:
        hot = {"hot_pressure": [[None, 190000.0, None, None]]}
        reading = Reading(1, "hot_tyres", 1, "K", "2026-05-01T09:00", hot)
        found = build(car(), SETUP, [pads(), reading], [Revision(1, SETUP)])
        self.assertIsNone(found.value("hot_pressure"))
        self.assertEqual(found.by_place("hot_pressure"), [None, 190000.0, None, None])
        front = build(car(), SETUP, [pads()], [Revision(1, SETUP)])
        rates = front.car.given["tyre_rate"].values
        lacking = replace(
            front.car, given=front.car.given | {"tyre_rate": Given((rates[0], None, None, None))}
        )
        told = build(lacking, SETUP, [pads()], [Revision(1, SETUP)])
        row = told.by_place("ride_rate")
        assert row is not None
        self.assertEqual([one is None for one in row], [False, True, True, True])
        self.assertEqual(row[:1], front.value("ride_rate")[:1])  # type: ignore[index]
        self.assertIsNone(told.by_place("lltd"))


class Repeats(unittest.TestCase):
    def test_every_bad_cell_is_named_with_its_settle(self) -> None:
        kind = kind_named("pads", CIRCUIT)
        with self.assertRaises(Problems) as caught:
            check_repeats(
                kind, {"pad_mass": [["250", "x", "", "-4"], ["250", "240", "230", "9 mm"]]}, "n_mm"
            )
        places = [(p.place, p.code) for p in caught.exception.problems]
        self.assertEqual(
            places,
            [
                ("RF", "not_a_number"),
                ("LR", "not_a_number"),
                ("RR", "out_of_range"),
                ("RR 2", "unknown_unit"),
            ],
        )

    def test_an_unstable_set_is_asked_about(self) -> None:
        kind = kind_named("pads", CIRCUIT)
        rows = {"pad_mass": [[250, 240, 230, 235], [250, 240, 233, 235]]}
        with self.assertRaises(Problems) as caught:
            check_repeats(kind, rows, "n_mm")
        self.assertEqual([p.code for p in caught.exception.problems], ["unusual"])
        self.assertEqual(len(check_repeats(kind, rows, "n_mm", confirmed=True)[0]["pad_mass"]), 2)

    def test_repeats_agree_to_2_kg_and_2_mm(self) -> None:
        for kind, name, row, gap, asked in (
            ("pads", "pad_mass", [250.0, 240.0, 230.0, 235.0], 1.9, False),
            ("pads", "pad_mass", [250.0, 240.0, 230.0, 235.0], 2.1, True),
            ("heights", "ride_height", [0.100, 0.101, 0.110, 0.111], 0.0019, False),
            ("heights", "ride_height", [0.100, 0.101, 0.110, 0.111], 0.0021, True),
        ):
            with self.subTest(f"{kind} {gap}"):
                repeats = {name: [row, [row[0] + gap, *row[1:]]]}
                if asked:
                    with self.assertRaisesRegex(Problems, "differs by"):
                        check_repeats(kind_named(kind, CIRCUIT), repeats, "n_mm")
                else:
                    check_repeats(kind_named(kind, CIRCUIT), repeats, "n_mm")

    def test_the_mean_and_the_spread_are_of_what_was_read(self) -> None:
        repeats = [[1.0, None, None], [3.0, 5.0, None]]
        self.assertEqual(mean_of(repeats), [2.0, 5.0, None])
        self.assertEqual(spread_of(repeats), [2.0, 0.0, 0.0])
        with self.assertRaises(ValueError):
            mean_of([[1.0, 2.0], [1.0]])

    def test_twelve_repeats_and_no_more(self) -> None:
        kind, row = kind_named("pads", CIRCUIT), [250.0, 240.0, 230.0, 235.0]
        self.assertEqual(
            len(check_repeats(kind, {"pad_mass": [row] * 12}, "n_mm")[0]["pad_mass"]), 12
        )
        with self.assertRaisesRegex(Problems, "at most 12 repeats"):
            check_repeats(kind, {"pad_mass": [row] * 13}, "n_mm")

    def test_what_a_reading_does_not_record_is_refused_by_name(self) -> None:
        kind = kind_named("pads", CIRCUIT)
        rows = {"pad_mass": [[250, 240, 230, 235]]}
        with self.assertRaises(Problems) as caught:
            check_repeats(kind, rows | {"camber_in": [["1", "1"]]}, "n_mm")
        self.assertEqual([one.number for one in caught.exception.problems], ["camber_in"])
        with self.assertRaises(Problems) as caught:
            check_repeats(
                kind, rows, "n_mm", zero={"fuel_mass": "", "camber_in": "1", "pad_mass": "x"}
            )
        self.assertEqual(
            [(one.number, one.place) for one in caught.exception.problems],
            [("camber_in", "zero"), ("pad_mass", "zero")],
        )

    def test_the_zero_is_taken_off_every_place(self) -> None:
        kind, rows = kind_named("pads", CIRCUIT), {"pad_mass": [["252", "242", "232", "237"]]}
        checked, zero = check_repeats(kind, rows, "n_mm", zero={"pad_mass": "2 kg"})
        self.assertEqual((checked["pad_mass"], zero), ([[250, 240, 230, 235]], {"pad_mass": 2.0}))

    def test_a_short_row_is_empty_behind_and_a_long_one_is_refused(self) -> None:
        kind = kind_named("heights", CIRCUIT)
        checked, _ = check_repeats(kind, {"ride_height": [["100 mm", "101 mm"]]}, "n_mm")
        self.assertEqual(checked["ride_height"], [[0.1, 0.101, None, None]])
        with self.assertRaisesRegex(Problems, "more values were told"):
            check_repeats(kind, {"ride_height": [["100", "100", "100", "100", "1"]]}, "n_mm")

    def test_a_number_left_out_or_refused_keeps_none_of_the_others_back(self) -> None:
        whole = kind_named("caster_sweep", CIRCUIT)
        first, *others = whole.numbers
        kind = replace(whole, optional=(first,))
        rows = {name: [["1", "1"]] for name in others}
        self.assertEqual(list(check_repeats(kind, rows, "n_mm", confirmed=True)[0]), others)
        with self.assertRaises(Problems) as caught:
            check_repeats(whole, {first: [["20"]] * 13, others[0]: [["x", "1"]]}, "n_mm")
        named = {problem.number for problem in caught.exception.problems}
        self.assertLessEqual({first, others[0]}, named)

    def test_repeats_just_as_far_apart_are_not_asked_about(self) -> None:
        rows = {"pad_mass": [[250.0, 240.0, 230.0, 235.0], [252.0, 240.0, 230.0, 235.0]]}
        check_repeats(kind_named("pads", CIRCUIT), rows, "n_mm")

    def test_a_car_has_the_readings_of_its_own_kind(self) -> None:
        for kind in ("preload", "scales"):  # of link bars, and of nothing
            with self.assertRaisesRegex(UnknownName, "for this car"):
                kind_named(kind, CIRCUIT)

    def test_an_empty_reading_asks_for_its_first_number(self) -> None:
        whole = kind_named("caster_sweep", CIRCUIT)
        kind = replace(whole, optional=whole.numbers)
        with self.assertRaises(Problems) as caught:
            check_repeats(kind, {}, "n_mm")
        (problem,) = caught.exception.problems
        self.assertEqual(problem.number, kind.numbers[0])
        self.assertIn("at least one number", problem.sentence)


class Sheets(unittest.TestCase):
    def test_a_change_moves_only_what_it_reaches(self) -> None:
        after = build(
            car(), SETUP | {"spring": ["S70", "S70", "S70", "S70"]}, [pads()], [Revision(1, SETUP)]
        )
        names = {name for name, *_ in moved(sheet().worked, after.worked)}
        self.assertIn("axle_frequency", names)
        self.assertNotIn("cross_share", names)

    def test_working_tells_inputs_stain_and_convention(self) -> None:
        given = car().given
        stained = replace(
            car(), given=given | {"tyre_rate": replace(given["tyre_rate"], estimated=True)}
        )
        found = build(stained, SETUP, [pads()], [Revision(1, SETUP)])
        told = working(found, "axle_frequency_on_tyre")
        self.assertEqual(told.estimated, ("tyre_rate",))
        self.assertIn("tyre in series", told.convention)
        self.assertEqual(working(found, "axle_frequency").estimated, ())
        spring = working(found, "spring_rate")
        self.assertIn("spring S70, S80", spring.origin.words if spring.origin else "")

    def test_working_of_a_refused_figure_tells_the_first_refusal(self) -> None:
        told = working(sheet(unsprung_mass=[300.0, 30, 34, 34]), "axle_frequency")
        self.assertIn("LF: the unsprung mass", told.refused.sentence if told.refused else "")


class Tables(unittest.TestCase):
    def test_a_misspelt_rule_is_an_error(self) -> None:
        book = knowledge()
        rule = book.upsets[0]
        for wrong, words in [
            (replace(rule, changed=("sprong",)), "“sprong”, which is no number or job"),
            (replace(rule, reading="scales"), "reading names “scales”, which is no reading"),
            (replace(rule, verdict="bad"), "verdict says “bad”: .doubtful. or .void."),  # type: ignore[arg-type]
        ]:
            with self.assertRaisesRegex(ValueError, words):
                check(replace(book, upsets=(wrong,)))

    def test_an_unknown_key_is_an_error(self) -> None:
        with (
            patch(
                "cabrio.core.catalog.tables.tomllib.loads",
                return_value={"use": [{"id": "a", "colour": 1}]},
            ),
            self.assertRaisesRegex(ValueError, "unknown colour"),
        ):
            tables.rows("bands", "use", Use)
