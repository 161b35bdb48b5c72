"""Photos and clips of a run: what is kept, what is refused, and who sees it."""

from __future__ import annotations

from base64 import b64encode
from typing import Any

from cabrio.operations.pictures import LARGEST, MOST
from tests.support.client import INES, OKE, PELL, ApiTestCase

PNG = b"\x89PNG\r\n\x1a\n"
RUN = "/api/cars/1/runs/1"


def sent(content: bytes, name: str = "left rear.png") -> dict[str, str]:
    return {"name": name, "data": b64encode(content).decode()}


class Pictures(ApiTestCase):
    def kept(self) -> list[Any]:
        log = self.person(PELL).ok("GET", "/api/cars/1/logbook")
        runs = [run for session in log["sessions"] for run in session["runs"]]
        found: list[Any] = next(one for one in runs if one["id"] == 1)["pictures"]
        return found

    def setUp(self) -> None:
        super().setUp()
        crew = self.person(OKE)
        for one in self.kept():
            crew.ok("DELETE", f"/api/cars/1/pictures/{one['id']}")

    def test_one_is_kept_once_and_comes_back_as_it_was(self) -> None:
        crew, content = self.person(OKE), PNG + b"bracket, left"
        for _ in range(2):
            crew.ok("POST", f"{RUN}/pictures", sent(content))
        (one,) = self.kept()
        self.assertEqual((one["kind"], one["name"]), ("image/png", "left rear.png"))
        at = f"/api/cars/1/pictures/{one['id']}"
        answer = self.person(PELL).http.get(at)
        self.assertEqual((answer.data, answer.mimetype), (content, "image/png"))
        self.assertIn("sandbox", answer.headers["Content-Security-Policy"])
        self.assertEqual(answer.headers["X-Content-Type-Options"], "nosniff")
        crew.ok("DELETE", at)
        self.assertEqual(self.kept(), [])
        crew.refused(404, "GET", at)
        # taken off, the same one may be added again
        crew.ok("POST", f"{RUN}/pictures", sent(content))
        self.assertEqual(len(self.kept()), 1)

    def test_it_says_its_phase_and_what_is_to_be_seen(self) -> None:
        crew = self.person(OKE)
        crew.ok("POST", f"{RUN}/pictures", sent(PNG))
        (one,) = self.kept()
        self.assertEqual((one["phase"], one["shows"]), ("", ""))
        at = f"/api/cars/1/pictures/{one['id']}"
        crew.ok("PATCH", at, {"phase": "mid-corner", "shows": " Turn 3: inner front lifts "})
        (one,) = self.kept()
        self.assertEqual((one["phase"], one["shows"]), ("mid-corner", "Turn 3: inner front lifts"))
        told = crew.refused(422, "PATCH", at, {"phase": "burnout", "shows": "Turn 3"})
        self.assertIn("has no phase “burnout”", told["detail"])
        crew.refused(422, "PATCH", at, {"shows": "x" * 121})
        crew.refused(404, "PATCH", at.replace("cars/1", "cars/2"), {"phase": ""})
        self.assertEqual(self.kept()[0]["shows"], "Turn 3: inner front lifts")

    def test_what_is_no_photo_or_too_large_is_refused(self) -> None:
        crew = self.person(OKE)
        for content, said in (
            (b"<svg onload=alert(1)>", "no photo or clip"),
            (b"<html>" + PNG, "no photo or clip"),
            (PNG + bytes(LARGEST), "at most 6 MB"),
        ):
            told = crew.refused(422, "POST", f"{RUN}/pictures", sent(content))
            self.assertIn(said, told["detail"])
        told = crew.refused(422, "POST", f"{RUN}/pictures", {"data": "not base64!"})
        self.assertIn("did not arrive whole", told["detail"])
        crew.refused(404, "POST", "/api/cars/1/runs/9999/pictures", sent(PNG))
        self.assertEqual(self.kept(), [])

    def test_a_run_keeps_so_many(self) -> None:
        ines = self.person(INES)
        for number in range(MOST):
            ines.ok("POST", f"{RUN}/pictures", sent(PNG + bytes([number])))
        told = ines.refused(422, "POST", f"{RUN}/pictures", sent(PNG + b"one more"))
        self.assertIn("remove one first", told["detail"])
