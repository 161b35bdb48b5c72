"""The core's own refusals. Each carries what, where, the value and what would do.

No HTTP here: the edges decide how a refusal is shown.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any


class CoreError(Exception):
    """Base of every refusal: a stable code for programs, a plain sentence for people."""

    code = "refused"

    def __init__(
        self,
        sentence: str,
        *,
        number: str | None = None,
        place: str | None = None,
        value: Any = None,
        allowed: str | None = None,
    ) -> None:
        super().__init__(sentence)
        self.sentence = sentence
        self.number = number
        self.place = place
        self.value = value
        self.allowed = allowed


class UnknownName(CoreError):
    """A number, place, part or reading that the vocabulary does not have."""

    code = "unknown_name"


class NotANumber(CoreError):
    """Text that is no number, or a number that is not finite."""

    code = "not_a_number"


class UnknownUnit(CoreError):
    """A unit that is unknown, or of another quantity than the one asked for."""

    code = "unknown_unit"


class OutOfRange(CoreError):
    """A value outside what the number may ever be."""

    code = "out_of_range"


class Unusual(CoreError):
    """Possible, but so far from the usual that it must be confirmed."""

    code = "unusual"


class Missing(CoreError):
    """A value without which a question cannot be answered."""

    code = "missing"


class Impossible(CoreError):
    """Values that contradict each other or physics."""

    code = "impossible"


class Problems(CoreError):
    """Several refusals found in one go, so that all are shown at once."""

    code = "problems"

    def __init__(self, problems: list[CoreError]) -> None:
        super().__init__(" ".join(problem.sentence for problem in problems))
        self.problems = problems


@contextmanager
def collected(problems: list[CoreError]) -> Iterator[None]:
    """Add what the block is refused for to the problems, each by itself, and go on after it."""
    try:
        yield
    except Problems as several:
        problems += several.problems
    except CoreError as problem:
        problems.append(problem)
