"""Where something stands on the car: its corners by axle, side and diagonal, and what goes together."""

from __future__ import annotations

from .quantities import AXLE_OF_CORNER, PLACES, Shape

CORNERS, AXLES = PLACES[Shape.CORNER], PLACES[Shape.AXLE]
PAIRS = {
    axle: tuple(corner for corner in CORNERS if AXLE_OF_CORNER[corner] == axle) for axle in AXLES
}
"""The left and the right corner of each axle."""
SIDES = {"left": ("LF", "LR"), "right": ("RF", "RR")}
DIAGONALS = {"cross": ("RF", "LR"), "other diagonal": ("LF", "RR")}
"""The cross is the diagonal whose share of the weight is called cross weight."""
GROUPS = {**PAIRS, **SIDES, **DIAGONALS, "all": CORNERS}


def places_of(name: str, shape: Shape) -> tuple[str, ...]:
    """The places of a shape that a name means: one of its own, or those of a group; none where it has none.

    >>> places_of("left", Shape.CORNER), places_of("all", Shape.AXLE), places_of("LF", Shape.AXLE)
    (('LF', 'LR'), ('front', 'rear'), ())
    """
    if name in shape.places:
        return (name,)
    if shape is Shape.CORNER:
        return GROUPS.get(name, ())
    return shape.places if name == "all" else ()
