"""Grip of the tyres by the load they carry (reference under load §5)."""

from __future__ import annotations

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..graph.registry import figure
from .shapes import axle_sum, refuse

SOURCE = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 2"


@figure(
    label="Grip at static load",
    quantity="proportion",
    shape=Shape.AXLE,
    formula="Σ μ·F / ΣF, μ = μ_0·(1 − s·(F/F_0 − 1))",
    source=SOURCE,
)
def standing_grip(
    pad_mass: Array, tyre_grip: Array, tyre_grip_loss: Array, tyre_grip_load: Array
) -> Array:
    """Grip of each axle on its pads, before cornering moves load across [1].

    Wrong with grip that was estimated: then only how axles differ counts. Wrong beside another
    pressure, camber, heat or surface than the grip was fitted on.
    """
    loads = pad_mass * STANDARD_GRAVITY
    # both wheels of an axle: Σ μ·F = Σ μ₀·(1 + s − s·F/F₀)·F
    both, squares = axle_sum(loads), axle_sum(loads * loads)
    falling = tyre_grip_loss * squares / (tyre_grip_load * both)
    found: Array = tyre_grip * (1 + tyre_grip_loss - falling)
    return found


@figure(
    label="Tyre load of greatest grip",
    quantity="force",
    shape=Shape.AXLE,
    formula="F_0·(1 + s) / (2·s)",
    source=SOURCE,
)
def most_useful_load(tyre_grip_loss: Array, tyre_grip_load: Array) -> Array:
    """Load of one tyre past which more load gives less sideways force [N].

    Refused where load costs no grip: there is no such load then. Wrong far from the load the grip was
    fitted at.

    >>> np.round(most_useful_load(np.array([0.12, 0.15]), np.array([3000.0, 3500.0])), 0).tolist()
    [14000.0, 13417.0]
    """
    refuse(
        tyre_grip_loss <= 0,
        Shape.AXLE,
        "tyre_grip_loss",
        "grip that load does not cost has no most useful load.",
    )
    found: Array = tyre_grip_load * (1 + tyre_grip_loss) / (2 * tyre_grip_loss)
    return found
