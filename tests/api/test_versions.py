"""Two people correct one thing: the second is told, and nothing of the first is written over."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier
from typing import Any

from tests.support.client import INES, TEO, ApiTestCase, Person

RUN = {"driver": "Mara", "laps": 5, "best_time": "1:02.4", "times": {}, "floor": {}}
SPRING = {"rate": "72 N/mm", "free_length": "200", "solid_length": "95"}


class Versions(ApiTestCase):
    def setUp(self) -> None:
        self.ines, self.teo = self.person(INES), self.person(TEO)

    def both(self, method: str, path: str, seen: str, *bodies: dict[str, Any]) -> None:
        """One corrects it as both saw it; the other is refused, and may once they have seen it."""
        first, second = bodies
        who: tuple[tuple[Person, dict[str, Any]], ...] = ((self.ines, first), (self.teo, second))
        answers = [one.call(method, path, body, seen=f'"{seen}"') for one, body in who]
        self.assertEqual([one.status_code for one in answers], [200, 412], answers[0].get_json())
        told = answers[1].get_json()
        self.assertEqual(told["code"], "changed_meanwhile")
        self.assertIn("What you typed is still here", told["detail"])

    def log(self) -> Any:
        return self.ines.ok("GET", "/api/cars/1/logbook")

    def session(self) -> Any:
        return self.log()["sessions"][0]

    def test_a_session_and_its_event(self) -> None:
        one = self.session()
        typed = {"name": one["name"], "kind": one["kind"], "starts_at": one["starts_at"]}
        path = f"/api/cars/1/sessions/{one['id']}"
        for surface in ("damp", "wet"):
            a, b = ({**typed, "surface": s, "why": "Seen."} for s in (surface, "dry, cold"))
            self.both("PATCH", path, self.session()["version"], a, b)
            self.assertEqual(self.session()["surface"], surface)
        event = self.log()["events"][0]
        typed = {key: event[key] for key in ("name", "place", "starts_on", "ends_on")}
        a, b = ({**typed, "note": note, "why": "Seen."} for note in ("One.", "Two."))
        self.both("PATCH", f"/api/events/{event['id']}", event["version"], a, b)

    def test_a_run_and_its_words(self) -> None:
        found = next(one for one in self.log()["sessions"] if one["runs"])
        run = found["runs"][0]
        path = f"/api/cars/1/runs/{run['id']}"
        a, b = (RUN | {"note": note, "why": "Seen."} for note in ("One.", "Two."))
        self.both("PATCH", path, run["version"], a, b)
        now = self.ines.ok("GET", path)
        self.assertEqual(now["note"], "One.")
        self.assertNotEqual(now["version"], run["version"])
        phase = self.ines.ok("GET", "/api/vocabulary")["disciplines"][0]["phases"][0]["id"]
        a, b = (
            {"words": [{"phase": phase, "text": text}], "confidence": 3}
            for text in ("Loose.", "No.")
        )
        self.both("PUT", f"{path}/words", now["version"], a, b)

    def test_a_part_and_an_adjuster(self) -> None:
        path = "/api/cars/1/parts"
        spring = {"kind": "spring", "code": "V72", "values": SPRING}
        self.ines.ok("POST", path, spring)
        seen = next(p for p in self.ines.bench()["parts"]["spring"] if p["code"] == "V72")[
            "version"
        ]
        a, b = (spring | {"instead_of": "V72", "note": note} for note in ("One.", "Two."))
        self.both("POST", path, seen, a, b)
        adjuster = self.ines.bench()["adjusters"]["bar_hole"]
        a, b = ({"lowest": 1, "highest": most} for most in (8, 9))
        self.both("PUT", "/api/cars/1/adjusters/bar_hole", adjuster["version"], a, b)
        self.assertEqual(self.ines.bench()["adjusters"]["bar_hole"]["highest"], 8)

    def test_of_four_at_one_moment_one_corrects_an_event(self) -> None:
        event = self.log()["events"][0]
        typed = {key: event[key] for key in ("name", "place", "starts_on", "ends_on")}
        people = [self.person(INES) for _ in range(4)]
        start = Barrier(4)

        def correct(at: int) -> int:
            start.wait()
            body = {**typed, "note": f"Note {at}.", "why": "Seen."}
            path = f"/api/events/{event['id']}"
            answer = people[at].call("PATCH", path, body, seen=event["version"])
            return int(answer.status_code)

        with ThreadPoolExecutor(4) as pool:
            answers = sorted(pool.map(correct, range(4)))
        self.assertEqual(answers, [200, 412, 412, 412])

    def test_who_does_not_say_what_they_saw_writes_over_it(self) -> None:
        adjuster = {"lowest": 1, "highest": 7}
        for seen in (None, "*"):
            answer = self.teo.call("PUT", "/api/cars/1/adjusters/bar_hole", adjuster, seen=seen)
            self.assertEqual(answer.status_code, 200)
        answer = self.teo.call("PUT", "/api/cars/1/adjusters/bar_hole", adjuster, seen="x" * 81)
        self.assertEqual(answer.status_code, 422)

    def test_a_look_changes_no_version(self) -> None:
        versions = [self.session()["version"] for _ in range(2)]
        self.assertEqual(versions[0], versions[1])
