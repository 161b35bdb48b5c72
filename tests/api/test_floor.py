"""The floor looked at after a run: with the run, in the file, and held against heights place by place."""

from typing import Any

from tests.support.client import INES, ApiTestCase


class Floor(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)

    def newest(self, car: int = 1) -> Any:
        sessions = self.ines.ok("GET", f"/api/cars/{car}/logbook")["sessions"]
        return max(
            (run for session in sessions for run in session["runs"]), key=lambda run: run["id"]
        )

    def learned(self, car: int = 1) -> dict[tuple[str, str], Any]:
        found = self.ines.ok("GET", f"/api/cars/{car}/floor")["learned"]
        return {(one["place"], one["axle"]): one for one in found}

    def test_the_season_s_looks_stand_by_place_with_the_heights_they_ran_at(self) -> None:
        found = self.learned()
        ring = found["Mossgate Ring", "front"]
        self.assertEqual(ring["looks"], 2)
        self.assertTrue(0.05 < ring["touched_at"] < 0.2)
        self.assertIsNone(found["Gannet Sands", "front"]["touched_at"])
        self.assertEqual(self.learned(2), {})

    def test_a_look_comes_with_its_run_and_is_corrected_with_its_reason(self) -> None:
        session = self.ines.ok("GET", "/api/cars/1/logbook")["sessions"][-1]["id"]
        run = {"driver": "Mara", "floor": {"rear": "touched"}, "released_why": "A look."}
        self.ines.ok("POST", f"/api/cars/1/sessions/{session}/runs", run)
        newest = self.newest()
        self.assertEqual(newest["floor"], {"rear": "touched"})
        place = "Mossgate Ring", "rear"
        touched = self.learned()[place]
        self.assertIsNotNone(touched["touched_at"])
        # the same height ran free before: height alone did not decide
        self.assertIn("ran free as low as it touched", touched["says"])
        fixed = {"driver": "Mara", "floor": {"rear": "free"}, "why": "It was old paint."}
        self.ines.ok("PATCH", f"/api/cars/1/runs/{newest['id']}", fixed)
        (amended,) = self.newest()["amended"]
        self.assertEqual(
            (amended["before"], amended["after"]),
            ({"floor": {"rear": "touched"}}, {"floor": {"rear": "free"}}),
        )
        self.assertIsNone(self.learned()[place]["touched_at"])

    def test_what_is_no_look_is_refused(self) -> None:
        session = self.ines.ok("GET", "/api/cars/1/logbook")["sessions"][-1]["id"]
        for floor in ({"left": "free"}, {"front": "scraped"}, {"front": None}, []):
            body = {"floor": floor, "released_why": "x"}
            self.ines.refused(422, "POST", f"/api/cars/1/sessions/{session}/runs", body)

    def test_it_goes_out_and_in_with_the_car_file(self) -> None:
        text = self.ines.http.get("/api/cars/1/file").get_data(as_text=True)
        self.assertIn('"floor"', text)
        made = self.ines.ok("POST", "/api/cars/import", text)["id"]
        here, there = self.learned(), self.learned(made)
        self.assertEqual(here.keys(), there.keys())
        for key, one in here.items():
            self.assertEqual(
                (one["touched_at"], one["looks"]), (there[key]["touched_at"], there[key]["looks"])
            )
        broken = text.replace('"touched"', '"scraped"')
        self.assertNotEqual(broken, text)
        self.ines.refused(422, "POST", "/api/cars/import", broken)
