"""Where the linear figures end: what the car does at which they are no longer right, in words.

The figures themselves stay as they are, for they are what a hand would work; the car under load goes on
where they stop (reference-under-load).
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.units import show
from ..constants import STANDARD_GRAVITY
from ..graph.registry import Worked

Values = Mapping[str, Array]
NOTICED = 0.02
"""How much of itself the CG height may change before the launch figures say so."""


@dataclass(frozen=True)
class End:
    """An end of the range: the figures it ends, what it is worked from, and what to say past it."""

    of: tuple[str, ...]
    needs: tuple[str, ...]
    says: Callable[[Values, str], str]


ENDS: list[End] = []


def _end(of: tuple[str, ...], needs: tuple[str, ...]) -> Callable[..., Callable[..., str]]:
    def enter(says: Callable[[Values, str], str]) -> Callable[[Values, str], str]:
        ENDS.append(End(of, needs, says))
        return says

    return enter


@_end(
    (
        "elastic_transfer",
        "geometric_transfer",
        "unsprung_transfer",
        "load_transfer",
        "jacking_force",
        "roll_angle",
        "wheel_pair_roll",
        "lltd",
        "lltd_off_start",
    ),
    ("load_transfer", "pad_mass", "lateral_acceleration"),
)
def _inner_wheel_lifts(v: Values, profile: str) -> str:
    """The load that leaves the inner wheel is more than it carries at the speed looked at."""
    carries = v["pad_mass"].reshape(2, 2).min(-1) * STANDARD_GRAVITY
    carries = carries + v.get("downforce", np.zeros(2)) / 2
    asked = float(v["lateral_acceleration"])
    share = np.abs(v["load_transfer"]) / carries
    worst = int(np.argmax(share))
    if not share[worst] > 1:
        return ""
    axle = ("front", "rear")[worst]
    ends = show(abs(asked) / float(share[worst]), "acceleration", profile)
    return (
        f"At {show(abs(asked), 'acceleration', profile)} the inner {axle} wheel is off the ground: this "
        f"holds up to {ends}. Look at the car under load."
    )


@_end(
    (
        "braking_transfer",
        "spring_load_at_speed",
        "travel_at_speed",
        "tyre_squash_at_speed",
        "height_at_speed",
        "clearance_at_speed",
    ),
    ("braking_transfer", "pad_mass", "downforce", "braking"),
)
def _rear_lifts_in_braking(v: Values, profile: str) -> str:
    """The load that leaves the rear axle is more than it carries at this speed."""
    carries = float(v["pad_mass"][2:].sum()) * STANDARD_GRAVITY + float(v["downforce"][1])
    leaves = -float(v["braking_transfer"][1])
    if leaves <= carries:
        return ""
    asked = float(v["braking"])
    ends = show(asked * carries / leaves, "acceleration", profile)
    return (
        f"At {show(asked, 'acceleration', profile)} of braking the rear wheels are off the ground: this "
        f"holds up to {ends}."
    )


@_end(
    ("rear_separation", "shaft_in_launch", "stroke_left_open"),
    ("rear_separation", "droop_travel", "bump_travel"),
)
def _rear_at_its_stop(v: Values, profile: str) -> str:
    """The rear separates past full droop, or squats past full bump."""
    moved = float(v["rear_separation"])
    room = float((v["droop_travel"] if moved > 0 else v["bump_travel"])[2:].min())
    if abs(moved) <= room:
        return ""
    does, stop = ("separate", "droop") if moved > 0 else ("squat", "bump")
    return (
        f"The rear would {does} {show(abs(moved), 'height', profile)} and has "
        f"{show(room, 'height', profile)} of {stop}: it stops there."
    )


@_end(("front_rise_free", "front_rise"), ("front_rise_free", "front_rise", "droop_travel"))
def _front_at_full_droop(v: Values, profile: str) -> str:
    """The front rises past full droop, where no limiter stops it before."""
    rise, room = float(v["front_rise"]), float(v["droop_travel"][:2].min())
    if rise <= room:
        return ""
    return (
        f"The front would rise {show(rise, 'height', profile)} and has {show(room, 'height', profile)} "
        "of droop: it stops there, on its dampers."
    )


@_end(
    ("launch_transfer", "rear_separation", "rear_tyre_squash", "front_rise_free", "front_rise"),
    ("front_rise", "rear_separation", "rear_tyre_squash", "front_share", "cg_height"),
)
def _launch_raises_the_cg(v: Values, profile: str) -> str:
    """The body's own rise lifts the CG that the load transfer was worked with."""
    front = float(v["front_share"])
    back = float(v["rear_separation"]) - float(v["rear_tyre_squash"])
    rise = front * float(v["front_rise"]) + (1 - front) * back
    share = rise / float(v["cg_height"])
    if abs(share) <= NOTICED:
        return ""
    way = "raises" if rise > 0 else "lowers"
    return (
        f"The launch itself {way} the CG by {show(abs(rise), 'height', profile)}, "
        f"{show(abs(share), 'share', profile)} of its height: the load moved changes by as much."
    )


def past_their_range(worked: Worked, profile: str) -> dict[str, str]:
    """What to say of each figure that is worked past where it holds; nothing of the others."""
    v, found = worked.values, dict[str, str]()
    for end in ENDS:
        if not all(name in v for name in end.needs):
            continue
        said = end.says(v, profile)
        for name in end.of if said else ():
            if name in v:
                found[name] = f"{found[name]} {said}" if name in found else said
    return found
