"""Every operation of the API with valid and broken data made from its own document: never an error of ours."""

import warnings
from collections.abc import Iterator
from contextlib import suppress
from typing import Any

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable

from cabrio.api.app import Settings, create_app
from tests import SAME_EXAMPLES
from tests.support.client import INES, WEB, ApiTestCase, Person
from tests.support.routes import routes

TRIES = 4
ENDS_THE_SIGN_IN = {"DELETE /api/session", "POST /api/session", "POST /api/session/demo"}
THERE = {
    "car_id": 1,
    "number": 2,
    "reading_id": 1,
    "session_id": 1,
    "run_id": 1,
    "event_id": 1,
    "watched_id": 1,
    "person_id": 5,
    "procedure": "circuit_build",
}
QUIET = settings(
    max_examples=TRIES,
    deadline=None,
    derandomize=SAME_EXAMPLES,
    database=None,
    phases=[Phase.explicit, Phase.generate],
    suppress_health_check=list(HealthCheck),
)

NASTY = (None, True, -1, 1e308, 10**30, "", "1e308", [], [None], {"x": None}, ["", 1e308])


def replaced(body: Any) -> Iterator[Any]:
    """The body with each thing in it, one at a time, in the place of which stands what no form sends."""
    yield from NASTY
    for at, inner in enumerate(body) if isinstance(body, list) else ():
        yield from ([*body[:at], other, *body[at + 1 :]] for other in replaced(inner))
    for name, inner in body.items() if isinstance(body, dict) else ():
        yield from ({**body, name: other} for other in replaced(inner))


class Replaced(ApiTestCase):
    def test_no_value_in_any_request_leads_to_an_error_of_ours_or_breaks_a_car(self) -> None:
        ines, tried = self.person(INES), 0
        for method, path, body in routes(self.app):
            if method in ("GET", "DELETE") or path == "/api/session/password":
                continue
            for other in replaced(body or {}):
                tried += 1
                answer = ines.call(method, path, other)
                if answer.status_code >= 500:
                    self.fail(f"{answer.status_code}: {method} {path} {other}")
            with self.subTest(f"what {method} {path} left"):
                self.assertEqual(ines.ok("GET", "/api/cars")["broken"], [])
                for view in ("", "/logbook", "/file"):
                    ines.ok("GET", f"/api/cars/1{view}")
        self.assertGreater(tried, 1500)


class Fuzzed(ApiTestCase):
    def test_no_operation_answers_with_an_error_of_ours(self) -> None:
        app = create_app(Settings("fuzz", WEB, demo=True), self.app_engine)
        app.testing = False
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of the tool's own making
            schema = schemathesis.openapi.from_wsgi("/api/openapi.json", app)
            operations = [one.ok() for one in schema.get_all_operations()]
        tried: dict[str, set[int]] = {}
        for operation in operations:
            name = f"{operation.method.upper()} {operation.path}"
            if name in ENDS_THE_SIGN_IN or name.startswith("DELETE /api/sign-ins"):
                continue
            with self.subTest(name), warnings.catch_warnings():
                warnings.simplefilter("ignore")
                tried[name] = self.fuzz(app, operation)
        self.assertGreater(len(tried), 80)
        answered = set.union(*tried.values())
        self.assertTrue({200, 404, 422} <= answered, answered)

    def fuzz(self, app: Any, operation: Any) -> set[int]:
        ines = Person(app)
        ines.sign_in(INES)
        ines.understand()
        cookie = ines.http.get_cookie("cabrio")
        assert cookie is not None
        headers, cookies = {"X-CSRF-Token": ines.token}, {"cabrio": cookie.value}
        seen: set[int] = set()

        def ask(case: Any) -> None:
            answer = case.call(headers=headers, cookies=cookies)
            seen.add(answer.status_code)
            if answer.status_code >= 500:
                self.fail(f"{answer.status_code} to {case.as_curl_command()[:600]}")
            if "json" in answer.headers.get("content-type", [""])[0]:
                operation.validate_response(answer)  # a refusal is described, too

        def ask_of_what_is_there(case: Any) -> None:
            there = {name: THERE[name] for name in case.path_parameters or {} if name in THERE}
            if there:
                case.path_parameters.update(there)
            ask(case)

        valid = operation.as_strategy(generation_mode=schemathesis.GenerationMode.POSITIVE)
        QUIET(given(case=valid)(ask_of_what_is_there))()
        broken = operation.as_strategy(generation_mode=schemathesis.GenerationMode.NEGATIVE)
        with suppress(Unsatisfiable):  # where nothing is sent nothing can be broken
            QUIET(given(case=broken)(ask))()
        return seen
