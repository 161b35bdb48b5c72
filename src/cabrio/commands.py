"""The app's own commands: serve, migrate, person add, derive, cases, schemas."""

from __future__ import annotations

import getpass
import json
import logging
import os
import signal
import sys
from collections.abc import Callable
from pathlib import Path
from typing import NoReturn

from cabrio.core.errors import CoreError, Problems
from cabrio.storage.database import UnknownSchema

ROOT = Path(__file__).resolve().parents[2]


def main(arguments: list[str]) -> int:
    commands: dict[str, Callable[[list[str]], int]] = {
        "serve": serve, "migrate": migrate, "person": person, "derive": derive, "cases": cases,
        "schemas": schemas,
    }  # fmt: skip
    if not arguments or arguments[0] not in commands:
        print("Commands:", ", ".join(commands))
        return 2
    try:
        return commands[arguments[0]](arguments[1:])
    except Problems as several:
        for problem in several.problems:
            print(problem.sentence, file=sys.stderr)
        return 1
    except CoreError as problem:
        print(problem.sentence, file=sys.stderr)
        return 1
    except UnknownSchema as problem:
        print(problem, file=sys.stderr)
        return 1


def _database() -> str:
    return os.environ["CABRIO_DATABASE"]


def serve(arguments: list[str]) -> int:
    """Migrate, load the demo where it is wanted and missing, and serve until told to stop."""
    import waitress

    from cabrio.api.app import Settings, create_app
    from cabrio.demo import load_if_empty
    from cabrio.storage.database import check_schema, open_engine
    from cabrio.storage.database import migrate as bring_up

    logging.basicConfig(level=logging.WARNING)
    engine = open_engine(_database())
    try:
        check_schema(engine)
    except UnknownSchema:  # new or older: a newer one than ours is refused by the second look
        bring_up(_database())
        check_schema(engine)
    demo = bool(os.environ.get("CABRIO_DEMO"))
    if demo:
        load_if_empty(engine)
    settings = Settings(
        secret=os.environ["CABRIO_SECRET"],
        web=Path(os.environ["CABRIO_WEB"]),
        demo=demo,
        secure=bool(os.environ.get("CABRIO_SECURE")),
    )
    app = create_app(settings, engine)
    signal.signal(signal.SIGTERM, _stop)
    port = int(arguments[arguments.index("--port") + 1])
    waitress.serve(app, host="127.0.0.1", port=port, threads=8, ident="cabrio")
    return 0


def _stop(*_: object) -> NoReturn:
    sys.exit(0)  # waitress would end with a signal's code otherwise


def migrate(arguments: list[str]) -> int:
    from cabrio.storage.database import migrate as bring_up

    bring_up(_database())
    print("The database is at the newest schema.")
    return 0


def person(arguments: list[str]) -> int:
    """`person add [--team T --name N --email E --role R]`; asks for what is missing."""
    from sqlalchemy.orm import Session

    from cabrio.operations.people import add_person
    from cabrio.storage.database import migrate as bring_up
    from cabrio.storage.database import open_engine

    if arguments[:1] != ["add"]:
        print(
            "./cabrio person add [--team T] [--name N] [--email E] [--role engineer|crew|driver|viewer]"
        )
        return 2

    def told(flag: str, question: str) -> str:
        return arguments[arguments.index(flag) + 1] if flag in arguments else input(f"{question}: ")

    team, name = told("--team", "Team"), told("--name", "Name")
    email, role = (
        told("--email", "E-mail address"),
        told("--role", "Role (engineer, crew, driver, viewer)"),
    )
    typed = os.environ.get("CABRIO_PASSWORD") or getpass.getpass(
        "Password (10 characters or more): "
    )
    bring_up(_database())
    with Session(open_engine(_database())) as db, db.begin():
        added = add_person(db, team=team, name=name, email=email, password=typed, role=role)
        print(f"{added.name} may now sign in as {added.role} of {team}.")
    return 0


def derive(arguments: list[str]) -> int:
    """Print every worked figure of a car file as JSON."""
    from cabrio.files.car_file import read
    from cabrio.files.derive import derive as work

    if len(arguments) != 1:
        print("./cabrio derive CAR.json", file=sys.stderr)
        return 2
    try:
        text = Path(arguments[0]).read_bytes()
    except OSError as problem:
        print(f"Cannot read {arguments[0]}: {problem.strerror}.", file=sys.stderr)
        return 1
    print(json.dumps(work(read(text)), indent=1, ensure_ascii=False))
    return 0


def cases(arguments: list[str]) -> int:
    """Run every case file of a folder: each failure with got and expected, then the count."""
    from cabrio.cases import Outcome, run_folder

    if len(arguments) != 1:
        print("./cabrio cases FOLDER", file=sys.stderr)
        return 2

    def tell(outcome: Outcome) -> None:
        for failure in outcome.failures:
            print(f"{outcome.file}: {outcome.topic}, {outcome.name}: {failure}")

    outcomes = run_folder(Path(arguments[0]), tell)
    failed = sum(1 for outcome in outcomes if outcome.failures)
    print(f"{len(outcomes) - failed} passed, {failed} failed")
    return 1 if failed else 0


def schemas(arguments: list[str]) -> int:
    """Write the OpenAPI file, the car file's JSON Schema and the page of figures into docs."""
    for path, text in schema_files().items():
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_text(text, "utf-8")
    return 0


def schema_files() -> dict[Path, str]:
    """Each generated document and what it must say now; a test compares."""
    from cabrio.api.app import Settings, create_app
    from cabrio.files.car_file import schema
    from cabrio.files.figures_page import page

    app = create_app(Settings(secret="-", web=ROOT / "web" / "dist"), None)
    documents = {"openapi.json": app.spec, "schemas/car-file.schema.json": schema()}
    docs = ROOT / "docs"
    return {
        docs / name: json.dumps(document, indent=1, ensure_ascii=False) + "\n"
        for name, document in documents.items()
    } | {docs / "figures.md": page()}
