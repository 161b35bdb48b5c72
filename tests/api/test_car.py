"""Readings, the car's data, the springs station."""

from typing import Any

from cabrio.core.graph.registry import number_named
from tests.support.client import INES, OKE, ApiTestCase, pads

CONTACT = "contact?setting=rebound_clicks&axle=front&click=5"


class Readings(ApiTestCase):
    def setUp(self) -> None:
        self.oke = self.person(OKE)

    def standing(self, kind: str = "pads") -> Any:
        return next(s for s in self.oke.bench()["standings"] if s["kind"] == kind)

    def test_a_pad_reading_gives_the_shares_at_once(self) -> None:
        self.oke.ok("POST", "/api/cars/1/readings", pads(["250", "240", "230 kg", "507.063 lb"]))
        figures = self.oke.bench()["figures"]
        self.assertAlmostEqual(figures["total_mass"]["values"][0], 950, places=3)
        self.assertAlmostEqual(figures["front_share"]["values"][0], 490 / 950, places=6)
        self.assertEqual(figures["cross_share"]["status"], "fresh")

    def test_repeats_are_averaged_and_their_spread_told(self) -> None:
        self.oke.ok(
            "POST", "/api/cars/1/readings", pads([250, 240, 230, 230], [251, 240, 229, 230])
        )
        reading = self.standing()["reading"]
        self.assertEqual(reading["values"]["pad_mass"], [250.5, 240, 229.5, 230])
        self.assertEqual(reading["spread"]["pad_mass"], [1, 0, 1, 0])

    def test_bad_cells_are_named_and_nothing_is_saved(self) -> None:
        before = len(self.oke.ok("GET", "/api/cars/1/readings")["readings"])
        for row, codes in [
            (["", "240", "230", "x"], ["not_a_number", "not_a_number"]),
            (["-1", "240", "230", "3 m"], ["out_of_range", "unknown_unit"]),
            (["5", "240", "230", "230"], ["unusual"]),
            (["0", "0", "0", "0"], ["unusual"] * 4),
        ]:
            with self.subTest(row):
                problem = self.oke.refused(422, "POST", "/api/cars/1/readings", pads(row))
                self.assertEqual([e["code"] for e in problem["errors"]], codes)
        self.oke.refused(422, "POST", "/api/cars/1/readings", pads([0, 0, 0, 0], confirmed=True))
        self.assertEqual(len(self.oke.ok("GET", "/api/cars/1/readings")["readings"]), before)

    def test_an_unusual_value_is_taken_once_confirmed(self) -> None:
        self.oke.ok("POST", "/api/cars/3/readings", pads([30, 31, 29, 30], confirmed=True))

    def test_withdrawing_wants_a_reason_and_brings_the_last_one_back(self) -> None:
        self.oke.ok("POST", "/api/cars/2/readings", pads([350, 340, 330, 320]))
        wrong = next(s for s in self.oke.bench(2)["standings"] if s["kind"] == "pads")["reading"]
        path = f"/api/cars/2/readings/{wrong['id']}/withdraw"
        self.oke.refused(422, "POST", path, {"why": "  "})
        self.oke.ok("POST", path, {"why": "Driver was out."})
        self.assertIn(
            "already withdrawn", self.oke.refused(409, "POST", path, {"why": "x"})["detail"]
        )
        now = next(s for s in self.oke.bench(2)["standings"] if s["kind"] == "pads")["reading"]
        self.assertNotEqual(now["id"], wrong["id"])
        kept = self.oke.ok("GET", "/api/cars/2/readings")["readings"]
        self.assertIn("Driver was out.", [one["withdrawn_why"] for one in kept])

    def test_a_reading_of_another_discipline_is_refused(self) -> None:
        self.oke.refused(422, "POST", "/api/cars/1/readings", {"kind": "pinion"})


class CarData(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)

    def give(self, car: int = 1, **values: list[Any]) -> Any:
        return self.ines.ok("PATCH", f"/api/cars/{car}/given", {"values": values})

    def refuse(self, car: int = 1, **values: list[Any]) -> Any:
        return self.ines.refused(422, "PATCH", f"/api/cars/{car}/given", {"values": values})

    def test_a_ratio_in_either_convention_is_the_same_ratio(self) -> None:
        self.ines.ok("PATCH", "/api/cars/1/settings", {"ratio_is": "wheel_per_spring"})
        self.give(motion_ratio=["1.25"] * 4)
        self.assertAlmostEqual(self.ines.bench()["given"]["motion_ratio"]["values"][0], 0.8)
        self.assertIn("switch the convention", self.refuse(motion_ratio=["0.6"] * 4)["detail"])
        self.ines.ok("PATCH", "/api/cars/1/settings", {"ratio_is": "spring_per_wheel"})
        self.assertIn("it is then 0.526", self.refuse(motion_ratio=["1.9"] * 4)["detail"])

    def test_a_new_car_is_refused_whole_with_everything_that_is_wrong(self) -> None:
        body = {
            "name": " ",
            "discipline": "drag",
            "rear_layout": "?",
            "given": {"wheelbase": ["long"]},
        }
        problem = self.ines.refused(422, "POST", "/api/cars", body)
        self.assertEqual({e["number"] for e in problem["errors"]}, {"name", "rear_layout"})
        body = {
            "name": "Nova",
            "discipline": "drag",
            "given": {"wheelbase": ["long"]},
            "pads": ["1", "2", "x", "4"],
        }
        problem = self.ines.refused(422, "POST", "/api/cars", body)
        self.assertEqual(
            {(e["number"], e["place"]) for e in problem["errors"]},
            {
                ("wheelbase", "car"),
                ("pad_mass", "LR"),
                ("pad_mass", "LF"),
                ("pad_mass", "RF"),
                ("pad_mass", "RR"),
            },
        )

    def test_a_new_car_has_what_can_be_told_at_once_and_claims_nothing(self) -> None:
        bench = self.ines.bench(self.ines.add_car())
        self.assertEqual({one for row in bench["setup"].values() for one in row}, {None})
        numbers = self.ines.ok("GET", "/api/vocabulary")["numbers"]
        worked = {n["name"] for n in numbers if n["kind"] == "worked"}
        self.assertGreater(len(worked & set(bench["figures"])), 120)
        told = {one for one in bench["figures"] if bench["figures"][one]["values"] is not None}
        self.assertGreater(len(worked & told), 110)
        for name in worked & set(bench["figures"]) - told:
            self.assertTrue(bench["figures"][name]["missing"], name)
        # what only this car can tell is said of it by nothing typical
        for name in (
            "axle_skew",
            "housing_bend",
            "thrust_angle",
            "swept_caster",
            "tilted_cg_height",
        ):
            self.assertNotIn(name, told)
        self.assertTrue({"total_mass", "axle_frequency", "lltd", "anti_squat"} <= told)
        self.assertEqual({s["status"] for s in bench["standings"]}, {"missing"})
        self.assertTrue(bench["measure_next"][0]["why"])
        self.assertTrue(all(bench["given"]["wheelbase"]["estimated"]))

    def test_pads_typed_with_a_new_car_are_a_reading_in_doubt(self) -> None:
        made = self.ines.add_car(
            pads=["700 lb", "690 lb", "650 lb", "640 lb"], given={"wheelbase": ["105 in"]}
        )
        bench = self.ines.bench(made)
        self.assertAlmostEqual(bench["figures"]["total_mass"]["values"][0], 2680 * 0.45359237)
        pads = next(s for s in bench["standings"] if s["kind"] == "pads")
        self.assertEqual(pads["status"], "doubtful")
        self.assertEqual(bench["given"]["wheelbase"]["estimated"], [False])
        self.assertNotIn("pad_mass", bench["given"])

    def test_a_copy_wears_what_the_car_wears_and_begins_its_own_record(self) -> None:
        made = self.ines.ok("POST", "/api/cars/1/copy", {"name": "Wagtail two"})["id"]
        here, there = self.ines.bench(1), self.ines.bench(made)
        self.assertEqual((there["setup"], there["revision"]), (here["setup"], 1))
        self.assertEqual(
            self.ines.ok("GET", f"/api/cars/{made}/readings"), {"readings": [], "count": 0}
        )

    def test_a_better_measurement_keeps_what_was_before(self) -> None:
        before = self.ines.bench()["given"]["rear_brake_share"]
        self.give(rear_brake_share=["38 %"])
        now = self.ines.bench()["given"]["rear_brake_share"]
        self.assertEqual(now["was"][-1]["values"], before["values"])
        self.assertEqual(now["was"][-1]["by"], before["by"])

    def test_a_fact_altered_on_the_car_goes_by_the_slip(self) -> None:
        self.ines.draft(("bolt_z", "upper axle", "18 in"), car=2)
        bench = self.ines.bench(2)
        self.assertIn("pinion", [r["kind"] for r in bench["slip"]["rechecks"]])
        self.assertIn("anti_squat", [m["name"] for m in bench["slip"]["moved"]])
        number = self.ines.book(2)
        now = self.ines.bench(2)["given"]["bolt_z"]
        self.assertAlmostEqual(now["values"][1], 18 * 0.0254)
        self.assertEqual(now["since"], number)
        found = self.ines.ok("GET", f"/api/cars/2/compare?left={number - 1}&right={number}")
        self.assertIn("bolt_z", [line["name"] for line in found["set_otherwise"]])
        self.ines.ok("POST", f"/api/cars/2/revisions/{number}/back-out")
        self.assertEqual(self.ines.bench(2)["slip"]["lines"][0]["new"], 18.5 * 0.0254)
        self.ines.book(2)
        self.assertAlmostEqual(self.ines.bench(2)["given"]["bolt_z"]["values"][1], 18.5 * 0.0254)

    def test_go_back_to_a_revision_lists_every_move(self) -> None:
        self.ines.ok("POST", "/api/cars/1/revisions/1/go-back")
        lines = self.ines.bench()["slip"]["lines"]
        self.assertIn(
            ("bar_hole", "front", 2.0), [(x["name"], x["place"], x["new"]) for x in lines]
        )
        self.ines.ok("PUT", "/api/cars/1/baseline", {"revision": 2})
        self.assertEqual(self.ines.bench()["baseline"], 2)
        self.ines.refused(404, "PUT", "/api/cars/1/baseline", {"revision": 99})
        self.ines.draft()

    def test_impossible_values_leave_the_car_as_it_was(self) -> None:
        before = self.ines.bench()["given"]
        for name, row in [
            ("unsprung_mass", ["0", "30", "30", "30"]),
            ("wheelbase", ["-2"]),
            ("tyre_rate", ["a", "b", "c", "d"]),
            ("track", ["1500"]),
        ]:
            with self.subTest(name):
                self.refuse(**{name: row})
        self.assertEqual(self.ines.bench()["given"], before)
        self.ines.refused(422, "PATCH", "/api/cars/1/given", {"values": {"cross_share": [0.5]}})

    def test_an_emptied_number_is_missing_and_named(self) -> None:
        self.give(droop_travel=["", "", "40", "40"])
        figure = self.ines.bench()["figures"]["seat_at_droop"]
        self.assertEqual(figure["missing"][0]["sentence"], "droop travel, LF and RF")
        told = self.ines.ok("GET", "/api/cars/1/working/seat_at_droop")
        self.assertEqual(told["missing"][0]["name"], "droop_travel")
        self.give(droop_travel=["40"] * 4)
        self.assertIsNotNone(self.ines.bench()["figures"]["seat_at_droop"]["values"])

    def test_an_emptied_fact_is_assumed_again_and_every_view_opens(self) -> None:
        views = ("under-load", "under-load/around", "ladder", "fuel", "trials/kerb", CONTACT)
        for name, left in (
            ("speed", [None]),
            ("lateral_acceleration", [None]),
            ("tank_to_left", [None]),
            ("rubber_motion_ratio", [None, None]),
            ("lift_area", [None, None]),
            ("lift_area", [None, 0.4]),
        ):
            before = self.ines.bench()["figures"][name]["values"]
            with self.subTest(name, left=left):
                self.give(1, **{name: left})
                now = self.ines.bench()["figures"][name]["values"]
                assumed = number_named(name).default
                self.assertEqual(now, [assumed if one is None else one for one in left])
                for view in views:
                    self.ines.ok("GET", f"/api/cars/1/{view}")
                self.give(1, **{name: before})

    def test_the_springs_station_by_convention(self) -> None:
        plain = self.ines.ok("GET", "/api/cars/2/springs")["axles"]
        self.give(2, tyre_in_series=[1])
        series = self.ines.ok("GET", "/api/cars/2/springs")["axles"]
        self.assertGreater(series[0]["wanted_rate"], plain[0]["wanted_rate"])
        self.assertEqual(series[0]["figure"], "target_spring_rate_on_tyre")
        offs = [abs(c["off_target"]) for c in series[0]["candidates"]]
        self.assertEqual(offs, sorted(offs))
        self.give(2, target_frequency=["1.2", "5.5"])
        rear = self.ines.ok("GET", "/api/cars/2/springs")["axles"][1]
        self.assertIn("aim below", rear["problem"])

    def test_a_job_on_the_slip_alone_is_booked_with_its_rechecks(self) -> None:
        body = {
            "version": self.ines.bench(3)["slip"]["version"],
            "changes": [],
            "jobs": ["drop_link"],
        }
        slip = self.ines.ok("PUT", "/api/cars/3/slip", body)
        self.assertIn("bar_neutral", [r["kind"] for r in slip["rechecks"]])
        self.ines.refused(
            422, "PUT", "/api/cars/3/slip", body | {"version": slip["version"], "jobs": ["repaint"]}
        )
        number = self.ines.book(3)
        bench = self.ines.bench(3)
        self.assertEqual(
            next(s for s in bench["standings"] if s["kind"] == "bar_neutral")["status"], "void"
        )
        made = next(
            one
            for one in self.ines.ok("GET", "/api/cars/3/logbook")["revisions"]
            if one["number"] == number
        )
        self.assertEqual(made["jobs"], ["drop_link"])

    def test_units_change_what_a_bare_figure_means(self) -> None:
        self.ines.ok("PATCH", "/api/cars/3/settings", {"profile": "imperial"})
        self.give(3, wheelbase=["100"])
        self.assertAlmostEqual(self.ines.bench(3)["given"]["wheelbase"]["values"][0], 2.54)
        self.ines.refused(422, "PATCH", "/api/cars/3/settings", {"profile": "furlongs"})
        self.ines.refused(422, "PATCH", "/api/cars/3/settings", {"use": "drag"})
