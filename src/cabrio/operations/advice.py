"""What like changes came to before: on this car, and on the team's others of its discipline."""

from __future__ import annotations

from sqlalchemy.orm import Session

from cabrio.core.advise.candidate import Before
from cabrio.core.graph.registry import number_named
from cabrio.storage import cars, slips
from cabrio.storage.documents import lines_of
from cabrio.storage.models import SessionRow

from .actor import Actor
from .bench import Bench


def judged(db: Session, actor: Actor, bench: Bench) -> tuple[Before, ...]:
    """Every slip with a verdict, newest first; another car's only where no part of its own is in it."""
    found = []
    sessions: dict[int, str] = {}

    def conditions(session_id: int | None) -> str:
        if session_id is None:
            return ""
        if session_id not in sessions:
            one = db.get_one(SessionRow, session_id)
            told = (one.name, one.event.place or one.event.name, one.surface)
            sessions[session_id] = ", ".join(filter(None, told))
        return sessions[session_id]

    for row in cars.cars_of(db, actor.team_id):
        own = row.id == bench.row.id
        car = bench.car if own else cars.record_of(db, row).car
        if car.discipline != bench.car.discipline:
            continue
        booked = cars.booked_slips(db, row.id)
        verdicts = slips.verdicts_of(db, [slip.id for slip in booked.values()])
        for number, slip in booked.items():
            verdict, lines = verdicts.get(slip.id), lines_of(slip)
            if verdict is None or (
                not own and any(number_named(one.name).is_part for one in lines)
            ):
                continue
            found.append(
                (
                    verdict.at,
                    Before(
                        lines,
                        verdict.outcome,
                        verdict.words,
                        number,
                        "" if own else car.name,
                        conditions(slip.session_id),
                    ),
                )
            )
    return tuple(before for _, before in sorted(found, key=lambda pair: pair[0], reverse=True))
