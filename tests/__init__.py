"""Every check of the project; `./cabrio test` runs them all."""

from hypothesis import settings

# The same examples at every run, and no example judged by the clock.
settings.register_profile("cabrio", deadline=None, derandomize=True, max_examples=50)
settings.load_profile("cabrio")
