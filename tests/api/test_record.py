"""Compare, the logbook, the car file, and what every answer keeps to."""

import json
import math
from datetime import UTC, datetime, timedelta
from typing import Any

from cabrio.commands import schema_files
from tests.support.client import INES, MARA, OKE, ApiTestCase


class Record(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)

    def test_compare_tells_what_was_set_what_moved_and_what_was_unequal(self) -> None:
        found = self.ines.ok("GET", "/api/cars/1/compare?left=2&right=3")
        self.assertEqual(
            [(x["place"], x["old"], x["new"]) for x in found["set_otherwise"]],
            [
                ("LR", "60/200", "70/180"),
                ("RR", "60/200", "70/180"),
                ("LR", 0.0, 7.25),
                ("RR", 0.0, 7.25),
            ],
        )
        self.assertIn("axle_frequency", [m["name"] for m in found["moved"]])
        self.assertTrue(any("pads" in sentence for sentence in found["unequal"]))
        self.ines.refused(404, "GET", "/api/cars/1/compare?left=1&right=99")
        self.ines.refused(422, "GET", "/api/cars/1/compare?left=one&right=2")

    def test_compare_tells_what_was_corrected_since(self) -> None:
        path = "/api/cars/3/compare?left=1&right=2"
        before = self.ines.ok("GET", path)
        now = self.ines.bench(3)["given"]["wheelbase"]["values"][0]
        self.ines.ok("PATCH", "/api/cars/3/given", {"values": {"wheelbase": [now + 0.01]}})
        (told,) = set(self.ines.ok("GET", path)["corrected"]) - set(before["corrected"])
        self.assertRegex(
            told, r"Wheelbase: [\d.]+ mm then, [\d.]+ mm since 20..-..-.. \(Ines Halloran\)"
        )
        # put back to what it was then it is no other value any more
        self.ines.ok("PATCH", "/api/cars/3/given", {"values": {"wheelbase": [now]}})
        self.assertEqual(self.ines.ok("GET", path)["corrected"], before["corrected"])

    def test_a_day_in_the_logbook(self) -> None:
        self.ines.ok(
            "POST",
            "/api/events",
            {"name": "Test", "place": "Fen", "starts_on": "2026-11-01", "ends_on": "2026-11-01"},
        )
        event = self.ines.ok("GET", "/api/cars/1/logbook")["events"][-1]["id"]
        body = {
            "event_id": event,
            "name": "Morning",
            "kind": "test",
            "air": "50 °F",
            "starts_at": "2026-11-01T09:00:00Z",
            "surface": "damp",
        }
        self.ines.ok("POST", "/api/cars/1/sessions", body)
        session = self.ines.ok("GET", "/api/cars/1/logbook")["sessions"][-1]
        self.assertAlmostEqual(session["air_temperature"], 283.15)
        run = f"/api/cars/1/sessions/{session['id']}/runs"
        body_of_run = {"driver": "Mara", "laps": 8, "best_time": "1:32.45"}
        # its pads are void: nobody lets it out unsigned, and crew cannot sign
        against = self.ines.refused(409, "POST", run, body_of_run)
        self.assertEqual(against["code"], "not_ready")
        self.assertIn("Pads: void", against["data"]["not_ready"][0])
        signed = body_of_run | {"released_why": "Two laps to look at the brakes."}
        self.assertIn("let a car out", self.person(OKE).refused(403, "POST", run, signed)["detail"])
        self.ines.ok("POST", run, signed)
        made = self.ines.ok("GET", "/api/cars/1/logbook")["sessions"][-1]["runs"][0]
        self.assertEqual(made["not_ready"], against["data"]["not_ready"])
        self.assertEqual(made["released_why"], "Two laps to look at the brakes.")
        self.assertEqual(made["by"], "Ines Halloran")
        self.assertEqual(
            (made["best_time"], made["revision"]), (92.45, self.ines.bench()["revision"])
        )
        mara = self.person(MARA)
        words = {"words": [{"phase": "exit", "text": "Loose."}], "confidence": 2}
        mara.ok("PUT", f"/api/cars/1/runs/{made['id']}/words", words)
        mara.refused(422, "PUT", f"/api/cars/1/runs/{made['id']}/words", words | {"confidence": 9})
        self.assertIn(
            "is not a time", self.ines.refused(422, "POST", run, {"best_time": "soon"})["detail"]
        )
        self.ines.refused(
            422, "POST", "/api/cars/1/sessions", body | {"air": "900", "kind": "party"}
        )
        self.ines.refused(
            422,
            "POST",
            "/api/events",
            {"name": " ", "starts_on": "2026-11-02", "ends_on": "2026-11-01"},
        )

    def test_after_so_many_runs_a_reading_is_asked_for_again(self) -> None:
        def bolts() -> dict[str, Any]:
            standings = self.ines.bench(2)["standings"]
            return next(standing for standing in standings if standing["kind"] == "bolts")

        start = datetime(2027, 3, 1, 9, tzinfo=UTC)
        self.app.config["CLOCK"] = lambda: start
        self.addCleanup(self.app.config.pop, "CLOCK")
        self.ines = self.person(INES)  # the sign-in of November is long over
        self.ines.ok("POST", "/api/cars/2/readings", {"kind": "bolts"})
        self.assertEqual((bolts()["runs_since"], bolts()["decides"]), (0, ""))
        session = self.ines.ok("GET", "/api/cars/2/logbook")["sessions"][-1]
        for n in range(1, 6):
            self.app.config["CLOCK"] = lambda n=n: start + timedelta(minutes=20 * n)
            self.ines.ok("POST", f"/api/cars/2/sessions/{session['id']}/runs", {})
            self.assertEqual(bolts()["runs_since"], n)
            self.assertEqual("settles" in bolts()["decides"], n >= 5)
        self.assertEqual(bolts()["status"], "fresh")

    def test_a_run_keeps_what_was_clocked_and_its_file_too(self) -> None:
        session = self.ines.ok("GET", "/api/cars/2/logbook")["sessions"][-1]
        runs = f"/api/cars/2/sessions/{session['id']}/runs"
        read = self.ines.ok("POST", "/api/cars/2/time-slip", {"text": "60 1.33\n1/8 6.1\nmph 112"})
        self.ines.ok("POST", runs, {"times": read["times"]})
        log = self.ines.ok("GET", "/api/cars/2/logbook")
        made = log["sessions"][-1]["runs"][-1]
        self.assertEqual((made["not_ready"], made["released_why"]), ([], ""))
        self.assertEqual(made["best_time"], 6.1)
        self.assertEqual([one["id"] for one in made["clocked"]], ["t60", "t660", "v660"])
        self.assertAlmostEqual(made["clocked"][0]["off"], 1.33 - 1.35)
        told = self.ines.refused(
            422, "POST", runs, {"times": {"t60": "4", "t330": "2", "lap": "1"}}
        )
        self.assertEqual(told["errors"][0]["number"], "lap")
        file = self.ines.call("GET", "/api/cars/2/file").get_json()
        copy = self.ines.ok("POST", "/api/cars/import", file)["id"]
        again = self.ines.ok("GET", f"/api/cars/{copy}/logbook")["sessions"][-1]["runs"][-1]
        self.assertEqual(again["clocked"], made["clocked"])
        file["events"][-1]["sessions"][-1]["runs"][-1]["times"] = {"t60": -1.0}
        bad = self.ines.refused(422, "POST", "/api/cars/import", file)
        self.assertIn("is not a time", bad["detail"])

    def test_the_newest_verdict_counts(self) -> None:
        path = "/api/cars/1/revisions/2/verdict"
        for outcome in ("worse", "better"):
            self.ines.ok("POST", path, {"outcome": outcome, "decision": "keep"})
        second = self.ines.ok("GET", "/api/cars/1/logbook")["revisions"][1]
        self.assertEqual(second["outcome"], "better")
        self.ines.refused(
            409, "POST", "/api/cars/1/revisions/1/verdict", {"outcome": "same", "decision": "keep"}
        )


class CarFiles(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)

    def export(self, car: int) -> str:
        answer = self.ines.call("GET", f"/api/cars/{car}/file")
        self.assertIn("attachment", answer.headers["Content-Disposition"])
        return str(answer.get_data(as_text=True))

    def test_out_in_and_out_again_is_the_same_file(self) -> None:
        for car in (1, 2, 3):
            text = self.export(car)
            made = self.ines.ok("POST", "/api/cars/import", text)
            self.assertEqual(json.loads(self.export(made["id"])), json.loads(text))
            here, there = self.ines.bench(car), self.ines.bench(made["id"])
            self.assertEqual(here["figures"], there["figures"])

    def test_a_car_made_on_screen_goes_out_and_in(self) -> None:
        for chosen in (
            {"discipline": "circuit", "use": "race_no_downforce", "rear_layout": "independent"},
            {"discipline": "drag", "use": "drag", "rear_layout": "parallel_four_link"},
            {"discipline": "drift", "use": "drift", "rear_layout": "independent"},
        ):
            for pads in (None, [264, 262, 247, 245]):
                with self.subTest(chosen["discipline"], pads=pads):
                    car = self.ines.add_car(**chosen, pads=pads)
                    text = self.export(car)
                    made = self.ines.ok("POST", "/api/cars/import", text)["id"]
                    self.assertEqual(json.loads(self.export(made)), json.loads(text))
                    here, there = self.ines.bench(car), self.ines.bench(made)
                    self.assertEqual(here["figures"], there["figures"])

    def test_bad_files_are_refused_whole(self) -> None:
        text = self.export(1)
        file = json.loads(text)
        cars = len(self.ines.ok("GET", "/api/cars")["cars"])
        for wrong, words in [
            (text[: len(text) // 2], "may have been cut short"),
            ("[]", "This is not a car file"),
            (json.dumps(file | {"version": 7}), "written by a later version"),
            (json.dumps(file | {"revisions": file["revisions"][1:]}), "without a gap"),
            (json.dumps(file | {"surprise": 1}), "surprise"),
            (text.replace('"60/200"', '"no such"', 1), "spring"),
            (text.replace("2.492", "NaN", 1), "NaN"),
        ]:
            with self.subTest(words):
                problem = self.ines.refused(422, "POST", "/api/cars/import", wrong)
                self.assertIn(words, problem["detail"])
        self.assertEqual(len(self.ines.ok("GET", "/api/cars")["cars"]), cars)


class Surface(ApiTestCase):
    def test_the_generated_documents_are_fresh(self) -> None:
        for path, text in schema_files().items():
            self.assertEqual(path.read_text("utf-8"), text, f"{path.name}: run ./cabrio schemas")

    def test_every_answer_of_the_demo_is_finite(self) -> None:
        ines = self.person(INES)
        for car in (1, 2, 3):
            for name, figure in ines.bench(car)["figures"].items():
                told = [one for one in figure["values"] or [] if one is not None]
                self.assertTrue(told or figure["values"] is None, name)
                for value in told:
                    self.assertTrue(math.isfinite(value), name)

    def test_odd_requests_get_plain_answers(self) -> None:
        ines = self.person(INES)
        self.assertEqual(ines.refused(404, "GET", "/api/nowhere")["code"], "not_found")
        self.assertEqual(ines.refused(404, "GET", "/api/cars/99")["code"], "not_found")
        self.assertEqual(
            ines.refused(422, "POST", "/api/cars/1/command", {"txt": "x"})["code"], "bad_shape"
        )
        headers = {"X-CSRF-Token": ines.token}
        plain = ines.http.post("/api/cars/1/command", data="text=go", headers=headers)
        self.assertEqual(plain.status_code, 415)
        for body in ("null", "{", '{"text": NaN}'):
            answer = ines.http.post(
                "/api/cars/1/command", data=body, headers=headers, content_type="application/json"
            )
            self.assertEqual(answer.get_json()["code"], "bad_shape")

    def test_pages_carry_their_policy(self) -> None:
        answer = self.app.test_client().get("/cars/1/plan", buffered=True)
        self.assertIn("default-src 'self'", answer.headers["Content-Security-Policy"])
        self.assertIn(b"<title>Cabrio</title>", answer.data)
        outside = self.app.test_client().get("/../pyproject.toml", buffered=True)
        self.assertEqual(outside.data, answer.data)

    def test_a_misshapen_request_is_answered_in_few_words(self) -> None:
        ines = self.person(INES)
        wrong = [{"name": f"no such {i}", "place": "LF", "new": 1} for i in range(60)]
        told = ines.refused(422, "PUT", "/api/cars/1/slip", {"version": 0, "changes": wrong})
        self.assertEqual(told["code"], "bad_shape")
        self.assertEqual(len(told["errors"]), 20)
        self.assertLess(max(len(one["detail"]) for one in told["errors"]), 260)
        self.assertLess(len(told["detail"]), 400)
