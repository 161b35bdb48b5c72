"""Showing what is being done, running commands, and failing with what to do about it."""

from __future__ import annotations

import hashlib
import os
import re
import subprocess
import tempfile
import time
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
DATA = Path(os.environ.get("CABRIO_DATA") or ROOT / ".data")
"""What this machine keeps: the database, backups, the access log, secrets."""
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"
STILL_WORKING = 10.0
"""How long a step may be silent before it says that it still works [s]."""
WARNING = re.compile(r"\s*(npm )?warn(ing)?\b", re.IGNORECASE)
ERROR = re.compile(r"\s*(npm )?(err(or)?\b|fatal\b|e:)", re.IGNORECASE)


class Failure(Exception):
    """A stage that could not be done: what failed, and what to do."""


@contextmanager
def stage(name: str) -> Iterator[None]:
    """Print a stage and its time, so that long work never looks dead."""
    print(f"  {name} …", flush=True)
    start = time.monotonic()
    yield
    took = time.monotonic() - start
    if took >= 1:
        print(f"  {name}: done in {took:.0f} s", flush=True)


def run(
    command: list[str | Path],
    what: str,
    advice: str = "",
    *,
    cwd: Path | str = ROOT,
    env: Mapping[str, str] | None = None,
) -> None:
    """Run a command, saying now and then that it still works; on failure show its errors, and the advice."""
    words = [str(word) for word in command]
    start = time.monotonic()
    with tempfile.TemporaryFile("w+", errors="replace") as said:
        running = subprocess.Popen(
            words,
            cwd=cwd,
            env=os.environ | dict(env or {}),
            stdout=said,
            stderr=subprocess.STDOUT,
            stdin=subprocess.DEVNULL,
        )
        try:
            while True:
                try:
                    code = running.wait(STILL_WORKING)
                    break
                except subprocess.TimeoutExpired:
                    print(f"    {what}: {time.monotonic() - start:.0f} s so far", flush=True)
        finally:
            if running.poll() is None:
                running.kill()
        if code:
            said.seek(0)
            raise Failure(f"{what} failed:\n{errors_of(said.read())}\n{advice}".strip())


def errors_of(text: str) -> str:
    """The end of what a command said, without its warnings: from its first error on, where it names one."""
    lines = [line for line in text.strip().splitlines() if not WARNING.match(line)]
    first = next((i for i, line in enumerate(lines) if ERROR.match(line)), 0)
    return "\n".join(lines[first:][-25:])


def fingerprint(paths: Iterable[Path]) -> str:
    """A hash of files' names and contents, folders walked; what a stamp compares."""
    digest = hashlib.sha256()
    for path in paths:
        files = sorted(p for p in path.rglob("*") if p.is_file()) if path.is_dir() else [path]
        for file in files:
            digest.update(str(file.relative_to(ROOT)).encode())
            digest.update(file.read_bytes())
    return digest.hexdigest()


def stamped(stamp: Path, now: str) -> bool:
    return stamp.is_file() and stamp.read_text() == now


def write_stamp(stamp: Path, now: str) -> None:
    stamp.parent.mkdir(parents=True, exist_ok=True)
    stamp.write_text(now)
