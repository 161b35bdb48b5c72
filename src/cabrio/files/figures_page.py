"""The page of all figures: the whole physics on one page, written from the registry itself."""

from __future__ import annotations

import inspect

from cabrio.core.catalog.entered import ENTERED
from cabrio.core.catalog.quantities import Number, Shape
from cabrio.core.catalog.units import MEASURES
from cabrio.core.graph.registry import Figure, figures

SHAPES = {
    Shape.CAR: "one a car",
    Shape.AXLE: "front, rear",
    Shape.CORNER: "LF, RF, LR, RR",
    Shape.SIDE: "left, right",
    Shape.BOLT: "four bolts",
    Shape.CLOCK: "four clock positions",
    Shape.BAR_END: "both ends",
    Shape.LINK: "four links",
    Shape.BALLAST: "six places",
    Shape.SPARE: "six places",
}
HEAD = """\
# Every figure

Written from the dictionary of numbers by `./cabrio schemas`: do not edit. Values inside are SI and not
rounded. A corner is ordered LF, RF, LR, RR, an axle front, rear. Axes: x forward, y to the left, z up.
A figure that has no value says why by name; none leaves as NaN or infinity.
"""


def page() -> str:
    """The page as Markdown."""
    parts = [HEAD]
    subject = ""
    for entry in figures_by_subject():
        module = entry.function.__module__
        if module != subject:
            subject = module
            title = (
                (getattr(inspect.getmodule(entry.function), "__doc__", None) or "")
                .strip()
                .splitlines()[0]
                .rstrip(".")
            )
            parts.append(f"\n## {title}\n")
        parts.append(_figure(entry))
    parts.append("\n## What is entered\n")
    parts.append("\nGiven, set, fitted or read; every figure above is worked from these.\n\n")
    parts.append(
        "| name | label | kind | for | SI | default | sign |\n|---|---|---|---|---|---|---|\n"
    )
    parts += [_entered(number) for number in ENTERED]
    return "".join(parts)


def figures_by_subject() -> list[Figure]:
    """Figures in the order of their subjects, each subject's own together."""
    order: dict[str, list[Figure]] = {}
    for entry in figures().values():
        order.setdefault(entry.function.__module__, []).append(entry)
    return [entry for group in order.values() for entry in group]


def _figure(entry: Figure) -> str:
    number = entry.number
    unit = MEASURES[number.quantity].si.replace("dimensionless", "–")
    meaning = " ".join(number.help.split())
    said = [unit, SHAPES[number.shape], *([number.sign] if number.sign else [])]
    needs = ", ".join(f"`{need}`" for need in entry.needs)
    return (
        f"\n### {number.label} · `{number.name}`\n\n"
        f"`{number.formula}` — {'; '.join(said)}\n\n"
        f"{meaning} **Wrong** {number.wrong}\n\n"
        f"From {needs}. {number.source}.\n"
    )


def _entered(number: Number) -> str:
    unit = MEASURES[number.quantity].si
    default = "" if number.default is None else f"{number.default:g}"
    shown = "" if unit == "dimensionless" else unit
    return (
        f"| `{number.name}` | {number.label} | {number.kind.value} | {SHAPES[number.shape]} | "
        f"{shown} | {default} | {number.sign} |\n"
    )
