"""The height of the centre of gravity: measured by tilting, or a rule of thumb marked as one (§1)."""

from __future__ import annotations

from dataclasses import dataclass

from ..checks import finite
from ..constants import CRANKSHAFT_TO_CG
from ..errors import Missing, OutOfRange
from ..graph.evaluate import answer


@dataclass(frozen=True)
class CgHeight:
    """Height [m]; `estimated` stains everything worked from it. Tilt [rad], where it was measured."""

    height: float
    estimated: bool
    tilt: float | None = None


def by_tilt(
    *,
    wheelbase: float,
    total_mass: float,
    front_level: float,
    front_raised: float,
    radii: tuple[float, float],
    rear_lift: float,
) -> CgHeight:
    """From the front pads [kg] level and with the rear axle raised by `rear_lift` [m].

    Suspension locked, wheels free to roll. Raises OutOfRange or Impossible for what cannot be.
    """
    if not 0 < front_level < total_mass:
        raise OutOfRange(
            "The front pads must read between nothing and the whole car.",
            number="front_raised_mass",
            value=front_level,
            allowed=f"0 to {total_mass:g} kg",
        )
    known = {
        "wheelbase": wheelbase,
        "total_mass": total_mass,
        "front_share": front_level / total_mass,
        "front_raised_mass": front_raised,
        "rear_lift": rear_lift,
        "loaded_radius": radii,
    }
    found = answer(["tilted_cg_height", "tilt_angle"], known)
    return CgHeight(
        float(found["tilted_cg_height"]),
        False,
        float(found["tilt_angle"]),
    )


def by_rule_of_thumb(*, camshaft: float | None = None, crankshaft: float | None = None) -> CgHeight:
    """From the engine [m]: camshaft centre line, or 127 mm above the crankshaft's. An estimate."""
    if camshaft is None and crankshaft is None:
        raise Missing(
            "The rule of thumb needs the camshaft's or the crankshaft's height.", number="cg_height"
        )
    height = camshaft if camshaft is not None else (crankshaft or 0.0) + CRANKSHAFT_TO_CG
    finite(cg_height=height)
    if not height > 0:
        raise OutOfRange(
            "An engine's shaft lies above the ground.",
            number="cg_height",
            value=height,
            allowed="above 0",
        )
    return CgHeight(height, True)
