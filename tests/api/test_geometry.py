"""Suspension points over HTTP: entered, refused at their row, fitted, swept, drafted, and taken along."""

from __future__ import annotations

import json
from typing import Any

from cabrio.core.catalog.points import NAMES
from tests.support.client import INES, ApiTestCase, Person

STRUT = {
    "wheel_centre": (0.0, 750.7, 301.9),
    "lower_front": (32.7, 376.6, 167.5),
    "lower_rear": (-316.1, 369.6, 167.4),
    "lower_ball": (13.5, 678.5, 166.9),
    "strut_top": (-26.1, 534.6, 758.8),
    "strut_lower": (2.1, 609.4, 332.4),
    "tie_rod_inner": (-93.8, 349.7, 240.9),
    "tie_rod_outer": (-103.5, 646.9, 233.0),
}
FIELDS = {
    "rack_per_turn": "50 mm",
    "rack_travel": "40 mm",
    "layout": "strut",
    "camber": "-1.4",
    "toe": "0",
    "spring_on": "strut",
}


def rows(points: dict[str, tuple[Any, ...]]) -> list[list[Any]]:
    return [[f"{one} mm" for one in points.get(name.id, ())] for name in NAMES]


class Points(ApiTestCase):
    def save(self, who: Person, points: dict[str, tuple[Any, ...]], **other: Any) -> Any:
        values = FIELDS | {"places": rows(points)} | other.pop("values", {})
        body = {"kind": "points", "code": "P1", "values": values} | other
        return who.call("POST", "/api/cars/1/parts", body)

    def test_fitted_they_stand_in_the_place_of_what_was_typed(self) -> None:
        ines = self.person(INES)
        shown = ines.ok("GET", "/api/cars/1/geometry")  # the demo's own points, taken off for this
        self.assertEqual((shown["axles"], shown["booked"]["kind"]), (["front"], "strut"))
        ines.draft(("points", "LF", None), ("points", "RF", None))
        ines.book()
        typed = ines.bench()["given"]["motion_ratio"]["values"]
        nothing = ines.ok("GET", "/api/cars/1/geometry")
        self.assertEqual((nothing["booked"], nothing["axles"]), (None, []))
        raised = {name: (x, y, z + 19.1) for name, (x, y, z) in STRUT.items()}
        self.assertEqual(self.save(ines, raised, code="P0").status_code, 200)
        change = {"name": "points", "place": "LF", "new": "P0"}
        body = {"version": ines.bench()["slip"]["version"], "changes": [change]}
        problem = ines.refused(422, "PUT", "/api/cars/1/slip", body)
        self.assertIn("from the ground", problem["detail"])
        self.assertEqual(self.save(ines, STRUT).status_code, 200)
        ines.draft(("points", "LF", "P1"), ("points", "RF", "P1"))
        drafted = ines.ok("GET", "/api/cars/1/geometry")
        self.assertIsNone(drafted["booked"])
        self.assertIsNotNone(drafted["drafted"])
        ines.book()
        bench = ines.bench()
        ratio = bench["figures"]["motion_ratio"]
        self.assertEqual(ratio["by_points"], ["LF", "RF"])
        self.assertNotAlmostEqual(ratio["values"][0], typed[0], 3)
        self.assertEqual(ratio["values"][2:], typed[2:])
        self.assertEqual(bench["given"]["motion_ratio"]["values"], typed)
        # another radius is asked about: the points stand by the one they were measured with
        radius = bench["given"]["loaded_radius"]["values"]
        other = {"loaded_radius": [radius[0] + 0.004, radius[1]]}
        asked = ines.refused(422, "PATCH", "/api/cars/1/given", {"values": other})
        self.assertEqual((asked["code"], asked["errors"][0]["place"]), ("unusual", "front"))
        self.assertIn("Read the points again", asked["detail"])
        nearly = {"loaded_radius": [radius[0] + 0.0005, radius[1] + 0.004]}
        ines.ok("PATCH", "/api/cars/1/given", {"values": nearly})
        # one axle measured: what only points give is compared there all the same
        last = bench["revision"]
        compared = ines.ok("GET", f"/api/cars/1/compare?left={last - 1}&right={last}")["moved"]
        gained = {one["place"]: one for one in compared if one["name"] == "camber_gain"}
        self.assertEqual(list(gained), ["LF", "RF"])
        self.assertIsNone(gained["LF"]["before"])
        self.assertLess(gained["LF"]["after"], 0.0)
        told = ines.ok("GET", "/api/cars/1/working/motion_ratio")
        self.assertIn("suspension points P1", json.dumps(told))
        swept = ines.ok("GET", "/api/cars/1/geometry")["booked"]
        middle = swept["at"].index(0.0)
        by_name = {curve["name"]: curve for curve in swept["curves"]}
        self.assertAlmostEqual(
            by_name["roll_centre"]["left"][middle],
            bench["figures"]["roll_centre_height"]["values"][0],
            3,
        )
        for over in ("roll", "rack"):
            found = ines.ok("GET", f"/api/cars/1/geometry?over={over}")
            self.assertEqual(len(found["booked"]["discs"]), 2)
        self.assertEqual([one["side"] for one in found["adjustments"]], ["either"])
        self._sides_apart(ines)
        told = {curve["name"]: curve["left"] for curve in found["booked"]["curves"]}
        self.assertEqual(len(found["booked"]["at"]), len(told["steering_ratio"]))
        self.assertAlmostEqual(found["booked"]["at"][-1], 0.04)  # to its own lock
        self.assertEqual(ines.call("GET", "/api/cars/1/geometry?over=time").status_code, 422)
        self._taken_along(ines, swept)

    def _sides_apart(self, ines: Person) -> None:
        """Another sheet on the right: what a turn does is told of each side."""
        x, y, z = STRUT["tie_rod_inner"]
        moved = STRUT | {"tie_rod_inner": (x, y, z + 20)}
        self.assertEqual(self.save(ines, moved, code="P2").status_code, 200)
        ines.draft(("points", "RF", "P2"))
        left, right = ines.ok("GET", "/api/cars/1/geometry")["adjustments"]
        self.assertEqual((left["side"], right["side"]), ("left", "right"))
        steers = [one["ways"][0]["bump_steer"] for one in (left, right)]
        self.assertNotAlmostEqual(steers[0], steers[1], 4)
        ines.draft()

    def _taken_along(self, ines: Person, swept: Any) -> None:
        """The car file holds the points, and an import of it works them alike."""
        file = ines.call("GET", "/api/cars/1/file").get_data(as_text=True)
        told = json.loads(file)
        told["car"]["name"] = "Lapwing"
        made = ines.call("POST", "/api/cars/import", told)
        self.assertEqual(made.status_code, 200, made.get_data(as_text=True)[:300])
        again = ines.ok("GET", f"/api/cars/{made.get_json()['id']}/geometry")["booked"]
        self.assertEqual(again["curves"], swept["curves"])
        told["car"]["parts"]["points"][0]["places"].pop()
        refused = ines.call("POST", "/api/cars/import", told)
        self.assertEqual(refused.status_code, 422)
        self.assertIn("Still to measure", refused.get_json()["detail"])

    def test_what_cannot_be_is_refused_at_its_row_and_nothing_is_kept(self) -> None:
        ines = self.person(INES)
        for change, words in (
            ({"lower_ball": STRUT["lower_front"]}, "in one place"),
            ({"lower_ball": (13.5, 678.5)}, "Lower ball joint"),
            ({"lower_ball": (13.5, "wide", 186)}, "Lower ball joint"),
            ({"lower_ball": (13.5, 678.5, 18600)}, "at most"),
            ({"lower_ball": ()}, "Still to measure: lower ball joint"),
        ):
            found = self.save(ines, STRUT | change, code="P9")  # type: ignore[operator]
            with self.subTest(words):
                self.assertEqual(found.status_code, 422)
                errors = found.get_json()["errors"]
                self.assertIn(words, " ".join(error["detail"] for error in errors))
                self.assertEqual({error["number"] for error in errors}, {"places"})
        bar = {
            "bar_link_moving": (-50.0, 569.0, 391.0),
            "bar_link_bar": (-150.0, 569.0, 391.0),
            "bar_axis_first": (-250.0, 200.0, 391.0),
            "bar_axis_second": (-250.0, 600.0, 391.0),
        }
        dead = self.save(ines, STRUT | bar, code="P9", values={"bar_on": "upright"})
        # every point may be where it is; that link and arm stand in line shows when they are moved
        self.assertIn("over centre", dead.get_json()["detail"])
        arm = self.save(ines, STRUT, code="P9", values={"damper_on": "upper_arm"})
        self.assertIn("Still to measure", arm.get_json()["detail"])
        too_many = self.save(ines, STRUT, code="P9", values={"places": rows(STRUT) * 2})
        self.assertEqual(too_many.status_code, 422)
        self.assertNotIn("P9", [one["code"] for one in ines.bench()["parts"]["points"]])

    def test_a_pasted_sheet_goes_by_its_names(self) -> None:
        ines = self.person(INES)
        ask = {"kind": "points", "field": "places"}

        def look(text: str) -> Any:
            return ines.ok("POST", "/api/cars/1/parts/table", ask | {"text": text})

        found = look("lower ball joint\t13,5\t678,5\t186\nWheel Centre\t0\t750,7\t321")
        at = {name.id: i for i, name in enumerate(NAMES)}
        self.assertEqual(found["rows"][at["wheel_centre"]], ["0", "750,7", "321"])
        self.assertEqual(found["rows"][at["lower_ball"]], ["13,5", "678,5", "186"])
        self.assertEqual(found["problems"], [])
        inch = look("Point;Ahead (in);Out (in);Above (in)\nlower_ball;1/2;26 3/4;7 5/16")
        self.assertEqual(inch["rows"][at["lower_ball"]][1], "26 3/4 in")
        wrong = look("elbow;1;2;3\nlower_ball;1;2;3\nlower_ball;1;2;3")
        self.assertIn("no point called “elbow”", wrong["problems"][0])
        self.assertIn("twice", wrong["problems"][1])
