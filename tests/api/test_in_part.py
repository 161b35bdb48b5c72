"""A reading of one wheel or one end: it is kept, and what was not read stays as it was."""

from typing import Any

from tests.support.client import INES, ApiTestCase, Person

DEGREE = 0.0174533


class InPart(ApiTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ines: Person = self.person(INES)
        more = {"name": "Sorrel", "use": "race_no_downforce", "rear_layout": "independent"}
        self.car = self.ines.add_car(discipline="circuit", **more)

    def read(self, kind: str, **repeats: list[Any]) -> None:
        rows = {name: [row] for name, row in repeats.items()}
        body = {"kind": kind, "repeats": rows, "conditions": {}}
        self.ines.ok("POST", f"/api/cars/{self.car}/readings", body)

    def standing(self, kind: str) -> Any:
        bench = self.ines.bench(self.car)
        return next(one for one in bench["standings"] if one["kind"] == kind)

    def test_front_caster_needs_no_rear_one(self) -> None:
        self.read("alignment", caster_found=["6.5", ""])
        values = self.ines.bench(self.car)["figures"]["caster_found"]["values"]
        self.assertAlmostEqual(values[0], 6.5 * DEGREE, 5)
        self.assertIsNone(values[1])

    def test_one_pressure_leaves_the_others_as_they_stood(self) -> None:
        self.read("pressures", pressure_found=["1.70", "1.71", "1.60", "1.61"])
        self.read("pressures", pressure_found=["", "1.80", "", ""])
        found = self.standing("pressures")
        shown = [round(one / 1e5, 2) for one in found["values"]["pressure_found"]]
        self.assertEqual(shown, [1.7, 1.8, 1.6, 1.61])
        kept = found["kept"][0]["values"]["pressure_found"]
        self.assertEqual([one is None for one in kept], [False, True, False, False])
        # withdrawn, the one before tells of that wheel again
        path = f"/api/cars/{self.car}/readings/{found['reading']['id']}/withdraw"
        self.ines.ok("POST", path, {"why": "wrong gauge"})
        row = self.standing("pressures")["values"]["pressure_found"]
        self.assertEqual([round(one / 1e5, 2) for one in row], [1.7, 1.71, 1.6, 1.61])

    def test_camber_read_alone_leaves_the_toe_that_was_read(self) -> None:
        self.read("alignment", toe_found=["0.1", "0.1", "0.05", "0.05"])
        self.read("alignment", camber_found=["-2.5", "", "", ""])
        found = self.standing("alignment")
        self.assertEqual(set(found["values"]), {"toe_found", "camber_found"})
        self.assertEqual(found["status"], "doubtful")
        self.assertTrue(any("RF and LR and RR" in one["why"] for one in found["reasons"]))

    def test_three_pads_are_no_reading(self) -> None:
        rows = {"pad_mass": [["250", "240", "230", ""]]}
        body = {"kind": "pads", "repeats": rows, "conditions": {}}
        problem = self.ines.refused(422, "POST", f"/api/cars/{self.car}/readings", body)
        self.assertEqual([one["place"] for one in problem["errors"]], ["RR"])

    def test_more_values_than_places_are_no_reading(self) -> None:
        rows = {"front_raised_mass": [["600", "550"]], "rear_lift": [["400"]]}
        body = {"kind": "cg_tilt", "repeats": rows, "conditions": {}}
        problem = self.ines.refused(422, "POST", f"/api/cars/{self.car}/readings", body)
        self.assertIn("more values were told", problem["errors"][0]["detail"])

    def test_a_car_file_carries_it_and_brings_it_back(self) -> None:
        self.read("pressures", pressure_found=["", "1.80", "", ""])
        text = self.ines.http.get(f"/api/cars/{self.car}/file").get_data(as_text=True)
        self.assertIn("null", text)
        car = self.ines.ok("POST", "/api/cars/import", text)["id"]
        row = self.ines.bench(car)["figures"]["pressure_found"]["values"]
        self.assertEqual([one is None for one in row], [True, False, True, True])
