"""What must hold of every figure at once: units, batches, symmetry, and a name for every refusal."""

import math
import unittest
from typing import Any

import numpy as np
import pint
from hypothesis import given, settings
from hypothesis import strategies as st

from cabrio.core.catalog.entered import ENTERED
from cabrio.core.catalog.quantities import Shape
from cabrio.core.catalog.units import MEASURES
from cabrio.core.errors import CoreError, Missing, OutOfRange
from cabrio.core.graph.evaluate import answer, evaluate
from cabrio.core.graph.registry import as_array, figures, number_named, run, upstream

from .whole_car import KNOWN

ARRAYS = {name: as_array(number_named(name), values) for name, values in KNOWN.items()}
OF_FIXED_AIR = {"vapour_pressure", "air_density", "density_ratio", "density_altitude"}
OF_FIXED_LENGTH = {"housing_limit"}
UNITS = pint.UnitRegistry(cache_folder=None)


def scale_of(quantity: str, length: float, mass: float, time: float) -> float:
    """By how much a number of this quantity grows when the units of everything shrink."""
    powers = UNITS.Quantity(1.0, MEASURES[quantity].si).dimensionality
    by = {"[length]": length, "[mass]": mass, "[time]": time, "[temperature]": 1.0}
    return math.prod(by[name] ** float(power) for name, power in powers.items())


class Dimensions(unittest.TestCase):
    """Every formula in other units of length, mass and time: a term of wrong dimension shows at once.

    Standard gravity stands in the formulas as a number, so length goes with the square of time.
    """

    @settings(max_examples=15)
    @given(st.floats(0.7, 1.4), st.floats(0.5, 2.0))
    def test_every_figure_scales_as_its_unit_says(self, time: float, mass: float) -> None:
        length = time**2
        first = run(ARRAYS | {"air_density": np.asarray(1.2)})
        self.assertEqual(first.refused, {})
        scaled = {}
        for name, value in first.values.items():
            if name in figures() and name != "air_density":
                continue
            quantity = number_named(name).quantity
            if quantity == "curve":
                force = scale_of("force", length, mass, time)
                scaled[name] = value * np.array([[length], [force]])
            else:
                scaled[name] = value * scale_of(quantity, length, mass, time)
        second = run(scaled)
        for name, entry in figures().items():
            if name in OF_FIXED_AIR | OF_FIXED_LENGTH:
                continue
            wanted = first.values[name] * scale_of(entry.number.quantity, length, mass, time)
            np.testing.assert_allclose(
                second.values[name], wanted, rtol=1e-6, atol=1e-12, err_msg=name
            )

    def test_the_figures_left_out_are_those_of_fixed_constants(self) -> None:
        for name in OF_FIXED_AIR | OF_FIXED_LENGTH:
            self.assertIn(name, figures())


class Batches(unittest.TestCase):
    def test_a_batch_is_each_car_by_itself(self) -> None:
        rng = np.random.default_rng(4)
        many = {
            name: value * rng.uniform(0.97, 1.03, (6,) + (1,) * value.ndim)
            for name, value in ARRAYS.items()
            if name not in ("rubber_curve", "blade_guided")
        } | {name: ARRAYS[name] for name in ("rubber_curve", "blade_guided")}
        together = run(many)
        self.assertEqual(together.refused, {})
        for i in range(6):
            one = run({n: v[i] if v.shape != ARRAYS[n].shape else v for n, v in many.items()})
            for name in figures():
                np.testing.assert_allclose(
                    together.values[name][i], one.values[name], rtol=1e-9, atol=1e-12, err_msg=name
                )

    def test_every_figure_keeps_its_shape(self) -> None:
        worked = run(ARRAYS)
        for name, entry in figures().items():
            places = entry.number.shape.places
            wanted = () if entry.number.shape is Shape.CAR else (len(places),)
            self.assertEqual(np.shape(worked.values[name]), wanted, name)


class Symmetry(unittest.TestCase):
    def test_an_even_car_has_no_left_and_right(self) -> None:
        even = dict(ARRAYS)
        for name, value in ARRAYS.items():
            if number_named(name).shape is Shape.CORNER:
                even[name] = value[[0, 0, 2, 2]]
        for name in (
            "diagonal",
            "arm_length",
            "arm_rise",
            "asked_travel",
            "camber_out",
            "camber_in",
        ):
            even[name] = ARRAYS[name][[0, 0]]
        values = run(even | {"axle_offset": np.asarray(0.0)}).values
        for name in (
            "rear_bite",
            "cg_offset",
            "thrust_angle",
            "axle_skew",
            "rear_steer",
            "left_lead_change",
            "caster_split",
            "simple_square_move",
            "square_flats",
        ):
            self.assertAlmostEqual(float(values[name]), 0.0, places=12, msg=name)
        for name in ("cross_camber", "height_split"):
            np.testing.assert_allclose(values[name], 0, atol=1e-12)
        self.assertAlmostEqual(float(values["left_share"]), 0.5)
        self.assertAlmostEqual(float(values["cross_share"]), float(values["balanced_cross"]))
        for name, entry in figures().items():
            if entry.number.shape is Shape.CORNER:
                np.testing.assert_allclose(values[name][0::2], values[name][1::2], err_msg=name)


class Named(unittest.TestCase):
    def test_what_is_missing_is_named(self) -> None:
        for name in figures():
            with self.subTest(name), self.assertRaises(CoreError) as caught:
                answer([name], {})
                raise Missing("worked from defaults alone", number=name)
            self.assertTrue(caught.exception.number)

    def test_each_entered_number_that_cannot_be_is_refused_by_name_and_range(self) -> None:
        for number in ENTERED:
            if number.quantity in ("part", "curve"):
                continue
            reached = [n for n in figures() if number.name in upstream([n])]
            for bad in [
                float("nan"),
                float("inf"),
                *([number.above] if number.above is not None else []),
                *([number.least - 1.0] if number.least is not None else []),
            ]:
                broken = ARRAYS | {
                    number.name: np.full_like(ARRAYS[number.name], bad)
                    if number.name in ARRAYS
                    else np.asarray(bad)
                }
                with self.subTest(f"{number.name} {bad}"), self.assertRaises(OutOfRange) as caught:
                    answer(reached[:1], broken)
                self.assertEqual(caught.exception.number, number.name)
                self.assertTrue(caught.exception.allowed)

    @settings(max_examples=40)
    @given(st.integers(0, 2**32 - 1))
    def test_whatever_is_entered_a_figure_is_finite_or_says_why(self, seed: int) -> None:
        """Any possible values, at their edges too: no NaN, no infinity, no other exception."""
        rng = np.random.default_rng(seed)
        values: dict[str, Any] = {"rubber_curve": KNOWN["rubber_curve"]}
        for number in ENTERED:
            if number.quantity in ("part", "curve"):
                continue
            low = number.least if number.least is not None else (number.above or 0.0) + 1e-9
            high = number.most if number.most is not None else 1e3
            pick = rng.choice(["low", "high", "known", "known"])
            row = list(KNOWN.get(number.name, [1.0] * len(number.shape.places)))
            if pick == "low":
                row = [low] * len(row)
            elif pick == "high":
                row = [high] * len(row)
            values[number.name] = row
        found = evaluate(values)
        for name in figures():
            if name in found.values:
                self.assertTrue(np.all(np.isfinite(found.values[name])), name)
            else:
                self.assertTrue(name in found.refused or name in found.missing, name)
                if name in found.refused:
                    self.assertTrue(found.refused[name].number)
                    self.assertRegex(found.refused[name].sentence, r"[.?]$")
