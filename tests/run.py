"""Runs every check and counts them: lint and types first, then the four layers of tests.

`python -m tests.run [folder …]` runs only those folders of tests.
"""

from __future__ import annotations

import subprocess
import sys
import time
import unittest
from concurrent.futures import Future, ThreadPoolExecutor
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
BIN = Path(sys.executable).parent
LAYERS = ("rules", "launcher", "core", "files", "storage", "operations", "api", "browser")
CHECKS: dict[str, tuple[list[str], Path]] = {
    "ruff check": ([str(BIN / "ruff"), "check", "cabrio", "launcher", "src", "tests"], ROOT),
    "ruff format": (
        [str(BIN / "ruff"), "format", "--check", "cabrio", "launcher", "src", "tests"],
        ROOT,
    ),
    "mypy": ([str(BIN / "mypy")], ROOT),
    "typescript": (["npm", "run", "-s", "types"], ROOT / "web"),
    "eslint and prettier": (["npm", "run", "-s", "lint"], ROOT / "web"),
    "web logic": (["npm", "run", "-s", "test"], ROOT / "web"),
    "generated types": (["npm", "run", "-s", "schema:check"], ROOT / "web"),
}


def check(name: str) -> tuple[str, int, str, float]:
    command, folder = CHECKS[name]
    start = time.monotonic()
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True)
    return name, done.returncode, done.stdout + done.stderr, time.monotonic() - start


def main(layers: list[str]) -> int:
    passed = failed = skipped = 0
    pool = ThreadPoolExecutor(1)  # beside the first layers of tests, on the second core
    running: list[Future[tuple[str, int, str, float]]] = []
    if not layers:
        running = [pool.submit(check, name) for name in CHECKS]
    for layer in layers or LAYERS:
        print(f"\n== {layer}", flush=True)
        suite = unittest.defaultTestLoader.discover(
            str(ROOT / "tests" / layer), top_level_dir=str(ROOT)
        )
        result = unittest.TextTestRunner(sys.stdout, verbosity=1, warnings="error").run(suite)
        bad = len(
            {str(getattr(test, "test_case", test)) for test, _ in result.failures + result.errors}
        )
        if result.testsRun == 0:
            print(f"no test was found in {layer}")
            bad += 1
        failed += bad
        skipped += len(result.skipped)
        passed += max(0, result.testsRun - bad - len(result.skipped))
    for future in running:
        name, code, said, took = future.result()
        print(f"== {name}: {'holds' if code == 0 else 'fails'} ({took:.0f} s)")
        if code:
            print(said)
            failed += 1
        else:
            passed += 1
    print()
    print(f"{passed} passed, {failed} failed" + (f", {skipped} skipped" if skipped else ""))
    return 1 if failed or not passed else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
