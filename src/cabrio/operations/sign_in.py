"""Signing in and staying signed in: tries limited, every sign-in in the database and ended from there."""

from __future__ import annotations

import secrets
import threading
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime, timedelta
from hashlib import sha256
from ipaddress import ip_address, ip_network

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from sqlalchemy.orm import Session

from cabrio.storage import audit, people
from cabrio.storage.models import Person, SignIn

from .errors import Busy, NotFound, TooManyTries

HASHER = PasswordHasher(parallelism=1)  # one lane: a guess takes one core, not all of them
# A hash of nothing in use: an unknown address costs the same time as a wrong password.
NOBODY = HASHER.hash("nobody signs in with this")

WINDOW = timedelta(minutes=15)
TRIES, TRIES_MACHINE, TRIES_ADDRESS = 8, 40, 60
"""In a window: at one address from one machine, from one machine, and at one address from wherever. The last
is not held against a machine that the person was signed in from: nobody can lock another one out."""
KNOWN = timedelta(days=90)

IDLE, MAX_SIGN_IN_AGE = timedelta(hours=16), timedelta(days=14)
"""A sign-in ends that long after it was last used, and that long after it began: a race day, two weeks."""
SEEN_EVERY = timedelta(minutes=1)
"""How exactly it is written down when a sign-in was last used."""
LONGEST_BROWSER = 200


@dataclass(frozen=True)
class Visitor:
    """Where a request comes from: the machine's address and what its browser calls itself."""

    machine: str = ""
    browser: str = ""


def visitor(address: str, browser: str) -> Visitor:
    """An IPv6 machine has a whole network of addresses: it counts as one."""
    try:
        if ip_address(address).version == 6:
            address = str(ip_network((address, 64), strict=False))
    except ValueError:
        address = "unknown"
    return Visitor(address, browser[:LONGEST_BROWSER])


class Hashing:
    """Passwords are hashed one at a time, beside everything else; a few may wait for it."""

    def __init__(self, waiting: int = 5) -> None:
        self._one = threading.Lock()
        self._room = threading.BoundedSemaphore(waiting + 1)

    @contextmanager
    def turn(self) -> Iterator[None]:
        """Raises Busy where too many wait."""
        if not self._room.acquire(blocking=False):
            raise Busy(
                "Too many people sign in at this moment: try again in a few seconds.", after=3
            )
        try:
            with self._one:
                yield
        finally:
            self._room.release()


HASHING = Hashing()


def hashed(password: str) -> str:
    """A password's hash. A few are worked at once, for each takes a lot of memory."""
    with HASHING.turn():
        return HASHER.hash(password)


def fits(person: Person | None, password: str) -> bool:
    """Whether it is this person's password; as slow where there is no such person."""
    known = person.password_hash if person and person.password_hash else NOBODY
    try:
        with HASHING.turn():
            HASHER.verify(known, password)
    except (VerificationError, InvalidHashError):
        return False
    return person is not None and known != NOBODY and person.disabled_at is None


def count_try(db: Session, email: str, where: Visitor, now: datetime) -> None:
    """Count one try. Raises TooManyTries with the seconds to wait; what was counted has to be kept then, too."""
    address = email.strip().lower()
    both, machine, anywhere = _counted(address, where)
    # who is held makes no rows of made-up addresses
    held = people.tried(db, machine, now - WINDOW) > TRIES_MACHINE
    counted = (machine,) if held else (both, machine, anywhere)
    tries = people.count_tries(db, counted, now, now - WINDOW)
    over = [
        began
        for of, most in ((both, TRIES), (machine, TRIES_MACHINE), (anywhere, TRIES_ADDRESS))
        if of in tries
        for count, began in [tries[of]]
        if count > most
        and not (of == anywhere and people.knows_machine(db, address, where.machine, now - KNOWN))
    ]
    if over:
        wait = max(1, round((max(over) + WINDOW - now).total_seconds()))
        raise TooManyTries(
            f"Too many tries: wait {max(1, round(wait / 60))} min, then try again.", after=wait
        )


def _counted(address: str, where: Visitor) -> tuple[str, str, str]:
    return f"{address} from {where.machine}", f"from {where.machine}", address


def sign_in(db: Session, email: str, password: str, where: Visitor, now: datetime) -> Person | None:
    """The person, or None where address or password do not fit. The try was counted before."""
    address = email.strip().lower()
    person = people.person_by_email(db, address)
    if not fits(person, password):
        return None
    assert person is not None
    forgive(db, address, where)
    people.forget_tries(db, now - 2 * WINDOW)
    if HASHER.check_needs_rehash(person.password_hash):
        person.password_hash = hashed(password)
    return person


def forgive(db: Session, email: str, where: Visitor) -> None:
    """Let the tries at one address from one machine count no more, and one less elsewhere: this one fitted."""
    both, machine, anywhere = _counted(email.strip().lower(), where)
    people.give_back(db, both, (machine, anywhere))


def take_back(db: Session, email: str, where: Visitor) -> None:
    """Take one counted try back: no password was looked at."""
    people.give_back(db, "", _counted(email.strip().lower(), where))


def write_down_refused(db: Session, email: str, where: Visitor) -> None:
    """Keep, in the record of the person's team where there is one, that somebody could not sign in."""
    address = email.strip().lower()
    person = people.person_by_email(db, address)
    audit.tell_who(db, "nobody signed in", team=person.team_id if person else None)
    audit.note(
        db,
        "was refused",
        "sign_in",
        about={"machine": where.machine},
        row=person.id if person else None,
    )


def begin(db: Session, person: Person, where: Visitor, now: datetime) -> str:
    """A new sign-in of a person: its key, which is told once and held by the browser."""
    key = secrets.token_urlsafe(32)
    db.add(
        SignIn(
            person_id=person.id,
            key_hash=key_hash(key),
            machine=where.machine,
            browser=where.browser,
            began_at=now,
            seen_at=now,
        )
    )
    db.flush()
    return key


def key_hash(key: str) -> str:
    """Of a long random key: a fast hash is enough, nobody guesses it."""
    return sha256(key.encode()).hexdigest()


def current(db: Session, key: str, now: datetime) -> SignIn | None:
    """The sign-in of a key, while it lasts."""
    found = people.sign_in_of(db, key_hash(key))
    if (
        found is None
        or found.ended_at is not None
        or found.person.disabled_at is not None
        or now - found.seen_at > IDLE
        or now - found.began_at > MAX_SIGN_IN_AGE
    ):
        return None
    return found


def sign_ins(db: Session, person_id: int, now: datetime) -> list[SignIn]:
    """A person's sign-ins that last, the latest used first."""
    found = people.sign_ins_of(db, person_id, now - IDLE)
    return [one for one in found if now - one.began_at <= MAX_SIGN_IN_AGE]


def end(db: Session, person_id: int, sign_in_id: int, now: datetime) -> None:
    """End one of one's own sign-ins. Raises NotFound."""
    found = db.get(SignIn, sign_in_id)
    if found is None or found.person_id != person_id:
        raise NotFound("There is no such sign-in.")
    people.end_sign_ins(db, person_id, now, only=sign_in_id)
