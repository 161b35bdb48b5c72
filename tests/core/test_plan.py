"""A plan of work: what it says is what working it afresh gives, and what cannot be is said."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.advise.plan import plan
from cabrio.core.advise.target_figures import after
from cabrio.core.advise.target_figures import now as told_now
from cabrio.core.advise.targets import Plans, Target, Touch
from cabrio.core.car import Given
from cabrio.core.car.lines import Line
from cabrio.core.catalog.parts import Ballast
from cabrio.core.errors import Impossible, Missing, Problems
from cabrio.core.knowledge import knowledge
from cabrio.core.record.recheck import rechecks
from cabrio.core.record.standing import invalidated_by
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.solve.preload import Bite

from .test_fuel import GRIP
from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

CIRCUIT, DRAG = sheet(circuit_car(), CIRCUIT_SETUP), sheet(drag_car(), DRAG_SETUP)


GRIPPED = sheet(
    replace(
        circuit_car(),
        given=circuit_car().given | {name: Given(tuple(values)) for name, values in GRIP.items()},
    ),
    CIRCUIT_SETUP,
)
BALANCE = Target("grip_balance", "car", 0.0, 0.05)


def now_of(of: Sheet, target: Target) -> float:
    found = told_now(of, target)
    assert found is not None
    return found


def now(of: Sheet, name: str, at: int = 0) -> float:
    return (of.value(name) or [])[at]


def aims(of: Sheet, *targets: tuple[str, str, float, float]) -> list[Target]:
    """Targets by how far from here: name, place, the change wanted, within."""
    places = {"car": 0, "front": 0, "rear": 1}
    return [
        Target(name, place, now(of, name, places[place]) + by, within)
        for name, place, by, within in targets
    ]


def springs_and_bars(**more: Any) -> Touch:
    return Touch(frozenset({"springs", "bars"}), **more)


class Search(unittest.TestCase):
    def check_worked_afresh(self, of: Sheet, found: Plans) -> None:
        for one in found.plans:
            after = try_lines(of, one.lines)
            for each in one.reached:
                array = after.worked.values[each.target.name].reshape(-1)
                at = {"car": 0, "front": 0, "rear": 1}[each.target.place]
                self.assertAlmostEqual(float(array[at]), each.after, 12)
            self.assertEqual(one.rechecks, tuple(rechecks(one.lines, of.car)))
            self.assertGreaterEqual(one.minutes, sum(each.minutes for each in one.rechecks))

    def test_three_targets_over_ten_thousand_setups(self) -> None:
        asked = aims(
            CIRCUIT,
            ("axle_frequency", "rear", -0.18, 0.05),
            ("lltd", "car", 0.02, 0.01),
            ("cross_share", "car", 0.0, 0.01),
        )
        found = plan(CIRCUIT, asked, springs_and_bars())
        self.assertGreater(found.count, 10_000)
        self.assertTrue(found.plans[0].met)
        self.check_worked_afresh(CIRCUIT, found)
        for one in found.plans[1:]:
            self.assertGreaterEqual(one.rank, found.plans[0].rank)

    def test_a_cross_is_met_without_perches_that_do_nothing_for_it(self) -> None:
        (asked,) = aims(CIRCUIT, ("cross_share", "car", 0.006, 0.001))
        found = plan(CIRCUIT, [asked], Touch(frozenset({"springs"})))
        best = found.plans[0]
        self.assertTrue(best.met)
        self.assertLess(best.steps, 12)  # a quarter turn each
        height = try_lines(CIRCUIT, best.lines).worked.values["ride_height"]
        self.assertLess(np.abs(height - CIRCUIT.worked.values["ride_height"]).max(), 0.001)
        stood = best.reached[0].before
        for one in found.plans:  # each is nearer by what can be seen
            self.assertGreater(abs(one.reached[0].after - stood), 0.0001)

    def test_a_height_far_away_is_reached_by_one_axle(self) -> None:
        (asked,) = aims(CIRCUIT, ("rake", "car", 0.014, 0.001))
        best = plan(CIRCUIT, [asked], Touch(frozenset({"springs"}))).plans[0]
        self.assertTrue(best.met)
        self.assertEqual({line.name for line in best.lines}, {"perch_turns"})
        self.assertEqual(len(best.lines), 2)

    def test_no_target_that_can_be_met_is_given_up_for_one_that_cannot(self) -> None:
        asked = aims(CIRCUIT, ("lltd", "car", 0.015, 0.005), ("axle_frequency", "front", 3.0, 0.05))
        found = plan(CIRCUIT, asked, springs_and_bars())
        self.assertEqual(found.plans[0].given_up, 0)
        self.assertTrue(found.plans[0].reached[0].met)
        self.assertFalse(found.plans[0].met)
        self.assertTrue(any("the nearest that was found is" in note for note in found.notes))

    def test_what_moves_besides_is_on_the_card(self) -> None:
        asked = aims(CIRCUIT, ("axle_frequency", "rear", -0.18, 0.05))
        best = plan(CIRCUIT, asked, Touch(frozenset({"springs"}))).plans[0]
        after = try_lines(CIRCUIT, best.lines)
        told = {one.name: one for one in best.besides}
        self.assertIn("lltd", told)  # softer rear springs move the balance, asked for or not
        self.assertAlmostEqual(told["lltd"].after, float(after.value("lltd") or 0.0))
        self.assertNotIn(("axle_frequency", "rear"), {(o.name, o.place) for o in best.besides})
        felt = [one.felt for one in best.besides]
        self.assertEqual(felt, sorted(felt, reverse=True))
        self.assertGreaterEqual(min(felt), 1.0)

    def test_the_best_of_a_few_is_the_best_of_trying_them_all(self) -> None:
        (asked,) = aims(CIRCUIT, ("lltd", "car", 0.012, 0.0005))
        found = plan(CIRCUIT, [asked], Touch(frozenset({"bars"})))
        every = []
        for front in range(1, 6):
            for rear in range(1, 6):
                for blade in np.arange(0.0, 1.01, 0.1):
                    lines = [
                        Line("bar_hole", "front", CIRCUIT.setup["bar_hole"][0], float(front)),
                        Line("bar_hole", "rear", CIRCUIT.setup["bar_hole"][1], float(rear)),
                        Line("blade_position", "rear", CIRCUIT.setup["blade_position"][1], blade),
                    ]
                    try:
                        tried = try_lines(CIRCUIT, [line for line in lines if line.old != line.new])
                    except Exception:
                        continue
                    value = tried.value("lltd")
                    if value is not None:
                        every.append(abs(float(value) - asked.wanted) / asked.within)
        self.assertLessEqual(min(one.off for one in found.plans), min(every) + 0.3)
        self.check_worked_afresh(CIRCUIT, found)

    def test_what_is_met_already_needs_no_work(self) -> None:
        found = plan(CIRCUIT, aims(CIRCUIT, ("lltd", "car", 0.001, 0.005)), springs_and_bars())
        self.assertEqual(found.plans, ())
        self.assertIn("there already", found.notes[0])

    def test_only_what_may_be_touched_is_touched(self) -> None:
        asked = aims(CIRCUIT, ("lltd", "car", 0.02, 0.01))
        for touch in (
            Touch(frozenset({"bars"})),
            springs_and_bars(spare=frozenset({"alignment"})),
            springs_and_bars(minutes=30),
        ):
            found = plan(CIRCUIT, asked, touch)
            self.assertTrue(found.plans)
            for one in found.plans:
                self.assertFalse(touch.spare & set(invalidated_by(one.lines, ())))
                if touch.minutes:
                    self.assertLessEqual(one.minutes, touch.minutes)
                if touch.systems == {"bars"}:
                    self.assertLessEqual(one.touches, {"bar_hole", "blade_position"})

    def test_a_set_up_that_somebody_else_chose_is_found_from_its_figures(self) -> None:
        car = replace(DRAG, bite=Bite(12.0, 0.0, 0.5, 1.0, 3), _kept={})
        hidden = try_lines(
            car,
            [
                Line("lower_link_hole", "car", car.setup["lower_link_hole"][0], 3.0),
                Line("link_preload", "car", car.setup["link_preload"][0], 1.5),
            ],
        )
        asked = [
            Target(name, "car", float(hidden.worked.values[name]), within)
            for name, within in (("rear_bite", 1.0), ("anti_squat", 0.01))
        ]
        found = plan(car, asked, Touch(frozenset({"links"})))
        self.assertTrue(found.plans[0].met)
        self.assertEqual(found.plans[0].touches, {"lower_link_hole", "link_preload"})
        for one in found.plans:
            after = try_lines(car, one.lines)
            for each in one.reached:
                self.assertAlmostEqual(float(after.worked.values[each.target.name]), each.after, 12)

    def test_no_step_is_left_out_where_everything_may_be_touched(self) -> None:
        clicks = CIRCUIT.setup["rebound_clicks"][0]
        codes = CIRCUIT.setup["spring"]
        hidden = try_lines(
            CIRCUIT,
            [
                *(Line("spring", place, codes[2], "70/200") for place in ("LR", "RR")),
                Line("bar_hole", "front", CIRCUIT.setup["bar_hole"][0], 1.0),
                *(Line("rebound_clicks", place, clicks, clicks - 3) for place in ("LF", "RF")),
            ],
        )
        asked = []
        for name, place, at, within in (
            ("axle_frequency", "rear", 1, 0.02),
            ("lltd", "car", 0, 0.003),
            ("rebound_ratio_low", "LF", 0, 0.02),
            ("rebound_ratio_low", "RF", 1, 0.02),
            ("axle_height", "rear", 1, 0.006),
        ):
            value = float(hidden.worked.values[name].reshape(-1)[at])
            asked.append(Target(name, place, value, within))
        every = frozenset(knowledge().systems)
        found = plan(CIRCUIT, asked, Touch(every))
        self.assertTrue(found.plans[0].met)
        self.assertGreater(found.count, 5_000)


class Loaded(unittest.TestCase):
    """Targets that only the loaded car tells, and the weights that ballast moves."""

    def test_a_grip_balance_that_a_bar_gives_is_found_with_a_frequency_held(self) -> None:
        hole = GRIPPED.setup["bar_hole"][0]
        hidden = try_lines(GRIPPED, [Line("bar_hole", "front", hole, hole + 2)])
        here = now_of(GRIPPED, BALANCE)
        wanted = after(GRIPPED, hidden, BALANCE)
        assert wanted is not None
        self.assertGreater(abs(wanted - here), 0.1)
        asked = [
            replace(BALANCE, wanted=wanted),
            *aims(GRIPPED, ("axle_frequency", "front", 0.0, 0.02)),
        ]
        found = plan(GRIPPED, asked, springs_and_bars())
        self.assertTrue(found.plans[0].met)
        for one in found.plans:
            told = after(GRIPPED, try_lines(GRIPPED, one.lines), BALANCE)
            self.assertAlmostEqual(told or 0.0, one.reached[0].after, 9)
            self.assertAlmostEqual(one.reached[0].before, here, 12)

    def test_a_balance_without_the_tyres_grip_says_what_it_needs(self) -> None:
        with self.assertRaises(Problems) as caught:
            plan(CIRCUIT, [BALANCE], springs_and_bars())
        self.assertIn("grip", caught.exception.problems[0].sentence)

    def test_ballast_on_the_shelf_brings_a_front_share(self) -> None:
        pieces = (
            Ballast(mass, behind, code=code)
            for code, mass, behind in (("L5", 5.0, -0.2), ("L10", 10.0, -0.2), ("L20", 20.0, 2.4))
        )
        stock = replace(CIRCUIT.car, parts=replace(CIRCUIT.car.parts, ballast=tuple(pieces)))
        car = sheet(stock, CIRCUIT_SETUP)
        bolted = try_lines(car, [Line("ballast", "ballast 1", None, "L10")])
        aim = Target("front_share", "car", float(bolted.worked.values["front_share"]), 0.0002)
        found = plan(car, [aim], Touch(frozenset({"mass"})))
        self.assertEqual(found.count, 8)
        self.assertEqual([line.new for line in found.plans[0].lines], ["L10"])
        self.assertTrue(found.plans[0].met)


class Refusals(unittest.TestCase):
    def test_two_targets_that_exclude_each_other_are_named(self) -> None:
        here = now(CIRCUIT, "bar_wheel_rate", 1)
        asked = [
            *aims(CIRCUIT, ("lltd", "car", -0.02, 0.004)),
            Target("bar_wheel_rate", "rear", here * 0.5, here * 0.05),
        ]
        found = plan(CIRCUIT, asked, Touch(frozenset({"bars"})))
        self.assertFalse(any(one.met for one in found.plans))
        self.assertRegex(" ".join(found.notes), "exclude each other|nearest that was found is")

    def test_a_target_out_of_reach_is_told_with_the_nearest(self) -> None:
        found = plan(
            CIRCUIT, aims(CIRCUIT, ("axle_frequency", "front", 3.0, 0.05)), springs_and_bars()
        )
        self.assertIn("Axle frequency, front: the nearest that was found is", found.notes[-1])

    def test_nothing_to_move_and_nothing_asked(self) -> None:
        asked = aims(CIRCUIT, ("lltd", "car", 0.02, 0.005))
        with self.assertRaisesRegex(Impossible, "add parts to the inventory"):
            plan(CIRCUIT, asked, Touch(frozenset({"alignment"})))
        with self.assertRaisesRegex(Impossible, "in 1 minutes"):
            plan(CIRCUIT, asked, springs_and_bars(minutes=1))
        with self.assertRaisesRegex(Missing, "Say what is wanted"):
            plan(CIRCUIT, [], springs_and_bars())
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP)
        with self.assertRaisesRegex(Problems, "not known yet"):
            plan(bare, [Target("lltd", "car", 0.5, 0.005)], springs_and_bars())
