"""What is changed beneath the app is found out: rows, owner columns of entries, the end of what was done, pictures."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager

from sqlalchemy import text
from sqlalchemy.orm import Session

from cabrio.operations.upkeep import look_through
from cabrio.storage.models import Base
from tests.support.client import INES, OKE, ApiTestCase, pads

from .test_pictures import photo, sent

NEWEST = "SELECT max(id) FROM audit"
OF_READING = "entry ->> 'what' = 'reading'"


class BeneathTheApp(ApiTestCase):
    @contextmanager
    def beneath(self) -> Iterator[Session]:
        """What only a database's owner can do: every guard laid aside; undone after it."""
        with Session(self.engine) as db:
            for table in Base.metadata.sorted_tables:
                db.execute(text(f"ALTER TABLE {table.name} DISABLE TRIGGER ALL"))
            yield db
            db.rollback()

    def found(self, *written: str) -> str:
        with self.beneath() as db:
            for one in written:
                self.assertGreater(db.execute(text(one)).rowcount, 0, one)  # type: ignore[attr-defined]
            return " ".join(look_through(db).wrong)

    def test_each_is_told(self) -> None:
        ines, oke = self.person(INES), self.person(OKE)
        oke.ok("POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))
        oke.ok("POST", "/api/cars/1/runs/1/pictures", sent(photo(3)))
        ines.ok("POST", "/api/cars/1/watched", {"kind": "issue", "words": "a rattle"})
        with Session(self.engine) as db:
            self.assertEqual(look_through(db).wrong, ())
        last = "(SELECT max(id) FROM {})"
        for written, said in (
            ("UPDATE reading SET note = 'forged' WHERE id = " + last.format("reading"), "Reading"),
            ("UPDATE run SET best_time = 1.0 WHERE id = 1", "Run 1: it is not what"),
            ("UPDATE person SET owner = NOT owner WHERE id = 3", "Person 3"),
            ("UPDATE session SET name = 'x' WHERE id = 1", "Session 1"),
            ("UPDATE watched SET words = 'x' WHERE id = " + last.format("watched"), "Watched"),
            ("DELETE FROM reading WHERE id = " + last.format("reading"), "it is gone"),
            ("UPDATE picture SET data = 'x' WHERE id = " + last.format("picture"), "its bytes"),
            (f"UPDATE audit SET car_id = 2 WHERE id = ({NEWEST} WHERE car_id = 1)", "another car"),
            (f"DELETE FROM audit WHERE id >= ({NEWEST} WHERE {OF_READING})", "cut off"),
        ):
            with self.subTest(said):
                self.assertIn(said, self.found(written))
        with Session(self.engine) as db:
            self.assertEqual(look_through(db).wrong, ())
