"""The bound of every plain text that comes from outside: one length, one place."""

from __future__ import annotations

from cabrio.core.errors import OutOfRange
from cabrio.files.bounds import can_be_kept

MAX_TEXT_CHARS = 4000
MAX_NAME_CHARS = 120


def checked_text(text: str, field: str, most: int = MAX_TEXT_CHARS) -> str:
    """The text without its outer spaces. Raises OutOfRange where it is too long or cannot be kept."""
    text = text.strip()
    if len(text) > most:
        raise OutOfRange(
            f"At most {most} letters here, not {len(text)}.", number=field, allowed=f"up to {most}"
        )
    if not can_be_kept(text):
        raise OutOfRange("There is a character here that cannot be kept.", number=field)
    return text


def named(text: str, field: str) -> str:
    """A short name, bounded."""
    return checked_text(text, field, MAX_NAME_CHARS)


def one_line(text: str) -> str:
    """A short name on one line, single spaces within."""
    return " ".join(named(text, "name").split())
