"""A real PostgreSQL for tests: one migrated template with the demo in it, cloned for each test class."""

from __future__ import annotations

import os
import unittest
from functools import cache
from itertools import count

from argon2 import PasswordHasher
from sqlalchemy import Engine, create_engine, text
from sqlalchemy.engine import make_url

from cabrio.demo import load_if_empty
from cabrio.operations import sign_in
from cabrio.storage.database import grant, migrate, open_engine

_numbers = count(1)
# a real hash takes 0.1 s and 64 MB on purpose: the demo's people are signed in hundreds of times
sign_in.HASHER = PasswordHasher(time_cost=1, memory_cost=64, parallelism=1)
sign_in.NOBODY = sign_in.HASHER.hash("nobody")


def server_url() -> str:
    try:
        return os.environ["CABRIO_TEST_SERVER"]
    except KeyError:
        raise unittest.SkipTest("no test server: run these by ./cabrio test") from None


def _admin(*statements: str) -> None:
    engine = create_engine(server_url(), isolation_level="AUTOCOMMIT")
    with engine.connect() as connection:
        for statement in statements:
            connection.execute(text(statement))
    engine.dispose()


def named(database: str) -> str:
    return make_url(server_url()).set(database=database).render_as_string(hide_password=False)


@cache
def _template(demo: bool) -> str:
    name = f"template_{'demo' if demo else 'empty'}_{os.getpid()}"
    _admin(f"DROP DATABASE IF EXISTS {name}", f"CREATE DATABASE {name}")
    migrate(named(name))
    if demo:
        engine = open_engine(named(name))
        load_if_empty(engine)
        engine.dispose()
    return name


def fresh_url(*, demo: bool = True) -> str:
    """A database of its own, cloned in milliseconds."""
    name = f"test_{os.getpid()}_{next(_numbers)}"
    _admin(f"CREATE DATABASE {name} TEMPLATE {_template(demo)}")
    return named(name)


APP_ROLE = "cabrio_app_test"


def as_app(url: str) -> str:
    """The same database as the app connects to it: by a role that may do what the app does."""
    grant(url, APP_ROLE)
    made = make_url(url).set(username=APP_ROLE, password="-")
    return made.render_as_string(hide_password=False)


@cache
def _app_role() -> None:
    _admin(
        f"DO $$ BEGIN CREATE ROLE {APP_ROLE} LOGIN PASSWORD '-'; "
        "EXCEPTION WHEN duplicate_object OR unique_violation THEN NULL; END $$"
    )


class DatabaseTestCase(unittest.TestCase):
    """A class with a demo database of its own; tests see each other's real commits. `engine` is the owner's,
    `app_engine` what the app connects by."""

    demo = True
    engine: Engine
    app_engine: Engine

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.url = fresh_url(demo=cls.demo)
        cls.engine = open_engine(cls.url)
        cls.addClassCleanup(cls.engine.dispose)
        _app_role()
        cls.app_engine = open_engine(as_app(cls.url))
        cls.addClassCleanup(cls.app_engine.dispose)
