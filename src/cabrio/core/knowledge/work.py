"""Orders of work, rules from a driver's words, cautions and jobs: the tables behind advice and rechecks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from ..catalog.disciplines import Discipline
from ..catalog.quantities import axle_of
from ..graph.registry import numbers
from .references import (
    CautionName,
    DisciplineName,
    NumberName,
    ProcedureName,
    ReadingName,
    SettingName,
    StationName,
)
from .rules import Card, Rule, read_cards, rules_of
from .tables import DISCIPLINES, rows


@dataclass(frozen=True)
class Caution:
    """A short warning, said at the step it belongs to."""

    id: str
    text: str


@dataclass(frozen=True)
class Job:
    """Work that is no number on a slip, and yet upsets readings."""

    id: str
    label: str


@dataclass(frozen=True)
class Procedure:
    """An order of work. `school` names it where others hold another one."""

    id: str
    label: str
    disciplines: tuple[DisciplineName, ...]
    school: str = ""


@dataclass(frozen=True)
class Step:
    """One step: what to do, at which station, the readings it takes and the cautions it carries.

    The conditions under which a reading counts and what upsets it belong to the reading itself.
    """

    procedure: ProcedureName
    label: str
    do: str
    station: StationName
    readings: tuple[ReadingName, ...] = ()
    cautions: tuple[CautionName, ...] = ()


@dataclass(frozen=True)
class Symptom:
    """What a driver says the car does. `balance` is which way its cure moves the grip balance: up, so that
    the rear gives up sooner, or down; empty where it is no matter of balance. `motion` is one that a damper may
    cure in any phase; `check` is what to look at before any change."""

    id: str
    label: str
    disciplines: tuple[DisciplineName, ...]
    balance: Literal["", "up", "down"] = ""
    motion: bool = False
    check: str = ""


@dataclass(frozen=True)
class View:
    """One of several held views on a question that no number settles."""

    id: str
    topic: str
    label: str
    reason: str


@dataclass(frozen=True)
class Effort:
    """How long a change of a number takes on the stands [min]; a start, team-editable."""

    number: SettingName
    minutes: int


@dataclass(frozen=True)
class Felt:
    """How much of a figure a driver feels, SI; a start, team-editable."""

    number: NumberName
    amount: float


@dataclass(frozen=True)
class Aim:
    """A figure that a plan of work may aim at, and how far off still counts as reached [SI]."""

    number: NumberName
    within: float
    disciplines: tuple[DisciplineName, ...] = DISCIPLINES


@dataclass(frozen=True)
class Work:
    """Orders of work, symptoms with their cards of cures, and what changes take and are felt as."""

    procedures: tuple[Procedure, ...]
    steps: tuple[Step, ...]
    cautions: dict[str, Caution]
    jobs: dict[str, Job]
    symptoms: dict[str, Symptom]
    views: tuple[View, ...]
    cards: tuple[Card, ...]
    efforts: tuple[Effort, ...]
    felts: tuple[Felt, ...]
    aims: dict[str, Aim]

    def caution(self, name: str) -> Caution:
        if name not in self.cautions:
            raise ValueError(f"there is no caution “{name}”")
        return self.cautions[name]

    def steps_of(self, procedure: str) -> tuple[Step, ...]:
        return tuple(step for step in self.steps if step.procedure == procedure)

    def symptoms_for(self, discipline: str) -> tuple[Symptom, ...]:
        return tuple(
            symptom for symptom in self.symptoms.values() if discipline in symptom.disciplines
        )

    @cached_property
    def effort(self) -> dict[str, int]:
        """Minutes on the stands by setting."""
        return {row.number: row.minutes for row in self.efforts}

    @cached_property
    def felt(self) -> dict[str, float]:
        """How much of a figure a driver feels, by figure [SI]."""
        return {row.number: row.amount for row in self.felts}

    @cached_property
    def rules(self) -> tuple[Rule, ...]:
        """Every cure of every card."""
        return rules_of(self.cards)

    @cached_property
    def rules_by_symptom(self) -> dict[str, tuple[Rule, ...]]:
        return {
            name: tuple(rule for rule in self.rules if rule.symptom == name)
            for name in self.symptoms
        }


def read_work() -> Work:
    """The tables of procedures.toml and rules.toml, not yet checked."""
    return Work(
        procedures=tuple(rows("procedures", "procedure", Procedure)),
        steps=tuple(rows("procedures", "step", Step)),
        cautions={row.id: row for row in rows("procedures", "caution", Caution)},
        jobs={row.id: row for row in rows("procedures", "job", Job)},
        views=tuple(rows("rules", "view", View)),
        symptoms={row.id: row for row in rows("rules", "symptom", Symptom)},
        cards=read_cards(),
        efforts=tuple(rows("rules", "effort", Effort)),
        felts=tuple(rows("rules", "felt", Felt)),
        aims={row.number: row for row in rows("rules", "target", Aim)},
    )


def check_work(work: Work, known: Mapping[str, Discipline]) -> None:
    """Refuse rows that cannot be beside each other; what they name is checked before. Raises ValueError."""
    for rule in work.rules:
        _check_rule(rule, work, known)
    topics = [view.topic for view in work.views]
    for view in work.views:
        if topics.count(view.topic) < 2:
            raise ValueError(f"view {view.id} stands alone: the other one is missing")
    for symptom in work.symptoms.values():
        if not work.rules_by_symptom[symptom.id]:
            raise ValueError(f"symptom {symptom.id} has no rule")
    for amounts, why in (
        ([aim.within for aim in work.aims.values()], "a target has no room"),
        (work.effort.values(), "an effort of no minutes"),
        (work.felt.values(), "a felt amount must be above zero"),
    ):
        if any(amount <= 0 for amount in amounts):
            raise ValueError(why)


def _check_rule(rule: Rule, work: Work, known: Mapping[str, Discipline]) -> None:
    """Refuse a cure of no place, toward what its number cannot, or in a phase of another discipline."""
    where = f"rule {rule.symptom}: {rule.change}"
    if not rule.places:
        raise ValueError(f"{where}: changes no place")
    if (rule.direction in ("softer", "stiffer")) != bool(numbers()[rule.number].stiffens):
        raise ValueError(f"{where}: says {rule.direction} of {rule.number}")
    named = work.symptoms[rule.symptom].disciplines
    if missing := set(rule.phases) - {one for name in named for one in known[name].phase_ids}:
        raise ValueError(f"{where} names {sorted(missing)[0]}, no phase of {' or '.join(named)}")
    _check_strokes(where, rule, work, known)


FACES = {"compression_clicks": "c", "rebound_clicks": "e"}


def _check_strokes(where: str, rule: Rule, work: Work, known: Mapping[str, Discipline]) -> None:
    """Refuse a damper's cure in a phase in which its stroke does not happen, but for a motion. Raises ValueError."""
    symptom, face = work.symptoms[rule.symptom], FACES.get(rule.number)
    if face is None or symptom.motion:
        return
    for discipline in symptom.disciplines:
        for phase in rule.phases:
            during = known[discipline].phase(phase)
            if during is None:
                continue
            for place in rule.places:
                if face not in getattr(during, axle_of(place)):
                    raise ValueError(f"{where}: that stroke does not happen in {phase}")
