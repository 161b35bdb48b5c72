"""The server by itself: told to stop it finishes what is at work; a body has one length."""

import socket
import threading
import time
import unittest
import urllib.error
import urllib.request
from collections.abc import Iterable
from typing import Any

from launcher.postgres import free_port

from cabrio.serving import Server, run


class Stopping(unittest.TestCase):
    def setUp(self) -> None:
        self.begun, self.go_on, self.stop = threading.Event(), threading.Event(), threading.Event()
        self.port = free_port()
        made = Server(self.slow, "127.0.0.1", self.port, 1000)
        self.serving = threading.Thread(target=run, args=(made, self.stop), daemon=True)
        self.serving.start()
        self.answers: list[bytes] = []

    def slow(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        self.begun.set()
        self.go_on.wait(10)
        start_response("200 OK", [("Content-Length", "200000")])
        return [b"x" * 200_000]

    def ask(self) -> None:
        opener = urllib.request.build_opener(urllib.request.ProxyHandler({}))
        with opener.open(f"http://127.0.0.1:{self.port}/", timeout=20) as answer:
            self.answers.append(answer.read())

    def test_what_is_at_work_is_answered_whole_and_nobody_new_is_let_in(self) -> None:
        asking = threading.Thread(target=self.ask)
        asking.start()
        self.assertTrue(self.begun.wait(5))
        self.stop.set()
        time.sleep(0.2)
        with self.assertRaises(urllib.error.HTTPError) as refused:
            self.ask()
        self.assertEqual(refused.exception.code, 503)
        self.assertTrue(self.serving.is_alive())
        self.go_on.set()
        asking.join(10)
        self.assertEqual([len(answer) for answer in self.answers], [200_000])
        self.serving.join(10)
        self.assertFalse(self.serving.is_alive())

    def test_with_nothing_at_work_it_stops_at_once(self) -> None:
        self.stop.set()
        self.serving.join(5)
        self.assertFalse(self.serving.is_alive())


class Lengths(unittest.TestCase):
    """A request that tells its length in two ways is refused, or read by the way that the standard puts first."""

    def setUp(self) -> None:
        self.bodies: list[bytes] = []
        self.port = free_port()
        made = Server(self.keep, "127.0.0.1", self.port, 1000)
        stop = threading.Event()
        threading.Thread(target=run, args=(made, stop), daemon=True).start()
        self.addCleanup(stop.set)

    def keep(self, environ: dict[str, Any], start_response: Any) -> Iterable[bytes]:
        self.bodies.append(environ["wsgi.input"].read())
        start_response("200 OK", [("Content-Length", "0")])
        return []

    def sent(self, headers: bytes, body: bytes) -> bytes:
        with socket.create_connection(("127.0.0.1", self.port), timeout=30) as one:
            head = b"POST / HTTP/1.1\r\nHost: x\r\nConnection: close\r\n"
            one.sendall(head + headers + b"\r\n" + body)
            told = b""
            while part := one.recv(4096):
                told += part
            return told.split(b"\r\n")[0]

    def test_two_lengths_and_unknown_ways_are_refused(self) -> None:
        for headers in (
            b"Content-Length: 4\r\nContent-Length: 5\r\n",
            b"Content-Length: +4\r\n",
            b"Transfer-Encoding: xchunked\r\nContent-Length: 4\r\n",
            b"Transfer-Encoding: chunked\r\nTransfer-Encoding: identity\r\n",
        ):
            with self.subTest(headers):
                self.assertRegex(self.sent(headers, b"abcd"), b" (400|501) ")
        self.assertEqual(self.bodies, [])

    def test_chunks_count_where_a_length_is_told_besides(self) -> None:
        both = b"Content-Length: 4\r\nTransfer-Encoding: chunked\r\n"
        self.assertIn(b" 200 ", self.sent(both, b"2\r\nab\r\n0\r\n\r\n"))
        self.assertEqual(self.bodies, [b"ab"])
