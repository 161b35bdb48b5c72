"""The examples in the docstrings of formulas and places are what these give."""

import doctest
import unittest

import numpy as np

from cabrio.core.catalog import places
from cabrio.core.figures import SUBJECTS


class Examples(unittest.TestCase):
    def test_each_gives_what_stands_under_it(self) -> None:
        tried = 0
        for module in (*SUBJECTS, places):
            found = doctest.testmod(module, extraglobs={"np": np})
            self.assertEqual(found.failed, 0, module.__name__)
            tried += found.attempted
        self.assertGreater(tried, 80)


if __name__ == "__main__":
    unittest.main()
