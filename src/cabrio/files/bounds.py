"""The bound of everything that comes from outside, by request or by file: one place for both.

The OpenAPI document and the car file's schema tell the same bounds. What a person types is refused with
a sentence at its field by the core or the operations; these are the ends of what is looked at at all.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Mapping
from datetime import UTC, date, datetime
from typing import Annotated, Any

from pydantic import AfterValidator, AwareDatetime, Field

LARGEST_ID = 2**31 - 1
"""The largest number that names a row of the database."""
FIRST_DAY, LAST_DAY = date(1950, 1, 1), date(2100, 12, 31)
"""Nothing here was done before or is planned after."""
FIRST = datetime(FIRST_DAY.year, 1, 1, tzinfo=UTC)
BEYOND = datetime(LAST_DAY.year + 1, 1, 1, tzinfo=UTC)


def _within(moment: datetime) -> datetime:
    """Raises ValueError outside the days, whatever zone it was written in."""
    # compared as instants: one at the calendar's very end has no other zone to be written in
    if not FIRST <= moment < BEYOND:
        raise ValueError(f"a time from {FIRST_DAY.year} to {LAST_DAY.year} is expected")
    return moment


def not_kept(document: Any) -> str | None:
    """Where in a document a text stands that no database takes (a NUL, half of a pair of surrogates), as a path
    with "/"; None where there is none."""
    waiting = deque([("", document)])
    while waiting:
        path, one = waiting.popleft()
        if isinstance(one, dict):
            waiting += [(path, key) for key in one]
            waiting += [(f"{path}/{key}" if path else key, value) for key, value in one.items()]
        elif isinstance(one, list):
            waiting += [(f"{path}/{at}", value) for at, value in enumerate(one)]
        elif isinstance(one, str) and not can_be_kept(one):
            return path.encode(errors="replace").decode().replace("\0", "?")
    return None


def can_be_kept(text: str) -> bool:
    """Whether PostgreSQL can keep a text: no NUL, no half of a surrogate pair."""
    try:
        return b"\0" not in text.encode()
    except UnicodeEncodeError:
        return False


PLAIN_WORDS = {
    "string_too_long": "at most {max_length} letters are kept here",
    "too_long": "at most {max_length} are taken at once",
    "greater_than_equal": "it must be at least {ge}",
    "less_than_equal": "it must be at most {le}",
    "timezone_aware": "a time needs its zone, such as 2026-05-01T09:00+02:00",
    "value_error": "{error}",
    "missing": "it is missing",
    "extra_forbidden": "there is no such field",
}
"""What is said of a value out of its bounds, in plain words; the rest is said as it comes."""


def error_message(error: Mapping[str, Any]) -> str:
    """One of pydantic's errors in words."""
    words = PLAIN_WORDS.get(error["type"])
    return words.format(**error.get("ctx", {})) if words else str(error["msg"])


def is_moment(text: str) -> bool:
    """Whether a text tells a time with its zone, between the first day and the last."""
    try:
        moment = datetime.fromisoformat(text)
        return moment.tzinfo is not None and bool(_within(moment))
    except ValueError:
        return False


Id = Annotated[int, Field(ge=1, le=LARGEST_ID)]
Version = Annotated[int, Field(ge=0, le=LARGEST_ID)]
Day = Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]
Moment = Annotated[
    AwareDatetime,
    AfterValidator(_within),
    Field(description=f"With its zone; from {FIRST_DAY.year} to {LAST_DAY.year}."),
]
Word = Annotated[str, Field(max_length=60)]
"""An id of a list, a code, a place."""
Name = Annotated[str, Field(max_length=120)]
Note = Annotated[str, Field(max_length=4000)]
"""What is said in sentences."""
Table = Annotated[str, Field(max_length=200_000)]
"""A table pasted as text."""
Typed = Annotated[str, Field(max_length=200)] | float | None
"""A value as typed (text with any unit) or as SI. The core refuses more than 60 letters with a sentence."""
Laps = Annotated[int, Field(ge=0, le=10_000)]
Confidence = Annotated[int, Field(ge=1, le=5)]
Kelvin = Annotated[float, Field(gt=220, lt=360)]
"""A temperature outdoors."""
Secret = Annotated[str, Field(max_length=1000)]

Row = Annotated[list[Typed], Field(max_length=12)]
"""A value for every place a number has."""
Repeats = Annotated[list[Row], Field(max_length=40)]
"""One row a settle."""
PartValue = Note | bool | float | Annotated[list[Row], Field(max_length=600)] | None
"""A field of a part: one value as typed, or the rows of its table."""
