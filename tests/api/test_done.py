"""What was done: kept by the database itself, with who, before and after; nobody edits it, the app least of all."""

import json
from typing import Any

from sqlalchemy import Engine, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from cabrio.operations.upkeep import look_through
from cabrio.storage import audit
from tests.support.client import INES, MARA, PELL, ApiTestCase, Person, pads


def audit_of(engine: Engine) -> dict[str, Any]:
    """The newest entry, whoever wrote it."""
    with engine.connect() as db:
        found: dict[str, Any] = db.scalar(text("SELECT entry FROM audit ORDER BY id DESC LIMIT 1"))
        return found


class Done(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)

    def newest(self, **asked: int) -> list[dict[str, object]]:
        query = "&".join(f"{key}={value}" for key, value in asked.items())
        found: list[dict[str, object]] = self.ines.ok("GET", f"/api/done?{query}")["entries"]
        return found

    def test_a_write_is_kept_with_who_before_and_after(self) -> None:
        self.ines.ok("PATCH", "/api/cars/1/given", {"values": {"wheelbase": [2.512]}})
        one = self.newest()[0]
        self.assertEqual((one["who"], one["did"], one["what"]), ("Ines Halloran", "changed", "car"))
        self.assertEqual((one["car"], one["row"]), (1, 1))
        changed = {x["field"]: (x["before"], x["after"]) for x in one["changes"]}  # type: ignore[attr-defined]
        (field,) = [name for name, (_, after) in changed.items() if "2.512" in after]
        self.assertIn("given.wheelbase", field)
        self.assertNotIn("2.512", changed[field][0])

    def test_drafting_is_one_s_own_and_booking_is_kept(self) -> None:
        before = self.newest()[0]["id"]
        now = self.ines.bench()["setup"]["bar_hole"][0]
        self.ines.draft(("bar_hole", "front", now + 1))
        self.assertEqual(self.newest()[0]["id"], before)
        self.ines.draft(("bar_hole", "front", now - 1), why="try it")
        self.ines.book()
        made = [(one["did"], one["what"]) for one in self.newest(car=1)[:3]]
        self.assertIn(("added", "revision"), made)
        self.assertIn(("changed", "slip"), made)

    def test_signing_in_out_refused_and_exports(self) -> None:
        visitor = Person(self.app)
        visitor.sign_in(MARA, "guess")
        one = self.newest()[0]
        self.assertEqual((one["did"], one["what"]), ("was refused", "sign_in"))
        self.assertIn("127.0.0.1", json.dumps(one["changes"]))
        visitor.sign_in(MARA)
        visitor.ok("DELETE", "/api/session")
        did = [(one["who"], one["did"], one["what"]) for one in self.newest()[:2]]
        self.assertEqual(did[0], ("Mara Quillfeather", "changed", "sign_in"))
        self.assertEqual(did[1][1:], ("added", "sign_in"))
        self.ines.call("GET", "/api/cars/1/file")
        self.assertEqual(self.newest()[0]["what"], "car file")
        self.assertNotIn("key_hash", json.dumps(self.newest()))

    def test_nothing_is_kept_of_what_was_refused(self) -> None:
        before = self.newest()[0]["id"]
        self.ines.refused(422, "PATCH", "/api/cars/1/given", {"values": {"wheelbase": [-1]}})
        self.person(PELL)
        kept = [one for one in self.newest() if int(str(one["id"])) > int(str(before))]
        self.assertEqual([one["what"] for one in kept], ["sign_in"])

    def test_pages_go_back_to_the_first_entry(self) -> None:
        seen, before = [], 0
        while True:
            page = self.ines.ok("GET", f"/api/done?before={before}")
            seen += [one["id"] for one in page["entries"]]
            if page["older"] is None:
                break
            before = page["older"]
        self.assertEqual(seen, sorted(set(seen), reverse=True))
        with Session(self.engine) as db:
            # the demo's own entries have no team
            count = db.scalar(text("SELECT count(*) FROM audit WHERE team_id = 1"))
        self.assertEqual(len(seen), count)

    def test_only_owners_of_the_team_read_it(self) -> None:
        for who in (MARA, PELL):
            self.person(who).refused(403, "GET", "/api/done")

    def test_what_happens_at_once_makes_one_chain(self) -> None:
        import threading

        def reading() -> None:
            person = self.person(INES)
            person.ok("POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))

        threads = [threading.Thread(target=reading) for _ in range(6)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
        with Session(self.engine) as db:
            chain = audit.follow(db)
        self.assertIsNone(chain.broken)
        self.assertGreater(chain.count, 100)


class Unedited(ApiTestCase):
    def test_the_app_s_role_may_not_rewrite_the_record(self) -> None:
        self.person(INES)
        for statement in (
            "UPDATE audit SET entry = '{}'",
            "DELETE FROM audit",
            "TRUNCATE audit",
            "INSERT INTO audit (entry, hash) VALUES ('{}', '')",
            "UPDATE revision SET setup = '{}'",
            "DELETE FROM reading",
            "DELETE FROM person",
            "UPDATE amendment SET why = ''",
            "UPDATE alembic_version SET version_num = '1'",
            "ALTER TABLE audit DISABLE TRIGGER ALL",
            "DROP TRIGGER car_is_audited ON car",
            "CREATE TABLE mine (id int)",
            "CREATE ROLE another",
            "SELECT audit_add('changed', 'car', 1, 1, NULL, NULL)",
            "SELECT audit_note('erased', 'person', 1, NULL, '{\"entries\": {}}')",
        ):
            with (
                self.subTest(statement),
                self.assertRaises(DBAPIError),
                self.app_engine.begin() as db,
            ):
                db.execute(text(statement))

    def test_nothing_is_written_in_the_name_of_who_is_not_signed_in(self) -> None:
        said = '{"name": "Mara Vance", "person": 3, "sign_in": 1, "team": 1, "key": "made up"}'
        with self.app_engine.begin() as db:
            db.execute(text("SELECT set_config('cabrio.who', :said, true)"), {"said": said})
            db.execute(text("UPDATE session SET name = name || '.' WHERE id = 1"))
        one = audit_of(self.engine)
        self.assertEqual((one["who"], one["what"]), ("nobody signed in", "session"))
        self.assertNotIn("person", one)
        self.assertNotIn("sign_in", one)

    def test_who_says_falsely_that_a_car_comes_in_is_kept_all_the_same(self) -> None:
        tell = "SELECT set_config('cabrio.import', CAST(:car AS text), true)"
        late = (
            "INSERT INTO reading (car_id, revision, kind, settles, conditions, taken, note, "
            "taken_by, taken_at) SELECT car_id, revision, kind, settles, conditions, taken, "
            "'late', taken_by, taken_at FROM reading WHERE car_id = :car LIMIT 1"
        )
        ines = self.person(INES)
        made = ines.ok("POST", "/api/cars/import", ines.call("GET", "/api/cars/2/file").data)
        for car in (1, made["id"]):  # one that never came from a file, and one that came before
            with self.app_engine.begin() as db:
                db.execute(text(tell), {"car": car})
                db.execute(text(late), {"car": car})
            one = audit_of(self.engine)
            self.assertEqual((one["did"], one["what"], one["car"]), ("added", "reading", car))
            self.assertEqual(one["after"]["note"], "late")

    def test_even_the_owner_of_the_database_is_found_out(self) -> None:
        with self.assertRaises(DBAPIError), self.engine.begin() as db:
            db.execute(text("UPDATE audit SET entry = '{}'"))
        with Session(self.engine) as db:
            self.assertEqual(look_through(db).wrong, ())
            # the triggers taken off: what only a database's owner can do
            db.execute(text("ALTER TABLE audit DISABLE TRIGGER ALL"))
            row = db.scalar(text("SELECT id FROM audit WHERE entry ->> 'what' = 'reading' LIMIT 1"))
            forged = "jsonb_set(entry, '{who}', '\"Nobody\"')"
            db.execute(text(f"UPDATE audit SET entry = {forged} WHERE id = {row}"))
            (told,) = look_through(db).wrong
            self.assertIn(f"entry {row}", told)
            db.rollback()
            db.execute(text("ALTER TABLE audit DISABLE TRIGGER ALL"))
            db.execute(text(f"DELETE FROM audit WHERE id = {row}"))
            self.assertIn("was changed", look_through(db).wrong[0])
            db.rollback()
