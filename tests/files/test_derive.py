"""The core as a command, and the published schema."""

import json
import tempfile
import unittest
from pathlib import Path

import jsonschema
from click.testing import CliRunner
from sqlalchemy.orm import Session

from cabrio.commands import main
from cabrio.files.car_file import schema, write
from cabrio.operations.actor import Actor
from cabrio.operations.car_files import export
from tests.support.database import DatabaseTestCase


class Derive(DatabaseTestCase):
    def file(self, car: int) -> str:
        with Session(self.engine) as db:
            return write(export(db, Actor(1, 1, "Ines", "engineer"), car))

    def derive(self, text: str) -> tuple[int, str, str]:
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "car.json"
            path.write_text(text, "utf-8")
            done = CliRunner().invoke(main, ["derive", str(path)])
        return done.exit_code, done.stdout, done.stderr

    def test_every_figure_is_worked_or_says_why_not(self) -> None:
        code, out, _ = self.derive(self.file(3))
        self.assertEqual(code, 0)
        figures = json.loads(out)["figures"]
        for name, figure in figures.items():
            self.assertTrue({"values", "missing", "refused"} & set(figure), name)
        self.assertEqual(figures["bind_margin"]["missing"], ["bump travel"])
        self.assertEqual(figures["sprung_mass"]["estimated_from"], ["unsprung_mass"])
        self.assertEqual(figures["rear_bite"]["values"], {"car": 5.0})

    def test_a_broken_file_is_a_plain_sentence(self) -> None:
        code, out, err = self.derive(self.file(1)[:500])
        self.assertEqual((code, out), (1, ""))
        self.assertIn("may have been cut short", err)
        nowhere = CliRunner().invoke(main, ["derive", "/nowhere.json"])
        self.assertEqual(nowhere.exit_code, 1)
        self.assertIn("Cannot read", nowhere.stderr)

    def test_exports_follow_the_published_schema(self) -> None:
        for car in (1, 2, 3):
            jsonschema.validate(json.loads(self.file(car)), schema())
        with self.assertRaises(jsonschema.ValidationError):
            jsonschema.validate(json.loads(self.file(1)) | {"revisions": []}, schema())


if __name__ == "__main__":
    unittest.main()
