"""What three temperatures across a tread say."""

import unittest
from typing import Any

from cabrio.core.car import Given
from cabrio.core.sheet.build import build
from cabrio.core.sheet.tread import tread_says

from .whole_car import CIRCUIT_SETUP, circuit_car

ZERO = 273.15


class Tread(unittest.TestCase):
    def says(self, inner: float, middle: float, outer: float) -> tuple[str, ...]:
        car = circuit_car()
        rows: dict[str, Any] = {"inner": inner, "middle": middle, "outer": outer}
        given = {f"tread_{name}": Given((at + ZERO,) * 4) for name, at in rows.items()}
        return tread_says(
            build(type(car)(**(vars(car) | {"given": car.given | given})), CIRCUIT_SETUP)
        )["LF"]

    def test_an_even_tread_is_left_alone(self) -> None:
        self.assertEqual(self.says(88.0, 84.0, 82.0), ("Even across the tread.",))

    def test_a_hot_outer_edge_asks_for_camber_and_a_hot_middle_for_less_air(self) -> None:
        camber, pressure = self.says(80.0, 92.0, 86.0)
        self.assertEqual(
            camber,
            "Tread inside minus outside −6.0 °C: the outer edge works hardest: more negative camber.",
        )
        self.assertIn("less pressure", pressure)

    def test_hot_edges_ask_for_more_air_and_a_hot_inner_edge_for_less_camber(self) -> None:
        camber, pressure = self.says(98.0, 80.0, 84.0)
        self.assertIn("less negative camber", camber)
        self.assertIn("more pressure", pressure)

    def test_what_was_not_read_says_nothing(self) -> None:
        self.assertEqual(tread_says(build(circuit_car(), CIRCUIT_SETUP)), {})
