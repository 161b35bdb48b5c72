"""What became known of a car only after a setup was booked: past revisions are worked with what is known now."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import datetime
from typing import Any

from cabrio.core.car import Car, Given, Setup
from cabrio.core.catalog.part_kinds import part_kinds
from cabrio.core.catalog.quantities import Number
from cabrio.core.catalog.units import show
from cabrio.core.graph.registry import number_named


def corrected_since(car: Car, revision: int, setup: Setup, booked_at: str) -> Iterator[str]:
    """A sentence for each fact of the car, and each part that the setup wears, that was corrected after it was
    booked (an ISO moment). What was given for the first time is no correction: nothing was worked from it."""
    booked = datetime.fromisoformat(booked_at)
    for name, given in car.at(revision).given.items():
        before = _known_at(given, booked)
        if before is None:
            continue
        number = number_named(name)
        for place, then, now in zip(number.shape.places, before, given.values, strict=True):
            if then is not None and then != now:
                yield (
                    f"{number.where(place)}: {_shown(car, number, then)} then, {_shown(car, number, now)} "
                    f"since {_day(given.at)} ({given.by})."
                )
    for was in car.corrected:
        kind = part_kinds()[was.kind]
        if was.code in setup.get(kind.name, ()) and _after(was.at, booked):
            yield f"{kind.label} {was.code}: its data were corrected on {_day(was.at)} ({was.by})."


def _known_at(given: Given, moment: datetime) -> tuple[float | None, ...] | None:
    """What a fact was known as at a moment, where it was corrected since; None where it stands or was not known."""
    if not _after(given.at, moment):
        return None
    known = [was for was in given.was if not _after(was.at, moment)]
    return known[-1].values if known else None


def _after(at: str, moment: datetime) -> bool:
    return bool(at) and datetime.fromisoformat(at) > moment


def _day(at: str) -> str:
    return datetime.fromisoformat(at).date().isoformat()


def _shown(car: Car, number: Number, value: Any) -> str:
    return "nothing" if value is None else show(value, number.quantity, car.profile)
