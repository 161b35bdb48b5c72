"""The gate of release with what is watched: a part off, an issue that bars, a torque due again."""

from __future__ import annotations

from typing import Any

from tests.support.client import INES, OKE, PELL, ApiTestCase, Person

AT = "/api/cars/3/watched"


class Gate(ApiTestCase):
    def against(self, who: Person) -> list[str]:
        return [one["words"] for one in who.bench(3)["not_ready"]]

    def only(self, who: Person, words: str) -> Any:
        return next(one for one in who.ok("GET", AT)["watched"] if one["words"] == words)

    def test_a_part_off_keeps_the_car_in_until_it_is_back(self) -> None:
        crew = self.person(OKE)
        before = self.against(crew)
        for _ in range(2):  # sent twice it is noted once
            crew.ok("POST", AT, {"kind": "removed", "words": "Front strut brace"})
        self.assertEqual(len(self.against(crew)), len(before) + 1)
        self.assertIn("Refit it", self.against(crew)[-1])
        at = self.only(crew, "Front strut brace")["id"]
        crew.ok("POST", f"{AT}/{at}/close", {"words": ""})
        self.assertEqual(self.against(crew), before)
        crew.refused(404, "POST", f"{AT}/{at}/close", {"words": ""})

    def test_an_issue_that_bars_is_cleared_by_an_engineer_with_a_word(self) -> None:
        crew, ines = self.person(OKE), self.person(INES)
        words = "Steering off centre by half a spline"
        crew.ok("POST", AT, {"kind": "issue", "words": words, "bars": True})
        at = self.only(crew, words)["id"]
        crew.refused(403, "POST", f"{AT}/{at}/close", {"words": "Re-splined."})
        told = ines.refused(422, "POST", f"{AT}/{at}/close", {"words": " "})
        self.assertIn("how it was settled", told["detail"])
        ines.ok("POST", f"{AT}/{at}/close", {"words": "Re-splined, straight ahead checked."})
        self.assertNotIn(words, " ".join(self.against(ines)))

    def test_a_torque_is_due_again_after_its_system_was_changed(self) -> None:
        ines = self.person(INES)
        joint = {
            "kind": "torque",
            "words": "Damper top nuts",
            "value": "48 lb·ft",
            "source": "the damper's maker",
            "system": "dampers",
        }
        ines.ok("POST", AT, joint)
        one = self.only(ines, "Damper top nuts")
        self.assertTrue(one["bars"])
        ines.ok("POST", f"{AT}/{one['id']}/done")
        self.assertFalse(self.only(ines, "Damper top nuts")["bars"])
        click = ines.bench(3)["setup"]["rebound_clicks"][0]
        ines.draft(("rebound_clicks", "LF", click - 1.0), car=3)
        ines.book(3)
        again = self.only(ines, "Damper top nuts")
        self.assertTrue(again["bars"])
        self.assertIn("Torque due", again["stands"])
        ines.ok("POST", f"{AT}/{one['id']}/close", {"words": ""})

    def test_a_class_limit_is_tested_against_the_car(self) -> None:
        crew, ines = self.person(OKE), self.person(INES)
        ines.ok(
            "POST",
            AT,
            {"kind": "limit", "words": "Class C", "number": "total_mass", "least": "5000 kg"},
        )
        one = self.only(crew, "Class C")
        self.assertTrue(one["bars"])
        crew.refused(403, "POST", f"{AT}/{one['id']}/close", {"words": ""})
        ines.ok("POST", f"{AT}/{one['id']}/close", {"words": ""})

    def test_service_by_distance_counts_laps_where_the_event_says_how_long_one_is(self) -> None:
        ines = self.person(INES)
        days = {"starts_on": "2026-11-02", "ends_on": "2026-11-02"}
        told = ines.refused(422, "POST", "/api/events", {"name": "Far", "lap": "900 km", **days})
        self.assertEqual(told["errors"][0]["number"], "lap")
        for name, lap in (("Long", "2 mi"), ("Untold", "")):
            ines.ok("POST", "/api/events", {"name": name, "lap": lap, **days})
        ines.ok("POST", AT, {"kind": "service", "words": "Recharge", "every": "90", "unit": "km"})
        self.assertEqual(self.only(ines, "Recharge")["stands"], "Recharge: in 90 km")
        events = {one["name"]: one for one in ines.ok("GET", "/api/cars/3/logbook")["events"]}
        self.assertAlmostEqual(events["Long"]["lap_length"], 3218.688)
        for name, laps in (("Long", 20), ("Untold", 30)):
            session = {"event_id": events[name]["id"], "name": name, "kind": "practice"}
            at = {"starts_at": "2026-11-02T09:00:00Z"}
            ines.ok("POST", "/api/cars/3/sessions", session | at)
            made = ines.ok("GET", "/api/cars/3/logbook")["sessions"]
            here = next(one for one in made if one["name"] == name)["id"]
            run = {"laps": laps, "released_why": "Shakedown"}
            ines.ok("POST", f"/api/cars/3/sessions/{here}/runs", run)
        said = self.only(ines, "Recharge")["stands"]
        self.assertIn("in at most 26 km.", said)
        self.assertIn("1 run has no laps", said)

    def test_a_viewer_sees_and_changes_nothing(self) -> None:
        pell = self.person(PELL)
        pell.ok("GET", AT)
        pell.refused(403, "POST", AT, {"kind": "removed", "words": "x"})


class InTheFile(ApiTestCase):
    def test_what_is_watched_and_walked_comes_along_in_the_car_file(self) -> None:
        ines = self.person(INES)
        walks = "/api/cars/1/walks"
        step = {"procedure": "circuit_build", "step": "Pads"}
        ines.ok("PUT", f"{walks}/ticks", step)
        ines.ok("PUT", f"{walks}/ticks", step | {"done": False})
        ines.ok("PUT", f"{walks}/ticks", step | {"step": "Bars"})
        file = ines.call("GET", "/api/cars/1/file").get_json()
        self.assertEqual([len(one["ticks"]) for one in file["walks"]], [2])
        made = ines.ok("POST", "/api/cars/import", file)["id"]
        again = ines.call("GET", f"/api/cars/{made}/file").get_json()
        for part in ("watched", "walks"):
            self.assertTrue(file[part], part)
            self.assertEqual(again[part], file[part])
        said = [
            [one["stands"] for one in ines.ok("GET", f"/api/cars/{car}/watched")["watched"]]
            for car in (1, made)
        ]
        self.assertEqual(*said)

    def test_what_no_screen_would_take_is_refused(self) -> None:
        ines = self.person(INES)
        file = ines.call("GET", "/api/cars/1/file").get_json()
        torque = next(one for one in file["watched"] if one["kind"] == "torque")
        for data in ({"torque": -5.0}, {"torque": 1e9}, {"system": "moon"}, {"also": 1}):
            bad = file | {"watched": [torque | {"data": torque["data"] | data}]}
            told = ines.refused(422, "POST", "/api/cars/import", bad)
            self.assertIn("Lower arm, inner pivots", told["detail"])
        walk = {"started_by": "x", "started_at": "2026-11-01T09:00:00Z", "ticks": []}
        bad = file | {"walks": [walk | {"procedure": "moonwalk"}]}
        ines.refused(422, "POST", "/api/cars/import", bad)
