"""A pool between app and database, by pgbouncer, that shares connections out by transaction."""

from __future__ import annotations

import os
import shutil
import subprocess
import tempfile
import time
from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

from launcher.postgres import free_port, is_free
from sqlalchemy.engine import make_url

from tests.support.bench import report
from tests.support.ground import DATABASE, Ground, Visitor

PATHS = ("", "/1", "/1/logbook", "/2/springs", "/3", "/1/under-load")


@contextmanager
def _pool(url: str) -> Iterator[str]:
    """The same database through a pool of three connections."""
    found = make_url(url)
    port, folder = free_port(), Path(tempfile.mkdtemp(prefix="cabrio-pool-"))
    (folder / "people").write_text(f'"{found.username}" "{found.password}"\n')
    (folder / "settings").write_text(
        f"""[databases]
* = host={found.host} port={found.port}
[pgbouncer]
listen_addr = 127.0.0.1
listen_port = {port}
unix_socket_dir =
auth_type = trust
auth_file = {folder}/people
pool_mode = transaction
default_pool_size = 3
"""
    )
    command = ["pgbouncer", "--quiet", str(folder / "settings")]
    if os.geteuid() == 0:  # it refuses to run as root
        shutil.chown(folder, "postgres")
        command = ["setpriv", "--reuid=postgres", "--regid=postgres", "--init-groups", *command]
    running = subprocess.Popen(command, stderr=subprocess.DEVNULL)
    try:
        until = time.monotonic() + 10
        while is_free(port) and time.monotonic() < until:
            time.sleep(0.05)
        yield found.set(port=port).render_as_string(hide_password=False)
    finally:
        running.terminate()
        running.wait(10)
        shutil.rmtree(folder)


def pool() -> None:
    """Reads of ten people and a booking through it; nobody is promised news that does not come."""
    if shutil.which("pgbouncer") is None:
        print("No pgbouncer here, so not tried: apt-get install pgbouncer")
        return
    ground = Ground(safe=False)
    try:
        with _pool(ground.server.app_url(DATABASE)) as through:
            ground.begin(through)

            def read(person: int) -> list[int]:
                visitor = Visitor(ground.address).enter(1 + person % 4)
                paths = [PATHS[(person + n) % len(PATHS)] for n in range(40)]
                return [visitor.call("GET", f"/api/cars{path}")[0] for path in paths]

            with ThreadPoolExecutor(10) as people:
                told = Counter(one for some in people.map(read, range(10)) for one in some)
            wrong = told.total() - told[200]
            report("reads through a pool, not answered", wrong, 0, "", str(dict(told)))
            ines = Visitor(ground.address).enter(1)
            slip = ines.call("GET", "/api/cars/1")[1]["slip"]
            line = {"name": "bar_hole", "place": "front", "new": 2}
            _, slip = ines.call(
                "PUT", "/api/cars/1/slip", {"version": slip["version"], "changes": [line]}
            )
            status, made = ines.call("POST", "/api/cars/1/slip/book", {"version": slip["version"]})
            report("a booking through it, refused", status != 200, 0, "", f"{status} {made}")
            streams = ines.call("GET", "/api/live")[0] != 204
            report(
                "a stream that would tell nothing, given", streams, 0, "", "the pages ask instead"
            )
            ground.end_app()
    finally:
        ground.end()
