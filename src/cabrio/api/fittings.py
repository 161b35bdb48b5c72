"""What a car can be fitted with and set to, as the API gives it: its inventory, and what each setting can be."""

from __future__ import annotations

from typing import Any

from cabrio.core.car.choices import choices
from cabrio.core.car.model import Car
from cabrio.core.catalog.part import Part, PartKind, entered_fields, valued
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.graph.registry import number_named
from cabrio.core.knowledge import knowledge
from cabrio.operations.bench import Bench
from cabrio.operations.versions import version_of

from . import schemas as s


def parts(found: Bench) -> dict[str, list[s.PartView]]:
    """The inventory by kind, each kind from soft to stiff where it has such an order."""
    inventory = {}
    for kind in part_kinds().values():
        fitted = found.current.setup.get(kind.name) or []
        inventory[kind.name] = [
            _part(found, kind, one, fitted) for one in found.car.stock(kind.name, "any")
        ]
    return inventory


def _part(found: Bench, kind: PartKind, one: Part, fitted: list[Any]) -> s.PartView:
    entered = entered_fields(one)
    return s.PartView(
        code=one.code,
        version=version_of(one),
        fits=one.fits,
        note=one.note,
        values={field.id: entered[field.id] for field in kind.fields},
        ranks=valued(one, (kind.rank,)) if kind.rank else None,
        fitted_at=[
            place
            for place, code in zip(kind.shape.places, fitted, strict=False)
            if code == one.code
        ],
        in_revision=found.last_worn(kind.name, one.code),
        corrected=[
            s.PreviousPartView(values=was.values, by=was.by, at=was.at)
            for was in found.car.corrected
            if (was.kind, was.code) == (kind.name, one.code)
        ],
    )


def choices_of(found: Bench) -> dict[str, dict[str, s.ChoicesView]]:
    """What every setting can be, by number and place."""
    return {
        name: {
            place: s.ChoicesView(
                unit=one.unit,
                blocked=one.blocked,
                low=one.low,
                high=one.high,
                step=one.step,
                start=one.start,
                options=[s.OptionView(**vars(each)) for each in one.options],
            )
            for place, one in places.items()
        }
        for name, places in choices(found.car, found.current.setup).items()
    }


def not_here(car: Car) -> dict[str, dict[str, str]]:
    """Settings, and readings of them, that mean nothing at a place of this car, and why."""
    kinds = knowledge().readings_for(car.discipline, car.rear_layout)
    asked = [*car.settable(), *(number_named(name) for kind in kinds for name in kind.numbers)]
    excluded = {
        number.name: {p: why for p in number.shape.places if (why := car.has_not(number.name, p))}
        for number in asked
    }
    return {name: places for name, places in excluded.items() if places}
