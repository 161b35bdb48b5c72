"""Which hole of the link brackets moves anti-squat the wanted way, of all that this car can take."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from ..car.lines import Line, value_now
from ..car.settings import check_free, check_setting
from ..catalog.quantities import Number
from ..errors import CoreError, Impossible
from ..knowledge import Rule, knowledge
from ..sheet.build import Sheet
from ..sheet.limits import refuse_what_it_breaks
from ..sheet.what_if import try_lines
from .candidate import NotSet

HOLES = ("upper_link_hole", "lower_link_hole", "upper_axle_hole", "lower_axle_hole")


def hole_lines(sheet: Sheet, rule: Rule, number: Number) -> tuple[tuple[Line, ...], list[str]]:
    """The bracket hole, of all four rows, that moves anti-squat the wanted way and that the car can take: of
    those that are felt the least, else the most there is. Says how many others were refused, and why."""
    check_setting(sheet.car, rule.number, "car", None)
    now = sheet.worked.values.get("anti_squat")
    if now is None or not sheet.car.parts.of("bracket"):
        raise Impossible(
            "Anti-squat is not known on this car: measure the bolts of every hole.", number="bolt_x"
        )
    rows = [hole for hole in HOLES if value_now(sheet.car, sheet.setup, hole, "car") is not None]
    if not rows:
        raise NotSet(
            f"{number.label} is not written down on this car.", number=rule.number, places=("car",)
        )
    wanted = 1 if rule.direction.endswith("up") else -1
    allowed: list[tuple[float, Line]] = []
    refused: list[str] = []
    for line in _other_holes(sheet, rows):
        try:
            trial = try_lines(sheet, [line])
            after = trial.value("anti_squat")
            gain = 0.0 if after is None else wanted * float(after - now)
            if gain <= 1e-6:
                continue
            refuse_what_it_breaks(sheet, trial)
        except CoreError as refusal:
            refused.append(refusal.sentence)
            continue
        allowed.append((gain, line))
    way = "up" if wanted > 0 else "down"
    if not allowed:
        why = f" {len(refused)} would, and are refused: {refused[0]}" if refused else ""
        raise Impossible(
            f"No hole of the brackets moves anti-squat {way} here that the car can take.{why}",
            number=rule.number,
        )
    felt = knowledge().work.felt["anti_squat"]
    gain, line = min(
        allowed, key=lambda one: (one[0] < felt, one[0] if one[0] >= felt else -one[0])
    )
    note = f"{len(refused)} other holes are refused: {refused[0]}" if refused else ""
    return (line,), [note] if note else []


def _other_holes(sheet: Sheet, rows: Sequence[str]) -> Iterator[Line]:
    """Every other hole of these rows that the car has, one at a time."""
    for name in rows:
        old = value_now(sheet.car, sheet.setup, name, "car")
        adjuster = sheet.car.adjusters.get(name)
        for hole in range(1, int(adjuster.highest) + 1 if adjuster else 0):
            if float(hole) == float(old or 0.0):
                continue
            try:
                check_free(sheet.car, sheet.setup, name, "car", float(hole))
                yield Line(name, "car", old, float(check_setting(sheet.car, name, "car", hole)))
            except CoreError:
                continue
