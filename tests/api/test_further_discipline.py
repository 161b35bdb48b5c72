"""A discipline is a row: one more by tables alone, on a copy of the package that is started apart."""

import os
import shutil
import subprocess
import sys
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

import cabrio
from tests.support.database import server_url
from tests.support.hill import tell

ROOT = Path(__file__).parents[2]


class FurtherDiscipline(unittest.TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        server_url()  # without a server this is skipped like every test that needs one

    def test_a_discipline_told_by_tables_alone_runs(self) -> None:
        with TemporaryDirectory() as folder:
            copy = Path(folder) / "cabrio"
            shutil.copytree(Path(cabrio.__file__).parent, copy)
            tell(copy)
            ran = subprocess.run(
                [sys.executable, "-m", "unittest", "tests.support.hill"],
                cwd=ROOT,
                env=os.environ | {"PYTHONPATH": folder},
                capture_output=True,
                text=True,
                check=False,
            )
        self.assertIn("Ran 1 test", ran.stderr)
        self.assertEqual(ran.returncode, 0, ran.stderr)
