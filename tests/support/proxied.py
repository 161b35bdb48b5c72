"""The app behind a real nginx with TLS, by the very settings that docs/running.md gives: each visitor counts for
himself, and nobody holds the others up."""

from __future__ import annotations

import http.client
import json
import os
import re
import shutil
import socket
import ssl
import subprocess
import tempfile
import time
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from pathlib import Path
from typing import Any

from launcher.postgres import free_port, is_free
from launcher.stages import ROOT

from cabrio.demo.season import PASSWORD
from cabrio.operations.sign_in import TRIES_MACHINE
from tests.support.bench import report
from tests.support.ground import Ground

HALF_HEADS, STREAMS, WRONG = 200, 50, TRIES_MACHINE + 5
HOME, RIVAL, CROWD, TABLET = "127.0.0.1", "127.0.0.2", "127.0.0.3", "127.0.0.4"
"""Addresses that visitors come from: all of loopback is this machine's."""


def settings(port: int, app: int, folder: Path) -> str:
    """The block of docs/running.md with this ground's ports and its certificate."""
    page = (ROOT / "docs" / "running.md").read_text()
    found = re.search(r"( {4}limit_conn_zone.*?\n {4}\})\n\n", page, re.S)
    assert found is not None, "docs/running.md tells no settings for nginx"
    block = found[1]
    for old, new in (
        ("listen 443 ssl;", f"listen {port} ssl;"),
        ("/etc/ssl/cabrio.pem", f"{folder}/cabrio.pem"),
        ("/etc/ssl/cabrio.key", f"{folder}/cabrio.key"),
        ("http://127.0.0.1:8642", f"http://127.0.0.1:{app}"),
    ):
        assert old in block, f"docs/running.md does not say {old}"
        block = block.replace(old, new)
    kept = "".join(
        f"    {one}_temp_path {folder}/{one};\n"
        for one in ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")
    )
    return (
        f"pid {folder}/pid;\nerror_log {folder}/error.log;\ndaemon off;\n"
        "events { worker_connections 2000; }\n"
        f"http {{\n    access_log off;\n{kept}{block}\n}}\n"
    )


@contextmanager
def nginx(app: int) -> Iterator[int]:
    """nginx before the app on a port of its own."""
    port, folder = free_port(), Path(tempfile.mkdtemp(prefix="cabrio-proxy-"))
    key = [
        "openssl",
        "req",
        "-x509",
        "-newkey",
        "rsa:2048",
        "-nodes",
        "-days",
        "2",
        "-subj",
        "/CN=cabrio.example",
        "-addext",
    ]
    files = ["-keyout", str(folder / "cabrio.key"), "-out", str(folder / "cabrio.pem")]
    name = "subjectAltName=DNS:cabrio.example"
    subprocess.run([*key, name, *files], check=True, stderr=subprocess.DEVNULL)
    (folder / "nginx.conf").write_text(settings(port, app, folder))
    if os.geteuid() == 0:  # its workers are of another user then
        shutil.chown(folder, "www-data")
        for one in folder.iterdir():
            shutil.chown(one, "www-data")
        folder.chmod(0o755)
    running = subprocess.Popen(
        ["nginx", "-c", str(folder / "nginx.conf"), "-p", str(folder), "-e", f"{folder}/error.log"]
    )
    try:
        while is_free(port):
            if running.poll() is not None:
                raise RuntimeError((folder / "error.log").read_text())
            time.sleep(0.05)
        yield port
    finally:
        running.terminate()
        running.wait(10)
        shutil.rmtree(folder, ignore_errors=True)


class Caller:
    """A visitor from an address of his own, over TLS, through the proxy."""

    def __init__(self, port: int, source: str) -> None:
        self.port, self.source, self.cookie, self.token = port, source, "", ""
        self.at = "127.0.0.1" if source.startswith("127.") else source
        self.trust = ssl.create_default_context()
        self.trust.check_hostname = False
        self.trust.verify_mode = ssl.CERT_NONE

    def call(
        self, method: str, path: str, body: Any = None, **headers: str
    ) -> tuple[int, dict[str, Any]]:
        asked = http.client.HTTPSConnection(
            self.at, self.port, timeout=60, context=self.trust, source_address=(self.source, 0)
        )
        sent = {
            "Host": "cabrio.example",
            "Referer": "https://cabrio.example/",
            "Cookie": self.cookie,
            "X-CSRF-Token": self.token,
        }
        if body is not None:
            sent["Content-Type"] = "application/json"
        try:
            asked.request(
                method, path, json.dumps(body) if body is not None else None, sent | headers
            )
            answer = asked.getresponse()
            if set_to := answer.getheader("Set-Cookie"):
                self.cookie = set_to.split(";")[0]
            text = answer.read()
        finally:
            asked.close()
        try:
            found = json.loads(text or b"{}")
        except ValueError:
            found = {}
        return answer.status, found if isinstance(found, dict) else {}

    def sign_in(self, password: str) -> int:
        self.token = self.call("GET", "/api/session")[1]["token"]
        who = {"email": "ines@hollinbank.example", "password": password}
        status, me = self.call("POST", "/api/session", who)
        self.token = me.get("token", self.token)
        return status

    def wire(self) -> ssl.SSLSocket:
        plain = socket.create_connection(
            (self.at, self.port), timeout=20, source_address=(self.source, 0)
        )
        return self.trust.wrap_socket(plain)

    def stream(self) -> ssl.SSLSocket:
        """A page that listens to what others write."""
        one = self.wire()
        head = f"GET /api/live HTTP/1.1\r\nHost: cabrio.example\r\nCookie: {self.cookie}\r\n\r\n"
        one.sendall(head.encode())
        return one


def proxy() -> None:
    """Wrong passwords from one address shut no other out; a spoofed address counts for nothing; half-sent heads
    and live streams hold nobody up."""
    if shutil.which("nginx") is None:
        print("No nginx here, so not tried: apt-get install nginx-light")
        return
    ground = Ground(safe=False)
    try:
        ground.begin(proxies=1)
        with nginx(ground.port) as port, ExitStack() as held:
            _each_for_himself(port)
            _one_body_one_length(port)
            _nobody_holds_up(port, held)
    finally:
        ground.end()


def _each_for_himself(port: int) -> None:
    rival, home = Caller(port, RIVAL), Caller(port, HOME)
    told = []
    for n in range(WRONG):  # each try under another name for himself
        rival.token = rival.token or rival.call("GET", "/api/session")[1]["token"]
        who = {"email": f"nobody{n}@hollinbank.example", "password": "wrong"}
        spoofed = {"X-Forwarded-For": f"198.51.100.{n}"}
        told.append(rival.call("POST", "/api/session", who, **spoofed)[0])
    first = told.index(429) if 429 in told else WRONG
    report("tries of one address until it is held", first, TRIES_MACHINE, "", "")
    report("another address not let in meanwhile", int(home.sign_in(PASSWORD) != 200), 0, "", "")
    if (own := _own_address()) is not None:
        visitor = Caller(port, own)
        status, _ = visitor.call("GET", "/api/metrics", **{"X-Forwarded-For": "127.0.0.1"})
        report("metrics given to a visitor", int(status == 200), 0, "", f"answered {status}")
    secure = home.call("GET", "/api/session")[0]
    report("the signed-in session not known through TLS", int(secure != 200), 0, "", "")


def _own_address() -> str | None:
    """This machine's address on a network, where it has one: a visitor from it is not from loopback."""
    with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        try:
            probe.connect(
                ("192.0.2.200", 9)
            )  # nothing is sent: it only asks which way that would go
        except OSError:
            return None
        found: str = probe.getsockname()[0]
    return None if found.startswith("127.") else found


def _one_body_one_length(port: int) -> None:
    """A request that tells its length in two ways may hide another one: none gets through the proxy."""
    one = Caller(port, HOME).wire()
    with one:
        one.sendall(
            b"POST /api/session HTTP/1.1\r\nHost: cabrio.example\r\nContent-Length: 50\r\n"
            b"Transfer-Encoding: chunked\r\n\r\n0\r\n\r\n"
            b"GET /api/health HTTP/1.1\r\nHost: cabrio.example\r\n\r\n"
        )
        one.settimeout(20)
        told = b""
        while part := one.recv(4096):
            told += part
    refused = told.startswith(b"HTTP/1.1 400") and told.count(b"HTTP/1.1") == 1
    report("a request of two lengths let through", int(not refused), 0, "", "")


def _nobody_holds_up(port: int, held: ExitStack) -> None:
    crowd, tablet, home = Caller(port, CROWD), Caller(port, TABLET), Caller(port, HOME)
    heads = []
    for _ in range(HALF_HEADS):
        one = held.enter_context(crowd.wire())
        one.sendall(b"GET /api/cars HTTP/1.1\r\nHost: cabrio.ex")
        heads.append(one)
    status = tablet.sign_in(PASSWORD)
    report("a tablet not signed in beside 200 half heads", int(status != 200), 0, "", "")
    begun = 0
    for _ in range(STREAMS):
        one = held.enter_context(tablet.stream())
        begun += b" 200 " in one.recv(4096).split(b"\r\n")[0]
    report("of 50 streams not begun", STREAMS - begun, 0, "", "")
    home.sign_in(PASSWORD)
    times = []
    for _ in range(20):
        start = time.perf_counter()
        status, _ = home.call("GET", "/api/cars/1")
        times.append(time.perf_counter() - start if status == 200 else 60.0)
    report(
        "a press beside 200 half heads and 50 streams", max(times), 1.0, "s", "the longest of 20"
    )
    start = time.monotonic()
    gone = sum(_is_let_go(head) for head in heads)
    took = time.monotonic() - start
    report("of 200 half heads not let go of", HALF_HEADS - gone, 0, "", f"after {took:.0f} s")


def _is_let_go(one: ssl.SSLSocket) -> bool:
    """Whether the other side ends a head that is never finished."""
    one.settimeout(20)
    try:
        while one.recv(4096):
            pass
    except TimeoutError:
        return False
    except OSError:
        pass
    return True
