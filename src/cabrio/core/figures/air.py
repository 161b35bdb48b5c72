"""The air of the day: vapour, density, density altitude (reference §10)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import (
    GAS_CONSTANT_DRY_AIR,
    GAS_CONSTANT_VAPOUR,
    STANDARD_DENSITY,
    STANDARD_EXPONENT,
    STANDARD_LAPSE,
    STANDARD_TEMPERATURE,
    ZERO_CELSIUS,
)
from ..graph.registry import figure
from .shapes import refuse

MAGNUS = "Magnus over water with WMO coefficients 611.2 Pa, 17.62, 243.12 °C"
ICAO = "ICAO standard atmosphere, troposphere"
CAR = Shape.CAR


@figure(
    label="Vapour pressure",
    quantity="air_pressure",
    shape=CAR,
    formula="humidity · 611.2 · exp(17.62·t / (243.12 + t))",
    source=MAGNUS,
)
def vapour_pressure(air_temperature: Array, humidity: Array) -> Array:
    """Pressure of the water vapour in the air [Pa].

    Wrong over ice and beyond −45 to +60 °C.

    >>> np.round(vapour_pressure(295.0, 0.5), 0).tolist()
    1307.0
    """
    celsius = air_temperature - ZERO_CELSIUS
    return humidity * 611.2 * np.exp(17.62 * celsius / (243.12 + celsius))


@figure(
    label="Air density",
    quantity="density",
    shape=CAR,
    formula="(p − e) / (287.05287·T) + e / (461.523·T)",
    source=ICAO,
)
def air_density(air_temperature: Array, air_pressure: Array, vapour_pressure: Array) -> Array:
    """Mass of the air by volume [kg/m³]: damp air is lighter.

    Refused where there is more vapour than air. Wrong with a pressure brought down to sea level.

    >>> np.round(air_density(295.0, 9.9e4, 1307.0), 3).tolist()
    1.163
    """
    dry = air_pressure - vapour_pressure
    refuse(
        dry <= 0,
        CAR,
        "air_pressure",
        "the air pressure is below that of its vapour: look at the temperature.",
    )
    return (dry / GAS_CONSTANT_DRY_AIR + vapour_pressure / GAS_CONSTANT_VAPOUR) / air_temperature


@figure(label="Density ratio", quantity="proportion", shape=CAR, formula="ρ / 1.225", source=ICAO)
def density_ratio(air_density: Array) -> Array:
    """Air density over that of the standard day at sea level [-].

    Wrong with a pressure brought down to sea level.

    >>> np.round(density_ratio(1.163), 4).tolist()
    0.9494
    """
    return air_density / STANDARD_DENSITY


@figure(
    label="Density altitude",
    quantity="altitude",
    shape=CAR,
    formula="(288.15 / 0.0065)·(1 − (ρ / 1.225)^(1/4.25588))",
    source=ICAO,
)
def density_altitude(density_ratio: Array) -> Array:
    """Height in the standard atmosphere at which the air is as thin as here [m].

    Wrong above the troposphere, 11 km: no race is held there.

    >>> np.round(density_altitude(0.9496), 1).tolist()
    535.4
    """
    thinned: Array = 1 - density_ratio ** (1 / STANDARD_EXPONENT)
    return STANDARD_TEMPERATURE / STANDARD_LAPSE * thinned
