"""Runs from a table: matched by its headings, refused whole where a row is wrong, one run of many laps."""

from __future__ import annotations

from typing import Any

from tests.support.client import INES, OKE, ApiTestCase, Person

TABLE = """Driver;Best lap;Laps;Tyre set;Remark;Nonsense
Mara;1:32,46;8;set 3;loose at the rear;x
Teo;93,1;6;set 3;;y
"""
LOOK, SESSION = "/api/cars/1/run-table", 1


class RunTable(ApiTestCase):
    def runs(self, who: Person) -> list[Any]:
        sessions = who.ok("GET", "/api/cars/1/logbook")["sessions"]
        return [run for session in sessions if session["id"] == SESSION for run in session["runs"]]

    def take(self, who: Person, text: str, columns: list[str], **more: str) -> Any:
        body = {"text": text, "columns": columns, "released_why": "Numbers of last year.", **more}
        return who.call("POST", f"/api/cars/1/sessions/{SESSION}/run-table/take", body)

    def test_headings_say_what_the_columns_are_and_a_person_may_say_otherwise(self) -> None:
        ines = self.person(INES)
        found = ines.ok("POST", LOOK, {"text": TABLE})
        self.assertEqual(found["columns"], ["driver", "best_time", "laps", "tyres", "note", ""])
        self.assertEqual((found["runs"], found["problems"]), (2, []))
        before = len(self.runs(ines))
        columns = [*found["columns"][:4], "", "note"]
        answer = self.take(ines, TABLE, columns)
        self.assertEqual(answer.get_json(), {"count": 2})
        logged = self.runs(ines)[before:]
        self.assertEqual(
            [
                (one["driver"], round(one["best_time"], 6), one["laps"], one["note"])
                for one in logged
            ],
            [("Mara", 92.46, 8, "x"), ("Teo", 93.1, 6, "y")],
        )

    def test_a_wrong_row_is_named_and_nothing_is_logged(self) -> None:
        ines = self.person(INES)
        before = len(self.runs(ines))
        text = TABLE + "Teo;fast;six;;;\n"
        found = ines.ok("POST", LOOK, {"text": text})
        self.assertEqual(len(found["problems"]), 1)
        self.assertIn("Row 3", found["problems"][0])
        self.assertEqual(self.take(ines, text, found["columns"]).status_code, 422)
        self.assertEqual(len(self.runs(ines)), before)

    def test_shifted_columns_and_a_table_without_headings(self) -> None:
        ines = self.person(INES)
        for text, said in (
            ("Driver;Best lap\nMara;92;8", "Row 1 has 3 columns, the heading 2"),
            ("92.4;8\n93.1;6", "must name the columns"),
            ("", "nothing in it"),
        ):
            told = ines.refused(422, "POST", LOOK, {"text": text})
            self.assertIn(said, told["detail"])
        twice = ines.call("POST", LOOK, {"text": TABLE, "columns": ["driver"] * 6})
        self.assertIn("Two columns", twice.get_json()["detail"])

    def test_a_column_of_laps_is_one_run(self) -> None:
        ines = self.person(INES)
        text = "Lap;Lap time [s]\n1;95.2\n2;92.9\n3;93.0\n"
        found = ines.ok("POST", LOOK, {"text": text})
        self.assertIn("lap", found["columns"])
        self.assertEqual(found["runs"], 1)
        self.assertEqual(self.take(ines, text, found["columns"]).status_code, 200)
        last = self.runs(ines)[-1]
        self.assertEqual((last["laps"], last["best_time"]), (3, 92.9))

    def test_a_car_that_is_not_ready_needs_its_reason_here_too(self) -> None:
        crew = self.person(OKE)
        answer = self.take(crew, TABLE, ["driver", "best_time", "", "", "", ""], released_why="")
        self.assertEqual(answer.status_code, 409)
        slips = "60 ft;1/4 mile;mph 1/4 mile\n1,42;9,61;141,2"
        found = crew.ok("POST", "/api/cars/2/run-table", {"text": slips})
        self.assertIn("t60", found["columns"])
