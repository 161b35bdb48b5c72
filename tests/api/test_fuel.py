"""Fuel from start to finish over HTTP."""

from tests.support.client import INES, ApiTestCase

PATH = "/api/cars/1/fuel"


class Fuel(ApiTestCase):
    def test_booked_and_drafted_and_what_lacks(self) -> None:
        ines = self.person(INES)
        found = ines.ok("GET", PATH)
        weighed, start, finish = (found["booked"][one] for one in ("weighed", "start", "finish"))
        self.assertEqual((weighed["fuel"], start["fuel"], finish["fuel"]), (22.0, 34.0, 6.0))
        self.assertAlmostEqual(sum(start["pads"]) - sum(finish["pads"]), 28.0)
        self.assertLess(start["front_share"], finish["front_share"])
        self.assertIsNotNone(start["balance"])
        self.assertIsNone(found["drafted"])
        ines.draft(("bar_hole", "rear", 5))
        drafted = ines.ok("GET", PATH)["drafted"]
        self.assertLess(drafted["start"]["balance"], start["balance"])  # more on the front
        ines.draft()
        ines.ok("PATCH", "/api/cars/1/given", {"values": {"fuel_finish": [None]}})
        lacking = ines.ok("GET", PATH)
        self.assertEqual([one["name"] for one in lacking["needs"]], ["fuel_finish"])
        self.assertIsNone(lacking["booked"])
