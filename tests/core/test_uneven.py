"""Left against right: told where it differs, silent where it does not."""

import unittest
from dataclasses import replace

from cabrio.core.car.uneven import uneven
from cabrio.core.catalog.parts import Damper, Shim, Valving

from .whole_car import CIRCUIT_SETUP, circuit_car, damper, dyno


class LeftAgainstRight(unittest.TestCase):
    def said(self, setup: dict[str, object] | None = None, **dampers: Damper) -> list[str]:
        car = circuit_car(damper={p: damper() for p in ("LF", "RF", "LR", "RR")} | dampers)
        return [one.sentence for one in uneven(car, CIRCUIT_SETUP | (setup or {}))]

    def test_an_even_car_has_nothing_to_say(self) -> None:
        self.assertEqual(self.said(), [])

    def test_a_setting_is_told_in_its_unit(self) -> None:
        self.assertEqual(
            self.said({"perch_turns": [0.5, 0.0, 0.0, 0.0]}),
            ["Perch, front: 0.50 turns against 0.00 turns, left and right."],
        )
        self.assertEqual(
            self.said({"spring": ["90/200"] * 2 + ["80/200", None]}),
            ["Spring, rear: 80/200 against none, left and right."],
        )

    def test_a_dead_knob_is_always_told(self) -> None:
        found = self.said(RR=damper(dead_at=7))
        self.assertIn("RR: the rebound knob is dead at click 7. Set the other side to it.", found)

    def test_dampers_that_are_not_a_pair(self) -> None:
        fewer = damper()
        assert fewer.rebound is not None
        other = replace(fewer, rebound=replace(fewer.rebound, clicks=12))
        self.assertIn("other rebound knobs", self.said(LF=other)[0])
        stiffer = replace(fewer, rebound=replace(fewer.rebound, curves=dyno(20, 1.7)))
        self.assertIn("other rebound curves", self.said(LF=stiffer)[0])
        car = circuit_car()
        lone = replace(car, parts=car.parts.without("damper", "damper RR"))
        self.assertEqual(
            [one.sentence for one in uneven(lone, CIRCUIT_SETUP)],
            [
                "Damper, rear: damper LR against damper RR, left and right.",
                "RR: no damper is written down.",
            ],
        )

    def test_stacks_are_told_shim_by_shim(self) -> None:
        def built(thickness: float) -> Damper:
            return replace(damper(), valving=(Valving("rebound", (Shim(0.04, thickness),)),))

        found = self.said(LR=built(0.0002), RR=built(0.00015))
        self.assertEqual(
            found, ["Dampers, rear, rebound shim 1: 40 × 0.20 mm against 40 × 0.15 mm."]
        )
