"""What the diagonals say of the axle and which links to turn; the pinion angle from a gauge."""

from __future__ import annotations

import unittest
from dataclasses import replace
from math import radians

from cabrio.core.errors import Missing, OutOfRange
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Sheet, build
from cabrio.core.sheet.square import what_to_move
from cabrio.core.solve.pinion import GaugeRead, pinion_angle, pinion_words
from cabrio.core.solve.preload import flats_text

from .whole_car import DRAG_SETUP, drag_car

AT = "2026-05-01T09:00"


def squared(left: float, right: float, **car: object) -> Sheet:
    """The drag car with diagonals read from a plumb point 3.6 m ahead, axle points 1.5 m apart [m]."""
    values = {
        "diagonal": [[left, right]],
        "plumb_distance": [[3.6]],
        "axle_points": [[1.5]],
        "axle_offset": [[0.0]],
    }
    reading = Reading(1, "square", 1, "Kit", AT, values)
    return build(replace(drag_car(), **car), DRAG_SETUP, [reading])  # type: ignore[arg-type]


class Square(unittest.TestCase):
    def test_equal_diagonals_are_square(self) -> None:
        self.assertEqual(
            what_to_move(squared(3.677, 3.677)), ("Square, within what a tape can show.",)
        )

    def test_the_longer_side_stands_behind_and_its_links_are_shortened(self) -> None:
        for left, right, side, other in (
            (3.680, 3.674, "left", "right"),
            (3.674, 3.680, "right", "left"),
        ):
            behind, turn = what_to_move(squared(left, right))
            self.assertTrue(behind.startswith(f"The {side} end stands "), behind)
            self.assertIn(f"Shorten the {side} links by", turn)
            self.assertIn(f"lengthen the {other} by as much", turn)
            self.assertIn("flats, upper and lower alike", turn)

    def test_what_is_said_is_the_figure_s_flats_and_half_of_them(self) -> None:
        sheet = squared(3.680, 3.674)
        flats = abs(float(sheet.worked.values["square_flats"]))
        turn = what_to_move(sheet)[1]
        self.assertIn(f"by {round(flats / 0.25) * 0.25:g} flat", turn)
        self.assertIn(f"by {round(flats / 2 / 0.25) * 0.25:g} flat", turn)
        self.assertIn("and lengthen", turn)

    def test_one_flat_is_one(self) -> None:
        told = [flats_text(one) for one in (0.5, 1.0, 2.0)]
        self.assertEqual(told, ["0.5 flats", "1 flat", "2 flats"])
        self.assertEqual(flats_text(-1.5, signed=True), "−1.5 flats")

    def test_triangulated_uppers_leave_the_lowers_to_turn(self) -> None:
        turn = what_to_move(squared(3.680, 3.674, rear_layout="triangulated_four_link"))[1]
        self.assertIn("Shorten the left lower link by", turn)
        self.assertNotIn("upper", turn)

    def test_past_what_a_link_takes_up_it_asks_to_measure_again(self) -> None:
        told = what_to_move(squared(3.74, 3.60))
        self.assertIn("measure again", told[-1])

    def test_estimates_are_nothing_to_turn_links_by(self) -> None:
        with self.assertRaisesRegex(Missing, "both diagonals read"):
            what_to_move(build(drag_car(), DRAG_SETUP))


class Gauge(unittest.TestCase):
    def read(self, degrees: float, rises: bool) -> GaugeRead:
        return GaugeRead(radians(degrees), rises)

    def test_both_rising_is_a_difference_and_one_each_way_a_sum(self) -> None:
        for pinion, shaft, degrees in (
            ((1.0, True), (3.0, True), -2.0),
            ((1.0, False), (1.5, True), -2.5),
            ((3.1, True), (3.0, True), 0.1),
            ((1.0, False), (3.0, False), 2.0),
        ):
            found = pinion_angle(self.read(*pinion), self.read(*shaft))
            self.assertAlmostEqual(found, radians(degrees))

    def test_it_is_said_in_words(self) -> None:
        self.assertEqual(pinion_words(radians(-2.0)), "nose down against the shaft")
        self.assertEqual(pinion_words(radians(0.1)), "nose up against the shaft")
        self.assertEqual(pinion_words(0.0), "in line with the shaft")

    def test_a_sign_or_a_cliff_is_refused_at_its_field(self) -> None:
        for degrees in (-2.0, 60.0):
            with self.assertRaisesRegex(OutOfRange, "without a sign") as caught:
                pinion_angle(self.read(1.0, True), self.read(degrees, True))
            self.assertEqual(caught.exception.number, "shaft")
