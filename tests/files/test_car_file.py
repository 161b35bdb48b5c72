"""A car file is taken whole or refused with a sentence: one thing wrong at a time."""

from __future__ import annotations

import copy
import json
import unittest
from collections.abc import Callable
from typing import Any

from pydantic import TypeAdapter

from cabrio.core.car import Car
from cabrio.core.errors import Problems
from cabrio.files.car_file import read, sheet_of, write
from cabrio.files.car_file_format import CarFile, FileReading, FileRevision
from tests.support.cars import ALL_HELD, PADS, SETUP, car

AT = "2026-05-01T09:00:00Z"


def file() -> dict[str, Any]:
    made = CarFile(
        format="cabrio-car",
        version=2,
        car=car(),
        on_revision=1,
        revisions=[
            FileRevision.model_validate({"number": 1, "setup": SETUP, "by": "Ada", "at": AT})
        ],
        readings=[
            FileReading.model_validate(
                {
                    "kind": "pads",
                    "revision": 1,
                    "by": "Ada",
                    "at": AT,
                    "settles": {"pad_mass": [PADS]},
                    "conditions": ALL_HELD,
                }
            )
        ],
    )
    document: dict[str, Any] = json.loads(write(made))
    return document


def put(path: str, value: Any) -> Callable[[dict[str, Any]], None]:
    def change(document: dict[str, Any]) -> None:
        *way, last = path.split(".")
        at: Any = document
        for step in way:
            at = at[int(step)] if isinstance(at, list) else at[step]
        if isinstance(at, list):
            at[int(last)] = value
        else:
            at[last] = value

    return change


WRONG: list[tuple[str, Callable[[dict[str, Any]], None], str]] = [
    ("another format", put("format", "spreadsheet"), "This is not a car file"),
    ("a later version", put("version", 3), "written by a later version (file version 3"),
    ("a version of many digits", put("version", 10**4000), "file version 100000000000"),
    ("a version that never was", put("version", 0), "version"),
    ("an unknown field", put("wing", 1), "wing"),
    ("an unknown field of the car", put("car.given.wingspan", {"values": [1]}), "no number called"),
    ("a discipline there is not", put("car.discipline", "rally"), "no discipline “rally”"),
    ("a text for a number", put("car.parts.spring.0.rate", "stiff"), "car.parts.spring.0.rate"),
    ("too few places", put("car.given.track.values", [1.5]), "track has 1 values and needs 2"),
    ("a spring not in the inventory", put("revisions.0.setup.spring.0", "S1"), "no spring “S1”"),
    ("a hole out of range", put("revisions.0.setup.bar_hole.0", 9), "goes from 1 to 5"),
    ("a setting the car has not", put("revisions.0.setup.link_preload", [0]), "cannot set"),
    ("a gap in the revisions", put("revisions.0.number", 2), "without a gap"),
    ("on another revision", put("on_revision", 3), "must be on its last revision, 1"),
    ("no revision at all", put("revisions", []), "revisions"),
    ("a reading on no revision", put("readings.0.revision", 4), "does not have"),
    (
        "a settle of three pads",
        put("readings.0.settles.pad_mass.0", [1.0, 2.0, 3.0]),
        "needs 4 values",
    ),
    ("a reading of no number", put("readings.0.settles", {"weight": [[1.0]]}), "does not record"),
    ("a reading of no kind", put("readings.0.kind", "mood"), "no kind of reading called “mood”"),
    (
        "a number of another reading",
        put("readings.0.settles", {"ride_height": [[0.1] * 4]}),
        "Pads does not record ride_height",
    ),
    ("a date that is none", put("revisions.0.at", "yesterday"), "revisions.0.at"),
]


class CarFiles(unittest.TestCase):
    def test_one_thing_wrong_at_a_time(self) -> None:
        for name, change, words in WRONG:
            document = copy.deepcopy(file())
            change(document)
            with self.subTest(name), self.assertRaises(Problems) as caught:
                read(json.dumps(document))
            self.assertIn(words, str(caught.exception))

    def test_every_cut_of_a_file_is_refused(self) -> None:
        text = json.dumps(file())
        for share in range(1, 20):
            with self.subTest(share), self.assertRaises(Problems):
                read(text[: len(text) * share // 20])

    def test_what_is_no_text_or_no_file_is_refused(self) -> None:
        for wrong in (
            b"\xff\xfe\x00",
            "",
            "null",
            "[1, 2]",
            "[" * 100_000,
            '{"format": "cabrio-car"}',
        ):
            with self.assertRaises(Problems):
                read(wrong)

    def test_read_and_written_again_it_is_the_same(self) -> None:
        text = write(read(json.dumps(file())))
        self.assertEqual(write(read(text)), text)

    def test_what_was_not_said_is_left_out_but_for_the_car_and_read_as_not_said(self) -> None:
        document = file()
        self.assertNotIn("note", document["readings"][0])
        self.assertNotIn("slip", document["revisions"][0])
        self.assertNotIn("events", document)
        self.assertEqual(document["car"], TypeAdapter(Car).dump_python(car(), mode="json"))
        found = read(json.dumps(document))
        whole = json.dumps(found.model_dump(mode="json"))
        self.assertIn('"withdrawn_why": null', whole)
        self.assertEqual(read(whole), found)

    def test_more_than_anybody_has_is_refused_before_it_is_looked_at(self) -> None:
        with self.assertRaisesRegex(Problems, "This file holds 140001 entries"):
            read("[" + "{}," * 140_000)

    def test_what_no_database_takes_is_refused_wherever_it_stands(self) -> None:
        text = json.dumps(file())
        for escaped in ("\\u0000", "\\ud800", "\\udfff"):
            for old, where in (
                (f'"name": "{car().name}', "In car.name is a character"),
                ('"by": "Ada', "In revisions.0.by is a character"),
                ('"kind": "pads', "In readings.0.kind is a character"),
                ('"bar_hole', "In car.adjusters is a character"),
            ):
                with self.subTest(escaped + where), self.assertRaisesRegex(Problems, where):
                    read(text.replace(old, old + escaped))
        for raw in (b"\0", b"\xed\xa0\x80"):
            with self.subTest(raw), self.assertRaises(Problems):
                read(text.encode().replace(b'"Ada', b'"Ada' + raw))
        whole = read(text.replace('"Ada"', r'"\u0041da \ud83d\ude00 \\u0000"'))
        self.assertEqual(whole.revisions[0].by, "Ada 😀 \\u0000")

    def test_a_session_named_must_be_in_the_file(self) -> None:
        document = file()
        slip = {"author": "Ada", "lines": [], "session": [0, 0]}
        document["revisions"][0]["slip"] = slip
        with self.assertRaisesRegex(Problems, "names a session that the file does not have"):
            read(json.dumps(document))

    def test_its_sheet_is_the_bench_s(self) -> None:
        found = sheet_of(read(json.dumps(file())))
        self.assertEqual(found.value("total_mass"), [955.0])
        self.assertEqual(found.status("total_mass"), "fresh")
        document = file()
        document["readings"][0]["withdrawn_at"] = AT
        document["readings"][0]["withdrawn_why"] = "Wrong."
        self.assertIsNone(sheet_of(read(json.dumps(document))).value("total_mass"))
