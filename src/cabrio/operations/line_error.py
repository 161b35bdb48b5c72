"""Where a car's own passes went at different flats of link preload."""

from __future__ import annotations

from sqlalchemy.orm import Session

from cabrio.core.record.bite import PRELOAD
from cabrio.core.record.line_error import PassRecord, passes_at
from cabrio.storage import logbook

from .bench import Bench


def passes(db: Session, bench: Bench) -> list[PassRecord]:
    """The passes that tell, on setups that are the present one but for the preload; the oldest first."""
    setup = bench.current.setup
    if PRELOAD not in setup:
        return []
    setups = {revision.number: revision.setup for revision in bench.revisions}
    return passes_at(setup, logbook.clocked_runs(db, bench.row.id), setups)
