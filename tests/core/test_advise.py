"""Advice: sized on this car, within its hardware, ranked, each with its reason."""

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.advise.advise import (
    GOOD,
    OTHER_SURFACE,
    POOR,
    UNSIZED,
    advice_note,
    advise,
)
from cabrio.core.advise.candidate import AdviceContext, Before, Candidate, Question
from cabrio.core.car import Adjuster, Line
from cabrio.core.catalog.parts import AeroMap, Bar
from cabrio.core.errors import UnknownName
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.core.knowledge.rules import DRIVEN
from cabrio.core.record.line_error import LineError
from cabrio.core.record.verdicts import chance
from cabrio.core.sheet.what_if import BITE_UNKNOWN
from cabrio.core.solve.preload import Bite

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, damper, drag_car, sheet

CIRCUIT = sheet(circuit_car(), CIRCUIT_SETUP)
DRAG = sheet(drag_car(), DRAG_SETUP)
GRID = tuple(
    (front, rear, 0.9 - 4 * front, 1.2 - 2 * rear, 0.8)
    for rear in (0.03, 0.09, 0.15)
    for front in (0.02, 0.08, 0.14)
)
MAPPED = sheet(
    circuit_car(parts=circuit_car().parts.with_part("aero_map", AeroMap(GRID, code="wing 2"))),
    CIRCUIT_SETUP | {"aero_map": ["wing 2"]},
)


def of(found: list[Candidate], name: str, place: str | None = None) -> Candidate:
    """The candidate that changes a number (at a place)."""
    for one in found:
        if any(line.name == name and place in (None, line.place) for line in one.lines):
            return one
    raise AssertionError(f"nobody proposes {name} {place}")


class Sized(unittest.TestCase):
    def test_a_softer_front_bar_against_understeer(self) -> None:
        best = of(advise(CIRCUIT, Question("understeer", "mid-corner")), "bar_hole", "front")
        self.assertEqual(best.lines, (Line("bar_hole", "front", 2.0, 3.0),))
        lltd = next(effect for effect in best.effects if effect.name == "lltd")
        self.assertLess(lltd.after, lltd.before)
        self.assertEqual(lltd.felt, abs(lltd.after - lltd.before) / 0.01)
        self.assertEqual(best.minutes, 5)
        self.assertEqual([recheck.kind for recheck in best.rechecks], ["bar_neutral", "bolts"])
        self.assertEqual(best.total_minutes, 5 + 4 + 5)

    def test_every_rule_that_is_sized_moves_the_way_it_says(self) -> None:
        """Softer rolls more, damps less, frees the end it softens: for every rule, on these cars."""
        wanted = {
            ("bar_hole front softer", "lltd"): -1,
            ("bar_hole rear softer", "lltd"): 1,
            ("bar_hole rear stiffer", "lltd"): -1,
            ("bar_hole front stiffer", "lltd"): 1,
            ("spring front softer", "lltd"): -1,
            ("spring rear softer", "lltd"): 1,
            ("perch_turns rear more", "rake"): 1,
            ("perch_turns rear less", "rake"): -1,
            ("rubber_gap front less", "travel_to_rubber"): -1,
            ("perch_turns front more", "axle_height"): 1,
            ("upper_link_hole car anti_squat-up", "anti_squat"): 1,
            ("upper_link_hole car anti_squat-down", "anti_squat"): -1,
            ("front_limiter car less", "front_rise"): -1,
            ("link_preload car less", "preload_length_change"): 1,
        }
        seen = set()
        for rule in knowledge().work.rules:
            table = knowledge().work.symptoms[rule.symptom].disciplines
            here = MAPPED if "circuit" in table else DRAG if "drag" in table else None
            if here is None:
                continue
            if here.car.driven not in (rule.driven or DRIVEN):
                continue
            found = advise(here, Question(rule.symptom, rule.phases[0]))
            candidate = next((one for one in found if one.reason == rule.reason), None)
            if candidate is None:
                self.assertTrue(rule.because, rule.change)  # for a car of which that was read
                continue
            if candidate.refused:
                continue
            for effect in candidate.effects:
                sign = 1 if effect.after > effect.before else -1
                if "_ratio_" in effect.name:
                    self.assertEqual(sign, 1 if rule.direction == "stiffer" else -1, rule.change)
                elif (rule.change, effect.name) in wanted:
                    seen.add((rule.change, effect.name))
                    self.assertEqual(sign, wanted[rule.change, effect.name], rule.change)
        self.assertGreaterEqual(len(seen), 12, sorted(set(wanted) - seen))

    def test_clicks_go_the_way_their_counting_means(self) -> None:
        softer = of(advise(CIRCUIT, Question("understeer", "exit")), "rebound_clicks", "LF")
        self.assertEqual((softer.lines[0].old, softer.lines[0].new), (10.0, 12.0))  # from closed
        tighter = of(advise(DRAG, Question("wheelstand", "hit")), "rebound_clicks", "LF")
        self.assertEqual((tighter.lines[0].old, tighter.lines[0].new), (8.0, 10.0))  # from open
        for effect in tighter.effects:
            self.assertGreater(effect.after, effect.before)

    def test_left_and_right_together(self) -> None:
        for one in advise(CIRCUIT, Question("oversteer", "exit")):
            places = {line.place for line in one.lines}
            if places & {"LF", "RF", "LR", "RR"}:
                self.assertIn(places, ({"LF", "RF"}, {"LR", "RR"}, {"LF", "RF", "LR", "RR"}))

    def test_unlike_corners_are_told_apart(self) -> None:
        found = of(advise(CIRCUIT, Question("packs_down", "bumps and kerbs")), "rebound_clicks")
        self.assertTrue(found.label.endswith("all: 10 clicks to 12 clicks"), found.label)
        uneven = sheet(circuit_car(), CIRCUIT_SETUP | {"rebound_clicks": [8.0, 8.0, 10.0, 10.0]})
        found = of(advise(uneven, Question("packs_down", "bumps and kerbs")), "rebound_clicks")
        self.assertTrue(
            found.label.endswith("LF, RF 8 clicks to 10 clicks; LR, RR 10 clicks to 12 clicks")
        )

    def test_a_perch_is_followed_to_pads_and_heights(self) -> None:
        one = of(advise(CIRCUIT, Question("bottoms_rear", "exit")), "perch_turns", "LR")
        up = next(effect for effect in one.effects if effect.place == "rear")
        turns = one.lines[0].new - one.lines[0].old
        # turns of 2 mm on both sides, over the ratio along the spring, until they are felt
        self.assertAlmostEqual(up.after - up.before, turns * 0.002 / 0.9, delta=3e-4)
        self.assertGreaterEqual(max(effect.felt for effect in one.effects), 1.0)
        self.assertTrue(any("predicted" in said for said in one.warnings))

    def test_the_stores_give_the_next_spring(self) -> None:
        one = of(advise(CIRCUIT, Question("understeer", "mid-corner")), "spring", "LF")
        self.assertEqual([(line.old, line.new) for line in one.lines], [("90/200", "80/200")] * 2)
        self.assertIn("90/200 to 80/200", one.label)


class Limits(unittest.TestCase):
    def refusal(self, car_sheet: Any, question: Question, change: str) -> str:
        rule = next(
            r
            for r in knowledge().work.rules_by_symptom[question.symptom]
            if r.change == change and question.phase in r.phases
        )
        found = next(one for one in advise(car_sheet, question) if one.reason == rule.reason)
        self.assertEqual(found.lines, ())
        return found.refused or ""

    def test_the_last_hole(self) -> None:
        at_end = sheet(circuit_car(), CIRCUIT_SETUP | {"bar_hole": [4.0, 3.0]})
        said = self.refusal(at_end, Question("understeer", "mid-corner"), "bar_hole front softer")
        self.assertIn("1 to 4", said)

    def test_a_dead_knob_and_no_knob(self) -> None:
        for bad, message in (
            (damper(dead_at=7), "no longer turns"),
            (replace(damper(), rebound=None), "no such knob"),
        ):
            car = circuit_car(damper={p: damper() for p in ("LF", "RR", "LR")} | {"RF": bad})
            said = self.refusal(
                sheet(car, CIRCUIT_SETUP),
                Question("understeer", "exit"),
                "rebound_clicks front softer",
            )
            self.assertIn(message, said)

    def test_empty_stores(self) -> None:
        last = sheet(circuit_car(), CIRCUIT_SETUP | {"spring": ["70/200"] * 4})
        said = self.refusal(last, Question("understeer", "mid-corner"), "spring front softer")
        self.assertIn("inventory holds no softer spring", said)

    def test_two_flats_and_triangulated_arms(self) -> None:
        full = sheet(drag_car(), DRAG_SETUP | {"link_preload": [-2.0]})
        said = self.refusal(full, Question("drives_left", "hit"), "link_preload car less")
        self.assertIn("move mass or change the links", said)
        other = drag_car(rear_layout="triangulated_four_link")
        setup = {k: v for k, v in DRAG_SETUP.items() if k != "link_preload"}
        said = self.refusal(
            sheet(other, setup), Question("drives_left", "hit"), "link_preload car less"
        )
        self.assertIn("drop link", said)

    def test_the_pinion_must_stay_nose_down(self) -> None:
        level = sheet(drag_car(), DRAG_SETUP)
        reading = level.standings["pinion"].reading
        assert reading is not None
        level.worked.values["pinion_slope"] = level.worked.values["shaft_slope"] - 0.0005
        level.worked.values["pinion_angle"] = level.worked.values["pinion_angle"] * 0 - 0.0005
        said = self.refusal(
            level, Question("wheelstand", "hit"), "upper_link_hole car anti_squat-down"
        )
        self.assertIn("nose up", said)

    def test_no_room_at_speed(self) -> None:
        low = circuit_car()
        given = low.given | {
            "least_height": replace(low.given["least_height"], values=(0.0885, 0.02)),
            "lift_area": replace(low.given["lift_area"], values=(0.6, 0.9)),
        }
        tight = sheet(replace(low, given=given), CIRCUIT_SETUP)
        before = tight.worked.values["clearance_at_speed"][0]
        self.assertGreater(before, 0)
        said = self.refusal(tight, Question("understeer", "mid-corner"), "spring front softer")
        self.assertIn("under its least height at speed", said)

    def test_a_car_without_the_adjuster(self) -> None:
        car = circuit_car()
        bare = replace(car, adjusters={n: a for n, a in car.adjusters.items() if n != "rubber_gap"})
        setup = {n: v for n, v in CIRCUIT_SETUP.items() if n != "rubber_gap"}
        said = self.refusal(
            sheet(bare, setup), Question("bottoms", "straight"), "rubber_gap front less"
        )
        self.assertIn("no adjuster for bump rubber gap", said)

    def test_refused_ones_come_last_with_their_reason(self) -> None:
        full = sheet(drag_car(), DRAG_SETUP | {"link_preload": [-2.0]})
        found = advise(full, Question("drives_left", "hit"))
        flags = [one.refused is not None for one in found]
        self.assertEqual(flags, sorted(flags))
        self.assertTrue(all(one.refused for one in found if not one.lines))


class Ranked(unittest.TestCase):
    def test_the_preferred_school_first(self) -> None:
        for school in ("A", "B"):
            found = [
                one
                for one in advise(CIRCUIT, Question("understeer", "turn-in", school))
                if one.refused is None
            ]
            self.assertEqual(found[0].school, school)
            order = [one.school == school for one in found]
            self.assertEqual(order, sorted(order, reverse=True))

    def test_more_felt_for_a_minute_comes_first_within_a_school(self) -> None:
        found = [
            one
            for one in advise(CIRCUIT, Question("understeer", "mid-corner"))
            if one.refused is None and one.school == "A"
        ]
        self.assertEqual(
            [one.worth for one in found], sorted((one.worth for one in found), reverse=True)
        )
        self.assertGreater(len(found), 2)
        names = [one.lines[0].name for one in found]
        self.assertLess(names.index("bar_hole"), names.index("spring"))

    def test_every_candidate_says_why_and_at_what_cost(self) -> None:
        for here in (CIRCUIT, DRAG):
            discipline = here.car.discipline
            for symptom in knowledge().work.symptoms_for(discipline):
                for phase in knowledge().disciplines[discipline].phase_ids:
                    for one in advise(here, Question(symptom.id, phase)):
                        self.assertTrue(one.reason and one.costs and one.label)
                        self.assertGreater(one.minutes, 0)
                        self.assertTrue(one.effects or one.warnings or one.refused, one.label)


class Surfaces(unittest.TestCase):
    def test_what_suits_the_surface_comes_first_within_a_school(self) -> None:
        labels = set()
        for surface, ill, said in (("poor", "stiffer", POOR), ("good", "softer", GOOD)):
            asked = Question("understeer", "mid-corner", surface=surface)  # type: ignore[arg-type]
            found = [one for one in advise(CIRCUIT, asked) if one.refused is None]
            labels.add(frozenset(one.label for one in found))
            for school in ("A", "B"):
                order = [one.out_of_place for one in found if one.school == school]
                self.assertEqual(order, sorted(order))
            behind = [one for one in found if one.out_of_place]
            self.assertTrue(behind, ill)
            for one in behind:
                self.assertIn(said, one.warnings)
                self.assertIn(number_named(one.number).system, ("bars", "springs"))
        self.assertEqual(len(labels), 1)  # the same changes, in another order

    def test_what_is_for_a_good_surface_says_so_on_a_poor_one(self) -> None:
        for surface, said in (("poor", True), ("good", False), ("", False)):
            found = advise(DRAG, Question("wheelstand", "hit", surface=surface))  # type: ignore[arg-type]
            one = of(found, "rebound_clicks", "LF")
            self.assertEqual(OTHER_SURFACE.format("good") in one.warnings, said)


class Warned(unittest.TestCase):
    def test_what_has_no_size_says_so(self) -> None:
        found = advise(DRAG, Question("wanders", "mid-track"))
        self.assertIn(UNSIZED, of(found, "tyre_pressure").warnings)

    def test_an_estimate_under_a_size_is_named(self) -> None:
        one = of(advise(CIRCUIT, Question("understeer", "mid-corner")), "bar_hole", "front")
        self.assertTrue(any("estimate: tyre rate" in said for said in one.warnings))

    def test_two_systems_on_one_slip(self) -> None:
        known = AdviceContext(draft=(Line("bar_hole", "front", 2.0, 3.0),))
        found = advise(CIRCUIT, Question("understeer", "mid-corner"), known)
        self.assertTrue(any("another system" in w for w in of(found, "spring").warnings))
        self.assertFalse(any("another system" in w for w in of(found, "bar_hole").warnings))

    def test_bite_per_flat_known_or_not(self) -> None:
        unknown = of(advise(DRAG, Question("drives_left", "hit")), "link_preload")
        self.assertIn(BITE_UNKNOWN.sentence, unknown.warnings)
        known = AdviceContext(bite=Bite(-8.0, 2.0, None))
        found = of(advise(DRAG, Question("drives_left", "hit"), known), "link_preload")
        self.assertNotIn(BITE_UNKNOWN.sentence, found.warnings)

    def test_the_record_speaks(self) -> None:
        earlier = Before((Line("bar_hole", "front", 1.0, 2.0),), "better", "turns in", 4)
        other = Before((Line("bar_hole", "front", 3.0, 2.0),), "worse", "", 5)
        found = advise(
            CIRCUIT, Question("understeer", "mid-corner"), AdviceContext(record=(earlier, other))
        )
        self.assertEqual(of(found, "bar_hole", "front").before, (earlier,))

    def test_flats_that_the_passes_found_are_what_is_offered(self) -> None:
        known = AdviceContext(line_error=LineError(0.25, 0.02, -2.0, 6))
        slight = Question("drives_left", "hit", severity="slight")
        one = of(advise(DRAG, slight, known), "link_preload")
        self.assertEqual([line.new for line in one.lines], [-2.0])
        other = next(
            one
            for one in advise(DRAG, Question("drives_right", "hit"), known)
            if one.number == "link_preload"
        )
        self.assertIn("runs straight at −2 flats, and has", other.refused or "")
        unsure = AdviceContext(line_error=LineError(0.25, 0.2, None, 3))
        one = of(advise(DRAG, slight, unsure), "link_preload")
        self.assertNotEqual([line.new for line in one.lines], [-2.0])

    def test_more_flats_than_there_are_stop_at_the_limit(self) -> None:
        known = AdviceContext(line_error=LineError(0.25, 0.02, -3.5, 6))
        one = of(advise(DRAG, Question("drives_left", "hit"), known), "link_preload")
        self.assertEqual([line.new for line in one.lines], [-2.0])
        self.assertTrue(any("steps are left" in said for said in one.warnings))

    def test_what_helped_before_goes_first_once_it_is_more_than_a_toss(self) -> None:
        asked = Question("understeer", "mid-corner")
        plain = advise(CIRCUIT, asked)
        second = [one for one in plain if one.refused is None and one.school in ("", "A")][1]

        def judged(outcome: str, times: int, car: str = "") -> list[Candidate]:
            record = tuple(Before(second.lines, outcome, car=car) for _ in range(times))
            return advise(CIRCUIT, asked, AdviceContext(record=record))

        def place(found: list[Candidate]) -> int:
            return [one.label for one in found].index(second.label)

        tried = judged("better", 2)[place(judged("better", 2))]
        self.assertEqual(tried.worth, second.worth)
        self.assertEqual(tried.confidence[0], "medium")
        self.assertIn("43 % to 100 %, too few to count on", tried.confidence[1])
        often = judged("better", 6)[place(judged("better", 6))]
        self.assertGreater(often.worth, 1.8 * second.worth)
        self.assertEqual(often.confidence[0], "high")
        never = judged("worse", 6)
        self.assertGreater(place(never), place(plain))
        self.assertEqual(never[place(never)].confidence[0], "low")
        # another car's verdicts are told, not counted
        elsewhere = judged("better", 6, car="Garnet")
        self.assertEqual(elsewhere[place(elsewhere)].worth, second.worth)


class Chances(unittest.TestCase):
    def test_the_band_holds_as_often_as_it_promises(self) -> None:
        dice = np.random.default_rng(3)
        for true in (0.3, 0.5, 0.8):
            within = 0
            for _ in range(600):
                found = chance("better" if one else "worse" for one in dice.random(8) < true)
                assert found is not None
                within += found.low <= true <= found.high
            self.assertGreater(within / 600, 0.85)

    def test_nothing_tested_says_nothing(self) -> None:
        self.assertIsNone(chance([]))
        self.assertIsNone(chance(["not tested", "not tested"]))

    def test_one_more_that_was_better_never_lowers_it(self) -> None:
        for count in range(1, 9):
            bands = [chance(["better"] * k + ["same"] * (count - k)) for k in range(count + 1)]
            lows = [band.low for band in bands if band]
            self.assertEqual(lows, sorted(lows))
            self.assertTrue(all(0 <= band.low <= band.high <= 1 for band in bands if band))


class Asked(unittest.TestCase):
    def test_words_of_another_discipline(self) -> None:
        with self.assertRaisesRegex(
            UnknownName, "does not say “wheelstand”: use one of understeer"
        ):
            advise(CIRCUIT, Question("wheelstand", "hit"))
        with self.assertRaisesRegex(UnknownName, "no phase “hit”"):
            advise(CIRCUIT, Question("understeer", "hit"))

    def test_a_car_of_which_little_is_known_still_gets_the_changes(self) -> None:
        bare = circuit_car(given={}, damper={}, bar={}, bump_rubber={})
        found = advise(sheet(bare, CIRCUIT_SETUP), Question("understeer", "mid-corner"))
        front = of(found, "bar_hole", "front")
        self.assertEqual(front.effects, ())
        self.assertIn(UNSIZED, front.warnings)

    def test_no_bar_no_advice_about_it(self) -> None:
        none = circuit_car(
            bar={"front": Bar(0.0), "rear": Bar(0.0)},
            adjusters=circuit_car().adjusters | {"bar_hole": Adjuster(1, 4)},
        )
        found = advise(sheet(none, CIRCUIT_SETUP), Question("understeer", "mid-corner"))
        said = [one.refused for one in found if one.label.startswith("Bar hole")]
        self.assertEqual(
            said,
            ["No anti-roll bar is fitted at the front.", "No anti-roll bar is fitted at the rear."],
        )

    def test_a_school_with_nothing_to_offer_says_so(self) -> None:
        asked = Question("oversteer", "exit", "B")
        found = advise(CIRCUIT, asked)
        self.assertIn("School B has nothing", advice_note(CIRCUIT, asked, found))
        asked = Question("understeer", "turn-in", "B")
        self.assertEqual(advice_note(CIRCUIT, asked, advise(CIRCUIT, asked)), "")
        neutral = Question("skips", "bumps and kerbs", "B")
        self.assertEqual(advice_note(CIRCUIT, neutral, advise(CIRCUIT, neutral)), "")

    def test_a_complaint_without_a_rule_names_the_nearest(self) -> None:
        asked = Question("understeer", "straight")
        self.assertEqual(advise(CIRCUIT, asked), [])
        self.assertRegex(
            advice_note(CIRCUIT, asked, []), "in straight; the nearest are for braking, turn"
        )
