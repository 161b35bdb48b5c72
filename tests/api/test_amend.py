"""What the logbook says can be corrected and set aside: never silently, and never without the old value."""

from __future__ import annotations

from typing import Any

from sqlalchemy import text
from sqlalchemy.exc import DBAPIError

from tests.support.client import INES, MARA, PELL, TEO, ApiTestCase

SESSION = {
    "name": "Practice",
    "kind": "practice",
    "starts_at": "2026-11-05T09:00:00+00:00",
    "surface": "dry",
    "air": "12",
}
RUN = {"driver": "Mara", "laps": 7, "best_time": "1:47.30", "tyres": "set 9"}


class Corrected(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)
        days = {"starts_on": "2026-11-05", "ends_on": "2026-11-05"}
        name = self.id().rsplit(".", 1)[-1][:60]
        self.event_typed = {"name": name, "place": "Mossgate Ring", "lap": "2.94 km", **days}
        self.ines.ok("POST", "/api/events", self.event_typed)
        self.event = next(one for one in self.log()["events"] if one["name"] == name)["id"]
        self.ines.ok("POST", "/api/cars/1/sessions", SESSION | {"event_id": self.event})
        self.at = f"/api/cars/1/sessions/{self.session()['id']}"
        self.ines.ok("POST", f"{self.at}/runs", RUN | {"released_why": "Shakedown"})

    def log(self) -> Any:
        return self.ines.ok("GET", "/api/cars/1/logbook")

    def session(self) -> Any:
        return next(one for one in self.log()["sessions"] if one["event_id"] == self.event)

    def run_at(self) -> str:
        return f"/api/cars/1/runs/{self.session()['runs'][0]['id']}"

    def test_a_session_keeps_what_stood_there_before(self) -> None:
        teo = self.person(TEO)
        fixed = SESSION | {"surface": "damp", "air": "11", "why": "Read off the wrong column."}
        teo.ok("PATCH", self.at, fixed)
        now = self.session()
        self.assertEqual(now["surface"], "damp")
        self.assertAlmostEqual(now["air_temperature"], 284.15)
        (told,) = now["amended"]
        self.assertEqual(told["before"]["surface"], "dry")
        self.assertEqual(told["after"]["surface"], "damp")
        self.assertEqual(set(told["before"]), {"surface", "air_temperature"})
        self.assertEqual(told["why"], "Read off the wrong column.")
        self.assertIn("Teo", told["by"])

    def test_a_run_and_an_event(self) -> None:
        at = self.run_at()
        wrong = RUN | {"best_time": "1:-30", "why": "Typed wrong."}
        told = self.ines.refused(422, "PATCH", at, wrong)
        self.assertEqual(told["errors"][0]["number"], "best_time")
        self.ines.ok("PATCH", at, RUN | {"best_time": "1:46.30", "why": "Typed wrong."})
        run = self.session()["runs"][0]
        self.assertAlmostEqual(run["best_time"], 106.3)
        self.assertEqual(run["amended"][0]["before"], {"best_time": 107.3})
        self.assertEqual(run["revision"], self.ines.bench(1)["revision"])
        event = self.event_typed | {"lap": "3 km", "why": "Measured on the map."}
        self.ines.ok("PATCH", f"/api/events/{self.event}", event)
        found = next(one for one in self.log()["events"] if one["id"] == self.event)
        self.assertEqual(found["lap_length"], 3000.0)
        self.assertEqual(found["amended"][0]["before"], {"lap_length": 2940.0})

    def test_a_reason_and_a_difference_are_asked_for(self) -> None:
        told = self.ines.refused(422, "PATCH", self.at, SESSION | {"surface": "wet", "why": " "})
        self.assertIn("Say why", told["detail"])
        told = self.ines.refused(422, "PATCH", self.at, SESSION | {"why": "Nothing."})
        self.assertIn("Nothing differs", told["detail"])
        self.assertEqual(self.session()["amended"], [])
        self.person(PELL).refused(403, "PATCH", self.at, SESSION | {"why": "x", "surface": "wet"})

    def test_what_is_set_aside_is_neither_shown_nor_counted(self) -> None:
        service = {"kind": "service", "words": self.event_typed["name"], "every": "9"}
        self.ines.ok("POST", "/api/cars/1/watched", service)
        self.ines.ok("POST", f"{self.at}/runs", RUN | {"released_why": "Again"})

        def left() -> str:
            watched = self.ines.ok("GET", "/api/cars/1/watched")["watched"]
            return next(str(one["stands"]) for one in watched if one["words"] == service["words"])

        self.assertIn("in 8 runs", left())
        runs = self.session()["runs"]
        self.ines.refused(422, "POST", f"/api/cars/1/runs/{runs[1]['id']}/aside", {"why": ""})
        aside = {"why": "Logged twice."}
        self.ines.ok("POST", f"/api/cars/1/runs/{runs[1]['id']}/aside", aside)
        self.ines.refused(404, "POST", f"/api/cars/1/runs/{runs[1]['id']}/aside", aside)
        self.assertEqual(len(self.session()["runs"]), 1)
        self.assertIn("in 9 runs", left())
        kept = text("SELECT before, after, why FROM amendment WHERE kind = 'run' AND row_id = :id")
        with self.app_engine.begin() as db:
            (row,) = db.execute(kept, {"id": runs[1]["id"]})
        self.assertEqual(tuple(row), ({"aside": False}, {"aside": True}, "Logged twice."))
        # its number is not given again
        self.ines.ok("POST", f"{self.at}/runs", RUN | {"released_why": "Third"})
        self.assertEqual([one["number"] for one in self.session()["runs"]], [1, 3])
        self.ines.ok("POST", f"{self.at}/aside", aside)
        self.assertNotIn(self.event, [one["event_id"] for one in self.log()["sessions"]])
        self.ines.refused(404, "POST", f"{self.at}/runs", RUN)
        self.ines.ok("GET", "/api/cars/1/file")

    def test_a_driver_s_words_leave_a_trace(self) -> None:
        mara, at = self.person(MARA), self.run_at()
        first = [{"phase": "exit", "text": "Loose."}]
        mara.ok("PUT", f"{at}/words", {"words": first, "confidence": 2})
        self.assertEqual(self.session()["runs"][0]["amended"], [])
        mara.ok("PUT", f"{at}/words", {"words": first, "confidence": 2})
        self.assertEqual(self.session()["runs"][0]["amended"], [])
        mara.ok("PUT", f"{at}/words", {"words": [{"phase": "exit", "text": "Calm."}]})
        (told,) = self.session()["runs"][0]["amended"]
        self.assertEqual(told["before"], {"words": first, "confidence": 2})
        self.assertIn("Mara", told["by"])

    def test_the_database_itself_refuses_to_edit_what_was_corrected(self) -> None:
        self.ines.ok("PATCH", self.at, SESSION | {"surface": "wet", "why": "It rained."})
        for sql in ("UPDATE amendment SET why = ''", "DELETE FROM amendment"):
            with self.assertRaisesRegex(DBAPIError, "never edited"), self.engine.begin() as db:
                db.execute(text(sql))
