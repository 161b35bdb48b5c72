"""The core as a command, and the published schema."""

import contextlib
import io
import json
import tempfile
import unittest
from pathlib import Path

import jsonschema
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
            out, err = io.StringIO(), io.StringIO()
            with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
                code = main(["derive", str(path)])
        return code, out.getvalue(), err.getvalue()

    def test_every_figure_is_worked_or_says_why_not(self) -> None:
        code, out, _ = self.derive(self.file(3))
        self.assertEqual(code, 0)
        figures = json.loads(out)["figures"]
        for name, figure in figures.items():
            self.assertTrue({"values", "missing", "refused"} & set(figure), name)
        self.assertEqual(figures["bind_margin"]["missing"], ["bump travel"])
        self.assertEqual(figures["sprung_mass"]["estimated_from"], ["unsprung_mass"])
        self.assertEqual(figures["rear_bite"]["values"], {"car": 5.5})

    def test_a_broken_file_is_a_plain_sentence(self) -> None:
        code, out, err = self.derive(self.file(1)[:500])
        self.assertEqual((code, out), (1, ""))
        self.assertIn("may have been cut short", err)
        with contextlib.redirect_stderr(io.StringIO()) as err2:
            self.assertEqual(main(["derive", "/nowhere.json"]), 1)
        self.assertIn("Cannot read", err2.getvalue())

    def test_exports_follow_the_published_schema(self) -> None:
        for car in (1, 2, 3):
            jsonschema.validate(json.loads(self.file(car)), schema())
        with self.assertRaises(jsonschema.ValidationError):
            jsonschema.validate(json.loads(self.file(1)) | {"revisions": []}, schema())


if __name__ == "__main__":
    unittest.main()
