"""Car files that are damaged, by hand or by chance: refused with a sentence, and nothing is kept of them."""

from __future__ import annotations

import copy
import json
import random
from collections.abc import Callable
from typing import Any

from sqlalchemy import text

from cabrio.files.car_file_format import CarFile
from tests.support.client import INES, ApiTestCase
from tests.support.routes import routes

File = dict[str, Any]


def given(name: str, *values: Any) -> Callable[[File], None]:
    def damage(file: File) -> None:
        file["car"]["given"][name]["values"] = list(values)

    return damage


def fact(**told: Any) -> Callable[[File], None]:
    return lambda file: file["car"]["given"]["wheelbase"].update(told)


def part_was(**told: Any) -> Callable[[File], None]:
    was = {"kind": "spring", "code": "60/200", "values": {"rate": 58e3}, "by": "Ada"}
    return lambda file: file["car"].update(corrected=[was | told])


def watched(kind: str, **data: Any) -> Callable[[File], None]:
    one = {"kind": kind, "words": "nut", "opened_by": "Ada", "opened_at": "2026-05-01T09:00:00Z"}
    return lambda file: file.update(watched=[{**one, "data": data}])


def spring(**values: Any) -> Callable[[File], None]:
    def damage(file: File) -> None:
        file["car"]["parts"]["spring"][0].update(values)

    return damage


def reading(**values: Any) -> Callable[[File], None]:
    def damage(file: File) -> None:
        file["readings"][0].update(values)

    return damage


def line(**values: Any) -> Callable[[File], None]:
    def damage(file: File) -> None:
        slips = [one["slip"] for one in file["revisions"] if one["slip"] and one["slip"]["lines"]]
        slips[0]["lines"][0].update(values)

    return damage


def session(**values: Any) -> Callable[[File], None]:
    def damage(file: File) -> None:
        file["events"][0]["sessions"][0].update(values)

    return damage


def run_twice(file: File) -> None:
    runs = file["events"][0]["sessions"][0]["runs"]
    runs.append(copy.deepcopy(runs[0]))


def line_twice(file: File) -> None:
    lines = next(x["slip"]["lines"] for x in file["revisions"] if x["slip"] and x["slip"]["lines"])
    lines.append(copy.deepcopy(lines[0]) | {"old": lines[0]["new"]})


def walk(*ticks: File) -> Callable[[File], None]:
    walked = {
        "procedure": "circuit_build",
        "started_by": "Ada",
        "started_at": "2026-05-01T09:00:00Z",
        "ticks": list(ticks),
    }
    return lambda file: file.update(walks=[walked])


TICK = {"step": "pads", "by": "Ada", "at": "2026-05-01T09:00:00Z"}


def twice(file: File) -> None:
    file["car"]["parts"]["spring"].append(copy.deepcopy(file["car"]["parts"]["spring"][0]))


def another_setup(file: File) -> None:
    slipped = next(one for one in file["revisions"] if one["slip"] and one["slip"]["lines"])
    name = slipped["slip"]["lines"][0]["name"]
    slipped["setup"][name] = list(file["revisions"][0]["setup"][name])


def second_setup(name: str, *values: Any) -> Callable[[File], None]:
    """The car's second revision, on which others stand."""

    def damage(file: File) -> None:
        file["revisions"][1]["setup"][name] = list(values)

    return damage


DAMAGE: dict[str, Callable[[File], None]] = {
    "a wheelbase below zero": given("wheelbase", -1.0),
    "no motion ratio": given("motion_ratio", 0.0, 0.0, 0.0, 0.0),
    "a mass beyond any car": given("unsprung_mass", 1e9, 30.0, 30.0, 30.0),
    "words for a figure": given("wheelbase", "long"),
    "a list for a figure": given("wheelbase", [2.5]),
    "a spring without rate": spring(rate=0.0),
    "a spring that pulls": spring(rate=-50e3),
    "solid longer than free": spring(solid_length=0.9),
    "a code that is an object": spring(code={"a": 1}),
    "a very long code": spring(code="x" * 500),
    "one code twice": twice,
    "a time past the calendar": session(starts_at="9999-12-31T23:59:59-23:00"),
    "a time before it": session(starts_at="0001-01-01T00:00:00+14:00"),
    "a time without a zone": session(starts_at="2026-05-01T09:00:00"),
    "a name of a megabyte": session(name="x" * 2**20),
    "a session of no kind": session(kind="picnic"),
    "a temperature of the sun": session(air_temperature=5800.0),
    "a reading of no kind": reading(kind="moon"),
    "another discipline's reading": reading(kind="full_lock", settles={}, conditions={}),
    "a reading beyond what can be": reading(kind="pads", settles={"pad_mass": [[-5.0, 1, 1, 1]]}),
    "a condition of no reading": reading(conditions={"moonlit": True}),
    "a line of no number": line(name="moon"),
    "a line at no place": line(place="LX"),
    "a line that is an object": line(new={"a": 1}),
    "a line that the setup contradicts": line(new=987.0),
    "a setup that its lines do not make": another_setup,
    "an unknown adjuster": lambda f: f["car"]["adjusters"].update(moon={"lowest": 0, "highest": 5}),
    "an unknown fact": lambda f: f["car"]["given"].update(moon={"values": [1.0]}),
    "a discipline there is none of": lambda f: f["car"].update(discipline="boat"),
    "a layout there is none of": lambda f: f["car"].update(rear_layout="sledge"),
    "a car without a name": lambda f: f["car"].update(name=""),
    "a car of a very long name": lambda f: f["car"].update(name="x" * 2**20),
    "too few values in an old setup": second_setup("bar", None),
    "too many values in an old setup": second_setup("damper", *["D-LF"] * 5),
    "a list for a figure of an old setup": second_setup("camber", [1, 2], 0, 0, 0),
    "an object for one": second_setup("bar_hole", {"LF": 1}, 1),
    "words for one": second_setup("tyre_pressure", "24 psi", *[160e3] * 3),
    "words for what is no longer set": second_setup("link_preload", "moon"),
    "a fact given at no time": fact(at="moon"),
    "a fact given at a time without a zone": fact(at="2026-01-01T00:00:00"),
    "a fact altered by a revision to come": fact(since=99),
    "estimates of fewer places": fact(estimated=[]),
    "what a fact was, at fewer places": fact(was=[{"values": []}]),
    "what a fact was, at no time": fact(was=[{"values": [2.4], "at": "1"}]),
    "a correction of no kind of part": part_was(kind="moon"),
    "a correction of no field": part_was(values={"moon": 1}),
    "a correction at no time": part_was(at="yesterday"),
    "an old value that did not stand there": line(old=321.0),
    "an old value that is a list": line(old=["a"]),
    "an old value that is an object": line(old={}),
    "a torque in words": watched("torque", torque="moon", source="maker"),
    "a torque past counting": watched("torque", torque=10**400, source="maker"),
    "a zero of no number": reading(taken={"zero": {"moon": 1}}),
    "a stage there is none of": reading(taken={"stage": "moon"}),
    "an instrument of a very long name": reading(taken={"instrument": "x" * 5000}),
    "one run twice": run_twice,
    "one place twice on a slip": line_twice,
    "one step ticked twice": walk(TICK, TICK),
    "a tick taken back by nobody": walk(TICK | {"undone_at": "2026-05-01T10:00:00Z"}),
    "a reading withdrawn without a reason": reading(withdrawn_at="2026-05-01T10:00:00Z"),
    "a NUL in the car's name": lambda f: f["car"].update(name="Wag\0tail"),
    "a NUL in a part's note": spring(note="\0"),
    "half a pair in a session's name": session(name="\ud800"),
    "a NUL in what was read by": reading(taken={"instrument": "\0"}),
    "half a pair as a key": lambda f: f["readings"][0]["conditions"].update({"\udfff": True}),
    "something more": lambda f: f.update(also=1),
    "a job there is none of": lambda f: f["revisions"][-1]["slip"].update(jobs=["moon"]),
}


class Damaged(ApiTestCase):
    def setUp(self) -> None:
        self.ines = self.person(INES)
        self.exported = self.ines.call("GET", "/api/cars/1/file").get_json()
        # with all that an export leaves out, so that there is more to damage
        self.file = CarFile.model_validate(self.exported).model_dump(mode="json")

    def garage(self) -> list[Any]:
        return [one["id"] for one in self.ines.ok("GET", "/api/cars")["cars"]]

    def bring(self, file: str) -> Any:
        return self.ines.call("POST", "/api/cars/import", file)

    def test_what_no_screen_would_take_is_refused(self) -> None:
        before = self.garage()
        for said, damage in DAMAGE.items():
            file = copy.deepcopy(self.file)
            damage(file)
            answer = self.bring(json.dumps(file))
            with self.subTest(said):
                self.assertEqual(answer.status_code, 422, answer.get_data(as_text=True)[:200])
                self.assertLess(len(answer.data), 20_000)
        self.assertEqual(self.garage(), before)

    def test_figures_that_json_has_no_room_for_and_keys_told_twice(self) -> None:
        whole = json.dumps(self.file)
        for old, new in (
            ('"values": [', '"values": [1e999, '),
            ('"values": [', '"values": [NaN, '),
            ('"version": 2', '"version": ' + "9" * 5000),
            ('"laps": ', '"laps": ' + "9" * 5000),
            ('"format": "cabrio-car"', '"format": "cabrio-car", "format": "cabrio-car"'),
        ):
            with self.subTest(new):
                answer = self.bring(whole.replace(old, new, 1))
                self.assertEqual(answer.status_code, 422, answer.get_data(as_text=True)[:200])

    def test_by_chance(self) -> None:
        """Whatever is damaged: the file is refused, or the car that it makes opens in every view."""
        chance = random.Random(11)
        mine = "/api/cars/1"
        views = [p for m, p, _ in routes(self.app) if m == "GET" and p.startswith(mine)]
        self.assertGreater(len(views), 30)
        taken = 0
        for _ in range(60):
            file = copy.deepcopy(self.file)
            for _ in range(chance.randint(1, 3)):
                self.damage(file, chance)
            answer = self.bring(json.dumps(file))
            self.assertIn(answer.status_code, (200, 422), answer.get_data(as_text=True)[:300])
            if answer.status_code == 200:
                taken += 1
                made = answer.get_json()["id"]
                for view in views:
                    seen = self.ines.call("GET", view.replace(mine, f"/api/cars/{made}", 1))
                    self.assertLess(seen.status_code, 500, (made, view))
        self.assertLess(taken, 50)
        self.ines.ok("GET", "/api/cars")

    def damage(self, at: Any, chance: random.Random) -> None:
        """Walk to somewhere and put something else there."""
        while True:
            keys = list(at) if isinstance(at, dict) else list(range(len(at)))
            if not keys:
                return
            key = chance.choice(keys)
            if isinstance(at[key], dict | list) and at[key] and chance.random() < 0.9:
                at = at[key]
                continue
            wrong = [
                None,
                -1,
                0,
                1e300,
                "moon",
                "",
                [],
                {},
                True,
                [1, 2],
                "x" * 5000,
                "\0",
                "\ud800",
                at[key],
            ]
            at[key] = chance.choice(wrong)
            return

    def test_one_broken_car_takes_no_other_down(self) -> None:
        made = self.bring(json.dumps(self.file)).get_json()["id"]
        with self.engine.begin() as db:
            db.execute(
                text("UPDATE car SET document = jsonb_build_object('name', 'Torn') WHERE id = :at"),
                {"at": made},
            )
        garage = self.ines.ok("GET", "/api/cars")
        self.assertEqual(garage["broken"], [{"id": made, "name": "Torn"}])
        self.assertIn(1, [one["id"] for one in garage["cars"]])
        self.assertGreaterEqual(len(garage["cars"]), 3)

    def test_the_record_says_who_brought_it_in(self) -> None:
        made = self.bring(json.dumps(self.file)).get_json()["id"]
        told = self.ines.bench(made)["imported"]
        self.assertEqual(told["by"], self.ines.ok("GET", "/api/session")["name"])
        self.assertEqual(told["revision"], self.file["on_revision"])
        self.assertIsNone(self.ines.bench(1)["imported"])
        again = self.ines.call("GET", f"/api/cars/{made}/file").get_json()
        self.assertEqual(again, self.exported)
