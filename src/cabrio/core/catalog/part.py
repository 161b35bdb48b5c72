"""How a kind of part is declared: once, as a dataclass whose fields say what they are and what they feed.

From the declaration follow the form on screen, its units and bounds, the car file, the API and where a
number is entered. How a field is declared: `fields`.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field, fields, replace
from functools import cached_property
from typing import Any, ClassVar, Literal, Protocol, TypeVar, get_type_hints

from .fields import NUMBERS, PartField, fields_of, nested
from .quantities import Shape, axle_of

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
class Part:
    """What every part has: a code, the axle it fits, and a note."""

    kind: ClassVar[PartKind]
    code: str = field(default="", kw_only=True)
    fits: Fits = field(default="both", kw_only=True)
    note: str = field(default="", kw_only=True)

    def provides(self, place: str, chosen: Chosen) -> dict[str, Any]:
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

    def check_on(self, facts: Mapping[str, Sequence[float | None]]) -> None:
        """Raise what cannot be on a car of these facts [SI], as far as they are known."""

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

    def range_of(self, setting: str) -> tuple[float, float] | None:
        """From where to where this part lets a setting go; None where it has no say."""
        values = self.picked(setting)
        return (1.0, float(len(values))) if len(values) > 1 else None

    def lacks(self, setting: str, value: float) -> str:
        """Why a setting cannot stand at a value on this part; empty where it can."""
        allowed = self.range_of(setting)
        if allowed is None or allowed[0] <= value <= allowed[1]:
            return ""
        kind, label = kind_of(type(self)).label, NUMBERS[setting].label.lower()
        low, high = allowed
        return f"{kind} {self.code}: {label} goes from {low:g} to {high:g}, not to {value:g}."

    def unfit(self, rear_layout: str) -> str:
        """Why this part cannot sit on a car of that rear layout; empty where it can."""
        return ""

    @property
    def stands_on(self) -> float | None:
        """The loaded radius of its wheel [m], where it tells one."""
        return None

    def fits_at(self, place: str) -> bool:
        return self.fits in ("both", axle_of(place)) or axle_of(place) not in AXLES


NOT_KNOWN = float("nan")
"""What a part brings for a number that is its own and cannot be told: nothing typical stands in for it."""


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

    @property
    def ranking_field(self) -> PartField | None:
        """The field whose figure puts the parts of this kind in order; None where nothing does."""
        figures = (one for one in self.fields if one.kind == "figure" and one.needed)
        return next(figures, None) if self.rank else None

    @cached_property
    def chosen(self) -> frozenset[str]:
        """The numbers that a setting, such as the hole in use, picks among the part's values."""
        return frozenset(f.gives.number for f in self.fields if f.gives and f.gives.chosen_by)


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
    """Declare a dataclass as the kind of part that the set number of the same name chooses; `part_kinds` lists it.

    `feeds` names numbers that its own `provides` works out, and `follows` settings it does so by; `rank` is the field that sorts the
    inventory from soft to stiff. `none_fitted` makes what stands at a place said to have none.
    """

    def enter(cls: T) -> T:
        shown = tuple(fields_of(cls, (), ""))
        feeding = [f.gives.number for f in shown if f.gives]
        feeding += [g.number for f in shown if f.table for g in f.table.feeds]
        cls.kind = PartKind(
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


def kind_of(cls: type[Part]) -> PartKind:
    """The kind as which a type of part was declared."""
    return cls.kind


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


def is_given(value: Any) -> bool:
    """Whether a field says anything: a group of which none does stays away."""
    return value not in (None, "", (), False)


def left_out(kind: PartKind, values: Mapping[str, Any]) -> list[PartField]:
    """Fields without which a group cannot be, where something else of it was given."""
    begun = {one.path[:-1] for one in kind.fields if is_given(values.get(one.id))} - {()}
    return [
        one
        for one in kind.fields
        if one.needed and one.path[:-1] in begun and not is_given(values.get(one.id))
    ]


def _made(cls: type, tree: Mapping[str, Any], old: Any) -> Any:
    hints = get_type_hints(cls, include_extras=True)
    arguments = {f.name: getattr(old, f.name) for f in fields(cls)} if old is not None else {}
    for name, value in tree.items():
        if isinstance(value, dict):
            inner = nested(hints[name])
            before = getattr(old, name, None) if old is not None else None
            arguments[name] = (
                _made(inner, value, before) if any(map(is_given, value.values())) else None
            )
        elif value is None:
            arguments.pop(name, None)
        else:
            arguments[name] = value
    return cls(**arguments)
