"""What every schema is made of. Names of numbers come from the one dictionary."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypeAliasType

from cabrio.core.graph.registry import numbers
from cabrio.core.record.standing import Status as Status

if TYPE_CHECKING:
    NumberName = str
else:
    NumberName = TypeAliasType("NumberName", Literal[tuple(numbers())])


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class AsSent(BaseModel):
    """A body that is a file. Its route gets the bytes as they came, and looks at them itself: what is declared
    tells in the document what they are."""

    model_config = ConfigDict(extra="allow")


class FieldProblem(BaseModel):
    """What is wrong at one field, as a sentence; `allowed` is what would do."""

    pointer: str
    code: str
    detail: str
    number: str | None
    place: str | None
    allowed: str | None


class Problem(BaseModel):
    """RFC 9457 problem details: how every error leaves."""

    type: str
    title: str
    status: int
    code: str
    detail: str
    errors: list[FieldProblem]


class Ok(BaseModel):
    ok: bool = True
