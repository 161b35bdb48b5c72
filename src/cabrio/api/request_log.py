"""Request ids, access log and Prometheus metrics."""

from __future__ import annotations

import hmac
import logging
import re
import secrets
import time
from ipaddress import ip_address
from logging.handlers import RotatingFileHandler
from pathlib import Path

import structlog
from flask import Flask, Response, current_app, g, request
from flask_login import current_user
from prometheus_client import CollectorRegistry, Counter, Histogram, generate_latest
from prometheus_client.exposition import CONTENT_TYPE_LATEST

HEADER = "X-Request-Id"
KNOWN = re.compile(r"[A-Za-z0-9-]{8,64}")
LARGEST_LOG, LOGS = 10 * 2**20, 5
STEPS = (0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0)
"""Up to which durations requests are counted [s]."""


class Counts:
    """What this process has answered, in the common text format. By route, so that no path makes a row of its own."""

    def __init__(self) -> None:
        self.registry = CollectorRegistry()
        self.requests = Counter(
            "cabrio_requests_total",
            "Requests answered, by method, route and status.",
            ("method", "route", "status"),
            registry=self.registry,
        )
        self.seconds = Histogram(
            "cabrio_request_seconds",
            "Time to answer, by route.",
            ("route",),
            buckets=STEPS,
            registry=self.registry,
        )


def log_to(where: str) -> None:
    """Send the line of every request to a file that is turned over, or to the error output for `-`."""
    access = logging.getLogger("cabrio.access")
    access.propagate = False
    access.setLevel(logging.INFO)
    for handler in list(access.handlers):
        access.removeHandler(handler)
        handler.close()
    if where == "-":
        access.addHandler(logging.StreamHandler())
    elif where:
        Path(where).parent.mkdir(parents=True, exist_ok=True)
        access.addHandler(RotatingFileHandler(where, maxBytes=LARGEST_LOG, backupCount=LOGS))


METHODS = frozenset({"GET", "HEAD", "POST", "PUT", "PATCH", "DELETE", "OPTIONS"})
"""Methods that are counted by their names: made-up ones would make a count of their own each."""


def plain_errors() -> None:
    """Errors are logged with the lines they came by, and without what a request held: a password, say."""
    *before, _ = structlog.get_config()["processors"]
    last = structlog.dev.ConsoleRenderer(exception_formatter=structlog.dev.plain_traceback)
    structlog.configure(processors=[*before, last])


def request_id() -> str:
    """The number of this request: as a proxy in front gave it, or our own."""
    if "request_id" not in g:
        given = request.headers.get(HEADER, "")
        g.request_id = given if KNOWN.fullmatch(given) else secrets.token_hex(8)
    found: str = g.request_id
    return found


def install(app: Flask, token: str) -> None:
    """Number, count and log every request. `token` lets who is not on this machine fetch the counts."""
    counts = Counts()
    line = structlog.wrap_logger(
        logging.getLogger("cabrio.access"),
        processors=[
            structlog.processors.TimeStamper(fmt="iso", utc=True),
            structlog.processors.JSONRenderer(ensure_ascii=False),
        ],
    )

    @app.before_request
    def begin() -> None:
        g.began = time.perf_counter()
        request_id()

    @app.after_request
    def end(response: Response) -> Response:
        took = time.perf_counter() - g.get("began", time.perf_counter())
        route = request.url_rule.rule if request.url_rule else "none"
        method = request.method if request.method in METHODS else "other"
        counts.requests.labels(method, route, response.status_code).inc()
        counts.seconds.labels(route).observe(took)
        response.headers[HEADER] = request_id()
        known = "_login_user" in g and current_user.is_authenticated
        who = current_user.person_id if known else None
        line.info(
            "request",
            id=request_id(),
            method=request.method,
            path=request.path[:200],
            status=response.status_code,
            ms=round(1000 * took, 1),
            # to count what streams would be to wait for its end
            bytes=response.content_length
            if response.is_streamed
            else response.calculate_content_length(),
            person=who,
            machine=request.remote_addr,
        )
        return response

    @app.get("/api/metrics")
    def metrics() -> Response:
        """The counts of this process: for who is on this machine, or holds the token."""
        if not _may_count(token):
            return current_app.make_response(("There is nothing at this address.", 404))
        return Response(generate_latest(counts.registry), content_type=CONTENT_TYPE_LATEST)


def _may_count(token: str) -> bool:
    shown = request.headers.get("Authorization", "").removeprefix("Bearer ")
    if token:
        return hmac.compare_digest(shown.encode(), token.encode())
    try:
        return ip_address(request.remote_addr or "").is_loopback
    except ValueError:
        return False
