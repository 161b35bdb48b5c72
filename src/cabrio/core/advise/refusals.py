"""Why a rule does not hold on this car, this surface or what was read of it: each says so in a sentence."""

from __future__ import annotations

from collections.abc import Sequence

from ..catalog.part_kinds import part_kinds
from ..catalog.quantities import axle_of
from ..catalog.units import show
from ..errors import Impossible
from ..graph.registry import number_named
from ..knowledge import Rule, knowledge
from ..sheet.build import Sheet
from ..sheet.what_if import WhatIf
from .candidate import Effect, Question


def refuse_another_car(sheet: Sheet, rule: Rule) -> None:
    """Raise Impossible on a car that the rule is not about, or of a part that is not fitted."""
    if (only := rule.only) is not None:
        name = only.figure
        number, here = number_named(name), sheet.value(name)
        if here is None:
            raise Impossible(
                f"Whether this is right here hangs on {number.label.lower()}, which is not known.",
                number=name,
            )
        if not only.holds(float(here[0])):
            side, value = ("above", only.above) if only.below is None else ("below", only.below)
            raise Impossible(
                f"It is for a car whose {number.label.lower()} is {side} "
                f"{show(value or 0.0, number.quantity, sheet.car.profile)}: here it is "
                f"{show(here[0], number.quantity, sheet.car.profile)}.",
                number=name,
                value=here[0],
            )
    for kind in part_kinds().values():
        if kind.none_fitted is None or not kind.none_fitted.picks(rule.number):
            continue
        for place in rule.places:
            fitted = sheet.car.fitted(sheet.setup, kind.name, place)
            if fitted is not None and fitted.alike(kind.none_fitted):
                raise Impossible(
                    f"No {kind.label.lower()} is fitted at the {place}.",
                    number=kind.name,
                    place=place,
                )


SURFACES = {"poor": "a poor surface", "good": "a good surface", "": ""}


def refuse_unsuited(sheet: Sheet, rule: Rule, asked: Question) -> None:
    """Raise Impossible on another surface than the rule is for, where what it acts through is not known, where
    this car's own treads speak against it."""
    if rule.only_on and asked.surface not in rule.only_on:
        where = " or ".join(SURFACES[one] for one in rule.only_on if one)
        raise Impossible(f"It is for {where}.", number=rule.number)
    if rule.needs and rule.needs not in sheet.worked.values:
        label = number_named(rule.needs).label.lower()
        raise Impossible(
            f"No {label} is fitted: what it does here cannot be told.", number=rule.needs
        )
    if rule.against and (said := past_band(sheet, rule.against, rule.places)):
        raise Impossible(f"{said} This would add to it.", number=rule.against)


def past_band(sheet: Sheet, name: str, places: Sequence[str]) -> str:
    """What was read past the band of a figure at one of these places; empty where nothing was, or none is."""
    number, row = number_named(name), sheet.by_place(name)
    if sheet.status(name) == "void":
        return ""  # what was read then says nothing of the car now
    for place in places:
        corners = [one for one in number.shape.places if place in (one, axle_of(one))]
        for corner in corners:
            value = row[number.index(corner)] if row else None
            band = knowledge().band(name, sheet.car.use, corner)
            if value is not None and band is not None and value > band.high:
                shown = show(value, number.quantity, sheet.car.profile)
                return f"{number.where(corner)} is {shown}, past its band."
    return ""


def refuse_without_effect(rule: Rule, trial: WhatIf, effects: Sequence[Effect]) -> None:
    """Raise Impossible where the car's own model has the figures that a rule is for and none of them moves, or
    where the car data lacks what would tell how they move."""
    figures = [name for name in rule.figures if name in trial.worked.values]
    if figures and not effects:
        if trial.unknown:
            raise Impossible(trial.unknown[0].sentence, number=rule.number)
        labels = " and ".join(number_named(name).label.lower() for name in figures)
        raise Impossible(f"On this car it moves nothing of {labels}.", number=rule.number)


def refuse_the_other_way(rule: Rule, effects: Sequence[Effect]) -> None:
    """Raise Impossible where the figures would move against what the rule is for on this very car."""
    for name, way in rule.target_directions.items():
        moves = [way * (effect.after - effect.before) for effect in effects if effect.name == name]
        if moves and all(move < 0 for move in moves):
            raise Impossible(
                f"On this car it moves {number_named(name).label.lower()} the other way: look at the "
                "parts and the holes first.",
                number=name,
            )
