"""What a fitted part itself allows rules settings, questions and plans, on a car made on screen."""

from typing import Any

from tests.support.client import INES, ApiTestCase

from .test_hardware import part

SHEET = [
    [str(click), f"{1000 * speed:g}", f"{6000 * speed * (20 - click) / 20:g}"]
    for click in (0, 12)
    for speed in (0.0, 0.05, 0.25)
]


class OfParts(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)
        more = {"name": "Sorrel", "use": "race_no_downforce", "rear_layout": "independent"}
        self.car = self.ines.add_car(discipline="circuit", **more)
        self.path = f"/api/cars/{self.car}"

    def add(self, kind: str, code: str, **values: Any) -> None:
        self.ines.ok("POST", f"{self.path}/parts", part(kind, code, values=values))

    def test_a_click_beyond_the_dampers_own_is_refused_by_slip_and_command(self) -> None:
        knob = {"rebound__clicks": "12", "rebound__curves": SHEET}
        for place in ("LF", "RF", "LR", "RR"):
            self.add("damper", f"D-{place}", **knob)
        self.ines.draft(
            *[("damper", place, f"D-{place}") for place in ("LF", "RF", "LR", "RR")], car=self.car
        )
        self.ines.book(self.car)
        slip = {"version": self.ines.bench(self.car)["slip"]["version"]}
        beyond = {"changes": [{"name": "rebound_clicks", "place": "RR", "new": 22}]}
        told = self.ines.refused(422, "PUT", f"{self.path}/slip", slip | beyond)
        self.assertIn("goes from 0 to 12", told["errors"][0]["detail"])
        bench = self.ines.bench(self.car)
        self.assertEqual(bench["choices"]["rebound_clicks"]["RR"]["high"], 12)
        asked = {"targets": {"rebound_ratio_low": "0.05"}}
        body = {"kind": "pads", "repeats": {"pad_mass": [[260, 250, 240, 245]]}, "conditions": {}}
        self.ines.ok("POST", f"{self.path}/readings", body)
        answer = self.ines.ok("POST", f"{self.path}/questions/clicks_for_rebound", asked)
        news = [line["new"] for one in answer["proposals"] for line in one["lines"]]
        self.assertTrue(news)
        self.assertLessEqual(max(news), 12)

    def test_the_part_of_a_slip_bounds_its_setting_whichever_was_typed_first(self) -> None:
        self.add("damper", "D12", rebound__clicks="12", rebound__curves=SHEET)
        slip = {"version": self.ines.bench(self.car)["slip"]["version"]}
        for clicks, status in ((22, 422), (11, 200)):
            changes = [("rebound_clicks", "LF", clicks), ("damper", "LF", "D12")]
            body = slip | {"changes": [{"name": n, "place": p, "new": v} for n, p, v in changes]}
            answer = self.ines.call("PUT", f"{self.path}/slip", body)
            self.assertEqual(answer.status_code, status, answer.get_json())

    def test_bar_holes_are_those_the_bars_have(self) -> None:
        for axle in ("front", "rear"):
            values = {
                "outer": "25",
                "length": "900",
                "arms": [["180"], ["200"], ["220"]],
                "motion_ratio": "0.6",
            }
            self.add("bar", f"{axle} bar", **values)
        self.ines.draft(
            ("bar", "front", "front bar"),
            ("bar", "rear", "rear bar"),
            ("bar_hole", "front", 2),
            ("bar_hole", "rear", 2),
            car=self.car,
        )
        self.ines.book(self.car)
        self.ines.ok(
            "POST",
            f"{self.path}/readings",
            {"kind": "pads", "repeats": {"pad_mass": [[260, 250, 240, 245]]}, "conditions": {}},
        )
        asked = {"targets": {"lltd": "30"}}
        found = self.ines.ok("POST", f"{self.path}/questions/holes_for_share", asked)["proposals"]
        self.assertGreater(len(found), 2)
        for one in found:
            for line in one["lines"]:
                self.assertLessEqual(line["new"], 3, one["label"])
