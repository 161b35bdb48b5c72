"""How large a request may be, and which numbers an address may name: refused at the head, before it is read."""

from __future__ import annotations

from flask import Flask, abort, request
from werkzeug.routing import IntegerConverter, ValidationError

from cabrio.files.bounds import LARGEST_ID

USUAL = 64 * 2**10
LARGEST = 16 * 2**20
LARGER = {
    "cars.bring_in": LARGEST,
    "logbook.add_picture": 9 * 2**20,
    "logbook.look_at_runs": 256 * 2**10,
    "logbook.add_runs": 256 * 2**10,
    "cars.look_at_table": 256 * 2**10,
}
"""Requests that carry a file or a pasted table [bytes]."""


class RowId(IntegerConverter):
    """A number that can name a row of the database; any other is no address."""

    def to_python(self, value: str) -> int:
        found: int = super().to_python(value)
        if found > LARGEST_ID:
            raise ValidationError
        return found


def install(app: Flask) -> None:
    """Bound what a request may send, by its route."""

    @app.before_request
    def too_large() -> None:
        most = LARGER.get(request.endpoint or "", USUAL)
        request.max_content_length = most
        if (request.content_length or 0) > most:
            abort(413)
