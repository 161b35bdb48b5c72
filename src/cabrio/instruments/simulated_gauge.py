"""An angle gauge that is not there: it shows what it is told it lies on, as a real one does.

Its zero is off until it is zeroed on the floor, its figures swing a little and come in twentieths, and it
shows no sign: which way a surface points is for whoever holds it to see.
"""

from __future__ import annotations

import socketserver
import threading
from random import Random

from .line import LONGEST

NOISE, STEP = 0.03, 0.05
"""Noise of a reading (one sigma) and the step of the display [°]."""
OFF = 0.6
"""How far off the zero of a gauge may be that nobody zeroed [°]."""
MOST_CARS = 200


class SimulatedGauge(socketserver.ThreadingTCPServer):
    """The stand-in, on a free port of the loopback unless told otherwise."""

    allow_reuse_address = True
    daemon_threads = True

    def __init__(self, port: int = 0) -> None:
        super().__init__(("127.0.0.1", port), _Line)
        self.chance = Random(port)
        self.zeros: dict[int, float] = {}
        self.lock = threading.Lock()

    def start(self) -> str:
        """Serve from a thread; the address it is at."""
        threading.Thread(target=self.serve_forever, daemon=True).start()
        host, port = self.server_address[:2]
        return f"{host!s}:{port}"

    def zero_at(self, car: int) -> float:
        """What it shows on a level floor beside this car [°]."""
        if car not in self.zeros:
            if len(self.zeros) >= MOST_CARS:
                self.zeros.clear()
            self.zeros[car] = Random(car).choice((-1, 1)) * Random(car).uniform(OFF / 3, OFF)
        return self.zeros[car]

    def shows(self, car: int, degrees: float) -> str:
        told = abs(degrees + self.zero_at(car) + self.chance.gauss(0.0, NOISE))
        return f"angle={round(told / STEP) * STEP:.2f}"


class _Line(socketserver.StreamRequestHandler):
    """One connection: lines in, an angle for every `read`."""

    server: SimulatedGauge
    timeout = 5.0

    def handle(self) -> None:
        lies: tuple[int, float] | None = None
        for _ in range(50):
            words = self.rfile.readline(LONGEST).decode("ascii", "replace").split()
            if not words:
                return
            with self.server.lock:
                if words[0] == "on":
                    lies = _told(words[1:])
                elif words[0] == "zero" and lies is not None:
                    self.server.zeros[lies[0]] = -lies[1]
                elif words[0] == "read" and lies is not None:
                    self.wfile.write(f"{self.server.shows(*lies)}\n".encode("ascii"))
                else:
                    self.wfile.write(b"not understood\n")


def _told(words: list[str]) -> tuple[int, float] | None:
    """The car and the slope; None where that is not what was said."""
    try:
        car, degrees = int(words[0]), float(words[1])
    except (ValueError, IndexError):
        return None
    return car, degrees
