"""Several people at once, and what the record keeps of it."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from typing import Any

from sqlalchemy import event, select
from sqlalchemy.orm import Session

from cabrio.core.graph.registry import numbers
from cabrio.storage.cars import revisions_of
from cabrio.storage.documents import content_hash
from cabrio.storage.models import CarRow, RevisionRow, SlipLineRow, SlipRow
from tests.support.client import INES, MARA, OKE, PELL, TEO, ApiTestCase, Person, pads


class AtOnce(ApiTestCase):
    def test_what_is_booked_while_the_record_is_read_is_read_whole_or_not_at_all(self) -> None:
        ines = self.person(INES)
        ines.draft(("rebound_clicks", "LF", 5), car=2)
        booked: list[int] = []

        def meanwhile(*told: Any) -> None:
            if not booked and ("FROM revision" in told[2] or "FROM slip" in told[2]):
                booked.append(0)
                booked[0] = ines.book(2)

        with Session(self.engine) as db:
            event.listen(self.engine, "after_cursor_execute", meanwhile)
            self.addCleanup(event.remove, self.engine, "after_cursor_execute", meanwhile)
            for _ in range(2):
                found = revisions_of(db, db.get_one(CarRow, 2))
                self.assertTrue(all(one.lines or one.jobs for one in found[1:]))
        self.assertEqual(found[-1].number, booked[0])

    def test_of_two_bookings_at_the_same_moment_one_wins(self) -> None:
        people = [self.person(INES), self.person(TEO)]
        for round_ in range(4):
            for i, person in enumerate(people):
                if person.bench()["slip"]["behind"]:
                    person.ok("POST", "/api/cars/1/slip/reapply")
                person.draft(("rebound_clicks", "LF", 2 + 2 * round_ + i))
            start = people[0].bench()["revision"]
            versions = [person.bench()["slip"]["version"] for person in people]

            def book(pair: tuple[Person, int]) -> int:
                person, version = pair
                body = {"version": version}
                return int(person.call("POST", "/api/cars/1/slip/book", body).status_code)

            with ThreadPoolExecutor(2) as pool:
                answers = sorted(pool.map(book, zip(people, versions, strict=True)))
            self.assertEqual(answers, [200, 409])
            self.assertEqual(people[0].bench()["revision"], start + 1)

    def test_of_many_who_withdraw_a_reading_one_is_told_that_it_did(self) -> None:
        oke = self.person(OKE)
        oke.ok("POST", "/api/cars/1/readings", pads([250, 251, 262, 263]))
        made = oke.ok("GET", "/api/cars/1/readings?kind=pads")["readings"][0]["id"]
        people = [self.person(who) for who in (INES, TEO, OKE, INES, TEO, OKE)]

        def withdraw(person: Person) -> int:
            path = f"/api/cars/1/readings/{made}/withdraw"
            return int(person.call("POST", path, {"why": "a slip"}).status_code)

        with ThreadPoolExecutor(6) as pool:
            self.assertEqual(sorted(pool.map(withdraw, people)), [200] + [409] * 5)

    def test_a_fact_that_somebody_changed_meanwhile_is_not_written_over(self) -> None:
        ines, teo = self.person(INES), self.person(TEO)
        seen = ines.bench()["given"]["wheelbase"]["values"]
        teo.ok("PATCH", "/api/cars/1/given", {"values": {"wheelbase": ["2501"]}})
        body = {"values": {"wheelbase": ["2512"]}, "seen": {"wheelbase": seen}}
        told = ines.refused(409, "PATCH", "/api/cars/1/given", body)
        self.assertIn("Teo Brandvold changed wheelbase meanwhile: it is 2501 mm", told["detail"])
        now = ines.bench()["given"]["wheelbase"]["values"]
        self.assertEqual(now, [2.501])
        ines.ok("PATCH", "/api/cars/1/given", body | {"seen": {"wheelbase": now}})
        # nothing given yet may be said as null, or as a place without a value
        free = next(
            one for one in ("air_box_loss", "aero_balance", *numbers()) if self.gives(ines, one)
        )
        for nothing in (None, [None] * len(numbers()[free].shape.places)):
            ines.ok("PATCH", "/api/cars/1/given", {"values": {}, "seen": {free: nothing}})

    def gives(self, ines: Person, name: str) -> bool:
        found = numbers().get(name)
        return bool(found and found.is_fact and name not in ines.bench()["given"])

    def test_one_draft_a_person_even_when_both_windows_begin_at_once(self) -> None:
        windows = [self.person(INES), self.person(INES)]
        changes = {"version": 0, "changes": [{"name": "bar_hole", "place": "front", "new": 2}]}

        def write(window: Person) -> int:
            return int(window.call("PUT", "/api/cars/3/slip", changes).status_code)

        with ThreadPoolExecutor(2) as pool:
            self.assertEqual(sorted(pool.map(write, windows)), [200, 409])
        with Session(self.engine) as db:
            drafts = db.scalars(
                select(SlipRow).where(SlipRow.car_id == 3, SlipRow.state == "draft")
            ).all()
        self.assertEqual(len(drafts), 1)


class TheRecord(ApiTestCase):
    def test_every_revision_is_the_one_before_with_its_lines(self) -> None:
        with Session(self.engine) as db:
            rows = db.scalars(
                select(RevisionRow).order_by(RevisionRow.car_id, RevisionRow.number)
            ).all()
            self.assertGreater(len(rows), 10)
            for before, after in pairwise(rows):
                self.assertEqual(after.content_hash, content_hash(after.setup))
                if before.car_id != after.car_id:
                    continue
                slip = db.scalars(
                    select(SlipRow).where(
                        SlipRow.car_id == after.car_id, SlipRow.booked_as == after.number
                    )
                ).one()
                setup = {name: list(values) for name, values in before.setup.items()}
                for line in slip.lines:
                    at = numbers()[line.name].index(line.place)
                    self.assertEqual(setup[line.name][at], line.old)
                    setup[line.name][at] = line.new
                self.assertEqual(setup, after.setup)

    def test_the_log_can_be_searched_by_what_changed(self) -> None:
        with Session(self.engine) as db:
            query = select(SlipRow.booked_as).join(SlipLineRow).where(SlipLineRow.name == "spring")
            found = set(db.scalars(query.where(SlipRow.car_id == 1)))
        self.assertEqual(found, {3, 4})


class Vocabulary(ApiTestCase):
    def test_the_screens_get_the_one_dictionary(self) -> None:
        found = self.person(PELL).ok("GET", "/api/vocabulary")
        names = [entry["name"] for entry in found["numbers"]]
        self.assertEqual(names, list(numbers()))
        rate = found["measures"]["rate"]
        self.assertAlmostEqual(70e3 * rate["n_mm"]["factor"], 70)
        self.assertAlmostEqual(175.12683524647636 * rate["imperial"]["factor"], 1)
        temperature = found["measures"]["temperature"]["n_mm"]
        self.assertAlmostEqual(293.15 * temperature["factor"] + temperature["offset"], 20)
        layouts = {s["id"]: s["layouts"] for s in found["stations"]}
        self.assertEqual(next(iter(layouts)), "plan")
        self.assertIn("leaf", layouts["links"])
        self.assertNotIn("independent", layouts["links"])
        self.assertEqual(layouts["weights"], [])

    def test_the_garage_tells_how_each_car_stands(self) -> None:
        cars: list[dict[str, Any]] = self.person(OKE).ok("GET", "/api/cars")["cars"]
        self.assertEqual([car["discipline"] for car in cars], ["circuit", "drag", "drift"])
        wagtail = cars[0]
        self.assertEqual((wagtail["stale"]["void"], wagtail["session"]), (2, "Race"))
        self.assertEqual(wagtail["total_mass"], 1018.5)

    def test_the_demo_tells_a_whole_story(self) -> None:
        ines = self.person(MARA)
        log = ines.ok("GET", "/api/cars/1/logbook")
        outcomes = [r["outcome"] for r in log["revisions"]]
        self.assertIn("worse", outcomes)
        backed = next(r for r in log["revisions"] if r["why"].startswith("Backs out"))
        undone = next(r for r in log["revisions"] if r["number"] == backed["number"] - 1)
        self.assertEqual(
            [(x["old"], x["new"]) for x in backed["lines"]],
            [(x["new"], x["old"]) for x in undone["lines"]],
        )
        readings = ines.ok("GET", "/api/cars/1/readings")["readings"]
        self.assertTrue(
            any(r["withdrawn_why"] and not r["conditions"]["bars_free"] for r in readings)
        )
        self.assertTrue(any(run["words"] for s in log["sessions"] for run in s["runs"]))
