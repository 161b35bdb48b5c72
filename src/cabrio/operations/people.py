"""Who belongs to a team: inviting, roles, passwords."""

from __future__ import annotations

import re
import secrets
from datetime import datetime, timedelta
from typing import Any

from sqlalchemy.orm import Session
from zxcvbn import zxcvbn

from cabrio.core.errors import CoreError, Impossible, Problems
from cabrio.storage import audit, erasing, people
from cabrio.storage.documents import iso
from cabrio.storage.models import ROLES, Invitation, Person, Team

from . import sign_in
from .actor import Actor
from .errors import Conflict, NotAllowed, NotFound
from .texts import one_line
from .upkeep import look_through

SHORTEST = 10
GUESSES = 8.0
"""Powers of ten of guesses that a password should stand, as estimated from lists of common ones."""
LOOKED_AT = 72
"""Letters of a password that the estimate looks at: it takes long over long ones."""
INVITED = timedelta(days=7)
"""How long a link to choose a password holds."""


def check_password(password: str, about: tuple[str, ...] = ()) -> None:
    """Raise Impossible for a password that is short, or soon guessed by who knows the person and common ones."""
    if len(password) < SHORTEST:
        raise Impossible(f"A password needs at least {SHORTEST} characters.", number="password")
    words = [word for text in about for word in re.split(r"\W+", text) if len(word) > 2]
    strength = zxcvbn(password[:LOOKED_AT], user_inputs=[*about, *words])
    if strength["guesses_log10"] < GUESSES:
        why = strength["feedback"]["warning"] or "It is among the first that would be tried"
        raise Impossible(
            f"This password is soon guessed. {why.rstrip('.')}. A few words that do not belong "
            "together are better.",
            number="password",
        )


def add_person(
    db: Session,
    *,
    team: str,
    name: str,
    email: str,
    password: str,
    role: str,
    new_team: bool = False,
) -> Person:
    """Add a person with a password. Raises Problems, or Impossible for a team that there is not, unless it is
    to be made."""
    problems = [*_wrong(db, name, email, role)]
    try:
        check_password(password, (name, email, team))
    except Impossible as problem:
        problems.append(problem)
    if not team.strip():
        problems.append(Impossible("A team is needed.", number="team"))
    if problems:
        raise Problems(problems)
    home = people.team_of_name(db, one_line(team))
    if home is None and not new_team and people.any_team(db):
        raise Impossible(
            f"There is no team “{one_line(team)}”. To make a new one, add --new-team.",
            number="team",
        )
    if home is None:
        home = Team(name=one_line(team))
        db.add(home)
        db.flush()
    return _add(db, home.id, name, email, role, sign_in.hashed(password))


def _wrong(db: Session, name: str, email: str, role: str) -> list[CoreError]:
    address = email.strip().lower()
    found: list[CoreError] = []
    if role not in ROLES:
        found.append(Impossible(f"A role is one of {', '.join(ROLES)}.", number="role"))
    before, _, after = address.partition("@")
    if not before or "." not in after or " " in address:
        found.append(Impossible("That is no e-mail address.", number="email"))
    elif people.person_by_email(db, address):
        found.append(Impossible("Somebody has this address already.", number="email"))
    if not one_line(name):
        found.append(Impossible("A name is needed.", number="name"))
    return found


def _add(db: Session, team_id: int, name: str, email: str, role: str, password_hash: str) -> Person:
    owned = any(one.owner for one in people.people_of(db, team_id))
    person = Person(
        team_id=team_id,
        name=one_line(name),
        email=email.strip().lower(),
        password_hash=password_hash,
        role=role,
        owner=not owned and role == "engineer",
    )
    db.add(person)
    db.flush()
    return person


def actor_of(person: Person) -> Actor:
    """A person as operations ask for one: who acts, in which team and role."""
    return Actor(person.id, person.team_id, person.name, person.role, person.owner)


def demo_person(db: Session, person_id: int, *, demo: bool) -> Person:
    """One of the demo's people, by one press. Refused outside the demo."""
    person = people.person_by_id(db, person_id)
    if not demo or person is None or person.disabled_at is not None:
        raise NotAllowed("Only the demo signs people in without a password.")
    return person


def invite(
    db: Session, actor: Actor, *, name: str, email: str, role: str, now: datetime
) -> tuple[Person, str]:
    """Add a person without a password: who it is, and the key of the link to choose one."""
    actor.must("people")
    people.lock_address(db, email.strip().lower())  # of several at once, one adds it
    if problems := _wrong(db, name, email, role):
        raise Problems(problems)
    person = _add(db, actor.team_id, name, email, role, "")
    return person, _invitation(db, actor, person, now)


def invite_again(db: Session, actor: Actor, person_id: int, now: datetime) -> tuple[Person, str]:
    """A new link for a person who lost the password or the link; earlier links are void."""
    actor.must("people")
    person = _of_team(db, actor, person_id)
    if person.disabled_at is not None:
        raise Conflict(f"{person.name} is shut out: let them in again first, then make the link.")
    people.withdraw_invitations(db, person.id, now)
    return person, _invitation(db, actor, person, now)


def _invitation(db: Session, actor: Actor, person: Person, now: datetime) -> str:
    key = secrets.token_urlsafe(24)
    db.add(Invitation(person_id=person.id, key_hash=sign_in.key_hash(key), by=actor.name, at=now))
    db.flush()
    return key


def join(db: Session, key: str, password: str, now: datetime) -> Person:
    """Choose a password by an invitation's key. Raises NotFound where it is used, too old or none."""
    found = people.invitation_of(db, sign_in.key_hash(key))
    if (
        found is None
        or found.used_at is not None
        or now - found.at > INVITED
        or found.person.disabled_at is not None
    ):
        raise NotFound("This link was used, or is too old: ask an owner of the team for a new one.")
    person = found.person
    check_password(password, (person.name, person.email, person.team.name))
    person.password_hash = sign_in.hashed(password)
    found.used_at = now
    people.end_sign_ins(db, person.id, now)
    return person


def change_password(
    db: Session, actor: Actor, old: str, new: str, now: datetime, *, keep: int
) -> None:
    """Change one's own password; every other sign-in of this person ends, `keep` stays. The try was counted
    before, as one to sign in is."""
    person = people.person_by_id(db, actor.person_id)
    if person is None or not sign_in.fits(person, old):
        raise Impossible("That is not your password.", number="old")
    check_password(new, (person.name, person.email, person.team.name))
    person.password_hash = sign_in.hashed(new)
    people.end_sign_ins(db, person.id, now, but=keep)


def change_person(
    db: Session,
    actor: Actor,
    person_id: int,
    now: datetime,
    *,
    role: str | None = None,
    owner: bool | None = None,
    disabled: bool | None = None,
) -> Person:
    """Change what a person may do; None leaves as it is. A team keeps an owner who can sign in."""
    actor.must("people")
    # locked one after the other: two owners who take it from each other at once leave none otherwise
    people.lock_team(db, actor.team_id)
    acting = people.person_by_id(db, actor.person_id)
    if acting is not None:
        db.refresh(acting)  # somebody may have taken it from them meanwhile
        actor_of(acting).must("people")
    person = _of_team(db, actor, person_id)
    db.refresh(person)
    if role is not None:
        if role not in ROLES:
            raise Impossible(f"A role is one of {', '.join(ROLES)}.", number="role")
        person.role = role
    if owner is not None:
        person.owner = owner
    if disabled is not None and disabled != (person.disabled_at is not None):
        person.disabled_at = now if disabled else None
        if disabled:
            people.end_sign_ins(db, person.id, now)
        # let in again, no link of before works either
        people.withdraw_invitations(db, person.id, now)
    db.flush()
    _keeps_an_owner(db, actor.team_id)
    return person


def _of_team(db: Session, actor: Actor, person_id: int) -> Person:
    found = people.person_by_id(db, person_id)
    if found is None or found.team_id != actor.team_id:
        raise NotFound("There is no such person in this team.")
    return found


def everything_of(db: Session, email: str) -> dict[str, Any]:
    """What is kept of one person, to be handed over. Raises NotFound."""
    person = _by_email(db, email)
    entries = audit.entries_by(db, person.id)
    return {
        "name": person.name,
        "e-mail": person.email,
        "team": person.team.name,
        "role": person.role,
        "owner": person.owner,
        "sign-ins": [
            {
                "began": iso(one.began_at),
                "last used": iso(one.seen_at),
                "machine": one.machine,
                "browser": one.browser,
            }
            for one in people.every_sign_in(db, person.id)
        ],
        "what was done": [entry.entry for entry in entries],
    }


def erase(db: Session, email: str, now: datetime) -> str:
    """Take a person's name, address, password and sign-ins away for good: the name that stands in their place.

    It stands in the team's record too, which goes on to say that it was one and the same person. What others
    wrote in sentences stays as they wrote it. Everything is read again before it counts. Wants the database's
    owner. Raises NotFound, Conflict for a team's last owner, where the record cannot tell two people apart, or
    where something could not be read any more: the caller then takes it all back.
    """
    person = _by_email(db, email)
    alike = [one for one in people.people_of(db, person.team_id) if one.name == person.name]
    if len(alike) > 1:
        raise Conflict(
            f"{len(alike)} people of this team are called {person.name}: the record cannot tell them apart."
        )
    wrong_before = set(look_through(db).wrong)
    name, address = f"Former member {person.id}", f"former-{person.id}@erased.invalid"
    words = {person.name: name, person.email: address}
    audit.tell_who(db, "the command line", team=person.team_id, request="person erase")
    with erasing.unguarded(db):
        changed = erasing.replace(db, person.team_id, person.id, words)
        person.name, person.email, person.password_hash = name, address, ""
    person.owner, person.disabled_at = False, now  # told as any other change
    people.forget_tries_of(db, email.strip().lower())
    people.forget_sign_ins(db, person.id, now)
    people.withdraw_invitations(db, person.id, now)
    db.flush()
    _keeps_an_owner(db, person.team_id)
    audit.note_erasure(db, person.id, changed)
    db.flush()
    audit.tell_now(db)
    db.expire_all()
    if wrong := set(look_through(db).wrong) - wrong_before:
        raise Conflict(f"Nothing was erased: it would break the record. {sorted(wrong)[0]}")
    return name


def _by_email(db: Session, email: str) -> Person:
    found = people.person_by_email(db, email)
    if found is None:
        raise NotFound(f"Nobody has the address {email}.")
    return found


def _keeps_an_owner(db: Session, team_id: int) -> None:
    """An owner is one who has come: who was only invited may never do."""
    if not any(
        one.owner and one.disabled_at is None and one.password_hash
        for one in people.people_of(db, team_id)
    ):
        raise Conflict("A team needs an owner who can sign in: name another one first.")
