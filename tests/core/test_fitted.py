"""What the parts in use bring with them, and what is unknown where they are not written down."""

import unittest
from dataclasses import replace

from cabrio.core.car import Adjuster, Given
from cabrio.core.car.fitted import click_of, fitted
from cabrio.core.car.settings import way_of
from cabrio.core.catalog.parts import Adjustment, Bar, Blade, Damper, rubber
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.graph.registry import number_named, numbers

from .whole_car import (
    CIRCUIT_SETUP,
    DRAG_SETUP,
    KNOWN,
    circuit_car,
    damper,
    drag_car,
    dyno,
    sheet,
    worn_at,
)

FOUR = {place: damper() for place in ("LF", "RF", "LR", "RR")}


class Parts(unittest.TestCase):
    def test_every_number_it_brings_is_in_the_dictionary_at_every_place(self) -> None:
        for car, setup in ((circuit_car(), CIRCUIT_SETUP), (drag_car(), DRAG_SETUP)):
            for name, row in fitted(car, setup).items():
                self.assertEqual(len(row), len(numbers()[name].shape.places), name)

    def test_an_emptied_fact_is_as_one_that_nobody_gave(self) -> None:
        for car, setup in ((circuit_car(), CIRCUIT_SETUP), (drag_car(), DRAG_SETUP)):
            for name in car.given:
                empty = Given((None,) * len(number_named(name).shape.places), by="Ada")
                emptied = sheet(car.with_given(name, empty), setup)
                without = {k: v for k, v in car.given.items() if k != name}
                never = sheet(replace(car, given=without), setup)
                with self.subTest(name):
                    self.assertEqual(emptied.worked.values.keys(), never.worked.values.keys())
                    for worked, values in never.worked.values.items():
                        self.assertTrue((emptied.worked.values[worked] == values).all(), worked)

    def test_the_hole_in_use_picks_the_arm(self) -> None:
        car = circuit_car()
        for holes, arms in (([1.0, 1.0], [0.18, 0.16]), ([4.0, 2.0], [0.24, 0.18])):
            found = fitted(car, CIRCUIT_SETUP | {"bar_hole": holes})
            self.assertEqual(found["bar_arm"], arms)
        # a hole the bar does not have leaves its arm unknown, and the sheet says so
        beyond = sheet(car, CIRCUIT_SETUP | {"bar_hole": [9.0, 1.0]})
        self.assertIsNone(beyond.value("lltd"))
        self.assertIn("bar arm, front", [need.sentence for need in beyond.worked.missing["lltd"]])

    def test_a_blade_and_a_bar_without_one(self) -> None:
        found = fitted(circuit_car(), CIRCUIT_SETUP)
        self.assertEqual(found["blade_length"], [0.0, 0.15])
        self.assertEqual(found["blade_angle"], [0.0, 0.4])

    def test_a_blade_turned_to_its_next_position(self) -> None:
        car = circuit_car()
        rates = []
        for position in (1.0, 2.0, 3.0):
            found = sheet(car, {**CIRCUIT_SETUP, "blade_position": [1.0, position]})
            rates.append(found.worked.values["bar_wheel_rate"][1])
        self.assertEqual(rates, sorted(rates))
        self.assertGreater(rates[2], 1.02 * rates[0])
        number = number_named("blade_position")
        self.assertEqual(way_of(number).stiffer(car, number, "rear", 2.0, 1), 3.0)
        beyond = {**CIRCUIT_SETUP, "blade_position": [1.0, 4.0]}
        self.assertIsNone(sheet(car, beyond).value("bar_wheel_rate"))

    def test_a_blade_bends_by_its_own_modulus(self) -> None:
        soft = Bar(
            0.022, 0.8, (0.16,), 0.7, blade=Blade(0.03, 0.006, 0.15, (0.4,), youngs_modulus=70e9)
        )
        steel = replace(soft, blade=Blade(0.03, 0.006, 0.15, (0.4,)))
        rates = [
            sheet(circuit_car(bar={"front": bar, "rear": bar}), CIRCUIT_SETUP).value(
                "bar_wheel_rate"
            )
            for bar in (soft, steel)
        ]
        assert rates[0] is not None and rates[1] is not None
        self.assertLess(rates[0][0], 0.9 * rates[1][0])
        self.assertEqual(
            fitted(circuit_car(bar={"front": soft}), CIRCUIT_SETUP)["blade_youngs_modulus"][0], 70e9
        )

    def test_unknown_is_not_absent(self) -> None:
        half = circuit_car(bar={"front": Bar(0.025, 0.9, (0.2,), 0.6)})
        self.assertEqual(fitted(half, CIRCUIT_SETUP)["bar_outer"], [0.025, None])
        self.assertEqual(fitted(half, CIRCUIT_SETUP)["blade_width"], [0.0, 0.0])
        self.assertIsNone(sheet(half, CIRCUIT_SETUP).value("lltd"))
        said = circuit_car(bar={"front": worn_at(half, "bar", "front"), "rear": Bar(0.0)})
        self.assertIsNotNone(sheet(said, CIRCUIT_SETUP).value("lltd"))
        self.assertNotIn("bar_outer", fitted(circuit_car(bar={}), CIRCUIT_SETUP))

    def test_clicks_bring_the_chords_of_the_dyno_sheet(self) -> None:
        car = circuit_car()
        softer = fitted(car, CIRCUIT_SETUP | {"rebound_clicks": [0.0, 5.0, 10.0, 20.0]})
        chords = softer["rebound_low"]
        self.assertEqual(chords, sorted(chords, reverse=True))
        rebound = worn_at(car, "damper", "LF").rebound
        assert rebound is not None
        self.assertAlmostEqual(chords[1], rebound.chord(5, (0.0, 0.05)))

    def test_a_car_that_counts_from_the_other_end_than_its_damper(self) -> None:
        car, setup = drag_car(), DRAG_SETUP  # counted from open; the sheets from closed
        self.assertEqual(click_of(car, setup, "LF", "rebound"), 12.0)
        adjusters = car.adjusters | {"rebound_clicks": Adjuster(0, 20, "from_closed")}
        self.assertEqual(click_of(replace(car, adjusters=adjusters), setup, "LF", "rebound"), 8.0)

    def test_a_dead_knob_stays_where_it_is_and_no_knob_is_at_its_only_place(self) -> None:
        dead = circuit_car(damper=FOUR | {"LF": damper(dead_at=7)})
        self.assertEqual(click_of(dead, CIRCUIT_SETUP, "LF", "rebound"), 7)
        single = Damper(Adjustment(0, "from_closed", dyno(20, 1.0)[:1]), damper().rebound)
        car = circuit_car(damper=FOUR | {"LF": single})
        self.assertEqual(click_of(car, CIRCUIT_SETUP, "LF", "compression"), 0.0)

    def test_without_a_sheet_the_ratio_says_what_it_needs(self) -> None:
        bare = circuit_car(damper={place: Damper() for place in ("LF", "RF", "LR", "RR")})
        found = sheet(bare, CIRCUIT_SETUP)
        needs = [need.name for need in found.worked.missing["rebound_ratio_low"]]
        self.assertEqual(needs, ["rebound_low"])

    def test_rubbers_of_unlike_length_stand_side_by_side(self) -> None:
        car = circuit_car(bump_rubber={"front": rubber((0.0, 0.01), (0.0, 500.0))})
        curve = fitted(car, CIRCUIT_SETUP)["rubber_curve"]
        self.assertEqual(len(curve[0][0]), len(curve[1][0]))
        self.assertEqual(max(curve[1][1]), 0.0, "no rubber pushes with nothing")
        none = circuit_car(bump_rubber={})
        setup = {n: v for n, v in CIRCUIT_SETUP.items() if n != "rubber_gap"}
        self.assertEqual(fitted(none, setup)["rubber_gap"], [0.0, 0.0])

    def test_bolts_follow_the_holes(self) -> None:
        for hole, z in ((1.0, 0.32), (3.0, 0.36)):
            found = fitted(drag_car(), DRAG_SETUP | {"upper_link_hole": [hole]})
            self.assertEqual(found["bolt_z"][0], z)
            self.assertEqual(found["bolt_z"][1], 0.44, "the axle's bolt is the one given")

    def test_an_independent_axle_takes_its_track_for_its_spring_base(self) -> None:
        self.assertEqual(fitted(circuit_car(), CIRCUIT_SETUP)["spring_base"], [1.5, 1.6])
        self.assertEqual(fitted(drag_car(), DRAG_SETUP)["spring_base"], [1.5, 1.1])
        beam = circuit_car(
            front_layout="beam_axle",
            given=circuit_car().given | {"spring_base": Given((None, None))},
        )
        self.assertEqual(fitted(beam, CIRCUIT_SETUP)["spring_base"], [None, 1.6])

    def test_a_roll_centre_nobody_gave_is_worked_from_the_track_bar_or_the_arms(self) -> None:
        bare = {n: v for n, v in circuit_car().given.items() if n != "roll_centre_height"}
        bar = {n: Given(tuple(KNOWN[n])) for n in ("track_bar_y", "track_bar_z")}
        found = fitted(circuit_car(given=bare | bar, rear_layout="three_link"), CIRCUIT_SETUP)
        self.assertIsNone(found["roll_centre_height"][0])
        self.assertAlmostEqual(found["roll_centre_height"][1], 0.26 - 0.5 * 0.04 / 0.95)
        arms = {n: Given(tuple(KNOWN[n])) for n in ("bolt_x", "bolt_y", "bolt_z")}
        half = bare | arms | {"roll_centre_height": Given((0.05, None))}
        car = circuit_car(given=half, rear_layout="triangulated_four_link")
        wanted = evaluate(KNOWN).values["arms_roll_centre"]
        self.assertEqual(fitted(car, CIRCUIT_SETUP)["roll_centre_height"], [0.05, float(wanted)])
        # what was given stands, and parallel arms alone locate nothing
        self.assertNotIn("roll_centre_height", fitted(circuit_car(), CIRCUIT_SETUP))
        level = half | {"bolt_y": Given((0.4,) * 4)}
        car = circuit_car(given=level, rear_layout="triangulated_four_link")
        self.assertNotIn("roll_centre_height", fitted(car, CIRCUIT_SETUP))

    def test_where_a_fitted_number_came_from_is_said(self) -> None:
        found = sheet(circuit_car(), CIRCUIT_SETUP)
        self.assertEqual(
            found.origins["bar_arm"].words, "anti-roll bar bar front, bar rear, revision 1"
        )
        self.assertTrue(found.origins["spring_rate"].words.startswith("spring 90/200"))
