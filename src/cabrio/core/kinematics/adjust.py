"""What one turn or one shim does: every place where a suspension is usually adjusted, tried one by one."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..errors import CoreError
from .axle import Effect, effect
from .corner import Changed
from .side import Side

SHIM = 1e-3
"""The shim tried where nothing else is known [m]."""
AHEAD, OUT, UP = np.eye(3) * SHIM
TURNED = (
    ("tie_rod", "Tie rod or toe link"),
    ("upper_front", "Upper arm, front leg"),
    ("upper_rear", "Upper arm, rear leg"),
    ("lower_front", "Lower arm, front leg"),
    ("lower_rear", "Lower arm, rear leg"),
)
SHIMMED = (
    ("Upper pivots out", ("upper_front", "upper_rear"), OUT),
    ("Upper pivots up", ("upper_front", "upper_rear"), UP),
    ("Upper pivots ahead", ("upper_front", "upper_rear"), AHEAD),
    ("Lower pivots out", ("lower_front", "lower_rear"), OUT),
    ("Lower pivots up", ("lower_front", "lower_rear"), UP),
    ("Strut top out", ("strut_top",), OUT),
    ("Strut top ahead", ("strut_top",), AHEAD),
    ("Rack, or inner end of the toe link, up", ("tie_rod_inner",), UP),
    ("Outer end of the tie rod or toe link up", ("tie_rod_outer",), UP),
    ("Outer pivot up", ("pivot_outer",), UP),
    ("Outer pivot ahead", ("pivot_outer",), AHEAD),
    ("Inner pivot up", ("pivot_inner",), UP),
    ("Inner pivot ahead", ("pivot_inner",), AHEAD),
)


@dataclass(frozen=True)
class Adjustment:
    """One way to adjust a side and what it does; `by` is how far it moved or lengthened [m]."""

    label: str
    turned: bool
    by: float
    effect: Effect


def adjustments(side: Side, pitch: float | None = None) -> list[Adjustment]:
    """What a turn of each link (`pitch` longer [m], 1 mm where it is not known) and each shim does.

    Toe is not set again. A way that the links cannot follow is left out.
    """
    ways = [
        (f"{label} longer", pitch is not None, pitch or SHIM, Changed({}, {name: pitch or SHIM}))
        for name, label in TURNED
        if any(name == link for link, *_ in side.layout.links)
    ]
    ways += [
        (label, False, SHIM, Changed(dict.fromkeys(points, by), {}))
        for label, points, by in SHIMMED
        if all(point in side.layout.points for point in points)
    ]
    found = []
    for label, turned, by, changed in ways:
        try:
            found.append(Adjustment(label, turned, by, effect(side, changed)))
        except CoreError:
            continue
    return found
