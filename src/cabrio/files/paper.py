"""Sheets on paper, each on one page of A4 or Letter, legible in black and white: set-up, changes, order of work."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from io import BytesIO
from typing import Any, Literal
from xml.sax.saxutils import escape

from reportlab.lib import colors
from reportlab.lib.pagesizes import A4, LETTER
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, KeepInFrame, Paragraph, Spacer, Table, TableStyle

from cabrio.core.knowledge.work import Procedure, Step
from cabrio.core.record.recheck import Recheck
from cabrio.core.sheet.printed import Change, Part

Size = Literal["a4", "letter"]
PAPERS: dict[Size, tuple[float, float]] = {"a4": A4, "letter": LETTER}
MARGIN = 14 * mm
TEXT, BOLD = "Helvetica", "Helvetica-Bold"
# what the page's own fonts lack, written as a shop would by hand
SAID = str.maketrans({"−": "–", "→": "to", "ζ": "Damping ratio,", "≤": "<=", "≥": ">=", "₀": "0"})
BASE = ParagraphStyle("text", fontName=TEXT, fontSize=8.5, leading=10.5)
SMALL = ParagraphStyle("small", BASE, fontSize=7.5, leading=9)
HEAD = ParagraphStyle("head", BASE, fontName=BOLD, fontSize=10, leading=12, spaceBefore=5)
LINE = colors.HexColor("#777777")
CAUTION = (
    "Every figure is a model's figure: the engineer decides. Torques are the part maker's; the rule book "
    "of the series goes before this sheet."
)


@dataclass(frozen=True)
class Title:
    """What stands at the head of a sheet: the car, what sheet it is, and a line about it."""

    car: str
    what: str
    about: str


Page = tuple[Title, list[Flowable]]


def printable(text: str) -> str:
    """A text in letters that the page's fonts have."""
    return text.translate(SAID).encode("cp1252", "replace").decode("cp1252")


def text(words: str, style: ParagraphStyle = BASE) -> Paragraph:
    """A paragraph of plain words."""
    return Paragraph(escape(printable(words)), style)


def book(
    pages: Sequence[tuple[Title, list[Flowable]]], size: Size, *, packed: bool = True
) -> bytes:
    """One page for every title, its content made smaller until it fits. `packed` false for tests."""
    out = BytesIO()
    wide, high = PAPERS[size]
    # the same sheet is the same file, whenever it is asked for
    canvas = Canvas(out, pagesize=(wide, high), pageCompression=1, invariant=1)
    canvas.setTitle(
        printable(" · ".join(dict.fromkeys(f"{one.car}, {one.what}" for one, _ in pages)))
    )
    for title, content in pages:
        _head(canvas, title, wide, high)
        room = high - 2 * MARGIN - 16 * mm
        frame = KeepInFrame(wide - 2 * MARGIN, room, content, mode="shrink")
        _, used = frame.wrapOn(canvas, wide - 2 * MARGIN, room)
        frame.drawOn(canvas, MARGIN, high - MARGIN - 13 * mm - used)
        canvas.setFont(TEXT, 6.5)
        canvas.drawString(MARGIN, MARGIN - 5 * mm, printable(CAUTION))
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def _head(canvas: Canvas, title: Title, wide: float, high: float) -> None:
    top = high - MARGIN
    canvas.setFont(BOLD, 15)
    canvas.drawString(MARGIN, top - 5 * mm, printable(title.car))
    canvas.setFont(BOLD, 11)
    canvas.drawRightString(wide - MARGIN, top - 5 * mm, printable(title.what))
    canvas.setFont(TEXT, 8.5)
    canvas.drawString(MARGIN, top - 9.5 * mm, printable(title.about))
    canvas.setLineWidth(1)
    canvas.line(MARGIN, top - 11 * mm, wide - MARGIN, top - 11 * mm)


def setup(parts: Sequence[Part], open_readings: Sequence[str]) -> list[Flowable]:
    """A set-up sheet: each number across the corners as they stand on the car."""
    rows: list[list[Any]] = [["", "LF", "RF", "LR", "RR", ""]]
    style: list[tuple[Any, ...]] = [("FONT", (0, 0), (-1, 0), BOLD, 8.5)]
    for part in parts:
        at = len(rows)
        rows.append([printable(part.title), "", "", "", "", ""])
        style += [
            ("FONT", (0, at), (-1, at), BOLD, 8.5),
            ("LINEABOVE", (0, at), (-1, at), 0.8, LINE),
        ]
        for row in part.rows:
            at = len(rows)
            cells = [printable(value) for value in row.values]
            if row.places == ("LF", "RF", "LR", "RR"):
                rows.append([printable(row.label), *cells, row.mark])
            elif row.places == ("front", "rear"):
                rows.append([printable(row.label), cells[0], "", cells[1], "", row.mark])
                style += [("SPAN", (1, at), (2, at)), ("SPAN", (3, at), (4, at))]
            else:
                whole = " · ".join(
                    cell if place == "car" else f"{printable(place)} {cell}"
                    for place, cell in zip(row.places, cells, strict=True)
                )
                rows.append([printable(row.label), whole, "", "", "", row.mark])
                style.append(("SPAN", (1, at), (4, at)))
    found: list[Flowable] = [table(rows, (70, 24, 24, 24, 24, 14), style, centred=(1, 4))]
    found.append(text("est. from an estimate · ? doubtful · x no longer counts", SMALL))
    if open_readings:
        found.append(text(f"Not counting as the car stands: {', '.join(open_readings)}.", SMALL))
    found.append(Spacer(0, 4 * mm))
    found.append(_signed(("Engineer", "Crew", "Driver")))
    return found


def changes(
    made: Sequence[Change], again: Sequence[Recheck], why: str, expected: str, minutes: int
) -> list[Flowable]:
    """A change sheet: boxes for what is done and for what is read again after it."""
    found: list[Flowable] = []
    for label, words in (("Why", why), ("Expected", expected)):
        if words:
            found.append(text(f"{label}: {words}"))
    found.append(text("Change", HEAD))
    rows: list[list[Any]] = [["", "", "where", "from", "to"]]
    rows += [["", *map(printable, (one.what, one.where, one.before, one.after))] for one in made]
    style = [("FONT", (0, 0), (-1, 0), BOLD, 8.5), *_boxes(1, len(rows))]
    found.append(table(rows, (7, 75, 20, 38, 40), style))
    if again:
        found.append(text(f"Read again before the car runs: {minutes} min", HEAD))
        rows = [
            [
                "",
                printable(one.label),
                printable(one.verdict),
                f"{one.minutes} min",
                text(one.how, SMALL),
            ]
            for one in again
        ]
        found.append(table(rows, (7, 38, 20, 15, 100), _boxes(0, len(rows))))
    found.append(Spacer(0, 6 * mm))
    found.append(_signed(("Done by", "Checked by", "Time")))
    return found


def order(procedure: Procedure, steps: Sequence[Step], cautions: dict[str, str]) -> list[Flowable]:
    """An order-of-work sheet: a box a step, its cautions with it."""
    found: list[Flowable] = []
    if procedure.school:
        found.append(text(procedure.school, SMALL))
    rows: list[list[Any]] = []
    for number, step in enumerate(steps, start=1):
        words = f"<b>{number}  {escape(printable(step.label))}.</b> {escape(printable(step.do))}"
        for name in step.cautions:
            words += f'<br/><font size="7"><i>! {escape(printable(cautions[name]))}</i></font>'
        rows.append(["", Paragraph(words, BASE), ""])
    style = [*_boxes(0, len(rows)), ("LINEBELOW", (2, 0), (2, -1), 0.4, LINE)]
    found.append(table(rows, (7, 143, 30), style, spaced=3))
    return found


def table(
    rows: list[list[Any]],
    widths: Sequence[float],
    style: Sequence[tuple[Any, ...]] = (),
    *,
    centred: tuple[int, int] | None = None,
    spaced: float = 1.2,
) -> Table:
    """A table of a sheet, its columns' widths in mm."""
    align = [("ALIGN", (centred[0], 0), (centred[1], -1), "CENTER")] if centred else []
    return Table(
        rows,
        [width * mm for width in widths],
        style=TableStyle(
            [
                ("FONT", (0, 0), (-1, -1), TEXT, 8.5),
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("TOPPADDING", (0, 0), (-1, -1), spaced),
                ("BOTTOMPADDING", (0, 0), (-1, -1), spaced),
                ("LEFTPADDING", (0, 0), (-1, -1), 2),
                ("LINEBELOW", (0, 0), (-1, -1), 0.2, LINE),
                *align,
                *style,
            ]
        ),
        hAlign="LEFT",
    )


def _boxes(first: int, end: int) -> list[tuple[Any, ...]]:
    """An empty box to tick at the head of each row."""
    return [("BOX", (0, at), (0, at), 0.8, colors.black) for at in range(first, end)]


def _signed(names: Sequence[str]) -> Table:
    return Table(
        [[printable(name) for name in names]],
        [58 * mm] * len(names),
        style=TableStyle(
            [
                ("FONT", (0, 0), (-1, -1), TEXT, 7.5),
                ("LINEABOVE", (0, 0), (-1, 0), 0.6, colors.black),
            ]
        ),
        hAlign="LEFT",
    )
