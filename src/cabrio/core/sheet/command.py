"""The command line of the trade: `rr spring 550`, `front bar +1`, `go springs`, `why cross`.

`why understeer mid` asks what to change, `plan cross 50` for a plan of work. Parses a line into one of
five intents; it changes nothing itself.
"""

from __future__ import annotations

import re
from dataclasses import dataclass

from ..car.lines import Line, value_now
from ..car.model import Car, Setup
from ..car.settings import check_free, check_setting, way_of
from ..catalog.places import GROUPS
from ..catalog.quantities import Number, Shape, axle_of
from ..errors import UnknownName
from ..graph.registry import number_named, numbers, on_slip
from ..knowledge import knowledge


@dataclass(frozen=True)
class Go:
    """Open a view of the car."""

    station: str


@dataclass(frozen=True)
class Why:
    """Open the working of a number, at a place where one was named."""

    name: str
    place: str | None


@dataclass(frozen=True)
class Change:
    """Put lines on the slip; a note where something typed was understood otherwise."""

    lines: tuple[Line, ...]
    note: str = ""


@dataclass(frozen=True)
class Advise:
    """What the driver says, and where; empty where no phase was named."""

    symptom: str
    phase: str


@dataclass(frozen=True)
class Reach:
    """Figures that a plan of work should bring to their values: name, place and value as typed."""

    targets: tuple[tuple[str, str, str], ...]


Intent = Go | Why | Advise | Reach | Change
VIEWS = {
    "advise": "advise",
    "what to change": "advise",
    "plan of work": "work",
    "step by step": "steps",
    "steps": "steps",
    "due": "steps/due",
    "work": "work",
    "logbook": "logbook",
    "log": "logbook",
    "compare": "compare",
    "data": "data",
    "car data": "data",
    "inventory": "parts",
    "parts": "parts",
}
"""Views of a car that are no station of its order of work."""

PLACES_SAID = {
    "lf": ("LF",),
    "rf": ("RF",),
    "lr": ("LR",),
    "rr": ("RR",),
    "fl": ("LF",),
    "fr": ("RF",),
    "rl": ("LR",),
    **{word: GROUPS[word] for word in ("front", "rear", "left", "right", "all")},
}
WORDS_FOR = {
    "spring": "spring",
    "springs": "spring",
    "perch": "perch_turns",
    "bar": "bar_hole",
    "arb": "bar_hole",
    "blade": "blade_position",
    "bump": "compression_clicks",
    "compression": "compression_clicks",
    "comp": "compression_clicks",
    "rebound": "rebound_clicks",
    "reb": "rebound_clicks",
    "pressure": "tyre_pressure",
    "psi": "tyre_pressure",
    "camber": "camber",
    "toe": "toe",
    "preload": "link_preload",
    "urb": "link_preload",
    "upper": "upper_link_hole",
    "lower": "lower_link_hole",
    "caster": "caster",
    "gap": "rubber_gap",
    "rubber": "rubber_gap",
    "limiter": "front_limiter",
    "damper": "damper",
    "tyre": "tyre",
}
UNSAID = {"hole", "holes", "click", "clicks", "position"}
"""Words that name what a setting counts and say nothing more: `front bar hole 1` is `front bar 1`."""
SHOP_WORDS = {
    "loose": "oversteer",
    "tight": "understeer",
    "push": "understeer",
    "pushes": "understeer",
}
"""What drivers call a symptom."""
USAGE = "Try “rear spring 80”, “front bar +1”, “go springs” or “why cross”."


def understand(text: str, car: Car, setup: Setup) -> Intent:
    """What a typed line means on this car. Raises the core's errors with what would do."""
    words = text.strip().removeprefix("/").lower().split()
    if not words:
        raise UnknownName(f"Nothing typed. {USAGE}")
    if words[0] == "go":
        wanted = " ".join(words[1:])
        return Go(VIEWS[wanted] if wanted in VIEWS else _station(wanted, car))
    if words == ["release"]:
        return Go("release")
    if words[0] == "plan":
        return _reach(" ".join(words[1:]), car)
    if words[0] in ("why", "explain", "="):
        return _complaint(words[1:], car) or _why(words[1:])
    return _change(words, car, setup)


def _station(wanted: str, car: Car) -> str:
    stations = knowledge().stations_for(car.discipline, car.rear_layout)
    for station in stations:
        if wanted and wanted in (station.id, station.label.lower()):
            return station.id
    for station in stations:
        if wanted and (station.id.startswith(wanted) or wanted in station.label.lower()):
            return station.id
    labels = ", ".join(station.id for station in stations)
    raise UnknownName(f"There is no station “{wanted}” on this car: {labels}.", value=wanted)


def _complaint(words: list[str], car: Car) -> Advise | None:
    """A symptom that this discipline's drivers speak of, by the beginning of its name, and its phase."""
    words = " ".join(words).replace("_", " ").split()
    if not words:
        return None
    words = [SHOP_WORDS.get(words[0], words[0]), *words[1:]]
    book = knowledge()
    symptoms = book.work.symptoms_for(car.discipline)
    said = "_".join(words)
    named = [one for one in symptoms if said == one.id or said.startswith(f"{one.id}_")]
    named = named or [one for one in symptoms if one.id.split("_")[0] == words[0]]
    if not named:
        return None
    symptom = named[0]
    rest = " ".join(words[len(symptom.id.split("_")) if said.startswith(symptom.id) else 1 :])
    of = book.disciplines[car.discipline].phases
    phases = [phase.id for phase in of if rest and phase.is_called(rest)]
    if rest and not phases:
        known = ", ".join(book.disciplines[car.discipline].phase_ids)
        raise UnknownName(f"There is no phase “{rest}”: {known}.", value=rest)
    heard = [p for rule in book.work.rules_by_symptom[symptom.id] for p in rule.phases]
    return Advise(symptom.id, next((p for p in phases if p in heard), (phases or [""])[0]))


def _reach(said: str, car: Car) -> Reach:
    """Targets of a plan: a figure that a plan aims at, its end of the car where it has two, its value."""
    aims = [
        number_named(aim.number)
        for aim in knowledge().work.aims.values()
        if car.discipline in aim.disciplines
    ]
    known = ", ".join(aim.label.lower() for aim in aims)
    found = []
    for part in filter(None, (one.strip() for one in re.split(r",|;| and ", said))):
        words = part.split()
        at = next((i for i, word in enumerate(words) if re.search(r"\d", word)), len(words))
        named = [word for word in words[:at] if word not in PLACES_SAID]
        ends = [PLACES_SAID[word] for word in words[:at] if word in PLACES_SAID]
        wanted = " ".join(named)
        number = next(
            (
                aim
                for aim in aims
                if wanted and (wanted in aim.label.lower() or wanted.replace(" ", "_") in aim.name)
            ),
            None,
        )
        if number is None or at == len(words):
            raise UnknownName(
                f"Say a figure and its value, such as “plan cross 50”. A plan aims at {known}.",
                value=part,
            )
        places = number.shape.places
        if ends and number.shape in (Shape.AXLE, Shape.CORNER):
            corners = set(ends[0]) | {axle_of(end) for end in ends[0]}
            places = tuple(place for place in places if place in corners)
        found += [(number.name, place, " ".join(words[at:])) for place in places]
    if not found:
        raise UnknownName(f"Say what is wanted, such as “plan cross 50”. A plan aims at {known}.")
    return Reach(tuple(found))


def _why(words: list[str]) -> Why:
    """The number meant: by all the words first, for “rear” and “left” are part of some names."""
    try:
        return Why(_number_like(" ".join(words), exact=True).name, None)
    except UnknownName:
        pass
    place: str | None = None
    rest = []
    for word in words:
        if word in PLACES_SAID:
            place = PLACES_SAID[word][0]
        else:
            rest.append(word)
    number = _number_like(" ".join(rest) if rest else " ".join(words))
    if place is not None and number.shape is Shape.AXLE:
        place = axle_of(place)
    elif number.shape is not Shape.CORNER:
        place = None
    return Why(number.name, place)


def _number_like(wanted: str, *, exact: bool = False) -> Number:
    """The number called so; `exact` takes no name that only holds the words somewhere."""
    everything = list(numbers().values())
    tests = (
        lambda n: wanted in (n.name, n.name.replace("_", " "), n.label.lower()),
        lambda n: n.label.lower().startswith(wanted) or n.name.startswith(wanted.replace(" ", "_")),
        lambda n: wanted in n.label.lower() or wanted.replace(" ", "_") in n.name,
    )
    for test in tests[:2] if exact else tests:
        found = [number for number in everything if wanted and test(number)]
        if found:
            return found[0]
    raise UnknownName(f"There is no number called “{wanted}”. Try “why cross”.", value=wanted)


def _change(words: list[str], car: Car, setup: Setup) -> Change:
    corners: tuple[str, ...] | None = None
    rest: list[str] = []
    name, words = _by_label(words)
    for word in words:
        if word in PLACES_SAID and corners is None:
            corners = PLACES_SAID[word]
        elif word in WORDS_FOR and name is None:
            name = WORDS_FOR[word]
        elif name is not None and not rest and (word in UNSAID or WORDS_FOR.get(word) == name):
            continue
        else:
            rest.append(word)
    if name is None:
        raise UnknownName(f"“{' '.join(words)}” names no number to change. {USAGE}")
    number = number_named(name)
    places = _places(number, corners)
    value = " ".join(rest)
    lines, notes = [], []
    for place in places:
        old = value_now(car, setup, name, place)
        check_free(car, setup, name, place)
        check_setting(car, name, place, old)
        new = way_of(number).typed(car, number, place, old, value)
        check_free(car, setup, name, place, new)
        if new != old:
            lines.append(Line(name, place, old, new))
    if not lines:
        notes.append(f"{number.label} is already there.")
    return Change(tuple(lines), " ".join(dict.fromkeys(notes)))


def _by_label(words: list[str]) -> tuple[str | None, list[str]]:
    """The setting called by its whole label, such as `front travel limiter`, and the other words: `front` and
    `upper` mean something else alone. The longest label counts; None and all words where there is none."""
    labels = {tuple(number.label.lower().split()): number.name for number in on_slip()}
    for label in sorted(labels, key=len, reverse=True):
        for at in range(len(words) - len(label) + 1):
            if len(label) > 1 and tuple(words[at : at + len(label)]) == label:
                return labels[label], words[:at] + words[at + len(label) :]
    return None, words


def _places(number: Number, corners: tuple[str, ...] | None) -> tuple[str, ...]:
    if number.shape is Shape.CAR:
        return ("car",)
    if corners is None:
        raise UnknownName(
            f"Say where: {number.label.lower()} stands at {', '.join(number.shape.places)}.",
            number=number.name,
        )
    if number.shape is Shape.AXLE:
        return tuple(dict.fromkeys(axle_of(corner) for corner in corners))
    return corners
