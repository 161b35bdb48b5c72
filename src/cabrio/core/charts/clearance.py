"""What is left under the car as it goes faster: the loaded car, its rubbers and its aero map counted in."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ..arrays import Array
from ..catalog.quantities import PLACES, Shape
from ..catalog.units import show
from ..sheet.build import Sheet
from ..under_load.demand import Demand
from ..under_load.of_sheet import loaded_car
from ..under_load.state import Loaded, load
from .chart import Axis, Drawn, Line, Mark, chart

POINTS = 31
BEYOND = 1.15
"""How far past the speed looked at it is drawn."""
AXLES = PLACES[Shape.AXLE]


@chart(
    label="Clearance over speed",
    x=Axis("Speed", "speed"),
    y=Axis("Over the least allowed", "height"),
)
def clearance_over_speed(sheet: Sheet) -> Drawn:
    """Height of each axle over the least allowed, straight ahead: rolling, and under the braking looked at.

    Wrong over bumps, in roll, and where the car bounces on its own air: keep room for them.
    """
    v = sheet.worked.values
    needed = ("ride_height", "least_height", "speed", "braking")
    sheet.worked.require(needed, "The clearance over speed needs")
    car = loaded_car(sheet.car, sheet.worked)
    here = float(v["speed"])
    speeds = np.union1d(np.linspace(0.0, max(here, 10.0) * BEYOND, POINTS), here)
    braking = float(v["braking"])
    along = {"": 0.0, "braking": -braking} if braking else {"": 0.0}
    # every speed of every case at once: each step of the search costs the same for one as for all
    asked = Demand(np.repeat([*along.values()], speeds.size), 0.0, np.tile(speeds, len(along)))
    state = load(car, asked)
    left = _cases(along, _left(state, v["least_height"]))
    lines = [
        Line(f"{axle} {words}".strip(), tuple(left[words][:, i].tolist()))
        for words in along
        for i, axle in enumerate(AXLES)
    ]
    touching = np.asarray(state.rubbers_touching, bool).reshape(-1, 4)
    return Drawn(
        tuple(speeds.tolist()),
        tuple(lines),
        tuple(_touches(speeds, _cases(along, touching))),
        _least(sheet, speeds, left),
    )


def _cases(cases: Iterable[str], rows: Array) -> dict[str, Array]:
    """The rows of each case, of a batch that has them one after another."""
    names = [*cases]
    return dict(zip(names, np.split(rows, len(names)), strict=True))


def _left(state: Loaded, least: Array) -> Array:
    """Clearance of both axles (n, 2) [m]; not a number where the car cannot be so."""
    assert state.heights is not None
    mean = 0.5 * (state.heights[:, 0::2] + state.heights[:, 1::2])
    found: Array = np.where(np.atleast_1d(state.holds)[:, None], mean - least, np.nan)
    return found


def _touches(speeds: Array, cases: dict[str, Array]) -> list[Mark]:
    """Where each axle first touches its bump rubbers, of which wheels touch at each speed (n, 4)."""
    marks = []
    for words, touching in cases.items():
        for i, axle in enumerate(AXLES):
            first = int(np.argmax(touching[:, 2 * i : 2 * i + 2].any(axis=1)))
            if first > 0:
                at = float(speeds[first])
                marks.append(Mark(f"{axle} rubber {words}".strip(), at))
    return marks


def _least(sheet: Sheet, speeds: Array, left: dict[str, Array]) -> str:
    """The least clearance up to the speed looked at, where and when."""
    here = float(sheet.worked.values["speed"])
    braking = float(sheet.worked.values["braking"])
    found = []
    for words, rows in left.items():
        for i, axle in enumerate(AXLES):
            reached = np.where(speeds <= here + 1e-9, rows[:, i], np.nan)
            if not np.isnan(reached).all():
                at = int(np.nanargmin(reached))
                found.append((float(reached[at]), float(speeds[at]), axle, words))
    if not found:
        return ""
    least, speed, axle, words = min(found)
    profile = sheet.car.profile
    when = f" under {show(braking, 'acceleration', profile)} of braking" if words else ""
    return (
        f"Least: {show(least, 'height', profile)} at the {axle}, at "
        f"{show(speed, 'speed', profile)}{when}."
    )
