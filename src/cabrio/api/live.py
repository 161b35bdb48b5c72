"""What others write, and how far one's own long work is, sent to open pages: a stream each, fed as it is called out."""

from __future__ import annotations

import json
import queue
import threading
import time
from collections.abc import Iterator
from dataclasses import asdict, dataclass, field

from flask import Flask, Response, current_app
from sqlalchemy import Engine

from cabrio.storage.audit import Changes
from cabrio.storage.listening import Heard, Listener, SignInEnded, Step, Written

STREAMS = 100
"""Open at once in one process; whoever comes then asks instead."""
MAX_STREAM_S = 120.0
"""Seconds after which a stream ends: its page opens the next, and has to be signed in still."""
HEARTBEAT_S = 10.0
"""Seconds after which an idle stream says that it lives: a page that is gone is noticed by it."""
COALESCE_S = 0.02
"""Seconds in which what is written is told as one."""
KEY = "cabrio_live"


@dataclass(eq=False)
class Stream:
    """One open page: the team it belongs to, and the sign-in whose own writes it knows already."""

    team: int
    sign_in: int
    heard: queue.SimpleQueue[Heard | None] = field(default_factory=queue.SimpleQueue)

    def wants(self, heard: Heard) -> bool:
        return (
            heard.team == self.team if isinstance(heard, Written) else heard.sign_in == self.sign_in
        )

    def events(self, seconds: float) -> list[str]:
        """What was heard, waited for so long; none where it was quiet. Raises Ended."""
        try:
            found = [self.heard.get(timeout=seconds)]
        except queue.Empty:
            return []
        time.sleep(COALESCE_S)
        while not self.heard.empty():
            found.append(self.heard.get())
        if any(one is None or isinstance(one, SignInEnded) for one in found):
            raise Ended
        steps = [one for one in found if isinstance(one, Step)]
        written = [one for one in found if isinstance(one, Written)]
        events = [f"event: step\ndata: {json.dumps(asdict(step))}\n\n" for step in steps[-1:]]
        if written:
            others = [one.car for one in written if one.sign_in != self.sign_in]
            cars = tuple(sorted({car for car in others if car is not None}))
            events.append(_event(Changes(max(one.at for one in written), cars, None in others)))
        return events


class Ended(Exception):
    """The server stops or has not heard all, or the sign-in is over."""


class Live:
    """The streams of this process."""

    def __init__(self) -> None:
        self.listener: Listener | None = None
        self._streams: set[Stream] = set()
        self._lock = threading.Lock()
        self._closed = False

    def listen(self, engine: Engine) -> None:
        """Begin to hear what is written. An app that nobody told to has no streams: its pages ask."""
        self.listener = Listener(engine, self.tell, self.end_all)

    @property
    def is_live(self) -> bool:
        return self.listener is not None and self.listener.is_live

    def tell(self, heard: Heard) -> None:
        with self._lock:
            for stream in self._streams:
                if stream.wants(heard):
                    stream.heard.put(heard)

    def open(self, team: int, sign_in: int) -> Stream | None:
        """A stream, or None where there is none to be had."""
        with self._lock:
            if self._closed or not self.is_live or len(self._streams) >= STREAMS:
                return None
            made = Stream(team, sign_in)
            self._streams.add(made)
            return made

    def leave(self, stream: Stream) -> None:
        with self._lock:
            self._streams.discard(stream)

    def end_all(self) -> None:
        """End every stream: something may have been missed, and their pages say what they heard last."""
        with self._lock:
            for stream in self._streams:
                stream.heard.put(None)

    def close(self) -> None:
        """The server stops."""
        with self._lock:
            self._closed = True
        self.end_all()
        if self.listener is not None:
            self.listener.stop()

    def lines(self, stream: Stream, missed: Changes) -> Iterator[str]:
        """The stream's text: what its page missed, then what is written, until it ends."""
        until = time.monotonic() + MAX_STREAM_S
        yield "retry: 500\n"
        yield _event(missed)
        try:
            while self.is_live and (left := until - time.monotonic()) > 0:
                yield "".join(stream.events(min(HEARTBEAT_S, left))) or ": lives\n\n"
        except Ended:
            pass


def _event(news: Changes) -> str:
    said = {"at": news.at, "cars": news.cars, "more": news.more}
    return f"id: {news.at}\ndata: {json.dumps(said)}\n\n"


def install(app: Flask) -> None:
    """Make the streams of the app, which close with it."""
    app.extensions[KEY] = Live()


def of_app() -> Live:
    """The streams of the app that answers."""
    found: Live = current_app.extensions[KEY]
    return found


def answer(stream: Stream, missed: Changes) -> Response:
    """A stream of server-sent events, first what was missed."""
    live = of_app()
    made = Response(live.lines(stream, missed), mimetype="text/event-stream")
    made.headers["X-Accel-Buffering"] = "no"  # a proxy in front hands every line on at once
    made.call_on_close(lambda: live.leave(stream))
    return made
