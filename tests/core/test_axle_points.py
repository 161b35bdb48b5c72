"""A live axle's points as a part: the axle they make, the car's numbers they tell, what is refused."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.cases.topics import points as topics
from cabrio.core.car import Car, Given
from cabrio.core.car.fitted import numbers_from_parts
from cabrio.core.car.geometry import swept_axles
from cabrio.core.car.settings import check_setting
from cabrio.core.catalog.axle_points import AxlePoints
from cabrio.core.catalog.inventory import Inventory
from cabrio.core.catalog.measured import Named
from cabrio.core.catalog.part import assembled, entered_fields
from cabrio.core.catalog.part_kinds import part_kind
from cabrio.core.catalog.parts import Bracket
from cabrio.core.errors import CoreError
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.kinematics.axle_through import through
from cabrio.core.kinematics.picture import HALF

from .test_kinematics import case

FACTS = {
    "wheelbase": (2.7,),
    "cg_height": (0.5,),
    "track": (1.5, 1.48),
    "loaded_radius": (0.31, 0.33),
    "rear_brake_share": (0.4,),
    "roll_centre_height": (0.06, 0.30),
    "spring_base": (1.5, 1.0),
    "motion_ratio": (0.9, 0.9, 0.95, 0.95),
}
DRIVEN_BY_ARM: Named = (
    ("wheel_centre", (0.0, 0.74, 0.33)),
    ("torque_arm_pivot", (1.1, 0.05, 0.28)),
    ("lower_chassis", (0.52, 0.44, 0.21)),
    ("lower_axle", (0.0, 0.44, 0.19)),
    ("track_bar_chassis", (0.0, 0.5, 0.30)),
    ("track_bar_axle", (0.0, -0.5, 0.27)),
)


def places(given: dict[str, Any]) -> dict[str, Any]:
    """A worked case's points by the names of the part's."""
    found = {"wheel_centre": given["left"]["wheel_centre_m"]}
    for link, name in zip(given["links"], ("upper", "lower"), strict=True):
        found |= {f"{name}_chassis": link["chassis_m"], f"{name}_axle": link["axle_m"]}
    for name in ("track_bar", "spring"):
        if told := given.get(name):
            found |= {f"{name}_{end}": told[f"{end}_m"] for end in ("chassis", "axle")}
    if watt := given.get("watt"):
        found["watt_pivot"] = watt["pivot_m"]
        for end in ("upper", "lower"):
            found |= {f"watt_{of}_{end}": watt[f"{of}_{end}_m"] for of in ("crank", "end")}
    return found


def points_of(given: dict[str, Any], **other: Any) -> AxlePoints:
    watt = given.get("watt")
    sideways = "track_bar" if "track_bar" in given else "links"
    told = {
        "bars": "four_link" if given["links"][0].get("mirror") else "three_link",
        "sideways": f"watt_on_{watt.get('pivot_on', 'axle')}" if watt else sideways,
        "spring": "measured" if "spring" in given else "",
        "camber": given["left"]["camber_rad"],
        "toe": given["left"]["toe_rad"],
        "places": tuple((name, tuple(at)) for name, at in places(given).items()),
        "code": "A1",
    }
    return AxlePoints(**(told | other))


def car_of(points: AxlePoints, layout: Any, *others: Any) -> Car:
    given = {name: Given(values) for name, values in FACTS.items()}
    car = Car("", "", "circuit", "", rear_layout=layout, given=given)
    stock = Inventory().with_part("live_axle_points", points)
    for other in others:
        stock = stock.with_part("bracket", other)
    return replace(car, parts=stock)


FITTED = {"live_axle_points": ["A1"]}
WATT = points_of(case("axle_in_space", 2))


class FromTheCases(unittest.TestCase):
    def test_the_part_makes_the_axle_of_every_case(self) -> None:
        for at in range(5):
            given = case("axle_in_space", at)
            with self.subTest(at=at):
                told = topics.axle_in_space(given)["states"]
                heave, roll, _ = topics._states(given)
                found = through(points_of(given).axle, heave, roll)
                height = [one["roll_centre_height_m"] for one in told]
                np.testing.assert_allclose(found.roll_centre(), height, rtol=1e-9)
                steer = [one["roll_steer_rad_per_rad"] for one in told]
                np.testing.assert_allclose(found.roll_steer, steer, atol=1e-9)

    def test_what_is_entered_makes_the_same_part_again(self) -> None:
        kind = part_kind("live_axle_points")
        entered = entered_fields(WATT)
        table = next(field.table for field in kind.fields if field.table)
        entered["places"] = table.build(entered["places"])
        again = assembled(kind, "A1", entered)
        self.assertEqual(dict(again.places), dict(WATT.places))  # type: ignore[attr-defined]
        self.assertEqual(replace(again, places=WATT.places), WATT)  # type: ignore[call-arg]


class TellsTheCar(unittest.TestCase):
    def test_measured_points_go_before_what_was_typed(self) -> None:
        car = car_of(WATT, "three_link")
        typed, told = numbers_from_parts(car, {}).rows, numbers_from_parts(car, FITTED)
        here = through(WATT.axle, np.zeros(1))
        self.assertEqual(typed["spring_base"][1], 1.0)
        self.assertNotIn("roll_centre_height", typed)
        self.assertAlmostEqual(told.rows["roll_centre_height"][1], here.roll_centre()[0], 9)
        self.assertEqual(told.rows["roll_centre_height"][0], 0.06)
        self.assertEqual(told.worked["roll_centre_height"], {1: "live_axle_points"})
        (_, ratio, _), _ = here.acting("spring")
        self.assertAlmostEqual(told.rows["motion_ratio"][2], ratio[0], 9)
        self.assertEqual(told.rows["motion_ratio"][0], 0.9)

    def test_springs_on_their_base_are_as_stiff_in_roll_as_the_linkage_makes_them(self) -> None:
        rows = numbers_from_parts(car_of(WATT, "three_link"), FITTED).rows
        here = through(WATT.axle, np.zeros(1))
        (_, _, left), (_, _, right) = here.acting("spring")
        rate = 40e3
        wide = float(np.ptp(here.at.contacts[0, :, 1]))
        by_figures = (
            rate * np.square(rows["motion_ratio"][2:]).mean() * rows["spring_base"][1] ** 2 / 2
        )
        by_linkage = rate * (left[0] ** 2 + right[0] ** 2) * wide**2 / 4
        self.assertAlmostEqual(by_figures / by_linkage, 1.0, 9)

    def test_the_slope_is_how_the_ratio_changes_through_travel(self) -> None:
        rows = numbers_from_parts(car_of(WATT, "three_link"), FITTED).rows
        near = through(WATT.axle, np.array([-0.002, 0.002])).acting("spring")[0][1]
        self.assertAlmostEqual(rows["motion_ratio_slope"][2], np.ptp(near) / 0.004, 4)

    def test_a_bracket_s_hole_goes_before_the_bolt_of_the_points(self) -> None:
        given = case("axle_in_space", 1)
        points = points_of(given)
        low = Bracket(((0.02, 0.16), (0.02, 0.20)), code="B")
        car = car_of(points, "three_link", low)
        setup = FITTED | {"bracket": [None, None, None, "B"], "lower_axle_hole": [1.0]}
        rows = numbers_from_parts(car, setup).rows
        self.assertEqual((rows["bolt_x"][3], rows["bolt_z"][3]), (0.02, 0.16))
        self.assertEqual(rows["bolt_x"][2], given["links"][1]["chassis_m"][0])
        values = {name: np.array(row) for name, row in rows.items() if None not in row}
        _, moved = swept_axles(car, setup, values)
        _, still = swept_axles(car, FITTED, {})
        assert moved is not None and still is not None
        self.assertNotEqual(moved, still)
        end = moved.axle.links[1].axle  # type: ignore[union-attr]
        np.testing.assert_allclose(end[[0, 2]], (0.02, 0.16))

    def test_a_torque_arm_in_motion_agrees_with_its_figures(self) -> None:
        arm = AxlePoints("torque_arm", places=DRIVEN_BY_ARM, code="A1")
        car = car_of(arm, "torque_arm")
        rows = numbers_from_parts(car, FITTED).rows
        given = {name: list(fact) for name, fact in FACTS.items()}
        worked = evaluate(given | rows).values
        _, rear = swept_axles(car, FITTED, worked)
        assert rear is not None
        told = {curve.name: curve.left[HALF - 1] for curve in rear.sweep("travel").curves}
        self.assertAlmostEqual(told["anti_squat"], float(worked["anti_squat"]), 6)
        self.assertAlmostEqual(told["roll_centre"], float(worked["track_bar_roll_centre"]), 6)
        self.assertIn("torque_arm", [stick.name for stick in rear.sweep("roll").sticks])

    def test_the_picture_has_the_watts_crank_and_its_bars(self) -> None:
        car = car_of(WATT, "three_link")
        _, rear = swept_axles(car, FITTED, {})
        assert rear is not None
        found = {stick.name: stick.points for stick in rear.sweep("roll").sticks}
        bar = found["watt_upper_bar"]
        long = np.linalg.norm(bar[:, 1] - bar[:, 0], axis=-1)
        np.testing.assert_allclose(long, long[0], rtol=1e-9)
        arm = np.linalg.norm(found["watt_crank"][:, 1] - found["watt_crank"][:, 0], axis=-1)
        np.testing.assert_allclose(arm, arm[0], rtol=1e-9)


MIRRORED: Named = tuple(
    (f"right_{name}", (x, -y, z))
    for name, (x, y, z) in WATT.places
    if name.startswith(("wheel_centre", "lower_", "spring_"))
)


def right_side(**moved: tuple[float, float, float]) -> AxlePoints:
    """The Watt's car, its right side measured apart: the mirror, but for what moved."""
    right = tuple((name, moved.get(name.removeprefix("right_"), at)) for name, at in MIRRORED)
    return replace(WATT, right="measured", places=(*WATT.places, *right))


class RightSideApart(unittest.TestCase):
    def test_measured_as_the_mirror_it_is_the_mirror(self) -> None:
        heave, roll = np.array([-0.02, 0.0, 0.03]), np.array([0.01, 0.0, -0.02])
        apart, mirror = (through(one.axle, heave, roll) for one in (right_side(), WATT))
        np.testing.assert_allclose(apart.roll_centre(), mirror.roll_centre(), atol=1e-12)
        np.testing.assert_allclose(apart.acting("spring")[1], mirror.acting("spring")[1])
        self.assertEqual(
            numbers_from_parts(car_of(right_side(), "three_link"), FITTED).rows,
            numbers_from_parts(car_of(WATT, "three_link"), FITTED).rows,
        )

    def test_links_that_are_no_pair_steer_the_axle_in_heave(self) -> None:
        x, y, z = dict(WATT.places)["lower_chassis"]
        uneven = right_side(lower_chassis=(x, -y, z + 0.04))
        heave = np.array([0.03])
        found = through(uneven.axle, heave)
        # a Watt's link steers it by no more than hundredths of a degree
        self.assertLess(abs(through(WATT.axle, heave).steer[0]), 1e-5)
        self.assertGreater(abs(found.steer[0]), 1e-4)
        kept = found.at.pose.at(uneven.axle.links[1].both()[1][1])
        fixed = uneven.axle.links[1].both()[1]
        self.assertAlmostEqual(
            float(np.linalg.norm(kept[0] - fixed[0])), float(np.linalg.norm(fixed[1] - fixed[0]))
        )
        told = numbers_from_parts(car_of(uneven, "three_link"), FITTED).rows
        self.assertAlmostEqual(told["arm_rise"][0] - told["arm_rise"][1], 0.04)

    def test_the_right_spring_has_its_own_ratio(self) -> None:
        x, y, z = dict(WATT.places)["spring_chassis"]
        told = numbers_from_parts(
            car_of(right_side(spring_chassis=(x, -y + 0.12, z)), "three_link"), FITTED
        )
        left, right = told.rows["motion_ratio"][2:]
        self.assertLess(right, left)

    def test_the_right_wheel_has_its_own_camber(self) -> None:
        for one in (replace(WATT, right_camber=-0.02), replace(right_side(), right_camber=-0.02)):
            camber = through(one.axle, np.zeros(1)).camber
            self.assertAlmostEqual(camber[1][0] - camber[0][0], -0.02 - WATT.camber)

    def test_a_hole_moves_both_sides(self) -> None:
        moved = right_side().with_bolts({3: (0.03, 0.21)})
        for _, axle in moved.links[1].both():
            np.testing.assert_allclose(axle[[0, 2]], (0.03, 0.21))

    def test_a_sheet_of_more_points_than_there_are_is_refused(self) -> None:
        table = next(field.table for field in part_kind("live_axle_points").fields if field.table)
        rows = [(0.0, 0.1, 0.2)] * (len(table.names) + 1)
        with self.assertRaisesRegex(CoreError, f"{len(table.names)} points at most"):
            table.build(rows)
        # one kept before the right side could be measured has fewer
        self.assertEqual(len(table.build(rows[:3])), 3)

    def test_what_lacks_and_a_wheel_on_the_wrong_side_are_pointed_at(self) -> None:
        with self.assertRaisesRegex(CoreError, "right lower link, axle end"):
            replace(right_side(), places=right_side().places[:-3])
        names = [row.id for row in right_side()._names()]
        with self.assertRaisesRegex(CoreError, "enter it with −") as caught:
            right_side(wheel_centre=dict(WATT.places)["wheel_centre"])
        self.assertEqual(caught.exception.place, f"{names.index('right_wheel_centre')}.0")


class CannotBe(unittest.TestCase):
    def refused(self, words: str, **other: Any) -> CoreError:
        with self.assertRaisesRegex(CoreError, words) as caught:
            replace(WATT, **other).check()
        return caught.exception

    def without(self, *names: str) -> Named:
        return tuple(place for place in WATT.places if place[0] not in names)

    def test_what_lacks_is_named_at_once_and_pointed_at(self) -> None:
        found = self.refused(
            "watt's crank, pivot; spring, axle end",
            places=self.without("watt_pivot", "spring_axle"),
        )
        self.assertEqual((found.number, found.place), ("places", "8.0"))

    def test_points_that_hold_no_axle(self) -> None:
        known = dict(WATT.places)
        one_place = (*self.without("lower_axle"), ("lower_axle", known["lower_chassis"]))
        self.refused("Both ends of the lower link are in one place", places=one_place)
        self.refused("four lengths hold it", sideways="links")
        at_pivot = (*self.without("watt_crank_upper"), ("watt_crank_upper", known["watt_pivot"]))
        self.refused("crank has no length", places=at_pivot)
        here = (*self.without("spring_axle"), ("spring_axle", known["spring_chassis"]))
        self.refused("Both ends of the spring are in one place", places=here)

    def test_points_of_another_layout_are_refused_on_the_slip(self) -> None:
        for layout, words in (
            ("parallel_four_link", "on four links .* points are of three links"),
            ("independent", "has no live axle points"),
        ):
            car = car_of(WATT, layout)
            with self.assertRaisesRegex(CoreError, words):
                check_setting(car, "live_axle_points", "car", "A1")
            self.assertNotIn(
                "live_axle_points",
                numbers_from_parts(car, FITTED).worked.get("bolt_x", {}).values(),
            )
        self.assertEqual(
            check_setting(car_of(WATT, "three_link"), "live_axle_points", "car", "A1"), "A1"
        )
