"""The Flask application: settings in, app out. Nothing is global."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from pathlib import Path
from typing import Any

from apiflask import APIFlask
from flask import Flask, Response, request, send_from_directory
from flask_wtf.csrf import CSRFProtect
from sqlalchemy import Engine, text
from sqlalchemy.orm import sessionmaker
from werkzeug.middleware.proxy_fix import ProxyFix
from whitenoise import WhiteNoise

from cabrio import __version__
from cabrio.operations.errors import Busy

from . import adapter, bodies, context, idempotency, live, problems, request_log, signed_in
from .routes import BLUEPRINTS

CONTENT_POLICY = (
    "default-src 'self'; img-src 'self' data:; style-src 'self'; frame-ancestors 'none'; "
    "base-uri 'none'; form-action 'self'; object-src 'none'"
)
POLICY = {
    "Content-Security-Policy": CONTENT_POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "Permissions-Policy": "camera=(), microphone=(), geolocation=(), payment=(), usb=()",
    "Cross-Origin-Opener-Policy": "same-origin",
    "Cross-Origin-Resource-Policy": "same-origin",
}
"""What every answer tells the browser to keep to."""
MAY_WORK = (
    "SELECT bool_and(has_table_privilege(one, 'SELECT') AND has_table_privilege(one, 'INSERT')) "
    "FROM unnest(ARRAY['person', 'sign_in', 'car', 'revision', 'reading', 'slip', 'run']) AS one"
)
"""Whether the app may do with the tables what nearly every request wants."""
TLS_ONLY = "max-age=31536000"
"""Behind TLS a browser comes back by TLS alone, for a year [s]."""


@dataclass(frozen=True)
class Settings:
    """What the app needs to be told. `web` is the built web app's folder, `secure` means HTTPS, `pads`
    and `gauge` are where weighing pads and an angle gauge are, as host:port."""

    secret: str
    web: Path
    demo: bool = False
    secure: bool = False
    clock: Callable[[], datetime] | None = None
    pads: str = ""
    gauge: str = ""
    proxies: int = 0
    """Proxies in front of the app whose word on the visitor's address and on TLS is taken."""
    metrics_token: str = ""
    hosts: tuple[str, ...] = ()
    """Names the app answers by; empty for any."""


def create_app(settings: Settings, engine: Engine | None) -> APIFlask:
    """Make the app. Without an engine only its OpenAPI file can be had."""
    app = APIFlask(
        "cabrio",
        title="Cabrio",
        version=__version__,
        static_folder=None,  # type: ignore[arg-type]
        docs_path=None,
        spec_path="/api/openapi.json",
    )
    app.config.update(
        SECRET_KEY=settings.secret,
        DEMO=settings.demo,
        CLOCK=settings.clock,
        PADS=settings.pads,
        GAUGE=settings.gauge,
        OPENAPI_VERSION="3.1.0",
        AUTO_VALIDATION_ERROR_RESPONSE=False,  # ours stands in their place: see the adapter
        AUTO_404_RESPONSE=False,
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=settings.secure,
        SESSION_COOKIE_NAME="cabrio",
        MAX_CONTENT_LENGTH=bodies.LARGEST,
        WTF_CSRF_TIME_LIMIT=None,
        TRUSTED_HOSTS=list(settings.hosts) or None,
        WTF_CSRF_HEADERS=["X-CSRF-Token"],
    )
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.url_map.converters["int"] = bodies.RowId
    request_log.install(app, settings.metrics_token)
    bodies.install(app)
    maker = sessionmaker(engine, expire_on_commit=False) if engine else None
    context.install(app, maker)
    for routes in BLUEPRINTS:
        app.register_blueprint(routes, url_prefix="/api" + (routes.url_prefix or ""))
    problems.install(app)
    idempotency.install(app)
    live.install(app)
    CSRFProtect(app)
    signed_in.install(app)
    _pages(app, settings.web)
    # scripts, styles and fonts, packed at build time; their names carry a hash of what is in them
    app.wsgi_app = WhiteNoise(  # type: ignore[method-assign]
        app.wsgi_app,
        root=settings.web / "assets",
        prefix="assets/",
        immutable_file_test=lambda *_: True,
        add_headers_function=_asset_headers,
    )

    if settings.proxies:
        hops = settings.proxies
        app.wsgi_app = ProxyFix(app.wsgi_app, x_for=hops, x_proto=hops, x_host=hops)  # type: ignore[method-assign]

    @app.spec_processor
    def spec(found: Any) -> Any:
        return adapter.flat_names(found)

    return app


def _asset_headers(headers: Any, path: str, url: str) -> None:
    for name, value in POLICY.items():
        headers[name] = value


def _pages(app: Flask, web: Path) -> None:
    # known from the start: no address is looked for on the disk
    built = {one.name for one in web.glob("[!.]*") if one.is_file()}

    @app.get("/api/health")
    def health() -> dict[str, str]:
        return {"status": "ok"}

    @app.get("/api/ready")
    def ready() -> dict[str, str]:
        """Whether the database lets the app do what a request does; 503 where it does not. `health` is about
        the app alone."""
        allowed = context.database().scalar(text(MAY_WORK))
        if not allowed:
            raise Busy("The database does not let the app read and write its tables.", after=5)
        return {"status": "ready"}

    @app.get("/")
    @app.get("/<path:path>")
    def page(path: str = "") -> Response:
        """The web app's files; any other path is the app itself, which knows its own routes."""
        if path.startswith(("api/", "assets/")):  # an asset there is was served before
            return problems.problem(404, "not_found", "There is nothing at this address.")
        return send_from_directory(web, path if path in built else "index.html", max_age=0)

    @app.after_request
    def headers(response: Response) -> Response:
        for name, value in POLICY.items():
            response.headers.setdefault(name, value)
        if app.config["SESSION_COOKIE_SECURE"]:
            response.headers["Strict-Transport-Security"] = TLS_ONLY
        if request.path.startswith("/api/"):
            response.headers.setdefault("Cache-Control", "no-store")
        return response
