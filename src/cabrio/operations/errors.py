"""Refusals that are about people and records rather than about numbers."""

from __future__ import annotations

from typing import Any


class OperationError(Exception):
    """Base of these refusals: a code for programs, a sentence for people, and what a client may need with it."""

    code = "refused"

    def __init__(self, sentence: str, *, after: int | None = None, **data: Any) -> None:
        super().__init__(sentence)
        self.sentence = sentence
        self.after = after
        self.data = data


class NotFound(OperationError):
    """It does not exist, or is another team's, which is the same answer."""

    code = "not_found"


class NotAllowed(OperationError):
    """The person's role does not allow it."""

    code = "not_allowed"


class Conflict(OperationError):
    """Somebody, or another tab, was there first. `data` carries the difference."""

    code = "conflict"


class ChangedMeanwhile(OperationError):
    """What is corrected is no longer what its writer saw."""

    code = "changed_meanwhile"


class NotReady(OperationError):
    """The car is not ready to run, and nobody has signed for it. `data` says what stands against it."""

    code = "not_ready"


class CautionFirst(OperationError):
    """The step can hurt someone, and its caution has not been acknowledged in this sign-in."""

    code = "caution_first"


class TooManyTries(OperationError):
    """Too many sign-ins with this address were refused; `after` says when to come again."""

    code = "too_many_tries"


class Busy(OperationError):
    """It cannot be taken on at this moment; `after` says in how many seconds to come again."""

    code = "busy"
