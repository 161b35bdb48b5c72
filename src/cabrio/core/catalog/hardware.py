"""Parts a car can wear beyond its springs: dampers, bars, bump rubbers, bracket holes.

Plain checked data; what they mean in force and rate is worked in `figures` and `solve`.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Literal

import numpy as np

from ..constants import SHEAR_MODULUS_STEEL, YOUNGS_MODULUS_STEEL
from ..errors import Impossible, Missing, OutOfRange
from ..graph.registry import Array
from .checks import finite

Counted = Literal["from_closed", "from_open"]
Face = Literal["compression", "rebound"]


@dataclass(frozen=True)
class DynoCurve:
    """Force [N] against shaft speed [m/s] at one click, speeds rising. Compression and rebound are
    both written positive."""

    click: float
    speeds: tuple[float, ...]
    forces: tuple[float, ...]

    def __post_init__(self) -> None:
        if len(self.speeds) != len(self.forces) or len(self.speeds) < 2:
            raise Impossible("A dyno curve needs a force for every speed, two points or more.",
                             number="damper_curve", value=self.click)  # fmt: skip
        finite(damper_curve=(*self.speeds, *self.forces, self.click))
        if any(b <= a for a, b in zip(self.speeds, self.speeds[1:], strict=False)):
            raise Impossible("The speeds of a dyno curve must rise.", number="damper_curve",
                             value=self.click)  # fmt: skip

    def force(self, speed: Array) -> Array:
        """Force [N] at shaft speeds [m/s]. Raises OutOfRange past the measured speeds."""
        finite(shaft_speed=speed)
        if np.any(speed < self.speeds[0] - 1e-12) or np.any(speed > self.speeds[-1] + 1e-12):
            allowed = f"{self.speeds[0]:g} to {self.speeds[-1]:g} m/s"
            raise OutOfRange(f"The damper was measured from {allowed}, not beyond.",
                             number="damper_curve", value=float(np.max(speed)), allowed=allowed)  # fmt: skip
        return np.interp(speed, self.speeds, self.forces)


@dataclass(frozen=True)
class Adjustment:
    """One direction of a damper: how many clicks it has, from where they count, what was measured.

    A damper without a knob in this direction has no clicks and one curve. `dead_at` is the click at
    which the knob no longer turns: nothing may be proposed on it.
    """

    clicks: int
    counted: Counted
    curves: tuple[DynoCurve, ...] = ()
    dead_at: float | None = None

    @property
    def measured(self) -> tuple[float, float]:
        """Least and most click with a dyno curve between them. Raises Missing without any."""
        if not self.curves:
            raise Missing("This damper has no dyno sheet: its force at a click is not known.",
                          number="damper_curve")  # fmt: skip
        clicks = [curve.click for curve in self.curves]
        return min(clicks), max(clicks)

    def check(self, click: float) -> float:
        """The click, where the adjuster has it. Raises OutOfRange."""
        finite(damper_clicks=(click, self.clicks))
        if not 0 <= click <= self.clicks:
            raise OutOfRange(
                f"This adjuster has no click {click:g}: it goes from 0 to {self.clicks}.",
                number="damper_clicks", value=click, allowed=f"0 to {self.clicks}")  # fmt: skip
        return click

    def from_closed(self, click: float) -> float:
        """The same position counted out from fully closed, 0 the stiffest."""
        return self.check(click) if self.counted == "from_closed" else self.clicks - click

    def from_open(self, click: float) -> float:
        """The same position counted up from fully open, 0 the softest."""
        return self.clicks - self.from_closed(click)

    def force(self, click: float, speed: Array) -> Array:
        """Force [N] at a click and shaft speeds [m/s], between the two nearest measured clicks.

        Raises OutOfRange past what the adjuster has or what was measured, Missing without a sheet.
        """
        self.check(click)
        least, most = self.measured
        if not least <= click <= most:
            raise OutOfRange(
                f"Click {click:g} was not measured: the dyno sheet goes from {least:g} to {most:g}.",
                number="damper_clicks", value=click, allowed=f"{least:g} to {most:g}")  # fmt: skip
        speed = np.asarray(speed, dtype=np.float64)
        below = max((c for c in self.curves if c.click <= click), key=lambda c: c.click)
        above = min((c for c in self.curves if c.click >= click), key=lambda c: c.click)
        if above.click == below.click:
            return below.force(speed)
        share = (click - below.click) / (above.click - below.click)
        return (1 - share) * below.force(speed) + share * above.force(speed)

    def chord(self, click: float, band: tuple[float, float]) -> float:
        """Slope [N·s/m] of the chord over a band of shaft speeds: force at zero speed drops out."""
        return _chord(self, click, band)


@lru_cache(maxsize=4096)
def _chord(adjustment: Adjustment, click: float, band: tuple[float, float]) -> float:
    """Kept: a sheet asks for the same few clicks each time it is worked."""
    low, high = adjustment.force(click, np.array(band))
    return float((high - low) / (band[1] - band[0]))


@dataclass(frozen=True)
class Shim:
    """One shim of a stack, from the piston outward: outside diameter and thickness [m]."""

    diameter: float
    thickness: float


@dataclass(frozen=True)
class Valving:
    """How one face of a damper's piston is built, as found: data to compare, never a force."""

    face: Face
    shims: tuple[Shim, ...]
    bleed: str = ""
    note: str = ""

    def differences(self, other: Valving) -> list[str]:
        """What differs from another stack, shim by shim, in plain words."""
        found = []
        for i in range(max(len(self.shims), len(other.shims))):
            here = self.shims[i] if i < len(self.shims) else None
            there = other.shims[i] if i < len(other.shims) else None
            if here != there:
                found.append(f"shim {i + 1}: {_said(here)} against {_said(there)}")
        if self.bleed != other.bleed:
            found.append(f"bleed: {self.bleed or 'none'} against {other.bleed or 'none'}")
        return found


def _said(shim: Shim | None) -> str:
    return "none" if shim is None else f"{shim.diameter * 1e3:g} × {shim.thickness * 1e3:.2f} mm"


@dataclass(frozen=True)
class Damper:
    """A damper: one adjustment each way (single-adjustable: one of them has no clicks), its build."""

    compression: Adjustment | None = None
    rebound: Adjustment | None = None
    serial: str = ""
    valving: tuple[Valving, ...] = ()

    def adjustment(self, face: Face) -> Adjustment | None:
        return self.compression if face == "compression" else self.rebound


@dataclass(frozen=True)
class Blade:
    """A blade at each end of a bar [m]. `guided`: its tip cannot move sideways."""

    width: float
    thickness: float
    length: float
    angle: float = 0.0
    guided: bool = False
    youngs_modulus: float = YOUNGS_MODULUS_STEEL


@dataclass(frozen=True)
class Bar:
    """An anti-roll bar [m]: `arms` by hole, the first nearest the bar. `outer` zero means no bar."""

    outer: float
    length: float = 1.0
    arms: tuple[float, ...] = (1.0,)
    motion_ratio: float = 1.0
    inner: float = 0.0
    blade: Blade | None = None
    shear_modulus: float = SHEAR_MODULUS_STEEL

    def arm(self, hole: int) -> float:
        """Arm length at a hole counted from 1. Raises OutOfRange."""
        if not 1 <= hole <= len(self.arms):
            raise OutOfRange(f"This bar has holes 1 to {len(self.arms)}, not {hole}.",
                             number="bar_hole", value=hole, allowed=f"1 to {len(self.arms)}")  # fmt: skip
        return self.arms[hole - 1]


NO_BAR = Bar(outer=0.0)


@dataclass(frozen=True)
class BumpRubber:
    """A bump rubber as measured from first touch: deflection [m] rising from 0, force [N]."""

    deflection: tuple[float, ...]
    force: tuple[float, ...]

    def __post_init__(self) -> None:
        if len(self.deflection) != len(self.force) or len(self.deflection) < 2:
            raise Impossible("A bump rubber needs a force for every deflection, two points or more.",
                             number="rubber_curve")  # fmt: skip
        finite(rubber_curve=(*self.deflection, *self.force))
        steps = zip(self.deflection, self.deflection[1:], strict=False)
        forces = zip(self.force, self.force[1:], strict=False)
        if (
            self.deflection[0] != 0
            or any(b <= a for a, b in steps)
            or any(b < a for a, b in forces)
        ):
            raise Impossible("A bump rubber's deflections rise from zero and its force never falls.",
                             number="rubber_curve")  # fmt: skip

    def table(self, points: int) -> Array:
        """The curve as an array (2, points); short tables go on along their last slope."""
        d, f = list(self.deflection), list(self.force)
        slope = (f[-1] - f[-2]) / (d[-1] - d[-2])
        while len(d) < points:
            d.append(d[-1] + 0.01)
            f.append(f[-1] + 0.01 * slope)
        return np.array([d, f])


NO_RUBBER = BumpRubber((0.0, 1.0), (0.0, 0.0))

Hole = tuple[float, float]
"""A bolt hole: x ahead of the axle centre line, z above the ground [m]."""
