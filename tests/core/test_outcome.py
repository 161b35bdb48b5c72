"""What is claimed of two sets of runs, and what is not."""

from __future__ import annotations

import unittest

import numpy as np
from scipy.stats import ttest_ind

from cabrio.core.record.outcome import RunSeen, compare


def runs(*times: float, **more: str) -> list[RunSeen]:
    return [RunSeen(time, **more) for time in times]


class Claims(unittest.TestCase):
    def test_a_difference_is_claimed_just_where_a_t_test_would(self) -> None:
        chance = np.random.default_rng(4)
        claimed = 0
        for _ in range(200):
            a = chance.normal(92.0, 0.3, chance.integers(2, 6)).tolist()
            b = chance.normal(91.7, 0.3, chance.integers(2, 6)).tolist()
            found = compare(runs(*a), runs(*b))
            self.assertEqual(found.beyond, ttest_ind(a, b).pvalue < 0.05)
            claimed += found.beyond
        self.assertTrue(20 < claimed < 180)

    def test_quicker_is_above_zero_and_said_so(self) -> None:
        found = compare(runs(92.0, 92.1, 91.9), runs(91.0, 91.1, 90.9))
        self.assertAlmostEqual(found.gain or 0.0, 1.0)
        self.assertIn("1.00 s quicker, outside of the run-to-run scatter.", found.sentence)
        back = compare(runs(91.0, 91.1, 90.9), runs(92.0, 92.1, 91.9))
        self.assertIn("slower", back.sentence)

    def test_nothing_is_said_of_one_run_each_or_none(self) -> None:
        self.assertIn("not known", compare(runs(92.0), runs(91.0)).sentence)
        self.assertIn("No timed run before", compare([], runs(91.0)).sentence)
        self.assertIn("No timed run after", compare(runs(91.0), []).sentence)
        inside = compare(runs(92.0, 92.6), runs(91.9, 92.4))
        self.assertIn("no difference can be claimed", inside.sentence)

    def test_what_else_was_different_is_listed(self) -> None:
        before = [RunSeen(92.0, "Mara", "set 3", "dry", 290.0, 300.0, "Practice")]
        after = [RunSeen(91.0, "Teo", "set 4", "dry", 291.0, 310.0, "Race")]
        found = compare(before * 2, after * 2)
        said = " ".join(found.confounders)
        for words in (
            "driver: Mara, then Teo",
            "tyres: set 3",
            "track: 10 degrees warmer",
            "session",
        ):
            self.assertIn(words, said)
        self.assertNotIn("surface", said)
        self.assertNotIn("air", said)
        self.assertEqual(compare(before, before).confounders, ())
        # the same set, noted of one run only, is no other set
        noted = [RunSeen(92.0, tyres="set 2"), RunSeen(92.1)]
        self.assertEqual(compare(noted, [RunSeen(91.9, tyres="set 2 ")] * 2).confounders, ())


class LikeWithLike(unittest.TestCase):
    """What once was a false gain: passes lifted early, and times that fell run by run anyway."""

    def test_passes_lifted_early_are_compared_as_far_as_all_went(self) -> None:
        full = {"60 ft": 1.40, "1/8 mile": 6.21, "1/4 mile": 9.79}
        before = [RunSeen(9.79, marks=full, order=i) for i in range(2)]
        after = [RunSeen(1.41, marks={"60 ft": 1.41}, order=2 + i) for i in range(2)]
        found = compare(before, after)
        self.assertAlmostEqual(found.gain or 0.0, -0.01)
        self.assertIn("0.01 s slower to 60 ft", found.sentence)
        nothing = compare(before, [RunSeen(4.0, marks={"330 ft": 4.0})])
        self.assertFalse(nothing.beyond)
        self.assertIn("not timed to one same mark", nothing.sentence)

    def test_a_trend_is_no_gain(self) -> None:
        times = [10.0 - 0.1 * i for i in range(8)]
        seen = [RunSeen(time, order=i) for i, time in enumerate(times)]
        found = compare(seen[:4], seen[4:])
        self.assertAlmostEqual(found.gain or 0.0, 0.4)
        self.assertFalse(found.beyond)
        self.assertIn("run by run", found.sentence)
        steps = [RunSeen(10.0 - 0.4 * (i > 3) + 0.01 * (i % 2), order=i) for i in range(8)]
        self.assertTrue(compare(steps[:4], steps[4:]).beyond)
        # there and back again: the trend cancels out
        aba = [RunSeen(9.5 + 0.01 * i, order=2 + i) for i in range(2)]
        around = [RunSeen(10.0 + 0.01 * i, order=i) for i in (0, 1, 4, 5)]
        self.assertTrue(compare(around, aba).beyond)
