"""A made-up team's season. None of it exists: no person, place, car or result.

It is told through the same operations that people use, so every figure in it is worked by the core.
"""

from __future__ import annotations

from sqlalchemy import Engine, select
from sqlalchemy.orm import Session

from cabrio.storage import audit
from cabrio.storage.models import Team

from . import circuit, drag, drift
from .season import TEAM, Season


def load_if_empty(engine: Engine) -> None:
    """Load the season into a database that has no team yet, all of it or nothing."""
    with Session(engine, expire_on_commit=False) as db, db.begin():
        if db.scalars(select(Team)).first() is not None:
            return
        audit.tell_who(db, "the demo")
        load(db)


def load(db: Session) -> None:
    season = Season(db, TEAM)
    for story in (circuit, drag, drift):
        story.tell(season)
