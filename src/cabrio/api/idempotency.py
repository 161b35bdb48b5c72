"""Idempotency keys: a request sent twice with one key does its work once and gets the same answer.

The key is written in the transaction of the work itself, so that the two are saved together or not at all;
whoever comes with the same key meanwhile waits for it.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from hashlib import sha256
from typing import Any, TypeVar

from flask import Flask, Response, current_app, g, request
from flask_login import current_user
from sqlalchemy import delete, update
from sqlalchemy.dialects.postgresql import insert
from sqlalchemy.orm import Session

from cabrio.core.errors import Impossible
from cabrio.operations.errors import Conflict
from cabrio.storage.models import RequestKeyRow

from .problems import problem

HEADER = "Idempotency-Key"
MAX_KEY_CHARS = 80
KEPT = timedelta(days=2)
"""How long an answer is kept for whoever asks again."""
View = TypeVar("View", bound=Callable[..., Any])


def idempotent(view: View) -> View:
    """Mark a route that adds something to the record: a request sent twice with one key does its work once.

    It stands next to the function. Inviting is none of them: its answer holds a key, and is not kept.
    """
    vars(view)["idempotent"] = True
    return view


def is_idempotent(endpoint: str | None) -> bool:
    """Whether the route of an endpoint is marked so."""
    view = current_app.view_functions.get(endpoint or "")
    return getattr(view, "idempotent", False)


class AlreadyProcessed(Exception):
    """The request was done before; `row` holds its answer."""

    def __init__(self, row: RequestKeyRow) -> None:
        super().__init__()
        self.row = row


def begin(db: Session, at: datetime) -> None:
    """Write the key of this request down with its work. Raises AlreadyProcessed where that was done before,
    Conflict where the key was used for something else."""
    key = request.headers.get(HEADER)
    if not is_idempotent(request.endpoint) or key is None or "once" in g:
        return
    if not (0 < len(key) <= MAX_KEY_CHARS and key.isascii() and key.isprintable()):
        raise Impossible(
            f"{HEADER} must be 1 to {MAX_KEY_CHARS} printable characters: without it a request sent twice "
            "could do its work twice.",
            number=HEADER,
        )
    if not current_user.is_authenticated:
        return
    person = current_user.person.id
    digest = sha256(f"{request.path}\n".encode() + request.get_data()).hexdigest()
    row = {"person_id": person, "key": key, "digest": digest, "at": at}
    written = insert(RequestKeyRow).values(row).on_conflict_do_nothing()
    if db.scalar(written.returning(RequestKeyRow.key)) is None:
        found = db.get_one(RequestKeyRow, (person, key))
        if found.digest != digest:
            raise Conflict("This key was used for another request: send it with a new one.")
        raise AlreadyProcessed(found)
    db.execute(delete(RequestKeyRow).where(RequestKeyRow.at < at - KEPT))
    g.once = (person, key)


def install(app: Flask) -> None:
    """Answer a request that was done before with its answer, and keep the answers of new ones."""

    @app.errorhandler(AlreadyProcessed)
    def again(found: AlreadyProcessed) -> Response:
        if found.row.answer is None:
            return problem(409, "done_already", "That was done already: load the page again.")
        return Response(found.row.answer, 200, content_type="application/json")

    @app.after_request
    def keep(response: Response) -> Response:
        if "once" in g and response.status_code == 200 and response.is_json:
            person, key = g.once
            with current_app.extensions["cabrio_db"].begin() as db:
                here = (RequestKeyRow.person_id == person) & (RequestKeyRow.key == key)
                answer = response.get_data(as_text=True)
                db.execute(update(RequestKeyRow).where(here).values(answer=answer))
        return response
