"""The one dictionary: every number the app knows, by name.

A *given* number describes the car, a *set* one is what we choose, a *read* one is what an instrument
said; *worked* numbers enter from their own function (see `registry`). Labels, units, bounds and steps
live here and nowhere else. Values are SI; a corner array is ordered LF, RF, LR, RR, an axle array
front, rear.
"""

from __future__ import annotations

from dataclasses import dataclass
from enum import StrEnum
from math import pi

from .errors import UnknownName


class Kind(StrEnum):
    GIVEN = "given"
    SET = "set"
    READ = "read"
    WORKED = "worked"


class Shape(StrEnum):
    CAR = "car"
    AXLE = "axle"
    CORNER = "corner"

    @property
    def places(self) -> tuple[str, ...]:
        return PLACES[self]


PLACES: dict[Shape, tuple[str, ...]] = {
    Shape.CAR: ("car",),
    Shape.AXLE: ("front", "rear"),
    Shape.CORNER: ("LF", "RF", "LR", "RR"),
}

PLACE_WORDS = {
    "car": "car",
    "front": "front",
    "rear": "rear",
    "LF": "left front",
    "RF": "right front",
    "LR": "left rear",
    "RR": "right rear",
}

AXLE_OF_CORNER = {"LF": "front", "RF": "front", "LR": "rear", "RR": "rear"}


@dataclass(frozen=True)
class Number:
    """One entry of the dictionary.

    `least` and `most` bound what is possible at all; outside `usual` a person is asked to confirm.
    All three are SI. `default` marks an optional number: what is assumed while nobody gave it.
    `system` groups the set numbers that one change to the car touches.
    """

    name: str
    kind: Kind
    shape: Shape
    quantity: str
    label: str
    help: str
    least: float | None = None
    most: float | None = None
    above: float | None = None
    usual: tuple[float, float] | None = None
    step: float | None = None
    default: float | None = None
    system: str | None = None
    on_slip: bool = False
    sign: str = ""
    formula: str = ""
    source: str = ""

    def where(self, place: str) -> str:
        """The label with its place, as a person would say it: 'spring, left rear'."""
        return self.label if place == "car" else f"{self.label}, {PLACE_WORDS[place]}"

    def index(self, place: str) -> int:
        if place not in self.shape.places:
            wanted = ", ".join(self.shape.places)
            raise UnknownName(
                f"{self.label} has no place “{place}”: use {wanted}.", number=self.name, place=place
            )
        return self.shape.places.index(place)


def _given(name: str, shape: Shape, quantity: str, label: str, help: str, **more: object) -> Number:
    return Number(name, Kind.GIVEN, shape, quantity, label, help, **more)  # type: ignore[arg-type]


def _set(name: str, shape: Shape, quantity: str, label: str, help: str, **more: object) -> Number:
    more.setdefault("on_slip", True)
    return Number(name, Kind.SET, shape, quantity, label, help, **more)  # type: ignore[arg-type]


def _read(name: str, shape: Shape, quantity: str, label: str, help: str, **more: object) -> Number:
    return Number(name, Kind.READ, shape, quantity, label, help, **more)  # type: ignore[arg-type]


CAR, AXLE, CORNER = Shape.CAR, Shape.AXLE, Shape.CORNER

ENTERED: tuple[Number, ...] = (
    _given("wheelbase", CAR, "dimension", "Wheelbase", "Front to rear axle line, straight ahead.",
           above=0.0, most=6.0, usual=(1.8, 3.6)),
    _given("track", AXLE, "dimension", "Track", "Between the tyre centre lines of one axle.",
           above=0.0, most=3.0, usual=(1.1, 2.0)),
    _given("unsprung_mass", CORNER, "mass", "Unsprung mass",
           "Wheel, tyre, brake, upright and half of what links them to the body.",
           above=0.0, most=300.0, usual=(12.0, 110.0)),
    _given("motion_ratio", CORNER, "ratio", "Motion ratio",
           "Spring travel over wheel travel, at ride height.",
           above=0.0, most=1.5, usual=(0.4, 1.1), sign="spring travel / wheel travel"),
    _given("motion_ratio_slope", CORNER, "ratio_slope", "Motion ratio slope",
           "How the motion ratio grows with wheel travel.", least=-20.0, most=20.0,
           usual=(-3.0, 3.0), default=0.0, sign="+ rising in bump"),
    _given("spring_angle", CORNER, "angle", "Spring angle",
           "Between the spring and the direction its travel was measured in.",
           least=0.0, most=1.2, usual=(0.0, 0.8), default=0.0),
    _given("tyre_rate", CORNER, "rate", "Tyre rate", "Vertical rate of the tyre at its pressure.",
           above=0.0, most=2.0e6, usual=(90e3, 500e3)),
    _given("droop_travel", CORNER, "height", "Droop travel",
           "Wheel travel from ride height down to full extension.",
           least=0.0, most=0.6, usual=(0.005, 0.25)),
    _given("bump_travel", CORNER, "height", "Bump travel",
           "Wheel travel from ride height up to the stop.",
           least=0.0, most=0.6, usual=(0.005, 0.25)),
    _set("target_frequency", AXLE, "frequency", "Target frequency",
         "The ride frequency we want at this axle.", above=0.0, most=15.0, usual=(0.7, 6.0),
         step=0.05, on_slip=False),
    _set("tyre_in_series", CAR, "flag", "Tyre in series",
         "Whether the target frequency counts the tyre as a spring under the suspension.",
         least=0.0, most=1.0, default=0.0, on_slip=False),
    _set("spring", CORNER, "part", "Spring", "The spring from the stores fitted at this corner.",
         system="springs"),
    _set("perch_turns", CORNER, "turns", "Perch",
         "Turns of the spring perch from the mark made at build.", least=-40.0, most=40.0,
         step=0.25, system="springs", sign="+ raises the body"),
    _set("bar_hole", AXLE, "count", "Bar hole", "Hole of the bar arm in use, 1 nearest the bar.",
         least=1.0, most=12.0, step=1.0, system="bars", sign="1 is stiffest"),
    _set("compression_clicks", CORNER, "clicks", "Compression",
         "Compression adjuster, in the counting its damper names.", least=0.0, most=80.0, step=1.0,
         system="dampers"),
    _set("rebound_clicks", CORNER, "clicks", "Rebound",
         "Rebound adjuster, in the counting its damper names.", least=0.0, most=80.0, step=1.0,
         system="dampers"),
    _set("tyre_pressure", CORNER, "pressure", "Cold pressure", "Gauge pressure, tyre cold.",
         above=0.0, most=6.0e5, usual=(0.3e5, 3.5e5), system="tyres"),
    _set("camber", CORNER, "angle", "Camber", "Lean of the wheel in front view.", least=-0.25,
         most=0.25, usual=(-0.13, 0.06), step=0.1 * pi / 180, system="alignment",
         sign="− top inward"),
    _set("toe", CORNER, "fine_angle", "Toe", "Angle of the wheel in plan.", least=-0.12, most=0.12,
         usual=(-0.03, 0.03), step=0.05 * pi / 180, system="alignment", sign="+ toe-in"),
    _set("link_preload", CAR, "flats", "Link preload",
         "Flats on the upper right bar from neutral.", least=-6.0, most=6.0, usual=(-2.0, 2.0),
         step=0.5, system="links", sign="− longer, loads the left rear"),
    _set("upper_link_hole", CAR, "count", "Upper link hole",
         "Chassis hole of the upper bars, 1 lowest.", least=1.0, most=12.0, step=1.0,
         system="links"),
    _set("lower_link_hole", CAR, "count", "Lower link hole",
         "Chassis hole of the lower bars, 1 lowest.", least=1.0, most=12.0, step=1.0,
         system="links"),
    _set("spring_rate", CORNER, "rate", "Spring rate", "Rate of the spring fitted.", above=0.0,
         most=3.0e6, usual=(8e3, 4e5), on_slip=False),
    _set("spring_free_length", CORNER, "dimension", "Free length", "Length of the spring unloaded.",
         above=0.0, most=1.0, usual=(0.08, 0.45), on_slip=False),
    _set("spring_solid_length", CORNER, "dimension", "Solid length",
         "Length of the spring with its coils touching.", above=0.0, most=0.8, usual=(0.02, 0.3),
         on_slip=False),
    _read("pad_mass", CORNER, "mass", "Pad", "What the scale pad under this wheel reads.",
          least=0.0, most=3000.0, usual=(60.0, 900.0)),
    _read("ride_height", CORNER, "height", "Ride height",
          "Floor to the named place on the body at this corner.", above=0.0, most=1.0,
          usual=(0.025, 0.4)),
    _read("fuel_mass", CAR, "mass", "Fuel", "Fuel in the tank, or the ballast standing in for it.",
          least=0.0, most=300.0, usual=(0.0, 130.0), default=0.0),
    _read("pinion_angle", CAR, "angle", "Pinion angle", "Pinion slope less shaft slope.",
          least=-0.3, most=0.3, usual=(-0.09, 0.02), sign="− nose down"),
)  # fmt: skip
