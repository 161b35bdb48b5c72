"""From a driver's words to changes sized on this car: each with its reason, its cost and its limits.

A rule says what could be done; the graph says how much it does here, the hardware whether it can be
done at all, the recheck table what it makes stale. Candidates that cannot be made stay in the list,
last, with the reason why not.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..car.lines import Line, value_now, with_lines
from ..car.model import Car
from ..car.settings import check_free, check_setting, way_of
from ..catalog.quantities import Number
from ..catalog.units import show
from ..errors import CoreError, Impossible, UnknownName
from ..graph.registry import number_named
from ..knowledge import Rule, knowledge
from ..record.recheck import Recheck, rechecks
from ..sheet.build import Sheet
from ..sheet.what_if import WhatIf, moved_by, refused_newly, try_lines
from ..solve.preload import Bite
from ..solve.side_view import Driveline, through_travel

STEADY = "A damper acts while something moves: it is not the cure for a steady balance."
UNSIZED = "Its size on this car is not known: nothing in the car data works it out."


@dataclass(frozen=True)
class Effect:
    """A figure the rule names, before and after at one place (SI), and how strongly it is felt."""

    name: str
    place: str
    before: float
    after: float
    felt: float


@dataclass(frozen=True)
class Before:
    """What an earlier slip with these lines came to, as it was judged."""

    lines: tuple[Line, ...]
    outcome: str
    words: str = ""
    revision: int = 0


@dataclass(frozen=True)
class Candidate:
    """One change that could be made for the complaint.

    `refused` says why it cannot be made on this car; `warnings` what to think of first. Minutes are of
    the work itself and of all it makes stale.
    """

    lines: tuple[Line, ...]
    label: str
    reason: str
    costs: str
    school: str
    effects: tuple[Effect, ...] = ()
    minutes: int = 0
    rechecks: tuple[Recheck, ...] = ()
    warnings: tuple[str, ...] = ()
    refused: str | None = None
    before: tuple[Before, ...] = ()

    @property
    def total_minutes(self) -> int:
        return self.minutes + sum(one.minutes for one in self.rechecks)

    @property
    def felt(self) -> float:
        """Steps a driver would feel, the strongest of its figures; one where the size is not known."""
        return max((effect.felt for effect in self.effects), default=1.0)

    @property
    def worth(self) -> float:
        """Felt steps a minute, up to three steps: beyond that a change is coarse, not better."""
        return min(self.felt, 3.0) / max(self.total_minutes, 1)


@dataclass(frozen=True)
class Question:
    """What the driver said: a symptom of this discipline in a phase, and which school is preferred."""

    symptom: str
    phase: str
    school: str = "A"


@dataclass(frozen=True)
class Situation:
    """What is known beside the sheet: changes already on the slip, earlier verdicts, bite per flat."""

    draft: tuple[Line, ...] = ()
    record: tuple[Before, ...] = ()
    bite: Bite | None = None


def advise(sheet: Sheet, asked: Question, known: Situation | None = None) -> list[Candidate]:
    """Candidate changes for a complaint, best first: worth within the preferred school, then the rest.

    Raises UnknownName for a symptom or a phase this discipline does not have.
    """
    known = known or Situation()
    _check(sheet.car, asked)
    work = knowledge().work
    found = [
        _candidate(sheet, rule, asked, known)
        for rule in work.rules_by_symptom[asked.symptom]
        if asked.phase in rule.phases
    ]
    return sorted(
        found,
        key=lambda one: (one.refused is not None, one.school not in ("", asked.school), -one.worth),
    )


def _check(car: Car, asked: Question) -> None:
    book = knowledge()
    symptoms = {one.id: one.label for one in book.work.symptoms_for(car.discipline)}
    if asked.symptom not in symptoms:
        raise UnknownName(
            f"A {car.discipline} driver does not say “{asked.symptom}”: use one of "
            f"{', '.join(symptoms)}.",
            value=asked.symptom,
        )
    phases = book.words[car.discipline].phases
    if asked.phase not in phases:
        raise UnknownName(
            f"There is no phase “{asked.phase}”: use one of {', '.join(phases)}.", value=asked.phase
        )


def _candidate(sheet: Sheet, rule: Rule, asked: Question, known: Situation) -> Candidate:
    number = number_named(rule.number)
    where = number.label if rule.places == ("car",) else f"{number.label}, {rule.change.split()[1]}"
    label = f"{where}: {rule.toward.replace('-', ' ')}"
    bare = Candidate(
        (),
        label,
        rule.reason,
        rule.costs,
        rule.school,
        minutes=knowledge().work.effort[rule.number],
    )
    try:
        lines = _lines(sheet, rule, number)
        trial = try_lines(sheet, lines, bite=known.bite)
        _refuse_what_it_breaks(sheet, trial, lines)
    except CoreError as refusal:
        return replace(bare, refused=refusal.sentence)
    effects = tuple(_effects(sheet, trial, rule))
    warnings = _warnings(sheet, rule, asked, known, trial, effects)
    return replace(
        bare,
        lines=lines,
        label=f"{where}: {_said(sheet, number, lines)}",
        effects=effects,
        rechecks=tuple(rechecks(lines, sheet.car)),
        warnings=tuple(warnings),
        before=tuple(one for one in known.record if _alike(sheet.car, one.lines, lines)),
    )


def _said(sheet: Sheet, number: Number, lines: Sequence[Line]) -> str:
    """From what to what, once where it is alike everywhere, else with its places."""

    way = way_of(number)

    def shown(value: Any) -> str:
        return way.show(sheet.car, number, value)

    alike: dict[str, list[str]] = {}
    for line in lines:
        alike.setdefault(f"{shown(line.old)} to {shown(line.new)}", []).append(line.place)
    if len(alike) == 1:
        return next(iter(alike))
    return "; ".join(f"{', '.join(places)} {said}" for said, places in alike.items())


def _lines(sheet: Sheet, rule: Rule, number: Number) -> tuple[Line, ...]:
    """The lines of a rule on this car. Raises the car's own refusals, or that nothing would move."""
    if rule.toward.startswith("anti_squat"):
        return _hole_lines(sheet, rule, number)
    check_setting(
        sheet.car, rule.number, rule.places[0], None
    )  # a layout that cannot make the move
    if not number.is_part and rule.number not in sheet.car.adjusters:
        raise UnknownName(
            f"This car has no adjuster for {number.label.lower()}.", number=rule.number
        )
    way, lines = way_of(number), []
    for place in rule.places:
        old = value_now(sheet.car, sheet.setup, rule.number, place)
        if old is None and not number.is_part:
            raise UnknownName(f"{number.label} is not set on this car.", number=rule.number)
        check_free(sheet.car, sheet.setup, rule.number, place)
        if rule.toward in ("stiffer", "softer"):
            by = rule.steps if rule.toward == "stiffer" else -rule.steps
            new = way.stiffer(sheet.car, number, place, old, by)
        else:
            new = way.step(
                sheet.car, number, place, old, rule.steps if rule.toward == "more" else -rule.steps
            )
        if number.beyond and number.usual and not number.usual[0] <= new <= number.usual[1]:
            low, high = (way.show(sheet.car, number, end) for end in number.usual)
            raise Impossible(
                number.beyond, number=rule.number, value=new, allowed=f"{low} to {high}"
            )
        lines.append(Line(rule.number, place, old, new))
    return tuple(lines)


def _hole_lines(sheet: Sheet, rule: Rule, number: Number) -> tuple[Line, ...]:
    """The neighbouring bracket hole that moves anti-squat the wanted way, whichever that is here."""
    check_setting(sheet.car, rule.number, "car", None)
    set_to = value_now(sheet.car, sheet.setup, rule.number, "car")
    if set_to is None:
        raise UnknownName(f"{number.label} is not set on this car.", number=rule.number)
    old = float(set_to)
    now = sheet.worked.values.get("anti_squat")
    if now is None or not sheet.car.parts.of("bracket"):
        raise Impossible(
            "Anti-squat is not known on this car: measure the bolts of every hole.", number="bolt_x"
        )
    wanted = 1 if rule.toward.endswith("up") else -1
    best: tuple[float, float] | None = None
    for step in (1.0, -1.0):
        try:
            new = float(check_setting(sheet.car, rule.number, "car", old + step))
            trial = try_lines(sheet, [Line(rule.number, "car", old, new)])
        except CoreError:
            continue
        after = trial.value("anti_squat")
        gain = 0.0 if after is None else wanted * float(after - now)
        if gain > 1e-6 and (best is None or gain > best[0]):
            best = (gain, new)
    if best is None:
        raise Impossible(
            f"No neighbouring hole moves anti-squat {'up' if wanted > 0 else 'down'} here: search all "
            "four brackets.",
            number=rule.number,
        )
    return (Line(rule.number, "car", old, best[1]),)


def _refuse_what_it_breaks(sheet: Sheet, trial: WhatIf, lines: tuple[Line, ...]) -> None:
    """Raise Impossible where the change takes something away that the car needs."""
    for refusal in refused_newly(sheet, trial):
        raise refusal
    for name, sentence in (
        ("bind_margin", "the coils would touch at full bump"),
        ("seat_at_droop", "the spring would come loose at full droop"),
        ("clearance_at_speed", "the car would come under its least height at speed"),
    ):
        number = number_named(name)
        for place in number.shape.places:
            before, after = moved_by(sheet, trial, name, place)
            if before is not None and after is not None and before >= 0 > after:
                raise Impossible(
                    f"{place}: {sentence}, by {show(-after, number.quantity, sheet.car.profile)}.",
                    number=name,
                    place=place,
                )
    if any(line.name.endswith("link_hole") for line in lines):
        _refuse_nose_up(sheet, trial)


def _refuse_nose_up(sheet: Sheet, trial: WhatIf) -> None:
    """Raise Impossible where the pinion would come nose up over the travel in use.

    The bars are re-set to keep it at ride height, so only its turning through the travel is new.
    """
    values = trial.worked.values
    names = (
        "bolt_x",
        "bolt_z",
        "pinion_slope",
        "pinion_joint_x",
        "pinion_joint_z",
        "cg_height",
        "gearbox_joint_x",
        "gearbox_joint_z",
        "loaded_radius",
        "wheelbase",
        "droop_travel",
        "bump_travel",
    )
    if any(name not in values for name in names):
        return
    at = {name: float(values[name].reshape(-1)[-1]) for name in names[2:]}
    line = Driveline(
        at["pinion_slope"],
        (at["pinion_joint_x"], at["pinion_joint_z"]),
        (at["gearbox_joint_x"], at["gearbox_joint_z"]),
    )
    travels = np.linspace(-at["droop_travel"], at["bump_travel"], 9).tolist()
    views = through_travel(
        values["bolt_x"],
        values["bolt_z"],
        travels=travels,
        radius=at["loaded_radius"],
        wheelbase=at["wheelbase"],
        cg_height=at["cg_height"],
        driveline=line,
    )
    worst = max(views, key=lambda view: view.pinion_angle or 0.0)
    if worst.pinion_angle is not None and worst.pinion_angle >= 0:
        raise Impossible(
            f"The pinion would come nose up at {worst.travel * 1e3:+.0f} mm of travel: set it lower "
            "at ride height first.",
            number="pinion_angle",
            value=worst.pinion_angle,
            allowed="below 0 over the travel",
        )


def _effects(sheet: Sheet, trial: WhatIf, rule: Rule) -> list[Effect]:
    """What the figures the rule names do, where the change reaches them."""
    felt = knowledge().work.felt
    found = []
    for name in rule.figures:
        for place in number_named(name).shape.places:
            before, after = moved_by(sheet, trial, name, place)
            if before is not None and after is not None and abs(after - before) > 1e-12:
                steps = abs(after - before) / felt[name]
                found.append(Effect(name, place, before, after, steps))
    return found


def _warnings(
    sheet: Sheet,
    rule: Rule,
    asked: Question,
    known: Situation,
    trial: WhatIf,
    effects: Sequence[Effect],
) -> list[str]:
    found = []
    number = number_named(rule.number)
    if number.system == "dampers" and asked.phase in knowledge().words[sheet.car.discipline].steady:
        found.append(STEADY)
    if not effects:
        found.append(UNSIZED)
    found += [one.sentence for one in trial.unknown]
    others = {number_named(line.name).system for line in known.draft} - {number.system}
    if others:
        found.append("The slip already changes another system: nobody will know which one worked.")
    stained = {root for effect in effects for root in sheet.estimated(effect.name)}
    if stained:
        labels = ", ".join(sorted(number_named(name).label.lower() for name in stained))
        found.append(f"Its size rests on an estimate: {labels}.")
    if trial.predicted:
        found.append("Pads and heights are predicted: read them again after.")
    return found


def _alike(car: Car, earlier: Sequence[Line], lines: Sequence[Line]) -> bool:
    """Whether an earlier slip made the same change in the same direction."""

    def size(name: str, value: Any) -> float:
        number = number_named(name)
        return way_of(number).size(car, number, value)

    def moves(of: Sequence[Line]) -> set[tuple[str, str, bool]]:
        return {
            (one.name, one.place, size(one.name, one.new) > size(one.name, one.old)) for one in of
        }

    return moves(lines) <= moves(earlier)


def after_setup(sheet: Sheet, candidate: Candidate) -> dict[str, list[Any]]:
    """The setup with a candidate's lines: for the slip."""
    return with_lines(sheet.setup, list(candidate.lines))
