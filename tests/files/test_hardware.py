"""Parts in a car file: out and in again without a loss, nonsense refused with a sentence."""

import json
import unittest
from typing import Any

import jsonschema

from cabrio.core.errors import CoreError
from cabrio.core.graph.registry import figures
from cabrio.files.car_file import read, schema, sheet_of, write
from cabrio.files.figures_page import figures_by_subject, page
from tests.core.whole_car import CIRCUIT_SETUP, circuit_car


def document(car: Any) -> dict[str, Any]:
    at = "2026-05-01T09:00:00+00:00"
    from cabrio.storage.documents import car_document

    return {
        "format": "cabrio-car", "version": 1, "car": car_document(car), "on_revision": 1,
        "revisions": [{"number": 1, "setup": CIRCUIT_SETUP, "by": "Kit", "at": at}],
        "readings": [{"kind": "pads", "revision": 1, "by": "Kit", "at": at,
                      "settles": {"pad_mass": [[280.0, 262.0, 236.0, 240.0]]}}],
    }  # fmt: skip


class Parts(unittest.TestCase):
    def test_dampers_bars_and_rubbers_come_back_as_they_were(self) -> None:
        car = circuit_car()
        file = read(json.dumps(document(car)))
        self.assertEqual(file.car, car)
        again = read(write(file))
        self.assertEqual(again, file)
        jsonschema.validate(json.loads(write(file)), schema())

    def test_what_they_make_is_worked_from_the_file(self) -> None:
        found = sheet_of(read(json.dumps(document(circuit_car()))))
        for name in ("lltd", "rebound_ratio_low", "bar_wheel_rate"):
            self.assertIsNotNone(found.value(name), name)

    def test_a_file_from_before_there_were_parts_still_reads(self) -> None:
        old = document(circuit_car())
        for part in ("dampers", "bars", "rubbers", "link_holes"):
            del old["car"][part]
        self.assertEqual(read(json.dumps(old)).car.bars, {})

    def test_parts_that_cannot_be(self) -> None:
        for change, words in (
            (("rubbers", "front", {"deflection": [0.0, 0.01], "force": [5.0, 1.0]}), "never falls"),
            (("bars", "front", {"outer": "thick"}), "valid number"),
            (
                ("dampers", "LF", {"rebound": {"clicks": 20, "counted": "from_above"}}),
                "from_closed",
            ),
        ):
            broken = document(circuit_car())
            group, place, part = change
            broken["car"][group][place] = part
            with self.subTest(words), self.assertRaisesRegex(CoreError, words):
                read(json.dumps(broken))


class FiguresPage(unittest.TestCase):
    def test_every_figure_is_on_it_once_under_its_subject(self) -> None:
        text = page()
        for name, entry in figures().items():
            self.assertEqual(text.count(f"### {entry.number.label} · `{name}`"), 1, name)
            self.assertIn(entry.number.formula, text)
            self.assertIn(f"**Wrong** {entry.number.wrong}", text)
        subjects = [entry.function.__module__ for entry in figures_by_subject()]
        runs = [name for i, name in enumerate(subjects) if i == 0 or subjects[i - 1] != name]
        self.assertEqual(len(runs), len(set(runs)))
