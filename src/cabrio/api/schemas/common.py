"""What every schema is made of. Names of numbers come from the one dictionary."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict, Field, field_validator
from typing_extensions import TypeAliasType

from cabrio.core.graph.registry import numbers
from cabrio.core.record.standing import Status as Status

if TYPE_CHECKING:
    NumberName = str
else:
    NumberName = TypeAliasType("NumberName", Literal[tuple(numbers())])


MAX_TAG_CHARS = 80


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class IfMatch(BaseModel):
    """The version that the writer saw of what is corrected, as its view gives it: refused with 412 where somebody
    changed it meanwhile. Left out, it is written over."""

    model_config = ConfigDict(extra="ignore")
    seen: str | None = Field(default=None, alias="If-Match", max_length=MAX_TAG_CHARS)

    @field_validator("seen")
    @classmethod
    def without_quotes(cls, tag: str | None) -> str | None:
        """The tag itself; `*` is whatever stands there."""
        return None if tag in (None, "*") else tag.removeprefix("W/").strip('"')


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
