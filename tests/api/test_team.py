"""Who belongs to the team; sign-ins that end when they should; tries that are limited without locking out."""

import json
import threading
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime, timedelta
from typing import Any

from sqlalchemy import select, text, update
from sqlalchemy.orm import Session

from cabrio.api.app import Settings, create_app
from cabrio.core.errors import Impossible
from cabrio.demo.season import PASSWORD
from cabrio.operations import sign_in
from cabrio.operations.errors import Busy, NotFound
from cabrio.operations.people import check_password, everything_of
from cabrio.storage.models import SignIn
from tests.support.client import INES, MARA, OKE, PELL, TEO, WEB, ApiTestCase, Person

NEW = "seven wet gravel ducks"


class ClockedTestCase(ApiTestCase):
    """The app with a clock that the test sets, and visitors from machines of their own."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        settings = Settings(secret="test", web=WEB, demo=True, clock=lambda: cls.now)
        cls.app = create_app(settings, cls.app_engine)

    def setUp(self) -> None:
        type(self).now = datetime(2026, 11, 2, 8, 0, tzinfo=UTC)

    def later(self, **by: float) -> None:
        type(self).now += timedelta(**by)

    def at(self, machine: str) -> Person:
        person = Person(self.app)
        person.http.environ_base["REMOTE_ADDR"] = machine
        return person


class SignIns(ClockedTestCase):
    def test_a_copied_cookie_is_worth_nothing_after_the_sign_out(self) -> None:
        ines, thief = self.person(INES), Person(self.app)
        kept = ines.http.get_cookie("cabrio")
        assert kept is not None
        thief.http.set_cookie("cabrio", kept.value)
        thief.ok("GET", "/api/cars")
        ines.ok("DELETE", "/api/session")
        thief.refused(401, "GET", "/api/cars")

    def test_it_ends_when_it_was_not_used_and_when_it_is_old(self) -> None:
        ines = self.person(INES)
        for _ in range(3):
            self.later(hours=15)
            ines.ok("GET", "/api/cars")
        self.later(hours=16, minutes=1)
        ines.refused(401, "GET", "/api/cars")
        ines = self.person(INES)
        for _ in range(22):
            self.later(hours=15)
            ines.ok("GET", "/api/cars")
        self.later(hours=15)
        ines.refused(401, "GET", "/api/cars")

    def test_reading_writes_down_that_it_is_in_use_at_most_once_a_minute(self) -> None:
        ines = self.person(INES)
        seen = select(SignIn.seen_at).order_by(SignIn.id.desc()).limit(1)
        with Session(self.engine) as db:
            first = db.scalar(seen)
            self.later(seconds=59)
            ines.ok("GET", "/api/session")
            self.assertEqual(db.scalar(seen), first)
            self.later(seconds=2)
            ines.ok("GET", "/api/session")
            db.rollback()
            self.assertEqual(db.scalar(seen), self.now)

    def test_one_s_own_are_listed_and_ended_from_another_browser(self) -> None:
        here, tablet = self.person(TEO), self.at("10.0.0.9")
        tablet.sign_in(TEO)
        listed = here.ok("GET", "/api/sign-ins")["sign_ins"]
        self.assertEqual([one["this"] for one in listed].count(True), 1)
        other = next(one for one in listed if one["machine"] == "10.0.0.9")
        self.person(OKE).refused(404, "DELETE", f"/api/sign-ins/{other['id']}")
        here.ok("DELETE", f"/api/sign-ins/{other['id']}")
        tablet.refused(401, "GET", "/api/cars")
        here.ok("GET", "/api/cars")

    def test_a_new_password_ends_every_other_sign_in(self) -> None:
        here, tablet = self.person(MARA), self.person(MARA)
        wrong = here.refused(422, "PUT", "/api/session/password", {"old": "x", "new": NEW})
        self.assertEqual(wrong["errors"][0]["number"], "old")
        weak = {"old": PASSWORD, "new": "hollinbank1"}
        told = here.refused(422, "PUT", "/api/session/password", weak)
        self.assertIn("soon guessed", told["detail"])
        tablet.ok("GET", "/api/cars")
        here.ok("PUT", "/api/session/password", {"old": PASSWORD, "new": NEW})
        here.ok("GET", "/api/cars")
        tablet.refused(401, "GET", "/api/cars")
        self.assertEqual(Person(self.app).sign_in(MARA).status_code, 403)
        self.assertEqual(Person(self.app).sign_in(MARA, NEW).status_code, 200)

    def test_the_database_holds_no_key(self) -> None:
        ines = self.person(INES)
        cookie = ines.http.get_cookie("cabrio")
        assert cookie is not None
        with ines.http.session_transaction() as held:
            key = held["_user_id"]
        with Session(self.engine) as db:
            kept = db.scalars(select(SignIn.key_hash)).all()
        self.assertNotIn(key, kept)
        self.assertIn(sign_in.key_hash(key), kept)


class Team(ClockedTestCase):
    def invited(self, owner: Person, email: str, role: str = "crew") -> tuple[int, str]:
        made = owner.ok("POST", "/api/people", {"name": "Nia Cope", "email": email, "role": role})
        self.assertEqual(made["person"]["state"], "invited")
        return made["person"]["id"], made["path"].removeprefix("/join#")

    def test_invited_joined_changed_shut_out(self) -> None:
        ines = self.person(INES)
        someone, key = self.invited(ines, "nia@hollinbank.example")
        nia = Person(self.app)
        self.assertEqual(nia.sign_in("nia@hollinbank.example", "").status_code, 403)
        nia.refused(422, "POST", "/api/join", {"key": key, "password": "nia cope 1"})
        self.assertEqual(nia.ok("POST", "/api/join", {"key": key, "password": NEW})["role"], "crew")
        nia.token = nia.ok("GET", "/api/session")["token"]
        nia.refused(404, "POST", "/api/join", {"key": key, "password": NEW})
        nia.refused(403, "PUT", "/api/cars/1/slip", {"version": 0, "changes": []})
        ines.ok("PATCH", f"/api/people/{someone}", {"role": "engineer"})
        self.assertIn("draft", nia.ok("GET", "/api/session")["abilities"])
        nia.refused(403, "GET", "/api/people")
        ines.ok("PATCH", f"/api/people/{someone}", {"disabled": True})
        nia.refused(401, "GET", "/api/cars")
        self.assertEqual(Person(self.app).sign_in("nia@hollinbank.example", NEW).status_code, 403)
        listed = ines.ok("GET", "/api/people")["people"]
        self.assertEqual(listed[-1]["state"], "shut out")
        ines.ok("PATCH", f"/api/people/{someone}", {"disabled": False})
        self.assertEqual(Person(self.app).sign_in("nia@hollinbank.example", NEW).status_code, 200)

    def test_the_link_is_kept_nowhere_not_even_as_an_answer(self) -> None:
        ines = self.person(INES)
        body = {"name": "Una Ray", "email": "una@hollinbank.example", "role": "crew"}
        headers = {"X-CSRF-Token": ines.token, "Idempotency-Key": "k" * 20}
        made = ines.http.post("/api/people", json=body, headers=headers).get_json()
        key = made["path"].removeprefix("/join#")
        with Session(self.engine) as db:
            tables = db.scalars(text("SELECT tablename FROM pg_tables WHERE schemaname = 'public'"))
            for table in list(tables):
                held = db.scalar(
                    text(f'SELECT count(*) FROM "{table}" t WHERE t::text LIKE :key'),
                    {"key": f"%{key}%"},
                )
                self.assertEqual(held, 0, table)

    def test_a_link_holds_a_week_and_the_newer_one_voids_the_older(self) -> None:
        ines = self.person(INES)
        someone, first = self.invited(ines, "abe@hollinbank.example")
        second = ines.ok("POST", f"/api/people/{someone}/link")["path"].removeprefix("/join#")
        visitor = Person(self.app)
        visitor.refused(404, "POST", "/api/join", {"key": first, "password": NEW})
        self.later(days=7, minutes=1)
        told = visitor.refused(404, "POST", "/api/join", {"key": second, "password": NEW})
        self.assertIn("too old", told["detail"])

    def test_a_team_keeps_an_owner(self) -> None:
        ines = self.person(INES)
        listed = ines.ok("GET", "/api/people")["people"]
        owners = [one for one in listed if one["owner"]]
        self.assertEqual([owner["email"] for owner in owners], [INES])
        for change in ({"owner": False}, {"disabled": True}):
            told = ines.refused(409, "PATCH", f"/api/people/{owners[0]['id']}", change)
            self.assertIn("needs an owner", told["detail"])
        ines.ok("GET", "/api/cars")

    def test_one_address_invited_by_many_at_once_is_invited_once(self) -> None:
        body = {"name": "Bo Lind", "email": "bo@hollinbank.example", "role": "crew"}
        several = [self.person(INES) for _ in range(6)]
        with ThreadPoolExecutor(6) as pool:
            told = list(
                pool.map(lambda one: one.call("POST", "/api/people", body).status_code, several)
            )
        self.assertEqual(sorted(told), [200, *[422] * 5])

    def test_a_link_of_one_shut_out_never_works(self) -> None:
        ines, visitor = self.person(INES), Person(self.app)
        someone, key = self.invited(ines, "cy@hollinbank.example")
        ines.ok("PATCH", f"/api/people/{someone}", {"disabled": True})
        told = ines.refused(409, "POST", f"/api/people/{someone}/link")
        self.assertIn("let them in again first", told["detail"])
        ines.ok("PATCH", f"/api/people/{someone}", {"disabled": False})
        visitor.refused(404, "POST", "/api/join", {"key": key, "password": NEW})
        again = ines.ok("POST", f"/api/people/{someone}/link")["path"].removeprefix("/join#")
        visitor.ok("POST", "/api/join", {"key": again, "password": NEW})

    def test_wrong_invitations_say_all_at_once(self) -> None:
        ines = self.person(INES)
        bad = {"name": " ", "email": OKE, "role": "boss"}
        told = ines.refused(422, "POST", "/api/people", bad)
        self.assertEqual(sorted(one["number"] for one in told["errors"]), ["email", "name", "role"])

    def test_what_is_kept_of_a_person_is_handed_over(self) -> None:
        pell = self.at("10.3.0.3")
        pell.sign_in(PELL)
        kept = pell.ok("GET", "/api/session/kept")
        self.assertEqual((kept["name"], kept["role"]), ("Pell Ormsby", "viewer"))
        self.assertIn("10.3.0.3", json.dumps(kept))
        self.assertIn("sign_in", [one["what"] for one in kept["what was done"]])
        newest = self.person(INES).ok("GET", "/api/done")["entries"]
        self.assertIn(("exported", "own data"), [(one["did"], one["what"]) for one in newest])
        with Session(self.engine) as db, self.assertRaises(NotFound):
            everything_of(db, "nobody@hollinbank.example")

    def test_common_and_near_passwords_are_refused(self) -> None:
        for weak in ("password123", "hollinbank2", "qwertyuiop", "aaaaaaaaaaaaaa"):
            with self.subTest(weak), self.assertRaisesRegex(Impossible, "soon guessed"):
                check_password(weak, ("Hollinbank",))
        check_password(NEW)
        check_password(NEW * 30)  # however long, it is looked at at once


class Tries(ClockedTestCase):
    def guess(self, who: Person, email: str, times: int) -> list[int]:
        return [who.sign_in(email, "guess").status_code for _ in range(times)]

    def test_guessing_is_stopped_where_it_comes_from_and_shuts_nobody_else_out(self) -> None:
        thief = self.at("10.9.0.1")
        self.assertEqual(self.guess(thief, MARA, 10), [403] * 8 + [429] * 2)
        refused = thief.sign_in(MARA)
        self.assertEqual(refused.status_code, 429)
        self.assertTrue(0 < int(refused.headers["Retry-After"]) <= 900)
        self.assertEqual(self.at("10.9.0.2").sign_in(MARA).status_code, 200)
        self.later(minutes=15, seconds=1)
        self.assertEqual(thief.sign_in(MARA).status_code, 200)

    def test_one_machine_that_sprays_addresses_is_stopped(self) -> None:
        thief = self.at("10.9.1.1")
        said = [self.guess(thief, f"n{i}@hollinbank.example", 1)[0] for i in range(45)]
        self.assertEqual(said, [403] * 40 + [429] * 5)
        # its own addresses of IPv6 are one machine
        for i in range(9):
            last = self.guess(self.at(f"2001:db8::{i + 1:x}"), PELL, 1)
        self.assertEqual(last, [429])

    def test_many_machines_at_one_address_do_not_lock_out_who_was_there_before(self) -> None:
        known = self.at("10.8.0.1")
        known.sign_in(TEO)
        for i in range(62):
            last = self.guess(self.at(f"10.7.0.{i + 1}"), TEO, 1)
        self.assertEqual(last, [429])
        self.assertEqual(self.at("10.7.1.1").sign_in(TEO).status_code, 429)
        self.assertEqual(self.at("10.8.0.1").sign_in(TEO).status_code, 200)

    def test_right_passwords_use_nothing_up(self) -> None:
        oke = self.at("10.6.0.1")
        for _ in range(12):
            self.guess(oke, OKE, 5)
            self.assertEqual(oke.sign_in(OKE).status_code, 200)
            self.later(minutes=16)

    def test_forty_at_once_are_counted_one_by_one(self) -> None:
        said: list[Any] = []

        def one() -> None:
            answer = self.at("10.5.0.1").sign_in(PELL, "guess")
            said.append(answer.status_code)

        threads = [threading.Thread(target=one) for _ in range(40)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        # what was not told to wait was looked at, or turned away as too many at this moment
        self.assertEqual(said.count(429), 32)
        self.assertEqual(said.count(403) + said.count(503), 8)

    def test_hashing_takes_turns_and_only_a_few_wait(self) -> None:
        pool = sign_in.Hashing(waiting=1)
        with pool.turn():
            inside = threading.Event()

            def wait() -> None:
                with pool.turn():
                    inside.set()

            waiting = threading.Thread(target=wait)
            waiting.start()
            while pool._room._value:  # type: ignore[attr-defined]
                pass
            with self.assertRaises(Busy) as caught, pool.turn():
                self.fail("a third came in")
            self.assertTrue(caught.exception.after)
            self.assertFalse(inside.is_set())
        waiting.join()
        self.assertTrue(inside.is_set())

    def test_a_sign_in_of_the_past_ends_by_itself(self) -> None:
        ines = self.person(INES)
        with Session(self.engine) as db, db.begin():
            db.execute(update(SignIn).values(ended_at=self.now))
        ines.refused(401, "GET", "/api/cars")
