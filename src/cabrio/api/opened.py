"""A car as a panel asks for it: its bench, the person's draft and the sheet of the setup on it."""

from __future__ import annotations

from cabrio.core.sheet.build import Sheet
from cabrio.operations import bench as benches
from cabrio.operations import slips

from .context import actor, transaction


def opened(car_id: int) -> tuple[benches.Bench, slips.Draft, Sheet]:
    """Read in one transaction, which is over before anything is worked from it."""
    with transaction() as db:
        who = actor()
        bench = benches.load(db, who, car_id)
        return bench, slips.draft(db, who, bench), bench.sheet()
