"""Every check of the project; `./cabrio test` runs them all."""

import os

from hypothesis import settings

RANDOM = "CABRIO_RANDOM_EXAMPLES"
"""Set where properties are to be tried on other examples than the fixed ones."""
SAME_EXAMPLES = RANDOM not in os.environ

# The same examples at every run but where others are asked for, and no example judged by the clock.
settings.register_profile("cabrio", deadline=None, derandomize=SAME_EXAMPLES, max_examples=50)
settings.load_profile("cabrio")
