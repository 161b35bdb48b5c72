"""What the stand-ins for devices share: a server on a free port of the loopback, a line at a time."""

from __future__ import annotations

import socketserver
import threading
from abc import abstractmethod
from typing import Any

from .line import MAX_LINE_BYTES

MOST_LINES = 50
"""Lines of one connection."""


class SimulatedDevice(socketserver.ThreadingTCPServer):
    """A device that is not there. `heard` is what one line of a connection does to it."""

    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, port: int = 0) -> None:
        super().__init__(("127.0.0.1", port), _Line)
        self.lock = threading.Lock()

    def start(self) -> str:
        """Serve from a thread; the address it is at."""
        threading.Thread(target=self.serve_forever, daemon=True).start()
        host, port = self.server_address[:2]
        return f"{host!s}:{port}"

    @abstractmethod
    def heard(self, words: list[str], talk: dict[str, Any]) -> str | None:
        """The answer to a line, None for none; `talk` is what this connection said before.

        Raises ValueError or IndexError for what is not understood.
        """


class _Line(socketserver.StreamRequestHandler):
    """One connection."""

    server: SimulatedDevice
    timeout = 5.0

    def handle(self) -> None:
        talk: dict[str, Any] = {}
        for _ in range(MOST_LINES):
            words = self.rfile.readline(MAX_LINE_BYTES).decode("ascii", "replace").split()
            if not words:
                return
            try:
                with self.server.lock:
                    answer = self.server.heard(words, talk)
            except (ValueError, IndexError, KeyError):
                answer = "not understood"
            if answer is not None:
                self.wfile.write(f"{answer}\n".encode("ascii"))
