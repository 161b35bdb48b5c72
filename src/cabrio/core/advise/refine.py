"""A plan that comes near, tried a step nearer and farther on each axis that it moves."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass, field

import numpy as np

from ..car.lines import Line
from ..errors import CoreError
from ..sheet.build import Sheet
from .axes import Axis, Option, option_at
from .evaluate import evaluate, load_in_batch
from .search import names_of
from .target_figures import is_loaded
from .targets import Plan, Target

MAX_ROUNDS = 6
"""How often a plan is tried a step nearer and farther on every axis, as long as that helps."""
STEP_WORTH = 0.02
"""How much nearer, in what counts as reached, a step more of a plan must bring it."""
Loaded = Mapping[tuple[Line, ...], float]


def refine(
    sheet: Sheet, axes: Sequence[Axis], steps: list[int], best: Plan, targets: Sequence[Target]
) -> Plan:
    """A plan tried a step nearer and farther on each axis that it moves, as long as it gets better; one that
    moves a single axis is first tried where its own line meets the target."""
    refinement = _Refinement(sheet, axes, targets, steps, best)
    refinement.jump()
    for _ in range(MAX_ROUNDS):
        before = refinement.best
        refinement.go_round()
        if refinement.best is before:
            break
    return refinement.best


@dataclass
class _Refinement:
    """The best plan so far, and how many steps of each axis make it."""

    sheet: Sheet
    axes: Sequence[Axis]
    targets: Sequence[Target]
    steps: list[int]
    best: Plan
    options: dict[tuple[int, int], Option | None] = field(default_factory=dict)

    def jump(self) -> None:
        """Try a plan of one axis for one target where a straight line from here meets it."""
        moved = [at for at, by in enumerate(self.steps) if by]
        if len(moved) != 1 or len(self.targets) != 1 or is_loaded(self.targets[0].name):
            return
        (at,), (one,) = moved, self.best.reached
        share = (self.targets[0].wanted - one.before) / ((one.after - one.before) or np.inf)
        there = [*self.steps[:at], round(self.steps[at] * share), *self.steps[at + 1 :]]
        self._try(there, self._lines(there) or (), {})

    def go_round(self) -> None:
        """Try each axis a step nearer and farther."""
        loaded = self._load_from(0)
        for at in range(len(self.axes)):
            for tried in self._neighbours(at):
                lines = self._lines(tried)
                if lines is not None and self._try(tried, lines, loaded):
                    loaded = self._load_from(
                        at + 1
                    )  # the neighbours on the other axes are new ones

    def _try(self, steps: list[int], lines: Sequence[Line], loaded: Loaded) -> bool:
        """Whether these steps make a better plan: then it is the best."""
        with suppress(CoreError):
            made = evaluate(self.sheet, lines, self.targets, loaded, self.best.nearest)
            if self._is_better(made):
                self.best, self.steps = made, steps
                return True
        return False

    def _is_better(self, made: Plan) -> bool:
        if self.best.met:  # then the least that still does
            return made.rank < self.best.rank
        return made.met or made.off < self.best.off - STEP_WORTH

    def _neighbours(self, at: int) -> list[list[int]]:
        """The steps with one axis a step nearer, and a step farther; none where it does not move."""
        ways = (self.steps[at] - 1, self.steps[at] + 1) if self.steps[at] else ()
        return [[*self.steps[:at], by, *self.steps[at + 1 :]] for by in ways]

    def _lines(self, steps: Sequence[int]) -> list[Line] | None:
        """What these steps change; None where the car cannot step there."""
        options = [self._option(at, by) for at, by in enumerate(steps)]
        known = [option for option in options if option is not None]
        return [line for one in known for line in one.lines] if len(known) == len(options) else None

    def _option(self, at: int, by: int) -> Option | None:
        if (at, by) not in self.options:
            axis = self.axes[at]
            listed = next((option for option in axis.options if option.by == by), None)
            wanted = names_of(self.targets)
            self.options[at, by] = listed or option_at(self.sheet, axis, by, wanted)
        return self.options[at, by]

    def _load_from(self, at: int) -> Loaded:
        """The grip balance of every neighbour from this axis on, loaded in one batch."""
        around = [
            self._lines(tried)
            for axis in range(at, len(self.axes))
            for tried in self._neighbours(axis)
        ]
        return load_in_batch(
            self.sheet, [lines for lines in around if lines is not None], self.targets
        )
