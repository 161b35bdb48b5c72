"""A car of years: every view asks the database as often as on a young car, tells a page, and loses nothing."""

import json
from typing import Any

from sqlalchemy import event

from tests.support.client import INES, ApiTestCase, pads
from tests.support.years import grow

VIEWS = {
    "garage": "/api/cars",
    "bench": "/api/cars/1",
    "logbook": "/api/cars/1/logbook",
    "readings": "/api/cars/1/readings",
    "advice": "/api/cars/1/advice?symptom=understeer&phase=mid-corner",
    "outcome": "/api/cars/1/revisions/5/outcome",
    "compare": "/api/cars/1/compare?left=1&right=2",
    "sessions": "/api/cars/1/sessions",
}


class Years(ApiTestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.asked = 0

        @event.listens_for(cls.app_engine, "before_cursor_execute")
        def count(*_: Any) -> None:
            cls.asked += 1

    def ask(self, path: str) -> tuple[Any, int]:
        """An answer, and how many statements it took once what never changes was read."""
        self.ines.ok("GET", path)
        type(self).asked = 0
        found = self.ines.ok("GET", path)
        return found, self.asked

    def test_a_car_of_years_is_as_quick_to_ask_for_and_loses_nothing(self) -> None:
        self.ines = self.person(INES)
        before = {name: self.ask(path)[1] for name, path in VIEWS.items()}
        young = json.dumps(self.ask(VIEWS["bench"])[0])
        grow(self.engine, 1, revisions=150, sessions=180, readings=130)
        for name, path in VIEWS.items():
            with self.subTest(name):
                self.assertLessEqual(self.ask(path)[1], before[name] + 2)
        self.assertLess(len(json.dumps(self.ask(VIEWS["bench"])[0])), 1.2 * len(young))
        self.assertEqual(len(self.ines.ok("GET", VIEWS["sessions"])["sessions"]), 100)
        told = self.ines.ok("GET", "/api/cars/1/readings?kind=pads")
        self.assertEqual(len(told["readings"]), 100)
        self.assertGreater(told["count"], 130)
        self.every_page_once()
        self.what_is_booked_after_is_seen()
        self.out_and_in_again()

    def every_page_once(self) -> None:
        sessions, revisions, before = [], [], ""
        while before is not None:
            page = self.ines.ok("GET", f"/api/cars/1/logbook?before={before.replace('+', '%2B')}")
            self.assertLessEqual(len(page["sessions"]) + len(page["revisions"]), 40)
            sessions += [one["id"] for one in page["sessions"]]
            revisions += [one["number"] for one in page["revisions"]]
            before = page["older"]
        self.assertEqual(len(sessions), len(set(sessions)))
        newest = self.ines.bench()["revision"]
        self.assertEqual(sorted(revisions), list(range(1, newest + 1)))
        self.assertGreaterEqual(len(sessions), 182)
        self.assertIn("rebound_clicks", page["changed"])
        for part in page["changed"]:
            only = self.ines.ok("GET", f"/api/cars/1/logbook?part={part}")["revisions"]
            self.assertTrue(only)
            for one in only:
                self.assertIn(part, [line["name"] for line in one["lines"]])
        self.ines.refused(404, "GET", "/api/cars/1/logbook?before=nowhere")
        self.ines.refused(404, "GET", "/api/cars/1/logbook?before=2026-01-01~1~2")

    def what_is_booked_after_is_seen(self) -> None:
        now = self.ines.bench()["setup"]["bar_hole"][0]
        self.ines.draft(("bar_hole", "front", now - 1 if now > 1 else now + 1))
        number = self.ines.book()
        self.assertEqual(self.ines.bench()["revision"], number)
        self.ines.ok("POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))
        made = self.ines.ok("GET", "/api/cars/1/readings?kind=pads")["readings"][0]
        self.assertEqual(made["revision"], number)
        self.ines.ok("POST", f"/api/cars/1/readings/{made['id']}/withdraw", {"why": "a slip"})
        again = self.ines.ok("GET", "/api/cars/1/readings?kind=pads")["readings"][0]
        self.assertEqual(again["withdrawn_why"], "a slip")

    def out_and_in_again(self) -> None:
        file = self.ines.call("GET", "/api/cars/1/file").get_json()
        copy = self.ines.ok("POST", "/api/cars/import", file)["id"]
        again = self.ines.call("GET", f"/api/cars/{copy}/file").get_json()
        self.assertEqual(again, file)
        # what came with the car is one entry of what was done, not a thousand
        done = self.ines.ok("GET", f"/api/done?car={copy}")["entries"]
        self.assertEqual([one["did"] for one in done], ["exported", "added", "imported"])
        self.assertIn(
            {"field": "revisions", "before": "", "after": str(len(file["revisions"]))},
            done[2]["changes"],
        )
