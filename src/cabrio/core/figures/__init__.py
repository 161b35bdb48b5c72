"""The formulas, one subject a file. A formula is a plain function of arrays: SI in, SI out.

Arrays may carry leading batch dimensions: corner (…, 4), axle (…, 2), car (…), side (…, 2), bolt
(…, 4). Each docstring says what the figure is [unit], when it refuses, and, after “Wrong where”, when
not to use it.
"""

from collections.abc import Callable
from importlib import import_module
from typing import Any

SUBJECTS = (
    "masses",
    "springs",
    "stack",
    "frequency",
    "dampers",
    "bars",
    "roll",
    "links",
    "preload",
    "launch",
    "live_axle",
    "square",
    "heights",
    "measured",
    "alignment",
    "tyres",
    "grip",
    "air",
    "aero",
)


def load() -> None:
    """Import every subject, which enters its figures."""
    for subject in SUBJECTS:
        import_module(f"{__name__}.{subject}")


def standing(function: Callable[..., Any]) -> tuple[int, int]:
    """Where a formula stands: its subject in the order of work, then its line."""
    subject = function.__module__.rpartition(".")[2]
    return SUBJECTS.index(subject) if subject in SUBJECTS else 0, function.__code__.co_firstlineno
