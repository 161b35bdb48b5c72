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
from cabrio.storage.database import migrate, open_engine

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


class DatabaseTestCase(unittest.TestCase):
    """A class with a demo database of its own; tests see each other's real commits."""

    demo = True
    engine: Engine

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.url = fresh_url(demo=cls.demo)
        cls.engine = open_engine(cls.url)
        cls.addClassCleanup(cls.engine.dispose)
