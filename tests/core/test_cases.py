"""The worked cases, and that the runner itself can fail."""

import unittest

from .cases import cases, failures


class WorkedCases(unittest.TestCase):
    def test_every_case_holds(self) -> None:
        ran = 0
        for topic, case in cases():
            with self.subTest(f"{topic}: {case['name']}"):
                self.assertEqual(failures(topic, case), [])
            ran += 1
        self.assertGreaterEqual(ran, 20)

    def test_a_wrong_number_is_a_failure(self) -> None:
        topic, case = next(cases())
        wrong = case | {"expect": {"total_mass_kg": 1.0}}
        self.assertIn("total_mass_kg", failures(topic, wrong)[0])

    def test_a_refusal_that_does_not_come_is_a_failure(self) -> None:
        topic, case = next(cases())
        self.assertIn("should be refused", failures(topic, {**case, "expect_error": "no"})[0])
