"""What must hold when things go wrong or grow: on a server of its own, each beside its limit.

`./cabrio drill [part …] [--rounds N]`: kills, outage, reads, together, years, disk, pool, proxy, memory.
"""

from __future__ import annotations

import os
import random
import resource
import shutil
import subprocess
import sys
import threading
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from http.client import HTTPException
from pathlib import Path
from statistics import median, quantiles
from typing import Any, TypeVar

from launcher.stages import DATA
from sqlalchemy import func, select
from sqlalchemy.orm import Session

from cabrio.operations.upkeep import look_through
from cabrio.storage.database import open_engine
from cabrio.storage.models import ReadingRow
from tests.support.bench import report
from tests.support.client import pads
from tests.support.ground import Ground, Visitor
from tests.support.outages import outage
from tests.support.pooled import pool
from tests.support.proxied import proxy
from tests.support.years import grow

ROOT = Path(__file__).resolve().parents[2]
T = TypeVar("T")


def kills(rounds: int) -> None:
    """Kill app, database, both or launcher while three people write; what was acknowledged is there, once."""
    ground = Ground(safe=True)
    kept: dict[str, str] = {}
    wrong: list[str] = []
    try:
        ground.begin()
        for round_ in range(rounds):
            _kill_once(ground, round_, kept)
        with Session(open_engine(ground.url)) as db:
            wrong += look_through(db).wrong
            counted = select(ReadingRow.note, func.count().label("count")).group_by(ReadingRow.note)
            rows = db.execute(counted).all()
        there = {row.note: row.count for row in rows}
        lost = [note for note in kept if there.get(note, 0) != 1]
        report(
            f"lost or doubled of {len(kept)} acknowledged in {rounds} kills",
            len(lost),
            0,
            "",
            "readings by three people while the app, the database, both or the launcher are killed outright",
        )
        report(
            "wrong afterwards",
            len(wrong),
            0,
            "",
            "cars opened, setups and the chain of what was done",
        )
    finally:
        ground.end()


def _write(
    ground: Ground, person: int, notes: str, stop: threading.Event, kept: dict[str, str]
) -> None:
    """One person takes readings until told to stop; `kept` gets the notes of what was acknowledged."""
    visitor = Visitor(ground.address)
    # killed under it: what was not acknowledged may be there or not
    with suppress(OSError, ValueError, RuntimeError, HTTPException):
        visitor.enter(person)
        for n in range(1000):
            if stop.is_set():
                return
            note = f"{notes} p{person} n{n}"
            body = pads([250, 251, 262, 263], note=note)
            if visitor.call("POST", f"/api/cars/{1 + n % 3}/readings", body)[0] == 200:
                kept[note] = note


def _kill_once(ground: Ground, round_: int, kept: dict[str, str]) -> None:
    """Kill one part, or two, while three people write, and start it anew; `kept` gets what was acknowledged."""
    stop = threading.Event()
    which = ("app", "database", "both", "launcher")[round_ % 4]
    launcher = ground.begin_by_launcher() if which == "launcher" else None

    notes = f"r{round_}"
    writers = [
        threading.Thread(target=_write, args=(ground, person, notes, stop, kept))
        for person in (1, 2, 3)
    ]
    for writer in writers:
        writer.start()
    time.sleep(random.uniform(0.3, 0.9))
    if which in ("database", "both"):
        ground.kill_database()
    stop.set()
    if which in ("app", "both"):
        ground.kill_app()
    if launcher is not None:
        ground.kill_launcher(launcher)
    for writer in writers:
        writer.join()
    if which != "database":
        ground.begin()


def disk() -> None:
    """The database's disk full: nothing acknowledged is lost, and it goes on once there is room."""
    if os.geteuid() != 0:
        print("    left out: it wants to be root, to make a small disk of memory")
        return
    folder = DATA / f"test-{os.getpid()}-drill"
    folder.mkdir(parents=True)
    subprocess.run(["mount", "-t", "tmpfs", "-o", "size=260m", "tmpfs", str(folder)], check=True)
    kept: list[str] = []
    try:
        ground = Ground(safe=False)
        try:
            ground.begin()
            person = Visitor(ground.address).enter(1)
            filler = folder / "filler"
            room = os.statvfs(folder)
            with filler.open("wb") as full:
                left = room.f_bavail * room.f_frsize
                os.posix_fallocate(full.fileno(), 0, max(1, left - 2**17))
            refused: tuple[int, str] = (0, "")
            for n in range(600):
                body = pads([250, 251, 262, 263], note=f"full {n} {'x' * 3000}")
                status, said = person.call("POST", "/api/cars/1/readings", body)
                if status == 200:
                    kept.append(body["note"])
                else:
                    refused = (status, str(said.get("detail", ""))[:70])
                    break
            report(
                "disk full: writes until one is refused", float(len(kept)), 599, "", f"{refused}"
            )
            health = person.call("GET", "/api/health")[0]
            report("disk full: health answers otherwise than 200", health - 200, 0, "", "")
            filler.unlink()
            start = time.monotonic()
            while time.monotonic() - start < 60:
                if not ground.server.answers():
                    ground.server.start(same_port=True)
                if (
                    person.call("POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))[0]
                    == 200
                ):
                    break
                time.sleep(0.2)
            report("room again: until a write is taken", time.monotonic() - start, 15, "s", "")
            with Session(open_engine(ground.url)) as db:
                wrong = look_through(db).wrong
                there = set(db.scalars(select(ReadingRow.note)))
            lost = [one for one in kept if one not in there]
            report(f"lost of {len(kept)} acknowledged, or wrong", len(lost) + len(wrong), 0, "", "")
        finally:
            ground.end()
    finally:
        subprocess.run(["umount", "-l", str(folder)])
        shutil.rmtree(folder, ignore_errors=True)


def reads() -> None:
    """200 reads at the same moment: each is answered, with the page or with a word to come back."""
    ground = Ground(safe=False)
    try:
        ground.begin()
        person = Visitor(ground.address).enter(1)
        person.call("GET", "/api/cars/1")

        def read(_: int) -> int:
            return person.call("GET", "/api/cars/1", timeout=60)[0]

        start = time.monotonic()
        with ThreadPoolExecutor(200) as pool:
            answers = list(pool.map(read, range(200)))
        odd = [answer for answer in answers if answer not in (200, 503)]
        report(
            "of 200 reads at once not answered",
            len(odd),
            0,
            "",
            f"{answers.count(200)} pages, {answers.count(503)} told to come back",
        )
        report("the last of them", time.monotonic() - start, 20, "s", "")
    finally:
        ground.end()


def together() -> None:
    """50 people on one car: each turns a knob of its own time and books; nobody's is lost."""
    ground = Ground(safe=False)
    try:
        ground.begin()
        people = [Visitor(ground.address).enter(1 + n % 2) for n in range(50)]
        times: list[float] = []
        booked: list[int] = []

        def timed(call: Callable[[], tuple[int, Any]]) -> tuple[int, Any]:
            start = time.perf_counter()
            found = call()
            times.append(time.perf_counter() - start)
            return found

        def work(n: int) -> None:
            me, chance = people[n], random.Random(n)
            for _ in range(4):
                time.sleep(chance.uniform(0, 8))
                timed(lambda: me.call("GET", "/api/cars/1"))
                body = pads([250 + n, 251, 262, 263], note=f"p{n}")
                status, _ = timed(lambda body=body: me.call("POST", "/api/cars/1/readings", body))  # type: ignore[misc]
                booked.append(status)

        with ThreadPoolExecutor(50) as pool:
            list(pool.map(work, range(50)))
        report(
            "50 people on one car: 95th percentile of a request",
            quantiles(times, n=20)[-1],
            1,
            "s",
            f"median {median(times):.2f} s of {len(times)}",
        )
        report("of 200 readings not taken", sum(one != 200 for one in booked), 0, "", "")
    finally:
        ground.end()


def years() -> None:
    """2,000 revisions, 10,000 sessions, 2,000 readings on one car, and a garage of 20 cars."""
    ground = Ground(safe=False)
    try:
        ground.begin()
        person = Visitor(ground.address).enter(1)

        def took(*paths: str) -> list[list[float]]:
            """In turns, so that a slow moment of the machine meets them all."""
            times: list[list[float]] = [[] for _ in paths]
            for _ in range(41):
                for path, found in zip(paths, times, strict=True):
                    start = time.perf_counter()
                    person.call("GET", path)
                    found.append((time.perf_counter() - start) * 1000)
            return [found[1:] for found in times]

        def p95(path: str) -> float:
            return quantiles(took(path)[0], n=20)[-1]

        file = person.fetch("/api/cars/1/file")
        twin = person.call("POST", "/api/cars/import", file)[1]["id"]
        grow(open_engine(ground.url), 1)
        old, young = map(median, took("/api/cars/1", f"/api/cars/{twin}"))
        report(
            "bench view: car of years over a young one",
            old / young,
            1.5,
            "times",
            f"{old:.0f} ms over {young:.0f} ms, medians",
        )
        report(
            "a page of its logbook, 95th percentile",
            p95("/api/cars/1/logbook"),
            100,
            "ms",
            "10,000 sessions",
        )

        def held(what: str, ask: Callable[[], T]) -> T:
            """Ask, and tell which cores that held."""
            app, database = ground.app_worked(), ground.database_worked()
            found = ask()
            report(f"{what}: a core by the app", ground.app_worked() - app, 2, "s", "")
            busiest = max(
                now - database.get(one, 0) for one, now in ground.database_worked().items()
            )
            report(f"{what}: a core by the database", busiest, 2, "s", "its busiest process")
            return found

        file = held("writing its file", lambda: person.fetch("/api/cars/1/file"))
        start = time.perf_counter()
        status, told = held(
            "bringing it in", lambda: person.call("POST", "/api/cars/import", file, timeout=120)
        )
        report(
            "bringing it in from its file",
            time.perf_counter() - start,
            10,
            "s",
            f"{len(file) / 2**20:.1f} MB: {status} {str(told)[:60]}",
        )
        while len(person.call("GET", "/api/cars")[1]["cars"]) < 20:
            person.call("POST", "/api/cars/3/copy", {"name": f"Copy {random.randrange(10**6)}"})
        report(
            "garage of 20 cars, 95th percentile", p95("/api/cars"), 80, "ms", "two of them of years"
        )
    finally:
        ground.end()


def memory(requests: int) -> None:
    """The app's memory over many requests."""
    ground = Ground(safe=False)
    try:
        ground.begin()
        assert ground.app is not None
        person = Visitor(ground.address).enter(1)
        paths = [
            "/api/cars",
            "/api/cars/1",
            "/api/cars/2",
            "/api/cars/3/logbook",
            "/api/cars/1/springs",
        ]

        def held() -> float:
            text = Path(f"/proc/{ground.app.pid}/status").read_text()  # type: ignore[union-attr]
            return int(text.split("VmRSS:")[1].split()[0]) / 1024

        for n in range(requests // 5):
            person.call("GET", paths[n % len(paths)])
        before = held()
        for n in range(requests):
            person.call("GET", paths[n % len(paths)])
        report(
            f"memory after {requests} more requests",
            held() - before,
            12,
            "MB",
            f"{before:.0f} MB before",
        )
    finally:
        ground.end()


def main(arguments: list[str]) -> int:
    rounds = int(arguments[arguments.index("--rounds") + 1]) if "--rounds" in arguments else 12
    resource.setrlimit(
        resource.RLIMIT_NOFILE, (4096, resource.getrlimit(resource.RLIMIT_NOFILE)[1])
    )
    parts: dict[str, Callable[[], None]] = {
        "years": years,
        "together": together,
        "reads": reads,
        "outage": outage,
        "disk": disk,
        "pool": pool,
        "proxy": proxy,
        "kills": lambda: kills(rounds),
        "memory": lambda: memory(rounds * 400),
    }
    chosen = [argument for argument in arguments if argument in parts] or list(parts)
    for name in chosen:
        print(f"\n{name}", flush=True)
        parts[name]()
    from tests.support import bench

    print(f"\n{bench.misses} missed")
    return 1 if bench.misses else 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
