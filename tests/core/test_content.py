"""The knowledge as content, and that the graph always has an answer or a reason."""

from __future__ import annotations

import math
import unittest
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from cabrio.core.catalog.entered import ENTERED
from cabrio.core.catalog.quantities import Kind
from cabrio.core.catalog.units import MEASURES, PROFILES, parse, show
from cabrio.core.errors import CoreError
from cabrio.core.graph.evaluate import evaluate
from cabrio.core.graph.registry import figures, numbers, upstream
from cabrio.core.knowledge import DISCIPLINES, knowledge

# The starting bands of axle frequency, tyre left out, as the trade holds them [Hz].
BANDS = [
    ("track_road_based", "front", 1.5, 2.3),
    ("race_no_downforce", "rear", 1.8, 2.6),
    ("race_some_downforce", "front", 2.5, 3.5),
    ("race_high_downforce", "rear", 3.5, 5.5),
    ("drift", "front", 2.0, 2.9),
    ("drift", "rear", 1.7, 2.5),
    ("drag", "front", 0.9, 1.5),
    ("drag", "rear", 1.2, 2.0),
]
BEGINS = {"circuit": ["plan", "tyres", "heights"], "drift": ["plan", "tyres", "heights"]}
GOES_ON = {
    "circuit": ["weights", "springs", "clearance", "bars", "dampers", "alignment", "release"],
    "drag": [
        *("weights", "bars", "dampers", "alignment", "clearance", "launch", "release"),
    ],
}


SIDE = ["rear_side"]
LIVE = ["square", "pinion", "links"]
"""A live axle's own stations; link preload only where an upper bar can hold one."""


class Content(unittest.TestCase):
    def test_bands(self) -> None:
        for use, place, low, high in BANDS:
            band = knowledge().band("axle_frequency", use, place)
            assert band is not None
            self.assertEqual((band.low, band.high), (low, high), f"{use} {place}")
        self.assertIsNone(knowledge().band("total_mass", "drag", "car"))

    def test_every_use_has_a_band_at_both_axles(self) -> None:
        for use in knowledge().uses:
            for place in ("front", "rear"):
                self.assertIsNotNone(
                    knowledge().band("axle_frequency", use, place), f"{use} {place}"
                )

    def test_what_is_often_said_stands_where_cars_have_its_station_and_figures(self) -> None:
        book = knowledge()
        self.assertGreater(len(book.talk), 12)
        for one in book.talk:
            with self.subTest(one.said):
                layouts = one.layouts or ("independent", "parallel_four_link")
                self.assertTrue(
                    any(
                        one.station in [each.id for each in book.stations_for(discipline, layout)]
                        for discipline in one.disciplines
                        for layout in layouts
                    )
                )
                self.assertNotRegex(one.holds.lower(), "wrong|myth|nonsense|never believe")

    def test_the_order_of_work(self) -> None:
        for discipline in DISCIPLINES:
            begins = BEGINS.get(discipline, ["plan", "tyres", "heights", "springs"])
            goes_on = GOES_ON.get(discipline, GOES_ON["circuit"])
            for layout, own in (
                ("independent", SIDE if discipline == "drag" else []),
                ("leaf", LIVE),
            ):
                wanted = [*begins, *own, *goes_on]
                found = knowledge().stations_for(discipline, layout)
                self.assertEqual([station.id for station in found], wanted, (discipline, layout))
        four = [station.id for station in knowledge().stations_for("drag", "parallel_four_link")]
        self.assertEqual(four[four.index("weights") : four.index("bars")], ["weights", "preload"])

    def test_the_step_that_can_hurt_carries_its_caution(self) -> None:
        said = {station.id: station.caution for station in knowledge().stations}
        for station, word in [
            ("heights", "Stands"),
            ("weights", "Chock"),
            ("springs", "compressor"),
            ("dampers", "specialist"),
            ("preload", "damage"),
            ("square", "welder"),
            ("links", "Stands"),
            ("release", "maker"),
            ("bars", "Stands"),
            ("alignment", "over centre"),
            ("tyres", "hot"),
            ("dampers", "top nut"),
        ]:
            self.assertIn(word, said[station])

    def test_every_reading_is_at_a_station_and_every_setting_too(self) -> None:
        for discipline in DISCIPLINES:
            stations = knowledge().stations_for(discipline)
            at = {kind for station in stations for kind in station.readings}
            for reading in knowledge().readings_for(discipline):
                self.assertIn(reading.id, at, discipline)
        sets = {name for station in knowledge().stations for name in station.sets}
        self.assertEqual(sets, {number.name for number in numbers().values() if number.on_slip})

    def test_two_schools_and_neither_covers_the_other(self) -> None:
        quick, platform = (one for one in knowledge().schools if one.topic == "frequency_split")
        self.assertGreater(quick.low, platform.high)
        for school in (quick, platform):
            self.assertTrue(school.low <= school.offer <= school.high and school.reason)


@st.composite
def cars(draw: Any) -> dict[str, list[float | None] | None]:
    """Entered numbers at random: possible ones, some missing, some at single places."""
    values: dict[str, list[float | None] | None] = {}
    for number in ENTERED:
        if number.quantity in ("part", "curve") or draw(st.integers(0, 9)) == 0:
            continue
        low = number.least if number.least is not None else 0.001
        high = number.most if number.most is not None else 10.0
        if number.usual:
            low, high = number.usual
        cell = st.floats(low, high, allow_nan=False) | st.just(high)
        row = [draw(cell) for _ in number.shape.places]
        if draw(st.integers(0, 9)) == 0:
            row[draw(st.integers(0, len(row) - 1))] = None
        values[number.name] = row
    return values


class AnswerOrReason(unittest.TestCase):
    @settings(max_examples=12)
    @given(cars())
    def test_every_figure_is_finite_or_says_why_not(self, values: dict[str, Any]) -> None:
        found = evaluate(values)
        for name in figures():
            if name in found.values:
                self.assertTrue(all(math.isfinite(x) for x in found.values[name].reshape(-1)), name)
            elif name in found.partial:
                self.assertTrue(any(math.isfinite(x) for x in found.partial[name]), name)
            elif name in found.refused:
                self.assertIsInstance(found.refused[name], CoreError)
                self.assertTrue(found.refused[name].sentence.endswith("."))
            else:
                blocked = found.missing[name] or [n for n in upstream([name]) if n in found.refused]
                self.assertTrue(blocked, f"{name} has neither an answer nor a reason")

    @given(
        st.sampled_from([n for n in ENTERED if n.quantity in MEASURES and n.usual]),
        st.sampled_from(sorted(PROFILES)),
        st.floats(0, 1),
    )
    def test_what_is_shown_can_be_typed_again(
        self, number: Any, profile: str, share: float
    ) -> None:
        low, high = number.usual
        value = low + share * (high - low)
        shown = MEASURES[number.quantity].for_profile(profile)
        again = parse(show(value, number.quantity, profile), number.quantity, profile)
        unit = abs(
            parse(f"1 {shown.symbol}", number.quantity, profile)
            - parse(f"0 {shown.symbol}", number.quantity, profile)
        )
        self.assertLessEqual(abs(again - value), shown.precision * unit * 0.51 + 0.001 * unit)

    def test_kinds_are_told_apart(self) -> None:
        kinds = {kind: [n.name for n in numbers().values() if n.kind is kind] for kind in Kind}
        self.assertIn("wheelbase", kinds[Kind.GIVEN])
        self.assertIn("bar_hole", kinds[Kind.SET])
        self.assertIn("pad_mass", kinds[Kind.READ])
        loaded = {number.name for number in numbers().values() if number.from_load_model}
        self.assertEqual(set(kinds[Kind.WORKED]), set(figures()) | loaded)
        self.assertEqual(loaded, {"grip_balance"})


if __name__ == "__main__":
    unittest.main()
