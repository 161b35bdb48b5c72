"""Whether the car is ready to run: what is void, what was never read, what points to damage."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..catalog.part import valued
from ..catalog.quantities import PLACES, Shape
from ..catalog.units import show
from ..constants import DEGREE
from ..graph.registry import number_named
from ..knowledge import knowledge
from ..record.standing import Standing
from .build import Sheet


@dataclass(frozen=True)
class Bar:
    """One thing that keeps the car from being released; `damage` where it may be broken."""

    kind: str
    words: str
    damage: bool = False


@dataclass(frozen=True)
class Limit:
    """A limit that the car is past, or a reading that contradicts itself: said where it is read and at the
    final check. `bars` keeps the car in until it is signed for; `since` tells what it rests on, so that
    what is read or fitted anew is signed for anew."""

    kind: str
    station: str
    words: str
    since: str
    bars: bool = True


def bars_release(sheet: Sheet) -> tuple[Bar, ...]:
    """What the readings say against letting the car roll, possible damage first; nothing where it is ready.

    A reading taken only when it is needed is not missed; one in doubt does not bar. Limits are told by
    themselves: see `past_limits`.
    """
    found = [bar for stands in sheet.standings.values() if (bar := _bar(stands)) is not None]
    return tuple(sorted(found, key=lambda bar: not bar.damage))


def _bar(stands: Standing) -> Bar | None:
    row = knowledge().readings[stands.kind]
    if stands.status == "missing":
        said = f"{row.label}: never {'read' if row.numbers else 'checked'} on this car."
        return None if row.when_needed else Bar(stands.kind, said)
    if stands.status != "void":
        return None
    if stands.damage_found is not None:
        return Bar(
            stands.kind,
            f"{row.label}: found otherwise than booked. Look for damage before it runs: only an "
            "engineer's inspection ends this.",
            damage=True,
        )
    gravest = next((reason for reason in stands.reasons if reason.verdict == "void"), None)
    since = f" since revision {gravest.revision}" if gravest and gravest.revision else ""
    why = f": {gravest.why}" if gravest else "."
    return Bar(stands.kind, f"{row.label}: void{since}{why}")


def past_limits(sheet: Sheet) -> list[Limit]:
    """Limits that the car is past by what was read or given of it, those that bar it first.

    What rests on no reading, or on one that is void, says nothing.
    """
    found = [
        *_of_reading(sheet, "housing", _bent(sheet)),
        *_of_reading(sheet, "pinion", _nose_up(sheet)),
        *_of_reading(sheet, "full_lock", _touching(sheet)),
        *_rear_locks_first(sheet),
        *_unlike_springs(sheet),
        *_of_reading(sheet, "caster_sweep", _swept_otherwise(sheet), bars=False),
    ]
    for kind, stands in sheet.standings.items():
        found += _of_reading(sheet, kind, _found_otherwise(sheet, stands), bars=False)
        found += _of_reading(sheet, kind, _only_by_eye(stands), bars=False)
    return sorted(found, key=lambda one: not one.bars)


def _of_reading(
    sheet: Sheet, kind: str, words: Iterator[str], *, bars: bool = True
) -> Iterator[Limit]:
    """What a reading says that counts; nothing of one that is void."""
    stands = sheet.standings.get(kind)
    if stands is None or stands.reading is None or stands.status == "void":
        return
    station = knowledge().readings[kind].station
    for word in words:
        yield Limit(kind, station, word, f"read {stands.reading.at}", bars)


def _bent(sheet: Sheet) -> Iterator[str]:
    v = sheet.worked.values
    if {"housing_bend", "housing_limit"} <= v.keys():
        bend, most = float(v["housing_bend"]), float(v["housing_limit"])
        if bend > most:
            shown = [show(one, "fine_dimension", sheet.car.profile) for one in (bend, most)]
            yield f"Rear housing: bent by {shown[0]}, past its limit of {shown[1]}."


def _nose_up(sheet: Sheet) -> Iterator[str]:
    v = sheet.worked.values
    for name, where in (("pinion_angle", "at ride height"), ("pinion_angle_hanging", "hanging")):
        if name in sheet.origins and name in v and float(v[name]) > 0:
            shown = show(float(v[name]), "angle", sheet.car.profile)
            yield f"Pinion: nose up by {shown} {where}. Set it lower before it runs."


def _touching(sheet: Sheet) -> Iterator[str]:
    for place, room in zip(
        PLACES[Shape.SIDE], sheet.by_place("lock_clearance") or [None, None], strict=True
    ):
        if room is not None and room <= 0:
            yield f"Full lock: no room round the {place} front wheel: it touches."


def _rear_locks_first(sheet: Sheet) -> Iterator[Limit]:
    given, v = sheet.car.given.get("rear_brake_share"), sheet.worked.values
    if given is not None and not given.guessed and float(v.get("brake_share_off", -1.0)) > 0:
        by = show(float(v["brake_share_off"]), "share_off", sheet.car.profile)
        guess = " It rests on estimates." if sheet.estimated("even_brake_share") else ""
        words = f"Brakes: the rear locks first, by {by} of the braking.{guess}"
        yield Limit("brakes", "bars", words, f"given {given.at}")


def _unlike_springs(sheet: Sheet) -> Iterator[Limit]:
    """Springs of unlike rate left and right: on purpose it is signed for, by mistake it is found."""
    codes = sheet.setup.get("spring") or [None] * 4
    for axle, at in (("front", 0), ("rear", 2)):
        pair = [sheet.car.part("spring", code) for code in codes[at : at + 2] if code is not None]
        rates = [valued(one, ("rate",)) for one in pair if one is not None]
        if len(rates) == 2 and abs(rates[0] - rates[1]) > UNLIKE * max(rates):
            shown = [show(rate, "rate", sheet.car.profile) for rate in rates]
            words = f"Springs: {axle} left {shown[0]} and right {shown[1]} are unlike."
            fitted = sheet.origins.get("spring_rate")
            yield Limit("spring", "springs", words, fitted.words if fitted else "")


UNLIKE = 0.02
"""How much two springs of an axle may differ, of their rate: makers say two per cent."""


def _swept_otherwise(sheet: Sheet) -> Iterator[str]:
    """A sweep that says the wheel leans the other way than it is set: out and in were swapped."""
    swept, caster = sheet.by_place("swept_caster"), sheet.by_place("caster")
    if swept is None or caster is None or caster[0] is None:
        return
    for side, found in zip(PLACES[Shape.SIDE], swept, strict=True):
        if found is not None and found * caster[0] < 0 and abs(found) > SWEPT_TO:
            angles = [show(one, "angle", sheet.car.profile) for one in (found, caster[0])]
            yield (
                f"Caster by sweep: {side} {angles[0]} where {angles[1]} is set. Out and in were swapped, "
                "or the sign of the camber: sweep it again."
            )


SWEPT_TO = 0.25 * DEGREE
"""What a sweep tells caster to [rad]: less is no sign of either."""


def _found_otherwise(sheet: Sheet, stands: Standing) -> Iterator[str]:
    """A check that found another value than the one set: nothing moves until somebody sets it right."""
    if not stands.differs or stands.damage_found is not None:
        return
    sentences = []
    for differ in stands.differs:
        quantity = number_named(differ.name).quantity
        found, booked = (
            show(each, quantity, sheet.car.profile) for each in (differ.found, differ.booked)
        )
        place = "" if differ.place == "car" else f"{differ.place} "
        sentences.append(f"{place}{found} where {booked} is set")
    yield f"{knowledge().readings[stands.kind].label}: {', '.join(sentences)}."


def _only_by_eye(stands: Standing) -> Iterator[str]:
    """A reading taken by eye with none of what has to hold for it: nothing stands behind it."""
    row, one = knowledge().readings[stands.kind], stands.reading
    if one and one.taken.by_eye and row.conditions and len(one.unmet()) == len(row.conditions):
        yield f"{row.label}: taken by eye, and none of its conditions held. Read it again."
