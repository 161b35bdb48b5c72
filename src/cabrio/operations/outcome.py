"""Closing the loop on a booked slip: what its figures should have become and did, what the clock says."""

from __future__ import annotations

from dataclasses import dataclass

from sqlalchemy.orm import Session

from cabrio.core.car import Line
from cabrio.core.errors import CoreError
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.core.record.clocked import marks_of
from cabrio.core.record.outcome import Compared, Found, RunSeen, compare
from cabrio.core.record.readings import spread_of
from cabrio.core.record.standing import invalidated_by
from cabrio.core.sheet.what_if import try_lines
from cabrio.storage import logbook, slips
from cabrio.storage.documents import lines_of

from .actor import Actor
from .bench import Bench, load
from .errors import NotFound


@dataclass(frozen=True)
class Outcome:
    """What came of a revision; `again` says that the setting before was run again after it (A-B-A)."""

    found: tuple[Found, ...]
    times: Compared
    again: bool


def outcome(db: Session, actor: Actor, car_id: int, revision: int) -> Outcome:
    """What came of the slip that made a revision. Raises NotFound where no slip did."""
    actor.must("look")
    bench = load(db, actor, car_id)
    slip = slips.booked_slip(db, car_id, revision)
    if slip is None:
        raise NotFound(f"Revision {revision} was not made by a slip.")
    found = _figures(bench, revision, lines_of(slip))
    before = bench.at(revision - 1).setup
    back = [one.number for one in bench.revisions if one.number > revision and one.setup == before]
    first = {revision - 1, *back}
    # lap times of two tracks, or of two weekends, are of two things
    seen: dict[int, dict[int, list[RunSeen]]] = {}
    for order, run in enumerate(logbook.timed_runs(db, car_id, {*first, revision})):
        seen.setdefault(run.event_id, {}).setdefault(run.revision, []).append(
            RunSeen(
                run.best_time,
                run.driver,
                run.tyres,
                run.surface,
                run.air_temperature,
                run.track_temperature,
                f"{run.session}, {run.event}",
                marks_of(bench.car.discipline, run.times),
                order,
            )
        )
    for runs in seen.values():
        if runs.keys() & first and revision in runs:
            earlier = [run for at in sorted(first) for run in runs.get(at, [])]
            again = any(at in runs for at in back)
            return Outcome(tuple(found), compare(earlier, runs[revision]), again)
    every = [runs for one in seen.values() for at, runs in one.items() if at == revision]
    return Outcome(tuple(found), compare([], every[0] if every else []), False)


def _figures(bench: Bench, revision: int, lines: tuple[Line, ...]) -> list[Found]:
    """What was read on the revision, with what the model made of the slip before."""
    earlier = bench.sheet_at(revision - 1)
    try:
        trial = try_lines(earlier, lines)
    except CoreError:
        return []
    found = []
    felt = knowledge().work.felt
    # a reading that the slip did not upset says nothing of it
    upset = {
        kind: "void" if any(row.verdict == "void" for row in rows) else "doubtful"
        for kind, rows in invalidated_by(lines, ()).items()
    }
    kinds = set(upset)
    for reading in sorted(bench.readings, key=lambda one: one.id):
        if reading.revision != revision or reading.withdrawn_at or reading.kind not in kinds:
            continue
        kinds.discard(reading.kind)
        for name, values in reading.values.items():
            before, after = earlier.by_place(name), trial.worked.by_place(name)
            if before is None or after is None or len(before) != len(values):
                continue
            # what a slip voids and the model leaves as it was, it has no way to tell
            is_affected = (
                name in trial.predicted or upset[reading.kind] != "void" or after != before
            )
            number = number_named(name)
            spread = spread_of(reading.repeats[name])
            for at, place in enumerate(number.shape.places):
                was, then, read = before[at], after[at], values[at]
                if was is None or then is None or read is None:
                    continue
                if abs(then - was) > 1e-9 or abs(read - was) > 1e-9:
                    within = max(
                        spread[at], number.within or 0.0, felt.get(name, 0.0), _noise(name)
                    )
                    found.append(
                        Found(name, place, was, then if is_affected else None, read, within)
                    )
    return found


def _noise(name: str) -> float:
    """What a number is read to on a good day [SI], where nothing better tells it."""
    return {"mass": 2.0, "height": 0.0015, "angle": 0.002, "pressure": 3e3}.get(
        number_named(name).quantity, 0.0
    )
