"""The ladder of an anti-roll bar: its wheel rate at every hole (reference §4)."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..catalog.parts import Bar
from ..graph.evaluate import answer


@dataclass(frozen=True)
class Rung:
    """One hole, counted from 1, its arm [m] and the wheel rate in roll it gives [N/m]."""

    hole: int
    arm: float
    wheel_rate: float


def ladder(bar: Bar) -> list[Rung]:
    """Every hole of a bar, worked in one batch of the graph. Raises the figures' own refusals."""
    rates = worked(bar)["bar_wheel_rate"][:, 0]
    rungs = zip(bar.arms, rates, strict=True)
    return [Rung(i + 1, arm, float(rate)) for i, (arm, rate) in enumerate(rungs)]


def worked(bar: Bar, arms: tuple[float, ...] | None = None) -> dict[str, Array]:
    """The figures of one bar at its holes, or at other arms [m], its blade in the first position: arrays
    (holes, 2), both axles alike.
    """
    blade = bar.blade
    known: dict[str, Array] = {
        "bar_arm": np.repeat(np.asarray(arms or bar.arms)[:, None], 2, axis=1)
    }
    for name, value in (
        ("bar_outer", bar.outer),
        ("bar_inner", bar.inner),
        ("bar_length", bar.length),
        ("bar_motion_ratio", bar.motion_ratio),
        ("bar_shear_modulus", bar.shear_modulus),
        *(
            ()
            if blade is None
            else (
                ("blade_width", blade.width),
                ("blade_thickness", blade.thickness),
                ("blade_length", blade.length),
                ("blade_angle", blade.angles[0]),
                ("blade_guided", float(blade.guided)),
                ("blade_youngs_modulus", blade.youngs_modulus),
            )
        ),
    ):
        known[name] = np.full(2, value, dtype=np.float64)
    return answer(["bar_wheel_rate", *(["blade_rate"] if blade else [])], known)
