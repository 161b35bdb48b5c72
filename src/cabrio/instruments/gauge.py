"""An angle gauge over TCP: how it is asked, and what may come back.

One line each way. `zero` takes the surface it lies on as level. `read` is answered by `angle=3.4`: degrees
from level without a sign, as on its face, or `angle=--` while it is held still. `on CAR DEGREES` tells a
simulated gauge what it lies on; a real one has no use for it.
"""

from __future__ import annotations

import re

from .line import NoAnswer, exchange

STEEPEST = 90.0
ANSWER = re.compile(r"^angle=(?P<angle>\S+)$")


def ask(address: str, car: int, degrees: float, *, zero: bool = False) -> float:
    """What the gauge at an address shows [°, no sign]. Raises NoAnswer."""
    lines = [f"on {car} {degrees:.4f}", *(["zero"] if zero else []), "read"]
    return parsed(exchange(address, "angle gauge", lines))


def parsed(line: str) -> float:
    """A line of the gauge. Raises NoAnswer for one that is not its, or an angle that cannot be."""
    found = ANSWER.match(line.strip())
    if found is None:
        raise NoAnswer("The gauge sent a line that is no reading: check what is connected there.")
    if found["angle"] == "--":
        raise NoAnswer("The gauge has not settled: hold it still and read again.")
    try:
        angle = float(found["angle"])
    except ValueError:
        angle = -1.0
    if not 0.0 <= angle <= STEEPEST:
        raise NoAnswer(f"The gauge sent “{found['angle'][:20]}”, which is no angle.")
    return angle
