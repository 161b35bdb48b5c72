"""Whether arguments of a formula are finite, above zero or not below it."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from .arrays import Array
from .errors import OutOfRange


def _all(values: Mapping[str, Any]) -> Array:
    """Every number of every value in one row: looked at once, where nothing is wrong with any."""
    rows = [np.ravel(np.asarray(value, np.float64)) for value in values.values()]
    return np.concatenate([np.zeros(0), *rows])


def finite(**values: Any) -> None:
    """Raise OutOfRange, by name, for a number or an array of numbers that is not finite."""
    if np.isfinite(_all(values)).all():
        return
    for name, value in values.items():
        if not np.all(np.isfinite(np.asarray(value, dtype=np.float64))):
            raise OutOfRange(
                f"The {name.replace('_', ' ')} must be a finite number.",
                number=name,
                value=value,
                allowed="any finite number",
            )


def above_zero(**values: Any) -> None:
    """Raise OutOfRange, by name, for a number or an array of numbers that is not finite and above zero."""
    every = _all(values)
    if ((every > 0) & (every < np.inf)).all():
        return
    for name, value in values.items():
        numbers = np.asarray(value, dtype=np.float64)
        if not (np.all(np.isfinite(numbers)) and np.all(numbers > 0)):
            raise OutOfRange(
                f"The {name.replace('_', ' ')} must be above zero.",
                number=name,
                value=value,
                allowed="above 0",
            )


def not_below_zero(**values: Any) -> None:
    """Raise OutOfRange, by name, for a number or an array of numbers below zero; without a limit is fine."""
    if (_all(values) >= 0).all():
        return
    for name, value in values.items():
        if not np.all(np.asarray(value, dtype=np.float64) >= 0):
            raise OutOfRange(
                f"The {name.replace('_', ' ')} cannot be below zero.",
                number=name,
                value=value,
                allowed="0 and above",
            )
