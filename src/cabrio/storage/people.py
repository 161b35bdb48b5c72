"""Teams and people, who is signed in, and the tries to."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import bindparam, case, collate, delete, func, select, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session, joinedload

from .listening import notify_sign_in_ended
from .models import Invitation, Person, SignIn, SignInTries, Team


def person_by_email(db: Session, email: str) -> Person | None:
    """Who signs in by an address; None where nobody does."""
    return db.scalars(select(Person).where(Person.email == email.strip().lower())).one_or_none()


def person_by_id(db: Session, person_id: int) -> Person | None:
    """A person of any team; None where there is no such one."""
    return db.get(Person, person_id)


def everyone(db: Session) -> Sequence[Person]:
    """Everybody of every team: for the demo and for the owner of the database."""
    return db.scalars(select(Person).order_by(Person.id)).all()


def people_of(db: Session, team_id: int) -> Sequence[Person]:
    """Everybody of a team in the order they were added."""
    return db.scalars(select(Person).where(Person.team_id == team_id).order_by(Person.id)).all()


def any_team(db: Session) -> bool:
    """Whether there is a team yet."""
    return db.scalar(select(Team.id).limit(1)) is not None


def last_seen(db: Session, team_id: int) -> dict[int, datetime]:
    """When each person of a team was last signed in; those who never were are not in it."""
    query = (
        select(SignIn.person_id, func.max(SignIn.seen_at).label("seen"))
        .join(SignIn.person)
        .where(Person.team_id == team_id)
        .group_by(SignIn.person_id)
    )
    return {row.person_id: row.seen for row in db.execute(query)}


def lock_address(db: Session, email: str) -> None:
    """Hold an address to the end of this transaction: nobody else adds a person by it meanwhile."""
    db.execute(select(func.pg_advisory_xact_lock(func.hashtext(f"address {email}"))))


def lock_team(db: Session, team_id: int) -> None:
    """Whoever changes the team's people next waits until this is kept."""
    db.execute(select(Team.id).where(Team.id == team_id).with_for_update())


def team_of_name(db: Session, name: str) -> Team | None:
    """A team by its name; None where there is no such one."""
    return db.scalars(select(Team).where(Team.name == name)).one_or_none()


# asked for at every request: built once
BY_KEY = (
    select(SignIn)
    .where(SignIn.key_hash == bindparam("key_hash"))
    .options(joinedload(SignIn.person).joinedload(Person.team))
)


def sign_in_of(db: Session, key_hash: str) -> SignIn | None:
    """The sign-in of a key, by the key's hash; None where it was ended."""
    return db.scalars(BY_KEY, {"key_hash": key_hash}).one_or_none()


def sign_ins_of(db: Session, person_id: int, since: datetime) -> Sequence[SignIn]:
    """Those seen since a moment and not ended, the latest first."""
    open_ones = select(SignIn).where(
        SignIn.person_id == person_id, SignIn.ended_at.is_(None), SignIn.seen_at >= since
    )
    return db.scalars(open_ones.order_by(SignIn.seen_at.desc())).all()


def end_sign_ins(
    db: Session, person_id: int, at: datetime, *, but: int | None = None, only: int | None = None
) -> None:
    """End every sign-in of a person, one left out where it is named, or that one only. Their open pages hear it."""
    here = (SignIn.person_id == person_id) & SignIn.ended_at.is_(None)
    if but is not None:
        here &= SignIn.id != but
    if only is not None:
        here &= SignIn.id == only
    ended = update(SignIn).where(here).values(ended_at=at).returning(SignIn.id)
    for sign_in in db.scalars(ended).all():
        notify_sign_in_ended(db, sign_in)


def every_sign_in(db: Session, person_id: int) -> Sequence[SignIn]:
    """Every sign-in of a person, the oldest first."""
    return db.scalars(select(SignIn).where(SignIn.person_id == person_id).order_by(SignIn.id)).all()


def forget_sign_ins(db: Session, person_id: int, at: datetime) -> None:
    """End a person's sign-ins, and forget where they were."""
    end_sign_ins(db, person_id, at)
    db.execute(update(SignIn).where(SignIn.person_id == person_id).values(machine="", browser=""))


def knows_machine(db: Session, email: str, machine: str, since: datetime) -> bool:
    """Whether this person was signed in from there since a moment."""
    query = (
        select(SignIn.id)
        .join(SignIn.person)
        .where(Person.email == email, SignIn.machine == machine, SignIn.seen_at >= since)
    )
    return db.scalar(query.limit(1)) is not None


def invitation_of(db: Session, key_hash: str) -> Invitation | None:
    """Locked, so that it is used once."""
    query = select(Invitation).where(Invitation.key_hash == key_hash).with_for_update()
    return db.scalars(query).one_or_none()


def withdraw_invitations(db: Session, person_id: int, at: datetime) -> None:
    """Make the links of a person that nobody used count as used."""
    here = (Invitation.person_id == person_id) & Invitation.used_at.is_(None)
    db.execute(update(Invitation).where(here).values(used_at=at))


def tried(db: Session, counted: str, since: datetime) -> int:
    """How many tries are counted, 0 where the count began before `since`."""
    query = select(SignInTries.count).where(
        SignInTries.of == counted, SignInTries.began_at >= since
    )
    return db.scalar(query) or 0


def count_tries(
    db: Session, counted: Sequence[str], at: datetime, since: datetime
) -> dict[str, tuple[int, datetime]]:
    """Count one more try of each, from 1 where the last count began before `since`: how many now, and since
    when. One statement, so that many at once are counted one by one."""
    stale = SignInTries.began_at < since
    rows = [{"of": one, "began_at": at, "count": 1} for one in sorted(counted)]
    written = (
        insert(SignInTries)
        .values(rows)
        .on_conflict_do_update(
            index_elements=[SignInTries.of],
            set_={
                "count": case((stale, 1), else_=SignInTries.count + 1),
                "began_at": case((stale, at), else_=SignInTries.began_at),
            },
        )
        .returning(SignInTries.of, SignInTries.count, SignInTries.began_at)
    )
    return {of: (count, began) for of, count, began in db.execute(written)}


def give_back(db: Session, cleared: str, lessened: Sequence[str]) -> None:
    """After a right password: one count starts anew, of the others this try is taken off."""
    # in the order in which tries are counted, so that no two wait for each other
    wanted = select(SignInTries.of).where(SignInTries.of.in_([cleared, *lessened]))
    db.execute(wanted.order_by(collate(SignInTries.of, "C")).with_for_update())
    db.execute(delete(SignInTries).where(SignInTries.of == cleared))
    here = SignInTries.of.in_(sorted(lessened)) & (SignInTries.count > 0)
    db.execute(update(SignInTries).where(here).values(count=SignInTries.count - 1))


def forget_tries_of(db: Session, email: str) -> None:
    """Forget the tries at one address, from wherever."""
    here = (SignInTries.of == email) | SignInTries.of.startswith(f"{email} from ", autoescape=True)
    db.execute(delete(SignInTries).where(here))


def forget_tries(db: Session, before: datetime) -> None:
    """Remove the counts of refused sign-ins that began before a moment."""
    db.execute(delete(SignInTries).where(SignInTries.began_at < before))
