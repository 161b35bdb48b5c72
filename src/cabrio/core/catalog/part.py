"""How a kind of part is declared: once, as a dataclass whose fields say what they are and what they feed.

From the declaration follow the form on screen, its units and bounds, the car file, the API and where a
number is entered. A field takes its label, unit and bounds from the number it feeds (`Gives`) or
says them itself (`Own`); a table is a `Table` of columns.
"""

from __future__ import annotations

import types
from collections.abc import Callable, Mapping
from dataclasses import MISSING, dataclass, field, fields, is_dataclass, replace
from functools import cache, cached_property
from typing import (
    Annotated,
    Any,
    Literal,
    Protocol,
    TypeVar,
    Union,
    get_args,
    get_origin,
    get_type_hints,
)

from ..errors import UnknownName
from .entered import ENTERED
from .quantities import Kind, Number, Shape, axle_of

AXLES = ("front", "rear", "both")
Fits = Literal["front", "rear", "both"]


@dataclass(frozen=True)
class Position:
    """Where an adjuster stands at a place, and which end its counting starts from."""

    value: float | None
    counted: str = ""


class Chosen(Protocol):
    """The position of a set number at the place of a part."""

    def __call__(self, name: str, /) -> Position: ...


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
    """A row that has a name. It is asked for while the choice `field` is one of `values`."""

    id: str
    label: str
    group: str = ""
    field: str = ""
    values: tuple[str, ...] = ()


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
    default: Any = None
    gives: Gives | None = None
    options: tuple[tuple[str, str], ...] = ()
    table: Table | None = None
    columns: tuple[Number, ...] = ()

    @property
    def id(self) -> str:
        return ".".join(self.path)


@dataclass(frozen=True)
class Part:
    """What every part has: a code it is told by, the axle it fits, and a note."""

    code: str = field(default="", kw_only=True)
    fits: Fits = field(default="both", kw_only=True)
    note: str = field(default="", kw_only=True)

    def brings(self, place: str, chosen: Chosen) -> dict[str, Any]:
        """Every number this part gives at a place, None where it does not say."""
        found: dict[str, Any] = {}
        for one in kind_of(type(self)).fields:
            if one.gives is None or (one.gives.at and one.gives.at != place):
                continue
            value = valued(self, one.path)
            if one.gives.chosen_by:
                value = _picked(value, chosen(one.gives.chosen_by).value)
            found[one.gives.number] = float(value) if isinstance(value, bool) else value
        return found

    def check(self) -> None:
        """Raise what only working with the part can find out; asked where it comes in, once."""

    def alike(self, other: Part) -> bool:
        """Whether another part of the kind is its like, whatever it is called."""
        return replace(self, code="", note="") == replace(other, code="", note="")

    def blocks(self, setting: str) -> str:
        """Why a setting at the place of this part cannot move; empty where it can."""
        return ""

    def picked(self, setting: str) -> tuple[float, ...]:
        """The values that a setting picks one of, by its positions from 1; none where it has no say."""
        for one in kind_of(type(self)).fields:
            if one.gives is not None and one.gives.chosen_by == setting:
                return tuple(valued(self, one.path) or ())
        return ()

    def picks(self, setting: str) -> bool:
        """Whether the setting picks among values of this kind of part."""
        return any(
            one.gives is not None and one.gives.chosen_by == setting
            for one in kind_of(type(self)).fields
        )

    def lacks(self, setting: str, value: float) -> str:
        """Why a setting cannot stand at a value on this part; empty where it can."""
        values = self.picked(setting)
        if len(values) < 2 or 1 <= value <= len(values):
            return ""
        kind, label = kind_of(type(self)).label, NUMBERS[setting].label.lower()
        return f"{kind} {self.code}: {label} goes from 1 to {len(values)}, not to {value:g}."

    def fits_at(self, place: str) -> bool:
        return self.fits in ("both", axle_of(place)) or axle_of(place) not in AXLES


def _picked(values: Any, hole: float | None) -> float | None:
    """The value at a hole counted from 1; the only one where there is one; else unknown."""
    if not values:
        return None
    if len(values) == 1:
        return float(values[0])
    if hole is None or not 1 <= hole <= len(values):
        return None
    return float(values[round(hole) - 1])


@dataclass(frozen=True)
class PartKind:
    """A kind of part: where it sits, its fields, and what stands where none is fitted."""

    name: str
    label: str
    plural: str
    shape: Shape
    help: str
    type: type[Part]
    fields: tuple[PartField, ...]
    none_fitted: Part | None = None
    assume_none: bool = False
    feeds: tuple[str, ...] = ()
    rank: str = ""
    follows: tuple[str, ...] = ()

    @cached_property
    def chosen(self) -> frozenset[str]:
        """The numbers that a setting, such as the hole in use, picks among the part's values."""
        return frozenset(f.gives.number for f in self.fields if f.gives and f.gives.chosen_by)


_KINDS: dict[type[Part], PartKind] = {}
T = TypeVar("T", bound=type[Part])


def part(
    name: str,
    *,
    at: Shape,
    label: str,
    plural: str,
    feeds: tuple[str, ...] = (),
    none_fitted: Callable[[Any], Part] | None = None,
    assume_none: bool = False,
    rank: str = "",
    follows: tuple[str, ...] = (),
) -> Callable[[T], T]:
    """Enter a dataclass as the kind of part that the set number of the same name chooses.

    `feeds` names numbers that its own `brings` works out, and `follows` settings it does so by; `rank` is the field that sorts the
    inventory from soft to stiff. `none_fitted` makes what stands at a place said to have none.
    """

    def enter(cls: T) -> T:
        shown = tuple(_fields_of(cls, (), ""))
        feeding = [f.gives.number for f in shown if f.gives]
        feeding += [g.number for f in shown if f.table for g in f.table.feeds]
        _KINDS[cls] = PartKind(
            name,
            label,
            plural,
            at,
            (cls.__doc__ or "").strip(),
            cls,
            shown,
            none_fitted(cls) if none_fitted else None,
            assume_none,
            tuple(dict.fromkeys([*feeding, *feeds])),
            rank,
            follows,
        )
        return cls

    return enter


NUMBERS = {number.name: number for number in ENTERED}


def _fields_of(cls: type, path: tuple[str, ...], group: str) -> list[PartField]:
    """The declared fields of a dataclass, those of nested groups included, in their order."""
    hints = get_type_hints(cls, include_extras=True)
    found: list[PartField] = []
    for one in fields(cls):
        hint = hints[one.name]
        said = get_args(hint)[1] if get_origin(hint) is Annotated else None
        if said is None:
            continue
        here = (*path, one.name)
        if isinstance(said, Group):
            found += _fields_of(_nested(hint), here, said.label)
            continue
        missing = one.default is MISSING and one.default_factory is MISSING
        default = None if missing or one.default is MISSING else one.default
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
            number=_number(said.columns[0]),
            table=said,
            columns=tuple(map(_number, said.columns)),
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
                number=_number(column),
                table=listed,
                columns=(_number(column),),
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
            kind=kind, label=said.label, help=said.help, number=_number(said), **common
        )
    raise TypeError(f"{'.'.join(path)} is declared as {said!r}, which is no field")


def _number(own: Own) -> Number:
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


PLAIN = _number(Own("Words", "flag"))


def _nested(hint: Any) -> type:
    """The dataclass inside `Annotated[X | None, Group]`."""
    inner = get_args(hint)[0]
    options = get_args(inner) if get_origin(inner) in (Union, types.UnionType) else (inner,)
    return next(one for one in options if is_dataclass(one))  # type: ignore[return-value]


@cache
def part_kinds() -> dict[str, PartKind]:
    """Every kind of part by name, in the dictionary's order of the set numbers that choose them."""
    from . import parts, points  # entering happens on import

    assert parts and points
    order = list(NUMBERS)
    return {
        kind.name: kind for kind in sorted(_KINDS.values(), key=lambda one: order.index(one.name))
    }


def kind_of(cls: type[Part]) -> PartKind:
    return _KINDS[cls]


def part_kind(name: str) -> PartKind:
    """Raises UnknownName."""
    try:
        return part_kinds()[name]
    except KeyError:
        raise UnknownName(f"There is no kind of part called “{name}”.", value=name) from None


@cache
def fed_by_parts() -> dict[str, str]:
    """Entered numbers that come with a part: the kind that brings each."""
    return {number: kind.name for kind in part_kinds().values() for number in kind.feeds}


def valued(thing: Any, path: tuple[str, ...]) -> Any:
    """The value at a path of a part; None where a group on the way is not there."""
    for name in path:
        thing = None if thing is None else getattr(thing, name)
    return thing


def entered_fields(part: Part) -> dict[str, Any]:
    """All that was entered of a part, by field id: SI figures, words, or rows of figures."""
    found: dict[str, Any] = {"code": part.code, "fits": part.fits, "note": part.note}
    for one in kind_of(type(part)).fields:
        value = valued(part, one.path)
        found[one.id] = one.table.rows(value) if one.table and value is not None else value
    return found


def assembled(
    kind: PartKind, code: str, values: Mapping[str, Any], old: Part | None = None
) -> Part:
    """A part from flat values by field id. A group of which nothing is given stays away.

    What no field shows is kept from `old`. Raises what the part's own checks refuse.
    """
    tree: dict[str, Any] = {"code": code}
    for one in kind.fields:
        at = tree
        for name in one.path[:-1]:
            at = at.setdefault(name, {})
        at[one.path[-1]] = values.get(one.id)
    made = _made(kind.type, tree, old)
    assert isinstance(made, Part)
    return made


def _made(cls: type, tree: Mapping[str, Any], old: Any) -> Any:
    hints = get_type_hints(cls, include_extras=True)
    arguments = {f.name: getattr(old, f.name) for f in fields(cls)} if old is not None else {}
    for name, value in tree.items():
        if isinstance(value, dict):
            inner = _nested(hints[name])
            before = getattr(old, name, None) if old is not None else None
            given = {k: v for k, v in value.items() if v not in (None, "", (), False)}
            arguments[name] = _made(inner, value, before) if given else None
        elif value is None:
            arguments.pop(name, None)
        else:
            arguments[name] = value
    return cls(**arguments)


@cache
def picked_by(setting: str) -> frozenset[str]:
    """Numbers that a part gives by a setting: a bar's arm by its hole, a tyre's rate by its pressure."""
    kinds = part_kinds().values()
    picked = {
        field.gives.number
        for kind in kinds
        for field in kind.fields
        if field.gives and field.gives.chosen_by == setting
    }
    return frozenset(picked.union(*(kind.feeds for kind in kinds if setting in kind.follows)))
