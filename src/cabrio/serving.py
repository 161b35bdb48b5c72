"""The app behind its HTTP server: how many connections and requests at once, and what happens beyond that."""

from __future__ import annotations

import gc
import json
import threading
import time
from collections.abc import Callable, Iterable
from typing import Any

WORKERS = 12
"""Requests that are worked on at once."""
CONNECTIONS = 1000
"""Open at once; a browser opens up to six, and most of them idle."""
IDLE = 30
"""Seconds after which a connection that says nothing is closed."""
WAITING = 120
"""Requests that may wait for a worker; whoever comes then is told to come back."""
COME_BACK = "2"
"""Seconds after which to try again."""

App = Callable[[dict[str, Any], Any], Iterable[bytes]]


LAST = 20
"""Seconds that what is at work may take to its end once the server is told to stop."""


class Overload:
    """Answers 503 at once while too many requests wait. `waiting` tells how many do."""

    def __init__(self, app: App, waiting: Callable[[], int], most: int = WAITING) -> None:
        self.app, self.waiting, self.most = app, waiting, most

    def __call__(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        if self.waiting() <= self.most:
            return self.app(environ, start_response)
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


def server(app: App, host: str, port: int, largest: int) -> Any:
    """A server for the app, not yet running; bodies beyond `largest` bytes are refused unread."""
    import waitress

    gc.freeze()  # what was made up to now stays, and need not be looked through
    gc.set_threshold(*GARBAGE)
    held: list[Any] = []
    # what waits is known by the server, which is made of the app
    guarded = Overload(app, lambda: len(held[0].task_dispatcher.queue) if held else 0)
    made = waitress.create_server(
        guarded,
        host=host,
        port=port,
        threads=WORKERS,
        connection_limit=CONNECTIONS,
        channel_timeout=IDLE,
        cleanup_interval=5,
        recv_bytes=2**18,  # 8 kB are usual: a car of years would come in by a thousand
        asyncore_use_poll=True,  # more connections than select can watch
        max_request_body_size=largest,
        max_request_header_size=32 * 2**10,
        # the app itself takes the word of as many proxies as it is told of, and of no other (Settings.proxies)
        clear_untrusted_proxy_headers=False,
        ident="cabrio",
    )
    held.append(made)
    return made


def make_room(made: Any, streams: int) -> None:
    """A worker more for each answer that goes on for minutes, so that as many as ever are free for the others."""
    made.task_dispatcher.set_thread_count(WORKERS + streams)


def run(made: Any, stop: threading.Event, last: Callable[[], None] = lambda: None) -> None:
    """Serve until told to stop: then nobody new is let in, what is at work is finished and answered. `last`
    is called once at that moment, to end what would go on by itself."""
    from waitress.wasyncore import loop

    until = 0.0
    while made._map:
        loop(timeout=0.2, use_poll=True, map=made._map, count=1)
        if not stop.is_set():
            continue
        if not until:
            until = time.monotonic() + LAST
            made.accepting = False
            made.del_channel()
            made.socket.close()
            last()
        tasks = made.task_dispatcher
        unsent = any(one.total_outbufs_len for one in list(made.active_channels.values()))
        if time.monotonic() > until or not (tasks.queue or tasks.active_count or unsent):
            break
    made.task_dispatcher.shutdown()
