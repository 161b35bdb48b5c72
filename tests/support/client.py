"""A person at the API: signs in, carries the token, speaks JSON."""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from cabrio.api.app import Settings, create_app
from cabrio.core.knowledge import knowledge
from cabrio.demo.season import PASSWORD

from .database import DatabaseTestCase

WEB = Path(os.environ.get("CABRIO_WEB", "web/dist"))
INES, TEO, OKE, MARA, PELL = (
    f"{name}@hollinbank.example" for name in ("ines", "teo", "oke", "mara", "pell")
)


class Person:
    """One browser's session."""

    def __init__(self, app: Any) -> None:
        self.http = app.test_client()
        self.token = ""
        self.token = self.ok("GET", "/api/session")["token"]

    def sign_in(self, email: str, password: str = PASSWORD) -> Any:
        answer = self.call("POST", "/api/session", {"email": email, "password": password})
        if answer.status_code == 200:
            self.token = answer.get_json()["token"]
        return answer

    def call(self, method: str, path: str, body: Any = None, seen: str | None = None) -> Any:
        """What is text already goes as it is. `seen` is the version that was seen of what is corrected."""
        headers = {"X-CSRF-Token": self.token} | ({"If-Match": seen} if seen is not None else {})
        sent = (
            {"data": body, "content_type": "application/json"}
            if isinstance(body, str | bytes)
            else {"json": body}
        )
        return self.http.open(path, method=method, headers=headers, **sent)

    def ok(self, method: str, path: str, body: Any = None) -> Any:
        answer = self.call(method, path, body)
        if answer.status_code != 200:
            raise AssertionError(
                f"{method} {path}: {answer.status_code} {answer.get_data(as_text=True)}"
            )
        return answer.get_json()

    def refused(self, status: int, method: str, path: str, body: Any = None) -> Any:
        answer = self.call(method, path, body)
        problem = answer.get_json()
        if answer.status_code != status or answer.content_type != "application/problem+json":
            raise AssertionError(f"{method} {path}: {answer.status_code} {problem}, not {status}")
        return problem

    # what people do, as verbs
    def bench(self, car: int = 1) -> Any:
        return self.ok("GET", f"/api/cars/{car}")

    def add_car(self, **more: Any) -> int:
        """A drag car, but for what is said otherwise."""
        body = {
            "name": "Nova",
            "discipline": "drag",
            "use": "drag",
            "rear_layout": "parallel_four_link",
        }
        return int(self.ok("POST", "/api/cars", body | more)["id"])

    def draft(
        self, *changes: tuple[str, str, Any], car: int = 1, version: int | None = None, **words: Any
    ) -> Any:
        if version is None:
            version = self.bench(car)["slip"]["version"]
        body = {
            "version": version,
            "changes": [{"name": n, "place": p, "new": v} for n, p, v in changes],
            **words,
        }
        return self.ok("PUT", f"/api/cars/{car}/slip", body)

    def understand(self) -> None:
        """Acknowledge the caution of every station, where this role takes readings."""
        self.call("POST", "/api/session/understood", {"stations": [*knowledge().stations_by_id]})

    def book(self, car: int = 1) -> int:
        version = self.bench(car)["slip"]["version"]
        return int(self.ok("POST", f"/api/cars/{car}/slip/book", {"version": version})["revision"])


class ApiTestCase(DatabaseTestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.app = create_app(Settings(secret="test", web=WEB, demo=cls.demo), cls.app_engine)
        cls.app.testing = False  # errors must leave as problems, as they do in service

    def person(self, email: str) -> Person:
        person = Person(self.app)
        self.assertEqual(person.sign_in(email).status_code, 200)
        person.understand()
        return person


ALL_HELD = dict.fromkeys(knowledge().readings["pads"].conditions, True)


def pads(*rows: list[Any], **more: Any) -> dict[str, Any]:
    """A pad reading, one row per settle, its conditions all held."""
    return {"kind": "pads", "repeats": {"pad_mass": list(rows)}, "conditions": ALL_HELD, **more}
