"""Four weighing pads over TCP: how they are asked, and what may come back.

One line each way. `read` is answered by `LF=264.3 RF=262.0 LR=-- RR=245.1 still=1`: kilograms, `--` for
a pad that gives nothing, `still` once the readings stand. `settle` says that the car was rolled and
bounced. `car ID LF RF LR RR` tells a simulated set what stands on it; real pads have no use for it.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass

from .line import NoAnswer, exchange

PLACES = ("LF", "RF", "LR", "RR")
HEAVIEST = 3000.0
"""The most that a pad may say [kg]."""
FRAME = re.compile(
    r"^LF=(?P<LF>\S+) RF=(?P<RF>\S+) LR=(?P<LR>\S+) RR=(?P<RR>\S+) still=(?P<still>[01])$"
)


@dataclass(frozen=True)
class Frame:
    """What the pads say at one moment [kg]: None where one gives nothing."""

    loads: tuple[float | None, ...]
    still: bool


def ask(address: str, car: int, loads: Sequence[float], *, settle: bool = False) -> Frame:
    """One frame from the pads at an address. Raises NoAnswer."""
    text = " ".join(f"{load:.3f}" for load in loads)
    lines = [f"car {car} {text}", *(["settle"] if settle else []), "read"]
    return parsed(exchange(address, "set of pads", lines))


def parsed(line: str) -> Frame:
    """A line of the pads. Raises NoAnswer for one that is not theirs, or a load that cannot be."""
    found = FRAME.match(line.strip())
    if found is None:
        raise NoAnswer("The pads sent a line that is not a reading: check what is connected there.")
    loads: list[float | None] = []
    for place in PLACES:
        text = found[place]
        try:
            value = None if text == "--" else float(text)
        except ValueError:
            value = float("nan")
        if value is not None and not 0.0 <= value <= HEAVIEST:
            raise NoAnswer(f"The {place} pad sent “{text[:20]}”, which is no load.")
        loads.append(value)
    return Frame(tuple(loads), found["still"] == "1")
