"""Arm stops, droop and axle inserts of scale cars, and damper length against droop (reference §10)."""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import finite
from ..errors import OutOfRange

INSERT_STEP = 0.0005
"""Axle inserts come in half-millimetre steps [m]."""


def droop_travel(ride_height: float, height_at_full_extension: float) -> float:
    """Body travel [m] from ride height to full extension. Raises OutOfRange where lifting lowers it."""
    finite(ride_height=ride_height, lifted_height=height_at_full_extension)
    droop = height_at_full_extension - ride_height
    if droop < 0:
        raise OutOfRange(
            "The height at full extension is below the ride height.",
            number="lifted_height",
            value=height_at_full_extension,
            allowed=f"at least {ride_height * 1e3:g} mm",
        )
    return droop


def arm_stop_keeping_droop(
    stop: float, ride_height_change: float = 0.0, upright_change: float = 0.0
) -> float:
    """Arm-stop gauge [m] that keeps the droop after heights changed; a lower number is more droop.

    Both changes + upward: of the ride height, and of the axle's height in the upright.
    """
    finite(arm_stop=stop, ride_height_change=ride_height_change, upright_change=upright_change)
    return stop - ride_height_change - upright_change


@dataclass(frozen=True)
class Insert:
    """An axle insert's offset [m], the ride height it gives and what is left to make up [m]."""

    offset: float
    ride_height: float
    remainder: float


def insert_for(
    wanted: float,
    base: float,
    tyre_diameter: float,
    reference_diameter: float,
    least: float = -0.003,
    most: float = 0.003,
) -> Insert:
    """The insert that comes nearest the wanted ride height on a worn tyre [m].

    Ride height = base + (tyre diameter − reference)/2 + offset. The remainder, under a quarter
    millimetre, is for the collar. Raises OutOfRange where no insert reaches.
    """
    finite(
        ride_height=wanted,
        base=base,
        tyre_diameter=tyre_diameter,
        reference_diameter=reference_diameter,
    )
    bare = base + (tyre_diameter - reference_diameter) / 2
    offset = round((wanted - bare) / INSERT_STEP) * INSERT_STEP
    if not least - 1e-9 <= offset <= most + 1e-9:
        raise OutOfRange(
            f"This would take an insert of {offset * 1e3:+.1f} mm: none reaches that far.",
            number="insert",
            value=offset,
            allowed=f"{least * 1e3:+g} to {most * 1e3:+g} mm",
        )
    return Insert(offset, bare + offset, wanted - bare - offset)


@dataclass(frozen=True)
class DamperLength:
    """What to change for another droop at the same ride height [m]: damper length, perch on its body."""

    length_change: float
    perch_shift: float


def length_for_droop(droop_change: float, motion_ratio: float) -> DamperLength:
    """Damper length and perch shift for a wanted change of droop at the wheel [m].

    The damper grows by the droop seen at its shaft; its perch comes up with the longer body's eye, so
    it is wound back by as much and the car stands where it stood.
    """
    finite(droop_change=droop_change, motion_ratio=motion_ratio)
    if not motion_ratio > 0:
        raise OutOfRange(
            "A motion ratio must be above zero.",
            number="damper_motion_ratio",
            value=motion_ratio,
            allowed="above 0",
        )
    return DamperLength(droop_change * motion_ratio, -droop_change * motion_ratio)
