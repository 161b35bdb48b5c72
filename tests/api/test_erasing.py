"""A person taken out of all that is kept: no trace of the name is left, and the record still holds."""

import json
from datetime import UTC, datetime

from sqlalchemy import select, text
from sqlalchemy.exc import DBAPIError
from sqlalchemy.orm import Session

from cabrio.operations.errors import Conflict
from cabrio.operations.people import erase
from cabrio.operations.upkeep import look_through
from cabrio.storage import erasing
from cabrio.storage.database import open_engine
from cabrio.storage.models import Base, Person
from tests.support.client import INES, OKE, PELL, TEO, ApiTestCase, pads
from tests.support.client import Person as Person_
from tests.support.database import fresh_url

VIEWS = ("", "/readings", "/logbook", "/file", "/walks", "/watched")
NOW = datetime(2026, 11, 26, 12, tzinfo=UTC)


class Erased(ApiTestCase):
    def setUp(self) -> None:
        self.engine_of_mine = open_engine(fresh_url())
        self.addCleanup(self.engine_of_mine.dispose)

    def everything(self, db: Session) -> str:
        return "\n".join(
            str(row)
            for table in Base.metadata.sorted_tables
            for row in db.execute(text(f"SELECT {table.name}::text FROM {table.name}"))
        )

    def test_no_trace_is_left_and_the_record_still_holds(self) -> None:
        with Session(self.engine) as db:
            teo = db.scalars(select(Person).where(Person.email == TEO)).one()
            name = teo.name
        worker = self.person(TEO)
        worker.ok(
            "POST", "/api/cars/2/readings", pads([250, 251, 262, 263], note=f"{name} typed this")
        )
        worker.draft(("bar_hole", "front", 1), car=3, why="to see")
        worker.book(3)
        worker.ok("POST", "/api/cars/1/walks", {"procedure": "circuit_build"})
        worker.ok("POST", "/api/cars/1/watched", {"kind": "issue", "words": "a rattle"})
        worker.sign_in(TEO, "not this")
        ines = self.person(INES)
        views = [f"/api/cars/{car}{view}" for car in (2, 3) for view in VIEWS]
        for view in views:  # read before, as by an app that has run for days
            ines.ok("GET", view)
        self.assertIn(name, ines.call("GET", "/api/cars/2/readings").get_data(as_text=True))
        with Session(self.engine) as db:
            before = self.everything(db)
            self.assertGreaterEqual(before.count(name), 15)
            stands = erase(db, TEO, NOW)
            db.commit()
            after = self.everything(db)
            for view in views:
                told = json.dumps(ines.ok("GET", view), ensure_ascii=False)
                self.assertNotIn(name, told.replace(f"{name} typed this", ""), view)
            held = look_through(db)
        self.assertNotIn(TEO, after)
        # what somebody wrote in a sentence stays as it was written, in its row and in what was done
        self.assertEqual(after.count(name), after.count(f"{name} typed this"))
        self.assertGreaterEqual(after.count(stands), before.count(name) - after.count(name))
        self.assertEqual(held.wrong, ())
        self.assertGreater(held.erased, 5)
        worker.refused(401, "GET", "/api/cars")
        self.assertEqual(worker.sign_in(TEO).status_code, 403)
        newest = ines.ok("GET", "/api/done")["entries"]
        self.assertIn(("erased", "person"), [(one["did"], one["what"]) for one in newest])
        listed = ines.ok("GET", "/api/people")["people"]
        self.assertIn((stands, "shut out"), [(one["name"], one["state"]) for one in listed])
        ines.ok("GET", "/api/cars/2/logbook")
        with self.assertRaises(DBAPIError), self.engine.begin() as owner:
            owner.execute(text("UPDATE audit SET entry = '{}'"))  # the guards stand again

    def test_an_entry_changed_under_cover_of_an_erasure_is_found_out(self) -> None:
        with Session(self.engine_of_mine) as db:
            erase(db, OKE, NOW)
            db.commit()
            self.assertEqual(look_through(db).wrong, ())
            db.execute(text("ALTER TABLE audit DISABLE TRIGGER ALL"))
            row = db.scalar(
                text(
                    "SELECT max(id) FROM audit WHERE entry::text LIKE '%Former member%' "
                    "AND entry ->> 'did' <> 'erased'"
                )
            )
            forged = "jsonb_set(entry, '{who}', '\"Nobody\"')"
            db.execute(text(f"UPDATE audit SET entry = {forged} WHERE id = {row}"))
            (told,) = look_through(db).wrong
            self.assertIn(f"entry {row}", told)

    def test_the_last_owner_and_one_of_two_of_a_name_stay(self) -> None:
        with Session(self.engine_of_mine) as db:
            with self.assertRaisesRegex(Conflict, "needs an owner"):
                erase(db, INES, NOW)
            db.rollback()
            pell = db.scalars(select(Person).where(Person.email == PELL)).one()
            db.scalars(select(Person).where(Person.email == OKE)).one().name = pell.name
            db.commit()
            with self.assertRaisesRegex(Conflict, "cannot tell them apart"):
                erase(db, PELL, NOW)

    def test_a_name_that_is_a_word_of_the_record_changes_nothing_but_people(self) -> None:
        """Somebody called “wheelbase”: the keys and words of cars and of what was done stay as they are."""
        ines = self.person(INES)
        for word, email in (("wheelbase", "wb@hollinbank.example"), ("INSERT", "in@x.example")):
            body = {"name": word, "email": email, "role": "crew"}
            link = ines.ok("POST", "/api/people", body)["path"].removeprefix("/join#")
            worker = Person_(self.app)
            joined = {"key": link, "password": "lantern cobble fjord 7"}
            worker.token = worker.ok("POST", "/api/join", joined)["token"]
            worker.understand()
            worker.ok("POST", "/api/cars/2/readings", pads([250, 251, 262, 263], note=word))
            before = ines.ok("GET", "/api/cars/2")["figures"]["wheelbase"]["values"]
            with Session(self.engine) as db:
                stands = erase(db, email, NOW)
                db.commit()
                self.assertEqual(look_through(db).wrong, ())
            self.assertEqual(
                ines.ok("GET", "/api/cars/2")["figures"]["wheelbase"]["values"], before
            )
            newest = ines.ok("GET", "/api/cars/2/readings?kind=pads")["readings"][0]
            self.assertEqual((newest["by"], newest["note"]), (stands, word))
            done = ines.ok("GET", "/api/done")["entries"]
            self.assertNotIn(word, [one["who"] for one in done])

    def test_every_table_with_a_name_is_reached(self) -> None:
        for table in Base.metadata.sorted_tables:
            if erasing.names(table):
                with self.subTest(table.name):
                    self.assertTrue(erasing._of_team(table))
