"""The app behind its HTTP server: how many connections and requests at once, and what happens beyond that.

The server is used by its public names alone. It has a thread for each request that is worked on, that waits, and
for each stream; a gate before the app lets so many work at once and sends the others away.
"""

from __future__ import annotations

import gc
import json
import threading
import time
from collections.abc import Callable, Iterable, Iterator
from contextlib import suppress
from typing import Any

import waitress

WORKERS = 12
"""Requests that are worked on at once."""
CONNECTIONS = 1000
"""Open at once; a browser opens up to six, and most of them idle."""
IDLE = 30
"""Seconds after which a connection that says nothing is closed."""
WAITING = 120
"""Requests that may wait for a worker; whoever comes then is told to come back."""
AT_THE_DOOR = 8
"""Threads that send away whoever comes beyond those."""
COME_BACK = "2"
"""Seconds after which to try again."""
SHUTDOWN_TIMEOUT_S = 20
"""Seconds that what is at work may take to its end once the server is told to stop."""
SENT = 0.3
"""Seconds in which the last answers leave, once they are worked."""
STREAM = "text/event-stream"

App = Callable[[dict[str, Any], Any], Iterable[bytes]]


class Gate:
    """Lets `workers` requests work at once and `most` wait; answers 503 at once beyond that, and once closed.

    An answer that goes on for minutes gives its place back as soon as it has begun.
    """

    def __init__(self, app: App, workers: int = WORKERS, most: int = WAITING) -> None:
        self.app, self.most = app, most
        self.waiting = self.at_work = self.going_on = 0
        self._closed = False
        self._free = workers
        self._turn = threading.Condition()

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        if not self._let_in():
            return _busy(start_response)
        streams = False

        def start(status: str, headers: list[tuple[str, str]], *more: Any) -> Any:
            nonlocal streams
            streams = any(k.lower() == "content-type" and v.startswith(STREAM) for k, v in headers)
            return start_response(status, headers, *more)

        try:
            answer = self.app(environ, start)
        except BaseException:
            self._leave()
            raise
        if streams:
            self._leave(going_on=1)
            return _Leaving(answer, self._end)
        return _Leaving(answer, self._leave)

    def _let_in(self) -> bool:
        with self._turn:
            if self._closed or self.waiting >= self.most:
                return False
            self.waiting += 1
            self._turn.wait_for(lambda: self._free > 0)
            self.waiting -= 1
            self._free -= 1
            self.at_work += 1
            return True

    def _leave(self, going_on: int = 0) -> None:
        with self._turn:
            self._free += 1
            self.at_work -= 1
            self.going_on += going_on
            self._turn.notify()

    def _end(self) -> None:
        with self._turn:
            self.going_on -= 1

    def close(self) -> None:
        """Let nobody new in."""
        with self._turn:
            self._closed = True

    @property
    def is_empty(self) -> bool:
        """Whether nothing is at work, waits or goes on."""
        with self._turn:
            return not (self.at_work or self.waiting or self.going_on)


class _Leaving:
    """An answer that gives its place back once it is sent or given up."""

    def __init__(self, answer: Iterable[bytes], leave: Callable[[], None]) -> None:
        self._answer, self._leave, self._left = answer, leave, False

    def __iter__(self) -> Iterator[bytes]:
        return iter(self._answer)

    def close(self) -> None:
        if self._left:
            return
        self._left = True
        try:
            close = getattr(self._answer, "close", None)
            if close is not None:
                close()
        finally:
            self._leave()


def _busy(start_response: Any) -> Iterable[bytes]:
    body = json.dumps(
        {
            "type": "about:blank",
            "title": "busy",
            "status": 503,
            "code": "busy",
            "detail": "Too much is asked at once. Nothing was saved: try again in a moment.",
            "errors": [],
        }
    ).encode()
    start_response(
        "503 Service Unavailable",
        [
            ("Content-Type", "application/problem+json"),
            ("Content-Length", str(len(body))),
            ("Retry-After", COME_BACK),
            ("Cache-Control", "no-store"),
        ],
    )
    return [body]


GARBAGE = (50_000, 10, 10)
"""How much is made before what nobody holds is looked for: a car of years makes hundreds of thousands of
things and lets none go, and at Python's own 700 half of its work was looking."""


class Server:
    """The app served on a port; `streams` is how many answers may go on for minutes at once."""

    def __init__(self, app: App, host: str, port: int, largest: int, streams: int = 0) -> None:
        gc.freeze()  # what was made up to now stays, and need not be looked through
        gc.set_threshold(*GARBAGE)
        self.gate = Gate(app)
        self._made = waitress.create_server(
            self.gate,
            host=host,
            port=port,
            threads=WORKERS + WAITING + AT_THE_DOOR + streams,
            connection_limit=CONNECTIONS,
            channel_timeout=IDLE,
            cleanup_interval=5,
            recv_bytes=2**18,  # 8 kB are usual: a car of years would come in by a thousand
            asyncore_use_poll=True,  # more connections than select can watch
            max_request_body_size=largest,  # bodies beyond it are refused unread
            max_request_header_size=32 * 2**10,
            # the app itself takes the word of as many proxies as it is told of, and of no other (Settings.proxies)
            clear_untrusted_proxy_headers=False,
            ident="cabrio",
        )
        self._thread = threading.Thread(target=self._made.run, name="server", daemon=True)

    @property
    def port(self) -> int:
        return int(self._made.effective_port)

    def start(self) -> None:
        """Serve, from a thread of its own."""
        self._thread.start()

    def stop(self, last: Callable[[], None] = lambda: None) -> None:
        """Let nobody new in, finish and answer what is at work. `last` ends what would go on by itself."""
        self.gate.close()
        last()
        until = time.monotonic() + SHUTDOWN_TIMEOUT_S
        while not self.gate.is_empty and time.monotonic() < until:
            time.sleep(0.05)
        time.sleep(SENT)
        with suppress(OSError):
            self._made.close()


def run(made: Server, stop: threading.Event, last: Callable[[], None] = lambda: None) -> None:
    """Serve until told to stop, and come to an end: see `Server.stop`."""
    made.start()
    stop.wait()
    made.stop(last)
