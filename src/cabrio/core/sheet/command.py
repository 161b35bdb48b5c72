"""The command line of the trade: `rr spring 550`, `front bar +1`, `go springs`, `why cross`.

Parses a line into one of three intents; it changes nothing itself.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..car.model import Car, Line, Setup, check_setting
from ..catalog.checks import check_value
from ..catalog.quantities import AXLE_OF_CORNER, Number, Shape
from ..catalog.units import parse, show
from ..errors import UnknownName
from ..graph.registry import number_named, numbers
from ..knowledge import knowledge
from ..solve.stock import nearest


@dataclass(frozen=True)
class Go:
    station: str


@dataclass(frozen=True)
class Why:
    name: str
    place: str | None


@dataclass(frozen=True)
class Change:
    lines: tuple[Line, ...]
    note: str = ""


Intent = Go | Why | Change

PLACES_SAID = {
    "lf": ("LF",), "rf": ("RF",), "lr": ("LR",), "rr": ("RR",), "fl": ("LF",), "fr": ("RF",),
    "rl": ("LR",), "front": ("LF", "RF"), "rear": ("LR", "RR"), "left": ("LF", "LR"),
    "right": ("RF", "RR"), "all": ("LF", "RF", "LR", "RR"),
}  # fmt: skip
WORDS_FOR = {
    "spring": "spring", "springs": "spring", "perch": "perch_turns", "bar": "bar_hole",
    "arb": "bar_hole", "bump": "compression_clicks", "compression": "compression_clicks",
    "comp": "compression_clicks", "rebound": "rebound_clicks", "reb": "rebound_clicks",
    "pressure": "tyre_pressure", "psi": "tyre_pressure", "camber": "camber", "toe": "toe",
    "preload": "link_preload", "urb": "link_preload", "upper": "upper_link_hole",
    "lower": "lower_link_hole",
}  # fmt: skip
USAGE = "Try “rear spring 80”, “front bar +1”, “go springs” or “why cross”."


def understand(text: str, car: Car, setup: Setup) -> Intent:
    """What a typed line means on this car. Raises the core's errors with what would do."""
    words = text.strip().lower().split()
    if not words:
        raise UnknownName(f"Nothing typed. {USAGE}")
    if words[0] == "go":
        return Go(_station(" ".join(words[1:]), car))
    if words[0] in ("why", "explain", "="):
        return _why(words[1:])
    return _change(words, car, setup)


def _station(wanted: str, car: Car) -> str:
    stations = knowledge().stations_for(car.discipline)
    for station in stations:
        if wanted and wanted in (station.id, station.label.lower()):
            return station.id
    for station in stations:
        if wanted and (station.id.startswith(wanted) or wanted in station.label.lower()):
            return station.id
    labels = ", ".join(station.id for station in stations)
    raise UnknownName(f"There is no station “{wanted}” on this car: {labels}.", value=wanted)


def _why(words: list[str]) -> Why:
    place: str | None = None
    rest = []
    for word in words:
        if word in PLACES_SAID:
            place = PLACES_SAID[word][0]
        else:
            rest.append(word)
    wanted = " ".join(rest)
    number = _number_like(wanted)
    if place is not None and number.shape is Shape.AXLE:
        place = AXLE_OF_CORNER[place]
    elif number.shape is Shape.CAR:
        place = None
    return Why(number.name, place)


def _number_like(wanted: str) -> Number:
    everything = list(numbers().values())
    for test in (
        lambda n: wanted in (n.name, n.name.replace("_", " "), n.label.lower()),
        lambda n: n.label.lower().startswith(wanted) or n.name.startswith(wanted.replace(" ", "_")),
        lambda n: wanted in n.label.lower() or wanted.replace(" ", "_") in n.name,
    ):
        found = [number for number in everything if wanted and test(number)]
        if found:
            return found[0]
    raise UnknownName(f"There is no number called “{wanted}”. Try “why cross”.", value=wanted)


def _change(words: list[str], car: Car, setup: Setup) -> Change:
    corners: tuple[str, ...] | None = None
    name: str | None = None
    rest: list[str] = []
    for word in words:
        if word in PLACES_SAID and corners is None:
            corners = PLACES_SAID[word]
        elif word in WORDS_FOR and name is None:
            name = WORDS_FOR[word]
        else:
            rest.append(word)
    if name is None:
        raise UnknownName(f"“{' '.join(words)}” names no number to change. {USAGE}")
    number = number_named(name)
    if name not in setup:
        raise UnknownName(f"This car has no adjuster for {number.label.lower()}.", number=name)
    places = _places(number, corners)
    value = " ".join(rest)
    lines, notes = [], []
    for place in places:
        old = setup[name][number.index(place)]
        new, note = _target(number, place, old, value, car)
        if note:
            notes.append(note)
        if new != old:
            lines.append(Line(name, place, old, new))
    if not lines and not notes:
        notes.append(f"{number.label} is already there.")
    return Change(tuple(lines), " ".join(dict.fromkeys(notes)))


def _places(number: Number, corners: tuple[str, ...] | None) -> tuple[str, ...]:
    if number.shape is Shape.CAR:
        return ("car",)
    if corners is None:
        raise UnknownName(
            f"Say where: {number.label.lower()} stands at {', '.join(number.shape.places)}.",
            number=number.name,
        )
    if number.shape is Shape.AXLE:
        return tuple(dict.fromkeys(AXLE_OF_CORNER[corner] for corner in corners))
    return corners


def _target(number: Number, place: str, old: object, value: str, car: Car) -> tuple[object, str]:
    relative = re.match(r"^[+\-−]", value)
    if number.name == "spring":
        return _spring(place, old, value, car, bool(relative))
    if relative and (number.least is None or number.least >= 0 or number.step):
        typed = parse(value, number.quantity, car.profile)
        return check_setting(car, number.name, place, round(float(str(old)) + typed, 9)), ""
    if value.startswith("to "):
        value = value[3:]
    return check_setting(car, number.name, place, value), ""


def _spring(place: str, old: object, value: str, car: Car, relative: bool) -> tuple[str, str]:
    axle = AXLE_OF_CORNER[place]
    stores = car.springs_for(axle)
    if relative:
        steps = int(parse(value, "count"))
        codes = [spring.code for spring in stores]
        at = codes.index(str(old)) + steps if old in codes else -1
        if not 0 <= at < len(codes):
            raise UnknownName(f"The stores end before {value} from here.", number="spring",
                              place=place)  # fmt: skip
        return codes[at], ""
    by_code = car.spring(value.upper()) or car.spring(value)
    if by_code is not None:
        return check_setting(car, "spring", place, by_code.code), ""
    rate = check_value(number_named("spring_rate"), place, value, car.profile, confirmed=True)
    found = nearest(stores, rate)
    if abs(found.rate - rate) > 0.005 * rate:
        raise UnknownName(
            f"No spring of {show(rate, 'rate', car.profile)} in the stores for the {axle}; the "
            f"nearest is {show(found.rate, 'rate', car.profile)} ({found.code}).",
            number="spring", place=place, value=rate)  # fmt: skip
    return found.code, ""
