"""Runs every check and counts them: lint, types and the layers of tests, spread over the cores.

`python -m tests.run [name …]` runs only those layers of tests, or a module, a class or a test by its dotted name:
`tests.core.test_statics.Kept`. With `--random` properties are tried on other examples than the fixed ones. A class of tests is the smallest share of
work: each has a database of its own. The browser's take longest and so come first.
"""

from __future__ import annotations

import contextlib
import io
import multiprocessing
import os
import subprocess
import sys
import time
import unittest
from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor, as_completed
from dataclasses import dataclass
from pathlib import Path

from tests import RANDOM

ROOT = Path(__file__).resolve().parents[1]
BIN = Path(sys.executable).parent
LAYERS = ("browser", "api", "core", "operations", "storage", "files", "rules", "launcher")
CHECKS: dict[str, tuple[list[str], Path]] = {
    "ruff check": ([str(BIN / "ruff"), "check", "cabrio", "launcher", "src", "tests"], ROOT),
    "ruff format": (
        [str(BIN / "ruff"), "format", "--check", "cabrio", "launcher", "src", "tests"],
        ROOT,
    ),
    "mypy": ([str(BIN / "mypy")], ROOT),
    "vulture": ([str(BIN / "vulture")], ROOT),
    "typescript": (["npm", "run", "-s", "types"], ROOT / "web"),
    "eslint and prettier": (["npm", "run", "-s", "lint"], ROOT / "web"),
    "knip": (["npm", "run", "-s", "unused"], ROOT / "web"),
    "web logic": (["npm", "run", "-s", "test"], ROOT / "web"),
    "generated types": (["npm", "run", "-s", "schema:check"], ROOT / "web"),
}


@dataclass(frozen=True, slots=True)
class Result:
    """What one check or one class of tests came to, and what it said where it failed."""

    name: str
    passed: int
    failed: int
    skipped: int
    said: str
    took: float

    def __str__(self) -> str:
        counted = f"{self.failed} failed" if self.failed else f"{self.passed} passed"
        skipped = f", {self.skipped} skipped" if self.skipped else ""
        return f"{self.name}: {counted}{skipped} ({self.took:.0f} s)"


def check(name: str) -> Result:
    command, folder = CHECKS[name]
    start = time.monotonic()
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True)
    bad = int(done.returncode != 0)
    said = done.stdout + done.stderr if bad else ""
    return Result(name, 1 - bad, bad, 0, said, time.monotonic() - start)


def run_class(name: str) -> Result:
    """The tests of one class, `tests.layer.module.Class`; of a module, or a single one, where it is asked for."""
    start = time.monotonic()
    suite = unittest.defaultTestLoader.loadTestsFromName(name)
    said, printed = io.StringIO(), io.StringIO()
    # what the app prints of errors that tests provoke is told only where a test fails
    with contextlib.redirect_stdout(printed), contextlib.redirect_stderr(printed):
        result = unittest.TextTestRunner(said, verbosity=1, warnings="error").run(suite)
    bad = len(
        {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
    )
    skipped = len(result.skipped)
    passed = max(0, result.testsRun - bad - skipped)
    if not result.testsRun and not bad and not skipped:
        bad = 1
        said.write(f"no test was found in {name}\n")
    told = said.getvalue() + _end_of(printed.getvalue()) if bad else ""
    return Result(name.removeprefix("tests."), passed, bad, skipped, told, time.monotonic() - start)


def _end_of(printed: str, most: int = 60) -> str:
    """The last lines that were printed meanwhile."""
    lines = printed.splitlines()
    left_out = [f"… {len(lines) - most} lines before"] if len(lines) > most else []
    return "\n".join(["printed meanwhile:", *left_out, *lines[-most:], ""]) if lines else ""


def classes(layer: str) -> list[str]:
    """Names of a layer's test classes; those with the most tests first. Errors: a module that does not
    load is named as a class that fails."""

    def cases(suite: unittest.TestSuite) -> Iterator[unittest.TestCase]:
        for item in suite:
            if isinstance(item, unittest.TestSuite):
                yield from cases(item)
            else:
                yield item

    found: dict[str, int] = {}
    folder = str(ROOT / "tests" / layer)
    for case in cases(unittest.defaultTestLoader.discover(folder, top_level_dir=str(ROOT))):
        name = f"{type(case).__module__}.{type(case).__qualname__}"
        if type(case).__module__ == "unittest.loader":
            name = case.id().removeprefix("unittest.loader._FailedTest.")
        found[name] = found.get(name, 0) + 1
    return sorted(found, key=lambda name: -found[name])


def main(arguments: list[str]) -> int:
    if "--random" in arguments:
        os.environ[RANDOM] = "yes"  # the processes of the pool read it
    names = [name for name in arguments if name != "--random"]
    passed = failed = skipped = 0
    shares = {name: [name] if "." in name else classes(name) for name in names or LAYERS}
    for layer, found in shares.items():
        if not found:
            print(f"no test was found in {layer}")
            failed += 1
    own = multiprocessing.get_context("spawn")  # no lock or connection of this process comes along
    with ProcessPoolExecutor(os.cpu_count() or 1, mp_context=own) as pool:
        running = [pool.submit(run_class, name) for found in shares.values() for name in found]
        if not names:
            running += [pool.submit(check, name) for name in CHECKS]
        for future in as_completed(running):
            result = future.result()
            print(result, flush=True)
            if result.said:
                print(result.said, flush=True)
            passed += result.passed
            failed += result.failed
            skipped += result.skipped
    print()
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 1 if failed or not passed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
