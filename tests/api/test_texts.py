"""Texts that the database cannot take are refused by every request, before anything is done."""

from __future__ import annotations

import json

from tests.support.client import INES, ApiTestCase


class Texts(ApiTestCase):
    def test_a_nul_and_half_a_pair_of_surrogates(self) -> None:
        ines = self.person(INES)
        bad = ("a\x00b", "\ud800", "x\udc00y")
        for words in bad:
            for method, path, body in (
                ("POST", "/api/cars/1/watched", {"kind": "removed", "words": words}),
                (
                    "POST",
                    "/api/events",
                    {"name": words, "starts_on": "2026-11-01", "ends_on": "2026-11-01"},
                ),
                ("POST", "/api/cars/1/run-table", {"text": words}),
                ("PUT", "/api/cars/1/runs/1/words", {"words": [{"phase": "exit", "text": words}]}),
                ("POST", "/api/session", {"email": words, "password": words}),
                ("PUT", "/api/cars/1/slip", {"version": 0, "changes": [], "why": words}),
                ("PATCH", "/api/cars/1/given", {"values": {words: [1.0]}}),
            ):
                with self.subTest(path=path, words=repr(words)):
                    answer = ines.http.open(
                        path,
                        method=method,
                        data=json.dumps(body),
                        headers={"X-CSRF-Token": ines.token, "Content-Type": "application/json"},
                    )
                    self.assertIn(answer.status_code, (400, 422), answer.get_data(as_text=True))
        answer = ines.http.get("/api/cars/1/advice?symptom=%00&phase=exit")
        self.assertIn(answer.status_code, (400, 422))
        # whole characters beyond the first plane are kept
        ines.ok("POST", "/api/cars/1/watched", {"kind": "issue", "words": "🔧 loose"})
        said = [one["words"] for one in ines.ok("GET", "/api/cars/1/watched")["watched"]]
        self.assertIn("🔧 loose", said)
