"""Versions of what is written down: whoever corrects it says which one they saw, so that nobody's work is lost."""

from __future__ import annotations

from datetime import date, datetime
from hashlib import sha256
from typing import Any

from sqlalchemy import LargeBinary, inspect
from sqlalchemy.orm import DeclarativeBase, object_session

from .errors import ChangedMeanwhile

TAG_CHARS = 16


def version_of(thing: Any) -> str:
    """A tag that is another one once anything of a row, or of a part of the car, was changed."""
    content = _columns(thing) if isinstance(thing, DeclarativeBase) else thing
    return sha256(repr(content).encode()).hexdigest()[:TAG_CHARS]


def _columns(row: DeclarativeBase) -> list[tuple[str, Any]]:
    """What stands in a row but for a file in it, which never changes."""
    named = ((column.key, column.columns[0].type) for column in inspect(type(row)).column_attrs)
    names = sorted(name for name, type in named if not isinstance(type, LargeBinary))
    return [(name, _plain(getattr(row, name))) for name in names]


def _plain(value: Any) -> Any:
    """A value as it is written alike before and after the database had it."""
    if isinstance(value, datetime):
        return value.timestamp()
    if isinstance(value, dict):
        return sorted(value.items())
    return value.isoformat() if isinstance(value, date) else value


def check_version(thing: Any, seen: str | None, what: str) -> None:
    """Raise ChangedMeanwhile where a thing is not as its writer saw it; None where they did not say.

    A row is read anew and held until the end of the transaction: of two writers at one moment, one is told.
    """
    if seen is None:
        return
    if isinstance(thing, DeclarativeBase) and (db := object_session(thing)) is not None:
        db.refresh(thing, with_for_update=True)
    if seen != version_of(thing):
        raise ChangedMeanwhile(
            f"Somebody changed this {what} meanwhile: it is shown as it stands now. What you typed is still "
            "here: look at both, then save it again."
        )
