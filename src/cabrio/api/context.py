"""What a request carries: its database session (one transaction), its actor and the time."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from contextlib import contextmanager
from datetime import UTC, datetime

from flask import Flask, current_app, g, request, session
from flask_login import current_user
from sqlalchemy.orm import Session, sessionmaker

from cabrio.operations.actor import Actor
from cabrio.operations.people import actor_of
from cabrio.storage import audit
from cabrio.storage.listening import ProgressNotifier

from . import idempotency
from .problems import SignedOut

MOST_OF_A_PATH = 200


def install(app: Flask, maker: sessionmaker[Session] | None) -> None:
    """Give every request of this app its database session when it first asks for one."""
    app.extensions["cabrio_db"] = maker

    @app.teardown_appcontext
    def close(_: BaseException | None) -> None:
        close_session()


def close_session() -> None:
    """Give this request's connection back."""
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
        if request.method != "GET":
            tell_who(db)
        idempotency.begin(db, now())
        yield db
        db.commit()
    except BaseException:
        db.rollback()
        raise


def tell_who(db: Session) -> None:
    """Say in this transaction who writes, for the record of what was done."""
    audit.tell_who(
        db,
        "nobody signed in",
        key=current_user.key if current_user.is_authenticated else "",
        request=f"{request.method} {request.path}"[:MOST_OF_A_PATH],
    )


def exported(db: Session, what: str, car_id: int | None = None) -> None:
    """Write down that something left the app, with who took it."""
    tell_who(db)
    audit.note(db, "exported", what, row=car_id, car=car_id)


def actor() -> Actor:
    """Who is signed in. Raises SignedOut."""
    if not current_user.is_authenticated:
        raise SignedOut()
    return actor_of(current_user.person)


def this_sign_in() -> int:
    """The sign-in of this browser."""
    found: int = current_user.sign_in_id
    return found


def working(steps: Sequence[str]) -> ProgressNotifier:
    """Tells this browser's pages how far long work is."""
    engine = current_app.extensions["cabrio_db"].kw["bind"]
    return ProgressNotifier(engine, this_sign_in(), steps)


def understood() -> list[str]:
    """The stations whose caution was acknowledged in this sign-in."""
    found: list[str] = session.get("understood", [])
    return found


def now() -> datetime:
    """The moment of this request, UTC."""
    clock: Callable[[], datetime] | None = current_app.config.get("CLOCK")
    return clock() if clock else datetime.now(UTC)
