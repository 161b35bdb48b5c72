"""Which numbers apply to a car of this layout: the others are neither asked for nor shown."""

from __future__ import annotations

from functools import cache

from ..catalog.entered import ENTERED
from ..graph.registry import figures
from .model import Car


def applying(car: Car) -> frozenset[str]:
    """Entered numbers of this layout, and the figures worked from none but such."""
    return _applying(car.rear_layout)


@cache
def _applying(rear_layout: str) -> frozenset[str]:
    known = {one.name for one in ENTERED if not one.layouts or rear_layout in one.layouts}
    assumed = {one.name for one in ENTERED if one.default is not None}
    for name, entry in figures().items():
        if set(entry.needs) <= known | assumed:
            known.add(name)
    return frozenset(known)
