"""Instruments, as asked and as answered."""

from __future__ import annotations

from pydantic import BaseModel

from .common import In


class PadsIn(In):
    """`settle` says that the car was rolled and bounced just now."""

    settle: bool = False


class PadsView(BaseModel):
    """Loads [kg] by corner, None where a pad gives nothing; whether they stand still."""

    loads: list[float | None]
    still: bool
