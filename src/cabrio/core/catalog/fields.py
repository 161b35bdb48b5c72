"""How a field of a part is declared, and what the form, the car file and the API see of it.

A field takes its label, unit and bounds from the number it feeds (`Gives`) or says them itself
(`Own`); a table is a `Table` of columns.
"""

from __future__ import annotations

import types
from collections.abc import Callable
from dataclasses import MISSING, dataclass, fields, is_dataclass
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from .entered import ENTERED
from .quantities import Kind, Number, Shape

NUMBERS = {number.name: number for number in ENTERED}


@dataclass(frozen=True)
class Gives:
    """The field feeds this number. `chosen_by` names the setting that picks one of several values;
    `at` the only place of the part that counts, where it sits at several."""

    number: str
    chosen_by: str = ""
    at: str = ""


@dataclass(frozen=True)
class Own:
    """A field that feeds no number by itself: its quantity, label and bounds [SI]."""

    label: str
    quantity: str
    help: str = ""
    least: float | None = None
    most: float | None = None
    above: float | None = None


@dataclass(frozen=True)
class Words:
    """A field of plain words."""

    label: str
    help: str = ""


@dataclass(frozen=True)
class OneOf:
    """A choice: its values, each with the words it is shown by."""

    label: str
    options: tuple[tuple[str, str], ...]
    help: str = ""


@dataclass(frozen=True)
class RowName:
    """A row that has a name. It is asked for while every choice named in `asked` is one of its values."""

    id: str
    label: str
    group: str = ""
    asked: tuple[tuple[str, tuple[str, ...]], ...] = ()


@dataclass(frozen=True)
class Table:
    """Rows of figures. `rows` takes the field apart, `build` puts it together again and may refuse;
    `feeds` are the numbers that are read off it. With `names` the rows are those, each whole or empty.
    """

    label: str
    columns: tuple[Own, ...]
    build: Callable[[list[tuple[float, ...]]], Any]
    rows: Callable[[Any], list[tuple[float, ...]]]
    help: str = ""
    feeds: tuple[Gives, ...] = ()
    names: tuple[RowName, ...] = ()


@dataclass(frozen=True)
class Group:
    """Fields of a nested dataclass, shown under one heading."""

    label: str


@dataclass(frozen=True)
class PartField:
    """One field of a part as the form, the file and the API see it. `path` walks nested groups."""

    path: tuple[str, ...]
    kind: Literal["figure", "words", "choice", "flag", "table"]
    label: str
    help: str
    number: Number
    group: str = ""
    needed: bool = False
    whole: bool = False
    """Whether it is counted in whole numbers."""
    default: Any = None
    gives: Gives | None = None
    options: tuple[tuple[str, str], ...] = ()
    table: Table | None = None
    columns: tuple[Number, ...] = ()

    @property
    def id(self) -> str:
        return ".".join(self.path)


def fields_of(cls: type, path: tuple[str, ...], group: str) -> list[PartField]:
    """The declared fields of a dataclass, those of nested groups included, in their order."""
    hints = get_type_hints(cls, include_extras=True)
    found: list[PartField] = []
    for field in fields(cls):
        hint = hints[field.name]
        said = get_args(hint)[1] if get_origin(hint) is Annotated else None
        if said is None:
            continue
        here = (*path, field.name)
        if isinstance(said, Group):
            found += fields_of(nested(hint), here, said.label)
            continue
        missing = field.default is MISSING and field.default_factory is MISSING
        default = None if missing or field.default is MISSING else field.default
        found.append(_field(said, here, group, needed=missing, default=default, hint=hint))
    return found


def _field(
    said: Any, path: tuple[str, ...], group: str, *, needed: bool, default: Any, hint: Any
) -> PartField:
    common: dict[str, Any] = {"path": path, "group": group, "needed": needed, "default": default}
    if isinstance(said, Table):
        return PartField(
            kind="table",
            label=said.label,
            help=said.help,
            number=number_of(said.columns[0]),
            table=said,
            columns=tuple(map(number_of, said.columns)),
            **common,
        )
    if isinstance(said, Words):
        return PartField(kind="words", label=said.label, help=said.help, number=PLAIN, **common)
    if isinstance(said, OneOf):
        return PartField(
            kind="choice",
            label=said.label,
            help=said.help,
            number=PLAIN,
            options=said.options,
            **common,
        )
    if isinstance(said, Gives):
        number = NUMBERS[said.number]
        shown = said if said.number else None
        several = "tuple" in str(hint)
        if several:
            column = Own(
                number.label, number.quantity, number.help, number.least, number.most, number.above
            )
            listed = Table(
                f"{number.label} at each {NUMBERS[said.chosen_by].label.lower()}",
                (column,),
                lambda rows: tuple(r[0] for r in rows),
                lambda value: [(one,) for one in value],
            )
            return PartField(
                kind="table",
                label=listed.label,
                help=number.help,
                number=number_of(column),
                table=listed,
                columns=(number_of(column),),
                gives=shown,
                **common,
            )
        kind: Any = "flag" if number.quantity == "flag" else "figure"
        return PartField(
            kind=kind, label=number.label, help=number.help, number=number, gives=shown, **common
        )
    if isinstance(said, Own):
        kind = "flag" if said.quantity == "flag" else "figure"
        return PartField(
            kind=kind,
            label=said.label,
            help=said.help,
            number=number_of(said),
            whole=get_args(hint)[0] is int,
            **common,
        )
    raise TypeError(f"{'.'.join(path)} is declared as {said!r}, which is no field")


def number_of(own: Own) -> Number:
    """What was declared as a number of the dictionary has it: unit, words and bounds."""
    return Number(
        own.label.lower().replace(" ", "_"),
        Kind.GIVEN,
        Shape.CAR,
        own.quantity,
        own.label,
        own.help,
        least=own.least,
        most=own.most,
        above=own.above,
    )


PLAIN = number_of(Own("Words", "flag"))


def nested(hint: Any) -> type:
    """The dataclass inside `Annotated[X | None, Group]`."""
    inner = get_args(hint)[0]
    options = get_args(inner) if get_origin(inner) in (Union, types.UnionType) else (inner,)
    return next(option for option in options if is_dataclass(option))  # type: ignore[return-value]
