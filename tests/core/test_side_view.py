"""The side view of a sheet against its figures, and the search over holes against trying one by one."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.catalog.parts import Bracket, Link
from cabrio.core.errors import Impossible, Missing
from cabrio.core.geometry.plane import Point
from cabrio.core.graph.registry import number_named
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.side_view import holes_near, side_of_sheet
from cabrio.core.sheet.what_if import try_lines

from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

DRAG = sheet(drag_car(), DRAG_SETUP)


def holed(*codes: str, **settings: Any) -> Sheet:
    """The drag car with brackets at further bolts, each of three holes an inch and a bit apart."""
    car = drag_car()
    v, parts, worn = DRAG.worked.values, car.parts, list(DRAG_SETUP["bracket"])
    adjusters = dict(car.adjusters)
    for at, code in ((1, "upper axle"), (3, "lower axle")):
        if code in codes:
            x, z = float(v["bolt_x"][at]), float(v["bolt_z"][at])
            holes = tuple((x, z + i * 0.03) for i in (-1, 0, 1))
            parts = parts.with_part("bracket", Bracket(holes, code=code))
            worn[at] = code
            name = f"{code.split()[0]}_axle_hole"
            adjusters[name] = car.adjusters["upper_link_hole"]
            settings.setdefault(name, [2.0])
    car = replace(car, parts=parts, adjusters=adjusters)
    return sheet(car, DRAG_SETUP | {"bracket": worn} | settings)


class AtRide(unittest.TestCase):
    def test_it_is_what_the_figures_say(self) -> None:
        side, v = side_of_sheet(DRAG), DRAG.worked.values
        self.assertAlmostEqual(side.anti_squat or 0.0, float(v["anti_squat"]), 9)
        self.assertAlmostEqual((side.centre or (0, 0))[0], float(v["ic_x"]), 9)
        low, high = side.band or (0.0, 0.0)
        self.assertLess(low, side.anti_squat or 0.0)
        self.assertGreater(high, side.anti_squat or 0.0)
        # each bar from its axle end to its chassis end, the bolts the other way about
        middle = np.array(side.views[side.travels.index(0.0)].bars)[:, ::-1].reshape(4, 2)
        np.testing.assert_allclose(middle[:, 0], v["bolt_x"])
        np.testing.assert_allclose(middle[:, 1], v["bolt_z"])

    def test_the_holes_are_the_brackets_and_the_one_in_use_is_the_bolt(self) -> None:
        side, v = side_of_sheet(holed("upper axle")), DRAG.worked.values
        for at, hole in enumerate(side.holes):
            assert hole.here is not None
            np.testing.assert_allclose(
                hole.holes[hole.here], (v["bolt_x"][at], v["bolt_z"][at]), err_msg=hole.place
            )
        self.assertEqual(side.holes[1].setting, "upper_axle_hole")
        self.assertEqual(side.holes[3].setting, "")

    def test_bars_keep_their_lengths_through_the_travel(self) -> None:
        bars = np.array([view.bars for view in side_of_sheet(DRAG).views])
        for at in range(2):
            long = np.linalg.norm(bars[:, at, 0] - bars[:, at, 1], axis=-1)
            np.testing.assert_allclose(long, long[0], atol=1e-9)

    def test_it_says_whether_rules_of_thumb_agree_on_such_a_car(self) -> None:
        side = side_of_sheet(DRAG)
        self.assertAlmostEqual(side.slim, 2.5 / 0.5)
        self.assertFalse(side.rules_agree)
        self.assertTrue(replace(side, cg_height=2.5 / 5.8).rules_agree)

    def test_without_its_bolts_it_says_what_lacks(self) -> None:
        with self.assertRaisesRegex(Missing, "The side view needs"):
            side_of_sheet(sheet(circuit_car(rear_layout="three_link"), CIRCUIT_SETUP))
        with self.assertRaisesRegex(Impossible, "from its points"):
            side_of_sheet(sheet(circuit_car(), CIRCUIT_SETUP))


class Search(unittest.TestCase):
    def test_what_is_found_is_what_trying_it_gives(self) -> None:
        car = holed("upper axle", "lower axle")
        search = holes_near(car, 1.3, 1.2, show=5)
        count, found = search.count, search.found
        self.assertEqual(
            count, int(np.prod([len(hole.holes) for hole in side_of_sheet(car).holes]))
        )
        scores = [one.choice.score for one in found]
        self.assertEqual(scores, sorted(scores))
        for one in found:
            after = try_lines(car, one.lines).worked.values
            self.assertAlmostEqual(float(after["anti_squat"]), one.choice.anti_squat, 9)
            self.assertAlmostEqual(float(after["ic_x"]), one.choice.ic.x, 9)

    def test_without_an_ic_wanted_anti_squat_alone_counts(self) -> None:
        car = holed("upper axle", "lower axle")
        found = holes_near(car, 1.3, show=400).found
        offs = [round(abs(one.choice.anti_squat - 1.3), 7) for one in found]
        self.assertEqual(offs, sorted(offs))

    def test_the_one_in_use_moves_nothing(self) -> None:
        found = holes_near(DRAG, float(DRAG.worked.values["anti_squat"]), show=1).found
        self.assertEqual((found[0].choice.holes_moved, found[0].lines), (0, ()))

    def test_nose_down_keeps_only_those(self) -> None:
        car = holed("upper axle")
        count = holes_near(car, 1.2, show=1).count
        try:
            down = holes_near(car, 1.2, show=400, nose_down=True).found
        except Impossible as refusal:
            self.assertIn("nose down", refusal.sentence)
        else:
            self.assertLessEqual(len(down), count)
            self.assertTrue(all(one.choice.pinion_range[1] < 0 for one in down))  # type: ignore[index]

    def test_only_what_the_links_threads_reach_is_offered(self) -> None:
        car = holed("upper axle", "lower axle")
        every = holes_near(car, 1.3, show=400).found
        lengths = sorted(one.choice.upper_bar for one in every)
        most = lengths[len(lengths) // 2]
        linked = self.with_links(car, Link(code="U", longest=most))
        search = holes_near(linked, 1.3, show=400)
        self.assertEqual(search.out_of_reach, sum(length > most for length in lengths))
        self.assertEqual(len(search.found), len(every) - search.out_of_reach)
        self.assertTrue(all(one.choice.upper_bar <= most for one in search.found))
        with self.assertRaisesRegex(Impossible, "within reach of the links"):
            holes_near(self.with_links(car, Link(code="U", shortest=2.9)), 1.3, show=1)

    def test_bolts_stay_clear_of_the_ground_through_the_travel(self) -> None:
        car = holed("upper axle", "lower axle")
        every = holes_near(car, 1.3, show=400).found
        lowest = sorted(one.choice.lowest or 0.0 for one in every)
        asked = lowest[len(lowest) // 2] + 1e-6
        search = holes_near(car, 1.3, show=400, clear=asked)
        self.assertEqual(search.too_low, sum(one < asked for one in lowest))
        self.assertGreater(search.too_low, 0)
        best = search.found[0]
        views = side_of_sheet(try_lines(car, best.lines).as_sheet).views
        heights = [end[1] for view in views for bar in view.bars for end in bar]
        self.assertAlmostEqual(min(heights), best.choice.lowest or 0.0, 9)
        with self.assertRaisesRegex(Impossible, "above the ground"):
            holes_near(car, 1.3, show=1, clear=0.9)

    def with_links(self, car: Sheet, upper: Link) -> Sheet:
        places = number_named("link").shape.places
        worn = [upper.code if place.startswith("upper") else None for place in places]
        parts = car.car.parts.with_part("link", upper)
        return sheet(replace(car.car, parts=parts), {**car.setup, "link": worn})

    def test_a_link_is_no_longer_than_its_threads_allow(self) -> None:
        for wrong in ({"shortest": 0.5, "length": 0.4}, {"length": 0.6, "longest": 0.55}):
            with self.assertRaisesRegex(Impossible, "no shorter than its shortest"):
                Link(code="L", **wrong)

    def test_a_car_without_brackets_is_told_what_to_add(self) -> None:
        bare = sheet(drag_car(), DRAG_SETUP | {"bracket": [None] * 4})
        with self.assertRaisesRegex(Impossible, "add the brackets"):
            holes_near(bare, 1.2, show=1)

    def test_the_centre_of_the_picture_is_where_the_bars_meet(self) -> None:
        view = side_of_sheet(DRAG).views[0]
        assert isinstance(view.centre, Point)
        for a, b in np.array(view.bars):
            off = np.cross([*(b - a), 0.0], [view.centre.x - a[0], view.centre.z - a[1], 0.0])
            self.assertAlmostEqual(float(off[2]), 0.0, 9)
