"""What advice does to the loaded car: how far each change moves the grip balance, and which way it should."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from ..errors import CoreError
from ..knowledge import knowledge
from ..sheet.build import Sheet
from ..sheet.ladder import balances_of
from ..sheet.steps import LEAST, LOADED
from ..sheet.what_if import try_lines
from .candidate import Candidate
from .target_figures import limits_here

CONTRARY = (
    "Under load this car does the opposite with it: a wheel is off the ground at the limit, or its tyres "
    "are only estimated. Read the pads and tread temperatures, and enter the tyres' grip, before you try it."
)


def balances(sheet: Sheet, found: Sequence[Candidate]) -> list[float | None]:
    """How far each change moves the grip balance [g, + the rear gives up sooner], where the loaded car
    has one and it moves at all."""
    limits = limits_here(sheet)
    if limits is None or limits.here.balance is None:
        return [None] * len(found)
    tried = []
    for one in found:
        try:
            trial = try_lines(sheet, one.lines, wanted=LOADED) if one.lines else None
        except CoreError:
            trial = None
        tried.append(trial)
    here = limits.here.balance
    moved = [None if balance is None else balance - here for balance in balances_of(tried, limits)]
    return [None if one is None or abs(one) < LEAST else one for one in moved]


def compare_balance(
    symptom: str, found: Sequence[Candidate], moved: Sequence[float | None]
) -> list[tuple[Candidate, float | None]]:
    """The candidates with their balance; one that the loaded car contradicts is not offered, and says so."""
    wants = {"up": 1, "down": -1}.get(knowledge().work.symptoms[symptom].balance, 0)
    ranked: list[tuple[Candidate, float | None]] = []
    for one, balance in zip(found, moved, strict=True):
        if one.refused is None and wants and balance is not None and wants * balance < 0:
            one, balance = replace(one, refused=CONTRARY, lines=(), effects=(), loads=()), None
        ranked.append((one, balance))
    return sorted(ranked, key=lambda pair: pair[0].refused is not None)
