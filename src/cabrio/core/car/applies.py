"""Which numbers apply to a car of this layout and discipline: the others are neither asked nor shown."""

from __future__ import annotations

from functools import cache

from ..catalog.entered import ENTERED
from ..graph.registry import figures
from ..knowledge import knowledge
from .model import Car


def applying(car: Car) -> frozenset[str]:
    """Entered numbers of this layout and discipline, and the figures worked from none but such."""
    return _applying(car.rear_layout, car.discipline)


@cache
def _applying(rear_layout: str, discipline: str) -> frozenset[str]:
    never_read = _read_elsewhere(discipline)
    known = {
        one.name
        for one in ENTERED
        if one.group != "layout"  # it follows from the layout: nobody enters it
        and (not one.layouts or rear_layout in one.layouts)
        and one.name not in never_read
    }
    assumed = {one.name for one in ENTERED if one.default is not None}
    for name, entry in figures().items():
        if entry.is_met(known | assumed):
            known.add(name)
    return frozenset(known)


def _read_elsewhere(discipline: str) -> frozenset[str]:
    """Numbers that only readings of other disciplines tell."""
    here: set[str] = set()
    elsewhere: set[str] = set()
    for kind in knowledge().readings.values():
        (here if discipline in kind.disciplines else elsewhere).update(kind.numbers)
    return frozenset(elsewhere - here)
