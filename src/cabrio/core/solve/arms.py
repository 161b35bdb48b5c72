"""Where a trailing arm or a leaf has to start so that its axle end goes where it should (§9)."""

from __future__ import annotations

from ..constants import LEAF_ARM
from ..errors import OutOfRange


def effective_arm(front_half: float, factor: float = LEAF_ARM) -> float:
    """The arm [m] that a leaf's front half acts as: about three quarters of eye to axle.

    Raises OutOfRange for a length or factor that cannot be.
    """
    if not (front_half > 0 and 0 < factor <= 1):
        raise OutOfRange(
            "A leaf has a length above zero and a factor up to one.",
            number="arm_length",
            value=front_half,
            allowed="above 0",
        )
    return front_half * factor


def rise_without_steer(travel: float) -> float:
    """Height of the axle end over its pivot at ride height [m] that leaves no lead after a travel [m].

    The arm is then level half way: it leads as much going up to level as it trails beyond.
    """
    return -travel / 2


def pivot_change(rise_now: float, rise_wanted: float) -> float:
    """How far to move the pivot [m, + up] for a wanted rise of the axle end over it."""
    return rise_now - rise_wanted
