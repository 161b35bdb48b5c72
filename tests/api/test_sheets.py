"""Sheets on paper: what stands on them by their text, on one page each, in both sizes."""

from __future__ import annotations

import re
import zlib
from base64 import a85decode
from typing import Any

from cabrio.core.knowledge import knowledge
from cabrio.core.sheet.printed import setup_sheet
from cabrio.files.paper import printable
from tests.core.whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet
from tests.support.client import INES, PELL, ApiTestCase


def text_of(pdf: bytes) -> list[str]:
    """The texts of each page, in the order they are drawn."""
    pages = []
    for found in re.findall(rb"stream\r?\n(.*?)endstream", pdf, re.S):
        content = zlib.decompress(a85decode(found.strip().removesuffix(b"~>")))
        drawn = re.findall(rb"\(((?:[^()\\]|\\.)*)\) Tj", content)
        words = [
            re.sub(rb"\\(\d{3})", lambda one: bytes([int(one[1], 8)]), one).replace(b"\\", b"")
            for one in drawn
        ]
        if words:
            pages.append("\n".join(word.decode("cp1252") for word in words))
    return pages


class Sheets(ApiTestCase):
    def pages(self, path: str, who: str = PELL) -> list[str]:
        answer = self.person(who).http.get(path)
        self.assertEqual((answer.status_code, answer.mimetype), (200, "application/pdf"))
        self.assertEqual(
            answer.data, self.person(who).http.get(path).data, "made twice it is the same"
        )
        return text_of(answer.data)

    def refused(self, path: str, said: str) -> None:
        told: Any = self.person(INES).http.get(path)
        self.assertGreaterEqual(told.status_code, 400)
        self.assertIn(said, told.get_json()["detail"])

    def test_a_set_up_is_what_is_on_the_car(self) -> None:
        bench = self.person(PELL).bench(1)
        (page,) = self.pages("/api/cars/1/sheets/setup")
        self.assertIn("Wagtail no. 41", page)
        self.assertIn(f"revision {bench['revision']}", page)
        for code in bench["setup"]["spring"]:
            self.assertIn(code, page)
        for click in bench["setup"]["rebound_clicks"]:
            self.assertIn(f"\n{click:.0f}\n", page)
        share = bench["figures"]["lltd"]["values"][0]
        self.assertIn(f"Front share of load transfer [%]\n{100 * share:.1f}", page)
        # what does not count as the car stands is named
        void = [one["kind"] for one in bench["standings"] if one["status"] == "void"]
        for kind in void:
            self.assertIn(knowledge().readings[kind].label, page)

    def test_both_sizes_of_paper(self) -> None:
        for paper, box in (("a4", b"595.2756 841.8898"), ("letter", b"612 792")):
            data = self.person(PELL).http.get(f"/api/cars/2/sheets/setup?paper={paper}").data
            self.assertIn(b"/MediaBox [ 0 0 " + box, data)
            self.assertEqual(len(text_of(data)), 1)
        self.refused("/api/cars/2/sheets/setup?paper=a0", "paper")

    def test_a_change_sheet_is_the_slip(self) -> None:
        (page,) = self.pages("/api/cars/2/sheets/changes")
        self.assertIn("Changes for revision 4", page)
        self.assertIn("Surface is good: nose comes up too quick.", page)
        self.assertIn("Rebound\nLF\n4 clicks\n6 clicks", page)
        self.assertIn("Clicks counted", page)
        ines = self.person(INES)
        ines.draft(("bar_hole", "front", 5.0), car=1, why="Too much push")
        (page,) = self.pages("/api/cars/1/sheets/changes", INES)
        self.assertIn("not booked", page)
        self.assertIn("Bar hole\nfront\n3\n5", page)
        self.assertIn("Too much push", page)
        ines.draft(car=1)
        self.refused("/api/cars/1/sheets/changes?revision=1", "was not made by a slip")

    def test_an_order_of_work_with_its_cautions(self) -> None:
        work = knowledge().work
        for procedure in work.procedures:
            if "drag" not in procedure.disciplines:
                continue
            (page,) = self.pages(f"/api/cars/2/sheets/order/{procedure.id}?paper=letter")
            flat = page.replace("\n", " ")
            for step in work.steps_of(procedure.id):
                self.assertIn(f"{step.label}.", flat)
        self.refused("/api/cars/2/sheets/order/circuit_build", "no order of work")

    def test_the_links_are_a_picture_with_their_numbers(self) -> None:
        (page,) = self.pages("/api/cars/2/sheets/links?paper=letter")
        side = self.person(PELL).ok("GET", "/api/cars/2/side-view")["booked"]
        self.assertIn(f"Anti-squat\n{100 * side['anti_squat']:.0f} %", page)
        self.assertIn("100 %", page)
        for one in side["holes"]:
            self.assertIn(f"{one['place']}\n{one['here'] + 1} of {len(one['holes'])}", page)
        self.refused("/api/cars/1/sheets/links", "from its points")

    def test_a_weekend_s_cars_in_one_file(self) -> None:
        pages = self.pages("/api/sheets/setup")
        cars = self.person(PELL).ok("GET", "/api/cars")["cars"]
        self.assertEqual(len(pages), len(cars))
        for car, page in zip(sorted(cars, key=lambda one: one["id"]), pages, strict=True):
            self.assertIn(car["name"], page)

    def test_every_letter_is_one_that_the_page_has(self) -> None:
        for car, setup in ((circuit_car(), CIRCUIT_SETUP), (drag_car(), DRAG_SETUP)):
            for part in setup_sheet(sheet(car, setup)):
                for row in part.rows:
                    for words in (row.label, *row.values):
                        self.assertNotIn("?", printable(words), words)
        for step in knowledge().work.steps:
            self.assertNotIn("?", printable(step.label + step.do), step.label)
