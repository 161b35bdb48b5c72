"""The charts of a car, booked and as the slip would have them."""

from __future__ import annotations

from apiflask import APIBlueprint

from cabrio.core.charts import Drawn, draw
from cabrio.core.errors import CoreError, UnknownName
from cabrio.core.sheet.tread import tread_says
from cabrio.operations import slips

from .. import present
from .. import schemas as s
from ..opened import opened

routes = APIBlueprint("charts", __name__, url_prefix="/cars/<int:car_id>", tag="Bench")


@routes.get("/charts/<name>")
@routes.output(s.ChartView)
@routes.doc(summary="A chart of the car, booked and drafted")
def chart(car_id: int, name: str) -> s.ChartView:
    bench, draft, sheet = opened(car_id)
    answer = s.ChartView(missing="", booked=None, drafted=None)
    try:
        answer.booked = sheet.once(("chart", name), lambda: _drawn(draw(sheet, name)))
    except UnknownName:
        raise
    except CoreError as refusal:
        answer.missing = refusal.sentence
    if draft.lines:
        try:
            ahead = slips.preview(bench, draft.base, draft.lines, draft.jobs)
            answer.drafted = _drawn(draw(ahead.as_sheet, name))
        except CoreError as refusal:
            answer.missing = answer.missing or f"After the slip: {refusal.sentence}"
    return answer


@routes.get("/tread")
@routes.output(s.TreadView)
@routes.doc(summary="What the temperatures across each tread say")
def tread(car_id: int) -> s.TreadView:
    _, _, sheet = opened(car_id)
    return s.TreadView(says={place: list(told) for place, told in tread_says(sheet).items()})


def _drawn(found: Drawn) -> s.DrawnView:
    return s.DrawnView(
        x=list(found.x),
        lines=[
            s.LineOfChart(
                label=line.label,
                values=[present.known(value) for value in line.values],
                faint=line.faint,
            )
            for line in found.lines
        ],
        marks=[s.MarkView(label=mark.label, at=mark.at) for mark in found.marks],
        note=found.note,
    )
