"""Limits that speak where they are read and bar until signed; what was never read says nothing."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.arrays import Array
from cabrio.core.car.model import Given
from cabrio.core.catalog.quantities import Kind
from cabrio.core.record.readings import Reading
from cabrio.core.record.standing import Standing
from cabrio.core.sheet.build import Origin, Sheet
from cabrio.core.sheet.release import past_limits

from .whole_car import DRAG_SETUP, drag_car, sheet


class PastLimits(unittest.TestCase):
    def setUp(self) -> None:
        self.car = sheet(drag_car(), DRAG_SETUP)

    def told(self, kind: str, status: str = "fresh", **values: float | Array) -> list[str]:
        reading = Reading(1, kind, 1, "Oke", "2026-10-10T12:00:00+00:00")
        stood = {kind: Standing(kind, status, reading)}  # type: ignore[arg-type]
        car: Sheet = replace(self.car, standings=stood, _kept={})
        car.worked = replace(car.worked, values={**car.worked.values})
        for name, value in values.items():
            car.worked.values[name] = np.asarray(value)
            car.origins[name] = Origin(Kind.READ, "read")
        return [limit.words for limit in past_limits(car) if limit.kind == kind]

    def test_a_bent_housing(self) -> None:
        (words,) = self.told("housing", housing_bend=0.0032, housing_limit=0.0015)
        self.assertIn("past its limit", words)
        self.assertEqual(self.told("housing", housing_bend=0.0012, housing_limit=0.0015), [])
        self.assertEqual(
            self.told("housing", "void", housing_bend=0.0032, housing_limit=0.0015), []
        )

    def test_a_pinion_hanging_nose_up(self) -> None:
        (words,) = self.told("pinion", pinion_angle_hanging=0.01)
        self.assertIn("nose up", words)
        self.assertEqual(self.told("pinion", pinion_angle_hanging=-0.01), [])

    def test_a_wheel_that_touches_at_full_lock(self) -> None:
        touching = np.array([0.004, 0.0])
        (words,) = self.told("full_lock", lock_clearance=touching)
        self.assertIn("no room round the right front wheel", words)
        self.assertEqual(self.told("full_lock", lock_clearance=np.array([0.004, 0.001])), [])
        self.assertEqual(self.told("full_lock", "void", lock_clearance=touching), [])

    def test_rear_brakes_that_lock_first_where_their_share_was_given(self) -> None:
        self.car.worked.values["brake_share_off"] = self.car.worked.values["wheelbase"] * 0 + 0.28
        given = {"rear_brake_share": Given((0.6,), by="Ada", at="2026-05-01")}
        asked = replace(self.car.car, given=self.car.car.given | given)
        words = [limit.words for limit in past_limits(replace(self.car, car=asked, _kept={}))]
        self.assertTrue(any("the rear locks first" in word for word in words))
        guess = {"rear_brake_share": Given((0.6,), estimated=True)}
        asked = replace(self.car.car, given=self.car.car.given | guess)
        words = [limit.words for limit in past_limits(replace(self.car, car=asked, _kept={}))]
        self.assertFalse(any("locks first" in word for word in words))

    def test_unlike_springs_left_and_right(self) -> None:
        codes = [one.code for one in self.car.car.parts.spring][:2]
        setup = {**self.car.setup, "spring": [codes[0], codes[1], codes[0], codes[0]]}
        told = [limit.words for limit in past_limits(replace(self.car, setup=setup, _kept={}))]
        self.assertTrue(any("front left" in one and "unlike" in one for one in told), told)
        self.assertFalse(any("rear left" in one for one in told))
