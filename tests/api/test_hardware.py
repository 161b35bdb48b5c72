"""The car's parts and adjusters: taken, refused at their field, fitted and worked."""

from typing import Any
from unittest import mock

from tests.support.client import INES, ApiTestCase


def part(kind: str, code: str, **more: Any) -> dict[str, Any]:
    values = {name.replace("__", "."): value for name, value in more.pop("values", {}).items()}
    return {"kind": kind, "code": code, "values": values, **more}


class Hardware(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)

    def test_coils_cut_off_are_looked_at_before_the_saw(self) -> None:
        figures = self.ines.bench()["figures"]
        rate, free, force, ratio = (
            figures[name]["values"][0]
            for name in (
                "spring_rate",
                "spring_free_length",
                "spring_force",
                "spring_motion_ratio",
            )
        )
        told = self.ines.ok("GET", "/api/cars/1/springs/cut?place=LF&coils=8&off=1")
        self.assertAlmostEqual(told["rate"], rate * 8 / 7)
        self.assertAlmostEqual(told["free_length"], free * 7 / 8)
        self.assertAlmostEqual(told["wheel_rate"], rate * 8 / 7 * ratio**2)
        # it loses an eighth of its length, and gives less under the same load
        drop = free / 8 - force * (1 / rate - 7 / 8 / rate)
        self.assertAlmostEqual(told["drop"], drop)
        self.assertAlmostEqual(told["wheel_drop"], drop / ratio)
        for query, field, words in (
            ("coils=8&off=7.5", "off", "cannot be cut off"),
            ("coils=many&off=1", "coils", "is not a number"),
            ("coils=8&off=0", "off", "above"),
        ):
            problem = self.ines.refused(422, "GET", f"/api/cars/1/springs/cut?place=LF&{query}")
            self.assertEqual(problem["errors"][0]["number"], field)
            self.assertIn(words, problem["detail"])

    def test_a_spring_in_any_unit_and_all_that_is_wrong_with_one(self) -> None:
        bad = part("spring", "S", values={"rate": "fast", "free_length": "100 mm", "runs": "-2"})
        problem = self.ines.refused(422, "POST", "/api/cars/1/parts", bad)
        self.assertEqual([e["number"] for e in problem["errors"]], ["rate", "runs"])
        bad = part(
            "spring", "", values={"rate": "90", "free_length": "100 mm", "solid_length": "120"}
        )
        self.assertIn(
            "less than the free", self.ines.refused(422, "POST", "/api/cars/1/parts", bad)["detail"]
        )
        good = part("spring", "400x8", values={"rate": "400 lbf/in", "free_length": "8 in"})
        self.ines.ok("POST", "/api/cars/1/parts", good)
        rates = {s["code"]: s["values"]["rate"] for s in self.ines.bench()["parts"]["spring"]}
        self.assertAlmostEqual(rates["400x8"], 400 * 175.12683524647636, places=4)
        self.assertIn(
            "already", self.ines.refused(422, "POST", "/api/cars/1/parts", good)["detail"]
        )
        self.ines.ok(
            "POST", "/api/cars/1/parts", good | {"instead_of": "400x8", "note": "flaw at one end"}
        )
        softer = good | {"instead_of": "400x8", "values": {"rate": "390 lbf/in"}}
        self.ines.ok("POST", "/api/cars/1/parts", softer)
        one = next(s for s in self.ines.bench()["parts"]["spring"] if s["code"] == "400x8")
        note, was = one["corrected"]  # the newest last, each with what it replaced
        self.assertEqual(note["values"], {"note": ""})
        self.assertEqual(set(was["values"]), {"rate", "free_length", "note"})
        self.assertAlmostEqual(was["values"]["rate"], rates["400x8"])
        self.assertEqual(was["by"], "Ines Halloran")
        file = self.ines.ok("GET", "/api/cars/1/file")
        self.assertIn("free_length", file["car"]["corrected"][-1]["values"])
        self.ines.ok("POST", "/api/cars/1/parts/remove", {"kind": "spring", "code": "400x8"})
        worn = self.ines.refused(
            409, "POST", "/api/cars/1/parts/remove", {"kind": "spring", "code": "60/200"}
        )
        self.assertIn("is in revision", worn["detail"])

    def test_ballast_off_the_car_is_refused_at_its_field(self) -> None:
        ines = self.person(INES)
        for where, x, y in (("behind_front", "5.5 m", "0 m"), ("to_left", "1 m", "1.4 m")):
            body = {
                "kind": "ballast",
                "code": "B9",
                "values": {"mass": "5 kg", "behind_front": x, "to_left": y},
            }
            told = ines.refused(422, "POST", "/api/cars/1/parts", body)
            self.assertEqual([one["number"] for one in told["errors"]], [where])
            self.assertIn("off the car", told["detail"])
        self.assertNotIn("B9", str(ines.bench()["parts"]))

    def test_a_damper_with_its_sheet_is_fitted_and_worked(self) -> None:
        made = self.ines.add_car()
        rows = [
            ["0", "0", "20"],
            ["0", "50 mm/s", "300"],
            ["0", "250", "900"],
            ["12", "0", "10"],
            ["12", "50", "150"],
            ["12", "250", "500"],
        ]
        values = {
            "compression__clicks": "12",
            "compression__counted": "from_closed",
            "compression__curves": rows,
            "rebound__clicks": "12",
            "rebound__curves": rows,
            "rebound__dead_at": "4",
        }
        self.ines.ok("POST", f"/api/cars/{made}/parts", part("damper", "A", values=values))
        self.ines.draft(
            *(("damper", place, "A") for place in ("LF", "RF", "LR", "RR")),
            *(("compression_clicks", place, 6) for place in ("LF", "RF", "LR", "RR")),
            car=made,
        )
        self.ines.book(made)
        bench = self.ines.bench(made)
        self.assertNotIn("compression_low", bench["figures"]["compression_ratio_low"]["estimated"])
        problem = self.ines.refused(
            422,
            "PUT",
            f"/api/cars/{made}/slip",
            {"version": 0, "changes": [{"name": "rebound_clicks", "place": "LF", "new": 3}]},
        )
        self.assertIn("no longer turns, at click 4", problem["detail"])
        bad = [["0", "0", "20"], ["0", "quick", "300"]]
        values = {"rebound__clicks": "12", "rebound__curves": bad}
        problem = self.ines.refused(
            422, "POST", f"/api/cars/{made}/parts", part("damper", "B", values=values)
        )
        self.assertEqual(
            (problem["errors"][0]["number"], problem["errors"][0]["place"]),
            ("rebound.curves", "1.1"),
        )
        self.assertIn("Row 2", problem["detail"])

    def test_a_range_for_one_place_keeps_those_of_the_others(self) -> None:
        path = "/api/cars/1/adjusters/rebound_clicks"
        for place, most in (("LF", 20), ("RF", 18)):
            self.ines.ok("PUT", path, {"lowest": 0, "highest": most, "place": place})
        at = self.ines.bench()["adjusters"]["rebound_clicks"]["at"]
        self.assertEqual((at["LF"], at["RF"]), ([0, 20], [0, 18]))

    def test_what_no_adjuster_moves_has_no_range(self) -> None:
        for name in ("bolt_z", "track", "spring"):  # a fact that work alters, a fact, a part
            told = self.ines.refused(
                422, "PUT", f"/api/cars/2/adjusters/{name}", {"lowest": 0, "highest": 1}
            )
            self.assertIn("is not something with an adjuster", told["detail"])

    def test_a_pasted_table_is_looked_at_before_it_is_taken(self) -> None:
        asked = {"kind": "bump_rubber", "field": "table"}
        text = "Deflection (mm);Force (lbf)\n0;0\n4,5;60\n9;x\n"
        found = self.ines.ok("POST", "/api/cars/1/parts/table", asked | {"text": text})
        self.assertEqual(found["rows"][1], ["4,5 mm", "60 lbf"])
        self.assertEqual(len(found["problems"]), 1)
        self.assertIn("Row 3", found["problems"][0])
        self.ines.refused(422, "POST", "/api/cars/1/parts/table", asked | {"text": "1\n2\n"})
        self.ines.refused(
            422, "POST", "/api/cars/1/parts/table", {"kind": "spring", "field": "rate", "text": "1"}
        )

    def test_a_blade_told_in_part_says_what_is_missing(self) -> None:
        bar = {"kind": "bar", "code": "Half", "fits": "rear"}
        tube = {"outer": "22 mm", "length": 0.9, "arms": [[0.2]], "motion_ratio": 0.6}
        for told, missing in [
            ({"blade.guided": True}, {"blade.width", "blade.thickness", "blade.length"}),
            ({"blade.width": "30 mm"}, {"blade.thickness", "blade.length"}),
        ]:
            body = {**bar, "values": {**tube, **told}}
            problem = self.ines.refused(422, "POST", "/api/cars/3/parts", body)
            self.assertEqual({one["number"] for one in problem["errors"]}, missing)
            self.assertIn("is needed beside the rest of it", problem["detail"])
        self.ines.ok("POST", "/api/cars/3/parts", {**bar, "values": tube})

    def test_what_could_not_be_read_again_is_not_kept(self) -> None:
        damper = {"kind": "damper", "code": "Odd", "values": {"compression.clicks": "12.5"}}
        problem = self.ines.refused(422, "POST", "/api/cars/3/parts", damper)
        self.assertIn("Clicks: a whole number is expected.", problem["detail"])
        self.ines.ok(
            "POST", "/api/cars/3/parts", {**damper, "values": {"compression.clicks": "12"}}
        )
        with mock.patch("cabrio.operations.cars.named", lambda *_: 3):
            problem = self.ines.refused(422, "PATCH", "/api/cars/3/settings", {"name": "Odd"})
        self.assertIn("nothing was changed: in name, input should be", problem["detail"])
        self.assertEqual(self.ines.bench(3)["name"], "Sidewind")

    def test_an_adjuster_s_range_is_written_down_and_holds(self) -> None:
        path = "/api/cars/3/adjusters/bar_hole"
        self.ines.ok("PUT", path, {"lowest": 1, "highest": "4"})
        self.assertEqual(self.ines.bench(3)["adjusters"]["bar_hole"]["highest"], 4)
        beyond = {
            "version": self.ines.bench(3)["slip"]["version"],
            "changes": [{"name": "bar_hole", "place": "front", "new": 4}],
        }
        said = self.ines.refused(422, "PUT", "/api/cars/3/slip", beyond)["detail"]
        self.assertIn("goes from 1 to 3, not to 4", said)  # the adjuster has it, the bar does not
        self.ines.draft(("bar_hole", "front", 3), car=3)
        for body, words in [
            ({"lowest": 3, "highest": 4}, "must hold what is on the car"),
            ({"lowest": 4, "highest": 2}, "must be above the lower one"),
            ({"lowest": "low", "highest": 4}, "is not a number"),
            ({"lowest": None, "highest": 4}, "Nothing typed here yet"),
            ({"lowest": 1, "highest": 1e308}, "too large to be a number here"),
        ]:
            detail = self.ines.refused(422, "PUT", path, body)["detail"]
            self.assertIn(words, detail)
            self.assertLess(len(detail), 200)
        self.ines.refused(
            422, "PUT", "/api/cars/3/adjusters/link_preload", {"lowest": 0, "highest": 1}
        )
        self.ines.ok("PUT", path, {"lowest": 2, "highest": 3, "place": "front"})
        problem = self.ines.refused(
            422,
            "PUT",
            "/api/cars/3/slip",
            {
                "version": self.ines.bench(3)["slip"]["version"],
                "changes": [{"name": "bar_hole", "place": "front", "new": 4}],
            },
        )
        self.assertIn("goes from 2 to 3", problem["detail"])

    def test_an_adjuster_is_added_and_taken_off(self) -> None:
        path = "/api/cars/3/adjusters/rubber_gap"
        self.assertNotIn("rubber_gap", self.ines.bench(3)["adjusters"])
        self.ines.ok("PUT", path, {"lowest": "0", "highest": "30 mm"})
        self.assertEqual(self.ines.bench(3)["setup"]["rubber_gap"], [None, None])
        self.ines.ok("DELETE", path)
        self.assertNotIn("rubber_gap", self.ines.bench(3)["setup"])
        self.assertIn(
            "in use", self.ines.refused(409, "DELETE", "/api/cars/3/adjusters/bar_hole")["detail"]
        )
