"""What the bench shows of a car besides its sheet: its runs, its slip, what stands against running it."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime

from sqlalchemy.orm import Session

from cabrio.core.sheet.release import Bar, Limit
from cabrio.storage import logbook
from cabrio.storage.models import SessionRow, WatchedRow

from .actor import Actor
from .bench import Bench, load
from .slips import Draft, draft
from .watched import against, limits_of


@dataclass(frozen=True)
class BenchView:
    """A car as its bench shows it, all of it read at once."""

    bench: Bench
    last_runs: tuple[datetime, ...]
    against: tuple[Bar, ...]
    limits: tuple[tuple[Limit, WatchedRow | None], ...]
    session: SessionRow | None
    draft: Draft


def bench_view(db: Session, actor: Actor, car_id: int, now: datetime) -> BenchView:
    """Read what the bench shows. Raises NotFound."""
    bench = load(db, actor, car_id)
    return BenchView(
        bench,
        tuple(logbook.last_runs(db, car_id)),
        against(db, bench, now),
        tuple(limits_of(db, bench)),
        logbook.next_session(db, car_id, now),
        draft(db, actor, bench),
    )
