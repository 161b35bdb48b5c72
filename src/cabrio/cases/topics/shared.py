"""What several topics need: plain floats out, conventions of ratios in."""

from __future__ import annotations

from typing import Any

import numpy as np


def plain(value: Any) -> Any:
    """Numpy values as floats and lists."""
    return value.tolist() if isinstance(value, np.ndarray | np.generic) else value


def spring_per_wheel(given: dict[str, Any], key: str = "motion_ratio") -> float:
    """The motion ratio as spring travel over wheel travel, whichever way the case says it."""
    ratio = float(given[key])
    if given.get("motion_ratio_is") == "wheel_per_spring":
        return 1 / ratio if ratio else float("inf")
    return ratio


def four(value: Any) -> Any:
    """One value at all four corners; None stays unknown."""
    return None if value is None else [value] * 4


def two(value: Any) -> Any:
    """One value at both axles; None stays unknown."""
    return None if value is None else [value] * 2
