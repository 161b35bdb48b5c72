"""Everything from outside has an end: texts, lists, numbers, days, ids, bodies. One place tells them."""

from __future__ import annotations

import inspect
import json
import socket
import threading
import time
import unittest
from collections.abc import Iterator
from contextlib import suppress
from typing import Any

from sqlalchemy.engine import make_url

from cabrio.api import schemas
from cabrio.api.app import POLICY, Settings, create_app
from cabrio.api.bodies import LARGER, LARGEST, USUAL
from cabrio.api.schemas.common import In
from cabrio.core.catalog.units import LONGEST, parse
from cabrio.core.errors import NotANumber
from cabrio.serving import WORKERS, Overload, make_room, server
from cabrio.storage.database import open_engine
from tests.support.client import INES, WEB, ApiTestCase

END = {"string": "maxLength", "array": "maxItems", "object": "maxProperties", "integer": "maximum"}


def unbounded(schema: Any, where: str, defs: dict[str, Any]) -> list[str]:
    """Where a JSON Schema lets something in without an end."""
    if "$ref" in schema:
        return unbounded(defs[schema["$ref"].rsplit("/", 1)[-1]], where, defs)
    found = []
    for name in ("anyOf", "oneOf", "allOf", "prefixItems"):
        for i, one in enumerate(schema.get(name, [])):
            found += unbounded(one, f"{where}.{i}", defs)
    kind = schema.get("type")
    if "enum" in schema or "const" in schema:
        return found
    if kind == "object":
        for name, one in schema.get("properties", {}).items():
            found += unbounded(one, f"{where}.{name}", defs)
        more = schema.get("additionalProperties")
        if isinstance(more, dict):
            found += unbounded(more, f"{where}.*", defs)
        if "properties" not in schema and "maxProperties" not in schema:
            found.append(where)
    elif kind == "string" and schema.get("format") not in ("date", "date-time"):
        found += [] if "maxLength" in schema else [where]
    elif kind in END and kind != "string" and END[kind] not in schema and where != "prefix":
        found.append(where)
    if kind == "array" and isinstance(schema.get("items"), dict):
        found += unbounded(schema["items"], f"{where}[]", defs)
    return found


class Declared(unittest.TestCase):
    def test_nothing_is_taken_in_without_an_end(self) -> None:
        taken = [
            model
            for _, model in inspect.getmembers(schemas, inspect.isclass)
            if issubclass(model, In) and model is not In
        ]
        self.assertGreater(len(taken), 50)
        for model in taken:
            schema = model.model_json_schema()
            with self.subTest(model.__name__):
                self.assertEqual(unbounded(schema, model.__name__, schema.get("$defs", {})), [])

    def test_what_may_be_larger_is_a_request_there_is(self) -> None:
        app = create_app(Settings("x", WEB), None)
        self.assertLessEqual(set(LARGER), set(app.view_functions))
        self.assertEqual(max(LARGER.values()), LARGEST)

    def test_a_long_figure_is_not_even_looked_at(self) -> None:
        with self.assertRaisesRegex(NotANumber, f"At most {LONGEST} letters"):
            parse("1 " + "m" * 40_000, "dimension")
        self.assertAlmostEqual(parse("  9 mm" + " " * 40, "dimension"), 0.009)


class Refused(ApiTestCase):
    def test_times_that_no_calendar_has_room_for(self) -> None:
        ines = self.person(INES)
        event = ines.ok("GET", "/api/cars/1/logbook")["events"][0]["id"]
        session = {"event_id": event, "name": "S", "kind": "test"}
        for at in (
            "9999-12-31T23:59:59-23:00",
            "0001-01-01T00:00:00+14:00",
            "1949-12-31T10:00:00Z",
            "2101-01-01T00:00:00Z",
            "2026-11-01T09:00:00",
        ):
            told = ines.refused(422, "POST", "/api/cars/1/sessions", session | {"starts_at": at})
            self.assertEqual(told["errors"][0]["number"], "starts_at", at)
        for day in ("0001-01-01", "9999-12-31"):
            body = {"name": "E", "starts_on": day, "ends_on": day}
            ines.refused(422, "POST", "/api/events", body)
        ines.ok("GET", "/api/cars")
        ines.ok("GET", "/api/cars/1/logbook")

    def test_ids_past_what_a_row_can_have(self) -> None:
        ines = self.person(INES)
        for at in (2**31, 2**63, 10**40):
            ines.refused(404, "GET", f"/api/cars/{at}")
            ines.refused(404, "POST", f"/api/cars/1/sessions/{at}/runs", {})
            told = ines.refused(422, "POST", "/api/cars/1/copy", {"name": "x" * 121})
            self.assertIn("at most 120 letters", told["detail"])
            ines.refused(422, "PUT", "/api/cars/1/slip", {"version": at, "changes": []})
            ines.refused(422, "GET", f"/api/cars/1/compare?left={at}&right=1")

    def test_a_large_body_is_refused_at_its_head(self) -> None:
        ines = self.person(INES)
        much = json.dumps({"name": "x" * USUAL})
        answer = ines.http.post(
            "/api/events",
            data=much,
            headers={"X-CSRF-Token": ines.token, "Content-Type": "application/json"},
        )
        self.assertEqual(answer.status_code, 413)
        self.assertIn("64 kB", answer.get_json()["detail"])
        told = ines.refused(422, "POST", "/api/cars/import", "x" * (3 * USUAL))
        self.assertIn("breaks at line 1", told["detail"])  # read, and found to be no file

    def test_a_request_wrong_in_a_thousand_places_is_answered_shortly(self) -> None:
        ines = self.person(INES)
        answer = ines.call("POST", "/api/session", {f"f{i}": i for i in range(4_000)})
        self.assertEqual(answer.status_code, 422)
        self.assertLess(len(answer.data), 10_000)

    def test_the_app_and_its_database_are_asked_apart(self) -> None:
        ines = self.person(INES)
        self.assertEqual(ines.ok("GET", "/api/ready"), {"status": "ready"})
        nowhere = make_url(self.url).set(host="127.0.0.1", port=1)
        engine = open_engine(nowhere.render_as_string(hide_password=False))
        self.addCleanup(engine.dispose)
        away = create_app(Settings("x", WEB), engine).test_client()
        self.assertEqual(away.get("/api/health").status_code, 200)
        answer = away.get("/api/ready")
        self.assertEqual(answer.status_code, 503)
        self.assertEqual(answer.headers["Retry-After"], "5")
        self.assertIn("does not answer", answer.get_json()["detail"])


class Headers(ApiTestCase):
    def test_every_answer_tells_the_browser_what_to_keep_to(self) -> None:
        ines = self.person(INES)
        for path in ("/", "/cars/1/plan", "/api/health", "/api/cars/1", "/api/cars/999"):
            answer = ines.http.get(path)
            with self.subTest(path):
                for name, value in POLICY.items():
                    self.assertEqual(answer.headers[name], value)
                self.assertNotIn("Strict-Transport-Security", answer.headers)
            answer.close()
        behind = create_app(Settings("x", WEB, secure=True), self.engine).test_client()
        told = behind.get("/api/health").headers["Strict-Transport-Security"]
        self.assertIn("max-age=", told)

    def test_what_is_no_page_is_not_answered_as_one(self) -> None:
        ines = self.person(INES)
        for path in ("/assets/nothing.js", "/assets/../.built", "/api/nothing"):
            answer = ines.http.get(path)
            self.assertEqual(answer.status_code, 404, path)
            self.assertEqual(answer.content_type, "application/problem+json")
        for path in ("/.built", "/" + "a" * 5_000, "/" + "a/" * 2_500, "/..%2f.built", "/%00"):
            page = ines.http.get(path)
            self.assertEqual(page.content_type, "text/html; charset=utf-8", path[:20])
            self.assertIn(b"<!doctype html>", page.data.lower())
            page.close()
        self.assertEqual(ines.http.get("/assets/" + "a" * 5_000).status_code, 404)


class Busy(unittest.TestCase):
    def test_beyond_what_may_wait_the_answer_is_to_come_back(self) -> None:
        told: list[Any] = []
        waiting = [3]
        app = Overload(lambda *_: [b"worked"], lambda: waiting[0], most=3)
        self.assertEqual(list(app({}, lambda *given: told.append(given))), [b"worked"])
        waiting[0] = 4
        body = b"".join(app({}, lambda *given: told.append(given)))
        self.assertIn("try again", json.loads(body)["detail"])
        status, headers = told[-1]
        self.assertTrue(status.startswith("503"))
        self.assertIn("Retry-After", dict(headers))

    def test_streams_take_no_worker_from_the_others(self) -> None:
        go_on = threading.Event()
        self.addCleanup(go_on.set)

        def going_on() -> Iterator[bytes]:
            yield b"begun"
            go_on.wait(20)

        def app(environ: Any, start: Any) -> Any:
            start("200 OK", [("Content-Type", "text/plain")])
            return going_on() if environ["PATH_INFO"] == "/stream" else [b"ok"]

        made = server(app, "127.0.0.1", 0, LARGEST)
        thread = threading.Thread(target=made.run, daemon=True)
        thread.start()
        made_room = WORKERS + 8
        make_room(made, made_room)

        def ask(path: bytes) -> tuple[socket.socket, bytes]:
            one = socket.create_connection(("127.0.0.1", made.effective_port), timeout=10)
            self.addCleanup(one.close)
            one.sendall(b"GET " + path + b" HTTP/1.1\r\nHost: here\r\n\r\n")
            told = b""
            while not told.rstrip().endswith((b"begun", b"ok")):
                told += one.recv(4096)
            return one, told

        for _ in range(made_room):
            self.assertIn(b"begun", ask(b"/stream")[1])
        self.assertIn(b"ok", ask(b"/")[1])
        self.assertEqual(len(made.task_dispatcher.threads), WORKERS + made_room)
        go_on.set()
        make_room(made, 0)
        for _ in range(100):
            if len(made.task_dispatcher.threads) == WORKERS:
                break
            time.sleep(0.05)
        self.assertEqual(len(made.task_dispatcher.threads), WORKERS)
        self.assertIn(b"ok", ask(b"/")[1])
        made.task_dispatcher.shutdown()
        with suppress(OSError):
            made.trigger.pull_trigger(made.close)
        thread.join(5)

    def test_idle_connections_shut_nobody_out(self) -> None:
        def app(_: Any, start: Any) -> list[bytes]:
            start("200 OK", [("Content-Length", "2")])
            return [b"ok"]

        made = server(app, "127.0.0.1", 0, LARGEST)
        thread = threading.Thread(target=made.run, daemon=True)
        thread.start()
        idle = []
        try:
            for _ in range(250):
                one = socket.create_connection(("127.0.0.1", made.effective_port), timeout=10)
                idle.append(one)
            with socket.create_connection(("127.0.0.1", made.effective_port), timeout=10) as asking:
                asking.sendall(b"GET / HTTP/1.1\r\nHost: here\r\nConnection: close\r\n\r\n")
                self.assertTrue(asking.recv(4096).startswith(b"HTTP/1.1 200"))
        finally:
            for one in idle:
                one.close()
            made.task_dispatcher.shutdown()
            made.trigger.pull_trigger(made.close)
            thread.join(timeout=5)
