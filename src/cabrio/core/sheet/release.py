"""Whether the car is ready to run: what is void, what was never read, what points to damage."""

from __future__ import annotations

from dataclasses import dataclass

from ..knowledge import knowledge
from ..record.readings import Standing
from .build import Sheet


@dataclass(frozen=True)
class Bar:
    """One thing that keeps the car from being released; `damage` where it may be broken."""

    kind: str
    words: str
    damage: bool = False


def bars_release(sheet: Sheet) -> tuple[Bar, ...]:
    """What stands against letting the car roll, possible damage first; nothing where it is ready.

    A reading taken only when it is needed is not missed; one in doubt does not bar.
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
    gravest = next((one for one in stands.reasons if one.verdict == "void"), None)
    since = f" since revision {gravest.revision}" if gravest and gravest.revision else ""
    why = f": {gravest.why}" if gravest else "."
    return Bar(stands.kind, f"{row.label}: void{since}{why}")
