"""What a setting can be: offered exactly as far as the checks of a slip let it go."""

import unittest
from dataclasses import replace

from cabrio.core.car import Adjuster, Car, Setup
from cabrio.core.car.choices import Choices, choices
from cabrio.core.car.settings import check_free, check_setting
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.catalog.parts import Adjustment, Bar, Damper
from cabrio.core.errors import CoreError

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car


def allowed(car: Car, setup: Setup, name: str, place: str, value: object) -> bool:
    try:
        check_free(car, setup, name, place, check_setting(car, name, place, value))
    except CoreError:
        return False
    return True


def at(car: Car, setup: Setup, name: str, place: str) -> Choices:
    return choices(car, setup)[name][place]


class Offered(unittest.TestCase):
    def test_the_ends_of_every_range_are_allowed_and_a_step_beyond_is_not(self) -> None:
        tried = 0
        for car, setup in ((circuit_car(), CIRCUIT_SETUP), (drag_car(), DRAG_SETUP)):
            for name, places in choices(car, setup).items():
                for place, one in places.items():
                    if one.blocked or one.low is None:
                        continue
                    assert one.high is not None and one.step is not None and one.start is not None
                    with self.subTest(name=name, place=place):
                        for value in (one.low, one.high, one.start):
                            self.assertTrue(allowed(car, setup, name, place, value), value)
                        for value in (one.low - one.step, one.high + one.step):
                            self.assertFalse(allowed(car, setup, name, place, value), value)
                    tried += 1
        self.assertGreater(tried, 20)

    def test_every_part_offered_is_allowed_and_every_other_is_not(self) -> None:
        car = circuit_car()
        for kind in part_kinds().values():
            for place, one in choices(car, CIRCUIT_SETUP).get(kind.name, {}).items():
                offered = {option.value for option in one.options}
                stock = {each.code for each in car.parts.of(kind.name)} | {"none"}
                for code in stock:
                    with self.subTest(kind=kind.name, place=place, code=code):
                        self.assertEqual(
                            allowed(car, CIRCUIT_SETUP, kind.name, place, code), code in offered
                        )


class Here(unittest.TestCase):
    def test_no_further_than_the_part_that_is_fitted(self) -> None:
        rear = circuit_car().parts.of("bar")[1]
        assert isinstance(rear, Bar)
        car = circuit_car(bar={"front": Bar(0.025, 0.9, (0.24, 0.22), 0.6), "rear": rear})
        one = at(car, CIRCUIT_SETUP, "bar_hole", "front")
        self.assertEqual((one.low, one.high, one.step), (1.0, 2.0, 1.0))

    def test_where_adjuster_and_part_have_nothing_in_common_it_is_said(self) -> None:
        car = circuit_car()
        far = replace(car, adjusters=car.adjusters | {"bar_hole": Adjuster(6, 9)})
        self.assertIn("correct either one", at(far, CIRCUIT_SETUP, "bar_hole", "front").blocked)
        self.assertEqual(at(car, CIRCUIT_SETUP, "bar_hole", "front").blocked, "")

    def test_a_dead_knob_says_so_where_it_is_fitted(self) -> None:
        dead = Damper(rebound=Adjustment(20, "from_closed", dead_at=7))
        car = circuit_car(damper={"LF": dead})
        self.assertIn("no longer turns", at(car, CIRCUIT_SETUP, "rebound_clicks", "LF").blocked)
        self.assertEqual(at(car, CIRCUIT_SETUP, "rebound_clicks", "RF").blocked, "")

    def test_a_setting_nobody_made_starts_at_nothing_or_lowest(self) -> None:
        car = circuit_car()
        wide = replace(car, adjusters=car.adjusters | {"perch_turns": Adjuster(-2, 3)})
        raised = replace(car, adjusters=car.adjusters | {"perch_turns": Adjuster(0.5, 3)})
        self.assertEqual(at(wide, CIRCUIT_SETUP, "perch_turns", "LF").start, 0.0)
        self.assertEqual(at(raised, CIRCUIT_SETUP, "perch_turns", "LF").start, 0.5)

    def test_clicks_say_from_which_end_they_are_counted(self) -> None:
        car = circuit_car()
        for counted, unit in (("from_open", "from open"), ("from_closed", "out")):
            counting = replace(
                car,
                adjusters=car.adjusters | {"rebound_clicks": Adjuster(0, 20, counted)},  # type: ignore[arg-type]
            )
            self.assertEqual(at(counting, CIRCUIT_SETUP, "rebound_clicks", "LF").unit, unit)

    def test_springs_stand_softest_first_in_the_units_of_the_car(self) -> None:
        car = circuit_car()
        one = at(car, CIRCUIT_SETUP, "spring", "LF")
        rates = [float(option.shown) for option in one.options]
        self.assertEqual(rates, sorted(rates))
        self.assertEqual(one.unit, "N/mm")
        self.assertIn(f" N/mm, {one.options[0].value}", one.options[0].words)
        imperial = at(replace(car, profile="imperial"), CIRCUIT_SETUP, "spring", "LF")
        self.assertEqual(imperial.unit, "lbf/in")
