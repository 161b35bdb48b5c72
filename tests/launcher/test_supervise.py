"""What died is started again: the app, longer each time it dies at once; one that answers nobody, too."""

import sys
import unittest
from unittest import mock

from launcher.postgres import free_port
from launcher.supervise import App, supervise_app

from launcher import supervise

SERVES = """
import http.server, sys
class Answer(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        self.send_response(int(sys.argv[2])); self.end_headers()
    def log_message(self, *_): pass
http.server.HTTPServer(("127.0.0.1", int(sys.argv[1])), Answer).serve_forever()
"""


class KeptUp(unittest.TestCase):
    def setUp(self) -> None:
        for name, value in (("POLL_S", 0.2), ("MAX_MISSED_CHECKS", 3), ("WAITS", (0.01, 0.02))):
            patch = mock.patch.object(supervise, name, value)
            patch.start()
            self.addCleanup(patch.stop)
        self.said: list[str] = []
        self.looked = 0

    def app(self, code: str, *arguments: str) -> App:
        port = free_port()
        command = [sys.executable, "-c", code, str(port), *arguments]
        app = App(command, {}, f"http://127.0.0.1:{port}")
        self.addCleanup(app.stop)
        return app

    def look(self) -> None:
        self.looked += 1

    def test_one_that_was_killed_serves_again(self) -> None:
        app = self.app(SERVES, "200")
        app.wait_until_it_answers()
        first = app.process.pid
        app.process.kill()
        supervise_app(app, self.look, self.said.append, looks=1)
        app.wait_until_it_answers()
        self.assertNotEqual(app.process.pid, first)
        self.assertIn("ended by itself", self.said[0])

    def test_one_that_dies_at_once_is_tried_again_and_again_ever_more_slowly(self) -> None:
        app = self.app("raise SystemExit(3)")
        with mock.patch.object(supervise, "pause") as slept:
            supervise_app(app, self.look, self.said.append, looks=4)
        self.assertEqual(len(self.said), 4)
        self.assertIn("code 3", self.said[0])
        waits = [one.args[0] for one in slept.call_args_list]
        self.assertEqual(waits, sorted(waits))

    def test_one_that_answers_nobody_is_started_again(self) -> None:
        app = self.app("import time; time.sleep(60)")
        first = app.process.pid
        supervise_app(app, self.look, self.said.append, looks=3)
        self.assertNotEqual(app.process.pid, first)
        self.assertIn("answers nobody", self.said[0])
        self.assertEqual(self.looked, 3)

    def test_one_that_serves_is_left_alone(self) -> None:
        app = self.app(SERVES, "200")
        app.wait_until_it_answers()
        first = app.process.pid
        supervise_app(app, self.look, self.said.append, looks=3)
        self.assertEqual((app.process.pid, self.said), (first, []))
