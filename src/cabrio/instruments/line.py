"""A device beside the car on a TCP line: lines out, one line back. Addresses are `host:port`."""

from __future__ import annotations

import socket
from collections.abc import Iterable

SECONDS = 1.5
"""How long an answer may take."""
MAX_LINE_BYTES = 200
"""The most characters of a line."""


class NoAnswer(Exception):
    """A device does not answer, or not in a way that can be read. `args[0]` is a plain sentence."""


def address_of(text: str, what: str) -> tuple[str, int]:
    """`host:port` taken apart; `what` is the device. Raises NoAnswer for anything else."""
    host, colon, port = text.rpartition(":")
    if not colon or not host or not port.isdigit() or not 0 < int(port) < 65536:
        raise NoAnswer(f"“{text}” is no address of {what}: give it as host:port.")
    return host, int(port)


def exchange(address: str, what: str, lines: Iterable[str]) -> str:
    """Say these lines to the device at an address; its one line of answer. Raises NoAnswer."""
    text = "\n".join([*lines, ""])
    try:
        with socket.create_connection(address_of(address, what), timeout=SECONDS) as line:
            line.sendall(text.encode("ascii"))
            return line.makefile("r", encoding="ascii", errors="replace").readline(MAX_LINE_BYTES)
    except OSError:
        raise NoAnswer(
            f"The {what} at {address} does not answer: check that it is switched on and connected."
        ) from None
