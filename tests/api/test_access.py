"""A number for every request, a line in the log, counts to fetch; what others did is told."""

import io
import json
import logging
import tempfile
from contextlib import redirect_stdout
from pathlib import Path
from unittest import mock

import structlog

from cabrio.api.app import Settings, create_app
from cabrio.api.request_log import log_to, plain_errors
from tests.support.client import INES, TEO, WEB, ApiTestCase, Person, pads


class Numbered(ApiTestCase):
    def test_every_answer_has_a_number_and_a_proxy_s_is_kept(self) -> None:
        http = self.app.test_client()
        first, second = (http.get("/api/health").headers["X-Request-Id"] for _ in range(2))
        self.assertNotEqual(first, second)
        kept = http.get("/api/health", headers={"X-Request-Id": "edge-0123456789"})
        self.assertEqual(kept.headers["X-Request-Id"], "edge-0123456789")
        forged = http.get("/api/health", headers={"X-Request-Id": "a b"})
        self.assertNotEqual(forged.headers["X-Request-Id"], "a b")

    def test_what_broke_is_found_by_the_number_on_the_page(self) -> None:
        app = create_app(Settings("x", WEB), self.app_engine)

        @app.get("/api/broken-on-purpose")
        def broken() -> None:
            raise RuntimeError("on purpose")

        answer = app.test_client().get("/api/broken-on-purpose")
        self.assertEqual(answer.status_code, 500)
        number = answer.headers["X-Request-Id"]
        self.assertEqual(answer.get_json()["request"], number)
        self.assertIn(number, answer.get_json()["detail"])

    def test_an_error_is_logged_without_what_the_request_held(self) -> None:
        app = create_app(Settings("x", WEB), self.app_engine)

        @app.post("/api/broken-on-purpose")
        def broken() -> None:
            word = "a " + "pass" + "word"
            raise RuntimeError(f"{len(word)} letters")

        told = io.StringIO()
        self.addCleanup(structlog.reset_defaults)
        plain_errors()
        with redirect_stdout(told):
            visitor = Person(app)
            self.assertEqual(visitor.call("POST", "/api/broken-on-purpose").status_code, 500)
        self.assertIn("10 letters", told.getvalue())
        self.assertIn("in broken", told.getvalue())
        self.assertNotIn("a password", told.getvalue())

    def test_what_breaks_in_the_middle_is_a_line_too(self) -> None:
        ines = self.person(INES)
        with tempfile.TemporaryDirectory() as folder:
            log_to(file := f"{folder}/access.log")
            self.addCleanup(log_to, "")
            with mock.patch("cabrio.operations.bench_view.against", side_effect=RuntimeError):
                answer = ines.call("GET", "/api/cars/1")
            lines = Path(file).read_text().splitlines()
        self.assertEqual((answer.status_code, answer.get_json()["code"]), (500, "unexpected"))
        self.assertEqual(json.loads(lines[-1])["person"], 1)

    def test_the_log_has_a_line_a_request_and_no_word_of_what_was_sent(self) -> None:
        with tempfile.TemporaryDirectory() as folder:
            file = Path(folder) / "deep" / "access.log"
            log_to(str(file))
            self.addCleanup(log_to, "")
            visitor = Person(self.app)
            visitor.sign_in(INES, "not the password")
            visitor.call("GET", "/api/cars/1?secret=word")
            for handler in logging.getLogger("cabrio.access").handlers:
                handler.flush()
            text = file.read_text()
        lines = [json.loads(one) for one in text.splitlines()]
        self.assertEqual([line["status"] for line in lines], [200, 403, 401])
        self.assertEqual(lines[1]["path"], "/api/session")
        self.assertTrue(all(line["ms"] >= 0 and line["id"] for line in lines))
        self.assertNotIn("not the password", text)
        self.assertNotIn("secret", text)

    def test_counts_are_by_route_and_for_this_machine_alone(self) -> None:
        ines = self.person(INES)
        for car in (1, 2, 3):
            ines.bench(car)
        told = ines.http.get("/api/metrics")
        self.assertIn("text/plain", told.content_type)
        text = told.get_data(as_text=True)
        route = 'method="GET",route="/api/cars/<int:car_id>",status="200"'
        self.assertRegex(text, r"cabrio_requests_total\{" + route + r"\} [3-9]")
        self.assertNotIn("/api/cars/2", text)
        away = {"REMOTE_ADDR": "10.0.0.4"}
        self.assertEqual(ines.http.get("/api/metrics", environ_overrides=away).status_code, 404)
        kept = create_app(
            Settings("x", WEB, metrics_token="a token"), self.app_engine
        ).test_client()
        self.assertEqual(kept.get("/api/metrics").status_code, 404)
        shown = {"Authorization": "Bearer a token"}
        told = kept.get("/api/metrics", headers=shown, environ_overrides=away)
        self.assertEqual(told.status_code, 200)

    def test_behind_a_proxy_the_visitor_is_who_it_says_and_only_then(self) -> None:
        said = {"X-Forwarded-For": "203.0.113.9"}
        for proxies, status in ((0, 200), (1, 404)):
            app = create_app(Settings("x", WEB, proxies=proxies), self.app_engine)
            told = app.test_client().get("/api/metrics", headers=said)
            self.assertEqual(told.status_code, status)


class Told(ApiTestCase):
    def test_what_others_did_is_told_and_not_what_one_did_oneself(self) -> None:
        ines, teo = self.person(INES), self.person(TEO)
        at = ines.ok("GET", "/api/changes")
        self.assertEqual((at["cars"], at["more"]), ([], False))
        teo.ok("POST", "/api/cars/2/readings", pads([250, 251, 262, 263]))
        told = ines.ok("GET", f"/api/changes?after={at['at']}")
        self.assertEqual((told["cars"], told["more"]), ([2], False))
        own = teo.ok("GET", f"/api/changes?after={at['at']}")
        self.assertEqual((own["cars"], own["at"]), ([], told["at"]))
        # a draft is its author's own, signing in is nobody's news, a step of the work is everybody's
        teo.draft(("bar_hole", "front", 2), car=3)
        self.person(TEO)
        quiet = ines.ok("GET", f"/api/changes?after={told['at']}")
        self.assertEqual((quiet["cars"], quiet["more"]), ([], False))
        teo.ok("POST", "/api/cars/1/walks", {"procedure": "circuit_build"})
        body = {"procedure": "circuit_build", "step": "Pads"}
        if teo.call("POST", "/api/cars/1/ticks", body).status_code == 200:
            self.assertTrue(ines.ok("GET", f"/api/changes?after={quiet['at']}")["more"])
