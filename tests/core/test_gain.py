"""A gain learned from changes that were weighed."""

import unittest

import numpy as np

from cabrio.core.record.gain import gain


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

    def test_too_few_or_nothing_predicted(self) -> None:
        self.assertIsNone(gain([10.0], [9.0]))
        self.assertIsNone(gain([0.0, 0.0], [1.0, -1.0]))
