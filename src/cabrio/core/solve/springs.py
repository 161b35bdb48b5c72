"""Small questions about one spring: load left after a travel, a cut coil, springs in a row (§2)."""

from __future__ import annotations

from dataclasses import dataclass

from ..errors import Impossible, OutOfRange


def in_series(*rates: float) -> float:
    """Rate [N/m] of springs in a row, a soft top mount among them."""
    if not rates or any(not rate > 0 for rate in rates):
        raise OutOfRange(
            "Every rate in a row must be above zero.", number="spring_rate", allowed="above 0"
        )
    return 1 / sum(1 / rate for rate in rates)


@dataclass(frozen=True)
class CutSpring:
    """A spring after cutting: rate [N/m], free length [m], how far the corner drops at the spring [m]."""

    rate: float
    free_length: float
    drop: float


def cut(
    rate: float, free_length: float, active_coils: float, cut_off: float, force: float
) -> CutSpring:
    """What cutting coils would make of a spring, before it is cut: it cannot be uncut.

    Rate goes with one over the active coils; the free length falls by the pitch of those cut. `force`
    is what it carries at ride height [N]. Raises Impossible where nothing useful is left.
    """
    if not 0 < cut_off < active_coils - 1:
        raise Impossible(
            f"Of {active_coils:g} active coils, {cut_off:g} cannot be cut off.",
            number="spring_rate",
            value=cut_off,
            allowed=f"above 0, below {active_coils - 1:g}",
        )
    stiffer = rate * active_coils / (active_coils - cut_off)
    shorter = free_length * (1 - cut_off / active_coils)
    drop = (free_length - force / rate) - (shorter - force / stiffer)
    return CutSpring(stiffer, shorter, drop)
