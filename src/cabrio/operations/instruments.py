"""Reading an instrument beside the car: what it says now. Nothing is written down by it."""

from __future__ import annotations

from sqlalchemy.orm import Session

from cabrio.core.car import differences
from cabrio.core.errors import Missing
from cabrio.core.sheet.what_if import try_lines
from cabrio.instruments import pads

from .actor import Actor
from .bench import Bench, load
from .errors import Conflict

NONE = (
    "No pads are connected to this server: start it with CABRIO_PADS=host:port, or type what they "
    "show."
)


def at_the_pads(db: Session, actor: Actor, car_id: int) -> Bench:
    """The car whose pads are read. Raises NotFound, or Forbidden to who may not read."""
    actor.must("read")
    return load(db, actor, car_id)


def pads_now(bench: Bench, address: str, *, settle: bool = False) -> pads.Frame:
    """What the pads say under this car. Raises Conflict where none answer, Missing where a simulated
    set cannot know what stands on it."""
    if not address:
        raise Conflict(NONE)
    try:
        return pads.ask(address, bench.row.id, loads_on(bench), settle=settle)
    except pads.NoAnswer as silence:
        raise Conflict(str(silence.args[0])) from None


def loads_on(bench: Bench) -> list[float]:
    """What stands on the pads [kg]: the last that were read, moved by all that was done since."""
    read = [one for one in bench.readings if one.kind == "pads"]
    sheet = bench.sheet()
    if read:
        last = max(read, key=lambda one: one.id)
        then = bench.booked(last.revision)
        lines = differences(bench.at(last.revision).setup, sheet.setup)
        found = try_lines(then, lines).value("pad_mass") if lines else None
        return list(last.values["pad_mass"]) if found is None else found.tolist()
    found = sheet.worked.values.get("pad_mass")
    if found is None:
        raise Missing(
            "Simulated pads need to know what stands on them: type the pads once.",
            number="pad_mass",
        )
    return [float(one) for one in found]
