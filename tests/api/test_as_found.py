"""What is on a new car is written down as found: no change, no recheck, no prediction, no verdict."""

from typing import Any

from tests.support.client import INES, ApiTestCase, pads

from .test_hardware import part


class AsFound(ApiTestCase):
    def test_first_settings_are_no_change(self) -> None:
        ines = self.person(INES)
        car = ines.add_car(discipline="circuit", use="race_no_downforce", rear_layout="independent")
        path = f"/api/cars/{car}"
        heights = {"kind": "heights", "repeats": {"ride_height": [[0.1, 0.1, 0.11, 0.11]]}}
        ines.ok("POST", f"{path}/readings", heights | {"conditions": {}})
        ines.ok("POST", f"{path}/readings", pads([260, 250, 240, 245]))
        ines.ok(
            "POST",
            f"{path}/parts",
            part(
                "spring",
                "70/180",
                values={"rate": "70", "free_length": "180", "solid_length": "80"},
            ),
        )
        before = {one["kind"]: one["status"] for one in ines.bench(car)["standings"]}
        every = ("LF", "RF", "LR", "RR")
        changes = [{"name": "spring", "place": place, "new": "70/180"} for place in every]
        changes += [{"name": "rebound_clicks", "place": "LF", "new": "12"}]
        told = ines.ok("POST", f"{path}/as-found", {"changes": changes})
        self.assertEqual(told["revision"], 2)
        bench = ines.bench(car)
        self.assertEqual(bench["setup"]["spring"], ["70/180"] * 4)
        self.assertEqual(bench["setup"]["rebound_clicks"], [12, None, None, None])
        # the heights and pads still count, and there is nothing to judge
        self.assertEqual({one["kind"]: one["status"] for one in bench["standings"]}, before)
        ines.refused(
            409, "POST", f"{path}/revisions/2/verdict", {"outcome": "same", "decision": "keep"}
        )
        done = ines.ok("GET", "/api/done")["entries"]
        self.assertIn("revision", [one["what"] for one in done])
        # one by one, but nothing that is set already, nor what the car has not
        one = {"name": "rebound_clicks", "place": "RF", "new": 11}
        ines.ok("POST", f"{path}/as-found", {"changes": [one]})
        for wrong, words in (
            ({"name": "rebound_clicks", "place": "RF", "new": 10}, "set already"),
            ({"name": "rebound_clicks", "place": "LR", "new": 30}, "goes from"),
            ({"name": "link_preload", "place": "car", "new": 1}, ""),
            ({"name": "track", "place": "front", "new": 1.5}, "not set on this car"),
        ):
            problem = ines.refused(422, "POST", f"{path}/as-found", {"changes": [wrong]})
            self.assertIn(words, problem["errors"][0]["detail"])
        # taken back while nothing was booked after it
        self.assertEqual(ines.ok("DELETE", f"{path}/as-found")["revision"], 4)
        self.assertIsNone(ines.bench(car)["setup"]["rebound_clicks"][1])
        ines.draft(("rebound_clicks", "LF", 10), car=car)
        ines.book(car)
        ines.refused(409, "DELETE", f"{path}/as-found")
        found = ines.ok("GET", f"{path}/file")
        self.assertEqual(len(found["revisions"]), 5)
        again = ines.ok("POST", "/api/cars/import", found)
        self.assertEqual(ines.bench(again["id"])["setup"]["spring"], ["70/180"] * 4)

    def test_advice_asks_for_what_it_needs_and_is_sized_once_it_is_told(self) -> None:
        ines = self.person(INES)
        more = {"name": "Sorrel", "use": "race_no_downforce", "rear_layout": "independent"}
        car = ines.add_car(discipline="circuit", **more)
        path = f"/api/cars/{car}/advice?symptom=understeer&phase=mid-corner"

        def camber() -> Any:
            found = ines.ok("GET", path)["candidates"]
            return next(one for one in found if one["number"] == "camber")

        before = camber()
        self.assertEqual((before["lines"], before["asks"]), ([], ["LF", "RF"]))
        self.assertIn("not written down", before["refused"])
        told = [{"name": "camber", "place": place, "new": "-2.5"} for place in before["asks"]]
        ines.ok("POST", f"/api/cars/{car}/as-found", {"changes": told})
        after = camber()
        self.assertEqual((after["refused"], after["asks"]), ("", []))
        self.assertEqual({line["place"] for line in after["lines"]}, {"LF", "RF"})
