"""An axle on a torque arm, ladder bars or leaves, against its own figures and against its motion."""

from __future__ import annotations

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.car.model import Given
from cabrio.core.catalog.parts import Bracket
from cabrio.core.errors import Impossible
from cabrio.core.figures.live_axle import arm_shift
from cabrio.core.geometry.plane import Point
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.side_view import Side, bracket_sets, side_of_sheet
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.solve.one_arm import on_torque_arm
from cabrio.core.under_load.of_sheet import loaded_car

from .whole_car import DRAG_SETUP, KNOWN, drag_car, sheet

OWN = (
    "unsprung_cg_height",
    "roll_centre_height",
    "torque_arm_x",
    "lower_bolt_z",
    "ladder_pivot_x",
    "ladder_pivot_z",
    "arm_length",
    "arm_rise",
)


def on(layout: str, **told: tuple[float, float]) -> Sheet:
    car = drag_car(rear_layout=layout)
    for name in OWN:
        car = car.with_given(name, Given(told.get(name, tuple(KNOWN[name]))))
    return sheet(car, DRAG_SETUP)


def swept(side: Side) -> tuple[np.ndarray, np.ndarray]:
    """Travels, and the axle's shift forward with the housing's turn at each."""
    at = np.array(side.travels)
    return at, np.array([(view.axle_shift, view.housing_turn) for view in side.views])


class RigidArms(unittest.TestCase):
    """What is one with the housing turns it about the instant centre."""

    def test_the_housing_turns_about_the_instant_centre(self) -> None:
        for layout in ("torque_arm", "ladder_bar"):
            side = side_of_sheet(on(layout))
            at, moved = swept(side)
            slope = np.gradient(moved, at, axis=0)
            for i in range(2, len(at) - 2):
                with self.subTest(layout, travel=round(float(at[i]), 3)):
                    view = side.views[i]
                    assert isinstance(view.centre, Point)
                    self.assertAlmostEqual(slope[i, 1], -1 / view.centre.x, 3)
                    # the axle's centre is the tyre's radius above the ground that it stands on
                    up = view.centre.z - side.radii[1]
                    self.assertAlmostEqual(slope[i, 0], -up / view.centre.x, 3)

    def test_at_ride_height_it_is_what_the_figures_say(self) -> None:
        for layout in ("torque_arm", "ladder_bar"):
            car = on(layout)
            side = side_of_sheet(car)
            told = float(car.worked.values["anti_squat"])
            self.assertAlmostEqual(side.anti_squat or 0.0, told, 9, layout)
            self.assertLess((side.band or (0, 0))[0], told)
            # the car under load has its rear held down by the same share, in braking too
            loads, worked = loaded_car(car.car, car.worked), car.worked.values
            self.assertAlmostEqual(loads.anti_driving[1], told, 9)
            self.assertAlmostEqual(loads.anti_braking[1], 0.4 * told, 9)
            self.assertIn("rear_separation", worked, layout)

    def test_bars_keep_their_lengths(self) -> None:
        for layout in ("torque_arm", "ladder_bar", "leaf"):
            bars = np.array([view.bars for view in side_of_sheet(on(layout)).views])
            long = np.linalg.norm(bars[:, :, 0] - bars[:, :, 1], axis=-1)
            np.testing.assert_allclose(long, np.broadcast_to(long[0], long.shape), atol=1e-9)

    def test_an_arm_that_does_not_reach_is_told_by_name(self) -> None:
        common = {"radius": 0.3, "wheelbase": 2.5, "cg_height": 0.5}
        for given, said in (
            ((0.05, 0.2, 0.6, 0.0), "torque arm does not reach"),
            ((1.1, 0.2, 0.06, 0.0), "lower arms do not reach"),
            ((1.1, 0.2, 0.6, 0.7), "rises more than its length"),
        ):
            with self.assertRaisesRegex(Impossible, said):
                on_torque_arm(*given, travels=[0.08], **common)


class Leaves(unittest.TestCase):
    def test_the_axle_goes_on_the_arc_of_its_front_half_and_no_anti_squat_is_claimed(self) -> None:
        length, rise = 0.5, -0.02
        side = side_of_sheet(on("leaf", arm_length=(length, length), arm_rise=(rise, rise)))
        at, moved = swept(side)
        for travel, shift in zip(at, moved[:, 0], strict=True):
            told = arm_shift(np.full(2, length), np.full(2, rise), np.full(2, travel))
            self.assertAlmostEqual(shift, float(told[0]), 12)
        self.assertEqual((side.centre, side.anti_squat, side.band), (None, None, None))
        self.assertIn("how the leaves bend", side.assumed)


class Sets(unittest.TestCase):
    def test_a_set_of_brackets_goes_on_in_one_press(self) -> None:
        bare = drag_car()
        parts = bare.parts
        places = ("upper chassis", "lower chassis")
        for name, up in (("stock", 0.0), ("raised", 0.03)):
            for place in places:
                here = bare.fitted(DRAG_SETUP, "bracket", place)
                assert isinstance(here, Bracket)
                holes = tuple((x, z + up) for x, z in here.holes)
                code = here.code if name == "stock" else f"{here.code} raised"
                parts = parts.with_part(
                    "bracket",
                    Bracket(holes, set_code=name, goes_on=place, code=code),
                    instead_of=code,
                )
        car = sheet(replace(bare, parts=parts), DRAG_SETUP)
        found = {one.name: one for one in bracket_sets(car.car, car.setup)}
        self.assertEqual([one.fitted for one in found.values()], [False, True])
        after = try_lines(car, found["raised"].lines)
        moved = after.worked.values["bolt_z"] - car.worked.values["bolt_z"]
        np.testing.assert_allclose(moved, [0.03, 0.0, 0.03, 0.0], atol=1e-12)
        self.assertTrue(
            next(one for one in bracket_sets(after.car, after.setup) if one.name == "raised").fitted
        )
        self.assertEqual(bracket_sets(bare, DRAG_SETUP), [], "one set is no choice")
