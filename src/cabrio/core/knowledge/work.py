"""Orders of work, rules from a driver's words, cautions and jobs: the tables behind advice and rechecks."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from ..catalog.disciplines import Discipline
from ..catalog.quantities import PLACES, Shape, axle_of
from ..graph.registry import numbers
from .tables import DISCIPLINES, rows

DRIVEN = ("front", "rear", "all")
TOWARDS = ("softer", "stiffer", "more", "less", "anti_squat-up", "anti_squat-down", "zero")
GROUPS = {
    "front": ("LF", "RF"),
    "rear": ("LR", "RR"),
    "all": PLACES[Shape.CORNER],
    "left": ("LF", "LR"),
    "right": ("RF", "RR"),
}


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
    disciplines: tuple[str, ...]
    school: str = ""


@dataclass(frozen=True)
class Step:
    """One step: what to do, at which station, the readings it takes and the cautions it carries.

    The conditions under which a reading counts and what upsets it belong to the reading itself.
    """

    procedure: str
    label: str
    do: str
    station: str
    readings: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()


@dataclass(frozen=True)
class Symptom:
    """What a driver says the car does. `balance` is which way its cure moves the grip balance: up, so that
    the rear gives up sooner, or down; empty where it is no matter of balance. `motion` is one that a damper may
    cure in any phase; `check` is what to look at before any change."""

    id: str
    label: str
    disciplines: tuple[str, ...]
    balance: str = ""
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
class Rule:
    """A symptom in some phases → one change, with its reason and its costs.

    `change` is "number place toward"; `shows` are the figures whose move shows its size on a car, each
    with "up" or "down" behind it where the cure lies that way. `only` is "figure above|below value": on
    any other car the rule does not hold. `driven` are the axles it is for, none for all; `surface` is "poor" or
    "good" where it suits that one better, `only_on` those it is for at all ("" where nobody said). `needs` is a
    number without which nothing can be told of it; `because` and `against` say "figure above": past the band of
    it this cure is the one for it, or no cure.
    """

    symptom: str
    phases: tuple[str, ...]
    change: str
    shows: tuple[str, ...]
    reason: str
    costs: str
    steps: int = 1
    school: str = ""
    only: str = ""
    driven: tuple[str, ...] = ()
    surface: str = ""
    only_on: tuple[str, ...] = ()
    needs: str = ""
    because: str = ""
    against: str = ""

    @property
    def figures(self) -> tuple[str, ...]:
        return tuple(said.split()[0] for said in self.shows)

    @property
    def target_directions(self) -> dict[str, int]:
        """Which way a figure has to go: +1 or −1, by name."""
        split = (said.split() for said in self.shows)
        return {said[0]: 1 if said[1] == "up" else -1 for said in split if len(said) == 2}

    @property
    def holds_where(self) -> tuple[str, int, float] | None:
        """The figure, the side of the value (+1 above) and the value of `only`."""
        if not self.only:
            return None
        name, side, value = self.only.split()
        return name, 1 if side == "above" else -1, float(value)

    @property
    def number(self) -> str:
        return self.change.split()[0]

    @property
    def toward(self) -> str:
        return self.change.split()[2]

    @property
    def places(self) -> tuple[str, ...]:
        """The places the change touches: left and right alike."""
        said, shape = self.change.split()[1], numbers()[self.number].shape
        if said in shape.places:
            return (said,)
        if shape is Shape.CORNER:
            return GROUPS.get(said, ())
        return shape.places if said == "all" else ()


@dataclass(frozen=True)
class Effort:
    """How long a change of a number takes on the stands [min]; a start, team-editable."""

    number: str
    minutes: int


@dataclass(frozen=True)
class Felt:
    """How much of a figure a driver feels, SI; a start, team-editable."""

    number: str
    amount: float


@dataclass(frozen=True)
class Aim:
    """A figure that a plan of work may aim at, and how far off still counts as reached [SI]."""

    number: str
    within: float
    disciplines: tuple[str, ...]


@dataclass(frozen=True)
class Work:
    procedures: tuple[Procedure, ...]
    steps: tuple[Step, ...]
    cautions: dict[str, Caution]
    jobs: dict[str, Job]
    symptoms: dict[str, Symptom]
    views: tuple[View, ...]
    rules: tuple[Rule, ...]
    effort: dict[str, int]
    felt: dict[str, float]
    aims: dict[str, Aim]

    def caution(self, name: str) -> Caution:
        if name not in self.cautions:
            raise ValueError(f"there is no caution “{name}”")
        return self.cautions[name]

    def steps_of(self, procedure: str) -> tuple[Step, ...]:
        return tuple(step for step in self.steps if step.procedure == procedure)

    def symptoms_for(self, discipline: str) -> tuple[Symptom, ...]:
        return tuple(one for one in self.symptoms.values() if discipline in one.disciplines)

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
        rules=tuple(rows("rules", "rule", Rule)),
        effort={row.number: row.minutes for row in rows("rules", "effort", Effort)},
        felt={row.number: row.amount for row in rows("rules", "felt", Felt)},
        aims={row.number: row for row in rows("rules", "target", Aim)},
    )


def check_work(
    work: Work, known: Mapping[str, Discipline], stations: set[str], readings: set[str]
) -> None:
    """Refuse a row that names something that does not exist. Raises ValueError."""
    procedures = {procedure.id for procedure in work.procedures}
    for step in work.steps:
        where = f"step “{step.label}” of {step.procedure}"
        _known(where, {step.procedure}, procedures)
        _known(where, {step.station}, stations)
        _known(where, set(step.readings), readings)
        _known(where, set(step.cautions), set(work.cautions))
    for rule in work.rules:
        where = f"rule {rule.symptom}: {rule.change}"
        _known(where, {rule.symptom}, set(work.symptoms))
        named = work.symptoms[rule.symptom].disciplines
        phases = {phase for name in named for phase in known[name].phase_ids}
        _known(where, set(rule.phases), phases)
        _known(where, {rule.number}, {n.name for n in numbers().values() if n.on_slip or n.step})
        _known(where, set(rule.driven), set(DRIVEN))
        _known(where, {rule.toward}, set(TOWARDS))
        _known(where, {rule.surface}, {"", "poor", "good"})
        if not rule.places:
            raise ValueError(f"{where}: changes no place")
        if (rule.toward in ("softer", "stiffer")) != bool(numbers()[rule.number].stiffens):
            raise ValueError(f"{where}: says {rule.toward} of {rule.number}")
        _known(where, set(rule.figures), set(numbers()))
        _known(where, {said.split()[1] for said in rule.shows if " " in said}, {"up", "down"})
        if rule.holds_where is not None:
            _known(where, {rule.holds_where[0]}, set(numbers()))
        _known(where, {rule.number}, set(work.effort))
        _known(where, {rule.school} - {""}, {view.id for view in work.views})
        _known(where, set(rule.figures), set(work.felt))
        _known(where, set(rule.only_on), {"", "poor", "good"})
        _known(where, {rule.needs} - {""}, set(numbers()))
        for said in (rule.because, rule.against):
            _known(where, set(said.split()[:1]), set(numbers()))
        _check_strokes(where, rule, work, known)
    topics = [view.topic for view in work.views]
    for view in work.views:
        if topics.count(view.topic) < 2:
            raise ValueError(f"view {view.id} stands alone: the other one is missing")
    for symptom in work.symptoms.values():
        _known(f"symptom {symptom.id}", set(symptom.disciplines), set(DISCIPLINES))
        if not work.rules_by_symptom[symptom.id]:
            raise ValueError(f"symptom {symptom.id} has no rule")
    _known("what a plan aims at", set(work.aims), set(numbers()))
    for aim in work.aims.values():
        _known(f"target {aim.number}", set(aim.disciplines), set(DISCIPLINES))
        if aim.within <= 0:
            raise ValueError(f"target {aim.number} has no room")
    if any(minutes <= 0 for minutes in work.effort.values()):
        raise ValueError("an effort of no minutes")
    if any(amount <= 0 for amount in work.felt.values()):
        raise ValueError("a felt amount must be above zero")


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


def _known(where: str, used: set[str], known: set[str]) -> None:
    unknown = used - known
    if unknown:
        raise ValueError(f"{where} names {', '.join(sorted(unknown))}, which is not known")
