"""Statements of migrations that are too long for a line: one file each, named by migration and function."""

from importlib.resources import files

FOLDER = files("cabrio.storage.migrations") / "sql"


def sql(name: str) -> str:
    """The statement of that name."""
    return (FOLDER / f"{name}.sql").read_text("utf-8")
