"""Four weighing pads over TCP: how they are asked, and what may come back.

One line each way. `read` is answered by `LF=264.3 RF=262.0 LR=-- RR=245.1 still=1`: kilograms, `--` for
a pad that gives nothing, `still` once the readings stand. `settle` says that the car was rolled and
bounced. `car ID LF RF LR RR` tells a simulated set what stands on it; real pads have no use for it.
"""

from __future__ import annotations

import re
import socket
from collections.abc import Sequence
from dataclasses import dataclass

PLACES = ("LF", "RF", "LR", "RR")
SECONDS = 1.5
"""How long an answer may take."""
HEAVIEST, LONGEST = 3000.0, 200
"""The most that a pad may say [kg], and the most characters of a line."""
FRAME = re.compile(
    r"^LF=(?P<LF>\S+) RF=(?P<RF>\S+) LR=(?P<LR>\S+) RR=(?P<RR>\S+) still=(?P<still>[01])$"
)


class NoAnswer(Exception):
    """The pads do not answer, or not in a way that can be read. `args[0]` is a plain sentence."""


@dataclass(frozen=True)
class Frame:
    """What the pads say at one moment [kg]: None where one gives nothing."""

    loads: tuple[float | None, ...]
    still: bool


def address_of(text: str) -> tuple[str, int]:
    """`host:port` taken apart. Raises NoAnswer for anything else."""
    host, colon, port = text.rpartition(":")
    if not colon or not host or not port.isdigit() or not 0 < int(port) < 65536:
        raise NoAnswer(f"“{text}” is no address of pads: give it as host:port.")
    return host, int(port)


def ask(address: str, car: int, loads: Sequence[float], *, settle: bool = False) -> Frame:
    """One frame from the pads at an address. Raises NoAnswer."""
    told = " ".join(f"{one:.3f}" for one in loads)
    lines = [f"car {car} {told}", *(["settle"] if settle else []), "read", ""]
    try:
        with socket.create_connection(address_of(address), timeout=SECONDS) as line:
            line.sendall("\n".join(lines).encode("ascii"))
            answer = line.makefile("r", encoding="ascii", errors="replace").readline(LONGEST)
    except OSError:
        raise NoAnswer(
            f"The pads at {address} do not answer: check that they are switched on and connected."
        ) from None
    return parsed(answer)


def parsed(line: str) -> Frame:
    """A line of the pads. Raises NoAnswer for one that is not theirs, or a load that cannot be."""
    found = FRAME.match(line.strip())
    if found is None:
        raise NoAnswer("The pads sent a line that is not a reading: check what is connected there.")
    loads: list[float | None] = []
    for place in PLACES:
        told = found[place]
        try:
            value = None if told == "--" else float(told)
        except ValueError:
            value = float("nan")
        if value is not None and not 0.0 <= value <= HEAVIEST:
            raise NoAnswer(f"The {place} pad sent “{told[:20]}”, which is no load.")
        loads.append(value)
    return Frame(tuple(loads), found["still"] == "1")
