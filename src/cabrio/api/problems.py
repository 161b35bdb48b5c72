"""Every error leaves as RFC 9457 problem details: one shape, made here and nowhere else."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import structlog
from flask import Flask, Response, jsonify
from flask_wtf.csrf import CSRFError
from psycopg.errors import DeadlockDetected, DiskFull, LockNotAvailable, QueryCanceled
from sqlalchemy.exc import OperationalError
from sqlalchemy.exc import TimeoutError as PoolTimeout
from werkzeug.exceptions import HTTPException

from cabrio.core.errors import CoreError, Problems
from cabrio.operations.errors import (
    Busy,
    CautionFirst,
    ChangedMeanwhile,
    Conflict,
    NotAllowed,
    NotFound,
    NotReady,
    OperationError,
    TooManyTries,
)
from cabrio.storage.documents import CannotBeKept

from .request_log import request_id

log = structlog.get_logger()


class BadShape(Exception):
    """The request is not of the shape the API declares: (pointer, message) pairs."""

    def __init__(self, errors: list[tuple[str, str]]) -> None:
        super().__init__("bad shape")
        self.errors = errors


class UnsupportedType(Exception):
    """A body of another content type than JSON."""


class SignedOut(Exception):
    """No one is signed in."""


STATUS = {
    NotFound: 404,
    NotAllowed: 403,
    Conflict: 409,
    ChangedMeanwhile: 412,
    CautionFirst: 409,
    TooManyTries: 429,
    NotReady: 409,
    Busy: 503,
}
PLAIN = {
    404: "There is nothing at this address.",
    405: "This address does not do that.",
    413: "That is too large: a request has at most 64 kB, a photo 6 MB, a car file 16 MB.",
}


NO_DATABASE = "The database does not answer. Nothing was saved; what you typed is still here: try again in a moment."
NO_ROOM = "The server has no room left on its disk. Nothing was saved; what you typed is still here: tell whoever runs it."
BUSY = "Others are writing at this very moment. Nothing was saved; what you typed is still here: try again."
HELD = (DeadlockDetected, LockNotAvailable, QueryCanceled)
"""What the database answers where it is there, and others hold what is wanted."""
MOST_ERRORS, MAX_DETAIL_CHARS = 20, 240
"""How many misshapen places an answer names, and how long it is about each."""


def problem(status: int, code: str, detail: str, **more: Any) -> Response:
    """Problem details (RFC 9457) as an answer."""
    body = {
        "type": "about:blank",
        "title": code.replace("_", " "),
        "status": status,
        "code": code,
        "detail": detail,
        "errors": [],
        **more,
    }
    response = jsonify(body)
    response.status_code = status
    response.content_type = "application/problem+json"
    return response


def _bounded(errors: list[tuple[str, str]]) -> list[tuple[str, str]]:
    """The first few, each cut to a length that can be read: a request may be wrong in a million places."""
    return [
        (
            where[:MAX_DETAIL_CHARS],
            said if len(said) <= MAX_DETAIL_CHARS else f"{said[:MAX_DETAIL_CHARS].rstrip(', ')} …",
        )
        for where, said in errors[:MOST_ERRORS]
    ]


def field_error(found: CoreError) -> dict[str, Any]:
    """A refusal of the core at the field it is about."""
    pointer = "/".join(part for part in (found.number, found.place) if part)
    return {
        "pointer": f"#/{pointer}",
        "code": found.code,
        "detail": found.sentence,
        "number": found.number,
        "place": found.place,
        "allowed": found.allowed,
    }


def _core(found: CoreError) -> Response:
    each = found.problems if isinstance(found, Problems) else [found]
    code = "unusual" if all(one.code == "unusual" for one in each) else each[0].code
    detail = " ".join(dict.fromkeys(one.sentence for one in each))
    return problem(422, code, detail, errors=[field_error(one) for one in each])


def _not_kept(found: CannotBeKept) -> Response:
    return problem(422, "cannot_be_kept", str(found))


def _operation(found: OperationError) -> Response:
    status = STATUS.get(type(found), 422)
    answer = problem(status, found.code, found.sentence, data=found.data)
    if found.after is not None:
        answer.headers["Retry-After"] = str(found.after)
    return answer


def _shape(found: BadShape) -> Response:
    errors = [
        {
            "pointer": f"#/{where}",
            "code": "bad_shape",
            "detail": message,
            "number": where if where and "/" not in where else None,
            "place": None,
            "allowed": None,
        }
        for where, message in _bounded(found.errors)
    ]
    first = ": ".join(_bounded(found.errors)[0]).lstrip(": ")
    return problem(422, "bad_shape", f"The request is not as expected: {first}.", errors=errors)


def _content(_: UnsupportedType) -> Response:
    return problem(415, "unsupported_type", "Send JSON (application/json).")


def _signed_out(_: SignedOut) -> Response:
    return problem(401, "signed_out", "Please sign in.")


def _forged(_: CSRFError) -> Response:
    return problem(400, "stale_page", "This page is from an earlier sign-in: reload it.")


def _no_database(found: Exception) -> Response:
    if isinstance(getattr(found, "orig", None), DiskFull):
        log.error("the database has no room left")
        return problem(503, "no_room", NO_ROOM)
    held = isinstance(getattr(found, "orig", None), HELD)
    log.warning("the database does not answer: %s", type(getattr(found, "orig", found)).__name__)
    answer = problem(503, "busy", BUSY) if held else problem(503, "no_database", NO_DATABASE)
    answer.headers["Retry-After"] = "5"
    return answer


def _http(found: HTTPException) -> Response:
    status = found.code or 500
    return problem(status, "http_error", PLAIN.get(status, found.description or found.name))


def _unexpected(found: Exception) -> Response:
    number = request_id()
    log.exception("unexpected", request=number, exc_info=found)
    return problem(
        500,
        "unexpected",
        "Something went wrong on our side; nothing was saved. Whoever runs the server finds it under "
        f"the number {number}.",
        request=number,
    )


HANDLERS: dict[type[Exception], Callable[[Any], Response]] = {
    CoreError: _core,
    CannotBeKept: _not_kept,
    OperationError: _operation,
    BadShape: _shape,
    UnsupportedType: _content,
    SignedOut: _signed_out,
    CSRFError: _forged,
    OperationalError: _no_database,
    PoolTimeout: _no_database,
    HTTPException: _http,
    Exception: _unexpected,
}


def install(app: Flask) -> None:
    """Answer every refusal, and whatever goes wrong, as problem details."""
    for kind, answer in HANDLERS.items():
        app.register_error_handler(kind, answer)
