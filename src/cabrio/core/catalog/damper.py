"""Dampers: their knobs, what the dyno said at each click, and how their pistons are built."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from typing import Annotated, Any, Literal

import numpy as np

from ..arrays import Array
from ..checks import finite
from ..constants import HIGH_SPEED, LOW_SPEED
from ..errors import CoreError, Impossible, Missing, OutOfRange
from .fields import Group, OneOf, Own, Table, Words
from .part import NOT_KNOWN, Chosen, Part, part
from .quantities import Shape

Counted = Literal["from_closed", "from_open"]
Face = Literal["compression", "rebound"]
FACES: tuple[Face, ...] = ("compression", "rebound")
COUNTINGS = (("from_closed", "out from fully closed"), ("from_open", "up from fully open"))


@dataclass(frozen=True)
class DynoCurve:
    """Force [N] against shaft speed [m/s] at one click, speeds rising. Compression and rebound are
    both written positive."""

    click: float
    speeds: tuple[float, ...]
    forces: tuple[float, ...]

    def __post_init__(self) -> None:
        if len(self.speeds) != len(self.forces) or len(self.speeds) < 2:
            raise Impossible(
                "A dyno curve needs a force for every speed, two points or more.",
                number="damper_curve",
                value=self.click,
            )
        finite(damper_curve=(*self.speeds, *self.forces, self.click))
        if any(b <= a for a, b in zip(self.speeds, self.speeds[1:], strict=False)):
            raise Impossible(
                "The speeds of a dyno curve must rise.", number="damper_curve", value=self.click
            )

    def force(self, speed: Array) -> Array:
        """Force [N] at shaft speeds [m/s]. Raises OutOfRange past the measured speeds."""
        finite(shaft_speed=speed)
        if np.any(speed < self.speeds[0] - 1e-12) or np.any(speed > self.speeds[-1] + 1e-12):
            allowed = f"{self.speeds[0]:g} to {self.speeds[-1]:g} m/s"
            raise OutOfRange(
                f"The damper was measured from {allowed}, not beyond.",
                number="damper_curve",
                value=float(np.max(speed)),
                allowed=allowed,
            )
        return np.interp(speed, self.speeds, self.forces)


def _curves(rows: list[tuple[float, ...]]) -> tuple[DynoCurve, ...]:
    """Rows of click, speed and force as one curve a click, clicks and speeds rising."""
    clicks = sorted({row[0] for row in rows})
    curves = []
    for click in clicks:
        points = sorted((speed, force) for at, speed, force in rows if at == click)
        curves.append(DynoCurve(click, tuple(s for s, _ in points), tuple(f for _, f in points)))
    return tuple(curves)


def _points(curves: tuple[DynoCurve, ...]) -> list[tuple[float, ...]]:
    return [(c.click, s, f) for c in curves for s, f in zip(c.speeds, c.forces, strict=True)]


DYNO = Table(
    "Dyno sheet",
    (
        Own("Click", "clicks", least=0.0, most=80.0),
        Own("Shaft speed", "shaft_speed", least=0.0, most=5.0),
        Own("Force", "force", least=-5e3, most=5e4),
    ),
    _curves,
    _points,
    "Click, shaft speed and force; one row a point, both directions written positive.",
)


@dataclass(frozen=True)
class Adjustment:
    """One direction of a damper: how many clicks it has, from where they count, what was measured.

    A damper without a knob in this direction has no clicks and one curve. `dead_at` is the click at
    which the knob no longer turns: nothing may be proposed on it.
    """

    clicks: Annotated[int, Own("Clicks", "count", "Zero where there is no knob.", least=0, most=80)]
    counted: Annotated[Counted, OneOf("Counted", COUNTINGS)] = "from_closed"
    curves: Annotated[tuple[DynoCurve, ...], DYNO] = ()
    dead_at: Annotated[
        float | None,
        Own("Dead at click", "clicks", "Only where the knob no longer turns.", 0.0, 80.0),
    ] = None

    @property
    def measured(self) -> tuple[float, float]:
        """Least and most click with a dyno curve between them. Raises Missing without any."""
        if not self.curves:
            raise Missing(
                "This damper has no dyno sheet: its force at a click is not known.",
                number="damper_curve",
            )
        clicks = [curve.click for curve in self.curves]
        return min(clicks), max(clicks)

    def check(self, click: float) -> float:
        """The click, where the adjuster has it. Raises OutOfRange."""
        finite(damper_clicks=(click, self.clicks))
        if not 0 <= click <= self.clicks:
            raise OutOfRange(
                f"This adjuster has no click {click:g}: it goes from 0 to {self.clicks}.",
                number="damper_clicks",
                value=click,
                allowed=f"0 to {self.clicks}",
            )
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
                number="damper_clicks",
                value=click,
                allowed=f"{least:g} to {most:g}",
            )
        speed = np.asarray(speed, dtype=np.float64)
        below = max((c for c in self.curves if c.click <= click), key=lambda c: c.click)
        above = min((c for c in self.curves if c.click >= click), key=lambda c: c.click)
        if above.click == below.click:
            return below.force(speed)
        share = (click - below.click) / (above.click - below.click)
        return (1 - share) * below.force(speed) + share * above.force(speed)

    def chord(self, click: float, band: tuple[float, float]) -> float:
        """Slope [N·s/m] of the chord over a band of shaft speeds: force at zero speed drops out."""
        if (click, band) not in self._chords:
            low, high = self.force(click, np.array(band))
            self._chords[click, band] = float((high - low) / (band[1] - band[0]))
        return self._chords[click, band]

    @cached_property
    def _chords(self) -> dict[tuple[float, tuple[float, float]], float]:
        """Kept: a sheet asks for the same few clicks each time it is worked."""
        return {}


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
                found.append(f"shim {i + 1}: {_shim_text(here)} against {_shim_text(there)}")
        if self.bleed != other.bleed:
            found.append(f"bleed: {self.bleed or 'none'} against {other.bleed or 'none'}")
        return found


def _shim_text(shim: Shim | None) -> str:
    return "none" if shim is None else f"{shim.diameter * 1e3:g} × {shim.thickness * 1e3:.2f} mm"


@part(
    "damper",
    at=Shape.CORNER,
    label="Damper",
    plural="Dampers",
    feeds=("compression_low", "compression_high", "rebound_low", "rebound_high"),
)
@dataclass(frozen=True)
class Damper(Part):
    """A damper: one adjustment each way; a single-adjustable one has no clicks in the other."""

    compression: Annotated[Adjustment | None, Group("Compression")] = None
    rebound: Annotated[Adjustment | None, Group("Rebound")] = None
    serial: Annotated[str, Words("Serial number")] = ""
    valving: tuple[Valving, ...] = ()

    def adjustment(self, face: Face) -> Adjustment | None:
        return self.compression if face == "compression" else self.rebound

    def click(self, face: Face, chosen: Chosen) -> float | None:
        """The click set, in this damper's own counting; a dead knob's own, 0 where there is no knob."""
        adjustment = self.adjustment(face)
        if adjustment is None:
            return None
        if adjustment.dead_at is not None:
            return adjustment.dead_at
        at = chosen(f"{face}_clicks")
        if adjustment.clicks == 0:
            return 0.0
        if at.value is None:
            return None
        counted = at.counted or adjustment.counted
        return at.value if counted == adjustment.counted else adjustment.clicks - at.value

    def alike(self, other: Part) -> bool:
        """Dampers are told apart face by face where left is held against right."""
        return True

    def blocks(self, setting: str) -> str:
        for face in FACES:
            adjustment = self.adjustment(face)
            if setting != f"{face}_clicks" or (
                adjustment is None and not self.compression and not self.rebound
            ):
                continue
            if adjustment is None or adjustment.clicks == 0:
                return "this damper has no such knob."
            if adjustment.dead_at is not None:
                return f"the knob no longer turns, at click {adjustment.dead_at:g}."
        return ""

    def range_of(self, setting: str) -> tuple[float, float] | None:
        """Both countings run from 0 to the knob's own number of clicks."""
        for face in FACES:
            adjustment = self.adjustment(face)
            if setting == f"{face}_clicks" and adjustment is not None and adjustment.clicks:
                return 0.0, float(adjustment.clicks)
        return None

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
        """Chords of the curves at the clicks set; None where no sheet says, `NOT_KNOWN` where the sheet does
        not reach the click: a typical value is not this damper's then."""
        found: dict[str, Any] = {}
        for face in FACES:
            adjustment, click = self.adjustment(face), self.click(face, chosen)
            for speed, band in (("low", LOW_SPEED), ("high", HIGH_SPEED)):
                found[f"{face}_{speed}"] = None
                if adjustment is not None and adjustment.curves and click is not None:
                    try:
                        found[f"{face}_{speed}"] = adjustment.chord(click, band)
                    except CoreError:
                        found[f"{face}_{speed}"] = NOT_KNOWN
        return found
