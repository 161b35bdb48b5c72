"""Teams and people, and the failed sign-ins that are counted."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime

from sqlalchemy import bindparam, func, select
from sqlalchemy.orm import Session, joinedload

from .models import Person, SignInAttempt, Team


def person_by_email(db: Session, email: str) -> Person | None:
    return db.scalars(select(Person).where(Person.email == email.strip().lower())).one_or_none()


# asked for at every request: built once
BY_ID = select(Person).where(Person.id == bindparam("person")).options(joinedload(Person.team))


def person_by_id(db: Session, person_id: int) -> Person | None:
    return db.scalars(BY_ID, {"person": person_id}).one_or_none()


def everyone(db: Session) -> Sequence[Person]:
    return db.scalars(select(Person).order_by(Person.id)).all()


def team_named(db: Session, name: str) -> Team:
    """The team of that name, made where there is none yet."""
    team = db.scalars(select(Team).where(Team.name == name)).one_or_none()
    if team is None:
        team = Team(name=name)
        db.add(team)
        db.flush()
    return team


def failed_since(db: Session, email: str, since: datetime) -> int:
    query = select(func.count()).select_from(SignInAttempt)
    counted = db.scalar(query.where(SignInAttempt.email == email, SignInAttempt.at >= since))
    return int(counted or 0)
