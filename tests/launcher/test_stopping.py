"""Told to stop, the server finishes what is at work and lets nobody new in."""

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
        self.assertEqual([len(one) for one in self.answers], [200_000])
        self.serving.join(10)
        self.assertFalse(self.serving.is_alive())

    def test_with_nothing_at_work_it_stops_at_once(self) -> None:
        self.stop.set()
        self.serving.join(5)
        self.assertFalse(self.serving.is_alive())
