"""What is typed into a panel's own field: checked as its number, refused at the field."""

from __future__ import annotations

from cabrio.core.catalog.checks import check_value
from cabrio.core.catalog.quantities import Number
from cabrio.core.errors import CoreError


def typed(number: Number, text: object, profile: str, field: str, place: str = "car") -> float:
    """As SI, an unusual value taken as it is. Raises what `check_value` does, pointing at `field`."""
    typed = text if isinstance(text, str | float | int) else ""
    try:
        return check_value(number, place, typed, profile, confirmed=True)
    except CoreError as problem:
        problem.number, problem.place = field, None
        raise
