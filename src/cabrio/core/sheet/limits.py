"""What a change may not take away from the car: room for the coils, the floor and the pinion, safe brakes."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from ..arrays import Array
from ..catalog.units import show
from ..errors import CoreError, Impossible
from ..graph.registry import number_named
from ..solve.side_view import Driveline, through_travel
from .build import Sheet
from .what_if import WhatIf, moved_by, refused_newly

LIMITS = (
    ("bind_margin", 1, "the coils would touch at full bump"),
    ("seat_at_droop", 1, "the spring would come loose at full droop"),
    ("clearance_at_speed", 1, "the car would come under its least height at speed"),
    ("brake_share_off", -1, "the rear would lock before the front at the braking shown"),
)
"""Figures that have a side to stay on: above zero, or below it for −1."""
HAIR = 0.5e-3
"""How far past a limit counts [m]: less is within what the lengths were measured to, and is said."""


def refuse_what_it_breaks(sheet: Sheet, trial: WhatIf) -> list[str]:
    """Raise Impossible where the change takes something away that the car needs; what is close is said.

    A limit that is crossed already counts the same: what the change adds to it is what matters.
    """
    for refusal in refused_newly(sheet, trial):
        raise refusal
    close = []
    for name, side, sentence in LIMITS:
        number = number_named(name)
        for place in number.shape.places:
            before, after = moved_by(sheet, trial, name, place)
            if before is None or after is None:
                continue
            before, after = side * before, side * after
            if after >= min(before, 0.0):
                continue
            by = show(-after, number.quantity, sheet.car.profile)
            said = f"{place}: {sentence}" if place != "car" else sentence[0].upper() + sentence[1:]
            already = " and it is past it already" if before < 0 else ""
            if min(before, 0.0) - after > HAIR:
                raise Impossible(f"{said}, by {by}{already}.", number=name, place=place)
            close.append(f"{said}, by no more than can be measured{already}.")
    _refuse_nose_up(sheet, trial)
    if _moves_bolts(sheet, trial) and "pinion_slope" not in trial.worked.values:
        close.append(PINION_UNREAD)
    return close


PINION_UNREAD = (
    "The pinion's angle was never read: read it before and after, nose down all the way."
)


def _moves_bolts(sheet: Sheet, trial: WhatIf) -> bool:
    before, after = sheet.worked.values, trial.worked.values
    return any(
        not np.array_equal(before.get(one, np.nan), after.get(one, np.nan), equal_nan=True)
        for one in ("bolt_x", "bolt_z")
    )


PINION = (
    "bolt_x",
    "bolt_z",
    "pinion_slope",
    "pinion_joint_x",
    "pinion_joint_z",
    "cg_height",
    "gearbox_joint_x",
    "gearbox_joint_z",
    "loaded_radius",
    "wheelbase",
    "droop_travel",
    "bump_travel",
)
"""What the pinion's way through the travel is worked from."""


def _refuse_nose_up(sheet: Sheet, trial: WhatIf) -> None:
    """Raise Impossible where moved links leave the pinion nose up over the travel in use, or anything brings it
    further up.

    Whatever moves it counts: a hole, a bar's length, a bolt, a tyre. The bars are taken to be re-set to keep
    it at ride height, so only its turning through the travel is new.
    """
    before, after = sheet.worked.values, trial.worked.values
    moved = [
        one for one in PINION if not np.array_equal(before.get(one, np.nan), after.get(one, np.nan))
    ]
    if not moved:
        return
    was, now = _highest_pinion(before), _highest_pinion(after)
    if now is None or now[0] < 0:
        return
    links = "bolt_x" in moved or "bolt_z" in moved
    if not links and was is not None and now[0] <= was[0] + NOTHING:
        return
    angle, travel = now
    where = show(abs(travel), "fine_dimension", sheet.car.profile)
    way = "bump" if travel > 0 else "droop"
    raise Impossible(
        f"The pinion would come nose up at {where} of {way}: set it lower at ride height first.",
        number="pinion_angle",
        value=angle,
        allowed="below 0 over the travel",
    )


NOTHING = 1e-6
"""How much further nose up is no change [rad]."""


def _highest_pinion(values: Mapping[str, Array]) -> tuple[float, float] | None:
    """The highest pinion angle over the travel in use [rad], and the travel there [m]; None if not known."""
    if any(name not in values for name in PINION):
        return None
    at = {name: float(values[name].reshape(-1)[-1]) for name in PINION[2:]}
    line = Driveline(
        at["pinion_slope"],
        (at["pinion_joint_x"], at["pinion_joint_z"]),
        (at["gearbox_joint_x"], at["gearbox_joint_z"]),
    )
    try:
        views = through_travel(
            values["bolt_x"],
            values["bolt_z"],
            travels=np.linspace(-at["droop_travel"], at["bump_travel"], 9).tolist(),
            radius=at["loaded_radius"],
            wheelbase=at["wheelbase"],
            cg_height=at["cg_height"],
            driveline=line,
        )
    except CoreError:
        return None
    angles = [(view.pinion_angle, view.travel) for view in views if view.pinion_angle is not None]
    return max(angles, default=None)
