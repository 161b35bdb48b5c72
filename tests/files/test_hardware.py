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
        "format": "cabrio-car",
        "version": 2,
        "car": car_document(car),
        "on_revision": 1,
        "revisions": [{"number": 1, "setup": dict(CIRCUIT_SETUP), "by": "Kit", "at": at}],
        "readings": [
            {
                "kind": "pads",
                "revision": 1,
                "by": "Kit",
                "at": at,
                "settles": {"pad_mass": [[280.0, 262.0, 236.0, 240.0]]},
            }
        ],
    }


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
        parts = old["car"].pop("parts")
        old["version"], old["car"]["springs"] = 1, parts["spring"]
        for kind in ("damper", "bar", "bump_rubber"):
            del old["revisions"][0]["setup"][kind]
        found = read(json.dumps(old))
        self.assertEqual(found.car.parts.of("bar"), ())
        self.assertEqual(len(found.car.parts.of("spring")), 5)

    def test_a_file_of_the_first_form_keeps_what_it_wore(self) -> None:
        now = document(circuit_car())
        old = json.loads(json.dumps(now))
        parts = old["car"].pop("parts")
        old["version"] = 1

        def bare(part: dict[str, Any]) -> dict[str, Any]:
            return {k: v for k, v in part.items() if k not in ("code", "fits", "note")}

        for kind, key in (("damper", "dampers"), ("bar", "bars")):
            old["car"][key] = {part["code"].split()[1]: bare(part) for part in parts[kind]}
        blade = old["car"]["bars"]["rear"]["blade"]
        blade["angle"] = blade.pop("angles")[1]  # as it stood: a blade had one angle
        rows = parts["bump_rubber"][0]["table"]
        old["car"]["rubbers"] = {
            axle: {"deflection": [r[0] for r in rows], "force": [r[1] for r in rows]}
            for axle in ("front", "rear")
        }
        old["car"]["springs"] = parts["spring"]
        old["readings"][0]["fuel_mass"] = 20.0
        for kind in ("damper", "bar", "bump_rubber"):
            del old["revisions"][0]["setup"][kind]
        here, there = sheet_of(read(json.dumps(old))), sheet_of(read(json.dumps(now)))
        for name in ("lltd", "rebound_ratio_low", "bar_wheel_rate", "travel_at_speed"):
            self.assertEqual(here.value(name), there.value(name), name)
        self.assertEqual(here.value("fuel_mass"), [20.0])

    def test_a_narrowed_adjuster_does_not_spoil_the_record(self) -> None:
        told = document(circuit_car())
        told["revisions"].append(
            {
                "number": 2,
                "by": "Kit",
                "at": told["revisions"][0]["at"],
                "setup": {**CIRCUIT_SETUP, "bar_hole": [1.0, 1.0]},
            }
        )
        told["on_revision"] = 2
        told["car"]["adjusters"]["bar_hole"]["highest"] = 2.0  # revision 1 stands at hole 3
        self.assertEqual(read(json.dumps(told)).on_revision, 2)
        told["revisions"][1]["setup"]["bar_hole"] = [3.0, 1.0]
        with self.assertRaisesRegex(CoreError, "goes from 1 to 2"):
            read(json.dumps(told))

    def test_parts_that_cannot_be(self) -> None:
        for change, words in (
            (("bump_rubber", 0, {"table": [[0.0, 5.0], [0.01, 1.0]]}), "never falls"),
            (("bar", 0, {"outer": "thick"}), "valid number"),
            (("damper", 0, {"rebound": {"clicks": 20, "counted": "from_above"}}), "from_closed"),
            (("spring", 0, {"rate": -5.0, "code": "S"}), "above zero"),
            (
                ("spring", 0, {"rate": 5e4, "code": "S", "free_length": 0.1, "solid_length": 0.2}),
                "less than",
            ),
        ):
            broken = document(circuit_car())
            group, at, part = change
            broken["car"]["parts"][group][at] = part
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
