"""Bite per flat learned from a car's own pads: what counts, what it predicts, what it asks for."""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.car.lines import Line
from cabrio.core.errors import Impossible, Missing
from cabrio.core.questions import ask
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet, build
from cabrio.core.sheet.what_if import try_lines

from .whole_car import DRAG_SETUP, KNOWN, drag_car

GOOD = dict.fromkeys(
    ("driver_aboard", "bars_free", "pressures_set", "pads_zeroed", "settled"), True
)
PER_FLAT = -11.0


def pads(number: int, revision: int, flats: float, **other: Any) -> Reading:
    """Pads of a car whose bite is 11 kg a flat, to the left with minus."""
    half = 0.5 * PER_FLAT * flats
    row = [280.0 - half, 262.0 + half, 238.0 + half, 238.0 - half]
    taken = {"conditions": GOOD} | other
    at = f"2026-05-{number:02d}T09:00"
    return Reading(number, "pads", revision, "Kit", at, {"pad_mass": [row]}, **taken)


def read_at(*flats: float, now: float | None = None, **changed: Any) -> Sheet:
    """The drag car with pads read once at each number of flats, a revision each; `changed` is what the
    first of them wore otherwise."""
    revisions = [
        Revision(i, DRAG_SETUP | {"link_preload": [flat]} | (changed if i == 1 else {}))
        for i, flat in enumerate(flats, 1)
    ]
    heights = Reading(
        90, "heights", 1, "Kit", "2026-05-01T08:00", {"ride_height": [KNOWN["ride_height"]]}, GOOD
    )
    readings = [heights, *(pads(i, i, flat) for i, flat in enumerate(flats, 1))]
    setup = DRAG_SETUP | {"link_preload": [flats[-1] if now is None else now]}
    return build(drag_car(), setup, readings, revisions)


class Learned(unittest.TestCase):
    def test_two_readings_make_a_line_and_say_how_far_it_may_be_off(self) -> None:
        bite = read_at(0.0, -1.0).bite
        assert bite is not None and bite.error is not None
        self.assertAlmostEqual(bite.per_flat, PER_FLAT)
        self.assertEqual((bite.count, bite.scatter), (2, None))
        # two pads a reading, half a kilogram each, a flat apart
        self.assertAlmostEqual(bite.error, 0.5 * 2**0.5 / 0.5**0.5)
        wider = read_at(1.0, -1.0).bite
        assert wider is not None and wider.error is not None
        self.assertAlmostEqual(wider.error, bite.error / 2)

    def test_readings_of_another_car_do_not_count(self) -> None:
        self.assertIsNone(read_at(-1.0, -1.0).bite)
        springs = [*DRAG_SETUP["spring"]]
        springs[2] = springs[0]
        self.assertIsNone(read_at(0.0, -1.0, spring=springs).bite)
        clicks = {"rebound_clicks": [3.0] * 4}
        self.assertIsNotNone(read_at(0.0, -1.0, **clicks).bite)

    def test_a_reading_with_a_condition_unmet_or_withdrawn_does_not_count(self) -> None:
        here = read_at(0.0, -1.0)
        revisions = [Revision(i, DRAG_SETUP | {"link_preload": [-1.0 * (i - 1)]}) for i in (1, 2)]
        for spoilt in (
            pads(2, 2, -1.0, conditions=GOOD | {"bars_free": False}),
            replace(pads(2, 2, -1.0), withdrawn_at="2026-05-03T09:00"),
        ):
            found = build(here.car, here.setup, [pads(1, 1, 0.0), spoilt], revisions)
            self.assertIsNone(found.bite)


class Asked(unittest.TestCase):
    def test_flats_for_a_bite_give_it(self) -> None:
        car = read_at(0.0, -1.0)
        best = ask(car, "flats_for_bite", {"rear_bite": 16.5})[0]
        self.assertEqual([(line.old, line.new) for line in best.lines], [(-1.0, -1.5)])
        after = next(
            shown_figure.after for shown_figure in best.shows if shown_figure.name == "rear_bite"
        )
        self.assertAlmostEqual(after or 0.0, 16.5)
        self.assertIn("from 2 readings", best.notes[0])

    def test_past_two_flats_it_is_refused_with_what_would_do(self) -> None:
        with self.assertRaisesRegex(Impossible, "beyond two flats move mass"):
            ask(read_at(0.0, -1.0), "flats_for_bite", {"rear_bite": 60.0})

    def test_nobody_guesses_what_was_not_read(self) -> None:
        with self.assertRaisesRegex(Missing, "at neutral and at a flat"):
            ask(read_at(-1.0), "flats_for_bite", {"rear_bite": 10.0})

    def test_the_slip_predicts_the_pads_by_it(self) -> None:
        car = read_at(0.0, -1.0)
        line = Line("link_preload", "car", -1.0, -0.5)
        trial = try_lines(car, [line])
        self.assertIn("pad_mass", trial.predicted)
        moved = trial.worked.values["pad_mass"] - car.worked.values["pad_mass"]
        np.testing.assert_allclose(moved[2:], [0.25 * PER_FLAT, -0.25 * PER_FLAT])
        self.assertAlmostEqual(float(moved.sum()), 0.0)
        # and a trial of the trial goes by the same
        again = try_lines(trial.as_sheet, [replace(line, old=-0.5, new=0.0)])
        self.assertIn("pad_mass", again.predicted)
        unknown = try_lines(read_at(-1.0), [line]).unknown
        self.assertIn("Bite per flat", unknown[0].sentence)
