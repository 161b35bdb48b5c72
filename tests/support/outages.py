"""The database gone, then hung: what the app says meanwhile, and that it comes back by itself."""

from __future__ import annotations

import os
import signal
import threading
import time

from tests.support.bench import report
from tests.support.ground import Ground, Visitor


def outage() -> None:
    """The database gone, then hung: the app says so, comes back by itself, and health never stops."""
    ground = Ground(safe=False)
    try:
        ground.begin()
        _database_gone(ground)
        _database_hangs(ground)
    finally:
        for process in ground.database_processes():
            os.kill(process, signal.SIGCONT)
        ground.end()


def _database_gone(ground: Ground) -> None:
    """The database stopped: a 503 says so, health goes on, and the app is back with it."""
    visitor = Visitor(ground.address)
    ground.server.stop()
    start = time.monotonic()
    status, said = visitor.call("GET", "/api/ready")
    report(
        "database gone: until a 503 says so",
        time.monotonic() - start,
        6,
        "s",
        said["detail"][:70],
    )
    health = visitor.call("GET", "/api/health")[0]
    report("database gone: health answers otherwise than 200", health - 200, 0, "", "")
    ground.server.start(same_port=True)
    start = time.monotonic()
    while visitor.call("GET", "/api/ready")[0] != 200 and time.monotonic() - start < 60:
        time.sleep(0.1)
    report(
        "database back: until the app is ready",
        time.monotonic() - start,
        6,
        "s",
        f"was {status}",
    )


def _database_hangs(ground: Ground) -> None:
    """The database's processes held still: a 503 in time, health in time, and it goes on by itself."""
    visitor = Visitor(ground.address)
    person = Visitor(ground.address).enter(1)
    frozen = ground.database_processes()
    for one in frozen:
        os.kill(one, signal.SIGSTOP)
    asked: list[tuple[int, float]] = []

    def ask() -> None:
        begun = time.monotonic()
        try:
            asked.append(
                (person.call("GET", "/api/cars/1", timeout=120)[0], time.monotonic() - begun)
            )
        except OSError:
            asked.append((0, time.monotonic() - begun))

    threads = [threading.Thread(target=ask) for _ in range(20)]
    for thread in threads:
        thread.start()
    time.sleep(3)
    longest = 0.0
    for _ in range(12):
        begun = time.monotonic()
        Visitor(ground.address).call("GET", "/api/health", timeout=60)
        longest = max(longest, time.monotonic() - begun)
        time.sleep(3)
    report(
        "database hangs: longest wait for health",
        longest,
        8,
        "s",
        "20 requests wait for the database",
    )
    for thread in threads:
        thread.join()
    report(
        "database hangs: longest wait for a 503",
        max(took for _, took in asked),
        60,
        "s",
        f"answers {sorted({status for status, _ in asked})}",
    )
    for one in frozen:
        os.kill(one, signal.SIGCONT)
    start = time.monotonic()
    while visitor.call("GET", "/api/ready")[0] != 200 and time.monotonic() - start < 60:
        time.sleep(0.1)
    report("database goes on: until the app is ready", time.monotonic() - start, 6, "s", "")
