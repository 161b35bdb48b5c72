"""A table from text: pasted from a spreadsheet or read from a CSV file, whatever its separators.

Tab, semicolon, bar or comma between the columns; decimal point or comma; units in the header, such as
`Speed (mm/s); Force [N]`. Nothing is decided here about what the figures mean.
"""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass

from cabrio.core.errors import Impossible

MOST_LETTERS = 200_000
UNIT = re.compile(r"[(\[]\s*([^)\]]+?)\s*[)\]]\s*$")
BARE = r"\s*[-+−]?\s*[\d.,]+(\s+\d+/\d+|/\d+)?\s*(e[-+]?\d+)?\s*"
FIGURE = re.compile(rf"^{BARE}[^\d\s]*\s*$", re.IGNORECASE)


@dataclass(frozen=True)
class TypedTable:
    """Rows of cells as text, each with its unit where the header names one."""

    header: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


def read_table(text: str, columns: list[str], *, named: bool = False) -> TypedTable:
    """The rows of a pasted table. Raises Impossible where the columns are not as many as asked for.

    Where every wanted column is named in the header, the columns may come in any order. Rows that are
    `named` begin with a word, which makes no header of the first one.
    """
    header, cells = _cells(text, 1 if named else 0)
    order = _order(header, columns)
    for i, row in enumerate(cells):
        if len(row) < len(columns):
            raise Impossible(
                f"Row {i + 1} has {len(row)} columns and needs {len(columns)}: "
                f"{', '.join(columns)}.",
                number="text",
                place=str(i),
            )
    return TypedTable(tuple(header), _cells_with_units(header, cells, order))


def read_headed(text: str) -> TypedTable:
    """A pasted table whose columns are told by its own heading, every row as wide as that.

    Raises Impossible without a heading, or for a row that is longer or shorter: its columns have shifted.
    """
    header, cells = _cells(text, 0)
    if not header:
        raise Impossible(
            "Its first row must name the columns, such as: Driver; Best lap; Tyres.", number="text"
        )
    for i, row in enumerate(cells):
        if len(row) != len(header):
            raise Impossible(
                f"Row {i + 1} has {len(row)} columns, the heading {len(header)}: a column is missing or "
                "one too many.",
                number="text",
                place=str(i),
            )
    return TypedTable(tuple(header), _cells_with_units(header, cells, list(range(len(header)))))


def _cells_with_units(
    header: list[str], cells: list[list[str]], order: list[int]
) -> tuple[tuple[str, ...], ...]:
    """The cells of these columns, each with the unit that its heading names."""
    units = [found[1] if (found := UNIT.search(name)) else "" for name in header]
    return tuple(
        tuple(_with_unit(row[at], units[at] if at < len(units) else "") for at in order)
        for row in cells
    )


def _cells(text: str, first: int) -> tuple[list[str], list[list[str]]]:
    """The heading, empty without one, and the rows of a table, whatever stands between its cells."""
    if len(text) > MOST_LETTERS:
        raise Impossible(
            f"That is too long for a table: at most {MOST_LETTERS} letters.", number="text"
        )
    lines = [
        line
        for line in text.replace("\r\n", "\n").replace("\ufeff", "").split("\n")
        if line.strip()
    ]
    if not lines:
        raise Impossible("There is nothing in it: paste rows of figures.", number="text")
    separator = _separator(lines)
    if separator == " ":
        cells = [re.split(r"\s{2,}|\s+(?=[-+−]?\d)", line.strip()) for line in lines]
    else:
        cells = [
            [cell.strip() for cell in row]
            for row in csv.reader(io.StringIO("\n".join(lines)), delimiter=separator)
        ]
    header: list[str] = []
    if not all(FIGURE.match(cell) for cell in cells[0][first:] if cell):
        header, cells = cells[0], cells[1:]
    return header, cells


def read_sheet(
    text: str, columns: list[str], names: dict[str, str]
) -> tuple[TypedTable, list[str]]:
    """A pasted sheet whose rows begin with a name, in the order of `names` (id → label).

    Rows that were not pasted are empty. A name nobody knows is told beside it. Raises Impossible.
    """
    found = read_table(text, ["Point", *columns], named=True)
    known = {_plain(key): at for at, pair in enumerate(names.items()) for key in pair}
    rows: list[tuple[str, ...]] = [()] * len(names)
    unknown = []
    for row in found.rows:
        at = known.get(_plain(row[0]))
        if at is None:
            unknown.append(f"There is no point called “{row[0][:60]}”.")
        elif rows[at]:
            unknown.append(f"{row[0]} is in it twice.")
        else:
            rows[at] = row[1:]
    return TypedTable(found.header, tuple(rows)), unknown


def _plain(name: str) -> str:
    """A name as it is looked up: letters and digits only, whatever stands between them."""
    return re.sub(r"[^a-z0-9]+", " ", name.lower()).strip()


def _separator(lines: list[str]) -> str:
    for one in ("\t", ";", "|"):
        if all(one in line for line in lines[:3]):
            return one
    # a comma separates only where it is not the decimal sign of every figure
    if all("," in line for line in lines[:3]) and not all(
        re.fullmatch(r"\s*\d+,\d+(\s+\d+,\d+)*\s*", line) for line in lines[-2:]
    ):
        return ","
    return " "


def _order(header: list[str], columns: list[str]) -> list[int]:
    """Where each wanted column stands: by its name where the header has all of them, else in order."""
    plain = [re.sub(r"[(\[].*", "", name).strip().lower() for name in header]
    found = [
        next((i for i, name in enumerate(plain) if name and _like(name, column.lower())), None)
        for column in columns
    ]
    if header and None not in found and len(set(found)) == len(found):
        return [one for one in found if one is not None]
    return list(range(len(columns)))


def _like(name: str, column: str) -> bool:
    return name == column or name in column.split() or column in name


def _with_unit(cell: str, unit: str) -> str:
    bare = re.fullmatch(BARE, cell, re.IGNORECASE)
    return f"{cell.strip()} {unit}" if unit and bare else cell.strip()
