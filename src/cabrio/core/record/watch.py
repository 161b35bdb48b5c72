"""What is watched on a car besides its readings: open issues, parts taken off, torques, class limits, service.

An issue bars the car where it is said to; what is signed for is a limit that the car is past, with what
the engineer decided on; a part that is off bars it until it is back. A torque is due
once its system was touched, or loaded parts were, after it was last pulled. The app has no torque of its
own: the value and where it is from are typed. A limit holds against the figures as the car stands.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, get_args

from ..catalog.checks import check_value
from ..catalog.units import parse, show
from ..errors import CoreError, Impossible, Missing, Problems, UnknownName, collected
from ..graph.registry import number_named
from ..knowledge import knowledge

Kind = Literal["issue", "removed", "torque", "limit", "service", "signed"]
KINDS: tuple[str, ...] = get_args(Kind)
LIMITED = (
    "total_mass",
    "front_share",
    "left_share",
    "ride_height",
    "clearance_at_speed",
    "track",
    "wheelbase",
    "camber",
    "tyre_pressure",
)
"""Numbers that a class may bound, measured or set."""
INTERVALS = {"runs": 1.0, "days": 1.0, "km": 1000.0, "miles": 1609.344}
"""What service is counted by; distances in metres."""
DECISIONS = {
    "measured_again": "measured again",
    "part_changed": "a part was changed",
    "rule_allows": "the rule book allows it",
    "other": "",
}
"""On what an engineer lets a car run that is past a limit; `other` takes words."""
LEAST_WORDS = 3
"""Words that a decision about the car's safety takes at least."""
MOST_TORQUE = 2000.0
"""No joint of a chassis is pulled tighter [N·m]."""


@dataclass(frozen=True)
class Watched:
    """One thing watched, with what happened since it was last pulled or done: systems touched, runs, days,
    how far it went [m], and the runs whose distance nobody can tell."""

    id: int
    kind: str
    words: str
    data: Mapping[str, Any]
    touched: frozenset[str] = frozenset()
    ever_checked: bool = False
    runs: int = 0
    days: int = 0
    driven: float = 0.0
    untold: int = 0


def check_kept(kind: str, data: Mapping[str, Any]) -> None:
    """Raise Problems for what a file says of a thing watched, in SI, that no screen would take."""
    typed = dict(data)
    if kind == "torque":
        torque = typed.pop("torque", 0.0)
        if (
            isinstance(torque, bool)
            or not isinstance(torque, int | float)
            or abs(torque) > MOST_TORQUE
        ):
            raise Problems([Impossible("A torque is told in N·m.", number="data")])
        typed["value"] = float(torque)
    if kind == "service":
        typed["every"] = str(typed.get("every", ""))
    if dict(data) != checked(kind, typed, "n_mm"):
        raise Problems([Impossible("It holds more than such a thing has.", number="data")])


@dataclass(frozen=True)
class Stands:
    """How a watched thing stands: whether it keeps the car in, and in what words."""

    bars: bool
    words: str


def checked(kind: str, typed: Mapping[str, Any], profile: str) -> dict[str, Any]:
    """What is typed of a thing to watch, in SI. Raises Problems, all at once, at their fields."""
    problems: list[CoreError] = []
    found: dict[str, Any] = {}
    if kind not in KINDS:
        raise UnknownName(f"There is nothing to watch called “{kind}”.", number="kind")
    with collected(problems):
        if kind == "issue":
            found["bars"] = bool(typed.get("bars"))
        elif kind == "torque":
            found |= _torque(typed, profile)
        elif kind == "limit":
            found |= _limit(typed, profile)
        elif kind == "service":
            found |= _interval(typed)
        elif kind == "signed":
            found |= _signed(typed)
    if problems:
        raise Problems(problems)
    return found


def _torque(typed: Mapping[str, Any], profile: str) -> dict[str, Any]:
    try:
        told = typed.get("value")
        value = float(told) if isinstance(told, float) else parse(told or "", "torque", profile)
        if not 0 < value <= MOST_TORQUE:
            raise Impossible(
                f"A torque is above zero and at most {show(MOST_TORQUE, 'torque', profile)}."
            )
    except CoreError as problem:
        problem.number = "value"
        raise
    source = str(typed.get("source") or "").strip()
    if not source:
        raise Impossible("Say where the figure is from: the part's maker.", number="source")
    system = str(typed.get("system") or "")
    if system and system not in knowledge().systems:
        raise UnknownName("There is no such system.", number="system")
    return {
        "torque": value,
        "source": source,
        "loaded": bool(typed.get("loaded")),
        "system": system,
    }


def _limit(typed: Mapping[str, Any], profile: str) -> dict[str, Any]:
    name = str(typed.get("number") or "")
    if name not in LIMITED:
        raise UnknownName("Say which figure the class bounds.", number="number")
    number, found = number_named(name), {}
    for end in ("least", "most"):
        bound = typed.get(end)
        if bound is not None and str(bound).strip():
            try:
                found[end] = check_value(
                    number, number.shape.places[0], bound, profile, confirmed=True
                )
            except CoreError as problem:
                problem.number, problem.place = end, None
                raise
    if not found:
        raise Impossible("Say the least, the most, or both.", number="least")
    if len(found) == 2 and found["least"] > found["most"]:
        raise Impossible("The least is above the most.", number="most")
    return {"number": name, "source": str(typed.get("source") or "").strip(), **found}


def _signed(typed: Mapping[str, Any]) -> dict[str, Any]:
    """What was signed for, since when it stood like that, and on what it was decided."""
    signed = {
        name: str(typed.get(name) or "").strip()
        for name in ("limit", "since", "decided_on", "said")
    }
    if signed["decided_on"] not in DECISIONS:
        raise UnknownName("Say on what you decide.", number="decided_on")
    if signed["decided_on"] == "other" and len(signed["said"].split()) < LEAST_WORDS:
        raise Missing(f"Say on what, in {LEAST_WORDS} words at least.", number="said")
    if not signed["limit"]:
        raise UnknownName("Say what is signed for.", number="limit")
    return signed


def decided_on(data: Mapping[str, Any]) -> str:
    """On what a limit was signed for, in words."""
    return ", ".join(filter(None, (DECISIONS[data["decided_on"]], data["said"])))


def _interval(typed: Mapping[str, Any]) -> dict[str, Any]:
    text = str(typed.get("every") or "").strip()
    if not text.isdecimal() or not 0 < int(text) <= 10_000:
        raise Impossible("A whole number of runs, days or km, such as 5.", number="every")
    unit = str(typed.get("unit") or "runs")
    if unit not in INTERVALS:
        raise UnknownName(f"One of {', '.join(INTERVALS)}.", number="unit")
    return {"every": int(text), "unit": unit}


def stands(one: Watched, figures: Mapping[str, list[float] | None], profile: str) -> Stands:
    """How a watched thing stands on a car with these figures by name [SI]."""
    if one.kind == "removed":
        return Stands(True, f"Off the car: {one.words}. Refit it before it runs.")
    if one.kind == "issue":
        return Stands(bool(one.data["bars"]), f"Open: {one.words}")
    if one.kind == "torque":
        value = show(one.data["torque"], "torque", profile)
        state = ", standing on its wheels" if one.data["loaded"] else ""
        said = f"{one.words}: {value}{state}, by {one.data['source']}"
        system = one.data["system"]
        again = bool(one.touched) if not system else system in one.touched
        if not one.ever_checked:
            return Stands(True, f"Torque not pulled yet: {said}.")
        return Stands(again, f"Torque due: {said}." if again else said)
    if one.kind == "service":
        return _served(one)
    if one.kind == "signed":
        return Stands(False, f"{one.data['limit']} Decided on: {decided_on(one.data)}.")
    return _within(one, figures, profile)


def _served(one: Watched) -> Stands:
    """Service by runs, by days, or by as much of the distance as the logbook tells."""
    unit = one.data["unit"]
    gone = {"runs": one.runs, "days": one.days}.get(unit, int(one.driven / INTERVALS[unit]))
    least, untold = "", ""
    if INTERVALS[unit] > 1 and one.untold:
        runs = "1 run has" if one.untold == 1 else f"{one.untold} runs have"
        least, untold = "at least ", f" {runs} no laps, or its event no lap length: not counted."
    left = one.data["every"] - gone
    if left > 0:
        most = "at most " if least else ""
        return Stands(False, f"{one.words}: in {most}{left} {unit}{'.' * bool(untold)}{untold}")
    return Stands(True, f"{one.words}: due, {least}{gone} {unit} since it was done.{untold}")


def _within(one: Watched, figures: Mapping[str, list[float] | None], profile: str) -> Stands:
    number = number_named(one.data["number"])
    least, most = one.data.get("least"), one.data.get("most")
    bounds = [
        f"{word} {show(end, number.quantity, profile)}"
        for word, end in (("at least", least), ("at most", most))
        if end is not None
    ]
    label = f"{one.words}: {number.label.lower()} {' and '.join(bounds)}"
    values = figures.get(number.name)
    if values is None:
        return Stands(True, f"{label}. Not known on this car.")
    out = [
        f"{show(value, number.quantity, profile)}{'' if place == 'car' else f' at {place}'}"
        for place, value in zip(number.shape.places, values, strict=True)
        if (least is not None and value < least - 1e-9)
        or (most is not None and value > most + 1e-9)
    ]
    return Stands(bool(out), f"{label}. Now {', '.join(out)}." if out else f"{label}. It holds.")
