"""How often a change helped this car, with what so few verdicts leave open."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from scipy.special import betaincinv

EVEN = 0.5
"""As often better as not: what nobody could tell from tossing a coin."""
BETWEEN = (0.05, 0.95)
"""The band holds nine times in ten."""


@dataclass(frozen=True)
class Chance:
    """Times a change was judged better, of how many; and between what its chance to help lies (0 to 1)."""

    better: int
    count: int
    low: float
    high: float

    @property
    def settled(self) -> bool:
        """Whether the verdicts say more than a toss: the whole band is on one side of even."""
        return self.low > EVEN or self.high < EVEN

    @property
    def weight(self) -> float:
        """What to hold the change's worth against: 1 while nothing is settled, up to 2 where it always
        helped, toward 0 where it never did."""
        return (self.better + 0.5) / (self.count + 1) / EVEN if self.settled else 1.0

    def text(self) -> str:
        """What it says, as words beside a change."""
        sentence = f"{self.better} of {self.count} times better on this car"
        band = f"a chance to help of {self.low:.0%} to {self.high:.0%}".replace("%", " %")
        return f"{sentence}: {band}" + ("" if self.settled else ", too few to count on")


def chance(outcomes: Iterable[str]) -> Chance | None:
    """The chance from verdicts (`better`, `same`, `worse`); None where none was tested.

    Jeffreys' interval of a proportion: with few verdicts it is wide, and it never claims 0 or 1.
    """
    tried = [outcome for outcome in outcomes if outcome != "not tested"]
    if not tried:
        return None
    better = sum(one == "better" for one in tried)
    low, high = betaincinv(better + 0.5, len(tried) - better + 0.5, BETWEEN)
    return Chance(better, len(tried), float(low), float(high))
