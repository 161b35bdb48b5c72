"""A restore drill on a real server: what is not whole, not ours or not sound is refused, and nothing is lost."""

from __future__ import annotations

import os
import tempfile
import unittest
from pathlib import Path
from unittest import mock

from launcher.postgres import FAST, Server, folder_for

from cabrio.api.app import Settings, create_app
from cabrio.demo import load_if_empty
from cabrio.storage.database import migrate, open_engine
from launcher import backups, main, stages
from tests.support.client import INES, Person

NAME = "SELECT document->>'name' FROM car WHERE id = 1"


class Drill(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.server = Server(folder_for(f"backup-test-{os.getpid()}"), FAST)
        cls.server.start()
        cls.addClassCleanup(main._remove, cls.server.folder)
        cls.addClassCleanup(cls.server.stop)
        cls.server.ensure_database("cabrio")
        url = cls.server.url("cabrio")
        migrate(url)
        engine = open_engine(url)
        load_if_empty(engine)
        engine.dispose()
        here = tempfile.TemporaryDirectory()
        cls.addClassCleanup(here.cleanup)
        cls.file = Path(here.name) / "cabrio.dump"
        backups.write(cls.server, "cabrio", cls.file)

    def named(self, database: str = "cabrio") -> str:
        return self.server.psql(NAME, database).strip()

    def refused(self, words: str, source: Path) -> None:
        before = self.named()
        with self.assertRaisesRegex(stages.Failure, words):
            backups.restore(self.server, "cabrio", source, sure=True)
        self.assertEqual(self.named(), before)
        self.assertNotIn(
            "cabrio_restoring", self.server.psql("SELECT datname FROM pg_database").split()
        )

    def dumped(self, *sql: str, of: str = "cabrio") -> Path:
        """A backup of a copy that something was done to."""
        self.server.psql('DROP DATABASE IF EXISTS "copy"')
        template = f' TEMPLATE "{of}"' if of else ""
        self.server.psql(f'CREATE DATABASE "copy"{template}')
        for one in sql:
            self.server.psql(one, "copy")
        target = self.file.with_name("copy.dump")
        backups.write(self.server, "copy", target)
        return target

    def test_it_is_for_its_owner_alone_and_has_a_checksum(self) -> None:
        self.assertEqual(self.file.stat().st_mode & 0o077, 0)
        told = backups.beside(self.file).read_text().split()
        self.assertEqual(told, [backups.digest(self.file), "cabrio.dump"])
        self.assertEqual(list(self.file.parent.glob("*.part")), [])

    def test_a_flipped_bit_is_found(self) -> None:
        torn = self.file.with_name("torn.dump")
        whole = bytearray(self.file.read_bytes())
        whole[len(whole) // 2] ^= 1
        torn.write_bytes(whole)
        backups.beside(torn).write_text(backups.beside(self.file).read_text())
        self.refused("its checksum differs", torn)
        torn.write_bytes(b"no backup at all")
        backups.beside(torn).unlink()
        self.refused("Reading the backup failed", torn)
        self.refused("There is no file", torn.with_name("nowhere.dump"))

    def test_another_program_s_data_is_refused(self) -> None:
        self.refused("no backup of this program", self.dumped("CREATE TABLE kept (n int)", of=""))

    def test_a_later_program_s_data_is_refused(self) -> None:
        later = self.dumped("UPDATE alembic_version SET version_num = '9999'")
        self.refused("another version of this program", later)

    def test_what_does_not_hold_together_is_refused(self) -> None:
        rewritten = self.dumped(
            "ALTER TABLE revision DISABLE TRIGGER USER",
            "UPDATE revision SET setup = setup || '{\"camber\": [0, 0, 0, 0]}' "
            "WHERE car_id = 1 AND number = 1",
        )
        self.refused("revision 1: it is not what was booked", rewritten)
        torn = self.dumped('UPDATE car SET document = \'{"name": "Torn"}\' WHERE id = 2')
        self.refused("Car 2 cannot be opened", torn)

    def test_a_sound_one_is_swapped_in_and_the_old_data_is_kept_aside(self) -> None:
        was = self.named()
        change = 'UPDATE car SET document = document || \'{"name": "Later"}\' WHERE id = 1'
        self.server.psql(change, "cabrio")
        with (
            mock.patch("sys.stdin.isatty", return_value=False),
            self.assertRaisesRegex(stages.Failure, "Say --yes"),
        ):
            backups.restore(self.server, "cabrio", self.file, sure=False)
        # the app's connections do not stand in the way, and find the new data
        engine = open_engine(self.server.url("cabrio"))
        self.addCleanup(engine.dispose)
        with engine.connect() as held:
            self.assertEqual(held.exec_driver_sql(NAME).scalar(), "Later")
            aside = backups.restore(self.server, "cabrio", self.file, sure=True)
            held.invalidate()
        with engine.connect() as again:
            self.assertEqual(again.exec_driver_sql(NAME).scalar(), was)
        self.assertEqual(self.named(aside), "Later")

    def test_the_app_goes_on_reading_and_writing_after_a_restore(self) -> None:
        backups.restore(self.server, "cabrio", self.file, sure=True)
        engine = open_engine(self.server.app_url("cabrio"))
        self.addCleanup(engine.dispose)
        app = create_app(Settings(secret="x" * 32, web=Path("web/dist"), demo=True), engine)
        person = Person(app)
        self.assertEqual(person.sign_in(INES).status_code, 200)
        self.assertEqual(person.call("GET", "/api/ready").status_code, 200)
        # a database that lets the app do nothing is not said to be ready
        self.server.psql("REVOKE ALL ON ALL TABLES IN SCHEMA public FROM cabrio_app", "cabrio")
        self.assertEqual(person.call("GET", "/api/ready").status_code, 503)

    def test_the_app_s_own_backups_go_by_age(self) -> None:
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        with (
            mock.patch.object(backups, "DATA", Path(folder.name)),
            mock.patch.object(backups, "KEPT", 2),
        ):
            for at in ("20260101-000001", "20260101-000002", "20260101-000003"):
                with mock.patch("time.strftime", return_value=at):
                    backups.scheduled_backup(self.server, "cabrio")
            kept = sorted(one.name for one in Path(folder.name, "backups").iterdir())
            self.server.ensure_database("empty")
            self.assertIsNone(backups.scheduled_backup(self.server, "empty"))
        self.assertEqual(
            [one for one in kept if one.endswith(".dump")],
            ["cabrio-20260101-000002.dump", "cabrio-20260101-000003.dump"],
        )
        self.assertEqual(len(kept), 4)


if __name__ == "__main__":
    unittest.main()
