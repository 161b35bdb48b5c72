"""The working of one number: its formula, its inputs with their kinds, its source and convention."""

from __future__ import annotations

from dataclasses import dataclass

from ..catalog.quantities import Number
from ..errors import CoreError
from ..graph.registry import Need, figures, number_named, roots_of
from ..record.standing import Status
from .build import Origin, Sheet


@dataclass(frozen=True)
class Input:
    """One input of a working. `origin` is None where it is itself worked, or missing."""

    number: Number
    values: list[float | None] | None
    origin: Origin | None
    assumed: bool
    status: Status


@dataclass(frozen=True)
class Working:
    """How a number came about, or why it could not."""

    number: Number
    values: list[float | None] | None
    origin: Origin | None
    inputs: tuple[Input, ...]
    missing: tuple[Need, ...]
    refused: CoreError | None
    estimated: tuple[str, ...]
    status: Status
    convention: str


def working(sheet: Sheet, name: str) -> Working:
    """The working of any number of the dictionary on this sheet. Raises UnknownName."""
    number = number_named(name)
    entry = figures().get(name)
    needs = entry.needs if entry else ()
    return Working(
        number=number,
        values=sheet.by_place(name),
        origin=sheet.origins.get(name),
        inputs=tuple(_input(sheet, need) for need in needs),
        missing=_lacking(sheet, number),
        refused=refusal(sheet, name),
        estimated=tuple(sheet.estimated(name)),
        status=sheet.status(name),
        convention=_convention(sheet, name),
    )


def _lacking(sheet: Sheet, number: Number) -> tuple[Need, ...]:
    """What a figure needs and does not have; an entered number without a value lacks itself."""
    if number.name in figures() or number.name in sheet.worked.values:
        return sheet.worked.missing.get(number.name, ())
    return (Need(number.name, number.shape.places),)


def _input(sheet: Sheet, name: str) -> Input:
    number = number_named(name)
    values = sheet.by_place(name)
    origin = sheet.origins.get(name)
    assumed = values is not None and origin is None and name not in figures()
    return Input(number, values, origin, assumed, sheet.status(name))


def refusal(sheet: Sheet, name: str) -> CoreError | None:
    """The refusal of the figure itself, or of the first one upstream that stopped it."""
    if name in sheet.worked.refused:
        return sheet.worked.refused[name]
    entry = figures().get(name)
    if entry is None or name in sheet.worked.values:
        return None
    for need in entry.needs:
        found = refusal(sheet, need)
        if found is not None:
            return found
    return None


def _convention(sheet: Sheet, name: str) -> str:
    said = []
    if "_on_tyre" in name or name == "ride_rate":
        said.append("tyre in series with the suspension")
    elif "frequency" in name or "target" in name:
        said.append("tyre left out")
    if "motion_ratio" in roots_of(name):
        said.append("motion ratio as spring travel over wheel travel")
    return "; ".join(said)
