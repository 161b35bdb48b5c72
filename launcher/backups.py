"""Backups of the database: written while the app serves, restored beside it, looked through, then swapped in."""

from __future__ import annotations

import os
import subprocess
import sys
import time
from collections.abc import Iterator
from contextlib import contextmanager, suppress
from hashlib import sha256
from pathlib import Path

from .postgres import ROLE, Server
from .stages import DATA, PYTHON, ROOT, Failure, run

KEPT = 14
"""Backups that the app writes by itself, and databases put aside by a restore, that are kept."""
PUT_ASIDE = 3
EVERY = 24 * 3600.0
"""How often the app writes one by itself while it serves [s]."""
BLOCK = 2**20


def write(server: Server, database: str, target: Path) -> None:
    """Write a backup, readable by its owner alone, with its checksum beside it."""
    part = target.with_name(target.name + ".part")
    with suppress(FileNotFoundError):
        part.unlink()
    os.close(os.open(part, os.O_CREAT | os.O_WRONLY | os.O_EXCL, 0o600))
    run(
        [server.program("pg_dump"), "-Fc", "-d", database, "-f", part],
        "The backup",
        env=server.environment(),
    )
    with part.open("rb") as written:
        os.fsync(written.fileno())
    beside(target).write_text(f"{digest(part)}  {target.name}\n")
    part.replace(target)  # a broken run never leaves half a backup under the real name


def beside(target: Path) -> Path:
    """Where a backup's checksum is."""
    return target.with_name(target.name + ".sha256")


def digest(file: Path) -> str:
    found = sha256()
    with file.open("rb") as read:
        while block := read.read(BLOCK):
            found.update(block)
    return found.hexdigest()


def scheduled_backup(server: Server, database: str) -> Path | None:
    """A backup of a database that holds something, under the time of day; the oldest go. None if empty."""
    if "1" not in server.psql("SELECT 1 FROM pg_tables WHERE tablename = 'car'", database):
        return None
    folder = DATA / "backups"
    folder.mkdir(mode=0o700, exist_ok=True)
    target = folder / f"{database}-{time.strftime('%Y%m%d-%H%M%S')}.dump"
    write(server, database, target)
    for old in sorted(folder.glob(f"{database}-*.dump"))[:-KEPT]:
        old.unlink()
        beside(old).unlink(missing_ok=True)
    return target


def restore(server: Server, database: str, source: Path, *, sure: bool) -> str:
    """Put a backup in the place of a database: under another name first, looked through, then swapped.

    Answers with the name that the old data is kept under, empty where there was none. Raises Failure and
    leaves the old data as it was where anything is not right.
    """
    _whole(source)
    run(
        [server.program("pg_restore"), "-l", source],
        "Reading the backup",
        "Is it a file that “./cabrio backup” wrote?",
    )
    there = "1" in server.psql(f"SELECT 1 FROM pg_database WHERE datname = '{database}'")
    if there and not sure:
        _ask(database)
    with _made(server, "cabrio_restoring") as made:
        run(
            [
                server.program("pg_restore"),
                "--no-owner",
                "--no-privileges",
                "--exit-on-error",
                "-d",
                made,
                source,
            ],
            "The restore",
            env=server.environment(),
        )
        told = _looked_through(server, made)
        aside = f"{database}_before_{time.strftime('%Y%m%d_%H%M%S')}" if there else ""
        _without_others(server, made)
        if aside:
            _without_others(server, database)
            server.psql(f'ALTER DATABASE "{database}" RENAME TO "{aside}"')
        server.psql(f'ALTER DATABASE "{made}" RENAME TO "{database}"')
    print(told)
    _let_go(server, database)
    return aside


def _whole(source: Path) -> None:
    """Refuse a backup that is not as it was written."""
    if not source.is_file():
        raise Failure(f"There is no file {source}.")
    told = beside(source)
    if not told.exists():
        print("  No checksum is beside this backup: it is looked through all the same.")
    elif told.read_text().split()[:1] != [digest(source)]:
        raise Failure(
            f"{source.name} is not as it was written: its checksum differs. Nothing was changed; "
            "take another copy of it."
        )


def _ask(database: str) -> None:
    if not sys.stdin.isatty():
        raise Failure(
            f"This puts the backup in the place of the data in “{database}”. Say --yes to mean it."
        )
    print(f"This puts the backup in the place of the data in “{database}”, which is kept aside.")
    if input("Type yes to go on: ").strip().lower() != "yes":
        raise Failure("Nothing was changed.")


@contextmanager
def _made(server: Server, name: str) -> Iterator[str]:
    """A new database, dropped again where it was not swapped in."""
    server.psql(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')
    server.psql(f'CREATE DATABASE "{name}"')
    try:
        yield name
    finally:
        server.psql(f'DROP DATABASE IF EXISTS "{name}" WITH (FORCE)')


def _looked_through(server: Server, database: str) -> str:
    """What the app says of a database once it is at its own schema. Raises Failure where it is not ours."""
    if "1" not in server.psql(
        "SELECT 1 FROM pg_tables WHERE schemaname = 'public' AND tablename = 'alembic_version'",
        database,
    ):
        raise Failure("That is no backup of this program: it holds none of its data.")
    server.app_url(database)  # the role is there
    done = subprocess.run(
        [PYTHON, "-m", "cabrio", "check", "--migrate", "--grant", ROLE],
        env=os.environ | {"CABRIO_DATABASE": server.url(database)},
        cwd=ROOT,
        capture_output=True,
        text=True,
    )
    if done.returncode:
        said = (done.stderr or done.stdout).strip()
        raise Failure(f"The backup was read, and does not hold together:\n{said}")
    return done.stdout.strip()


def _without_others(server: Server, database: str) -> None:
    server.psql(
        "SELECT pg_terminate_backend(pid) FROM pg_stat_activity "
        f"WHERE datname = '{database}' AND pid <> pg_backend_pid()"
    )


def _let_go(server: Server, database: str) -> None:
    """Drop the oldest of the databases that restores put aside."""
    told = server.psql(
        f"SELECT datname FROM pg_database WHERE datname LIKE '{database}\\_before\\_%' ORDER BY 1"
    )
    for name in told.split()[:-PUT_ASIDE]:
        server.psql(f'DROP DATABASE "{name}"')
