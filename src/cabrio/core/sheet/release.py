"""Whether the car is ready to run: what is void, what was never read, what points to damage."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from ..catalog.part import valued
from ..catalog.quantities import PLACES, Shape
from ..catalog.units import show
from ..knowledge import knowledge
from ..record.readings import Standing
from .build import Sheet


@dataclass(frozen=True)
class Bar:
    """One thing that keeps the car from being released; `damage` where it may be broken."""

    kind: str
    words: str
    damage: bool = False
    limit: bool = False
    """Whether it is what the reading itself says: a limit of the car that it is past."""


def bars_release(sheet: Sheet) -> tuple[Bar, ...]:
    """What stands against letting the car roll, possible damage first; nothing where it is ready.

    A reading taken only when it is needed is not missed; one in doubt does not bar.
    """
    found = [bar for stands in sheet.standings.values() if (bar := _bar(stands)) is not None]
    found += [Bar(kind, words, limit=True) for kind, words in past_limits(sheet)]
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
    gravest = next((one for one in stands.reasons if one.verdict == "void"), None)
    since = f" since revision {gravest.revision}" if gravest and gravest.revision else ""
    why = f": {gravest.why}" if gravest else "."
    return Bar(stands.kind, f"{row.label}: void{since}{why}")


def past_limits(sheet: Sheet) -> Iterator[tuple[str, str]]:
    """Limits that the car is past by what was read or given of it: the reading that tells it, and words.

    What rests on no reading, or on one that is void, says nothing.
    """
    v, profile = sheet.worked.values, sheet.car.profile
    if _counts(sheet, "housing") and {"housing_bend", "housing_limit"} <= v.keys():
        bend, most = float(v["housing_bend"]), float(v["housing_limit"])
        if bend > most:
            told = [show(one, "fine_dimension", profile) for one in (bend, most)]
            yield "housing", f"Rear housing: bent by {told[0]}, past its limit of {told[1]}."
    if _counts(sheet, "pinion"):
        for name, where in (
            ("pinion_angle", "at ride height"),
            ("pinion_angle_hanging", "hanging"),
        ):
            if name in sheet.origins and name in v and float(v[name]) > 0:
                told = [show(float(v[name]), "angle", profile)]
                yield (
                    "pinion",
                    f"Pinion: nose up by {told[0]} {where}. Set it lower before it runs.",
                )
    if _counts(sheet, "full_lock") and "lock_clearance" in v:
        for place, room in zip(PLACES[Shape.SIDE], v["lock_clearance"], strict=True):
            if room <= 0:
                yield "full_lock", f"Full lock: no room round the {place} front wheel: it touches."
    given = sheet.car.given.get("rear_brake_share")
    if given is not None and not given.guessed and float(v.get("brake_share_off", -1.0)) > 0:
        by = show(float(v["brake_share_off"]), "share", profile)
        guess = " It rests on estimates." if sheet.estimated("even_brake_share") else ""
        yield "brakes", f"Brakes: the rear locks first, by {by} of the braking.{guess}"
    yield from _unlike_springs(sheet)


def _unlike_springs(sheet: Sheet) -> Iterator[tuple[str, str]]:
    """Springs of unlike rate left and right: on purpose it is signed for, by mistake it is found."""
    codes = sheet.setup.get("spring") or [None] * 4
    for axle, at in (("front", 0), ("rear", 2)):
        pair = [sheet.car.part("spring", code) for code in codes[at : at + 2] if code is not None]
        rates = [valued(one, ("rate",)) for one in pair if one is not None]
        if len(rates) == 2 and abs(rates[0] - rates[1]) > UNLIKE * max(rates):
            told = [show(one, "rate", sheet.car.profile) for one in rates]
            yield "spring", f"Springs: {axle} left {told[0]} and right {told[1]} are unlike."


UNLIKE = 0.02
"""How much two springs of an axle may differ, of their rate: makers say two per cent."""


def _counts(sheet: Sheet, kind: str) -> bool:
    """Whether a reading was taken that is not void."""
    stands = sheet.standings.get(kind)
    return stands is not None and stands.reading is not None and stands.status != "void"
