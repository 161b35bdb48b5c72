"""The one dictionary, for the screens: numbers, units, stations, readings, bands, schools."""

from __future__ import annotations

from functools import cache

from apiflask import APIBlueprint

from cabrio.core.catalog.quantities import PLACES
from cabrio.core.catalog.units import MEASURES, PROFILES, factor_and_offset
from cabrio.core.constants import COIL_BIND_MARGIN
from cabrio.core.graph.registry import numbers
from cabrio.core.knowledge import knowledge

from .. import schemas as s

routes = APIBlueprint("vocabulary", __name__, tag="Vocabulary")


@cache
def vocabulary() -> s.Vocabulary:
    book = knowledge()
    return s.Vocabulary(
        numbers=[s.NumberEntry.model_validate(n, from_attributes=True) for n in numbers().values()],
        places={shape.value: list(places) for shape, places in PLACES.items()},
        measures={name: {profile: _shown(name, profile) for profile in PROFILES} for name in MEASURES},
        profiles=PROFILES,
        stations=[s.StationEntry(**vars(one)) for one in book.stations],
        readings=[s.ReadingKindEntry(**vars(one)) for one in book.readings.values()],
        conditions=[s.ConditionEntry(**vars(one)) for one in book.conditions.values()],
        uses=[s.UseEntry(**vars(one)) for one in book.uses.values()],
        schools=[s.SchoolEntry(**vars(one)) for one in book.schools],
        words=[s.WordsEntry(**vars(one)) for one in book.words.values()],
        coil_bind_margin=COIL_BIND_MARGIN,
    )  # fmt: skip


def _shown(quantity: str, profile: str) -> s.ShownAs:
    shown = MEASURES[quantity].for_profile(profile)
    factor, offset = factor_and_offset(quantity, shown.unit)
    return s.ShownAs(symbol=shown.symbol, factor=factor, offset=offset, precision=shown.precision)


@routes.get("/vocabulary")
@routes.output(s.Vocabulary)
@routes.doc(summary="Every number, unit, station, reading, band and school")
def get_vocabulary() -> s.Vocabulary:
    return vocabulary()
