"""Signing in, with attempts limited, and adding people."""

from __future__ import annotations

from datetime import datetime, timedelta

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy.orm import Session

from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.storage import people
from cabrio.storage.models import ROLES, Person, SignInAttempt

from .actor import Actor
from .errors import NotAllowed, TooManyTries

HASHER = PasswordHasher()
TRIES = 8
WINDOW = timedelta(minutes=15)
# A hash of nothing in use: an unknown address costs the same time as a wrong password.
NOBODY = HASHER.hash("nobody signs in with this")


def sign_in(db: Session, email: str, password: str, now: datetime) -> Person | None:
    """The person, or None where address or password do not fit. Failures are counted per address."""
    address = email.strip().lower()
    if people.failed_since(db, address, now - WINDOW) >= TRIES:
        raise TooManyTries("Too many tries with this address: wait a quarter of an hour.")
    person = people.person_by_email(db, address)
    try:
        HASHER.verify(person.password_hash if person else NOBODY, password)
    except (VerificationError, InvalidHashError):
        person = None
    if person is None:
        db.add(SignInAttempt(email=address, at=now))
    return person


def add_person(
    db: Session, *, team: str, name: str, email: str, password: str, role: str
) -> Person:
    """Add a person to a team, which is made if new. The password is kept only as an argon2 hash."""
    problems: list[CoreError] = []
    address = email.strip().lower()
    if role not in ROLES:
        problems.append(Impossible(f"A role is one of {', '.join(ROLES)}.", number="role"))
    if "@" not in address:
        problems.append(Impossible("That is no e-mail address.", number="email"))
    elif people.person_by_email(db, address):
        problems.append(Impossible("Somebody has this address already.", number="email"))
    if len(password) < 10:
        problems.append(Impossible("A password needs at least 10 characters.", number="password"))
    if not name.strip() or not team.strip():
        problems.append(Impossible("A name and a team are needed.", number="name"))
    if problems:
        raise Problems(problems)
    person = Person(
        team_id=people.team_named(db, team.strip()).id,
        name=name.strip(),
        email=address,
        password_hash=HASHER.hash(password),
        role=role,
    )
    db.add(person)
    db.flush()
    return person


def actor_of(person: Person) -> Actor:
    return Actor(person.id, person.team_id, person.name, person.role)


def demo_person(db: Session, person_id: int, *, demo: bool) -> Person:
    """One of the demo's people, by one press. Refused outside the demo."""
    person = people.person_by_id(db, person_id)
    if not demo or person is None:
        raise NotAllowed("Only the demo signs people in without a password.")
    return person
