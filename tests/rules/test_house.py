"""Rules of the house, held by a test rather than by memory."""

import ast
import re
import unittest
from graphlib import TopologicalSorter
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
SOURCE = ROOT / "src" / "cabrio"
MAY_IMPORT = {
    "core": {"core"},
    "cases": {"cases", "core"},
    "storage": {"storage", "core"},
    "files": {"files", "core"},
    "operations": {"operations", "storage", "files", "core", "instruments"},
    "api": {"api", "operations", "storage", "files", "core"},
    "instruments": {"instruments"},
    "demo": {"demo", "operations", "storage", "core"},
}
CORE_HOUSES = (
    ("errors", "constants", "arrays"),
    ("checks",),
    ("kinematics",),
    ("catalog",),
    ("graph",),
    ("geometry", "knowledge", "statics"),
    ("figures",),
    ("car", "solve"),
    ("record", "under_load"),
    ("sheet",),
    ("advise", "questions", "simulate"),
    ("charts",),
)
"""From the inside out: each may import those before it, and none beside it."""
BROWSER_HOUSES = (
    "lib",
    "ui",
    "bench",
    "drawings",
    "panels",
    ("stations", "garage", "car", "logbook", "compare", "advise", "walk", "team"),
    "shell",
)
CORE_OUTSIDE = {"numpy", "scipy", "pint"}
STORAGE_FROM_CORE = {"car", "sheet", "record"}
MAX_LINES = 500


def imports(path: Path) -> set[str]:
    """Absolute names of the modules a file imports, relative ones resolved."""
    package = path.relative_to(SOURCE.parent).with_suffix("").parts[:-1]
    found = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            found |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom):
            base = package[: len(package) - node.level + 1] if node.level else ()
            found.add(".".join([*base, *([node.module] if node.module else [])]))
    return found


class House(unittest.TestCase):
    def test_imports_run_one_way(self) -> None:
        read = 0
        for layer, allowed in MAY_IMPORT.items():
            for path in (SOURCE / layer).rglob("*.py"):
                for name in imports(path):
                    parts = name.split(".")
                    if parts[0] == "cabrio" and len(parts) > 1:
                        with self.subTest(f"{path.name} imports {name}"):
                            self.assertIn(parts[1], allowed)
                    read += 1
        self.assertGreater(read, 200)

    def test_the_core_s_houses_import_inwards_only(self) -> None:
        floor = {house: i for i, group in enumerate(CORE_HOUSES) for house in group}
        read = 0
        for path in (SOURCE / "core").rglob("*.py"):
            house = path.relative_to(SOURCE / "core").with_suffix("").parts[0]
            if house == "__init__":
                continue  # its face, which enters the formulas
            for name in imports(path):
                parts = name.split(".")
                if parts[:2] == ["cabrio", "core"] and len(parts) > 2 and parts[2] != house:
                    read += 1
                    with self.subTest(f"{house}/{path.name} imports {name}"):
                        self.assertLess(floor[parts[2]], floor[house])
        self.assertGreater(read, 400)

    def test_the_core_imports_at_the_head_of_a_module_and_in_no_circle(self) -> None:
        needs: dict[str, set[str]] = {}
        for path in (SOURCE / "core").rglob("*.py"):
            tree = ast.parse(path.read_text())
            inside = [
                node for node in ast.walk(tree) if isinstance(node, ast.Import | ast.ImportFrom)
            ]
            self.assertEqual([node for node in inside if node not in tree.body], [], path)
            self.assertNotIn("import_module", path.read_text(), path)
            if path.name != "__init__.py":  # a face hands on what stands in it
                me = ".".join(path.relative_to(SOURCE.parent).with_suffix("").parts)
                needs[me] = imports(path)
        TopologicalSorter(needs).prepare()  # raises CycleError

    def test_the_core_needs_only_numbers(self) -> None:
        import sys

        for path in (SOURCE / "core").rglob("*.py"):
            for name in imports(path):
                top = name.split(".")[0]
                self.assertTrue(
                    top in CORE_OUTSIDE | {"cabrio", ""} or top in sys.stdlib_module_names,
                    f"{path.name} imports {name}",
                )
                self.assertNotIn(top, {"time", "datetime"}, "the core knows no clock")

    def test_storage_takes_only_documents_from_core(self) -> None:
        for path in (SOURCE / "storage").glob("*.py"):
            for name in imports(path):
                if name.startswith("cabrio.core"):
                    self.assertIn(name.split(".")[2], STORAGE_FROM_CORE, path.name)

    def test_presentation_asks_the_database_for_nothing(self) -> None:
        for name in ("present.py", "log_view.py"):
            needed = imports(SOURCE / "api" / name)
            self.assertFalse({one for one in needed if one.startswith("sqlalchemy")}, name)
            storage = {one for one in needed if one.startswith("cabrio.storage")}
            self.assertLessEqual(
                storage, {"cabrio.storage.documents", "cabrio.storage.models"}, name
            )

    def test_the_browser_s_houses_import_one_way(self) -> None:
        """lib ← ui ← bench ← drawings ← panels ← the pages ← shell, which alone knows them all."""
        rank = {
            name: i
            for i, group in enumerate(BROWSER_HOUSES)
            for name in ((group,) if isinstance(group, str) else group)
        }
        web = ROOT / "web" / "src"
        read = 0
        for path in web.rglob("*.ts*"):
            house = path.relative_to(web).parts[0]
            if house not in rank:
                continue  # main.tsx starts it all; styles are no code
            for spec in re.findall(r"""(?:from|import\()\s*'(\.[^']+)'""", path.read_text()):
                target = (path.parent / spec).resolve()
                if not target.is_relative_to(web.resolve()):
                    self.assertIn(".test.", path.name)  # vectors that both sides run
                    continue
                other = target.relative_to(web.resolve()).parts[0]
                if other == "styles":
                    continue
                read += 1
                with self.subTest(f"{path.name} imports {spec}"):
                    below = rank[other] < rank[house]
                    self.assertTrue(other == house or below, f"{house} may not import {other}")
        self.assertGreater(read, 150)

    def test_no_file_grows_beyond_reading(self) -> None:
        for pattern in ("src/**/*.py", "tests/**/*.py", "launcher/*.py", "web/src/**/*.ts*"):
            for path in ROOT.glob(pattern):
                if path.name != "schema.d.ts":
                    lines = len(path.read_text().splitlines())
                    self.assertLessEqual(lines, MAX_LINES, f"{path.name} has {lines} lines")

    def test_every_module_says_what_belongs_in_it(self) -> None:
        for path in SOURCE.rglob("*.py"):
            self.assertIsNotNone(ast.get_docstring(ast.parse(path.read_text())), path)

    def test_nothing_outside_is_needed_at_run_time(self) -> None:
        known = re.compile(r"https?://(www\.w3\.org|127\.0\.0\.1|json-schema\.org)")
        for path in [
            *(ROOT / "web" / "src").rglob("*.*"),
            *SOURCE.rglob("*.py"),
            ROOT / "web/index.html",
        ]:
            for address in re.findall(r"https?://[^\s\"'`)]+", path.read_text()):
                self.assertRegex(address, known, path.name)

    def test_only_one_place_fetches(self) -> None:
        for path in (ROOT / "web" / "src").rglob("*.ts*"):
            if path.name not in ("client.ts", "schema.d.ts"):
                self.assertNotRegex(path.read_text(), r"\bfetch\(|createClient", path.name)

    def test_colours_and_room_come_from_the_tokens(self) -> None:
        room = re.compile(r"\b(?:margin|padding|gap)[a-z-]*: ([^;]+);")
        for path in sorted((ROOT / "web" / "src" / "styles").glob("_*.scss")):
            if path.name == "_tokens.scss":
                continue
            text = path.read_text("utf-8")
            strange = re.findall(r"#[0-9a-fA-F]{3,8}\b(?= ?!?[;\s])|\brgba?\([^)]*\)", text)
            self.assertLessEqual(set(strange), {"#fff"}, path.name)  # paper is white
            own = [one for one in room.findall(text) if re.search(r"\d(?:rem|[2-9]px|\dpx)", one)]
            self.assertEqual(own, [], path.name)

    def test_every_test_is_run(self) -> None:
        for path in (ROOT / "tests").rglob("test_*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                if not isinstance(node, ast.ClassDef) or node.name.endswith("TestCase"):
                    continue  # a base for others
                if any("Case" in ast.unparse(base) for base in node.bases):
                    names = [f.name for f in node.body if isinstance(f, ast.FunctionDef)]
                    self.assertTrue(
                        any(n.startswith("test_") for n in names), f"{path.name} {node.name}"
                    )


if __name__ == "__main__":
    unittest.main()
