"""Owners who take it from each other at once, tries at a password, and who asks behind a proxy."""

import threading
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing
from http.client import HTTPConnection
from typing import Any
from unittest import mock

from sqlalchemy import select
from sqlalchemy.orm import Session

from cabrio.api.app import Settings, create_app
from cabrio.operations import people, sign_in
from cabrio.operations.errors import Busy
from cabrio.serving import Server
from cabrio.storage.models import Person, SignInTries
from tests.support.client import INES, OKE, PELL, WEB, ApiTestCase


def number(test: ApiTestCase, email: str) -> int:
    """The id of who has an address."""
    with Session(test.engine) as db:
        return db.scalars(select(Person.id).where(Person.email == email)).one()


class TwoOwners(ApiTestCase):
    def test_two_owners_who_remove_each_other_at_once_leave_one(self) -> None:
        ines, pell = self.person(INES), self.person(PELL)
        ines.ok("PATCH", f"/api/people/{number(self, PELL)}", {"owner": True})
        met = threading.Barrier(2, timeout=20)
        really = people.people.lock_team

        def late(db: Any, team_id: int) -> None:
            met.wait()  # both were let past the door as owners
            really(db, team_id)

        with mock.patch.object(people.people, "lock_team", late), ThreadPoolExecutor(2) as pool:
            told = list(
                pool.map(
                    lambda one: one[0].call("PATCH", f"/api/people/{one[1]}", {"owner": False}),
                    ((ines, number(self, PELL)), (pell, number(self, INES))),
                )
            )
        self.assertEqual(sorted(one.status_code for one in told), [200, 403])


class InvitedOwner(ApiTestCase):
    def test_who_never_came_is_no_owner_to_be_left_with(self) -> None:
        ines = self.person(INES)
        body = {"name": "Wren", "email": "wren@hollinbank.example", "role": "engineer"}
        ines.ok("POST", "/api/people", body)
        wren = number(self, "wren@hollinbank.example")
        ines.ok("PATCH", f"/api/people/{wren}", {"owner": True})
        answer = ines.call("PATCH", f"/api/people/{number(self, INES)}", {"owner": False})
        self.assertEqual(answer.status_code, 409)


class Tries(ApiTestCase):
    def test_wrong_old_passwords_are_limited_as_sign_ins_are(self) -> None:
        oke = self.person(OKE)
        body = {"old": "not this one", "new": "lantern cobble fjord 7"}
        told = [
            oke.call("PUT", "/api/session/password", body).status_code
            for _ in range(sign_in.TRIES + 3)
        ]
        self.assertEqual(told[0], 422)
        self.assertEqual(told[-1], 429)

    def test_a_try_that_was_answered_busy_is_none(self) -> None:
        oke = self.person(OKE)
        with Session(self.engine) as db:
            before = dict(db.execute(select(SignInTries.of, SignInTries.count)).all())  # type: ignore[arg-type]
        with mock.patch.object(sign_in, "fits", side_effect=Busy("busy", after=3)):
            for _ in range(20):
                self.assertEqual(oke.sign_in(OKE).status_code, 503)
        with Session(self.engine) as db:
            after = dict(db.execute(select(SignInTries.of, SignInTries.count)).all())  # type: ignore[arg-type]
        self.assertTrue(all(count <= before.get(of, 0) for of, count in after.items()), after)


class BehindAProxy(ApiTestCase):
    """The real server, asked as a proxy asks it: each visitor counts for himself."""

    def served(self, proxies: int) -> int:
        settings = Settings(secret="test", web=WEB, demo=self.demo, proxies=proxies)
        made = Server(create_app(settings, self.app_engine), "127.0.0.1", 0, 2**20)
        made.start()
        self.addCleanup(made.stop)
        return made.port

    def metrics(self, port: int, visitor: str) -> int:
        with closing(HTTPConnection("127.0.0.1", port, timeout=20)) as asked:
            asked.request("GET", "/api/metrics", headers={"X-Forwarded-For": visitor})
            return asked.getresponse().status

    def test_the_proxys_word_counts_where_there_is_one(self) -> None:
        # the metrics are for this machine alone
        behind, bare = self.served(1), self.served(0)
        self.assertEqual(self.metrics(behind, "127.0.0.1"), 200)
        self.assertNotEqual(self.metrics(behind, "203.0.113.9"), 200)
        self.assertEqual(self.metrics(bare, "203.0.113.9"), 200)  # nobody's word is taken
