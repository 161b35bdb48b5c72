"""A further discipline, told by tables alone: what of it runs. Started by its test on a copy that has the rows."""

from __future__ import annotations

from pathlib import Path

from tests.support.client import INES, ApiTestCase

ROWS = """
[[discipline]]
id = "hill"
label = "Hill climb"
clock = "laps"
corners = true
session_kinds = ["practice", "climb"]
profile = "imperial"
layouts = "live axle"
turns = "left"
decided_by = ["axle_frequency", "cross_share"]
stations = [
  "plan", "tyres", "heights", "square", "pinion", "links", "weights", "preload", "springs", "clearance", "bars",
  "dampers", "alignment", "release",
]

[[phase]]
discipline = "hill"
id = "mid-corner"
front = ""
rear = ""
steady = true

[[phase]]
discipline = "hill"
id = "hairpin"
label = "Hairpin"
aliases = ["switchback"]
front = "ce"
rear = "ce"
"""


def tell(package: Path) -> None:
    """Add the discipline to the tables of a copy: its own rows, and its name wherever a circuit car is meant."""
    for table in package.rglob("*.toml"):
        text = table.read_text("utf-8")
        circuit = 'disciplines = ["circuit'
        text = text.replace(circuit, circuit.replace("circuit", 'hill", "circuit'))
        table.write_text(text + ROWS * (table.name == "disciplines.toml"), "utf-8")


class HillClimb(ApiTestCase):
    def test_a_new_car_its_stations_advice_and_a_run(self) -> None:
        ines = self.person(INES)
        words = ines.ok("GET", "/api/vocabulary")
        self.assertIn("Hill climb", [word["label"] for word in words["disciplines"]])
        self.assertIn("springs", words["orders"]["hill"])
        hill = next(word for word in words["disciplines"] if word["id"] == "hill")
        self.assertEqual([phase["label"] for phase in hill["phases"]], ["mid-corner", "Hairpin"])
        self.assertEqual((hill["profile"], len(hill["layouts"])), ("imperial", 6))
        self.assertEqual(hill["paired"], [])
        made = {"name": "Ridge", "discipline": "hill", "pads": [250, 240, 230, 235]}
        refused = ines.refused(422, "POST", "/api/cars", made)
        self.assertIn("Hill climb cars have another rear suspension", refused["detail"])
        made |= {"rear_layout": "three_link"}
        car = ines.ok("POST", "/api/cars", made)["id"]
        other = {"rear_layout": "independent"}
        refused = ines.refused(422, "PATCH", f"/api/cars/{car}/settings", other)
        self.assertIn("another rear suspension", refused["detail"])
        bench = ines.bench(car)
        self.assertIn("bar_hole", bench["adjusters"])
        self.assertNotIn("front_limiter", bench["adjusters"])
        self.assertIn("heights", [one["kind"] for one in bench["not_ready"]])
        advice = f"/api/cars/{car}/advice?symptom=understeer&phase=mid-corner"
        self.assertTrue(ines.ok("GET", advice)["candidates"])
        event = ines.ok("GET", f"/api/cars/{car}/logbook")["events"][0]["id"]
        starts = "2026-11-01T09:00:00Z"
        session = {"event_id": event, "name": "Heat", "kind": "climb", "starts_at": starts}
        ines.ok("POST", f"/api/cars/{car}/sessions", session)
        ines.refused(422, "POST", f"/api/cars/{car}/sessions", session | {"kind": "race"})
        at = ines.ok("GET", f"/api/cars/{car}/logbook")["sessions"][-1]["id"]
        run = {"best_time": "1:02.4", "laps": 1, "driver": "Mara", "released_why": "A test."}
        ines.ok("POST", f"/api/cars/{car}/sessions/{at}/runs", run)
        run_id = ines.ok("GET", f"/api/cars/{car}/logbook")["sessions"][-1]["runs"][-1]["id"]
        said = {"words": [{"phase": "hairpin", "text": "It pushes."}], "confidence": 3}
        ines.ok("PUT", f"/api/cars/{car}/runs/{run_id}/words", said)
        file = ines.ok("GET", f"/api/cars/{car}/file")
        self.assertNotEqual(ines.ok("POST", "/api/cars/import", file)["id"], car)
        file["car"]["rear_layout"] = "independent"
        refused = ines.refused(422, "POST", "/api/cars/import", file)
        self.assertIn("another rear suspension", refused["detail"])
