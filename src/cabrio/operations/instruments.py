"""Reading an instrument beside the car: what it says now. Nothing is written down by it."""

from __future__ import annotations

from math import degrees

from sqlalchemy.orm import Session

from cabrio.core.car import differences
from cabrio.core.errors import Missing
from cabrio.core.sheet.what_if import try_lines
from cabrio.instruments import gauge, pads
from cabrio.instruments.line import NoAnswer

from .actor import Actor
from .bench import Bench, load
from .errors import Conflict

NONE = (
    "No pads are connected to this server: start it with CABRIO_PADS=host:port, or type what they "
    "show."
)


def load_bench(db: Session, actor: Actor, car_id: int) -> Bench:
    """The car that an instrument is read beside. Raises NotFound, or Forbidden to who may not read."""
    actor.must("read")
    return load(db, actor, car_id)


def pads_now(bench: Bench, address: str, *, settle: bool = False) -> pads.Frame:
    """What the pads say under this car. Raises Conflict where none answer, Missing where a simulated
    set cannot know what stands on it."""
    if not address:
        raise Conflict(NONE)
    try:
        return pads.ask(address, bench.row.id, loads_on(bench), settle=settle)
    except NoAnswer as silence:
        raise Conflict(str(silence.args[0])) from None


def loads_on(bench: Bench) -> list[float]:
    """What stands on the pads [kg]: the last that were read, moved by all that was done since."""
    read = [reading for reading in bench.readings if reading.kind == "pads"]
    sheet = bench.sheet()
    if read:
        last = max(read, key=lambda one: one.id)
        then = bench.booked(last.revision)
        lines = differences(bench.at(last.revision).setup, sheet.setup)
        found = try_lines(then, lines).value("pad_mass") if lines else None
        return list(last.whole("pad_mass")) if found is None else found.tolist()
    found = sheet.worked.values.get("pad_mass")
    if found is None:
        raise Missing(
            "Simulated pads need to know what stands on them: type the pads once.",
            number="pad_mass",
        )
    return [float(one) for one in found]


LIES_ON = {"pinion": "pinion_slope", "shaft": "shaft_slope"}
NO_GAUGE = (
    "No angle gauge is connected to this server: start it with CABRIO_GAUGE=host:port, or type what it "
    "shows."
)


def gauge_now(bench: Bench, address: str, surface: str, *, zero: bool = False) -> float:
    """What the gauge shows on the floor, the pinion or the shaft [°, no sign]; `zero` zeroes it there first.

    Raises Conflict where none answers, Missing where a simulated one cannot know what it lies on.
    """
    if not address:
        raise Conflict(NO_GAUGE)
    try:
        return gauge.ask(address, bench.row.id, _slope(bench, surface), zero=zero)
    except NoAnswer as silence:
        raise Conflict(str(silence.args[0])) from None


def _slope(bench: Bench, surface: str) -> float:
    """How far from level a surface of this car stands, as far as it is known [°]."""
    if surface == "floor":
        return 0.0
    found = bench.sheet().worked.values.get(LIES_ON[surface])
    if found is None:
        raise Missing(
            "A simulated gauge needs to know what it lies on: type the pinion and the joints once.",
            number="pinion_angle",
        )
    return degrees(float(found))
