"""The inventory as people keep it: parts put in, corrected and taken out, and what the record holds fast."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible, Problems, UnknownName
from cabrio.operations import bench, cars, parts, slips
from cabrio.operations.errors import Conflict, NotAllowed
from tests.operations.test_operations import INES, NOW, PELL, OperationTestCase


class Inventory(OperationTestCase):
    def save(self, db: Session, code: str, kind: str = "spring", **more: Any) -> Any:
        more.setdefault("values", {"rate": "85", "free_length": "180", "solid_length": "80"})
        return parts.save_part(db, INES, 1, NOW, kind=kind, code=code, **more)

    def test_a_viewer_puts_nothing_in(self) -> None:
        with self.session() as db, self.assertRaises(NotAllowed):
            parts.save_part(db, PELL, 1, NOW, kind="spring", code="X", values={"rate": "85"})

    def test_a_part_put_in_is_no_correction(self) -> None:
        with self.session() as db:
            car = self.save(db, "85/180")
            self.assertEqual(car.corrected, ())
            self.assertEqual(self.save(db, "85/180", instead_of="85/180").corrected, ())

    def test_a_correction_keeps_the_fields_that_differ(self) -> None:
        with self.session() as db:
            self.save(db, "85/180")
            changed = {"rate": "84.2", "free_length": "180", "solid_length": "80"}
            self.save(db, "85/180", values=changed, instead_of="85/180")
            car = bench.load(db, INES, 1).car
            (was,) = car.corrected
            self.assertEqual((was.kind, was.code, was.by), ("spring", "85/180", "Ines Halloran"))
            self.assertEqual(was.values, {"rate": 85000.0})
            self.assertEqual(was.at, NOW.isoformat(timespec="seconds"))

    def test_a_table_corrected_is_kept_row_by_row(self) -> None:
        rows = [["0", "0"], ["5 mm", "400"], ["10 mm", "1200"]]
        with self.session() as db:
            self.save(db, "soft", "bump_rubber", values={"table": rows})
            rows[2][1] = "1300"
            car = self.save(db, "soft", "bump_rubber", values={"table": rows}, instead_of="soft")
            (was,) = car.corrected
            self.assertEqual(was.values["table"][2][1], 1200.0)

    def test_the_record_holds_the_code_and_the_part(self) -> None:
        with self.session() as db:
            with self.assertRaisesRegex(Conflict, "is in revision"):
                self.save(db, "61/200", instead_of="60/200")
            with self.assertRaisesRegex(Conflict, "stays in the inventory"):
                parts.remove_part(db, INES, 1, kind="spring", code="60/200")
            self.assertIsNotNone(bench.load(db, INES, 1).car.part("spring", "60/200"))

    def test_a_part_on_the_shelf_goes_and_can_be_renamed(self) -> None:
        with self.session() as db:
            self.save(db, "85/180")
            car = self.save(db, "85/180 A", instead_of="85/180")
            self.assertEqual(car.corrected[-1].values, {"code": "85/180"})
            car = parts.remove_part(db, INES, 1, kind="spring", code="85/180 A")
            self.assertIsNone(car.part("spring", "85/180 A"))
            with self.assertRaises(UnknownName):
                parts.remove_part(db, INES, 1, kind="spring", code="85/180 A")

    def test_all_problems_at_once_and_nothing_kept(self) -> None:
        with self.session() as db:
            before = bench.load(db, INES, 1).car.parts
            values = {"rate": "hard", "free_length": "-3", "colour": "red"}
            with self.assertRaises(Problems) as caught:
                self.save(db, "bad", values=values, fits="middle")
            numbers = [problem.number for problem in caught.exception.problems]
            self.assertEqual(numbers, ["colour", "rate", "free_length", "fits"])
            self.assertEqual(bench.load(db, INES, 1).car.parts, before)
            with self.assertRaises(UnknownName):
                self.save(db, "new", instead_of="never there")

    def test_a_kind_has_a_most(self) -> None:
        with self.session() as db:
            most, parts.MOST_PARTS = parts.MOST_PARTS, 1
            try:
                with self.assertRaisesRegex(Impossible, "at most 1"):
                    self.save(db, "one too many")
            finally:
                parts.MOST_PARTS = most

    def test_a_copied_car_begins_without_corrections(self) -> None:
        with self.session() as db:
            self.save(db, "85/180")
            self.save(db, "85/180", instead_of="85/180", note="at Mossgate")
            made = cars.copy_car(db, INES, 1, NOW, name="Wagtail B")
            copied = bench.load(db, INES, made.id).car
            self.assertEqual(copied.corrected, ())
            self.assertIsNotNone(copied.part("spring", "85/180"))

    def test_a_new_part_is_fitted_by_the_slip(self) -> None:
        with self.session() as db:
            self.save(db, "85/180")
            found = self.draft(db, *(("spring", place, "85/180") for place in ("LR", "RR")))
            self.assertEqual([line.new for line in found.lines], ["85/180", "85/180"])
            number = slips.book(db, INES, 1, NOW, version=found.version)
            worn = bench.load(db, INES, 1)
            self.assertEqual(worn.row.revision, number)
            self.assertEqual(worn.sheet().value("spring_rate"), [55e3, 55e3, 85e3, 85e3])
