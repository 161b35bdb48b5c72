"""Limits that speak where they are read; those that keep the car in until an engineer signs, and on what."""

from typing import Any

from tests.support.client import INES, OKE, ApiTestCase, Person

DEGREE = 0.0174533


class Signed(ApiTestCase):
    def setUp(self) -> None:
        super().setUp()
        self.ines: Person = self.person(INES)
        more = {"name": "Sorrel", "use": "race_no_downforce", "rear_layout": "independent"}
        self.car = self.ines.add_car(discipline="circuit", **more)
        for code, rate in (("A", "70"), ("B", "80")):
            part = {"kind": "spring", "code": code, "values": {"rate": rate}}
            self.ines.ok("POST", f"/api/cars/{self.car}/parts", part)

    def fit(self, *codes: str) -> None:
        places = ("LF", "RF", "LR", "RR")
        lines = [("spring", place, code) for place, code in zip(places, codes, strict=True)]
        self.ines.draft(*lines, car=self.car)
        self.ines.book(self.car)

    def limits(self) -> list[Any]:
        found: list[Any] = self.ines.bench(self.car)["limits"]
        return found

    def barred(self) -> list[str]:
        return [one["words"] for one in self.ines.bench(self.car)["not_ready"]]

    def sign(self, limit: str, **more: str) -> Any:
        body = {"limit": limit, "decided_on": "other", "said": ""} | more
        return self.ines.call("POST", f"/api/cars/{self.car}/watched/signed", body)

    def read(self, kind: str, **more: Any) -> None:
        body = {"kind": kind, "repeats": {}, "conditions": {}} | more
        self.ines.ok("POST", f"/api/cars/{self.car}/readings", body)

    def test_unlike_springs_are_signed_for_with_words_and_anew_when_fitted_anew(self) -> None:
        self.fit("A", "B", "A", "A")
        (limit,) = self.limits()
        self.assertEqual(
            (limit["station"], limit["bars"], limit["signed"]), ("springs", True, None)
        )
        self.assertIn(limit["words"], self.barred())
        path, body = f"/api/cars/{self.car}/watched/signed", {"decided_on": "rule_allows"}
        crew = self.person(OKE)
        self.assertEqual(
            crew.call("POST", path, {"limit": limit["words"], **body}).status_code, 403
        )
        self.assertEqual(self.sign(limit["words"], said="two words").status_code, 422)
        self.assertEqual(self.sign("Something else.").status_code, 404)
        answer = self.sign(limit["words"], said="left turns only")
        self.assertEqual(answer.status_code, 200, answer.get_json())
        self.assertEqual(self.sign(limit["words"], said="left turns only").status_code, 200)
        self.assertNotIn(limit["words"], self.barred())
        (now,) = self.limits()
        self.assertEqual(
            (now["signed"]["by"], now["signed"]["on"]), ("Ines Halloran", "left turns only")
        )
        kept = self.ines.ok("GET", f"/api/cars/{self.car}/watched")["watched"]
        self.assertEqual([one["kind"] for one in kept], ["signed"])
        self.assertIn("left turns only", kept[0]["stands"])
        self.fit("A", "A", "A", "A")
        self.assertEqual(self.limits(), [])
        self.fit("A", "B", "A", "A")  # the same again is not what was signed for
        self.assertIn(limit["words"], self.barred())
        text = self.ines.http.get(f"/api/cars/{self.car}/file").get_data(as_text=True)
        self.assertIn("left turns only", text)
        self.assertIsInstance(self.ines.ok("POST", "/api/cars/import", text)["id"], int)

    def test_nobody_signs_by_the_list_of_what_is_watched(self) -> None:
        body = {"kind": "signed", "words": "x"}
        self.ines.refused(422, "POST", f"/api/cars/{self.car}/watched", body)

    def test_a_pressure_found_off_speaks_where_it_is_read_and_bars_nothing(self) -> None:
        self.ines.draft(("tyre_pressure", "RF", 170000.0), car=self.car)
        self.ines.book(self.car)
        self.read("pressures", repeats={"pressure_found": [["", "1.35", "", ""]]})
        (limit,) = self.limits()
        self.assertEqual(
            (limit["kind"], limit["station"], limit["bars"]), ("pressures", "tyres", False)
        )
        self.assertIn("RF 1.35 bar where 1.70 bar is set", limit["words"])
        self.assertNotIn(limit["words"], self.barred())

    def test_a_sweep_of_the_other_sign_speaks(self) -> None:
        self.ines.draft(("caster", "front", 6.5 * DEGREE), car=self.car)
        self.ines.book(self.car)
        right = {"sweep_angle": [["20"]], "camber_out": [["1.1", ""]], "camber_in": [["-1.2", ""]]}
        self.read("caster_sweep", repeats=right)
        self.assertEqual(self.limits(), [])
        swapped = {**right, "camber_out": right["camber_in"], "camber_in": right["camber_out"]}
        self.read("caster_sweep", repeats=swapped)
        (limit,) = self.limits()
        self.assertIn("Out and in were swapped", limit["words"])

    def test_pads_by_eye_with_nothing_held_speak(self) -> None:
        self.read("pads", repeats={"pad_mass": [["250", "250", "240", "240"]]}, by_eye=True)
        self.assertIn("by eye", self.limits()[0]["words"])
        held = {"driver_aboard": True}
        self.read(
            "pads",
            repeats={"pad_mass": [["250", "250", "240", "240"]]},
            by_eye=True,
            conditions=held,
        )
        self.assertEqual(self.limits(), [])
