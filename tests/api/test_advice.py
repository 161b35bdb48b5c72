"""Advice over HTTP: every complaint that can be made is answered, sized on the car, and changes nothing."""

from __future__ import annotations

from typing import Any
from urllib.parse import urlencode

from cabrio.core.knowledge import knowledge
from tests.support.client import INES, PELL, ApiTestCase, Person

CARS = {"circuit": 1, "drag": 2, "drift": 3}


class Advice(ApiTestCase):
    ines: Person

    def setUp(self) -> None:
        self.ines = self.person(INES)

    def ask(self, car: int, symptom: str, phase: str, school: str = "A") -> Any:
        query = urlencode({"symptom": symptom, "phase": phase, "school": school})
        return self.ines.ok("GET", f"/api/cars/{car}/advice?{query}")

    def test_every_complaint_has_an_answer_or_says_where_the_nearest_is(self) -> None:
        book, asked = knowledge(), 0
        for discipline, car in CARS.items():
            for symptom in book.work.symptoms_for(discipline):
                for phase in book.words[discipline].phases:
                    with self.subTest(f"{discipline}: {symptom.id}, {phase}"):
                        told = self.ask(car, symptom.id, phase)
                        self.assertTrue(told["candidates"] or "nearest" in told["beside"])
                        for one in told["candidates"]:
                            self.assertEqual(bool(one["refused"]), not one["lines"])
                            self.assertGreaterEqual(one["total_minutes"], one["minutes"])
                        asked += 1
        self.assertGreater(asked, 40)

    def test_understeer_is_answered_by_what_frees_the_front(self) -> None:
        told = self.ask(1, "understeer", "mid-corner")
        moves = [one["balance"] for one in told["candidates"] if one["balance"] is not None]
        self.assertGreater(len(moves), 1)
        # plus: the rear gives up sooner than before, which is what frees a car that pushes
        self.assertTrue(all(move > 0 for move in moves), moves)
        loose = self.ask(1, "oversteer", "mid-corner")
        backs = [one["balance"] for one in loose["candidates"] if one["balance"] is not None]
        self.assertTrue(backs and all(move < 0 for move in backs), backs)

    def test_the_effect_is_what_the_slip_then_shows(self) -> None:
        best = self.ask(1, "understeer", "mid-corner")["candidates"][0]
        view = self.ines.draft(*((one["name"], one["place"], one["new"]) for one in best["lines"]))
        share = next(one for one in best["effects"] if one["name"] == "lltd")
        self.assertAlmostEqual(view["after"]["lltd"][0], share["after"])
        self.assertIn("to", best["expectation"])
        self.ines.draft()

    def test_what_like_changes_came_to_before_is_told(self) -> None:
        told = self.ask(1, "understeer", "mid-corner")
        best = next(one for one in told["candidates"] if one["before"])
        self.assertEqual(best["before"][0]["outcome"], "better")
        self.assertEqual(best["before"][0]["car"], "")

    def test_schools_stand_side_by_side_and_the_one_asked_for_first(self) -> None:
        for school in ("A", "B"):
            told = self.ask(1, "understeer", "mid-corner", school)
            first = next(one for one in told["candidates"] if one["school"])
            self.assertEqual(first["school"], school)
            self.assertEqual({one["school"] for one in told["candidates"]}, {"A", "B"})

    def test_words_that_are_not_the_car_s_are_refused(self) -> None:
        for query, words in (
            ("symptom=drives_left&phase=hit", "circuit driver does not say"),
            ("symptom=understeer&phase=hit", "no phase"),
            ("symptom=understeer", "no phase"),
            ("phase=mid-corner", "does not say"),
        ):
            told = self.ines.refused(422, "GET", f"/api/cars/1/advice?{query}")
            self.assertIn(words, told["detail"])

    def test_a_viewer_may_look_and_nothing_is_changed(self) -> None:
        before = self.ines.bench()["slip"]["lines"]
        query = urlencode({"symptom": "squats_and_spins", "phase": "hit"})
        told = self.person(PELL).ok("GET", f"/api/cars/2/advice?{query}")
        refused = [one for one in told["candidates"] if one["refused"]]
        self.assertTrue(all("_" not in one["label"] for one in told["candidates"]))
        self.assertTrue(any("nose up" in one["refused"] for one in refused))
        self.assertEqual(self.ines.bench()["slip"]["lines"], before)
