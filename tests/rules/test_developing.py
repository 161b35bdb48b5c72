"""docs/developing.md is true as typed: its examples are added to a copy of the package, which then has them."""

import re
import shutil
import subprocess
import sys
import unittest
from pathlib import Path
from tempfile import TemporaryDirectory

ROOT = Path(__file__).resolve().parents[2]
PAGE = ROOT / "docs" / "developing.md"
EXAMPLES = re.compile(r"^```(python|toml)\n(.*?)^```$", re.MULTILINE | re.DOTALL)


class Copy:
    """A copy of the package, its files written to by example."""

    def __init__(self, folder: str) -> None:
        self.core = Path(folder) / "cabrio" / "core"
        shutil.copytree(ROOT / "src" / "cabrio", self.core.parent)

    def add(self, file: str, text: str) -> None:
        path = self.core / file
        path.write_text(f"{path.read_text('utf-8')}\n\n{text}", "utf-8")

    def replace(self, file: str, old: str, new: str) -> None:
        path = self.core / file
        text = path.read_text("utf-8")
        assert old in text, f"{file} has no {old}"
        path.write_text(text.replace(old, new, 1), "utf-8")


def examples() -> list[str]:
    return [text for _, text in EXAMPLES.findall(PAGE.read_text("utf-8"))]


class Examples(unittest.TestCase):
    def test_each_is_there_once_it_is_typed_where_the_page_says(self) -> None:
        figure, given, reading, discipline, station, part, setting = examples()
        with TemporaryDirectory() as folder:
            copy = Copy(folder)
            copy.add("figures/masses.py", figure)
            copy.add("catalog/numbers.toml", f"{given}\n{setting}")
            copy.add("catalog/readings.toml", reading)
            copy.add("catalog/disciplines.toml", discipline)
            copy.add("knowledge/stations.toml", station)
            # a wing on circuit cars, whose row is the first
            copy.replace("catalog/disciplines.toml", '  "heights",', '  "heights", "wing",')
            copy.add("catalog/parts.py", part)
            copy.replace("catalog/part_kinds.py", "import AeroMap,", "import Helper, AeroMap,")
            copy.replace("catalog/part_kinds.py", "    Spring,", "    Spring, Helper,")
            copy.replace(
                "knowledge/stations.toml", 'sets = ["spring"', 'sets = ["helper", "spring"'
            )
            ran = subprocess.run(
                [sys.executable, "-c", LOOK],
                cwd=folder,
                env={"PYTHONPATH": folder},
                capture_output=True,
                text=True,
                check=False,
            )
        self.assertEqual(ran.stdout.split(), ["True"] * 6, ran.stderr)


LOOK = """
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.graph.evaluate import answer
from cabrio.core.graph.registry import numbers
from cabrio.core.knowledge import knowledge

book = knowledge()
found = answer(["rear_left_share"], {"pad_mass": [250.0, 240.0, 230.0, 220.0]})
print(abs(found["rear_left_share"] - 230 / 450) < 1e-12)
print("jacking_point" in numbers())
print(book.readings["wing"].numbers == ("wing_gap", "wing_angle", "wing_height"))
print(book.disciplines["hill"].phase("hairpin").words == "Hairpin")
print(book.stations_by_id["wing"].panel[0].x == "speed")
print([field.id for field in part_kinds()["helper"].fields] == ["rate", "travel", "maker"])
"""


if __name__ == "__main__":
    unittest.main()
