"""The parts a car owns: one list a kind, made from the declarations."""

from __future__ import annotations

from dataclasses import field, make_dataclass, replace
from typing import TYPE_CHECKING, Any, Self

from ..errors import Impossible, UnknownName
from .part import Part
from .part_kinds import part_kind, part_kinds

NONE_FITTED = "none"
"""The code that says, at a place, that nothing of this kind is fitted there."""


class _Lists:
    """What every inventory can do."""

    def of(self, kind: str) -> tuple[Part, ...]:
        """Every part of a kind, as entered."""
        found: tuple[Part, ...] = getattr(self, kind)
        return found

    def part(self, kind: str, code: Any) -> Part | None:
        """The part of that code; what stands for none fitted; None where there is no such code."""
        if code == NONE_FITTED:
            return part_kind(kind).none_fitted
        return next((one for one in self.of(kind) if one.code == code), None)

    def with_part(self, kind: str, part: Part, *, instead_of: str | None = None) -> Self:
        """With one part more, or in the place of an old code. Raises Impossible for a code in use."""
        parts = list(self.of(kind))
        at = next((i for i, one in enumerate(parts) if one.code == instead_of), len(parts))
        if any(one.code == part.code for i, one in enumerate(parts) if i != at):
            raise Impossible(
                f"There is already a {part_kind(kind).label.lower()} {part.code}.", number="code"
            )
        if not part.code or part.code == NONE_FITTED:
            raise Impossible("A part needs a code to be told by, such as 80/200.", number="code")
        parts[at : at + 1] = [part]
        return replace(self, **{kind: tuple(parts)})  # type: ignore[type-var]

    def without(self, kind: str, code: str) -> Self:
        """Raises UnknownName where there is no such part."""
        if not any(one.code == code for one in self.of(kind)):
            raise UnknownName(
                f"There is no {part_kind(kind).label.lower()} {code} in the inventory.", value=code
            )
        rest = tuple(one for one in self.of(kind) if one.code != code)
        return replace(self, **{kind: rest})  # type: ignore[type-var]


if TYPE_CHECKING:

    class Inventory(_Lists):
        def __init__(self, **kinds: tuple[Part, ...]) -> None: ...
else:
    Inventory = make_dataclass(
        "Inventory",
        [(kind.name, tuple[kind.type, ...], field(default=())) for kind in part_kinds().values()],
        bases=(_Lists,),
        frozen=True,
    )
    Inventory.__module__ = __name__
    Inventory.__doc__ = "Every part a car owns, by kind."
