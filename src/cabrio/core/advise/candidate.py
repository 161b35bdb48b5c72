"""What advice is asked, and the changes that it answers with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..car.lines import Line
from ..errors import CoreError
from ..graph.registry import number_named
from ..record.line_error import LineError
from ..record.recheck import Recheck
from ..record.verdicts import EVEN, Chance, chance
from ..solve.preload import Bite

Severity = Literal["slight", "clear", "strong"]
Corner = Literal["", "slow", "fast"]
Surface = Literal["", "poor", "good"]
Sureness = Literal["low", "medium", "high"]


class NotSet(CoreError):
    """A setting that nobody has written down: `places` are those that a cure would step."""

    code = "not_set"

    def __init__(self, sentence: str, *, number: str, places: tuple[str, ...]) -> None:
        super().__init__(sentence, number=number)
        self.places = places


@dataclass(frozen=True)
class Effect:
    """A figure the rule names, before and after at one place (SI), and how strongly it is felt."""

    name: str
    place: str
    before: float
    after: float
    felt: float


@dataclass(frozen=True)
class Before:
    """What an earlier slip with these lines came to, as it was judged."""

    lines: tuple[Line, ...]
    outcome: str
    words: str = ""
    revision: int = 0
    car: str = ""
    """Whose it was, where it was another car."""
    conditions: str = ""
    """Where and on what surface it was run."""
    went_back: bool = False
    """Whether it put the car back to an earlier setup: that is no test of the change."""

    def tests(self, lines: tuple[Line, ...]) -> bool:
        """Whether its verdict is one on these lines: nothing of another system was changed with them."""
        systems = {number_named(line.name).system for line in lines}
        others = {number_named(line.name).system for line in self.lines} - systems
        return not self.car and not self.went_back and not others


@dataclass(frozen=True)
class Candidate:
    """One change that could be made for the complaint.

    `refused` says why it cannot be made on this car; `warnings` what to think of first. Minutes are of
    the work itself and of all it makes stale.
    """

    lines: tuple[Line, ...]
    label: str
    reason: str
    costs: str
    school: str
    effects: tuple[Effect, ...] = ()
    minutes: int = 0
    rechecks: tuple[Recheck, ...] = ()
    warnings: tuple[str, ...] = ()
    refused: str | None = None
    asks: tuple[str, ...] = ()
    """Places of its number that nobody set, where that is why it is refused: told, it can be sized."""
    before: tuple[Before, ...] = ()
    number: str = ""
    """The number that would move."""
    loads: tuple[Effect, ...] = ()
    """What each axle carries across the car at the cornering looked at, before and after."""
    stained: bool = False
    """Whether its size rests on estimates."""
    out_of_place: bool = False
    """Whether it suits another surface than the one it was asked for."""

    @property
    def total_minutes(self) -> int:
        return self.minutes + sum(recheck.minutes for recheck in self.rechecks)

    @property
    def felt(self) -> float:
        """Steps a driver would feel, the strongest of its figures; one where the size is not known."""
        return max((effect.felt for effect in self.effects), default=1.0)

    @property
    def chance(self) -> Chance | None:
        """How often it helped this very car; None where it was never tried on it."""
        return chance(one.outcome for one in self.before if one.tests(self.lines))

    @property
    def confidence(self) -> tuple[Sureness, str]:
        """How sure this is to work here, and why: by what it did before, else by what it is worked from."""
        here = self.chance
        if here is not None:
            if here.low > EVEN:
                return "high", here.text()
            return ("low" if here.high < EVEN or not here.better else "medium"), here.text()
        if not self.effects:
            return "low", "its size here is not known"
        if self.stained:
            return "low", "its size rests on estimates"
        return "medium", "worked on this car, not tried on it yet"

    @property
    def worth(self) -> float:
        """Felt steps a minute, up to three steps: beyond that a change is coarse, not better. What this
        car's verdicts have settled weighs in."""
        learned = self.chance.weight if self.chance is not None else 1.0
        return learned * min(self.felt, 3.0) / max(self.total_minutes, 1)


@dataclass(frozen=True)
class Question:
    """What the driver said: a symptom of this discipline in a phase, and which school is preferred.

    `severity` is how bad it is: it makes the step smaller or larger. `corner` says that it is so in slow
    or in fast corners only, `surface` how well it grips, where that was said.
    """

    symptom: str
    phase: str
    school: str = "A"
    severity: Severity = "clear"
    corner: Corner = ""
    surface: Surface = ""


@dataclass(frozen=True)
class AdviceContext:
    """What is known beside the sheet: changes already on the slip, earlier verdicts, bite per flat, and
    what a flat does to where the car goes."""

    draft: tuple[Line, ...] = ()
    record: tuple[Before, ...] = ()
    bite: Bite | None = None
    line_error: LineError | None = None
