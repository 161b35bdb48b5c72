"""A request sent twice with one key does its work once and gets the same answer."""

from __future__ import annotations

import threading
from typing import Any

from cabrio.api.app import Settings, create_app
from cabrio.api.idempotency import HEADER, MAX_KEY_CHARS, is_idempotent
from tests.support.client import INES, OKE, WEB, ApiTestCase, Person

EVENT = {"name": "Once", "starts_on": "2026-11-08", "ends_on": "2026-11-08"}


class Once(ApiTestCase):
    def send(self, who: Person, path: str, body: Any, key: str) -> Any:
        headers = {"X-CSRF-Token": who.token, HEADER: key}
        return who.http.post(path, json=body, headers=headers)

    def events(self, name: str) -> int:
        log = self.person(INES).ok("GET", "/api/cars/1/logbook")
        return sum(one["name"] == name for one in log["events"])

    def test_the_second_gets_the_answer_of_the_first(self) -> None:
        ines = self.person(INES)
        body = {"name": "Copied once"}
        first = self.send(ines, "/api/cars/1/copy", body, "a" * 36)
        again = self.send(ines, "/api/cars/1/copy", body, "a" * 36)
        self.assertEqual((first.status_code, first.get_json()), (200, again.get_json()))
        names = [one["name"] for one in ines.ok("GET", "/api/cars")["cars"]]
        self.assertEqual(names.count("Copied once"), 1)
        other = self.send(ines, "/api/cars/1/copy", body, "b" * 36)
        self.assertNotEqual(other.get_json()["id"], first.get_json()["id"])

    def test_a_key_is_for_one_request_of_one_person(self) -> None:
        ines, oke = self.person(INES), self.person(OKE)
        self.assertEqual(self.send(ines, "/api/events", EVENT, "k").status_code, 200)
        told = self.send(ines, "/api/events", EVENT | {"name": "Other"}, "k")
        self.assertEqual(told.status_code, 409)
        self.assertIn("another request", told.get_json()["detail"])
        self.assertEqual(self.send(oke, "/api/events", EVENT, "k").status_code, 200)
        self.assertEqual(self.events("Once"), 2)

    def test_what_was_refused_may_be_sent_again(self) -> None:
        ines = self.person(INES)
        watched = {"kind": "service", "words": "Oil", "every": "soon"}
        for _ in range(2):
            self.assertEqual(self.send(ines, "/api/cars/1/watched", watched, "r").status_code, 422)
        right = watched | {"every": "4"}
        self.assertEqual(self.send(ines, "/api/cars/1/watched", right, "r").status_code, 200)

    def test_at_the_same_moment_one_works_and_the_other_waits(self) -> None:
        people = [self.person(INES) for _ in range(4)]
        start, told = threading.Barrier(4), []

        def ask(who: Person) -> None:
            start.wait()
            told.append(
                self.send(who, "/api/events", EVENT | {"name": "Together"}, "t").status_code
            )

        threads = [threading.Thread(target=ask, args=(one,)) for one in people]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        self.assertLessEqual(set(told), {200, 409})  # 409 where the first had not answered yet
        self.assertIn(200, told)
        self.assertEqual(self.events("Together"), 1)

    def test_a_key_that_cannot_be_kept_is_refused(self) -> None:
        ines = self.person(INES)
        for key in ("x" * (MAX_KEY_CHARS + 1), "\x7fkey"):
            odd = self.send(ines, "/api/events", EVENT | {"name": "Long"}, key)
            self.assertEqual(odd.status_code, 422)
        self.assertEqual(self.events("Long"), 0)

    def test_what_adds_to_the_record_is_done_once(self) -> None:
        app = create_app(Settings("x", WEB), None)
        with app.app_context():
            marked = {name for name in app.view_functions if is_idempotent(name)}
        self.assertEqual(len(marked), 18)
        self.assertLess({"bench.book", "bench.take", "logbook.add_run", "watched.done"}, marked)
        self.assertFalse({"team.invite", "bench.write_slip"} & marked)
