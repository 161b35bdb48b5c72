"""The slip, from a touched setting to a booked revision and back."""

from typing import Any

from tests.support.client import INES, TEO, ApiTestCase

REAR_70 = [("spring", "LR", "70/180"), ("spring", "RR", "70/180")]


class Slips(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)
        self.teo = self.person(TEO)
        for person in (self.ines, self.teo):
            if person.bench()["slip"]["behind"]:
                person.ok("POST", "/api/cars/1/slip/reapply")
            person.draft()

    def names(self, rows: list[dict[str, Any]]) -> list[tuple[str, str]]:
        return [(row["name"], row["place"]) for row in rows]

    def test_a_draft_shows_what_it_would_do(self) -> None:
        slip = self.ines.draft(*REAR_70, why="Lazy.", expectation="Quicker.")
        moved = {(m["name"], m["place"]): m for m in slip["moved"]}
        rear = moved["axle_frequency", "rear"]
        self.assertGreater(rear["after"], rear["before"])
        self.assertNotIn(("axle_frequency", "front"), moved)
        checks = {one["kind"]: one["verdict"] for one in slip["rechecks"]}
        self.assertEqual((checks["heights"], checks["bolts"]), ("void", "void"))
        self.assertEqual(slip["minutes"], sum(one["minutes"] for one in slip["rechecks"]))
        self.assertEqual(slip["mixed"], [])

    def test_several_systems_are_warned_about(self) -> None:
        slip = self.ines.draft(*REAR_70, ("bar_hole", "front", 4))
        self.assertEqual(slip["mixed"], ["springs and perches", "anti-roll bars"])

    def test_a_line_back_to_what_is_booked_is_no_line(self) -> None:
        now = self.ines.bench()["setup"]["bar_hole"][0]
        self.assertEqual(self.ines.draft(("bar_hole", "front", now))["lines"], [])

    def test_values_as_typed(self) -> None:
        slip = self.ines.draft(
            ("perch_turns", "LF", "1 1/4 turn"), ("tyre_pressure", "RR", "24 psi")
        )
        self.assertEqual(slip["lines"][0]["new"], 1.25)
        self.assertAlmostEqual(slip["lines"][1]["new"], 24 * 6894.757293168, places=3)

    def test_bad_values_are_all_refused_and_nothing_is_saved(self) -> None:
        self.ines.draft(("bar_hole", "front", 4))
        problem = self.ines.refused(
            422,
            "PUT",
            "/api/cars/1/slip",
            {
                "version": self.ines.bench()["slip"]["version"],
                "changes": [
                    {"name": "bar_hole", "place": "front", "new": 9},
                    {"name": "spring", "place": "LF", "new": "nope"},
                    {"name": "rebound_clicks", "place": "RR", "new": "many"},
                ],
            },
        )
        places = [(e["number"], e["place"]) for e in problem["errors"]]
        self.assertEqual(
            places, [("bar_hole", "front"), ("spring", "LF"), ("rebound_clicks", "RR")]
        )
        self.assertEqual(problem["errors"][0]["pointer"], "#/bar_hole/front")
        self.assertEqual(self.names(self.ines.bench()["slip"]["lines"]), [("bar_hole", "front")])

    def test_booking_and_backing_out(self) -> None:
        before = self.ines.bench()
        self.ines.draft(*REAR_70)
        number = self.ines.book()
        self.assertEqual(number, before["revision"] + 1)
        after = self.ines.bench()
        self.assertEqual(after["setup"]["spring"][2:], ["70/180", "70/180"])
        self.assertEqual(after["slip"]["lines"], [])
        heights = next(s for s in after["standings"] if s["kind"] == "heights")
        self.assertEqual(heights["status"], "void")
        self.ines.ok("POST", f"/api/cars/1/revisions/{number}/back-out")
        self.assertEqual(self.ines.bench()["slip"]["why"], f"Backs out revision {number}.")
        self.ines.book()
        self.assertEqual(self.ines.bench()["setup"], before["setup"])
        again = self.ines.refused(409, "POST", f"/api/cars/1/revisions/{number}/back-out")
        self.assertIn("already back", again["detail"])

    def test_a_second_person_gets_the_difference_and_loses_nothing(self) -> None:
        self.teo.draft(("bar_hole", "front", 5), ("rebound_clicks", "LR", 6), why="Mine.")
        self.ines.draft(("bar_hole", "front", 1))
        number = self.ines.book()
        version = self.teo.bench()["slip"]["version"]
        problem = self.teo.refused(409, "POST", "/api/cars/1/slip/book", {"version": version})
        self.assertIn(f"Ines Halloran booked revision {number} meanwhile", problem["detail"])
        slip = self.teo.bench()["slip"]
        self.assertEqual(self.names(slip["behind"]["lines"]), [("bar_hole", "front")])
        self.assertEqual(self.names(slip["behind"]["overlap"]), [("bar_hole", "front")])
        self.assertEqual(len(slip["lines"]), 2)
        self.teo.ok("POST", "/api/cars/1/slip/reapply")
        carried = self.teo.bench()["slip"]
        self.assertIsNone(carried["behind"])
        self.assertEqual(carried["why"], "Mine.")
        self.assertEqual((carried["lines"][0]["old"], carried["lines"][0]["new"]), (1, 5))
        self.assertEqual(self.teo.book(), number + 1)

    def test_what_touches_nothing_of_the_other_goes_on_top_by_itself(self) -> None:
        now = self.ines.bench()["setup"]
        other = 2 if now["rebound_clicks"][2] != 2 else 3
        hole = 2 if now["bar_hole"][1] != 2 else 3
        mine = self.teo.draft(("rebound_clicks", "LR", other), why="Mine.")
        self.ines.draft(("bar_hole", "rear", hole))
        number = self.ines.book()
        slip = self.teo.bench()["slip"]
        self.assertIsNone(slip["behind"])
        self.assertEqual((slip["base"], slip["version"]), (number, mine["version"]))
        self.assertEqual(slip["merged"]["by"], "Ines Halloran")
        self.assertEqual(self.names(slip["merged"]["lines"]), [("bar_hole", "rear")])
        self.assertEqual(self.teo.book(), number + 1)
        after = self.teo.bench()["setup"]
        self.assertEqual((after["rebound_clicks"][2], after["bar_hole"][1]), (other, hole))
        self.teo.ok("POST", f"/api/cars/1/revisions/{number + 1}/back-out")
        self.assertEqual(self.teo.bench()["slip"]["lines"][0]["new"], now["rebound_clicks"][2])

    def test_what_cannot_be_set_any_more_does_not_go_on_top(self) -> None:
        now = self.ines.bench()["setup"]["bar_hole"]
        knob = self.ines.bench()["adjusters"]["rebound_clicks"]
        ends = {"lowest": knob["lowest"], "highest": knob["highest"]}
        path = "/api/cars/1/adjusters/rebound_clicks"
        self.teo.draft(("rebound_clicks", "RR", ends["highest"]), why="Mine.")
        self.ines.ok("PUT", path, ends | {"highest": ends["highest"] - 1})
        self.ines.draft(("bar_hole", "rear", 1 if now[1] != 1 else 2))
        self.ines.book()
        slip = self.teo.bench()["slip"]
        self.assertIsNone(slip["merged"])
        self.assertEqual(slip["behind"]["overlap"], [])
        self.teo.refused(409, "POST", "/api/cars/1/slip/book", {"version": slip["version"]})
        self.assertEqual(self.teo.bench()["slip"]["why"], "Mine.")
        self.ines.ok("PUT", path, ends)

    def test_two_windows_of_one_person(self) -> None:
        version = self.ines.draft(("bar_hole", "rear", 4))["version"]
        stale = {"version": version - 1, "changes": []}
        problem = self.ines.refused(409, "PUT", "/api/cars/1/slip", stale)
        self.assertIn("another window", problem["detail"])
        self.ines.refused(409, "POST", "/api/cars/1/slip/book", {"version": version - 1})
        self.assertEqual(len(self.ines.bench()["slip"]["lines"]), 1)

    def test_parked_and_resumed(self) -> None:
        self.ines.draft(("bar_hole", "rear", 5), why="Later.")
        self.ines.ok("POST", "/api/cars/1/slip/park")
        slip = self.ines.bench()["slip"]
        self.assertEqual((slip["lines"], slip["parked"][0]["why"]), ([], "Later."))
        self.ines.draft(("bar_hole", "rear", 1))
        self.ines.ok("POST", "/api/cars/1/slip/resume", {"slip": slip["parked"][0]["id"]})
        slip = self.ines.bench()["slip"]
        self.assertEqual(slip["lines"][0]["new"], 5)
        self.assertEqual(slip["parked"][0]["lines"][0]["new"], 1)

    def test_what_is_resumed_is_newer_than_any_window_saw_it(self) -> None:
        seen = self.ines.draft(("bar_hole", "rear", 5))["version"]
        self.ines.ok("POST", "/api/cars/1/slip/park")
        # a slip of work alone is kept, too, when another is taken up in its place
        work = {"version": 0, "changes": [], "jobs": ["bolted"]}
        self.ines.ok("PUT", "/api/cars/1/slip", work)
        parked = self.ines.bench()["slip"]["parked"][0]["id"]
        self.ines.ok("POST", "/api/cars/1/slip/resume", {"slip": parked})
        slip = self.ines.bench()["slip"]
        self.assertGreater(slip["version"], seen)
        self.assertEqual(slip["parked"][0]["jobs"], ["bolted"])
        self.ines.refused(409, "POST", "/api/cars/1/slip/book", {"version": seen})
        self.ines.draft()

    def test_an_empty_slip_is_not_booked(self) -> None:
        version = self.ines.bench()["slip"]["version"]
        problem = self.ines.refused(409, "POST", "/api/cars/1/slip/book", {"version": version})
        self.assertIn("nothing on the slip", problem["detail"])

    def test_a_typed_command_changes_nothing_by_itself(self) -> None:
        before = self.ines.bench()["slip"]
        said = self.ines.ok("POST", "/api/cars/1/command", {"text": "rear spring 70"})
        self.assertEqual(
            [(c["place"], c["new"]) for c in said["changes"]], [("LR", "70/180"), ("RR", "70/180")]
        )
        self.assertEqual(self.ines.bench()["slip"], before)
