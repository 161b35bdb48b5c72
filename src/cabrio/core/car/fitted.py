"""What the parts in use bring with them: numbers by place, from the setup and the inventory."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from ..catalog.part import NOT_KNOWN, PartKind, Position
from ..catalog.part_kinds import part_kinds
from ..catalog.parts import FACES, Damper, Face
from ..catalog.quantities import PLACES, Number, Shape, axle_of
from ..constants import STARTING_LLTD
from ..errors import CoreError
from ..figures.live_axle import arms_roll_centre, track_bar_roll_centre
from ..graph.registry import number_named
from .geometry import of_points, rear_drive
from .model import Car, Setup

CORNERS = PLACES[Shape.CORNER]
Rows = dict[str, list[Any]]


@dataclass(frozen=True)
class FittedNumbers:
    """The numbers that come with the parts in use, and at which places a part itself told them (`by_part`).

    `worked` are the places where measured points tell, in the place of what was typed, with the kind of
    part that holds them.
    """

    rows: Rows
    by_part: dict[str, frozenset[int]]
    worked: dict[str, dict[int, str]]


def fitted(car: Car, setup: Setup) -> Rows:
    """Every number that comes with a part fitted, then what follows from the layout itself."""
    return numbers_from_parts(car, setup).rows


def numbers_from_parts(car: Car, setup: Setup) -> FittedNumbers:
    """The numbers of the parts in use, and where they come from.

    A place whose part does not say takes the fact given for it, or what is assumed while nobody gave
    it; a number no part tells of is not in the answer.
    """
    found: dict[str, dict[int, Any]] = {}
    for kind in part_kinds().values():
        _add(car, setup, kind, found)
    worked: dict[str, dict[int, str]] = {}
    for source, numbers in of_points(car, setup, _holes(found)).items():
        if "bar_motion_ratio" not in found:
            numbers.pop("bar_motion_ratio", None)
        for name, places in numbers.items():
            found.setdefault(name, {}).update(places)
            worked.setdefault(name, {}).update(dict.fromkeys(places, source))
    rows: Rows = {}
    for name, by_part in found.items():
        row = _row(car, number_named(name), by_part)
        if row is not None:
            rows[name] = row
    if not car.parts.of("bump_rubber") and not _is_set(setup, "rubber_gap"):
        rows["rubber_gap"] = [0.0, 0.0]
    rows.update(_spring_base(car, worked, rows))
    if "lltd_above_weight" not in car.known:
        rows["lltd_above_weight"] = [STARTING_LLTD[car.driven]]
    rows["rear_drive_share"] = [rear_drive(car)]
    layouts = (car.front_layout, car.rear_layout)
    rows["jacking_share"] = [1.0 if layout == "independent" else None for layout in layouts]
    if 1 not in worked.get("roll_centre_height", {}):
        rows.update(_roll_centres(car, rows))
    return FittedNumbers(
        rows,
        {name: frozenset(_says(places)) for name, places in found.items() if _says(places)},
        worked,
    )


def _row(car: Car, number: Number, by_part: dict[int, Any]) -> list[Any] | None:
    """A number at all its places: from the part there, else as given, else as assumed; None where the parts
    decide nothing."""
    given = car.known.get(number.name)
    if not car.has(number):
        return None  # a part of another rear layout than this car has
    if not _says(by_part) and (given is not None or number.default is None):
        return None

    def value(at: int) -> Any:
        if by_part.get(at) is not None:
            return by_part[at]
        if given is None:
            return None if at in by_part else number.default
        return None if at in by_part and given.estimated_at(at) else given.values[at]

    return [value(at) for at in range(len(number.shape.places))]


def _says(values: dict[int, Any]) -> list[int]:
    """The places whose part has a value to tell."""
    return [at for at, value in values.items() if value is not None]


def _is_set(setup: Setup, name: str) -> bool:
    return any(one is not None for one in setup.get(name) or ())


def _add(car: Car, setup: Setup, kind: PartKind, found: dict[str, dict[int, Any]]) -> None:
    """What the parts of one kind tell, by number and index of the place."""
    for place in kind.shape.places:
        part = car.fitted(setup, kind.name, place)
        if part is None and kind.assume_none:
            part = kind.none_fitted
        if part is None:
            continue
        for name, value in part.provides(place, _chooser(car, setup, place)).items():
            # where no hole or position is set the number is unknown, and nothing stands in for it
            unknown = value is NOT_KNOWN or (value is None and name in kind.chosen)
            if value is None and not unknown:
                continue
            places = number_named(name).shape.places
            if kind.shape is Shape.CAR and len(places) > 1:
                # a part of the whole car tells every place at once
                found.setdefault(name, {}).update(enumerate(value))
                continue
            at = places.index(place) if place in places else 0
            found.setdefault(name, {})[at] = None if unknown else value


def _chooser(car: Car, setup: Setup, place: str) -> Callable[[str], Position]:
    """Where a set number stands at the place of a part: its corner, its axle, or the car."""

    def chosen(name: str) -> Position:
        values, places = setup.get(name), number_named(name).shape.places
        if not values:
            return Position(None, car.counting(name))
        for at in (place, axle_of(place), "car"):
            if at in places:
                return Position(values[places.index(at)], car.counting(name))
        return Position(None, car.counting(name))

    return chosen


def click_of(car: Car, setup: Setup, place: str, face: Face) -> float | None:
    """The click set at a place, in the damper's own counting; None where nobody set it."""
    damper = car.fitted(setup, "damper", place)
    assert isinstance(damper, Damper) and face in FACES
    return damper.click(face, _chooser(car, setup, place))


def _holes(found: dict[str, dict[int, Any]]) -> dict[int, tuple[float, float]]:
    """The holes in use that brackets tell, (x, z) [m] by index of the bolt."""
    x, z = found.get("bolt_x", {}), found.get("bolt_z", {})
    return {i: (x[i], z[i]) for i in x if x[i] is not None and z.get(i) is not None}


def _spring_base(car: Car, worked: Mapping[str, Mapping[int, str]], rows: Rows) -> Rows:
    """An independent axle's springs act at its track; a beam axle's base is worked or given."""
    bases = worked.get("spring_base", {})
    track = car.known.get("track")
    base = car.known.get("spring_base")
    row: list[float | None] = []
    for i, layout in enumerate((car.front_layout, car.rear_layout)):
        here = track if layout == "independent" else base
        row.append(rows["spring_base"][i] if i in bases else here.values[i] if here else None)
    return {"spring_base": row}


def _roll_centres(car: Car, bolts: Rows) -> Rows:
    """The rear roll centre worked from the arms or the track bar, where nobody gave it."""
    given = car.known.get("roll_centre_height")
    row: list[float | None] = list(given.values) if given else [None, None]
    known = row[1] is not None and given is not None and not given.estimated_at(1)
    if known or car.rear_layout == "independent":
        return {}
    names: tuple[str, ...]
    work: Callable[..., Any]
    if car.rear_layout == "triangulated_four_link":
        names, work = ("bolt_x", "bolt_y", "bolt_z"), arms_roll_centre
    else:
        names, work = ("track_bar_y", "track_bar_z"), track_bar_roll_centre
    rows = [
        bolts.get(name) or (car.known[name].values if name in car.known else ()) for name in names
    ]
    if any(not one or None in one for one in rows):
        return {}
    try:
        row[1] = float(work(*(np.asarray(one, dtype=np.float64) for one in rows)))
    except CoreError:
        return {}
    return {"roll_centre_height": row}
