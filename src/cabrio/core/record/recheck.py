"""The rechecks a slip causes: what to read again before the car rolls, why, how and how long."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from ..car.lines import Line
from ..car.model import Car
from ..catalog.quantities import axle_of
from ..errors import UnknownName
from ..graph.registry import number_named
from ..knowledge import knowledge
from .standing import invalidated_by


@dataclass(frozen=True)
class Recheck:
    """One reading to take again."""

    kind: str
    label: str
    verdict: str
    why: str
    how: str
    minutes: int


def rechecks(lines: Iterable[Line], car: Car, jobs: Iterable[str] = ()) -> list[Recheck]:
    """What these lines and jobs make untrue, in the order of work. Raises UnknownName for a job."""
    jobs = list(jobs)
    for job in jobs:
        if job not in knowledge().work.jobs:
            raise UnknownName(f"There is no job called “{job}”.", value=job)
    upset = invalidated_by(lines, jobs)
    found = []
    for kind in knowledge().readings_for(car.discipline, car.rear_layout):
        rules = upset.get(kind.id)
        if rules and not kind.when_needed:
            found.append(
                Recheck(kind.id, kind.label, rules[0].verdict, rules[0].why, kind.how, kind.minutes)
            )
    return found


def mixed_systems(lines: Iterable[Line]) -> list[str]:
    """Labels of the systems a slip touches, where it touches more than one."""
    systems = {number_named(line.name).system or number_named(line.name).group for line in lines}
    book = knowledge().systems
    labels = [book[name].label for name in book if name in systems]
    return labels if len(labels) > 1 else []


def work_minutes(lines: Iterable[Line]) -> int:
    """Minutes of the work itself: each kind of it at every axle, for four springs are twice two."""
    effort = knowledge().work.effort
    jobs = {(line.name, axle_of(line.place)) for line in lines}
    return sum(effort[name] for name, _ in jobs)
