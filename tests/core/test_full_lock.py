"""Full lock of a drift car: which cars have it, what upsets it, what its figures say."""

from __future__ import annotations

import unittest
from math import atan, degrees, radians, sin, tan

from cabrio.core.car import Car, Line
from cabrio.core.car.applies import applying
from cabrio.core.graph.evaluate import answer
from cabrio.core.knowledge import knowledge
from cabrio.core.record.recheck import rechecks

LOCK = {"lock_clearance", "lock_ackermann", "turning_circle"}
AT_TRAVELS = ("", "_bump", "_droop")


def ackermann(inner: float, outer: float, base: float = 2.6, track: float = 1.5) -> float:
    """Turning left: the left wheel inside, the right one outside [°]."""
    told = {
        "lock_inner": [radians(inner)] * 2,
        "lock_outer": [radians(outer)] * 2,
        "wheelbase": base,
        "track": [track, track],
    }
    return float(answer(["lock_ackermann"], told)["lock_ackermann"][0])


class FullLock(unittest.TestCase):
    def test_only_a_drift_car_is_asked_for_it(self) -> None:
        for discipline in ("circuit", "drag"):
            self.assertFalse(LOCK & applying(Car("", "", discipline, "")))  # type: ignore[arg-type]
            kinds = [reading.id for reading in knowledge().readings_for(discipline, "independent")]
            self.assertNotIn("full_lock", kinds)
        self.assertLessEqual(LOCK, applying(Car("", "", "drift", "drift")))

    def test_what_moves_the_wheel_voids_it_and_height_doubts_it(self) -> None:
        car = Car("", "", "drift", "drift")

        def verdict(name: str) -> str:
            found = {
                recheck.kind: recheck.verdict
                for recheck in rechecks([Line(name, "LF", 0.0, 1.0)], car)
            }
            return found.get("full_lock", "fresh")

        self.assertEqual({verdict(name) for name in ("camber", "caster", "toe")}, {"void"})
        self.assertEqual(verdict("perch_turns"), "doubtful")
        self.assertEqual(verdict("rebound_clicks"), "fresh")

    def test_parallel_is_nought_and_true_is_a_hundred(self) -> None:
        self.assertAlmostEqual(ackermann(40.0, 40.0), 0.0)
        true = degrees(atan(1 / (1 / tan(radians(40.0)) - 1.5 / 2.6)))
        self.assertAlmostEqual(ackermann(true, 40.0), 1.0)
        self.assertLess(ackermann(36.0, 40.0), 0.0)

    def test_the_circle_is_of_the_outer_wheel(self) -> None:
        told = {"lock_outer": [radians(30.0), radians(45.0)], "wheelbase": 2.6}
        left, right = answer(["turning_circle"], told)["turning_circle"]
        self.assertAlmostEqual(left, 2 * 2.6 / sin(radians(45.0)))
        self.assertAlmostEqual(right, 2 * 2.6 / sin(radians(30.0)))

    def test_the_least_room_is_the_least_of_all_that_were_looked_at(self) -> None:
        room = {
            f"{side}_clearance{at}": [0.02, 0.02]
            for side in ("inner", "outer")
            for at in AT_TRAVELS
        }
        for name in room:
            tight = room | {name: [0.004, 0.02]}
            found = answer(["lock_clearance"], tight)["lock_clearance"]
            self.assertEqual(list(found), [0.004, 0.02], name)
