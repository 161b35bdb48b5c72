"""A new car is never blank: what can be told of its layout has a value at once, stained by estimates."""

import unittest
from typing import get_args

from cabrio.core.car import Car, Given, first_setup
from cabrio.core.car.applies import applying
from cabrio.core.car.model import RearLayout
from cabrio.core.graph.registry import figures, roots_of
from cabrio.core.knowledge import knowledge
from cabrio.core.sheet.build import build
from cabrio.core.sheet.estimates import wanted, with_estimates

LAYOUTS = get_args(RearLayout)
PLATFORM = ("drift", "race_high_downforce")


def new(use: str, rear: str, front: str = "independent", **given: tuple[float, ...]) -> Car:
    discipline = knowledge().uses[use].disciplines[0]
    facts = {name: Given(values, by="Ada", at="now") for name, values in given.items()}
    return with_estimates(
        Car(
            "New",
            "1",
            discipline,
            use,
            rear_layout=rear,
            front_layout=front,  # type: ignore[arg-type]
            given=facts,
        )
    )


OF_READINGS = {
    "lock_inner",
    "inner_clearance",
    "outer_clearance",
    "shaft_showing",
    "sweep_angle",
    "camber_out",
    "diagonal",
    "plumb_distance",
    "side_wheelbase",
    "rail_gap",
    "housing_reading",
    "pinion_angle",
    "front_raised_mass",
    "tread_inner",
    "tread_middle",
    "rear_lift",
    "lock_outer",
    "wheel_raised",
    "spring_shortened",
    "spring_load_first",
    "tyre_load_light",
    "wheel_alone",
}
OF_SETTINGS = {"toe", "camber", "link_preload", "front_limiter"}
"""No typical value stands in for what only this car can tell, nor for what nobody set."""


def is_told(name: str) -> bool:
    """Whether a new car can be told this figure before anything was read or set."""
    return not (OF_READINGS | OF_SETTINGS).intersection(roots_of(name))


class NewCars(unittest.TestCase):
    def test_every_figure_of_every_use_and_layout_has_a_value_at_once(self) -> None:
        for use in knowledge().uses:
            for rear in LAYOUTS:
                for front in ("independent", "beam_axle"):
                    with self.subTest(f"{use}, {front}, {rear}"):
                        car = new(use, rear, front)
                        found = build(car, first_setup(car))
                        lacking = {
                            name: found.worked.missing.get(name) or found.worked.refused.get(name)
                            for name in found.applying & set(figures())
                            if found.by_place(name) is None and is_told(name)
                        }
                        if (
                            use in PLATFORM
                        ):  # the front is the quicker one: the rear never catches up
                            lacking.pop("flat_ride_speed")
                        self.assertEqual(lacking.keys(), set())

    def test_everything_in_it_is_stained(self) -> None:
        car = new("race_no_downforce", "independent")
        found = build(car, first_setup(car))
        for name in filter(is_told, applying(car) & set(figures())):
            if set(roots_of(name)) & {n.name for n in wanted(car)}:
                self.assertTrue(found.estimated(name), name)

    def test_nothing_is_claimed_as_set(self) -> None:
        car = new("drag", "parallel_four_link")
        self.assertEqual({one for row in first_setup(car).values() for one in row}, {None})

    def test_every_estimate_tells_its_reason_and_stays_within_bounds(self) -> None:
        for use in knowledge().uses:
            for rear in LAYOUTS:
                for name, one in new(use, rear).given.items():
                    self.assertTrue(one.why and one.guessed, name)

    def test_what_is_given_stands_and_scales_the_rest(self) -> None:
        light = new("race_no_downforce", "independent", pad_mass=(150.0,) * 4, track=(1.3, 1.3))
        heavy = new("race_no_downforce", "independent", pad_mass=(300.0,) * 4)
        self.assertEqual(light.given["pad_mass"].values, (150.0,) * 4)
        self.assertFalse(light.given["pad_mass"].guessed)
        self.assertAlmostEqual(
            heavy.given["unsprung_mass"].values[0] or 0,
            2 * (light.given["unsprung_mass"].values[0] or 0),
        )
        found = build(light, first_setup(light))
        target, got = found.value("target_frequency"), found.value("axle_frequency")
        assert target is not None and got is not None
        self.assertAlmostEqual(got[0], target[0], places=6)
        self.assertAlmostEqual(got[1], target[1], places=6)

    def test_a_place_nobody_gave_is_filled_and_told_apart(self) -> None:
        car = new("race_no_downforce", "independent", track=(1.62, None))  # type: ignore[arg-type]
        self.assertEqual(car.given["track"].values[0], 1.62)
        self.assertEqual([car.given["track"].estimated_at(i) for i in (0, 1)], [False, True])
