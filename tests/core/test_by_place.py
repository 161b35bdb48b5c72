"""What only one axle has is told there, and blank at the other."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.car import Line
from cabrio.core.car.fitted import fitted
from cabrio.core.catalog.parts import Bar, Blade
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.graph.registry import figures
from cabrio.core.sheet.what_if import moved_by, try_lines

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet


class ByPlace(unittest.TestCase):
    def test_a_blade_at_one_end_is_told_there(self) -> None:
        bladed = Bar(0.022, 0.8, (0.16,), 0.7, blade=Blade(0.03, 0.006, 0.15, (0.2, 0.4)))
        bars = {"front": bladed, "rear": replace(bladed, blade=None)}
        both = {"front": bladed, "rear": bladed}
        setup = CIRCUIT_SETUP | {"blade_position": [1.0, None]}
        one = sheet(circuit_car(bar=bars), setup)
        whole = sheet(circuit_car(bar=both), setup | {"blade_position": [1.0, 1.0]})
        for name in ("blade_rate", "blade_second_moment"):
            front, rear = one.by_place(name) or (None, 0.0)
            self.assertEqual(front, (whole.value(name) or [None])[0], name)
            self.assertIsNone(rear, name)
            self.assertIsNone(one.value(name), name)
        self.assertIsNotNone(one.value("lltd"))  # a bar without blades is stiff, not unknown
        found = try_lines(one, [Line("blade_position", "front", 1.0, 2.0)])
        before, after = moved_by(one, found, "blade_rate", "front")
        assert before is not None and after is not None
        self.assertGreater(after, before)
        self.assertEqual(moved_by(one, found, "blade_rate", "rear"), (None, None))

    def test_a_beam_axle_does_not_jack(self) -> None:
        known = {
            name: array.reshape(-1).tolist()
            for name, array in sheet(circuit_car(), CIRCUIT_SETUP).worked.values.items()
            if name not in figures() and array.ndim <= 1
        }
        self.assertEqual(fitted(drag_car(), DRAG_SETUP)["jacking_share"], [1.0, None])
        whole = evaluate(known).by_place("jacking_force") or []
        beam = evaluate(known | {"jacking_share": [1.0, None]})
        self.assertEqual(beam.by_place("jacking_force"), [whole[0], None])
        self.assertIn("load_transfer", beam.values)

    def test_a_place_told_in_part_is_what_the_whole_tells(self) -> None:
        """Every figure, one entered place taken away after another: what is still told is the same."""
        car = sheet(circuit_car(), CIRCUIT_SETUP)
        entered = {
            name: array.reshape(-1).tolist()
            for name, array in car.worked.values.items()
            if name not in figures() and array.ndim == 1
        }
        rest = {
            name: array.reshape(-1).tolist()
            for name, array in car.worked.values.items()
            if name not in figures() and array.ndim == 0
        }
        checked = 0
        for name, row in entered.items():
            for at in {0, len(row) - 1}:
                less = entered | {name: [None if i == at else one for i, one in enumerate(row)]}
                found = evaluate(rest | less)
                for figure, told in found.partial.items():
                    if figure == name or figure not in car.worked.values:
                        continue
                    known = np.isfinite(told)
                    whole = car.worked.values[figure]
                    self.assertTrue(np.array_equal(told[known], whole[known]), (name, at, figure))
                    checked += 1
        self.assertGreater(checked, 100)
