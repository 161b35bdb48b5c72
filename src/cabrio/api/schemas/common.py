"""What every schema is made of. Names of numbers come from the one dictionary."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import BaseModel, ConfigDict
from typing_extensions import TypeAliasType

from cabrio.core.registry import numbers

if TYPE_CHECKING:
    NumberName = str
else:
    NumberName = TypeAliasType("NumberName", Literal[tuple(numbers())])

Typed = str | float | None
"""A value as typed (text with any unit) or as SI."""
Status = Literal["fresh", "doubtful", "void", "missing"]


class In(BaseModel):
    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


class Ok(BaseModel):
    ok: bool = True
