"""A discipline that turns one way: its two sides differ on purpose, and nothing steps them together."""

import unittest
from collections.abc import Iterator
from contextlib import ExitStack, contextmanager
from dataclasses import replace
from typing import Any
from unittest.mock import patch

from cabrio.core.advise.axes import axes_of
from cabrio.core.advise.targets import Touch
from cabrio.core.car.uneven import uneven
from cabrio.core.catalog.disciplines import Discipline, disciplines
from cabrio.core.knowledge import check, knowledge
from cabrio.core.sheet.measure_next import measure_next
from cabrio.core.sheet.steps import steps_of

from .whole_car import CIRCUIT_SETUP, circuit_car, damper, sheet

HOUSES = ("car.uneven", "sheet.steps", "advise.axes")


@contextmanager
def circuit_as(**differs: Any) -> Iterator[Discipline]:
    """Circuit cars as another row of the table would have them."""
    row = replace(disciplines()["circuit"], **differs)
    with ExitStack() as stack:
        for house in HOUSES:
            told = f"cabrio.core.{house}.disciplines"
            stack.enter_context(patch(told, return_value=disciplines() | {"circuit": row}))
        yield row


def stepped(name: str) -> set[tuple[str, ...]]:
    here = sheet(circuit_car(), CIRCUIT_SETUP)
    lines = (one for one in steps_of(here) if one[0].name == name)
    return {tuple(line.place for line in one) for one in lines}


class OneWay(unittest.TestCase):
    def test_pairs_follow_the_turns_where_a_row_does_not_say(self) -> None:
        for turns, pairs, paired in (
            ("both", None, ["front", "rear"]),
            ("left", None, []),
            ("left", ("rear",), ["rear"]),
            ("both", (), []),
        ):
            with circuit_as(turns=turns, pairs=pairs) as row:
                self.assertEqual(list(row.paired), paired)

    def test_unlike_sides_are_no_news_but_a_dead_knob_is(self) -> None:
        car = circuit_car(
            damper={p: damper() for p in ("LF", "RF", "LR")} | {"RR": damper(dead_at=7)}
        )
        setup = CIRCUIT_SETUP | {"perch_turns": [0.5, 0.0, 0.5, 0.0]}
        with circuit_as(turns="left"):
            self.assertEqual([one.name for one in uneven(car, setup)], ["rebound_clicks"])
        with circuit_as(turns="left", pairs=("rear",)):
            told = [(one.name, one.axle) for one in uneven(car, setup)]
        self.assertIn(("perch_turns", "rear"), told)
        self.assertNotIn(("perch_turns", "front"), told)

    def test_each_side_is_stepped_by_itself(self) -> None:
        self.assertEqual(stepped("spring"), {("LF", "RF"), ("LR", "RR")})
        with circuit_as(turns="left"):
            self.assertEqual(stepped("spring"), {("LF",), ("RF",), ("LR",), ("RR",)})
            self.assertEqual(stepped("bar_hole"), {("front",), ("rear",)})

    def test_a_plan_moves_each_side_by_itself(self) -> None:
        here = sheet(circuit_car(), CIRCUIT_SETUP)
        touch = Touch(frozenset({"springs"}), frozenset())

        def moved() -> set[str]:
            found, _ = axes_of(here, touch, ("wheel_rate",))
            return {
                " ".join(place for place, _ in axis.signs)
                for axis in found
                if axis.number.name == "spring"
            }

        self.assertEqual(moved(), {"LF RF", "LR RR"})
        with circuit_as(turns="left"):
            self.assertEqual(moved(), {"LF", "RF", "LR", "RR"})


class Deciding(unittest.TestCase):
    def test_what_to_measure_next_serves_the_figures_that_decide(self) -> None:
        car = circuit_car()
        guessed = replace(car.given["unsprung_mass"], estimated=True)
        here = sheet(replace(car, given=car.given | {"unsprung_mass": guessed}), CIRCUIT_SETUP)
        every = {name for one in measure_next(here) for name in one.stains}
        self.assertGreater(len(every), 2)
        row = replace(disciplines()["circuit"], decided_by=("axle_frequency",))
        book = replace(knowledge(), disciplines=knowledge().disciplines | {"circuit": row})
        with patch("cabrio.core.sheet.measure_next.knowledge", return_value=book):
            self.assertEqual(
                {n for one in measure_next(here) for n in one.stains}, {"axle_frequency"}
            )
        wrong = replace(row, decided_by=("lap_time_that_is_none",))
        book = replace(book, disciplines=book.disciplines | {"circuit": wrong})
        with self.assertRaisesRegex(ValueError, "decided by “lap_time_that_is_none”"):
            check(book)
