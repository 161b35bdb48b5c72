"""The floor looked at after runs, with the heights they were run at."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime

from sqlalchemy.orm import Session

from cabrio.core.graph.evaluate import evaluate
from cabrio.core.record.floor import AXLES, TOUCHED, Learned, Look, learned
from cabrio.core.record.readings import Reading
from cabrio.storage import logbook

from .bench import Bench

MOST = 200
"""Runs that are looked back over."""


def of_car(db: Session, bench: Bench) -> list[Learned]:
    """By place, the last one run at first."""
    heights = [
        reading
        for reading in bench.readings
        if reading.kind == "heights" and reading.withdrawn_at is None
    ]
    now = _of_axles(heights[-1]) if heights else {}
    return learned(_looks(db, bench, heights), now, bench.car.profile)


def _looks(db: Session, bench: Bench, heights: list[Reading]) -> Iterator[Look]:
    for at, place, floor in logbook.floors(db, bench.row.id, MOST):
        before = [height for height in heights if datetime.fromisoformat(height.at) <= at]
        ran_at = _of_axles(before[-1]) if before else {}
        for axle in AXLES:
            if axle in floor:
                yield Look(place, axle, floor[axle] == TOUCHED, ran_at.get(axle))


def _of_axles(reading: Reading) -> dict[str, float | None]:
    """The ride height of each axle [m]; empty where the reading has none."""
    read = reading.values.get("ride_height")
    if read is None:
        return {}
    heights = evaluate({"ride_height": read}, ["axle_height"]).by_place("axle_height")
    return dict(zip(AXLES, heights or [], strict=bool(heights)))
