"""What the floor says of ride heights: at each place, the heights that touched and those that ran free."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Literal

from ..catalog.units import show
from ..errors import UnknownName

AXLES = ("front", "rear")
FREE, TOUCHED = "free", "touched"
State = Literal["free", "touched"]


@dataclass(frozen=True)
class Look:
    """One look under the car after a run: at which place it ran, which axle, whether it had touched, and the
    ride height it ran at, last read before it [m]; None where none was."""

    place: str
    axle: str
    touched: bool
    height: float | None


@dataclass(frozen=True)
class Learned:
    """What the looks at one place say of one axle. `touched_at` is the highest height that touched, `free_at`
    the lowest that ran free, `now` the one last read [m]; `says` judges it."""

    place: str
    axle: str
    touched_at: float | None
    free_at: float | None
    now: float | None
    looks: int
    says: str


def check_floor(floor: dict[str, str]) -> None:
    """Raise UnknownName for an axle or a state that there is not."""
    for axle, state in floor.items():
        if axle not in AXLES or state not in (FREE, TOUCHED):
            raise UnknownName(
                "The floor at the front and at the rear is either free or touched.", number="floor"
            )


def learned(
    looks: Iterable[Look], now: dict[str, float | None], profile: str = "n_mm"
) -> list[Learned]:
    """By place and axle, places as they come. `now` is the ride height of each axle as last read [m]."""
    groups: dict[tuple[str, str], list[Look]] = {}
    for look in looks:
        groups.setdefault((look.place, look.axle), []).append(look)
    found = []
    for (place, axle), those in groups.items():
        hit = [one.height for one in those if one.touched and one.height is not None]
        free = [one.height for one in those if not one.touched and one.height is not None]
        touched_at, free_at = max(hit, default=None), min(free, default=None)
        stands = now.get(axle)
        says = _judged(touched_at, free_at, stands, profile)
        found.append(Learned(place, axle, touched_at, free_at, stands, len(those), says))
    return found


def _judged(
    touched_at: float | None, free_at: float | None, now: float | None, profile: str
) -> str:
    if touched_at is None and free_at is None:
        return "No ride height was read before those runs, so nothing is known of heights."
    if touched_at is not None and free_at is not None and free_at <= touched_at:
        return "It ran free as low as it touched: speed, fuel or the line decided, and not the height alone."
    if now is None:
        return "Read the ride heights to hold them against it."
    if touched_at is not None and now <= touched_at:
        room = show(touched_at - now, "height", profile)
        return f"The car stands where it touched, or {room} lower: raise it, or expect it to touch."
    if free_at is not None and now >= free_at:
        return "The car stands as high as it ran free, or higher."
    if touched_at is None:
        return "The car stands lower than it has run here: nothing is known of that."
    if free_at is None:
        return "The car stands higher than where it touched: whether high enough is not known yet."
    return "The car stands between what touched and what ran free."
