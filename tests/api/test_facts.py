"""Facts typed one after the other, a measured zero, and requests that say a thing twice."""

from typing import Any

from tests.support.client import INES, ApiTestCase


class Facts(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)
        more = {"name": "Sorrel", "use": "race_no_downforce", "rear_layout": "independent"}
        self.car = self.ines.add_car(discipline="circuit", **more)
        self.path = f"/api/cars/{self.car}/given"

    def given(self, name: str) -> Any:
        return self.ines.bench(self.car)["given"].get(name)

    def test_two_places_typed_in_quick_succession_are_both_kept(self) -> None:
        seen = (
            [None] * 4
            if self.given("wheel_offset") is None
            else self.given("wheel_offset")["values"]
        )
        first, second = [*seen], [*seen]
        first[0], second[1] = "12 mm", "14 mm"
        for row in (first, second):  # both were begun on what stood there before either
            body = {"values": {"wheel_offset": row}, "seen": {"wheel_offset": seen}}
            self.ines.ok("PATCH", self.path, body)
        self.assertEqual(self.given("wheel_offset")["values"][:2], [0.012, 0.014])
        # the same place changed meanwhile is a conflict, and what stands there stays
        body = {"values": {"wheel_offset": first}, "seen": {"wheel_offset": seen}}
        self.ines.refused(409, "PATCH", self.path, body)
        self.assertEqual(self.given("wheel_offset")["values"][1], 0.014)

    def test_a_typical_value_that_was_measured_is_an_estimate_no_more(self) -> None:
        name, row = next(
            (name, one["values"])
            for name, one in self.ines.bench(self.car)["given"].items()
            if all(one["estimated"]) and None not in one["values"] and len(one["values"]) == 1
        )
        self.ines.ok("PATCH", self.path, {"values": {name: row}})
        self.assertTrue(all(self.given(name)["estimated"]))  # as it was: nobody typed it
        body = {"values": {name: [f"{row[0]:.12g}" if row[0] < 1 else str(row[0])]}}
        if self.ines.call("PATCH", self.path, body).status_code == 200:
            self.assertFalse(any(self.given(name)["estimated"]))

    def test_a_field_that_stands_twice_is_refused(self) -> None:
        twice = '{"values": {"wheelbase": [2.5]}, "values": {"wheelbase": [2.6]}}'
        self.assertEqual(self.ines.call("PATCH", self.path, twice).status_code, 422)
        body = {"kind": "bolts", "repeats": {}, "conditions": {}}
        for key in ("x" * 200, ""):
            headers = {"X-CSRF-Token": self.ines.token, "Idempotency-Key": key}
            answer = self.ines.http.post(
                f"/api/cars/{self.car}/readings", json=body, headers=headers
            )
            self.assertEqual(answer.status_code, 422, key)
