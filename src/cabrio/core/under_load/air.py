"""The air on the car: areas as they were weighed or measured, or a map of them over the ride heights."""

from __future__ import annotations

from dataclasses import dataclass, fields

import numpy as np

from ..arrays import Array
from ..checks import above_zero, finite
from ..errors import OutOfRange
from ..graph.registry import Mask


@dataclass(frozen=True)
class AirMap:
    """Lift areas per axle and the drag area [m²] over the mean heights of both axles [m].

    Tables are [front height][rear height], both heights rising; between the points bilinear.
    """

    front_heights: Array
    rear_heights: Array
    front_lift: Array
    rear_lift: Array
    drag: Array

    def __post_init__(self) -> None:
        finite(**{field.name: getattr(self, field.name) for field in fields(self)})
        for heights in (self.front_heights, self.rear_heights):
            if len(heights) < 2 or not np.all(np.diff(heights) > 0):
                raise OutOfRange(
                    "The heights of an aero map must rise, and be two at least.",
                    number="lift_area",
                )
        size = (len(self.front_heights), len(self.rear_heights))
        if any(np.shape(one) != size for one in (self.front_lift, self.rear_lift, self.drag)):
            raise OutOfRange(
                "An aero map needs one area for every pair of heights.", number="lift_area"
            )

    def covers(self, heights: Array) -> Mask:
        """Whether mean heights (…, 2) lie on the map."""
        low, high = self._edges()
        found: Mask = np.all((heights >= low) & (heights <= high), axis=-1)
        return found

    def lacks(self, heights: Array) -> str:
        """In words, where a car of mean heights (2) [m] leaves the map."""
        low, high = self._edges()
        return " and ".join(
            f"as {'low' if heights[i] < low[i] else 'high'} at the {end} as the car comes there"
            for i, end in enumerate(("front", "rear"))
            if not low[i] <= heights[i] <= high[i]
        )

    def _edges(self) -> tuple[Array, Array]:
        low = np.array([self.front_heights[0], self.rear_heights[0]])
        return low, np.array([self.front_heights[-1], self.rear_heights[-1]])

    def at(self, heights: Array) -> tuple[Array, Array]:
        """Lift areas (…, 2) and drag area (…) at mean heights (…, 2); the map's edge goes on outside."""
        parts = []
        for at, edges in (
            (heights[..., 0], self.front_heights),
            (heights[..., 1], self.rear_heights),
        ):
            i = np.clip(np.searchsorted(edges, at, side="right") - 1, 0, len(edges) - 2)
            share = np.clip((at - edges[i]) / (edges[i + 1] - edges[i]), 0.0, 1.0)
            parts.append((i, share))
        (i, p), (j, q) = parts

        def between(table: Array) -> Array:
            low = (1 - q) * table[i, j] + q * table[i, j + 1]
            high = (1 - q) * table[i + 1, j] + q * table[i + 1, j + 1]
            return (1 - p) * low + p * high

        lift = np.stack([between(self.front_lift), between(self.rear_lift)], axis=-1)
        return lift, between(self.drag)


@dataclass(frozen=True)
class Air:
    """Density [kg/m³], downforce and drag areas [m²], the height of the drag [m]; or a map of areas."""

    density: float
    lift: Array
    drag: float | Array
    drag_height: float | Array = 0.0
    map: AirMap | None = None

    def __post_init__(self) -> None:
        above_zero(air_density=self.density)
        finite(lift_area=self.lift, drag_area=self.drag, drag_height=self.drag_height)

    def at(self, heights: Array | None) -> tuple[Array, Array]:
        """Lift areas (…, 2) and drag area (…) at the mean heights of the axles."""
        if self.map is None or heights is None:
            return self.lift, np.asarray(self.drag)
        return self.map.at(heights)
