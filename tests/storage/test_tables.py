"""What the database itself holds to, whoever asks."""

import json
import unittest

from alembic import command
from alembic.script import ScriptDirectory
from click.testing import CliRunner
from sqlalchemy import text
from sqlalchemy.exc import DBAPIError, IntegrityError
from sqlalchemy.orm import Session

from cabrio.commands import main
from cabrio.core.car import Given
from cabrio.storage import cars, slips
from cabrio.storage.database import (
    LIMITS,
    UnknownSchema,
    check_schema,
    migrate,
    migrations,
    open_engine,
)
from cabrio.storage.models import CarRow
from tests.support.database import DatabaseTestCase


class Migrations(DatabaseTestCase):
    demo = False

    def test_models_and_migrations_agree(self) -> None:
        command.check(migrations(self.url))

    def test_an_unknown_schema_is_refused(self) -> None:
        check_schema(self.engine)
        with self.engine.begin() as connection:
            connection.execute(text("UPDATE alembic_version SET version_num = '9999'"))
        self.addCleanup(self._back)
        with self.assertRaisesRegex(
            UnknownSchema, f"is at schema 9999, this program needs {self.head()}"
        ):
            check_schema(self.engine)
        with self.assertRaisesRegex(UnknownSchema, "written by another version"):
            migrate(self.url)

    def _back(self) -> None:
        with self.engine.begin() as connection:
            connection.execute(text(f"UPDATE alembic_version SET version_num = '{self.head()}'"))

    def head(self) -> str | None:
        return ScriptDirectory.from_config(migrations(self.url)).get_current_head()

    def test_all_the_way_down_and_up(self) -> None:
        command.downgrade(migrations(self.url), "base")
        command.upgrade(migrations(self.url), "head")
        check_schema(self.engine)

    def test_a_car_of_the_first_form_keeps_what_it_wore(self) -> None:
        command.downgrade(migrations(self.url), "base")
        command.upgrade(migrations(self.url), "0001")
        car = {
            "name": "Old",
            "race_number": "1",
            "discipline": "circuit",
            "use": "race_no_downforce",
            "springs": [{"code": "S", "rate": 5e4}],
            "bars": {"front": {"outer": 0.02, "arms": [0.2, 0.22]}},
        }
        with self.engine.begin() as connection:
            connection.execute(text("INSERT INTO team VALUES (1, 'Old Team')"))
            connection.execute(
                text("INSERT INTO car VALUES (1, 1, CAST(:d AS jsonb), 1, 1, now())"),
                {"d": json.dumps(car)},
            )
            connection.execute(
                text("""INSERT INTO revision VALUES (1, 1, 1,
                '{"spring": ["S", "S", "S", "S"]}', 'x', 'Ada', now())""")
            )
            connection.execute(
                text("""INSERT INTO reading VALUES (1, 1, 1, 'pads',
                '{"pad_mass": [[250, 250, 250, 250]]}', '{}', 20.5, '', 'Ada', now())""")
            )
            connection.execute(
                text("INSERT INTO person VALUES (1, 1, 'Ada', 'ada@old.example', 'x', 'engineer')")
            )
            connection.execute(
                text("""INSERT INTO slip (car_id, author_id, author, state, base, why, expectation,
                version, at) VALUES (1, 1, 'Ada', 'aside', 1, 'later', '', 1, now())""")
            )
        command.upgrade(migrations(self.url), "head")
        with Session(self.engine) as db:
            record = cars.record_of(db, db.get_one(CarRow, 1))
            found, revision, reading = record.car, record.revisions[0], record.readings[0]
            self.assertEqual(revision.setup["bar"], ["bar front", None])
            self.assertEqual(found.fitted(revision.setup, "bar", "front").arms, (0.2, 0.22))  # type: ignore[union-attr]
            self.assertEqual(found.springs_for("front")[0].rate, 5e4)
            self.assertEqual(reading.values["fuel_mass"], [20.5])
            self.assertEqual([one.why for one in slips.parked_of(db, 1, 1)], ["later"])
            with self.assertRaises(DBAPIError):  # and the record is closed again
                db.execute(text("UPDATE revision SET booked_by = 'Nobody'"))


class Constraints(DatabaseTestCase):
    def refuses(self, words: str, sql: str) -> None:
        with (
            self.subTest(sql),
            self.assertRaisesRegex(DBAPIError, words),
            self.engine.begin() as connection,
        ):
            connection.execute(text(sql))

    def test_a_revision_is_never_changed(self) -> None:
        self.refuses("never changed", "UPDATE revision SET booked_by = 'Nobody'")
        self.refuses("never changed", "DELETE FROM revision WHERE number = 1")

    def test_named_checks(self) -> None:
        self.refuses(
            "withdrawn_with_reason", "UPDATE reading SET withdrawn_at = now(), withdrawn_why = NULL"
        )
        self.refuses(
            "booked_as_if_booked", "UPDATE slip SET state = 'draft' WHERE state = 'booked'"
        )
        self.refuses("confidence_one_to_five", "UPDATE run SET confidence = 6")
        self.refuses("role_known", "UPDATE person SET role = 'chief'")

    def test_a_revision_number_is_given_once(self) -> None:
        with self.assertRaises(IntegrityError), Session(self.engine) as db, db.begin():
            car = db.get_one(CarRow, 1)
            cars.add_revision(db, car, 1, {}, "Ada", car.added_at)


class Scope(DatabaseTestCase):
    def test_another_team_finds_no_car(self) -> None:
        with Session(self.engine) as db:
            self.assertIsNotNone(cars.find_car(db, 1, 1))
            self.assertIsNone(cars.find_car(db, 2, 1))
            self.assertEqual(list(cars.cars_of(db, 2)), [])


if __name__ == "__main__":
    unittest.main()


class Stamp(DatabaseTestCase):
    def stamp(self, sql: str = "") -> object:
        """The stamp of the first car after a statement."""
        with self.engine.begin() as connection:
            if sql:
                connection.execute(text(sql))
            return connection.execute(text("SELECT stamp FROM car WHERE id = 1")).scalar_one()

    def test_every_write_to_the_record_gives_a_new_one(self) -> None:
        seen = {self.stamp()}
        for sql in (
            "UPDATE car SET document = document WHERE id = 1",
            "UPDATE reading SET withdrawn_at = now(), withdrawn_by = 'Ada', withdrawn_why = 'slip' "
            "WHERE id = (SELECT min(id) FROM reading WHERE car_id = 1)",
            "DELETE FROM reading WHERE id = (SELECT max(id) FROM reading WHERE car_id = 1)",
            "INSERT INTO revision (car_id, number, setup, content_hash, booked_by, booked_at) "
            "VALUES (1, 99, '{}', 'x', 'Ada', now())",
            "UPDATE slip SET booked_as = 99 WHERE id = "
            "(SELECT max(id) FROM slip WHERE car_id = 1 AND state = 'booked')",
        ):
            with self.subTest(sql):
                now = self.stamp(sql)
                self.assertNotIn(now, seen)
                seen.add(now)

    def test_a_draft_and_another_car_leave_it(self) -> None:
        before = self.stamp()
        self.assertEqual(self.stamp("UPDATE car SET document = document WHERE id = 2"), before)
        self.assertEqual(
            self.stamp("UPDATE slip SET why = 'x' WHERE state = 'draft' AND car_id = 1"), before
        )

    def test_a_write_taken_back_leaves_the_record_as_it_was(self) -> None:
        with Session(self.engine) as db:
            before = cars.record_of(db, db.get_one(CarRow, 1))
        with Session(self.engine) as db:
            row = db.get_one(CarRow, 1)
            cars.save_car(row, before.car.with_given("wheelbase", Given((9.9,))))
            db.flush()
            db.refresh(row, ["stamp", "document"])
            self.assertEqual(cars.record_of(db, row).car.given["wheelbase"].values, (9.9,))
            db.rollback()
        with Session(self.engine) as db:
            self.assertEqual(cars.record_of(db, db.get_one(CarRow, 1)).car, before.car)


class Connections(DatabaseTestCase):
    demo = False

    def test_the_limits_hold_with_and_without_a_pool_between(self) -> None:
        for pooled in (False, True):
            engine = open_engine(self.url, pooled=pooled)
            self.addCleanup(engine.dispose)
            with self.subTest(pooled=pooled), engine.begin() as connection:
                told = {name: connection.scalar(text(f"SHOW {name}")) for name in LIMITS}
                self.assertEqual(
                    told,
                    {
                        "statement_timeout": "30s",
                        "lock_timeout": "10s",
                        "idle_in_transaction_session_timeout": "2min",
                    },
                )

    def test_through_a_pool_nothing_stays_on_a_connection(self) -> None:
        engine = open_engine(self.url, pooled=True)
        self.addCleanup(engine.dispose)
        with engine.connect() as connection:
            for _ in range(12):
                connection.execute(text("SELECT :n"), {"n": 1})
            left = "SELECT count(*) FROM pg_prepared_statements"
            self.assertEqual(connection.scalar(text(left)), 0)
            connection.rollback()
            driver = connection.connection.driver_connection
            assert driver is not None
            driver.rollback()
            self.assertEqual(driver.execute("SHOW lock_timeout").fetchone(), ("0",))

    def test_an_address_that_cannot_be_read_is_said_with_what_would_do(self) -> None:
        for address in ("postgresql://a:b@one:1,two:2/db", "nonsense"):
            done = CliRunner().invoke(main, ["migrate"], env={"CABRIO_DATABASE": address})
            self.assertEqual(done.exit_code, 1)
            self.assertIn("several hosts as postgresql://name:word@/database?host=", done.output)
