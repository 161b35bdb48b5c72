"""Sheets on paper."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from .common import In


class PaperQuery(In):
    paper: Literal["a4", "letter"] = "a4"


class ChangesQuery(PaperQuery):
    """Of the slip that made a revision; of one's own slip, or the last, without."""

    revision: int | None = Field(default=None, ge=1, le=1_000_000)
