"""What like changes came to before: on this car, and on the team's others of its discipline."""

from __future__ import annotations

from sqlalchemy.orm import Session

from cabrio.core.advise.candidate import Before
from cabrio.core.graph.registry import number_named
from cabrio.storage import cars, slips

from .actor import Actor
from .bench import Bench

MOST = 500
"""Verdicts of one car that are looked at, the newest first."""


def judged(db: Session, actor: Actor, bench: Bench) -> tuple[Before, ...]:
    """The last slips with a verdict, newest first; another car's only where no part of its own is in it."""
    found = []
    for row in cars.cars_of(db, actor.team_id):
        own = row.id == bench.row.id
        car = bench.car if own else cars.record_of(db, row).car
        if car.discipline != bench.car.discipline:
            continue
        for one in slips.judged_of(db, row.id, MOST):
            if not own and any(number_named(line.name).is_part for line in one.lines):
                continue
            told = Before(
                one.lines,
                one.outcome,
                one.words,
                one.revision,
                "" if own else car.name,
                ", ".join(filter(None, (one.session, one.place, one.surface))),
                own and _went_back(bench, one.revision),
            )
            found.append((one.at, told))
    return tuple(before for _, before in sorted(found, key=lambda pair: pair[0], reverse=True))


def _went_back(bench: Bench, revision: int) -> bool:
    """Whether a revision put the car back to how it stood at some time before."""
    setup = bench.at(revision).setup
    return any(one.number < revision and one.setup == setup for one in bench.revisions)
