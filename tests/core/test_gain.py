"""A gain learned from changes that were weighed."""

import unittest
from dataclasses import replace

import numpy as np

from cabrio.core.car.lines import Line
from cabrio.core.questions.weights import turns_for_cross
from cabrio.core.record.gain import Gain, gain
from cabrio.core.record.readings import Reading
from cabrio.core.sheet.build import Revision, Sheet
from cabrio.core.sheet.ledger import learned_perches, ledger
from cabrio.core.sheet.what_if import try_lines

from .whole_car import CIRCUIT_SETUP, KNOWN, circuit_car, sheet


class Learned(unittest.TestCase):
    def test_a_car_that_does_less_than_the_model_is_found_out(self) -> None:
        chance = np.random.default_rng(2)
        within = 0
        for _ in range(300):
            predicted = chance.uniform(-40, 40, 6)
            found = gain(predicted, 0.8 * predicted + chance.normal(0, 2.0, 6))
            assert found is not None
            within += abs(found.share - 0.8) < 2 * found.error
        # about as often as a standard error promises with five degrees of freedom
        self.assertTrue(0.84 < within / 300 < 0.97, within)

    def test_one_that_does_as_predicted_claims_nothing(self) -> None:
        found = gain([10.0, -20.0, 15.0], [10.4, -19.5, 14.2])
        assert found is not None
        self.assertFalse(found.sure)
        self.assertEqual(found.count, 3)
        clear = gain([10.0, -20.0, 15.0], [7.0, -14.1, 10.4])
        assert clear is not None
        self.assertTrue(clear.sure)
        self.assertAlmostEqual(clear.share, 0.7, 2)

    def test_two_weighings_are_not_sure(self) -> None:
        self.assertIsNone(gain([10.0, -20.0], [7.0, -15.0]))

    def test_too_few_or_nothing_predicted(self) -> None:
        self.assertIsNone(gain([10.0], [9.0]))
        self.assertIsNone(gain([0.0, 0.0], [1.0, -1.0]))


class OfPerches(unittest.TestCase):
    """A car whose perches really move 0.8 of what is worked: learned from its record, and gone by."""

    TURNS = ((0.0, 0.0), (2.0, -2.0), (-1.0, 1.0), (3.0, -2.0))
    SCATTER = (0.0, 0.3, -0.2, 0.25)

    def setUp(self) -> None:
        self.plain = sheet(circuit_car(), CIRCUIT_SETUP)
        base = list(self.plain.value("pad_mass") or [])
        self.revisions, self.readings = [], []
        for i, ((left, right), off) in enumerate(zip(self.TURNS, self.SCATTER, strict=True)):
            setup = CIRCUIT_SETUP | {"perch_turns": [left, right, 0.0, 0.0]}
            worked = self.pads(self.plain, self.lines(left, right))
            weighed = [was + 0.8 * (now - was) for was, now in zip(base, worked, strict=True)]
            weighed = [one + sign * off for one, sign in zip(weighed, (1, -1, -1, 1), strict=True)]
            self.revisions.append(Revision(i + 1, setup))
            self.readings.append(
                Reading(10 + i, "pads", i + 1, "Kit", f"2026-05-0{i + 1}", {"pad_mass": [weighed]})
            )
        self.readings.append(
            Reading(9, "heights", 1, "Kit", "2026-05-01", {"ride_height": [KNOWN["ride_height"]]})
        )

    def lines(self, left: float, right: float) -> list[Line]:
        turned = {"LF": left, "RF": right}
        return [Line("perch_turns", place, 0.0, by) for place, by in turned.items() if by]

    def pads(self, of: Sheet, lines: list[Line]) -> list[float]:
        return [float(value) for value in try_lines(of, lines).worked.values["pad_mass"]]

    def test_the_record_tells_the_share(self) -> None:
        found = learned_perches(circuit_car(), self.readings, self.revisions)
        assert found is not None
        self.assertEqual(found.count, 3)
        self.assertAlmostEqual(found.share, 0.8, delta=0.03)
        self.assertTrue(found.usable)
        steps = ledger(circuit_car(), self.readings, self.revisions)
        self.assertEqual([step.reading.revision for step in steps], [4, 3, 2])
        # no other change counts: with a spring swapped in between there are two left
        self.revisions[2].setup["spring"] = ["70/200", *CIRCUIT_SETUP["spring"][1:]]
        fewer = learned_perches(circuit_car(), self.readings, self.revisions)
        self.assertTrue(fewer is None or fewer.count < 3)

    def test_what_is_tried_goes_by_it(self) -> None:
        told = replace(self.plain, perches=Gain(0.8, 0.02, 3), _kept={})
        lines = self.lines(2.0, -2.0)
        plain, by = try_lines(self.plain, lines), try_lines(told, lines)
        base = np.array(self.plain.value("pad_mass"))
        expected, found = (one.worked.values["pad_mass"] - base for one in (plain, by))
        np.testing.assert_allclose(found.sum(), expected.sum(), atol=1e-9)
        round_ = np.array([1, -1, -1, 1])
        self.assertAlmostEqual(found @ round_ / (expected @ round_), 0.8, 2)
        # no moment of the weight is made: neither axle, neither side gains
        wheelbase, tracks = KNOWN["wheelbase"][0], KNOWN["track"]
        off = found - expected
        self.assertAlmostEqual(float(off[2:].sum()) * wheelbase, 0.0, 9)
        aside = (off[0] - off[1]) * tracks[0] + (off[2] - off[3]) * tracks[1]
        self.assertAlmostEqual(float(aside), 0.0, 9)
        np.testing.assert_array_equal(
            by.worked.values["ride_height"], plain.worked.values["ride_height"]
        )
        self.assertIn("80 %", by.notes[0])
        self.assertEqual(plain.notes, ())

    def test_turns_for_a_cross_reach_it_on_that_car(self) -> None:
        told = replace(self.plain, perches=Gain(0.8, 0.02, 3), _kept={})
        here = (told.value("cross_share") or [])[0]
        best = turns_for_cross(told, here + 0.01)[0]
        after = try_lines(told, best.lines).value("cross_share")
        assert after is not None
        self.assertAlmostEqual(float(after), here + 0.01, 3)
        self.assertTrue(any("80 %" in note for note in best.notes))
        most = [abs(line.new) for line in best.lines]
        plain = [abs(line.new) for line in turns_for_cross(self.plain, here + 0.01)[0].lines]
        self.assertGreater(sum(most), sum(plain))

    def test_what_is_far_off_is_no_gain_but_a_fault(self) -> None:
        self.assertFalse(Gain(0.3, 0.02, 4).usable)
        self.assertFalse(Gain(0.97, 0.02, 4).usable)
        self.assertTrue(Gain(1.2, 0.05, 4).usable)
