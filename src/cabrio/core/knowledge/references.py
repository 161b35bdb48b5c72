"""References between the tables, as types: a field says of which table its values are, one reader checks them.

A field of type `NumberName` holds a number of the dictionary, a `Literal` one of a few words; both may stand
in a tuple, or in a row within the row. An empty word refers to nothing.
"""

from __future__ import annotations

from collections.abc import Collection, Hashable, Iterable, Iterator, Mapping
from dataclasses import dataclass, is_dataclass
from functools import cache
from types import UnionType
from typing import Annotated, Any, Literal, cast, get_args, get_origin, get_type_hints


@dataclass(frozen=True)
class Of:
    """The table whose rows a field names."""

    table: str


NumberName = Annotated[str, Of("number")]
SettingName = Annotated[str, Of("setting")]
Altered = Annotated[str, Of("number or job")]
ReadingName = Annotated[str, Of("reading")]
ConditionName = Annotated[str, Of("condition")]
StationName = Annotated[str, Of("station")]
ProcedureName = Annotated[str, Of("procedure")]
CautionName = Annotated[str, Of("caution")]
SymptomName = Annotated[str, Of("symptom")]
PhaseName = Annotated[str, Of("phase")]
DisciplineName = Annotated[str, Of("discipline")]
UseName = Annotated[str, Of("use")]
PlaceName = Annotated[str, Of("place")]
SchoolName = Annotated[str, Of("school")]
FeltName = Annotated[str, Of("felt amount")]

Known = Mapping[str, Collection[str]]


def check_references(rows: Iterable[Any], known: Known) -> None:
    """Refuse what names a row that does not exist, or says a word it cannot. Raises ValueError with the row."""
    for row in rows:
        for problem in _problems(row, known):
            raise ValueError(f"{_name(row)}: {problem}")


def _problems(row: Any, known: Known) -> Iterator[str]:
    for field, (kind, inside) in _hints(cast(Hashable, type(row))).items():
        value = getattr(row, field)
        for one in value if isinstance(value, tuple) else (value,):
            if is_dataclass(one):
                yield from (f"{_name(one)}: {problem}" for problem in _problems(one, known))
            elif isinstance(kind, Of) and one and one not in known[kind.table]:
                yield f"{field} names “{one}”, which is no {kind.table}"
            elif inside and one not in inside:
                yield f"{field} says “{one}”: {' or '.join(map(repr, inside))}"


@cache
def _hints(row_type: Hashable) -> dict[str, tuple[Of | None, tuple[Any, ...]]]:
    """What the fields of a type refer to, and the words they may say."""
    hints = get_type_hints(row_type, include_extras=True)
    return {name: _of(hint) for name, hint in hints.items() if not name.startswith("_")}


def _of(hint: Any) -> tuple[Of | None, tuple[Any, ...]]:
    if get_origin(hint) is Annotated:
        return next((one for one in hint.__metadata__ if isinstance(one, Of)), None), ()
    if get_origin(hint) is Literal:
        return None, get_args(hint)
    if get_origin(hint) is tuple or isinstance(hint, UnionType):
        return _of(get_args(hint)[0])
    return None, ()


def _name(row: Any) -> str:
    """A row as its own words tell it: by its id, else by the words of its first fields."""
    words = [getattr(row, field) for field in _hints(cast(Hashable, type(row)))]
    named = getattr(row, "id", "") or ", ".join(
        [word for word in words if word and isinstance(word, str)][:3]
    )
    return f"{type(row).__name__.lower()} {named}"
