"""Tyre pressure cold for hot, and what tread temperatures say (reference §10)."""

from __future__ import annotations

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import figure
from .shapes import refuse, spread

GAS = "Gay-Lussac: absolute pressure goes with absolute temperature at one volume"
TREAD = "Team practice: three readings across the tread, straight from the track"


@figure(
    label="Cold pressure for the hot target",
    quantity="pressure",
    shape=Shape.AXLE,
    formula="(p_hot + p_air)·T_cold / T_hot − p_air",
    source=GAS,
)
def cold_pressure(
    hot_target: Array, cold_temperature: Array, hot_temperature: Array, air_pressure: Array
) -> Array:
    """Gauge pressure to set cold, so that the tyre reaches its target hot [Pa].

    Refused where nothing would be left in it. Wrong with damp air in the tyre: it rises faster.
    """
    air = spread(air_pressure)
    cold = (hot_target + air) * spread(cold_temperature) / hot_temperature - air
    refuse(
        cold <= 0,
        Shape.AXLE,
        "hot_target",
        "cold, this tyre would stand without pressure: look at the temperatures.",
    )
    return cold


@figure(
    label="Tread inside minus outside",
    quantity="temperature_difference",
    shape=Shape.CORNER,
    formula="inner − outer",
    source=TREAD,
    sign="+ inner edge hotter",
)
def inner_less_outer(tread_inner: Array, tread_outer: Array) -> Array:
    """Tread temperature across the tyre [K]: what camber makes of the contact patch.

    Wrong after a slow lap, or where one side of the tread worked last.

    >>> found = inner_less_outer(
    ...     np.array([360.0, 360.0, 360.0, 360.0]),
    ...     np.array([350.0, 350.0, 350.0, 350.0]),
    ... )
    >>> np.round(found, 2).tolist()
    [10.0, 10.0, 10.0, 10.0]
    """
    return tread_inner - tread_outer


@figure(
    label="Middle less edges",
    quantity="temperature_difference",
    shape=Shape.CORNER,
    formula="middle − ½·(inner + outer)",
    source=TREAD,
    sign="+ middle hotter",
)
def middle_less_edges(tread_inner: Array, tread_middle: Array, tread_outer: Array) -> Array:
    """Middle of the tread against its edges [K]: positive speaks for too much pressure.

    Wrong after a slow lap.

    >>> found = middle_less_edges(
    ...     np.array([360.0, 360.0, 360.0, 360.0]),
    ...     np.array([356.0, 356.0, 356.0, 356.0]),
    ...     np.array([350.0, 350.0, 350.0, 350.0]),
    ... )
    >>> np.round(found, 3).tolist()
    [1.0, 1.0, 1.0, 1.0]
    """
    return tread_middle - 0.5 * (tread_inner + tread_outer)
