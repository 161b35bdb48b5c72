"""Suspension from its points: a second way for the rates, what mirrors what, and what cannot be."""

from __future__ import annotations

import json
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from cabrio.cases.topics import points as topics
from cabrio.cases.units import in_si
from cabrio.core.car import Car as CoreCar
from cabrio.core.car.geometry import swept_axles
from cabrio.core.errors import CoreError, Impossible, Missing
from cabrio.core.geometry.four_bar import instant_centre, move
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.kinematics import axle_through, live_axle
from cabrio.core.kinematics.adjust import adjustments
from cabrio.core.kinematics.axle import Axle, Car, effect, through
from cabrio.core.kinematics.corner import Changed, States
from cabrio.core.kinematics.picture import HALF
from cabrio.core.kinematics.readout import Readout, read_out
from cabrio.core.kinematics.side import Acting, Side, Wheel
from cabrio.core.kinematics.steering import steered
from cabrio.core.kinematics.sweep import sweep

CASES = Path(__file__).parent / "cases"
STEP = 1e-5


def case(topic: str, at: int = 0) -> dict[str, Any]:
    told = json.loads((CASES / f"{topic}.json").read_text())["cases"][at]["given"]
    found: dict[str, Any] = in_si(told)
    return found


def side(topic: str, at: int = 0) -> Side:
    return topics._side(topic, case(topic, at)["left"], right=False)


SIDES = {
    "push rod and rocker": side("double_wishbone"),
    "coil-over on the lower arm": side("double_wishbone", 2),
    "strut": side("strut"),
    "semi-trailing arm": side("trailing_arm"),
}


def states(heave: list[float], roll: float = 0.0, rack: float = 0.0) -> States:
    at = np.array(heave)
    return States(at, np.full_like(at, roll), np.full_like(at, rack))


class VelocitiesAgainstPositions(unittest.TestCase):
    """Rates come from the body's motion; here they are differences of closed positions."""

    def test_gains_and_ratios_are_slopes_over_travel(self) -> None:
        for name, side in SIDES.items():
            for at in (-0.02, 0.0, 0.025):
                low, here, high = (read_out(side, states([at + by])) for by in (-STEP, 0.0, STEP))
                with self.subTest(f"{name} at {at}"):
                    self._compare(low, here, high)

    def _compare(self, low: Readout, here: Readout, high: Readout) -> None:
        def slope(of: Any) -> float:
            return float((of(high) - of(low))[0] / (2 * STEP))

        self.assertAlmostEqual(slope(lambda r: r.camber), here.camber_gain[0], 6)
        self.assertAlmostEqual(slope(lambda r: r.toe), here.bump_steer[0], 6)
        for acting in here.acting:
            travel = slope(lambda r, a=acting: r.acting[a].travel)
            self.assertAlmostEqual(travel, here.acting[acting].ratio[0], 6)
            rising = slope(lambda r, a=acting: r.acting[a].ratio)
            self.assertAlmostEqual(rising, here.acting[acting].slope[0], 5)
        if here.bar is not None:
            turn = slope(lambda r: r.bar.turn)
            self.assertAlmostEqual(turn * here.bar.arm, here.bar.ratio[0], 6)

    def test_steer_per_rack_is_the_slope_over_the_rack(self) -> None:
        for name in ("push rod and rocker", "strut"):
            low, here, high = (
                read_out(SIDES[name], states([0.0], rack=by)) for by in (-STEP, 0.0, STEP)
            )
            slope = (high.toe - low.toe)[0] / (2 * STEP)
            self.assertAlmostEqual(slope, here.toe_per_rack[0], 5)

    def test_every_link_keeps_its_length(self) -> None:
        moved = read_out(SIDES["push rod and rocker"], states([0.03], roll=0.02, rack=0.01))
        corner = moved.corner
        for _, inner, outer in corner.side.layout.links:
            long = np.linalg.norm(corner.upright(outer) - corner.chassis(inner))
            fixed = np.linalg.norm(corner.side.points[outer] - corner.side.points[inner])
            self.assertAlmostEqual(long, fixed, 11)
        self.assertAlmostEqual(corner.states.ground.height(corner.contact)[0], 0.0, 11)

    def test_a_side_force_is_borne_by_the_links_as_virtual_work_says(self) -> None:
        """The line's height is where a side force neither lifts nor drops the patch."""
        for name, side in SIDES.items():
            found = read_out(side, states([0.0]))
            out, up = found.front_view_ic
            if np.isnan(out[0]):
                continue
            by_lines = up[0] * found.half_track[0] / (found.half_track[0] - out[0])
            with self.subTest(name):
                self.assertAlmostEqual(by_lines, found.line_height[0], 9)


class BothSides(unittest.TestCase):
    def test_a_mirrored_side_is_the_other_one_in_the_other_roll(self) -> None:
        axle = Axle(SIDES["strut"])
        lean = through(axle, np.zeros(1), np.array([0.03]))
        back = through(axle, np.zeros(1), np.array([-0.03]))
        self.assertAlmostEqual(lean.left.camber[0], back.right.camber[0], 12)
        self.assertAlmostEqual(lean.right.toe[0], back.left.toe[0], 12)
        self.assertAlmostEqual(lean.jacking()[0], -back.jacking()[0], 12)

    def test_left_and_right_lock_are_mirrors(self) -> None:
        found = steered(Axle(SIDES["strut"]), 2.6, np.array([-0.03, 0.03]))
        self.assertAlmostEqual(found.steer[0][0], -found.steer[1][1], 12)
        self.assertAlmostEqual(found.ackermann[0], found.ackermann[1], 9)

    def test_a_change_taken_back_leaves_nothing(self) -> None:
        one = SIDES["coil-over on the lower arm"]
        there = effect(one, Changed({}, {"tie_rod": 0.001})).toe
        back = effect(one, Changed({}, {"tie_rod": -0.001})).toe
        self.assertAlmostEqual(there, -back, 5)
        self.assertEqual(effect(one, Changed({}, {})).toe, 0.0)

    def test_what_one_turn_does_names_every_place_the_layout_has(self) -> None:
        labels = {name: len(adjustments(side)) for name, side in SIDES.items()}
        self.assertEqual(
            labels,
            {
                "push rod and rocker": 12,
                "coil-over on the lower arm": 12,
                "strut": 9,
                "semi-trailing arm": 4,
            },
        )
        turned = [
            adjustment for adjustment in adjustments(SIDES["strut"], 0.00125) if adjustment.turned
        ]
        self.assertEqual({one.by for one in turned}, {0.00125})

    def test_a_sweep_stops_where_the_links_do(self) -> None:
        found = sweep(Axle(SIDES["push rod and rocker"]), "travel", low=-0.5, high=0.5)
        self.assertTrue(found.short)
        self.assertLess(found.at[-1], 0.5)
        self.assertEqual(
            {curve.name for curve in found.curves} & {"camber", "spring_ratio"},
            {"camber", "spring_ratio"},
        )
        with self.assertRaises(Missing):
            sweep(Axle(SIDES["strut"]), "rack")
        steer = sweep(Axle(SIDES["strut"]), "rack", car=Car(2.6, 0.4))
        self.assertEqual(steer.curves[0].name, "steer")


class LiveAxle(unittest.TestCase):
    def axle(self, at: int = 1) -> live_axle.LiveAxle:
        cap: list[live_axle.LiveAxle] = []
        asked = axle_through.through

        def keep(one: live_axle.LiveAxle, *rest: Any) -> Any:
            cap.append(one)
            return asked(one, *rest)

        axle_through.through = keep
        try:
            topics.axle_in_space(case("axle_in_space", at))
        finally:
            axle_through.through = asked
        return cap[0]

    def test_in_the_side_view_it_is_the_four_bar(self) -> None:
        """Bars all in line with the car: the pose and the instant centre of the plane's own chain."""
        wheel = Wheel(np.array([0.0, 0.75, 0.33]), 0.0, 0.0)
        bolts_x, bolts_z = np.array([0.4, 0.02, 0.55, 0.0]), np.array([0.39, 0.45, 0.2, 0.18])

        def bar(name: str, a: int, b: int) -> live_axle.Link:
            ends = [np.array([bolts_x[i], 0.44, bolts_z[i]]) for i in (a, b)]
            return live_axle.Link(name, *ends, mirror=True)

        track = live_axle.Link(
            "track bar", np.array([-0.1, 0.45, 0.33]), np.array([-0.1, -0.45, 0.33])
        )
        axle = live_axle.LiveAxle(wheel, [bar("upper", 0, 1), bar("lower", 2, 3)], track_bar=track)
        found = axle_through.through(axle, np.array([0.0, 0.03]))
        plane = move(bolts_x, bolts_z, np.array(0.33), np.array([0.0, 0.03]))
        np.testing.assert_allclose(found.housing, plane.turn, atol=2e-5)
        np.testing.assert_allclose(found.forward, plane.shift, atol=2e-5)
        x, z, w = instant_centre(bolts_x, bolts_z)
        np.testing.assert_allclose(found.side_view_ic()[0][0], x / w, rtol=1e-6)
        np.testing.assert_allclose(found.side_view_ic()[1][0], z / w, rtol=1e-6)

    def test_a_track_bar_gives_the_height_where_it_crosses_the_centre(self) -> None:
        axle = self.axle()
        bar = axle.track_bar
        assert bar is not None
        (_, y1, z1), (_, y2, z2) = bar.chassis, bar.axle
        level = z1 + (z2 - z1) * y1 / (y1 - y2)
        found = axle_through.through(axle, np.zeros(1))
        # splayed lower bars take a small part of the side force
        self.assertAlmostEqual(found.roll_centre()[0], level, 2)

    def test_the_cars_bars_give_what_its_figures_say(self) -> None:
        """The axle in space against the side view and the roll axis of the same numbers."""
        spot = {
            "wheelbase": [2.7],
            "cg_height": [0.5],
            "rear_drive_share": [1.0],
            "track": [1.5, 1.48],
            "loaded_radius": [0.31, 0.34],
            "bolt_x": [0.37, 0.04, 0.69, 0.0],
            "bolt_y": [0.40, 0.09, 0.44, 0.46],
            "bolt_z": [0.36, 0.41, 0.21, 0.19],
        }
        worked = evaluate(spot).values  # type: ignore[arg-type]
        car = CoreCar("", "", "drag", "", rear_layout="triangulated_four_link")
        _, rear = swept_axles(car, {}, worked)
        assert rear is not None
        found = rear.sweep("travel")
        told = {curve.name: curve.left[HALF - 1] for curve in found.curves}
        self.assertAlmostEqual(told["anti_squat"], float(worked["anti_squat"]), 6)
        self.assertAlmostEqual(told["roll_centre"], float(worked["arms_roll_centre"]), 6)
        self.assertAlmostEqual(told["ic_ahead"], float(worked["ic_x"]), 5)
        slope = float(worked["arms_roll_axis_slope"])
        self.assertAlmostEqual(told["roll_steer"], -slope, 5)
        lean = {curve.name: curve.left for curve in rear.sweep("roll").curves}
        np.testing.assert_allclose(lean["steer"], -lean["steer"][::-1], atol=1e-12)
        with self.assertRaisesRegex(Impossible, "no rack"):
            rear.sweep("rack")

    def test_links_that_do_not_hold_it_are_refused(self) -> None:
        axle = self.axle()
        with self.assertRaisesRegex(Impossible, "do not locate"):
            replace(axle, track_bar=None)
        with self.assertRaisesRegex(Impossible, "not both"):
            watt = live_axle.Watt(
                np.array([-0.1, 0, 0.3]),
                (np.array([-0.1, 0, 0.36]), np.array([-0.1, 0, 0.24])),
                (np.array([-0.1, 0.4, 0.36]), np.array([-0.1, -0.4, 0.24])),
            )
            replace(axle, watt=watt)

    def test_five_links_out_of_true_bind(self) -> None:
        axle = self.axle(3)
        self.assertLess(np.abs(axle_through.through(axle, np.zeros(1)).misfit).max(), 1e-9)
        with self.assertRaisesRegex(Impossible, "binds"):
            axle_through.through(axle, np.zeros(1), np.array([0.3]))


class CannotBe(unittest.TestCase):
    def refused(self, words: str, **other: Any) -> None:
        one = SIDES["push rod and rocker"]
        points = dict(one.points) | other.pop("points", {})
        with self.assertRaisesRegex(CoreError, words):
            read_out(replace(one, points=points, **other), states([0.0]))

    def test_points_that_contradict_are_refused_by_name(self) -> None:
        one = SIDES["push rod and rocker"]
        wheel, rocker = one.wheel, one.rocker
        assert rocker is not None
        self.refused("Camber and toe", wheel=replace(wheel, camber=0.9))
        self.refused("own side", wheel=replace(wheel, centre=np.array([0.0, -0.6, 0.3])))
        self.refused("finite", points={"upper_ball": np.array([0.0, np.nan, 0.4])})
        self.refused(
            "above the lower ball", points={"upper_ball": one.points["lower_ball"] - [0, 0, 0.1]}
        )
        low, high = one.points["lower_ball"], one.points["upper_ball"]
        self.refused("kingpin line", points={"tie_rod_outer": (low + high) / 2})
        self.refused("moved by itself", rocker=replace(rocker, rod_on="rocker"))
        self.refused("rocker's axis", rocker=replace(rocker, rod_rocker=rocker.pivot))
        self.refused("not measured", rocker=None)
        self.refused("no suspension called", kind="swing_axle")
        self.refused("has no arm", spring=Acting("arm", low, high), rocker=None, bar=None)
        mid = (one.points["upper_front"] + one.points["upper_rear"]) / 2
        self.refused("no length", points={"upper_ball": mid})
        with self.assertRaises(Missing):
            replace(one, points={})

    def test_a_wheel_that_cannot_rise_is_refused(self) -> None:
        one = SIDES["semi-trailing arm"]
        patch = read_out(one, states([0.0])).corner.contact[0]
        ahead = np.array([0.3, 0.0, 0.0])
        # hinged on a line through its own contact with the ground
        line = {"pivot_inner": patch + ahead, "pivot_outer": patch - ahead}
        with self.assertRaisesRegex(Impossible, "do not let it rise"):
            read_out(replace(one, points=line), states([0.0]))

    def test_no_rack_on_a_trailing_arm_and_no_share_beyond_one(self) -> None:
        axle = Axle(SIDES["semi-trailing arm"], front=False)
        with self.assertRaisesRegex(Impossible, "no rack"):
            through(axle, np.zeros(1), np.zeros(1), np.array([0.01]))
        with self.assertRaisesRegex(CoreError, "from 0 to 1"):
            through(axle, np.zeros(1)).roll_centre(1.2)
        with self.assertRaisesRegex(Impossible, "one kind"):
            Axle(SIDES["strut"], SIDES["semi-trailing arm"])

    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.floats(-0.03, 0.03), min_size=24, max_size=24))
    def test_points_moved_anyhow_are_answered_in_numbers_or_refused(self, by: list[float]) -> None:
        one = SIDES["coil-over on the lower arm"]
        moves = np.array(by).reshape(8, 3)
        points = {
            name: point + move
            for (name, point), move in zip(one.points.items(), moves, strict=True)
        }
        try:
            found = read_out(replace(one, points=points), states([0.0, 0.02], roll=0.01))
        except CoreError:
            return
        for answer in (found.camber, found.toe, found.bump_steer, found.acting["spring"].slope):
            self.assertTrue(np.isfinite(answer).all())
