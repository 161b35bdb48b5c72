"""Hearing, over a connection that does nothing else, what any process writes to the database or calls out."""

from __future__ import annotations

import json
import secrets
import threading
import time
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import asdict, dataclass
from typing import Any

import psycopg
from psycopg import sql
from sqlalchemy import Engine, func, select
from sqlalchemy.orm import Session

SELF_TEST_S = 15.0
"""Seconds between two calls to ourselves: only who hears those is known to hear the others."""
RECONNECT_S = 5.0
"""Seconds to wait before a lost connection is tried again."""


@dataclass(frozen=True)
class Written:
    """One entry of what was done: its number, whose team, which car if one, from which sign-in."""

    at: int
    team: int | None
    car: int | None
    sign_in: int | None


@dataclass(frozen=True)
class Step:
    """How far long work is: of which sign-in, step `done` of `of`, and what is being done."""

    sign_in: int
    done: int
    of: int
    words: str


@dataclass(frozen=True)
class SignInEnded:
    """A sign-in that was ended."""

    sign_in: int


Heard = Written | Step | SignInEnded
CHANNELS: dict[str, type[Written] | type[Step] | type[SignInEnded]] = {
    "cabrio_written": Written,
    "cabrio_step": Step,
    "cabrio_over": SignInEnded,
}
"""The first is called by the database itself (migration 0016), within the transaction that writes."""


def notify_sign_in_ended(db: Session, sign_in: int) -> None:
    """Call out that a sign-in is over, once this transaction is saved."""
    db.execute(select(func.pg_notify("cabrio_over", json.dumps(asdict(SignInEnded(sign_in))))))


def _address(engine: Engine) -> dict[str, Any]:
    """Where the engine connects to, as the driver alone wants it: of several hosts it finds the one that writes."""
    _, arguments = engine.dialect.create_connect_args(engine.url)
    return {**arguments, "autocommit": True}


class ProgressNotifier:
    """Calls out steps of long work at once, outside of the transaction that does it. For as long as that takes
    it has a connection of its own; where there is none to be had nothing is told."""

    def __init__(self, engine: Engine, sign_in: int, steps: Sequence[str]) -> None:
        self._sign_in, self._steps = sign_in, steps
        self._line: psycopg.Connection[Any] | None = None
        with suppress(psycopg.Error):
            self._line = psycopg.connect(**_address(engine), connect_timeout=2)

    def __enter__(self) -> ProgressNotifier:
        return self

    def __exit__(self, *_: object) -> None:
        if self._line is not None:
            self._line.close()

    def __call__(self, words: str) -> None:
        """Say what is begun now: one of the steps."""
        step = Step(self._sign_in, self._steps.index(words), len(self._steps), words)
        if self._line is not None:
            with suppress(psycopg.Error):
                message = ("cabrio_step", json.dumps(asdict(step)))
                self._line.execute("SELECT pg_notify(%s, %s)", message)


class Listener:
    """Tells on what is heard, and that its connection was lost: then something may have been missed.
    `is_live` turns false when our own calls stay out, too.

    A pool between app and database hands on only what is answered at once: a call of one connection to
    itself, and nothing of what others call out. So the calls go out by another one; where they stay out it is
    false for ever, and whoever wants the news has to ask.
    """

    def __init__(
        self,
        engine: Engine,
        tell: Callable[[Heard], None],
        lost: Callable[[], None],
        *,
        call: float = SELF_TEST_S,
    ) -> None:
        self._address = _address(engine)
        self._tell, self._lost, self._call = tell, lost, call
        self._own = f"cabrio_{secrets.token_hex(8)}"
        self._heard = 0.0
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._keep, daemon=True, name="listener")
        self._thread.start()

    @property
    def is_live(self) -> bool:
        return time.monotonic() - self._heard < 2 * self._call + 2

    def stop(self) -> None:
        self._stop.set()

    def _keep(self) -> None:
        while not self._stop.is_set():
            with suppress(psycopg.Error):
                self._listen()
            self._heard = 0.0
            self._lost()
            self._stop.wait(RECONNECT_S)

    def _listen(self) -> None:
        with self._connect() as line, self._connect() as other:
            for channel in (*CHANNELS, self._own):
                line.execute(sql.SQL("LISTEN {}").format(sql.Identifier(channel)))
            while not self._stop.is_set():
                other.execute(sql.SQL("NOTIFY {}").format(sql.Identifier(self._own)))
                for notify in line.notifies(timeout=self._call):
                    if notify.channel == self._own:
                        self._heard = time.monotonic()
                    else:
                        with suppress(
                            ValueError, TypeError
                        ):  # called by hand, or by another version
                            self._tell(CHANNELS[notify.channel](**json.loads(notify.payload)))
                    if self._stop.is_set():
                        return

    def _connect(self) -> psycopg.Connection[Any]:
        return psycopg.connect(**self._address, connect_timeout=5)
