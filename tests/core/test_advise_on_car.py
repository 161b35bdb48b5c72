"""Advice on the car in hand: which way a change goes there, and whether it is one at all."""

import unittest
from dataclasses import replace
from typing import Any
from unittest.mock import patch

from cabrio.core.advise.advise import advise
from cabrio.core.advise.candidate import Question
from cabrio.core.car import Given, Line
from cabrio.core.car.settings import check_free
from cabrio.core.catalog.parts import Bar
from cabrio.core.constants import DEGREE
from cabrio.core.errors import Impossible, OutOfRange
from cabrio.core.knowledge import knowledge
from cabrio.core.knowledge.rules import Shows
from cabrio.core.sheet.limits import refuse_what_it_breaks
from cabrio.core.sheet.what_if import try_lines

from .test_advise import CIRCUIT, DRAG, of
from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet


class OnThisCar(unittest.TestCase):
    """The car itself decides which way a change goes, and whether it is one."""

    def bar(self, arms: tuple[float, ...], hole: float) -> Any:
        rear = circuit_car().parts.of("bar")[1]
        assert isinstance(rear, Bar)
        car = circuit_car(bar={"front": Bar(0.025, 0.9, arms, 0.6), "rear": rear})
        return sheet(car, CIRCUIT_SETUP | {"bar_hole": [hole, 3.0]})

    def test_holes_numbered_from_the_far_end(self) -> None:
        here = self.bar((0.24, 0.22, 0.2, 0.18), 2.0)
        one = of(advise(here, Question("understeer", "mid-corner")), "bar_hole", "front")
        self.assertEqual((one.lines[0].old, one.lines[0].new), (2.0, 1.0))
        lltd = next(effect for effect in one.effects if effect.name == "lltd")
        self.assertLess(lltd.after, lltd.before)

    def test_a_hole_the_bar_has_not(self) -> None:
        here = self.bar((0.18, 0.2), 2.0)  # the adjuster goes to 4, this bar to 2
        found = advise(here, Question("understeer", "mid-corner"))
        front = next(one for one in found if one.label.startswith("Bar hole, front"))
        self.assertIn("goes from 1 to 2 on this part: there is none softer", front.refused or "")
        with self.assertRaisesRegex(OutOfRange, "bar hole goes from 1 to 2, not to 4"):
            check_free(here.car, here.setup, "bar_hole", "front", 4.0)
        check_free(here.car, here.setup, "bar_hole", "front", 1.0)

    def test_a_change_that_goes_against_its_rule_is_refused(self) -> None:
        rule = next(
            rule for rule in knowledge().work.rules if rule.change == "bar_hole front softer"
        )
        against = replace(rule, shows=(Shows("lltd", "up"), Shows("roll_gradient")))
        with patch.dict(vars(knowledge().work), rules_by_symptom={"understeer": (against,)}):
            (one,) = advise(CIRCUIT, Question("understeer", "mid-corner"))
        self.assertIn("the other way", one.refused or "")

    def test_a_dead_hook_on_a_car_that_separates_wants_more_extension_damping(self) -> None:
        separation = DRAG.value("rear_separation")
        assert separation is not None
        self.assertGreater(separation[0], 0)
        found = advise(DRAG, Question("dead_hook", "hit"))
        rebound = of(found, "rebound_clicks", "LR")
        self.assertGreater(rebound.effects[0].after, rebound.effects[0].before)
        squat = next(one for one in found if one.label.startswith("Compression"))
        self.assertIn("below", squat.refused or "")
        bare = sheet(drag_car(given={}), DRAG_SETUP)
        unknown = [one.refused or "" for one in advise(bare, Question("dead_hook", "hit"))]
        self.assertTrue(any("which is not known" in said for said in unknown))

    def test_toe_goes_to_zero_and_not_past_it(self) -> None:
        toe = 0.02 * DEGREE
        here = sheet(drag_car(), DRAG_SETUP | {"toe": [toe, toe, 0.0, 0.0]})
        one = of(advise(here, Question("wanders", "mid-track")), "toe")
        self.assertEqual([line.new for line in one.lines], [0.0, 0.0])
        found = advise(DRAG, Question("wanders", "mid-track"))
        self.assertTrue(any("at zero already" in (one.refused or "") for one in found))

    def test_the_steps_that_are_left_are_offered(self) -> None:
        near = sheet(circuit_car(), CIRCUIT_SETUP | {"rebound_clicks": [19.0] * 4})
        one = of(advise(near, Question("understeer", "exit")), "rebound_clicks", "LF")
        self.assertEqual(one.lines[0].new, 20.0)
        self.assertIn("Only 1 of 2 steps are left.", one.warnings)

    def test_a_limit_crossed_by_a_hair_is_said_and_one_made_worse_refused(self) -> None:
        trial = try_lines(CIRCUIT, [Line("bar_hole", "front", 2.0, 3.0)])
        for before, after, refused in (
            (0.001, -0.0002, False),
            (0.001, -0.002, True),
            (-0.003, -0.0032, False),
            (-0.003, -0.006, True),
            (-0.003, -0.001, None),
        ):

            def moves(
                _: Any, __: Any, name: str, place: str, was: float = before, then: float = after
            ) -> tuple[float | None, float | None]:
                return (was, then) if (name, place) == ("bind_margin", "LF") else (None, None)

            with (
                self.subTest(f"{before} to {after}"),
                patch("cabrio.core.sheet.limits.moved_by", moves),
            ):
                if refused:
                    with self.assertRaisesRegex(Impossible, "coils would touch"):
                        refuse_what_it_breaks(CIRCUIT, trial)
                else:
                    said = refuse_what_it_breaks(CIRCUIT, trial)
                    self.assertEqual(len(said), 0 if refused is None else 1)

    def test_camber_shows_what_it_becomes(self) -> None:
        one = of(advise(CIRCUIT, Question("understeer", "mid-corner")), "camber", "LF")
        self.assertLess(one.effects[0].after, one.effects[0].before)

    def test_brake_bias_moves_by_points_and_never_past_equal_grip(self) -> None:
        asked = Question("oversteer", "braking")
        less = of(advise(CIRCUIT, asked), "rear_brake_share")
        self.assertAlmostEqual(less.lines[0].new, 0.38)
        self.assertLess(less.effects[0].after, less.effects[0].before)
        at_the_edge = circuit_car().given | {"rear_brake_share": Given((0.49,))}
        near = sheet(replace(circuit_car(), given=at_the_edge), CIRCUIT_SETUP)
        off = near.value("brake_share_off")
        assert off is not None
        self.assertTrue(-0.02 < off[0] < 0)
        for here, refused in ((near, True), (CIRCUIT, False)):
            more = next(
                one
                for one in advise(here, Question("understeer", "braking"))
                if one.label.startswith("Rear brake share")
            )
            self.assertEqual(
                (more.refused or "").startswith("The rear would lock before the front"), refused
            )

    def test_rules_know_the_driven_axle(self) -> None:
        front = sheet(circuit_car(driven="front"), CIRCUIT_SETUP)
        said = {
            driven: [one.reason for one in advise(here, Question("understeer", "turn-in"))]
            for driven, here in (("rear", CIRCUIT), ("front", front))
        }
        self.assertTrue(any("Driven at the front" in one for one in said["front"]))
        self.assertFalse(any("Driven at the front" in one for one in said["rear"]))
        self.assertTrue(any("Less preload" in one for one in said["rear"]))
        self.assertFalse(any("Less preload" in one for one in said["front"]))
