"""Showing what is being done, running commands, and failing with what to do about it."""

from __future__ import annotations

import hashlib
import os
import subprocess
import time
from collections.abc import Iterable, Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
DATA = ROOT / ".data"
VENV = ROOT / ".venv"
PYTHON = VENV / "bin" / "python"


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
    quiet: bool = True,
) -> None:
    """Run a command; on failure show the end of what it said, and the advice."""
    words = [str(word) for word in command]
    full = os.environ | dict(env or {})
    if not quiet:
        if subprocess.run(words, cwd=cwd, env=full).returncode:
            raise Failure(f"{what} failed. {advice}".strip())
        return
    done = subprocess.run(words, cwd=cwd, env=full, stdout=subprocess.PIPE,
                          stderr=subprocess.STDOUT, stdin=subprocess.DEVNULL)  # fmt: skip
    if done.returncode:
        tail = "\n".join(done.stdout.decode(errors="replace").strip().splitlines()[-25:])
        raise Failure(f"{what} failed:\n{tail}\n{advice}".strip())


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
