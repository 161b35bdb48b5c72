"""Closing the loop: what a booked slip was expected to do, what was read, what the clock says, A-B-A."""

from __future__ import annotations

from typing import Any

from tests.support.client import INES, PELL, ApiTestCase, Person


class Outcome(ApiTestCase):
    def told(self, who: Person, car: int, revision: int) -> Any:
        return who.ok("GET", f"/api/cars/{car}/revisions/{revision}/outcome")

    def test_what_was_read_after_a_hole_change_stands_against_the_model(self) -> None:
        found = self.told(self.person(PELL), 2, 2)["found"]
        hanging = next(one for one in found if one["name"] == "pinion_angle_hanging")
        # the demo's own story: the pinion had gone nose up at full droop
        self.assertGreater(hanging["found"], 0.0)
        self.assertFalse(hanging["as_expected"])
        self.assertNotIn("humidity", [one["name"] for one in found])

    def test_nothing_is_expected_where_the_model_cannot_tell(self) -> None:
        # a flat of preload before its bite was learned: the pads are void and nobody could say of what
        found = self.told(self.person(PELL), 2, 3)["found"]
        pads = [one for one in found if one["name"] == "pad_mass"]
        self.assertEqual([pad["expected"] for pad in pads], [None] * 4)
        self.assertFalse(any(pad["as_expected"] for pad in pads))
        ines = self.told(self.person(PELL), 1, 6)["found"]
        self.assertTrue(all(pad["expected"] is not None for pad in ines))

    def test_nothing_is_claimed_across_events_or_of_single_runs(self) -> None:
        pell = self.person(PELL)
        for revision in (2, 3, 4, 5, 6):
            told = self.told(pell, 1, revision)
            self.assertFalse(told["beyond"], told["said"])
            self.assertRegex(told["said"], "nothing can be said|no difference can be claimed")

    def test_a_b_a_on_a_car_made_here(self) -> None:
        ines = self.person(INES)
        car = ines.ok("POST", "/api/cars", {"name": "Loop", "discipline": "drift", "use": "drift"})[
            "id"
        ]
        event = ines.ok("GET", f"/api/cars/{car}/logbook")["events"][0]["id"]
        body = {
            "event_id": event,
            "name": "Test",
            "kind": "practice",
            "starts_at": "2026-11-01T09:00:00Z",
        }
        ines.ok("POST", f"/api/cars/{car}/sessions", body)
        session = ines.ok("GET", f"/api/cars/{car}/logbook")["sessions"][-1]["id"]

        def run(*times: float) -> None:
            for time in times:
                ines.ok(
                    "POST",
                    f"/api/cars/{car}/sessions/{session}/runs",
                    {"best_time": time, "laps": 3, "driver": "Mara", "released_why": "A test."},
                )

        run(60.0, 60.1, 60.05)
        ines.draft(("tyre_pressure", "LF", "1.8 bar"), car=car)
        ines.book(car)
        run(59.0, 59.1, 59.05)
        told = self.told(ines, car, 2)
        self.assertTrue(told["beyond"])
        self.assertIn("1.00 s quicker", told["said"])
        self.assertEqual((told["confounders"], told["again"]), ([], False))
        ines.ok("POST", f"/api/cars/{car}/revisions/1/go-back")
        ines.book(car)
        run(60.02, 60.08)
        told = self.told(ines, car, 2)
        self.assertTrue(told["again"])
        self.assertEqual((told["before"], told["after"]), (5, 3))
        ines.refused(404, "GET", f"/api/cars/{car}/revisions/1/outcome")
