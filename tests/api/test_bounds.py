"""Everything from outside has an end: texts, lists, numbers, days, ids, bodies. One place tells them."""

from __future__ import annotations

import inspect
import json
import socket
import threading
import time
import unittest
from collections.abc import Iterator
from typing import Any

from sqlalchemy.engine import make_url

from cabrio.api import schemas
from cabrio.api.app import POLICY, Settings, create_app
from cabrio.api.bodies import LARGER, LARGEST, USUAL
from cabrio.api.schemas.common import In
from cabrio.core.catalog.units import MAX_FIGURE_CHARS, parse
from cabrio.core.errors import NotANumber
from cabrio.serving import WAITING, WORKERS, Gate, Server
from cabrio.storage.database import open_engine
from tests.support.client import INES, WEB, ApiTestCase

END = {"string": "maxLength", "array": "maxItems", "object": "maxProperties", "integer": "maximum"}


def unbounded(schema: Any, where: str, defs: dict[str, Any]) -> list[str]:
    """Where a JSON Schema lets something in without an end."""
    if "$ref" in schema:
        return unbounded(defs[schema["$ref"].rsplit("/", 1)[-1]], where, defs)
    found = [
        place
        for inner, inside in inner_schemas(schema)
        for place in unbounded(inside, f"{where}{inner}", defs)
    ]
    kind = schema.get("type")
    if "enum" in schema or "const" in schema:
        return found
    if kind == "object":
        if "properties" not in schema and "maxProperties" not in schema:
            found.append(where)
    elif kind == "string" and schema.get("format") not in ("date", "date-time"):
        found += [] if "maxLength" in schema else [where]
    elif kind in END and kind != "string" and END[kind] not in schema and where != "prefix":
        found.append(where)
    return found


def inner_schemas(schema: Any) -> Iterator[tuple[str, Any]]:
    """The schemas within a schema, each with where it stands."""
    for name in ("anyOf", "oneOf", "allOf", "prefixItems"):
        for i, one in enumerate(schema.get(name, [])):
            yield f".{i}", one
    for name, one in schema.get("properties", {}).items():
        yield f".{name}", one
    for name, where in (("additionalProperties", ".*"), ("items", "[]")):
        if isinstance(schema.get(name), dict):
            yield where, schema[name]


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
        with self.assertRaisesRegex(NotANumber, f"At most {MAX_FIGURE_CHARS} letters"):
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
    """Beyond what may work and wait the answer is to come back, and streams take no place from the others."""

    def setUp(self) -> None:
        self.go_on = threading.Event()

    def served(self, app: Any, streams: int = 0) -> Server:
        made = Server(app, "127.0.0.1", 0, LARGEST, streams)
        made.start()
        self.addCleanup(made.stop)
        self.addCleanup(self.go_on.set)
        return made

    def ask(self, made: Server, path: bytes) -> socket.socket:
        one = socket.create_connection(("127.0.0.1", made.port), timeout=20)
        self.addCleanup(one.close)
        one.sendall(b"GET " + path + b" HTTP/1.1\r\nHost: here\r\n\r\n")
        return one

    def told(self, one: socket.socket, *ends: bytes) -> bytes:
        told = b""
        while not told.rstrip().endswith(ends):
            more = one.recv(4096)
            if not more:
                raise AssertionError(f"ended after {told!r}")
            told += more
        return told

    def test_beyond_what_may_wait_the_answer_is_to_come_back(self) -> None:
        def app(environ: Any, start: Any) -> Any:
            self.go_on.wait(20)
            start("200 OK", [("Content-Length", "2")])
            return [b"ok"]

        made = self.served(app)
        asked = [self.ask(made, b"/") for _ in range(WORKERS + WAITING)]
        for _ in range(400):
            if made.gate.waiting == WAITING:
                break
            time.sleep(0.05)
        self.assertEqual((made.gate.at_work, made.gate.waiting), (WORKERS, WAITING))
        refused = self.told(self.ask(made, b"/"), b"}")
        self.assertTrue(refused.startswith(b"HTTP/1.1 503"))
        self.assertIn(b"Retry-After", refused)
        self.assertIn(b"try again", refused)
        self.go_on.set()
        for one in asked:
            self.assertIn(b"200 OK", self.told(one, b"ok"))
        for _ in range(400):  # a place comes back a moment after its answer has left
            if made.gate.is_empty:
                break
            time.sleep(0.05)
        self.assertTrue(made.gate.is_empty)

    def test_streams_take_no_worker_from_the_others(self) -> None:
        def going_on() -> Iterator[bytes]:
            yield b"begun"
            self.go_on.wait(20)

        def app(environ: Any, start: Any) -> Any:
            if environ["PATH_INFO"] == "/stream":
                start("200 OK", [("Content-Type", "text/event-stream")])
                return going_on()
            start("200 OK", [("Content-Length", "2")])
            return [b"ok"]

        made = self.served(app, streams=WORKERS + 8)
        for _ in range(WORKERS + 8):
            self.assertIn(b"begun", self.told(self.ask(made, b"/stream"), b"begun"))
        self.assertEqual(made.gate.at_work, 0)
        self.assertIn(b"ok", self.told(self.ask(made, b"/"), b"ok"))

    def test_a_place_comes_back_where_the_app_fails(self) -> None:
        def app(environ: Any, start: Any) -> Any:
            raise ValueError("broken")

        gate = Gate(app, workers=1)
        for _ in range(3):
            with self.assertRaisesRegex(ValueError, "broken"):
                gate({}, print)
        self.assertTrue(gate.is_empty)
