"""Side view of an axle on pairs of bars through its travel, and the search over bracket holes (§8)."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..arrays import Array
from ..catalog.parts import Hole
from ..checks import finite
from ..errors import Impossible, Missing, OutOfRange
from ..figures import links
from ..geometry.four_bar import (
    LOWER_AXLE,
    UPPER_AXLE,
    Moved,
    instant_centre,
    lower_line,
    move,
    upper_line,
)
from ..geometry.plane import Coincident, Meeting, Point, meeting


@dataclass(frozen=True)
class Driveline:
    """Pinion axis slope [rad, + uphill to the front] and the two joints (x, z) [m], at ride height."""

    pinion_slope: float
    pinion_joint: Hole
    gearbox_joint: Hole


Picks = np.ndarray[tuple[int, ...], np.dtype[np.signedinteger[Any]]]


@dataclass(frozen=True)
class SideView:
    """The axle at one travel [m, bump +]. IC and anti-squat [1 = 100 %] from the moved contact patch.
    `bars` go from their axle end to their chassis end, ahead of the moved axle and above the ground [m].

    `pinion_angle` [rad, − nose down] and `shaft_slope` only where the driveline is known.
    """

    travel: float
    centre: Meeting | None
    anti_squat: float | None
    housing_turn: float
    axle_shift: float
    bars: tuple[tuple[Hole, Hole], ...] = ()
    pinion_angle: float | None = None
    shaft_slope: float | None = None

    def joint_angles(self, gearbox_slope: float) -> tuple[float, float] | None:
        """Operating angles of the front and the rear universal joint here [rad], in side view.

        None where the driveline is not known.
        """
        if self.pinion_angle is None or self.shaft_slope is None:
            return None
        return abs(self.shaft_slope - gearbox_slope), abs(self.pinion_angle)


def instant_centre_of(x: Array, z: Array) -> Meeting:
    """Where one pair of bars meets: Point, Parallel (at infinity, with their slope) or Coincident."""
    return meeting(upper_line(x, z), lower_line(x, z))


def anti_squat_of(centre: Meeting, cg_height: float, wheelbase: float) -> float:
    """Anti-squat [1 = 100 %]. Raises Impossible straight above the axle or on one line."""
    if isinstance(centre, Coincident):
        raise Impossible("Upper and lower bar lie on one line: no instant centre.", number="bolt_z")
    if isinstance(centre, Point):
        if abs(centre.x) <= 1e-9 * np.hypot(centre.x, centre.z):
            raise Impossible("The instant centre is straight above the axle.", number="bolt_x")
        slope: float | None = centre.z / centre.x
    else:
        slope = centre.slope
    if slope is None:
        raise Impossible("The bars stand upright.", number="bolt_x")
    return slope * wheelbase / cg_height


def anti_squat_band(anti_squat: float, cg_height: float, error: float) -> tuple[float, float]:
    """Least and most anti-squat for a CG height known to ± `error` [m]: it goes with one over it.

    Raises OutOfRange for an error below zero or as large as the height.
    """
    if not 0 <= error < cg_height:
        raise OutOfRange(
            "The error of the CG height must be less than the height.",
            number="cg_height",
            value=error,
            allowed=f"0 to below {cg_height:g} m",
        )
    ends = (anti_squat * cg_height / (cg_height + side * error) for side in (1, -1))
    low, high = sorted(ends)
    return low, high


def through_travel(
    x: Array,
    z: Array,
    *,
    travels: Sequence[float],
    radius: float,
    wheelbase: float,
    cg_height: float,
    driveline: Driveline | None = None,
) -> list[SideView]:
    """The side view at each travel. Raises Impossible where the bars do not reach."""
    at = np.asarray(travels, dtype=np.float64)
    finite(travel=at, loaded_radius=radius, bolt_x=x, bolt_z=z, wheelbase=wheelbase)
    _check(driveline)
    moved = move(x, z, np.asarray(radius), at)
    bolts = np.stack((moved.x, moved.z), -1).tolist()
    return seen(
        at,
        moved,
        [instant_centre_of(moved.x[i], moved.z[i]) for i in range(len(at))],
        [
            tuple((tuple(bolt[axle]), tuple(bolt[axle - 1])) for axle in (UPPER_AXLE, LOWER_AXLE))
            for bolt in bolts
        ],
        radius=radius,
        wheelbase=wheelbase,
        cg_height=cg_height,
        driveline=driveline,
    )


def seen(
    travels: Array,
    moved: Moved,
    centres: Sequence[Meeting | None],
    bars: Sequence[tuple[tuple[Hole, Hole], ...]],
    *,
    radius: float,
    wheelbase: float,
    cg_height: float,
    driveline: Driveline | None,
) -> list[SideView]:
    """What a moved axle looks like at each travel: anti-squat where it has an instant centre, pinion
    where its shaft is known."""
    shafts = None if driveline is None else _shaft(driveline, radius, moved, travels)
    views = []
    for i, travel in enumerate(travels):
        shift, turn, centre = float(moved.shift[i]), float(moved.turn[i]), centres[i]
        squat: float | None = None
        try:
            if centre is not None:
                squat = anti_squat_of(centre, cg_height - float(travel), wheelbase - shift)
        except Impossible:
            pass
        pinion = shaft = None
        if driveline is not None and shafts is not None:
            shaft = float(shafts[i])
            pinion = driveline.pinion_slope + turn - shaft
        views.append(SideView(float(travel), centre, squat, turn, shift, bars[i], pinion, shaft))
    return views


def _check(driveline: Driveline | None) -> None:
    if driveline is not None:
        finite(
            pinion_slope=driveline.pinion_slope,
            pinion_joint=driveline.pinion_joint,
            gearbox_joint=driveline.gearbox_joint,
        )


def _shaft(driveline: Driveline, radius: float, moved: Moved, travel: Array) -> Array:
    """Slope of the shaft from the moved pinion joint to the gearbox joint, fixed to the chassis."""
    px, pz = driveline.pinion_joint[0], driveline.pinion_joint[1] - radius
    cos, sin = np.cos(moved.turn), np.sin(moved.turn)
    x = moved.shift + px * cos - pz * sin
    z = radius + travel + px * sin + pz * cos
    slope: Array = np.arctan2(driveline.gearbox_joint[1] - z, driveline.gearbox_joint[0] - x)
    return slope


@dataclass(frozen=True)
class HoleSets:
    """Every hole (x, z) [m] of the four brackets, in the order of the bolts."""

    upper_chassis: tuple[Hole, ...]
    upper_axle: tuple[Hole, ...]
    lower_chassis: tuple[Hole, ...]
    lower_axle: tuple[Hole, ...]

    def grid(self) -> tuple[Picks, Array, Array]:
        """Every combination: indices (n, 4) and bolts x, z (n, 4). Raises Missing for an empty one."""
        brackets = (self.upper_chassis, self.upper_axle, self.lower_chassis, self.lower_axle)
        if any(not bracket for bracket in brackets):
            raise Missing("Every bracket needs at least one hole to search.", number="bolt_x")
        axes = np.meshgrid(*(np.arange(len(bracket)) for bracket in brackets), indexing="ij")
        picks = np.stack([axis.ravel() for axis in axes], axis=-1)
        points = [np.asarray(bracket, dtype=np.float64) for bracket in brackets]
        x = np.stack([points[i][picks[:, i], 0] for i in range(4)], axis=-1)
        z = np.stack([points[i][picks[:, i], 1] for i in range(4)], axis=-1)
        return picks, x, z


@dataclass(frozen=True)
class Wanted:
    """What to search for: anti-squat [1 = 100 %] and IC length [m], and what one step of each counts."""

    anti_squat: float
    ic_x: float
    anti_squat_scale: float = 0.1
    ic_scale: float = 0.1


@dataclass(frozen=True)
class HoleChoice:
    """One combination of holes, counted from 0, with bar lengths re-set to keep axle and pinion.

    `pinion_range` is the pinion angle's least and most over the travels asked for [rad]; `roll_steer`
    the slope of the lower bar, which steers the axle as the body rolls [rad per rad]. `lowest` is the
    height that its lowest bolt comes down to over those travels [m].
    """

    holes: tuple[int, int, int, int]
    score: float
    holes_moved: int
    ic: Point
    anti_squat: float
    upper_bar: float
    lower_bar: float
    pinion_per_bump: float
    roll_steer: float
    pinion_range: tuple[float, float] | None = None
    lowest: float | None = None


def search_holes(
    sets: HoleSets,
    now: tuple[int, int, int, int],
    wanted: Wanted,
    *,
    wheelbase: float,
    cg_height: float,
    show: int = 10,
    travels: Sequence[float] = (),
    radius: float | None = None,
    driveline: Driveline | None = None,
) -> tuple[int, list[HoleChoice]]:
    """The number of combinations, and the best of them by distance from what is wanted.

    Parallel bars and rearward ICs are left out; ties go to fewer holes moved. Raises OutOfRange for a
    scale, wheelbase or CG height not above zero.
    """
    for name, value in (
        ("anti_squat", wanted.anti_squat_scale),
        ("ic_x", wanted.ic_scale),
        ("wheelbase", wheelbase),
        ("cg_height", cg_height),
    ):
        if not value > 0:
            raise OutOfRange(
                f"{name.replace('_', ' ')} needs a value above zero.",
                number=name,
                value=value,
                allowed="above 0",
            )
    finite(
        anti_squat=(wanted.anti_squat, wanted.anti_squat_scale),
        cg_height=cg_height,
        ic_x=(wanted.ic_x, wanted.ic_scale),
        wheelbase=wheelbase,
        holes_now=now,
    )
    _check(driveline)
    picks, x, z = sets.grid()
    finite(bolt_x=x, bolt_z=z)
    count = len(picks)
    across, high, weight = instant_centre(x, z)
    with np.errstate(divide="ignore", invalid="ignore"):
        ic_x, ic_z = across / weight, high / weight
    ahead = np.isfinite(ic_x) & (ic_x > 0)
    picks = picks[ahead]
    x, z, ic_x, ic_z = (one[ahead] for one in (x, z, ic_x, ic_z))
    squat = ic_z / ic_x * wheelbase / cg_height
    score = np.hypot(
        (squat - wanted.anti_squat) / wanted.anti_squat_scale,
        (ic_x - wanted.ic_x) / wanted.ic_scale,
    )
    moved = (picks != np.asarray(now)).sum(axis=1)
    order = np.lexsort((moved, np.round(score, 9)))[:show]
    ranges = lowest = None
    if len(travels) and radius is not None and len(picks):
        at = np.asarray(travels, dtype=np.float64)[None, :]
        through = move(x[:, None, :], z[:, None, :], np.asarray(radius), at)
        lowest = through.z.min(axis=(1, 2))
        if driveline is not None:
            angle = driveline.pinion_slope + through.turn - _shaft(driveline, radius, through, at)
            ranges = angle.min(axis=1), angle.max(axis=1)
    upper, lower = links.upper_bar_length(x, z), links.lower_bar_length(x, z)
    return count, [
        HoleChoice(
            holes=tuple(int(hole) for hole in picks[i]),  # type: ignore[arg-type]
            score=float(score[i]),
            holes_moved=int(moved[i]),
            ic=Point(float(ic_x[i]), float(ic_z[i])),
            anti_squat=float(squat[i]),
            upper_bar=float(upper[i]),
            lower_bar=float(lower[i]),
            pinion_per_bump=float(-1 / ic_x[i]),
            roll_steer=float(_lower_slope(x[i], z[i])),
            pinion_range=None if ranges is None else (float(ranges[0][i]), float(ranges[1][i])),
            lowest=None if lowest is None else float(lowest[i]),
        )
        for i in order
    ]


def _lower_slope(x: Array, z: Array) -> Array:
    run = x[..., 2] - x[..., 3]
    slope: Array = (z[..., 2] - z[..., 3]) / np.where(run == 0, np.nan, run)
    return slope


def stays_nose_down(views: Sequence[SideView]) -> bool | None:
    """Whether the pinion stays below the shaft at every travel; None where the driveline is not known."""
    angles = [view.pinion_angle for view in views]
    if any(angle is None for angle in angles):
        return None
    return all(angle < 0 for angle in angles if angle is not None)
