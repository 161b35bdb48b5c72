"""From a driver's words to changes sized on this car: each with its reason, its cost and its limits.

A rule says what could be done; the graph says how much it does here, the hardware whether it can be
done at all, the recheck table what it makes stale. Candidates that cannot be made stay in the list,
last, with the reason why not.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Any

from ..car.lines import Line, value_now
from ..car.model import Car
from ..car.settings import check_free, check_setting, stiffer, way_of
from ..catalog.quantities import Number
from ..catalog.units import show
from ..errors import CoreError, Impossible, OutOfRange, UnknownName
from ..graph.registry import number_named
from ..knowledge import Rule, knowledge
from ..knowledge.rules import DRIVEN
from ..record.bite import PRELOAD
from ..record.recheck import rechecks, work_minutes
from ..sheet.build import Sheet
from ..sheet.limits import refuse_what_it_breaks
from ..sheet.what_if import WhatIf, moved_by, try_lines
from ..solve.preload import flats_text
from .candidate import AdviceContext, Candidate, Corner, Effect, NotSet, Question, Severity
from .holes import hole_lines
from .refusals import (
    past_band,
    refuse_another_car,
    refuse_the_other_way,
    refuse_unsuited,
    refuse_without_effect,
)

WITH_SPEED = frozenset({"perch_turns", "axle_height", "rubber_gap"})
"""What acts through downforce: rake, height and what keeps the height."""
FAST = "In fast corners only: rake, height and downforce come first."
NO_MAP = "In fast corners only: what the air does comes first, and no aero map is fitted that could tell it."
SLOW = "In slow corners only: a mechanical matter, rake and height hardly act there."
POOR = "On a poor surface the softer of two cures comes first: a stiffer end skips over it and slides sooner."
GOOD = "On a good surface the stiffer of two cures comes first: softer lets the car roll and pitch further."
OTHER_SURFACE = "It is for a {} surface: on this one try the others first."
UNSIZED = "Its size on this car is not known: nothing in the car data works it out."


LOADS = "load_transfer"
NOT_SET = "{} is not written down on this car."

TOWARD = {
    "anti_squat-up": "for more anti-squat",
    "anti_squat-down": "for less anti-squat",
    "zero": "nearer zero",
}
"""Which way a rule goes, where its own word is not the trade's."""


def advise(sheet: Sheet, asked: Question, known: AdviceContext | None = None) -> list[Candidate]:
    """Candidate changes for a complaint, best first: worth within the preferred school, then the rest.

    Raises UnknownName for a symptom or a phase this discipline does not have.
    """
    known = known or AdviceContext()
    _check(sheet.car, asked)
    work = knowledge().work
    found = [
        _candidate(sheet, rule, asked, known)
        for rule in work.rules_by_symptom[asked.symptom]
        if _is_asked(rule, asked) and sheet.car.driven in (rule.driven or DRIVEN)
    ]
    if asked.corner == "fast" and not any(
        one.number in WITH_SPEED and one.refused is None for one in found
    ):
        found = [
            replace(one, warnings=tuple(NO_MAP if w == FAST else w for w in one.warnings))
            for one in found
        ]
    found = [one for one in found if one.refused != UNASKED]
    return sorted(
        found,
        key=lambda one: (
            one.refused is not None,
            one.school not in ("", asked.school),
            _out_of_place(one.number, asked.corner) or one.out_of_place,
            -one.worth,
        ),
    )


UNASKED = "not asked"


def _is_asked(rule: Rule, asked: Question) -> bool:
    """Whether a rule answers in that phase; what acts through downforce answers wherever it is a fast corner."""
    if asked.phase in rule.phases:
        return True
    return asked.corner == "fast" and rule.number in WITH_SPEED and "fast corners" in rule.phases


def _out_of_place(number: str, corner: Corner) -> bool:
    """Whether a change acts mostly at another speed than the complaint is heard at."""
    return bool(corner) and (number in WITH_SPEED) != (corner == "fast")


def _surface_warning(rule: Rule, asked: Question) -> str:
    """What to say of a change that suits another surface than the one it is asked for; empty where it suits."""
    if rule.surface and asked.surface and rule.surface != asked.surface:
        return OTHER_SURFACE.format(rule.surface)
    if number_named(rule.number).system not in ("springs", "bars"):
        return ""
    return {("poor", "stiffer"): POOR, ("good", "softer"): GOOD}.get(
        (asked.surface, rule.direction), ""
    )


def _steps(rule: Rule, severity: Severity) -> int:
    """How many steps to take for how bad it is."""
    return {"slight": 1, "clear": rule.steps, "strong": 2 * rule.steps}[severity]


def _learned_steps(sheet: Sheet, rule: Rule, known: AdviceContext) -> int:
    """Steps of link preload to where this car's own passes run straight; 0 where they do not say.

    Raises Impossible where that lies the other way: the rule would take this car further off its line.
    """
    straight = known.line_error.straight if known.line_error is not None else None
    if rule.number != PRELOAD or straight is None:
        return 0
    now = value_now(sheet.car, sheet.setup, PRELOAD, "car")
    if now is None:
        return 0
    away = (straight - float(now)) / (number_named(PRELOAD).step or 1.0)
    steps = round(away if rule.direction == "more" else -away)
    if steps <= 0:
        raise Impossible(
            f"By its own passes this car runs straight at {flats_text(straight, True)}, and has "
            f"{flats_text(now, True)}: look at tyres, alignment, bar and weights first.",
            number=PRELOAD,
            value=now,
        )
    return steps


def advice_note(sheet: Sheet, asked: Question, found: Sequence[Candidate]) -> str:
    """What to say beside the candidates: what to check before any of them; that no rule answers and where the
    nearest do, or that the school asked for has nothing to offer here. Empty where there is nothing to say."""
    check = knowledge().work.symptoms[asked.symptom].check
    sentences = [f"Check first: {check[0].lower()}{check[1:]}"] if check else []
    return " ".join(filter(None, [*sentences, _lacks(sheet, asked, found)]))


def _lacks(sheet: Sheet, asked: Question, found: Sequence[Candidate]) -> str:
    work = knowledge().work
    if not found:
        phases = [
            phase
            for phase in knowledge().disciplines[sheet.car.discipline].phase_ids
            if any(phase in rule.phases for rule in work.rules_by_symptom[asked.symptom])
        ]
        label = work.symptoms[asked.symptom].label.lower()
        return (
            f"No rule answers “{label}” in {asked.phase}; the nearest are for {', '.join(phases)}."
        )
    can = [one for one in found if one.refused is None]
    schools = {one.school for one in can}
    if can and asked.school not in schools and schools != {""}:
        others = " and ".join(sorted(school for school in schools if school))
        return (
            f"School {asked.school} has nothing for this here: what follows is of school {others}."
        )
    return ""


def _check(car: Car, asked: Question) -> None:
    book = knowledge()
    symptoms = {symptom.id: symptom.label for symptom in book.work.symptoms_for(car.discipline)}
    if asked.symptom not in symptoms:
        raise UnknownName(
            f"A {car.discipline} driver does not say “{asked.symptom}”: use one of "
            f"{', '.join(symptoms)}.",
            value=asked.symptom,
        )
    phases = book.disciplines[car.discipline].phase_ids
    if asked.phase not in phases:
        raise UnknownName(
            f"There is no phase “{asked.phase}”: use one of {', '.join(phases)}.", value=asked.phase
        )


def _candidate(sheet: Sheet, rule: Rule, asked: Question, known: AdviceContext) -> Candidate:
    number = number_named(rule.number)
    label = f"{_where(rule, number)}: {TOWARD.get(rule.direction, rule.direction)}"
    bare = Candidate(
        (),
        label,
        rule.reason,
        rule.costs,
        rule.school,
        minutes=knowledge().work.effort[rule.number],
        number=rule.number,
        out_of_place=bool(_surface_warning(rule, asked)),
    )
    if rule.because and not past_band(sheet, rule.because, rule.places):
        return replace(bare, refused=UNASKED)  # it is for a car of which that was read
    try:
        refuse_another_car(sheet, rule)
        refuse_unsuited(sheet, rule, asked)
        steps = _learned_steps(sheet, rule, known) or _steps(rule, asked.severity)
        lines, fewer, trial = _felt(sheet, rule, number, steps, known)
        narrow = refuse_what_it_breaks(sheet, trial)
        effects = tuple(_effects(sheet, trial, rule))
        refuse_the_other_way(rule, effects)
        refuse_without_effect(rule, trial, effects)
    except NotSet as refusal:
        return replace(bare, refused=refusal.sentence, asks=refusal.places)
    except CoreError as refusal:
        return replace(bare, refused=refusal.sentence)
    warnings = [*fewer, *narrow, *_warnings(sheet, rule, asked, known, trial, effects)]
    return replace(
        bare,
        lines=lines,
        minutes=work_minutes(lines),
        label=_label(sheet, rule, lines),
        effects=effects,
        rechecks=tuple(rechecks(lines, sheet.car)),
        warnings=tuple(warnings),
        before=tuple(one for one in known.record if _alike(sheet.car, one.lines, lines)),
        loads=tuple(_of_figures(sheet, trial, (LOADS,), {LOADS: 1.0})),
        stained=any(sheet.estimated(effect.name) for effect in effects),
    )


def _where(rule: Rule, number: Number) -> str:
    """A number and where on the car it is changed; all the holes, where any of them may do."""
    if rule.direction.startswith("anti_squat"):
        return "Link holes"
    return number.label if rule.places == ("car",) else f"{number.label}, {rule.place}"


def _label(sheet: Sheet, rule: Rule, lines: Sequence[Line]) -> str:
    """The number that the lines change, with what it goes from and to: a rule for the links may move any hole."""
    number = number_named(lines[0].name if lines else rule.number)
    anywhere = rule.direction.startswith("anti_squat")
    where = number.label if anywhere else _where(rule, number)
    return f"{where}: {_change_text(sheet, number, lines)}"


MOST_FELT = 8
"""Steps that are taken at most, where one is nothing a driver would feel."""


def _felt(
    sheet: Sheet, rule: Rule, number: Number, steps: int, known: AdviceContext
) -> tuple[tuple[Line, ...], list[str], WhatIf]:
    """The lines of a rule, what is said of their number, and the car with them.

    A perch is turned until it is felt: half a millimetre of rake is no cure.
    """
    while True:
        lines, fewer = _lines(sheet, rule, number, steps)
        trial = try_lines(sheet, lines, bite=known.bite)
        felt = max((effect.felt for effect in _effects(sheet, trial, rule)), default=0.0)
        if fewer or rule.number != "perch_turns" or not 0 < felt < 1 or steps >= MOST_FELT:
            return lines, fewer, trial
        steps += 1


def _change_text(sheet: Sheet, number: Number, lines: Sequence[Line]) -> str:
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


def _lines(
    sheet: Sheet, rule: Rule, number: Number, most: int
) -> tuple[tuple[Line, ...], list[str]]:
    """The lines of a rule on this car, and what to say where fewer steps fit than it should take.

    Raises the car's own refusals, or that nothing would move.
    """
    if rule.direction.startswith("anti_squat"):
        return hole_lines(sheet, rule, number)
    # a layout that cannot make the move
    check_setting(sheet.car, rule.number, rule.places[0], None)
    if not (number.is_part or number.is_fact) and rule.number not in sheet.car.adjusters:
        raise UnknownName(
            f"This car has no adjuster for {number.label.lower()}.", number=rule.number
        )
    unset = tuple(
        place
        for place in rule.places
        if not (number.is_part or number.is_fact)
        and value_now(sheet.car, sheet.setup, rule.number, place) is None
    )
    if unset:
        raise NotSet(NOT_SET.format(number.label), number=rule.number, places=unset)
    for steps in range(most, 0, -1):
        try:
            lines = tuple(_line(sheet, rule, number, place, steps) for place in rule.places)
        except OutOfRange:
            if steps == 1:
                raise
            continue
        few = [f"Only {steps} of {most} steps are left."] if steps < most else []
        return tuple(line for line in lines if line.new != line.old), few
    raise AssertionError("a rule has a step")


def _line(sheet: Sheet, rule: Rule, number: Number, place: str, steps: int) -> Line:
    """One place's line, some steps the rule's way. Raises OutOfRange where that many do not fit."""
    car, way = sheet.car, way_of(number)
    old = value_now(car, sheet.setup, rule.number, place)
    if old is None and not number.is_part:
        raise UnknownName(f"{number.label} is not given on this car.", number=rule.number)
    check_free(car, sheet.setup, rule.number, place)
    if rule.direction in ("stiffer", "softer"):
        by = steps if rule.direction == "stiffer" else -steps
        new = stiffer(car, sheet.setup, rule.number, place, old, by)
    elif rule.direction == "zero":
        new = _nearer_zero(car, number, place, float(old), steps)
    else:
        new = way.step(car, number, place, old, steps if rule.direction == "more" else -steps)
    if number.beyond and number.usual and not number.usual[0] <= new <= number.usual[1]:
        low, high = (way.show(car, number, end) for end in number.usual)
        raise OutOfRange(number.beyond, number=rule.number, value=new, allowed=f"{low} to {high}")
    return Line(rule.number, place, old, new)


def _nearer_zero(car: Car, number: Number, place: str, old: float, steps: int) -> float:
    """Some steps toward zero, never past it. Raises Impossible where it is there."""
    if abs(old) < 1e-12:
        raise Impossible(f"{number.where(place)} is at zero already.", number=number.name)
    new: float = way_of(number).step(car, number, place, old, -steps if old > 0 else steps)
    return 0.0 if new * old < 0 else new


def _effects(sheet: Sheet, trial: WhatIf, rule: Rule) -> list[Effect]:
    """What the figures the rule names do, where the change reaches them."""
    return _of_figures(sheet, trial, rule.figures, knowledge().work.felt)


def _of_figures(
    sheet: Sheet, trial: WhatIf, names: Sequence[str], felt: Mapping[str, float]
) -> list[Effect]:
    found = []
    # a setting moves from where it was set, as the label of the change has it, and not from where it was read
    set_to = {(line.name, line.place): (line.old, line.new) for line in trial.lines}
    for name in names:
        for place in number_named(name).shape.places:
            moved = moved_by(sheet, trial, name, place)
            before, after = set_to.get((name, place), moved)
            if before is not None and after is not None and abs(after - before) > 1e-12:
                steps = abs(after - before) / felt[name]
                found.append(Effect(name, place, before, after, steps))
    return found


def _warnings(
    sheet: Sheet,
    rule: Rule,
    asked: Question,
    known: AdviceContext,
    trial: WhatIf,
    effects: Sequence[Effect],
) -> list[str]:
    found = []
    number = number_named(rule.number)
    if asked.corner and _out_of_place(rule.number, asked.corner):
        found.append(FAST if asked.corner == "fast" else SLOW)
    if off := _surface_warning(rule, asked):
        found.append(off)
    if rule.number == PRELOAD and known.line_error is not None:
        found.append(known.line_error.sentence(sheet.car.profile))
    if not effects:
        found.append(UNSIZED)
    found += [*(one.sentence for one in trial.unknown), *trial.notes]
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


def expectation(candidate: Candidate, profile: str, most: int = 3) -> str:
    """What a change should move, as a sentence for its slip: the figures it is for, before and after."""
    said = [
        f"{number_named(effect.name).where(effect.place)} {show(effect.before, quantity, profile, unit=False)}"
        f" to {show(effect.after, quantity, profile)}"
        for effect in candidate.effects[:most]
        if (quantity := number_named(effect.name).quantity)
    ]
    return f"{'; '.join(said)}." if said else ""
