"""Typical values for a car about which little is known yet: rows of typical.toml, checked when read."""

from __future__ import annotations

from dataclasses import dataclass

from ..graph.registry import numbers
from .tables import DISCIPLINES, rows

SCALES = ("", "mass", "wheelbase", "track", "target", "critical", "tilt", "square")


@dataclass(frozen=True)
class Typical:
    """What a number usually is, by use and layout, and why [SI].

    `scale` says what the values are taken times: the car's mass over a tonne, its wheelbase over
    2.5 m, its track over 1.5 m; or what they are worked from: the target frequency, critical damping,
    the CG height by tilting, a square axle. The first row that fits counts.
    """

    number: str
    values: tuple[float, ...]
    reason: str
    disciplines: tuple[str, ...] = DISCIPLINES
    uses: tuple[str, ...] = ()
    layouts: tuple[str, ...] = ()
    fronts: tuple[str, ...] = ()
    scale: str = ""

    def fits(self, discipline: str, use: str, front: str, rear: str) -> bool:
        return (
            discipline in self.disciplines
            and (not self.uses or use in self.uses)
            and (not self.layouts or rear in self.layouts)
            and (not self.fronts or front in self.fronts)
        )


def read_typical() -> tuple[Typical, ...]:
    """The table. Raises ValueError for a row whose values do not fit its number."""
    found = rows("typical", "typical", Typical)
    for row in found:
        number = numbers().get(row.number)
        if number is None or row.scale not in SCALES:
            raise ValueError(f"typical.toml: {row.number}, scaled by “{row.scale}”, is not known")
        if len(row.values) not in (1, len(number.shape.places)):
            raise ValueError(f"typical.toml: {row.number} needs {len(number.shape.places)} values")
        if not row.reason:
            raise ValueError(f"typical.toml: {row.number} gives no reason")
    return tuple(found)
