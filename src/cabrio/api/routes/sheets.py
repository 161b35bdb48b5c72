"""Sheets on paper as PDF: set-up, changes, order of work; several cars' set-ups in one file."""

from __future__ import annotations

from apiflask import APIBlueprint
from flask import Response

from cabrio.operations import sheets

from .. import schemas as s
from ..context import actor, exported, now, transaction

routes = APIBlueprint("sheets", __name__, tag="Sheets")


def _pdf(content: bytes, name: str) -> Response:
    return Response(
        content,
        mimetype="application/pdf",
        headers={"Content-Disposition": f'inline; filename="{name}.pdf"'},
    )


@routes.get("/sheets/setup")
@routes.input(s.PaperQuery, location="query", arg_name="asked")
@routes.doc(
    summary="The set-up sheets of all cars of the team in one PDF", responses={200: "A PDF"}
)
def every_setup(asked: s.PaperQuery) -> Response:
    with transaction() as db:
        who = actor()
        exported(db, "set-up sheets")
        return _pdf(
            sheets.setup(db, who, sheets.every_car(db, who), asked.paper, now()), "set-up-sheets"
        )


@routes.get("/cars/<int:car_id>/sheets/setup")
@routes.input(s.PaperQuery, location="query", arg_name="asked")
@routes.doc(summary="The set-up sheet of a car as a one-page PDF", responses={200: "A PDF"})
def setup(car_id: int, asked: s.PaperQuery) -> Response:
    with transaction() as db:
        exported(db, "set-up sheet", car_id)
        return _pdf(sheets.setup(db, actor(), [car_id], asked.paper, now()), "set-up-sheet")


@routes.get("/cars/<int:car_id>/sheets/changes")
@routes.input(s.ChangesQuery, location="query", arg_name="asked")
@routes.doc(summary="The change sheet of a slip as a one-page PDF", responses={200: "A PDF"})
def changes(car_id: int, asked: s.ChangesQuery) -> Response:
    with transaction() as db:
        exported(db, "change sheet", car_id)
        return _pdf(
            sheets.changes(db, actor(), car_id, asked.paper, now(), asked.revision), "change-sheet"
        )


@routes.get("/cars/<int:car_id>/sheets/links")
@routes.input(s.PaperQuery, location="query", arg_name="asked")
@routes.doc(summary="The side view with its holes and numbers as a PDF", responses={200: "A PDF"})
def links(car_id: int, asked: s.PaperQuery) -> Response:
    with transaction() as db:
        exported(db, "sheet of the links", car_id)
        return _pdf(sheets.links(db, actor(), car_id, asked.paper, now()), "links")


@routes.get("/cars/<int:car_id>/sheets/order/<procedure>")
@routes.input(s.PaperQuery, location="query", arg_name="asked")
@routes.doc(summary="An order of work as a one-page PDF with boxes", responses={200: "A PDF"})
def order(car_id: int, procedure: str, asked: s.PaperQuery) -> Response:
    with transaction() as db:
        return _pdf(
            sheets.order(db, actor(), car_id, procedure, asked.paper, now()), "order-of-work"
        )
