"""What a discipline is: one row of disciplines.toml, with the phases in which its drivers speak about the car."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cache
from typing import Literal

from .places import AXLES, PAIRS
from .tables import row_of, rows

PACKAGE = "cabrio.core.catalog"


@dataclass(frozen=True)
class Phase:
    """A part of a lap or a run, its strokes by axle: "c" the dampers compress, "e" they extend, "ce" both.

    In a `steady` phase nothing moves for long enough that dampers carry nothing. `aliases` are other words for it.
    """

    discipline: str
    id: str
    front: Literal["", "c", "e", "ce"]
    rear: Literal["", "c", "e", "ce"]
    steady: bool = False
    label: str = ""
    aliases: tuple[str, ...] = ()

    @property
    def words(self) -> str:
        """How it is shown."""
        return self.label or self.id

    def is_called(self, beginning: str) -> bool:
        """Whether its id, its label or another word for it begins like this."""
        names = (self.id, self.words.lower(), *self.aliases)
        return any(name.startswith(beginning) for name in names)


@dataclass(frozen=True)
class Discipline:
    """What sets the cars of a discipline apart.

    `clock`: laps are timed, or a pass from rest. `stations` are in the order of the work. `adjusters` are
    settings that only such a car usually has. `layouts` are the rear layouts that it allows, empty for all;
    `profile` the units that a new car of it begins with. `decided_by` are the figures that decide, empty for
    all that its stations answer with. A car that `turns` left alone is another on its two sides on purpose: its
    `pairs`, the axles whose two sides are set alike, are none, where a row does not say otherwise.
    """

    id: str
    label: str
    clock: Literal["laps", "pass"]
    corners: bool
    session_kinds: tuple[str, ...]
    stations: tuple[str, ...]
    profile: Literal["n_mm", "kgf_mm", "imperial"]
    layouts: tuple[str, ...] = ()
    adjusters: tuple[str, ...] = ()
    decided_by: tuple[str, ...] = ()
    turns: Literal["both", "left"] = "both"
    pairs: tuple[str, ...] | None = None

    @property
    def paired(self) -> dict[str, tuple[str, ...]]:
        """The left and the right corner of each axle whose sides are set alike and step together."""
        alike = (AXLES if self.turns == "both" else ()) if self.pairs is None else self.pairs
        return {axle: PAIRS[axle] for axle in alike}

    @property
    def phases(self) -> tuple[Phase, ...]:
        """Its phases in their order in time."""
        return tuple(phase for phase in _phases() if phase.discipline == self.id)

    @property
    def phase_ids(self) -> tuple[str, ...]:
        return tuple(phase.id for phase in self.phases)

    def layout_refusal(self, rear_layout: str) -> str:
        """Why such a car cannot have that rear layout; empty where it can."""
        if not self.layouts or rear_layout in self.layouts:
            return ""
        allowed = ", ".join(layout.replace("_", " ") for layout in self.layouts)
        return f"{self.label} cars have another rear suspension: {allowed}."

    def phase(self, id: str) -> Phase | None:
        return next((phase for phase in self.phases if phase.id == id), None)


@cache
def _phases() -> tuple[Phase, ...]:
    found = tuple(row_of(Phase, raw, "a phase") for raw in rows(PACKAGE, "disciplines", "phase"))
    if strange := {one.discipline for one in found} - set(disciplines()):
        raise ValueError(f"a phase is of “{sorted(strange)[0]}”, which is no discipline")
    return found


@cache
def disciplines() -> dict[str, Discipline]:
    """Every discipline by its id, in the order of the table. Raises ValueError for a row that cannot be."""
    raw = rows(PACKAGE, "disciplines", "discipline")
    found = [row_of(Discipline, one, f"discipline {one.get('id')}") for one in raw]
    for one in found:
        if one.clock not in ("laps", "pass"):
            raise ValueError(
                f"discipline {one.id}: a clock times laps or a pass, not “{one.clock}”"
            )
        if one.turns not in ("both", "left") or not set(one.pairs or ()) <= set(AXLES):
            raise ValueError(f"discipline {one.id}: it turns both ways or left, in pairs of axles")
    return {one.id: one for one in found}


@cache
def rare_adjusters() -> frozenset[str]:
    """Settings that only cars of some disciplines usually have."""
    return frozenset(name for discipline in disciplines().values() for name in discipline.adjusters)
