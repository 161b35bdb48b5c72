"""Figures and limits of a car made on screen that once were not so: air at one end, a limiter, links that do
not drive."""

from typing import Any

from cabrio.core.constants import STANDARD_GRAVITY as G
from tests.support.client import INES, ApiTestCase, Person, pads


class LoadsOnScreen(ApiTestCase):
    def made(self, ines: Person, **more: Any) -> str:
        body = {"name": "Sorrel", "discipline": "circuit", "use": "race_no_downforce"}
        body |= {"rear_layout": "independent"} | more
        return f"/api/cars/{ines.add_car(**body)}"

    def loaded(self, ines: Person, path: str, **demand: float) -> Any:
        asked = "&".join(f"{name}={value}" for name, value in demand.items())
        answer = ines.ok("GET", f"{path}/under-load?{asked}")
        self.assertEqual(answer["needs"], [])
        return answer["booked"]

    def weighed(self, ines: Person, path: str, **given: list[float]) -> None:
        ines.ok("POST", f"{path}/readings", pads([260, 250, 240, 245]))
        ines.ok("PATCH", f"{path}/given", {"values": given})

    def test_air_mostly_on_the_rear_under_braking(self) -> None:
        ines = self.person(INES)
        path = self.made(ines)
        self.weighed(ines, path, lift_area=[0.9, 2.2])
        found = self.loaded(ines, path, along=-9, sideways=0, speed=70)
        self.assertEqual(found["refused"], "")
        self.assertTrue(all(load > 0 for load in found["loads"]))
        self.assertGreater(found["wheels_up"], 9 / G)

    def test_a_limiter_stops_the_front_of_the_loaded_car(self) -> None:
        ines = self.person(INES)
        path = self.made(ines, discipline="drag", use="drag", rear_layout="ladder_bar")
        self.weighed(ines, path)
        free = self.loaded(ines, path, along=14, sideways=0, speed=0)["travels"][0]
        self.assertLess(free, -0.03)
        car = int(path.rsplit("/", 1)[1])
        ines.draft(("front_limiter", "car", 0.02), car=car)
        ines.book(car)
        held = self.loaded(ines, path, along=14, sideways=0, speed=0)
        self.assertAlmostEqual(held["travels"][0], -0.02, 6)
        self.assertTrue(held["on_stop"][0])

    def test_ladder_bars_have_all_that_follows_from_their_anti_squat(self) -> None:
        ines = self.person(INES)
        path = self.made(ines, discipline="drag", use="drag", rear_layout="ladder_bar")
        self.weighed(ines, path)
        ines.ok("PATCH", f"{path}/given", {"values": {"rear_brake_share": [0.4]}})
        figures = ines.ok("GET", path)["figures"]
        squat = figures["anti_squat"]["values"][0]
        self.assertAlmostEqual(figures["anti_lift"]["values"][0], 0.4 * squat)
        self.assertIsNotNone(figures["rear_separation"]["values"])

    def test_links_that_do_not_drive_say_so(self) -> None:
        ines = self.person(INES)
        path = self.made(ines, driven="front", rear_layout="parallel_four_link")
        self.weighed(ines, path)
        figures = ines.ok("GET", path)["figures"]
        for name in ("anti_squat", "upper_bar_force", "shaft_load_shift"):
            if name in figures and figures[name]["missing"] == []:
                self.assertIn("nly the front wheels drive", figures[name]["refused"] or "", name)
        self.assertIn("nly the front wheels drive", figures["anti_squat"]["refused"] or "")

    def test_an_independent_rear_without_points_has_no_anti_squat_to_show(self) -> None:
        ines = self.person(INES)
        path = self.made(ines)
        self.weighed(ines, path)
        told = ines.ok("GET", path)["figures"].get("drive_anti")
        self.assertTrue(told is None or told["values"] is None, told)
