"""What a setting can be, written down on the car: its range, a place's own, and what may not be taken off."""

from __future__ import annotations

from typing import Any

from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible, Problems, UnknownName
from cabrio.operations import adjusters
from cabrio.operations.errors import Conflict, NotAllowed, NotFound
from tests.operations.test_operations import INES, PELL, OperationTestCase


class Adjusters(OperationTestCase):
    def range(self, db: Session, name: str, lowest: Any, highest: Any, place: str = "") -> Any:
        told = {"lowest": lowest, "highest": highest, "counted": "from_closed", "place": place}
        return adjusters.set_range(db, INES, 1, name, **told).adjusters[name]

    def test_a_viewer_writes_none_down(self) -> None:
        with self.session() as db, self.assertRaises(NotAllowed):
            adjusters.remove_adjuster(db, PELL, 1, "camber")

    def test_a_range_in_the_car_s_units_and_one_place_apart(self) -> None:
        with self.session() as db:
            made = self.range(db, "camber", "-5", "0")
            self.assertAlmostEqual(made.lowest, -0.0872664626, places=9)
            made = self.range(db, "camber", "-4°", "-1°", "LF")
            self.assertAlmostEqual(made.range_at("LF")[1], -0.0174532925, places=9)
            self.assertEqual(made.range_at("RF"), (made.lowest, made.highest))

    def test_a_range_must_hold_what_is_on_the_car(self) -> None:
        with self.session() as db:
            with self.assertRaisesRegex(Problems, "must hold what is on the car"):
                self.range(db, "bar_hole", "4", "5")
            with self.assertRaisesRegex(Problems, "above the lower one"):
                self.range(db, "bar_hole", "5", "1")
            with self.assertRaises(Problems) as caught:
                self.range(db, "bar_hole", "few", "many")
            ends = [problem.number for problem in caught.exception.problems]
            self.assertEqual(ends, ["lowest", "highest"])

    def test_only_a_setting_of_this_car_has_an_adjuster(self) -> None:
        with self.session() as db:
            for name, refusal in (
                ("spring", UnknownName),
                ("pad_mass", UnknownName),
                ("link_preload", Impossible),
            ):
                with self.assertRaises(refusal):
                    self.range(db, name, "0", "1")

    def test_one_in_use_stays_and_one_that_is_not_goes(self) -> None:
        with self.session() as db:
            with self.assertRaisesRegex(Conflict, "its adjuster is in use"):
                adjusters.remove_adjuster(db, INES, 1, "bar_hole")
            self.range(db, "blade_position", "1", "3")
            car = adjusters.remove_adjuster(db, INES, 1, "blade_position")
            self.assertNotIn("blade_position", car.adjusters)
            with self.assertRaises(NotFound):
                adjusters.remove_adjuster(db, INES, 1, "blade_position")
