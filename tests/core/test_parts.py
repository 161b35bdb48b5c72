"""Parts as declared: what is entered makes the same part again, and what it brings at a place."""

import unittest
from dataclasses import replace
from typing import Any

from cabrio.core.car import Adjuster, Car, Spring
from cabrio.core.car.settings import check_setting, way_of
from cabrio.core.catalog.damper import Face
from cabrio.core.catalog.inventory import NONE_FITTED, Inventory
from cabrio.core.catalog.part import Part, Position, assembled, entered_fields, kind_of
from cabrio.core.catalog.part_kinds import part_kind, part_kinds
from cabrio.core.catalog.parts import Bar, Blade, Tyre
from cabrio.core.errors import CoreError, Impossible, OutOfRange, UnknownName
from cabrio.core.graph.registry import number_named

from .whole_car import circuit_car, damper, drag_car

FACES: tuple[Face, ...] = ("compression", "rebound")


def all_parts() -> list[Part]:
    cars = (circuit_car(), drag_car())
    return [part for car in cars for kind in part_kinds() for part in car.parts.of(kind)]


def nowhere(name: str) -> Position:
    return Position(None, "from_closed")


def at(**set_to: float) -> Any:
    return lambda name: Position(set_to.get(name), "from_closed")


class Entered(unittest.TestCase):
    def test_what_was_entered_makes_the_same_part(self) -> None:
        parts = all_parts()
        self.assertGreater(len({type(part) for part in parts}), 4)
        for part in parts:
            kind, told = kind_of(type(part)), entered_fields(part)
            values = {
                field.id: field.table.build([tuple(row) for row in told[field.id]])
                if field.table and told[field.id]
                else told[field.id]
                for field in kind.fields
            }
            with self.subTest(f"{kind.name} {part.code}"):
                again = replace(
                    assembled(kind, part.code, values, part), fits=part.fits, note=part.note
                )
                self.assertEqual(entered_fields(again), told)

    def test_a_correction_keeps_what_no_field_shows_and_drops_an_emptied_group(self) -> None:
        kind = part_kind("bar")
        old = Bar(0.022, 0.8, (0.16,), 0.7, blade=Blade(0.03, 0.006, 0.15, (0.4,)), code="B")
        told = {name: value for name, value in entered_fields(old).items() if name in ids(kind)}
        told["arms"] = (0.16,)
        bare = assembled(kind, "B", told | dict.fromkeys(n for n in told if "blade" in n), old)
        assert isinstance(bare, Bar)
        self.assertIsNone(bare.blade)
        self.assertEqual((bare.outer, bare.arms), (0.022, (0.16,)))

    def test_parts_refuse_what_cannot_be(self) -> None:
        for make in (
            lambda: Blade(0.03, 0.006, 0.15, ()),
            lambda: Bar(0.02, inner=0.02),
            lambda: Spring("S", 50e3, 0.2, 0.2),
        ):
            with self.assertRaises(Impossible):
                make()

    def test_a_tyre_follows_its_pressure_between_two_readings(self) -> None:
        tyre = Tyre(rate=200e3, pressure=1.4e5, second_rate=240e3, second_pressure=1.8e5)
        self.assertAlmostEqual(tyre.rate_at(1.6e5) or 0.0, 220e3)
        self.assertEqual(tyre.rate_at(None), 200e3)
        self.assertEqual(tyre.rate_at(0.1e5), 100e3)  # the line ends somewhere
        self.assertEqual(Tyre(rate=200e3).rate_at(1.6e5), 200e3)
        for wrong in (
            {"second_rate": 240e3},
            {"rate": 200e3, "pressure": 1e5, "second_rate": 240e3},
            {"rate": 200e3, "pressure": 1e5, "second_rate": 240e3, "second_pressure": 1e5},
        ):
            with self.assertRaises(Impossible):
                Tyre(**wrong)

    def test_an_inventory_tells_its_parts_by_code(self) -> None:
        stock = Inventory().with_part("tyre", Tyre(code="A1"))
        with self.assertRaisesRegex(Impossible, "already"):
            stock.with_part("tyre", Tyre(code="A1"))
        for code in ("", NONE_FITTED):
            with self.assertRaisesRegex(Impossible, "code"):
                stock.with_part("tyre", Tyre(code=code))
        renamed = stock.with_part("tyre", Tyre(code="A2"), instead_of="A1")
        self.assertEqual([one.code for one in renamed.of("tyre")], ["A2"])
        self.assertIsNone(renamed.part("tyre", "A1"))
        with self.assertRaises(UnknownName):
            stock.without("tyre", "A2")


def ids(kind: Any) -> set[str]:
    return {field.id for field in kind.fields}


class Brings(unittest.TestCase):
    def test_the_hole_in_use_picks_the_arm(self) -> None:
        bar = Bar(0.022, 0.8, (0.16, 0.18, 0.2), 0.7)
        self.assertEqual(bar.provides("front", at(bar_hole=2))["bar_arm"], 0.18)
        for unset in (nowhere, at(bar_hole=0), at(bar_hole=4)):
            self.assertIsNone(bar.provides("front", unset)["bar_arm"])
        single = replace(bar, arms=(0.16,))
        self.assertEqual(single.provides("front", nowhere)["bar_arm"], 0.16)
        self.assertEqual(bar.arm(3), 0.2)
        with self.assertRaises(OutOfRange):
            bar.arm(4)

    def test_a_bar_without_blades_says_so(self) -> None:
        told = Bar(0.022, 0.8, (0.16,), 0.7).provides("rear", nowhere)
        self.assertEqual((told["blade_width"], told["blade_length"]), (0.0, 0.0))

    def test_a_spring_that_was_measured_works_by_its_measured_rate(self) -> None:
        spring = Spring("80/200", 80e3, 0.2, 0.09)
        self.assertEqual(spring.provides("LF", nowhere)["spring_rate"], 80e3)
        measured = replace(spring, measured_rate=78.4e3)
        self.assertEqual(measured.provides("LF", nowhere)["spring_rate"], 78.4e3)

    def test_a_part_fits_where_it_says(self) -> None:
        front = Spring("F", 80e3, 0.2, 0.09, fits="front")
        self.assertTrue(front.fits_at("RF"))
        self.assertFalse(front.fits_at("LR"))


class Ways(unittest.TestCase):
    """How settings move: one case a way, and its ends."""

    def setUp(self) -> None:
        self.car: Car = circuit_car()

    def step(self, name: str, place: str, old: Any, by: int) -> Any:
        number = number_named(name)
        return way_of(number).step(self.car, number, place, old, by)

    def stiffer(self, name: str, place: str, old: Any, by: int) -> Any:
        number = number_named(name)
        return way_of(number).stiffer(self.car, number, place, old, by)

    def test_stiffer_follows_the_number_and_the_counting(self) -> None:
        self.assertEqual(self.stiffer("bar_hole", "front", 3.0, 1), 2.0)
        self.assertEqual(self.stiffer("blade_position", "rear", 1.0, 2), 3.0)
        self.assertEqual(self.stiffer("rebound_clicks", "LF", 8.0, 1), 7.0)  # out from closed
        opened = replace(
            self.car,
            adjusters=self.car.adjusters | {"rebound_clicks": Adjuster(0, 20, "from_open")},
        )
        number = number_named("rebound_clicks")
        self.assertEqual(way_of(number).stiffer(opened, number, "LF", 8.0, 1), 9.0)

    def test_the_ends_are_refused_with_the_range(self) -> None:
        with self.assertRaises(OutOfRange) as caught:
            self.step("bar_hole", "front", 4.0, 1)
        self.assertEqual(caught.exception.allowed, "1 to 4")
        with self.assertRaisesRegex(OutOfRange, "whole number"):
            check_setting(self.car, "bar_hole", "front", 1.5)

    def test_a_setting_nobody_made_starts_within_its_range(self) -> None:
        self.assertEqual(self.step("perch_turns", "LF", None, 1), 0.0)  # zero is in its range
        self.assertEqual(self.step("bar_hole", "front", None, 1), 1.0)

    def test_springs_move_along_the_inventory(self) -> None:
        codes = [spring.code for spring in self.car.springs_for("front")]
        self.assertGreater(len(codes), 2)
        self.assertEqual(self.step("spring", "LF", codes[0], 1), codes[1])
        self.assertEqual(self.stiffer("spring", "LF", codes[1], -1), codes[0])
        with self.assertRaisesRegex(UnknownName, "inventory ends"):
            self.step("spring", "LF", codes[-1], 1)
        with self.assertRaisesRegex(Impossible, "no stiffer"):
            self.stiffer("spring", "LF", codes[-1], 1)
        with self.assertRaisesRegex(UnknownName, "add it there first"):
            check_setting(self.car, "spring", "LF", "none such")

    def test_a_typed_rate_finds_the_spring_of_that_rate_only(self) -> None:
        number, first = number_named("spring"), self.car.springs_for("front")[0]
        way, typed = way_of(number), f"{first.rate / 1e3:g}"
        self.assertEqual(way.typed(self.car, number, "LF", None, typed), first.code)
        with self.assertRaisesRegex(UnknownName, "the nearest is"):
            way.typed(self.car, number, "LF", None, f"{first.rate / 1e3 + 3:g}")

    def test_a_fact_takes_any_possible_value_and_no_steps(self) -> None:
        number = number_named("track")
        way = way_of(number)
        self.assertAlmostEqual(way.typed(self.car, number, "front", 1.5, "61 in"), 1.5494)
        with self.assertRaisesRegex(Impossible, "type what it became"):
            way.step(self.car, number, "front", 1.5, 1)
        with self.assertRaises(CoreError):
            way.check(self.car, number, "front", -1.0)

    def test_a_reading_is_nothing_a_slip_can_change(self) -> None:
        for name in ("pad_mass", "lltd", "target_frequency"):
            with self.assertRaisesRegex(UnknownName, "not something a slip can change"):
                way_of(number_named(name))


class Knobs(unittest.TestCase):
    def test_each_face_blocks_its_own_clicks_alone(self) -> None:
        whole = damper()
        for face in FACES:
            self.assertEqual(whole.blocks(f"{face}_clicks"), "")
        adjustment = replace(whole.rebound, dead_at=4.0)
        dead = replace(whole, rebound=adjustment)
        self.assertIn("no longer turns, at click 4", dead.blocks("rebound_clicks"))
        self.assertEqual(dead.blocks("compression_clicks"), "")
        self.assertEqual(dead.blocks("perch_turns"), "")
