"""Who is signed in: the sign-in of this request, from the key that the browser holds."""

from __future__ import annotations

from typing import Any

from flask import Flask, Response, current_app, g, request
from flask_login import LoginManager, UserMixin, login_user, logout_user
from sqlalchemy import update
from sqlalchemy.orm import Session

from cabrio.operations import sign_in
from cabrio.operations.errors import TooManyTries
from cabrio.operations.sign_in import Visitor
from cabrio.storage.models import Person, SignIn

from . import context, problems

LISTENING = ("done.changes", "done.stream")
"""What a page asks by itself: a window left open does not keep its sign-in alive."""


class SignedIn(UserMixin):
    """A person and the sign-in that lets them in, as Flask-Login wants to hold one."""

    def __init__(self, key: str, person: Person, sign_in_id: int) -> None:
        self.key = key
        self.person = person
        self.sign_in_id = sign_in_id
        # read while the database session is open: what fails takes it along
        self.person_id, self.team = person.id, person.team.name

    def get_id(self) -> str:
        return self.key


def visitor() -> Visitor:
    """Where this request comes from, as its sign-in is kept: the address and the browser."""
    return sign_in.visitor(request.remote_addr or "", request.user_agent.string)


def enter(db: Session, person: Person) -> SignedIn:
    """Sign a person in with this browser, under a key of its own."""
    key = sign_in.begin(db, person, visitor(), context.now())
    found = sign_in.current(db, key, context.now())
    assert found is not None
    entered = SignedIn(key, person, found.id)
    login_user(entered)
    context.tell_who(db)  # it is this person who signed in, from here on
    return entered


def leave(db: Session, who: SignedIn | None) -> None:
    """End this browser's sign-in, here and in the database: a copy of its cookie is worth nothing then."""
    if who is not None:
        sign_in.end(db, who.person.id, who.sign_in_id, context.now())
    logout_user()


def install(app: Flask) -> None:
    """Tell the app who is signed in, by the key in the session cookie."""
    manager = LoginManager(app)
    manager.session_protection = None  # a tablet changes its address; the database ends a sign-in

    @manager.user_loader
    def load(key: str) -> Any:
        found = sign_in.current(context.database(), key, context.now())
        if found is None:
            return None
        used = request.endpoint not in LISTENING
        if used and context.now() - found.seen_at >= sign_in.SEEN_EVERY:
            g.seen = found.id
        return SignedIn(key, found.person, found.id)

    @manager.unauthorized_handler
    def signed_out() -> None:
        raise problems.SignedOut()

    @app.after_request
    def seen(response: Response) -> Response:
        """Write down, once a minute, that the sign-in is in use: once the request's own work is over, so that
        no request waits with one connection for another."""
        if "seen" in g:
            context.close_session()
            now = context.now()
            with current_app.extensions["cabrio_db"].begin() as apart:
                here = (SignIn.id == g.pop("seen")) & (SignIn.seen_at < now)
                apart.execute(update(SignIn).where(here).values(seen_at=now))
        return response


def counted_try(email: str) -> None:
    """Count one try to say a password, kept by itself: whoever is refused has tried, too. Raises TooManyTries."""
    refused: TooManyTries | None = None
    with context.transaction() as db:
        try:
            sign_in.count_try(db, email, visitor(), context.now())
        except TooManyTries as too_many:
            refused = too_many
    if refused is not None:
        raise refused


def take_back(email: str) -> None:
    """Take a counted try back where no password was looked at."""
    with context.transaction() as db:
        sign_in.take_back(db, email, visitor())
