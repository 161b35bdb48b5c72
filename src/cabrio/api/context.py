"""What a request carries: its database session (one transaction), its actor and the time."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from flask import current_app
from flask_login import current_user
from sqlalchemy.orm import Session, sessionmaker

from cabrio.operations.actor import Actor
from cabrio.operations.people import actor_of

from .problems import SignedOut


@contextmanager
def transaction() -> Iterator[Session]:
    """One transaction: saved whole at the end, or not at all."""
    maker: sessionmaker[Session] = current_app.extensions["cabrio_db"]
    with maker.begin() as db:
        yield db


def actor() -> Actor:
    """Who is signed in. Raises SignedOut."""
    if not current_user.is_authenticated:
        raise SignedOut()
    return actor_of(current_user.person)


def now() -> datetime:
    clock: Callable[[], datetime] | None = current_app.config.get("CLOCK")
    return clock() if clock else datetime.now(UTC)
