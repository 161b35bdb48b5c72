"""An app and a database of their own for a drill, that may be killed, and people who visit over real HTTP."""

from __future__ import annotations

import json
import os
import shutil
import signal
import subprocess
import sys
import time
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path
from typing import Any
from urllib.error import HTTPError

from launcher.postgres import Server, free_port, is_free
from launcher.stages import DATA, ROOT, Failure

from cabrio.core.knowledge import knowledge
from tests.support.client import WEB

DATABASE = "cabrio_demo"


class Visitor:
    """A person over real HTTP."""

    def __init__(self, address: str) -> None:
        self.address, self.token = address, ""
        self.opener = urllib.request.build_opener(
            urllib.request.ProxyHandler({}), urllib.request.HTTPCookieProcessor(CookieJar())
        )

    def call(
        self, method: str, path: str, body: Any = None, timeout: float = 60
    ) -> tuple[int, Any]:
        sent = body if body is None or isinstance(body, bytes) else json.dumps(body).encode()
        asked = urllib.request.Request(self.address + path, sent, method=method)
        asked.add_header("X-CSRF-Token", self.token)
        if sent is not None:
            asked.add_header("Content-Type", "application/json")
        try:
            with self.opener.open(asked, timeout=timeout) as answer:
                return answer.status, json.loads(answer.read() or b"null")
        except HTTPError as refused:
            return refused.code, json.loads(refused.read() or b"null")

    def fetch(self, path: str) -> bytes:
        """A file as it comes."""
        with self.opener.open(self.address + path, timeout=60) as answer:
            found: bytes = answer.read()
            return found

    def enter(self, person: int) -> Visitor:
        self.token = self.call("GET", "/api/session")[1]["token"]
        status, me = self.call("POST", "/api/session/demo", {"person": person})
        if status != 200:
            raise RuntimeError(f"not signed in: {status} {me}")
        self.token = me["token"]
        stations = [*knowledge().stations_by_id]
        self.call("POST", "/api/session/understood", {"stations": stations})
        return self


def _worked(process: int) -> float:
    """0 where it has ended."""
    try:
        after_name = Path(f"/proc/{process}/stat").read_text().rpartition(")")[2].split()
    except (FileNotFoundError, ProcessLookupError):
        return 0
    return (int(after_name[11]) + int(after_name[12])) / os.sysconf("SC_CLK_TCK")


class Ground:
    """A database server and an app of their own, that may be killed."""

    def __init__(self, *, safe: bool) -> None:
        self.folder = DATA / f"test-{os.getpid()}-drill"
        # as the launcher lays it, which may take it over
        self.server = Server(self.folder / "postgres", () if safe else ("fsync=off",))
        self.server.start()
        self.server.ensure_database(DATABASE)
        self.url = self.server.url(DATABASE)
        self.port = free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        self.app: subprocess.Popen[bytes] | None = None

    def begin(self, pool: str = "", proxies: int = 0) -> None:
        """Start the app; through a pool that shares connections out by transaction, where one is named, behind
        so many proxies."""
        env = os.environ | {
            "CABRIO_DATABASE": pool or self.server.app_url(DATABASE),
            "CABRIO_POOLED": "1" if pool else "",
            "CABRIO_PROXIES": str(proxies),
            "CABRIO_SECURE": "1" if proxies else "",
            "CABRIO_DATABASE_OWNER": self.url,
            "CABRIO_SECRET": "a secret of the drill",
            "CABRIO_DEMO": "1",
            "CABRIO_WEB": str(WEB),
        }
        command = [sys.executable, "-m", "cabrio", "serve", "--port", str(self.port)]
        self.app = subprocess.Popen(command, env=env, stderr=subprocess.DEVNULL)
        self._until_ready(self.app)

    def begin_by_launcher(self) -> subprocess.Popen[bytes]:
        """In place of the app that runs: the launcher, which takes the database over."""
        assert self.app is not None
        self.app.terminate()
        self.app.wait(30)
        command = [str(ROOT / "cabrio"), "demo", "--port", str(self.port)]
        env = os.environ | {"CABRIO_DATA": str(self.folder)}
        launcher = subprocess.Popen(
            command, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
        )
        self._until_ready(launcher)
        return launcher

    def kill_launcher(self, launcher: subprocess.Popen[bytes]) -> None:
        """Outright; its app ends by itself, and its database is left to whoever comes next."""
        launcher.kill()
        launcher.wait()
        until = time.monotonic() + 30
        while not is_free(self.port):
            if time.monotonic() > until:
                raise RuntimeError("the app outlives its launcher")
            time.sleep(0.05)

    def _until_ready(self, alive: subprocess.Popen[bytes]) -> None:
        """As long as the app, or the launcher that brings it up, lives: a busy machine takes its time."""
        while alive.poll() is None:
            try:
                if Visitor(self.address).call("GET", "/api/ready", timeout=30)[0] == 200:
                    return
            except OSError:
                pass
            time.sleep(0.05)
        raise RuntimeError("the app did not start")

    def app_worked(self) -> float:
        """The processor time that the app has taken so far [s]."""
        assert self.app is not None
        return _worked(self.app.pid)

    def database_worked(self) -> dict[int, float]:
        """The processor time that each of the database's processes has taken so far [s]: one for each connection,
        and its housekeepers."""
        return {process: _worked(process) for process in self.database_processes()}

    def kill_app(self) -> None:
        assert self.app is not None
        self.app.kill()
        self.app.wait()

    def postmaster(self) -> int:
        return int((self.server.folder / "cluster" / "postmaster.pid").read_text().splitlines()[0])

    def database_processes(self) -> list[int]:
        top = self.postmaster()
        found = subprocess.run(
            ["ps", "-o", "pid=", "--ppid", str(top)], capture_output=True, text=True
        )
        return [top, *map(int, found.stdout.split())]

    def kill_database(self) -> None:
        os.kill(self.postmaster(), signal.SIGKILL)
        for _ in range(50):  # until the last of its processes has seen it
            time.sleep(0.2)
            try:
                self.server.start(same_port=True)
                return
            except Failure:
                continue

    def end_app(self) -> None:
        if self.app is not None and self.app.poll() is None:
            self.app.terminate()
            self.app.wait(30)

    def end(self) -> None:
        self.end_app()
        self.server.stop()
        shutil.rmtree(self.folder, ignore_errors=True)
