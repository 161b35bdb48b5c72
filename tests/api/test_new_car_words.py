"""What is said of a car of which little is known: in its own units, and nothing that nobody told."""

import re

from tests.support.client import INES, ApiTestCase, Person

METRIC = re.compile(r"\d (mm|m|kg|N|N/mm|bar|J|°C)\b")


class NewCarWords(ApiTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ines: Person = self.person(INES)
        self.car = self.ines.add_car(profile="imperial", pads=[600, 560, 590, 520])
        self.at = f"/api/cars/{self.car}"

    def test_an_imperial_car_is_told_nothing_in_metric_units(self) -> None:
        said = [one["why"] for one in self.ines.bench(self.car)["given"].values()]
        said.append(self.ines.ok("GET", f"{self.at}/charts/load_as_it_rises")["booked"]["note"])
        self.assertEqual([one for one in said if METRIC.search(one)], [])
        self.assertTrue(any("98 to 110 in" in one for one in said))
        self.assertIn("ft·lbf", said[-1])

    def test_conditions_that_nobody_was_asked_are_not_ticked(self) -> None:
        standings = self.ines.bench(self.car)["standings"]
        pads = next(standing for standing in standings if standing["kind"] == "pads")
        self.assertTrue(pads["reasons"][0]["why"].startswith("Driver aboard: not ticked."))

    def test_a_live_axle_has_no_rear_caster_and_no_points_of_uprights(self) -> None:
        bench = self.ines.bench(self.car)
        self.assertEqual(
            {name: list(places) for name, places in bench["not_here"].items()},
            {"points": ["LR", "RR"], "caster": ["rear"], "caster_found": ["rear"]},
        )
        change = {"name": "caster", "place": "rear", "new": 0.05}
        slip = {"version": bench["slip"]["version"], "changes": [change]}
        refused = self.ines.refused(422, "PUT", f"{self.at}/slip", slip)
        self.assertEqual(
            refused["errors"][0]["detail"], "Caster, rear: on an independent axle only."
        )
        self.ines.ok("PUT", f"{self.at}/slip", slip | {"changes": [change | {"place": "front"}]})

    def test_what_a_live_axle_has_not_is_not_missed_where_it_was_not_read(self) -> None:
        read = {
            "kind": "alignment",
            "repeats": {
                "caster_found": [["6", ""]],
                "camber_found": [["-1", "-1", "0", "0"]],
                "toe_found": [["0", "0", "0", "0"]],
            },
            "conditions": {},
        }
        self.ines.ok("POST", f"{self.at}/readings", read)
        standings = {one["kind"]: one for one in self.ines.bench(self.car)["standings"]}
        self.assertEqual(standings["alignment"]["status"], "fresh")
        rear = read | {"repeats": {"caster_found": [["", "6"]]}}
        refused = self.ines.refused(422, "POST", f"{self.at}/readings", rear)
        self.assertEqual(refused["errors"][0]["pointer"], "#/caster_found/rear")

    def test_a_range_is_told_in_the_units_of_the_car(self) -> None:
        for name, place, typed, told in (
            (
                "front_limiter",
                "car",
                "20 mm",
                "goes from 1.000 to 4.500 in on this car, not to 0.7",
            ),
            ("tyre_pressure", "LF", "3", "goes from 8.0 to 60.0 psi on this car, not to 3.0"),
        ):
            slip = {"version": 0, "changes": [{"name": name, "place": place, "new": typed}]}
            refused = self.ines.refused(422, "PUT", "/api/cars/2/slip", slip)
            self.assertIn(told, refused["errors"][0]["detail"])

    def test_what_a_missing_damper_cannot_tell(self) -> None:
        chart = self.ines.ok("GET", f"{self.at}/charts/damper_force")
        self.assertEqual(chart["missing"], "LF: no damper is on the car.")
