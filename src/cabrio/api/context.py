"""What a request carries: its database session (one transaction), its actor and the time."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime

from flask import Flask, current_app, g, session
from flask_login import current_user
from sqlalchemy.orm import Session, sessionmaker

from cabrio.operations.actor import Actor
from cabrio.operations.people import actor_of

from . import once
from .problems import SignedOut


def install(app: Flask, maker: sessionmaker[Session] | None) -> None:
    """Give every request of this app its database session when it first asks for one."""
    app.extensions["cabrio_db"] = maker

    @app.teardown_appcontext
    def close(_: BaseException | None) -> None:
        if "db" in g:
            g.pop("db").close()


def database() -> Session:
    """The session of this request: who is signed in and what is asked for share one connection."""
    if "db" not in g:
        g.db = current_app.extensions["cabrio_db"]()
    found: Session = g.db
    return found


@contextmanager
def transaction() -> Iterator[Session]:
    """One transaction: saved whole at the end, or not at all; a request's key is saved with its work."""
    db = database()
    try:
        once.begin(db, now())
        yield db
        db.commit()
    except BaseException:
        db.rollback()
        raise


def actor() -> Actor:
    """Who is signed in. Raises SignedOut."""
    if not current_user.is_authenticated:
        raise SignedOut()
    return actor_of(current_user.person)


def understood() -> list[str]:
    """The stations whose caution was acknowledged in this sign-in."""
    found: list[str] = session.get("understood", [])
    return found


def now() -> datetime:
    clock: Callable[[], datetime] | None = current_app.config.get("CLOCK")
    return clock() if clock else datetime.now(UTC)
