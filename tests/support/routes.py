"""Every route of the API with a body it can do something with, generated from the map of addresses."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Any

OPEN = {
    "/api/health",
    "/api/ready",
    "/api/metrics",
    "/api/session",
    "/api/session/demo",
    "/api/join",
    "/api/demo-people",
    "/api/openapi.json",
}
NAMED = {"/questions/": "turns_for_cross", "/charts/": "spring_load", "/trials/": "kerb"}

BODIES: dict[str, dict[str, Any]] = {
    "/api/people": {"name": "x", "email": "x@x.example", "role": "crew"},
    "/people/1": {"role": "engineer"},
    "/session/password": {"old": "x", "new": "x"},
    "/understood": {"stations": ["weights"]},
    "/time-slip": {"text": "60 ft 1.4"},
    "/given": {"values": {"wheelbase": [2.5]}},
    "/settings": {},
    "/words": {"words": []},
    "/parts": {
        "kind": "bar",
        "code": "X",
        "values": {
            "outer": "22 mm",
            "length": 0.9,
            "arms": [[0.2], ["220 mm"]],
            "blade.guided": False,
        },
    },
    "/remove": {"kind": "spring", "code": "X"},
    "/copy": {"name": "x"},
    "/baseline": {"revision": 1},
    "/turns_for_cross": {"targets": {"cross_share": "50 %"}},
    "/plot-sheet": {"left": [["17", "22"], ["1", "26"], ["23", "16"], ["1", "15"]]},
    "/table": {"kind": "bump_rubber", "field": "table", "text": "0 0"},
    "/withdraw": {"why": "x"},
    "/readings": {"kind": "bolts"},
    "/instruments/pads": {"settle": False},
    "/instruments/gauge": {"on": "floor"},
    "/slip": {"version": 0, "changes": []},
    "/book": {"version": 0},
    "/resume": {"slip": 1},
    "/command": {"text": "go plan"},
    "/runs": {},
    "/watched": {"kind": "issue", "words": "x"},
    "/signed": {"limit": "x", "decided_on": "rule_allows"},
    "/done": {},
    "/close": {"words": "x"},
    "/run-table": {"text": "Driver; Best lap\nA; 60"},
    "/take": {"text": "Driver; Best lap\nA; 60", "columns": ["driver", "best_time"]},
    "/walks": {"procedure": "circuit_build"},
    "/ticks": {"procedure": "circuit_build", "step": "Pads"},
    "/plans": {
        "targets": [{"name": "lltd", "place": "car", "value": "50"}],
        "systems": ["bars"],
    },
    "/pictures/1": {"phase": ""},
    "/pictures": {"data": "iVBORw0KGgo="},
    "/as-found": {"changes": [{"name": "bar_hole", "place": "front", "new": 1}]},
    "/verdict": {"outcome": "same", "decision": "keep"},
    "/sessions": {
        "event_id": 1,
        "name": "x",
        "kind": "test",
        "starts_at": "2026-11-01T09:00:00Z",
    },
    "/aside": {"why": "x"},
    "/sessions/1": {
        "name": "x",
        "kind": "test",
        "starts_at": "2026-11-01T09:00:00Z",
        "why": "x",
    },
    "/runs/1": {"why": "x"},
    "/events/1": {
        "name": "x",
        "starts_on": "2026-11-01",
        "ends_on": "2026-11-01",
        "why": "x",
    },
    "/events": {"name": "x", "starts_on": "2026-11-01", "ends_on": "2026-11-01"},
    "/cars/import": {"format": "cabrio-car", "version": 2},
    "/api/cars": {"name": "x", "discipline": "drift"},
    "/bar_hole": {"lowest": 1, "highest": 4, "place": "front"},
}
"""By the end of the address; the first that fits. A new writing route gets one."""


def routes(app: Any) -> Iterator[tuple[str, str, dict[str, Any] | None]]:
    """Method, address and body of every route that wants a sign-in, on what the demo has."""
    for rule in app.url_map.iter_rules():
        if not rule.rule.startswith("/api/") or rule.rule in OPEN:
            continue
        values = {
            "car_id": 1,
            "reading_id": 1,
            "number": 2,
            "session_id": 1,
            "run_id": 1,
            "picture_id": 1,
            "watched_id": 1,
            "event_id": 1,
            "person_id": 1,
            "sign_in_id": 10**6,
            "procedure": "circuit_build",
            "name": "bar_hole",
        }
        for part, named in NAMED.items():
            if part in rule.rule:
                values["name"] = named
        _, path = rule.build({a: values[a] for a in rule.arguments}) or ("", "")
        path += "?left=1&right=2" if path.endswith("/compare") else ""
        contact = "?setting=rebound_clicks&axle=front&click=5"
        path += contact if path.endswith("/contact") else ""
        path += "?x=speed&y=height_at_speed" if path.endswith("/plot") else ""
        for method in sorted((rule.methods or set()) - {"HEAD", "OPTIONS"}):
            body = next((b for end, b in BODIES.items() if path.endswith(end)), None)
            yield method, path, body if method != "GET" else None
