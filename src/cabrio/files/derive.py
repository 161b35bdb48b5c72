"""Every worked figure of a car file as plain JSON: the core as a command."""

from __future__ import annotations

from typing import Any

from cabrio.core.catalog.units import MEASURES
from cabrio.core.graph.registry import figures

from .car_file import sheet_of
from .car_file_format import CarFile


def derive(file: CarFile) -> dict[str, Any]:
    """Each figure with its SI unit and values by place, or the reason it could not be worked."""
    sheet = sheet_of(file)
    worked: dict[str, Any] = {}
    for name, entry in figures().items():
        number = entry.number
        row: dict[str, Any] = {"label": number.label, "unit": MEASURES[number.quantity].si}
        values = sheet.by_place(name)
        if values is not None:
            by_place = zip(number.shape.places, values, strict=True)
            row["values"] = {place: one for place, one in by_place if one is not None}
            if sheet.status(name) != "fresh":
                row["reading"] = sheet.status(name)
            if sheet.estimated(name):
                row["estimated_from"] = sheet.estimated(name)
        elif name in sheet.worked.refused:
            row["refused"] = sheet.worked.refused[name].sentence
        else:
            row["missing"] = [need.sentence for need in sheet.worked.missing.get(name, ())]
        worked[name] = row
    return {"car": file.car.name, "revision": file.on_revision, "figures": worked}
