"""The charts of a car against its figures, and the ladder of its bars against trying one by one."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.catalog.parts import AeroMap, Bar, Damper
from cabrio.core.charts import Drawn, charts, draw
from cabrio.core.errors import Impossible, Missing, UnknownName
from cabrio.core.knowledge import knowledge
from cabrio.core.sheet.build import Sheet
from cabrio.core.sheet.ladder import Limits, ladder
from cabrio.core.sheet.what_if import try_lines
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.grip import balance
from cabrio.core.under_load.of_sheet import loaded_car

from .test_bite import read_at
from .test_one_step import GRIP
from .whole_car import CIRCUIT_SETUP, DRAG_SETUP, circuit_car, drag_car, sheet

CIRCUIT = sheet(circuit_car(), CIRCUIT_SETUP)
OF = {
    "driveline_over_travel": sheet(drag_car(), DRAG_SETUP),
    "bite_over_flats": read_at(0.0, -1.0),
}
"""The cars that have what a chart is of, where the circuit car has not."""


def line(drawn: Drawn, label: str) -> np.ndarray[Any, Any]:
    return np.array(next(line.values for line in drawn.lines if line.label == label))


class Declared(unittest.TestCase):
    def test_every_chart_of_the_stations_is_one_and_is_drawn(self) -> None:
        named = {p.chart for s in knowledge().stations for p in s.panel if p.kind == "chart"}
        self.assertEqual(named, set(charts()))
        for name in named:
            drawn = draw(OF.get(name, CIRCUIT), name)
            for line in drawn.lines:
                self.assertEqual(len(line.values), len(drawn.x), name)
                self.assertTrue(np.isfinite(line.values).any(), name)
        with self.assertRaises(UnknownName):
            draw(CIRCUIT, "spring_colour")

    def test_what_lacks_is_said(self) -> None:
        # a dyno sheet is drawn of the damper alone: it lacks what the damper lacks
        bare = sheet(circuit_car(given={}), CIRCUIT_SETUP | {"damper": [None] * 4})
        for name in charts():
            with self.subTest(name=name), self.assertRaisesRegex(Missing, "need"):
                draw(bare, name)


class Springs(unittest.TestCase):
    def test_at_ride_height_they_carry_the_sprung_corner(self) -> None:
        drawn = draw(CIRCUIT, "spring_load")
        weight = CIRCUIT.worked.values["sprung_mass"] * 9.80665
        for i, place in enumerate(("LF", "RF")):
            found = np.interp(0.0, drawn.x, line(drawn, place))
            self.assertAlmostEqual(found / weight[i], 1.0, 3)

    def test_the_rate_is_the_slope_of_the_load(self) -> None:
        load, rate = draw(CIRCUIT, "spring_load"), draw(CIRCUIT, "spring_rate_at_wheel")
        by_load = np.gradient(line(load, "LF"), load.x)
        told = np.array(next(one.values for one in rate.lines if one.label in ("LF", "front")))
        near = np.abs(np.array(load.x)) < 0.01
        np.testing.assert_allclose(told[near], by_load[near], rtol=0.02)

    def test_the_rubber_is_marked_where_it_touches(self) -> None:
        marks = {mark.label: mark.at for mark in draw(CIRCUIT, "spring_load").marks}
        touch = CIRCUIT.worked.values["travel_to_rubber"]
        self.assertAlmostEqual(marks["front rubber"], touch[0], 9)
        self.assertEqual(marks["ride height"], 0.0)


class Dampers(unittest.TestCase):
    def test_the_ratio_is_the_force_over_critical(self) -> None:
        force, ratio = draw(CIRCUIT, "damper_force"), draw(CIRCUIT, "damping_ratio")
        critical = CIRCUIT.worked.values["critical_damping"][2:].mean()
        at = 0.1
        pushed = -np.interp(at, force.x, line(force, "rear rebound")) / at / critical
        told = [one.values for one in ratio.lines if one.label in ("LR rebound", "RR rebound")]
        self.assertAlmostEqual(np.interp(at, ratio.x, np.mean(told, axis=0)), pushed, 2)

    def test_the_dyno_family_is_what_was_measured_and_the_clicks_set_lie_in_it(self) -> None:
        drawn = draw(CIRCUIT, "dyno_front")
        damper = CIRCUIT.car.fitted(CIRCUIT.setup, "damper", "LF")
        assert isinstance(damper, Damper)
        for face, sign in (("compression", 1), ("rebound", -1)):
            curves = damper.adjustment(face).curves  # type: ignore[arg-type, union-attr]
            family = [one for one in drawn.lines if one.faint and one.label.startswith(face)]
            self.assertEqual(len(family), len(curves))
            curve, shown = curves[0], np.array(family[0].values)
            known = np.isfinite(shown)
            forces = sign * np.interp(np.array(drawn.x)[known], curve.speeds, curve.forces)
            np.testing.assert_allclose(shown[known], forces)
            at_set = line(drawn, f"{face}, as set")
            every = np.array([one.values for one in family])
            within = np.isfinite(at_set) & np.isfinite(every).all(0)
            self.assertTrue(np.all(at_set[within] <= every.max(0)[within] + 1e-9))
            self.assertTrue(np.all(at_set[within] >= every.min(0)[within] - 1e-9))


class Clearance(unittest.TestCase):
    def car(self, **more: Any) -> Sheet:
        parts = circuit_car().parts
        if (rows := more.get("map")) is not None:
            parts = parts.with_part("aero_map", AeroMap(rows, code="M"))
        setup = CIRCUIT_SETUP | ({"aero_map": ["M"]} if "map" in more else {})
        return sheet(circuit_car(parts=parts), setup)

    def test_standing_it_is_the_height_over_the_least(self) -> None:
        drawn = draw(CIRCUIT, "clearance_over_speed")
        v = CIRCUIT.worked.values
        self.assertAlmostEqual(
            line(drawn, "front")[0], float(v["axle_height"][0] - v["least_height"][0]), 4
        )
        self.assertRegex(drawn.note, r"^Least: .* at the (front|rear), at .*\.$")

    def test_an_aero_map_is_what_presses_it_down(self) -> None:
        def rows(area: float) -> tuple[tuple[float, ...], ...]:
            return tuple((f, r, area, area, 0.5) for f in (0.0, 0.2) for r in (0.0, 0.2))

        light, heavy = (
            line(draw(self.car(map=rows(area)), "clearance_over_speed"), "front")[-1]
            for area in (0.2, 1.2)
        )
        self.assertLess(heavy, light - 0.001)


class Bars(unittest.TestCase):
    SETTINGS = ("bar_hole", "blade_position")

    def limits(self) -> Limits:
        car = loaded_car(CIRCUIT.car, CIRCUIT.worked)
        demand = Demand(0.0, 0.0, 0.0)
        return Limits(car, GRIP, demand, balance(car, GRIP, demand))

    def test_each_rung_is_what_trying_it_gives(self) -> None:
        found = ladder(CIRCUIT, self.SETTINGS, self.limits())
        self.assertEqual((len(found.rungs), len(found.rungs[0])), (4, 4))
        rung = found.rungs[0][3]
        tried = try_lines(CIRCUIT, rung.lines)
        share = tried.value("lltd")
        assert share is not None and rung.balance is not None
        self.assertAlmostEqual(rung.front_share or 0.0, float(share), 12)
        other = balance(loaded_car(tried.car, tried.worked), GRIP, Demand(0.0, 0.0, 0.0)).balance
        self.assertAlmostEqual(rung.balance, other or 0.0, 5)

    def test_it_knows_where_the_car_stands(self) -> None:
        found = ladder(CIRCUIT, self.SETTINGS)
        assert found.front.here is not None and found.rear.here is not None
        here = found.rungs[found.front.here][found.rear.here]
        self.assertEqual(here.lines, ())
        self.assertEqual(here.front_share, float(CIRCUIT.worked.values["lltd"]))
        self.assertIsNone(here.balance)
        rates = [rate for rate in found.front.rates if rate is not None]
        self.assertEqual(rates, sorted(rates, reverse=True))

    def test_holes_that_a_bar_has_not_are_no_rungs(self) -> None:
        short = circuit_car(bar={"front": Bar(0.025, 0.9, (0.2, 0.22), 0.6), "rear": Bar(0.0)})
        found = ladder(sheet(short, CIRCUIT_SETUP), self.SETTINGS)
        self.assertEqual(found.front.values, (1.0, 2.0))
        self.assertEqual((found.rear.setting, len(found.rungs[0])), ("", 1))

    def test_no_choice_at_all_is_refused_with_what_would_do(self) -> None:
        none = replace(circuit_car(), adjusters={})
        with self.assertRaisesRegex(Impossible, "No bar of this car has a choice"):
            ladder(sheet(none, CIRCUIT_SETUP), self.SETTINGS)
