"""What people do, called as functions: actor, session and time are arguments, nothing else is known."""

from __future__ import annotations

import importlib.util
import sys
import unittest
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, date, datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.errors import CoreError, Problems
from cabrio.core.record.readings import Reading
from cabrio.operations import bench, cars, compare, logbook, people, readings, slips
from cabrio.operations.actor import ABILITIES, Actor
from cabrio.operations.errors import Conflict, NotAllowed, NotFound
from tests.support.database import DatabaseTestCase

NOW = datetime(2026, 11, 1, 9, 0, tzinfo=UTC)
INES = Actor(1, 1, "Ines Halloran", "engineer")
PELL = Actor(5, 1, "Pell Ormsby", "viewer")
PADS = [[260.0, 258.0, 246.0, 244.0]]


class AirOfARun(unittest.TestCase):
    """The air of a run is the last that was read before it, where that still stands."""

    def read(self, number: int, hours_before: float, gone: str | None = None) -> Reading:
        at = (NOW - timedelta(hours=hours_before)).isoformat()
        return Reading(number, "air", 1, "Oke", at, withdrawn_at=gone)

    def test_the_last_before_it_and_none_that_is_too_old(self) -> None:
        taken = [self.read(1, 2.0), self.read(2, 1.0), self.read(3, 0.5, gone="later")]
        found = logbook.air_at(taken, NOW)
        assert found is not None
        self.assertEqual(found.id, 2)
        self.assertIsNone(logbook.air_at([self.read(1, 3.5), self.read(2, -0.5)], NOW))


class OperationTestCase(DatabaseTestCase):
    @contextmanager
    def session(self) -> Iterator[Session]:
        """A transaction of the test's own, taken back at its end."""
        with Session(self.engine, expire_on_commit=False) as db:
            db.begin()
            yield db
            db.rollback()

    def draft(
        self, db: Session, *changes: tuple[str, str, Any], actor: Actor = INES
    ) -> slips.Draft:
        found = slips.draft(db, actor, bench.load(db, actor, 1))
        _, draft = slips.write(
            db,
            actor,
            1,
            NOW,
            version=found.version,
            changes=list(changes),
            why="",
            expectation="",
            session_id=None,
        )
        return draft


class Roles(unittest.TestCase):
    def test_who_may_do_what(self) -> None:
        table = {
            "draft": {"engineer"},
            "give": {"engineer"},
            "import": {"engineer"},
            "read": {"engineer", "crew"},
            "log": {"engineer", "crew"},
            "speak": {"engineer", "driver"},
            "judge": {"engineer", "driver"},
            "look": {"engineer", "crew", "driver", "viewer"},
        }
        for ability, roles in table.items():
            for role in ABILITIES:
                with self.subTest(f"{role} {ability}"):
                    actor = Actor(1, 1, "A", role)
                    if role in roles:
                        actor.must(ability)
                    else:
                        with self.assertRaises(NotAllowed):
                            actor.must(ability)

    def test_an_unknown_role_may_nothing(self) -> None:
        with self.assertRaises(NotAllowed):
            Actor(1, 1, "A", "chief").must("look")


class Slips(OperationTestCase):
    def test_a_preview_changes_nothing_and_knows_both_sides(self) -> None:
        with self.session() as db:
            found = bench.load(db, INES, 1)
            draft = self.draft(db, ("spring", "LF", "45/200"), ("spring", "RF", "45/200"))
            ahead = slips.preview(found, draft.base, draft.lines)
            before, after = (
                found.values["axle_frequency"].tolist()
                for found in (ahead.sheet.worked, ahead.worked)
            )
            self.assertLess((after or [0])[0], (before or [0])[0])
            self.assertEqual(ahead.sheet.setup["spring"][0], "55/200")
            self.assertIn(
                "heights", {recheck.kind for recheck in ahead.rechecks if recheck.verdict == "void"}
            )

    def test_words_are_kept_with_the_lines(self) -> None:
        with self.session() as db:
            _, draft = slips.write(
                db,
                INES,
                1,
                NOW,
                version=0,
                changes=[("bar_hole", "rear", 2)],
                why="  Pushes.  ",
                expectation="Turns.",
                session_id=1,
            )
            slip = draft.slip
            assert slip is not None
            self.assertEqual(
                (slip.why, slip.expectation, slip.session_id), ("Pushes.", "Turns.", 1)
            )

    def test_a_session_of_another_car_is_not_taken(self) -> None:
        with self.session() as db, self.assertRaises(NotFound):
            slips.write(
                db,
                INES,
                1,
                NOW,
                version=0,
                changes=[("bar_hole", "rear", 2)],
                why="",
                expectation="",
                session_id=6,
            )

    def test_the_same_place_twice_is_one_line_the_last_one(self) -> None:
        with self.session() as db:
            draft = self.draft(db, ("bar_hole", "rear", 2), ("bar_hole", "rear", 5))
            self.assertEqual([line.new for line in draft.lines], [5])

    def test_backing_out_parks_what_was_in_hand(self) -> None:
        with self.session() as db:
            self.draft(db, ("bar_hole", "rear", 2))
            slips.back_out(db, INES, 1, 2, NOW)
            draft = slips.draft(db, INES, bench.load(db, INES, 1))
            self.assertEqual(
                [(x.name, x.place, x.old, x.new) for x in draft.lines],
                [("bar_hole", "front", 3.0, 2.0)],
            )
            with self.assertRaisesRegex(Conflict, "was the first"):
                slips.back_out(db, INES, 1, 1, NOW)
            with self.assertRaises(NotFound):
                slips.back_out(db, INES, 1, 99, NOW)

    def test_nothing_in_hand_nothing_to_park_or_reapply(self) -> None:
        with self.session() as db:
            with self.assertRaises(Conflict):
                slips.park(db, INES, 1, NOW)
            with self.assertRaises(NotFound):
                slips.reapply(db, INES, 1, NOW)
            with self.assertRaises(NotFound):
                slips.resume(db, INES, 1, 999, NOW)


class Readings(OperationTestCase):
    def take(self, db: Session, at: datetime = NOW, **more: Any) -> int:
        values = {"kind": "pads", "repeats": {"pad_mass": PADS}, "conditions": {}, **more}
        return readings.take(db, INES, 1, at, **values).id

    def test_it_belongs_to_the_revision_on_the_car(self) -> None:
        with self.session() as db:
            taken = self.take(db)
            found = next(r for r in bench.load(db, INES, 1).readings if r.id == taken)
            self.assertEqual((found.revision, found.by), (6, "Ines Halloran"))

    def test_the_newest_that_stands_is_the_one_worked_with(self) -> None:
        with self.session() as db:
            first = self.take(db, NOW)
            second = self.take(db, NOW + timedelta(minutes=5), repeats={"pad_mass": [[300.0] * 4]})
            self.assertEqual(bench.load(db, INES, 1).sheet().value("total_mass"), [1200.0])
            readings.withdraw(db, INES, 1, second, NOW, why="Wrong car.")
            self.assertEqual(bench.load(db, INES, 1).sheet().value("total_mass"), [1008.0])
            readings.withdraw(db, INES, 1, first, NOW, why="Wrong car too.")
            self.assertEqual(bench.load(db, INES, 1).sheet().value("total_mass"), [1018.5])

    def test_unknown_kinds_numbers_and_conditions_are_refused(self) -> None:
        with self.session() as db:
            for wrong in (
                {"kind": "scales"},
                {"conditions": {"sober": True}},
                {"repeats": {"pad_mass": PADS, "ride_height": PADS}},
            ):
                with self.assertRaises(CoreError):
                    self.take(db, **wrong)
            with self.assertRaises(Problems):
                self.take(db, repeats={"pad_mass": [[250] * 4], "fuel_mass": [["a lot"]]})
            with self.assertRaises(NotFound):
                readings.withdraw(db, INES, 1, 99_999, NOW, why="x")


class Cars(OperationTestCase):
    def test_several_numbers_are_saved_together_or_not_at_all(self) -> None:
        with self.session() as db:
            with self.assertRaises(Problems) as caught:
                cars.give(
                    db,
                    INES,
                    1,
                    NOW,
                    values={"wheelbase": ["2.6 m"], "track": ["-1", "x"]},
                    estimated={},
                )
            self.assertEqual(
                [(p.number, p.place) for p in caught.exception.problems],
                [("track", "front"), ("track", "rear")],
            )
            self.assertEqual(bench.load(db, INES, 1).car.given["wheelbase"].values, (2.492,))
            cars.give(
                db, INES, 1, NOW, values={"wheelbase": ["2.6 m"]}, estimated={"wheelbase": True}
            )
            given = bench.load(db, INES, 1).car.given["wheelbase"]
            self.assertEqual(
                (given.values, given.estimated, given.by), ((2.6,), True, "Ines Halloran")
            )

    def test_an_estimate_stains_and_unstains(self) -> None:
        with self.session() as db:
            cars.give(db, INES, 1, NOW, values={}, estimated={"motion_ratio": True})
            self.assertEqual(
                bench.load(db, INES, 1).sheet().estimated("wheel_rate"), ["motion_ratio"]
            )
            cars.give(db, INES, 1, NOW, values={}, estimated={"motion_ratio": False})
            self.assertEqual(bench.load(db, INES, 1).sheet().estimated("wheel_rate"), [])

    def test_a_wrong_count_of_places_is_refused(self) -> None:
        with self.session() as db, self.assertRaisesRegex(Problems, "needs a value at front, rear"):
            cars.give(db, INES, 1, NOW, values={"track": [1.5]}, estimated={})

    def test_a_viewer_gives_nothing(self) -> None:
        with self.session() as db, self.assertRaises(NotAllowed):
            cars.give(db, PELL, 1, NOW, values={"wheelbase": [2.5]}, estimated={})


class Comparing(OperationTestCase):
    def test_a_revision_is_worked_with_what_was_known_then(self) -> None:
        with self.session() as db:
            found = bench.load(db, INES, 1)
            first, last = found.sheet_at(1), found.sheet_at(6)
            self.assertEqual(first.value("total_mass"), [1019.25])
            self.assertEqual(last.value("total_mass"), [1018.5])
            same = compare.compare(found, 4, 4)
            self.assertEqual((same.set_otherwise, same.moved, same.unequal), ([], [], []))

    def test_there_and_back_are_mirrored(self) -> None:
        with self.session() as db:
            found = bench.load(db, INES, 1)
            there, back = compare.compare(found, 2, 3), compare.compare(found, 3, 2)
            self.assertEqual([x.inverse() for x in there.set_otherwise], back.set_otherwise)
            self.assertEqual([(n, p, b, a) for n, p, a, b in there.moved], back.moved)


class People(OperationTestCase):
    def test_everything_wrong_with_a_new_person_is_said_at_once(self) -> None:
        with self.session() as db, self.assertRaises(Problems) as caught:
            people.add_person(db, team="", name="", email="nowhere", password="short", role="boss")
        self.assertEqual(
            [p.number for p in caught.exception.problems],
            ["role", "email", "name", "password", "team"],
        )

    def test_an_address_is_one_person_whatever_its_case(self) -> None:
        with self.session() as db, self.assertRaisesRegex(Problems, "has this address already"):
            people.add_person(
                db,
                team="T",
                name="N",
                email="INES@hollinbank.example",
                password="long enough words",
                role="crew",
            )

    def test_passwords_are_kept_as_argon2_only(self) -> None:
        with self.session() as db:
            added = people.add_person(
                db,
                team="T",
                name="N",
                email="n@t.example",
                password="long enough words",
                role="crew",
                new_team=True,
            )
            self.assertTrue(added.password_hash.startswith("$argon2id$"))

    def test_a_guess_costs_memory_and_time_outside_the_tests(self) -> None:
        shipped = importlib.util.find_spec("cabrio.operations.sign_in")
        assert shipped is not None and shipped.loader is not None
        module = importlib.util.module_from_spec(shipped)
        sys.modules["a_second_sign_in"] = module
        self.addCleanup(sys.modules.pop, "a_second_sign_in")
        shipped.loader.exec_module(module)
        self.assertGreaterEqual(module.HASHER.memory_cost, 46 * 1024)  # KiB
        self.assertGreaterEqual(module.HASHER.time_cost, 2)


class Logbook(OperationTestCase):
    def test_times_as_people_write_them(self) -> None:
        written: list[tuple[Any, float | None]] = [
            ("1:32.45", 92.45),
            ("92,45", 92.45),
            (9.87, 9.87),
            ("", None),
            (None, None),
        ]
        with self.session() as db:
            event = logbook.add_event(
                db, INES, name="T", place="", starts_on=date(2026, 11, 1), ends_on=date(2026, 11, 1)
            )
            session = logbook.add_session(
                db, INES, 1, event_id=event.id, name="S", kind="test", starts_at=NOW
            )
            for typed, seconds in written:
                run = logbook.add_run(
                    db, INES, 1, session.id, NOW, best_time=typed, released_why="A test."
                )
                self.assertEqual(run.best_time, seconds)
                db.expire(session)
            for typed in ("fast", "0", "-3", "nan", "1:2:3", "1:-30", "-1:30", "1_0:3_0"):
                with self.subTest(typed), self.assertRaises(Problems) as told:
                    logbook.add_run(
                        db, INES, 1, session.id, NOW, best_time=typed, released_why="A test."
                    )
                self.assertEqual(told.exception.problems[0].number, "best_time")

    def test_runs_are_numbered_within_their_session(self) -> None:
        with self.session() as db:
            event = logbook.add_event(
                db, INES, name="E", place="", starts_on=date(2026, 11, 1), ends_on=date(2026, 11, 1)
            )
            session = logbook.add_session(
                db, INES, 1, event_id=event.id, name="S", kind="test", starts_at=NOW
            )
            numbers = []
            for _ in range(3):
                run = logbook.add_run(db, INES, 1, session.id, NOW, released_why="A test.")
                numbers.append(run.number)
                db.expire(session)
            self.assertEqual(numbers, [1, 2, 3])

    def test_a_phase_of_another_discipline_is_refused(self) -> None:
        with self.session() as db, self.assertRaisesRegex(CoreError, "has no phase “staging”"):
            logbook.speak(
                db, INES, 1, 1, NOW, words=[{"phase": "staging", "text": "x"}], confidence=None
            )

    def test_another_car_s_session_is_not_there(self) -> None:
        with self.session() as db, self.assertRaises(NotFound):
            logbook.add_run(db, INES, 2, 1, NOW)
