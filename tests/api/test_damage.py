"""A sign of damage: what ends it and what does not, on a car made on screen."""

from typing import Any

from cabrio.core.knowledge import knowledge
from tests.support.client import INES, OKE, ApiTestCase, Person

LOOKED = knowledge().readings["damage_inspection"].conditions


class Damage(ApiTestCase):
    def standing(self, person: Person, car: int) -> Any:
        rows = person.bench(car)["standings"]
        return next(row for row in rows if row["kind"] == "preload")

    def read(self, person: Person, car: int, kind: str = "preload", **more: Any) -> Any:
        body = {"kind": kind, "repeats": {}, "conditions": {}} | more
        return person.call("POST", f"/api/cars/{car}/readings", body)

    def found(self, person: Person, car: int, flats: float) -> None:
        self.assertEqual(
            self.read(person, car, repeats={"preload_found": [[flats]]}).status_code, 200
        )

    def test_only_an_engineers_inspection_ends_it(self) -> None:
        ines, oke = self.person(INES), self.person(OKE)
        car = ines.add_car()
        ines.draft(("link_preload", "car", -1), car=car)
        ines.book(car)
        self.found(oke, car, 0)
        self.assertEqual(self.standing(ines, car)["status"], "void")
        # neither a tick without a number, nor a later reading that is as booked
        self.assertEqual(self.read(oke, car).status_code, 200)
        self.assertEqual(self.standing(ines, car)["status"], "void")
        self.found(oke, car, -1)
        held = self.standing(ines, car)
        self.assertEqual(held["status"], "void")
        self.assertEqual(held["differs"][0]["found"], 0)
        # nor another preload booked, nor taking the reading back
        ines.draft(("link_preload", "car", 0), car=car)
        ines.book(car)
        self.assertEqual(self.standing(ines, car)["status"], "void")
        rows = ines.ok("GET", f"/api/cars/{car}/readings?kind=preload")["readings"]
        first = min(row["id"] for row in rows)
        path = f"/api/cars/{car}/readings/{first}/withdraw"
        self.assertEqual(oke.call("POST", path, {"why": "misread"}).status_code, 403)
        looked = {"conditions": {LOOKED[0]: True}, "note": "hole stretched, bracket replaced"}
        self.assertEqual(self.read(oke, car, "damage_inspection", **looked).status_code, 403)
        for lacking in ({"conditions": {}}, {"note": "all good"}, {"note": ""}):
            answer = self.read(ines, car, "damage_inspection", **looked | lacking)
            self.assertEqual(answer.status_code, 422, lacking)
        self.assertEqual(self.read(ines, car, "damage_inspection", **looked).status_code, 200)
        self.found(oke, car, 0)
        self.assertEqual(self.standing(ines, car)["status"], "fresh")
        # and a new sign after it bars again
        self.found(oke, car, 1)
        self.assertEqual(self.standing(ines, car)["status"], "void")

    def test_a_tick_without_a_number_is_not_fresh(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        self.assertEqual(self.read(ines, car, "clicks").status_code, 200)
        rows = ines.bench(car)["standings"]
        clicks = next(row for row in rows if row["kind"] == "clicks")
        self.assertEqual(clicks["status"], "doubtful")
        self.assertIn("without a number", clicks["reasons"][0]["why"])

    def test_a_pinion_nose_up_and_a_bent_housing_keep_the_car_in(self) -> None:
        ines = self.person(INES)
        car = ines.add_car()
        bent = {"housing_reading": [[1.4500, 1.4500, 1.4532, 1.4500]]}
        self.assertEqual(self.read(ines, car, "housing", repeats=bent).status_code, 200)
        up = {"pinion_angle": [["-1.5"]], "pinion_angle_hanging": [["0.6"]]}
        answer = self.read(ines, car, "pinion", repeats=up, confirmed=True)
        self.assertEqual(answer.status_code, 200, answer.get_json())
        barred = [one["words"] for one in ines.bench(car)["limits"] if one["bars"]]
        self.assertTrue(any("Rear housing: bent by" in one for one in barred), barred)
        self.assertTrue(any("nose up" in one and "hanging" in one for one in barred), barred)
