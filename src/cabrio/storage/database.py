"""Opening the database, and refusing one whose schema this program does not know."""

from __future__ import annotations

import os
import socket
import threading
import time
from contextlib import suppress
from dataclasses import dataclass
from importlib.resources import files
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.runtime.migration import MigrationContext
from alembic.script import ScriptDirectory
from alembic.util.exc import CommandError
from psycopg.pq import TransactionStatus
from pydantic_core import from_json
from sqlalchemy import Connection, Engine, NullPool, create_engine, event, text


class UnknownSchema(RuntimeError):
    """The database is at a schema this program does not know, or has not been migrated."""


CONNECT, STATEMENT, LOCK, IDLE = 5, 30, 10, 120
"""Seconds to wait for a connection, a statement, a lock, and for a transaction that does nothing."""


MAX_SILENCE_S = STATEMENT + 10
"""Seconds after which a database that says nothing at all is given up: it should have ended by itself before."""
CONNECTIONS = 10
"""Fewer than the server's workers: where the database hangs, some are left to say so."""


@dataclass
class _Line:
    """A connection to the database, when it last began or ended a statement, and since when it has been seen
    to wait without either."""

    driver: Any
    moved: float = 0.0
    waits: tuple[float, float] | None = None


class Watch:
    """Gives up connections on which a database hangs: its own time-outs hang with it."""

    def __init__(self, engine: Engine, most: float = MAX_SILENCE_S, every: float = 2.0) -> None:
        self.lines: dict[int, _Line] = {}
        self.most, self.every, self.stop = most, every, threading.Event()
        event.listen(engine, "connect", self._opened)
        event.listen(engine, "close", self._closed)
        event.listen(engine, "before_cursor_execute", self._moved)
        event.listen(engine, "after_cursor_execute", self._moved)
        threading.Thread(target=self._watch, daemon=True, name="database watch").start()

    def _opened(self, driver: Any, _: Any) -> None:
        self.lines[id(driver)] = _Line(driver)

    def _closed(self, driver: Any, _: Any) -> None:
        self.lines.pop(id(driver), None)

    def _moved(self, connection: Connection, *_: Any) -> None:
        line = self.lines.get(id(connection.connection.driver_connection))
        if line is not None:
            line.moved = time.monotonic()

    def _watch(self) -> None:
        while not self.stop.wait(self.every):
            for line in list(self.lines.values()):
                with suppress(Exception):  # whatever it is, the others are looked at
                    self._look(line)

    def _look(self, line: _Line) -> None:
        now = time.monotonic()
        if line.driver.info.transaction_status != TransactionStatus.ACTIVE:
            line.waits = None
        elif line.waits is None or line.waits[0] != line.moved:
            line.waits = (line.moved, now)
        elif now - line.waits[1] > self.most:
            self._closed(line.driver, None)
            # whoever waits on its socket hears that it is gone
            with socket.socket(fileno=os.dup(line.driver.fileno())) as wire:
                wire.shutdown(socket.SHUT_RDWR)


LIMITS = {
    "statement_timeout": f"{STATEMENT}s",
    "lock_timeout": f"{LOCK}s",
    "idle_in_transaction_session_timeout": f"{IDLE}s",
}


def open_engine(url: str, *, pooled: bool = False) -> Engine:
    """The engine on a PostgreSQL. Nothing it asks waits for ever: see the limits.

    `pooled` says that a pool between shares connections out by transaction: nothing then stays on one from
    one transaction to the next, neither limits nor prepared statements (which make a view quicker by a tenth).
    """
    arguments: dict[str, Any] = {"options": " ".join(f"-c {k}={v}" for k, v in LIMITS.items())}
    engine = create_engine(
        url,
        pool_pre_ping=True,
        pool_size=CONNECTIONS,
        max_overflow=0,
        pool_timeout=CONNECT,
        connect_args={
            "connect_timeout": CONNECT,
            **({"prepare_threshold": None} if pooled else arguments),
        },
        json_deserializer=from_json,
    )
    if pooled:
        event.listen(engine, "begin", _limit)
    return engine


def _limit(connection: Connection) -> None:
    connection.exec_driver_sql("; ".join(f"SET LOCAL {k} = '{v}'" for k, v in LIMITS.items()))


def migrations(url: str) -> Config:
    """What alembic needs to bring the database at an address up or down."""
    config = Config()
    config.set_main_option("script_location", str(files("cabrio.storage") / "migrations"))
    config.set_main_option("sqlalchemy.url", url.replace("%", "%%"))
    return config


MIGRATING = 7220
"""The advisory lock that a migration holds."""


def migrate(url: str) -> None:
    """Bring the database to the newest schema. Raises UnknownSchema where a later program wrote it.

    Of several processes that start at once, one migrates and the others wait for it.
    """
    lock = create_engine(url, poolclass=NullPool, isolation_level="AUTOCOMMIT")
    try:
        with lock.connect() as waiting:  # released with the connection
            waiting.execute(text("SELECT pg_advisory_lock(:key)"), {"key": MIGRATING})
            command.upgrade(migrations(url), "head")
    except CommandError as problem:
        raise UnknownSchema(
            f"The database was written by another version of this program ({problem}). "
            "Use that version, or restore a backup of this one."
        ) from problem


OWN = ("audit", "alembic_version")
"""Tables that the app only reads: the database itself writes what was done."""
KEPT = ("revision", "amendment", "verdict")
"""Tables that are only ever added to."""
EMPTIED = ("slip", "slip_line", "request_key", "sign_in_tries")
"""Tables from which the app takes rows away: drafts, and what is counted for a while."""


def grant(url: str, role: str) -> None:
    """Let a role do what the app does, and no more. The URL is of the database's owner."""
    engine = create_engine(url, poolclass=NullPool)
    with engine.begin() as connection:
        name = engine.dialect.identifier_preparer.quote_identifier(role)
        for statement in (
            "REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {}",
            "REVOKE ALL ON SCHEMA public FROM PUBLIC",
            "GRANT USAGE ON SCHEMA public TO {}",
            "GRANT SELECT, INSERT, UPDATE ON ALL TABLES IN SCHEMA public TO {}",
            "GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO {}",
            f"REVOKE INSERT, UPDATE ON {', '.join(OWN)} FROM {{}}",
            f"REVOKE UPDATE ON {', '.join(KEPT)} FROM {{}}",
            f"GRANT DELETE ON {', '.join(EMPTIED)} TO {{}}",
        ):
            connection.execute(text(statement.format(name)))


def check_encoding(engine: Engine) -> None:
    """Raise UnknownSchema for a database that cannot keep every letter."""
    with engine.connect() as connection:
        found = connection.execute(text("SHOW server_encoding")).scalar_one()
    if found != "UTF8":
        raise UnknownSchema(
            f"The database is kept in {found}: names and units need UTF8. Make it anew with "
            "createdb --encoding=UTF8 --locale=C.UTF-8 --template=template0."
        )


def check_schema(engine: Engine) -> None:
    """Raise UnknownSchema unless the database stands exactly at this program's newest schema."""
    url = engine.url.render_as_string(hide_password=False)
    wanted = ScriptDirectory.from_config(migrations(url)).get_current_head()
    with engine.connect() as connection:
        found = MigrationContext.configure(connection).get_current_revision()
    if found != wanted:
        raise UnknownSchema(
            f"The database is at schema {found or 'none'}, this program needs {wanted}. "
            "Run “./cabrio migrate” with this version, or use the version that wrote it."
        )
