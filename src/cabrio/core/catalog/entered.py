"""The one dictionary of entered numbers: every number somebody types, sets, fits or reads (`readings.toml`).

A *given* number describes the car or the state we look at it in, a *set* one is what we choose or
what the chosen part brings, a *read* one is what an instrument said. Labels, units, bounds and
steps live here and nowhere else. Bounds are SI: `least`, `most` and `above` say what is possible at
all, `usual` outside of which a person is asked.
"""

from __future__ import annotations

from dataclasses import fields
from math import pi
from typing import Any

from ..constants import SHEAR_MODULUS_STEEL, STANDARD_GRAVITY, YOUNGS_MODULUS_STEEL
from .quantities import BAR_LINKS, LIVE_AXLES, Kind, Number, Shape
from .tables import rows

CAR, AXLE, CORNER, SIDE, BOLT = Shape.CAR, Shape.AXLE, Shape.CORNER, Shape.SIDE, Shape.BOLT
LINKED, ARMED = BAR_LINKS, ("three_link", "torque_arm", "leaf")
FOUR_LINK, TRACK_BAR = (
    ("parallel_four_link",),
    ("parallel_four_link", "three_link", "torque_arm", "leaf"),
)
DEGREE = pi / 180


def _given(
    group: str, name: str, shape: Shape, quantity: str, label: str, help: str, **more: object
) -> Number:
    return Number(name, Kind.GIVEN, shape, quantity, label, help, group=group, **more)  # type: ignore[arg-type]


def _set(name: str, shape: Shape, quantity: str, label: str, help: str, **more: object) -> Number:
    more.setdefault("on_slip", True)
    return Number(name, Kind.SET, shape, quantity, label, help, **more)  # type: ignore[arg-type]


def _fitted(
    name: str, shape: Shape, quantity: str, label: str, help: str, **more: object
) -> Number:
    """A number that comes with the part or the hole in use, not by itself."""
    return Number(name, Kind.SET, shape, quantity, label, help, **more)  # type: ignore[arg-type]


def read_number(row: dict[str, Any]) -> Number:
    """A read number as its row of readings.toml tells it. Raises ValueError for a key it does not have."""
    layouts = row.pop("layouts", ())
    told = {**row, "kind": Kind.READ, "shape": Shape(row["shape"]),
            "layouts": LIVE_AXLES if layouts == "live axle" else tuple(layouts)}  # fmt: skip
    if "usual" in told:
        told["usual"] = tuple(told["usual"])
    unknown = set(told) - {field.name for field in fields(Number)}
    if unknown:
        raise ValueError(f"readings.toml, {row.get('name')}: unknown {', '.join(sorted(unknown))}")
    return Number(**told)


WHOLE_CAR = (
    _given("car", "wheelbase", CAR, "dimension", "Wheelbase",
           "Front to rear axle line, straight ahead.", above=0.0, most=6.0, usual=(1.8, 3.6)),
    _given("car", "track", AXLE, "dimension", "Track",
           "Between the tyre centre lines of one axle.", above=0.0, most=3.0, usual=(1.1, 2.0)),
    _given("car", "unsprung_mass", CORNER, "mass", "Unsprung mass",
           "Wheel, tyre, brake, upright and half of what links them to the body.",
           above=0.0, most=300.0, usual=(12.0, 110.0)),
    _given("car", "unsprung_cg_height", AXLE, "dimension", "Unsprung CG height",
           "Where the mass of the wheels of this axle sits; near the hub.", above=0.0, most=0.8,
           usual=(0.2, 0.45)),
    _given("car", "cg_height", CAR, "dimension", "CG height",
           "Centre of gravity of the whole car above the ground. Raise the rear axle on the pads to "
           "measure it; mark it an estimate until then.", above=0.0, most=2.0, usual=(0.25, 0.8)),
    _given("car", "loaded_radius", AXLE, "dimension", "Loaded radius",
           "Ground to the wheel centre, tyre at pressure and car on its wheels.", above=0.0,
           most=0.8, usual=(0.2, 0.42)),
    _given("car", "roll_centre_height", AXLE, "height", "Roll centre height",
           "Height at which this axle's links pass sideways force to the body.", least=-0.5,
           most=1.0, usual=(-0.05, 0.45), sign="+ above the ground"),
    _given("car", "rear_brake_share", CAR, "share", "Rear brake share",
           "The rear axle's part of the braking force.", least=0.0, most=1.0, usual=(0.2, 0.6)),
    _given("car", "driver_mass", CAR, "mass", "Driver", "In full kit, as he sits in the car.",
           above=0.0, most=250.0, usual=(45.0, 130.0), default=80.0),
    _given("car", "wheel_offset", CORNER, "height", "Wheel offset",
           "Mounting face to the wheel's centre line.", least=-0.2, most=0.2, usual=(-0.06, 0.07),
           default=0.0, sign="+ mounting face outboard"),
    _given("car", "anti_dive", AXLE, "share", "Anti-dive",
           "Part of the braking load transfer that the links carry past the springs; at the rear "
           "this is the anti-lift.", least=-2.0, most=2.0, usual=(-0.2, 0.8), default=0.0),
)  # fmt: skip

SUSPENSION = (
    _given("suspension", "motion_ratio", CORNER, "ratio", "Motion ratio",
           "Spring travel over wheel travel, at ride height.",
           above=0.0, most=1.5, usual=(0.4, 1.1), sign="spring travel / wheel travel",
           either_way=True),
    _given("suspension", "motion_ratio_slope", CORNER, "ratio_slope", "Motion ratio slope",
           "How the motion ratio grows with wheel travel.", least=-20.0, most=20.0,
           usual=(-3.0, 3.0), default=0.0, sign="+ rising in bump"),
    _given("suspension", "spring_angle", CORNER, "angle", "Spring angle",
           "Between the spring and the direction its travel was measured in.",
           least=0.0, most=1.2, usual=(0.0, 0.8), default=0.0),
    _given("suspension", "spring_base", AXLE, "dimension", "Spring base",
           "Between the two springs of a beam axle. An independent axle takes its track.",
           above=0.0, most=3.0, usual=(0.6, 1.6)),
    _given("suspension", "perch_pitch", AXLE, "pitch", "Perch pitch",
           "How far one turn moves the spring perch along the spring.", above=0.0, most=0.02,
           usual=(0.001, 0.004)),
    _given("suspension", "tyre_rate", CORNER, "rate", "Tyre rate",
           "Vertical rate of the tyre at its pressure.",
           above=0.0, most=2.0e6, usual=(90e3, 500e3)),
    _given("suspension", "droop_travel", CORNER, "height", "Droop travel",
           "Wheel travel from ride height down to full extension.",
           least=0.0, most=0.6, usual=(0.005, 0.25)),
    _given("suspension", "bump_travel", CORNER, "height", "Bump travel",
           "Wheel travel from ride height up to the stop.",
           least=0.0, most=0.6, usual=(0.005, 0.25)),
    _given("suspension", "damper_motion_ratio", CORNER, "ratio", "Damper motion ratio",
           "Damper shaft travel over wheel travel, at ride height.", above=0.0, most=1.5,
           usual=(0.4, 1.1), sign="shaft travel / wheel travel"),
    _given("suspension", "damper_stroke", AXLE, "height", "Damper stroke",
           "Shaft travel from fully closed to fully open.", above=0.0, most=0.6,
           usual=(0.03, 0.25)),
    _given("suspension", "tender_rate", CORNER, "rate", "Tender rate",
           "Rate of the tender spring stacked on the main one; zero with a single spring.",
           least=0.0, most=1.0e6, default=0.0),
    _given("suspension", "tender_gap", CORNER, "height", "Tender gap",
           "How far the tender closes before the crossover ring stops it.", least=0.0, most=0.3,
           default=0.0),
    _given("suspension", "rubber_motion_ratio", AXLE, "ratio", "Bump rubber motion ratio",
           "Bump rubber travel over wheel travel.", above=0.0, most=1.5, usual=(0.3, 1.1),
           default=1.0),
)  # fmt: skip

AERO = (
    _given("aero", "lift_area", AXLE, "area", "Downforce area",
           "Downforce coefficient times area carried by this axle.", least=-3.0, most=12.0,
           usual=(0.0, 4.0), default=0.0, sign="+ presses down"),
    _given("aero", "least_height", AXLE, "height", "Least allowed height",
           "The lowest the named place of this axle may come at speed.", least=0.0, most=0.5,
           usual=(0.005, 0.1)),
)  # fmt: skip

LIVE_AXLE = (
    _given("links", "bolt_x", BOLT, "dimension", "Bolt ahead of the axle",
           "Bolt centre, fore and aft from the rear axle centre line, at ride height.",
           least=-2.0, most=4.0, usual=(-0.15, 1.6), sign="+ forward", layouts=LINKED),
    _given("links", "bolt_y", BOLT, "dimension", "Bolt off the centre line",
           "Bolt centre of the left bars, sideways from the car's centre line.", least=0.0,
           most=1.5, usual=(0.05, 0.7), sign="left bar; the right one mirrors it", layouts=("triangulated_four_link",)),
    _given("links", "bolt_z", BOLT, "dimension", "Bolt above the ground",
           "Bolt centre above the ground, at ride height; take off the height of any blocks.",
           least=-0.1, most=1.5, usual=(0.08, 0.7), layouts=LINKED),
    _given("links", "link_spacing", CAR, "dimension", "Bar spacing",
           "Between the left and the right bar of a pair.", above=0.0, most=2.0,
           usual=(0.3, 1.2), layouts=LIVE_AXLES),
    _given("links", "left_hand_pitch", CAR, "pitch", "Left-hand pitch",
           "Thread of the left-hand rod end of a bar; zero where that end is fixed.", least=0.0,
           most=0.01, usual=(0.001, 0.003), layouts=LINKED),
    _given("links", "right_hand_pitch", CAR, "pitch", "Right-hand pitch",
           "Thread of the right-hand rod end of a bar; zero where that end is fixed.", least=0.0,
           most=0.01, usual=(0.001, 0.003), layouts=LINKED),
    _given("links", "pinion_joint_x", CAR, "dimension", "Pinion joint ahead of the axle",
           "Centre of the rear universal joint.", least=0.0, most=1.0, usual=(0.1, 0.5),
           sign="+ forward", layouts=LIVE_AXLES),
    _given("links", "pinion_joint_z", CAR, "dimension", "Pinion joint above the ground",
           "Centre of the rear universal joint.", least=0.0, most=1.0, usual=(0.15, 0.5), layouts=LIVE_AXLES),
    _given("links", "gearbox_joint_x", CAR, "dimension", "Gearbox joint ahead of the axle",
           "Centre of the front universal joint.", least=0.0, most=4.0, usual=(0.6, 2.2),
           sign="+ forward", layouts=LIVE_AXLES),
    _given("links", "gearbox_joint_z", CAR, "dimension", "Gearbox joint above the ground",
           "Centre of the front universal joint.", least=0.0, most=1.0, usual=(0.15, 0.6), layouts=LIVE_AXLES),
    _given("links", "gearbox_slope", CAR, "angle", "Gearbox slope",
           "Slope of the gearbox's own output.", least=-0.3, most=0.3, usual=(-0.02, 0.1),
           sign="+ uphill to the front", layouts=LIVE_AXLES),
    _given("links", "track_bar_y", Shape.BAR_END, "dimension", "Track bar end off the centre line",
           "Bolt centre of the track bar, sideways.", least=-1.5, most=1.5, usual=(-0.8, 0.8),
           sign="+ to the left", layouts=TRACK_BAR),
    _given("links", "track_bar_z", Shape.BAR_END, "dimension", "Track bar end above the ground",
           "Bolt centre of the track bar, at ride height.", least=0.0, most=1.0, usual=(0.1, 0.5), layouts=TRACK_BAR),
    _given("links", "arm_length", SIDE, "dimension", "Trailing arm length",
           "Pivot to axle in side view. A leaf's front half counts as about three quarters of its "
           "eye-to-axle length.", above=0.0, most=2.0, usual=(0.25, 1.0), layouts=ARMED),
    _given("links", "arm_rise", SIDE, "height", "Axle above the arm's pivot",
           "Height of the arm's axle end above its pivot, at ride height.", least=-1.0, most=1.0,
           usual=(-0.1, 0.1), sign="+ axle end higher", layouts=ARMED),
)  # fmt: skip

ASKED = (
    _given("asked", "lateral_acceleration", CAR, "acceleration", "Cornering at",
           "The lateral acceleration that roll and load transfer are shown at.", least=0.0,
           most=60.0, usual=(0.0, 40.0), default=STANDARD_GRAVITY),
    _given("asked", "launch_acceleration", CAR, "acceleration", "Launching at",
           "The forward acceleration that the launch is shown at.", least=0.0, most=60.0,
           usual=(0.0, 45.0), default=STANDARD_GRAVITY),
    _given("asked", "braking", CAR, "acceleration", "Braking at",
           "The deceleration that heights at speed are shown at.", least=0.0, most=60.0,
           usual=(0.0, 40.0), default=0.0),
    _given("asked", "speed", CAR, "speed", "Speed",
           "The speed that downforce is shown at: the fastest point.", least=0.0, most=150.0,
           usual=(0.0, 110.0), default=0.0),
    _given("asked", "asked_travel", SIDE, "height", "Wheel travel to look at",
           "Travel of the rear wheels for which the axle's steer is shown.", least=-0.4, most=0.4,
           usual=(-0.15, 0.15), default=0.0, sign="+ bump", layouts=ARMED),
    _given("asked", "rim_diameter", CAR, "dimension", "Toe taken across",
           "The diameter across which toe is read in mm: rim, or the plates' length.", above=0.0,
           most=1.5, usual=(0.25, 0.75)),
    _given("asked", "bend_diameter", CAR, "dimension", "Housing read at",
           "The diameter at which the housing readings were taken.", above=0.0, most=1.0,
           usual=(0.15, 0.75), layouts=LIVE_AXLES),
    _given("asked", "rotor_diameter", CAR, "dimension", "Rotor diameter",
           "The rear rotor, which the limit of housing bend is told at.", above=0.0, most=0.6,
           usual=(0.2, 0.4), layouts=LIVE_AXLES),
)  # fmt: skip

CHOSEN = (
    _set("target_frequency", AXLE, "frequency", "Target frequency",
         "The ride frequency we want at this axle.", above=0.0, most=15.0, usual=(0.7, 6.0),
         step=0.05, on_slip=False),
    _set("tyre_in_series", CAR, "flag", "Tyre in series",
         "Whether the target frequency counts the tyre as a spring under the suspension.",
         least=0.0, most=1.0, default=0.0, on_slip=False),
    _set("hot_target", AXLE, "pressure", "Hot pressure wanted",
         "Gauge pressure wanted with the tyre hot.", above=0.0, most=6.0e5, usual=(0.3e5, 3.5e5),
         on_slip=False),
    _set("spring", CORNER, "part", "Spring", "The spring of the inventory fitted at this corner.",
         system="springs", stiffens="up"),
    _set("damper", CORNER, "part", "Damper", "The damper of the inventory fitted at this corner.",
         system="dampers"),
    _set("bar", AXLE, "part", "Anti-roll bar", "The bar of the inventory fitted at this axle.",
         system="bars"),
    _set("bump_rubber", AXLE, "part", "Bump rubber", "The bump rubber fitted at this axle.",
         system="springs"),
    _set("spacers", CORNER, "part", "Spacers and mounts", "The stack fitted at this corner.",
         system="springs"),
    _set("tyre", CORNER, "part", "Tyre", "The tyre of the inventory on this wheel.",
         system="tyres"),
    _set("bracket", BOLT, "part", "Link bracket", "The bracket with the holes for this bolt.",
         system="links", layouts=LINKED),
    _set("link", Shape.LINK, "part", "Link", "The bar fitted between its brackets.",
         system="links", layouts=LINKED),
    _set("ballast", Shape.BALLAST, "part", "Ballast", "A piece of ballast bolted to the car.",
         system="mass"),
    _set("other_part", Shape.SPARE, "part", "Other part", "Any other part worth a record.",
         system="other"),
    _set("perch_turns", CORNER, "turns", "Perch",
         "Turns of the spring perch from the mark made at build.", least=-40.0, most=40.0,
         step=0.25, system="springs", sign="+ raises the body"),
    _set("rubber_gap", AXLE, "height", "Bump rubber gap",
         "Rubber travel from ride height to first touch, set with packers.", least=0.0, most=0.3,
         usual=(0.0, 0.1), step=0.001, system="springs", sign="+ touches later"),
    _set("bar_hole", AXLE, "count", "Bar hole", "Hole of the bar arm in use, 1 nearest the bar.",
         least=1.0, most=12.0, step=1.0, system="bars", sign="1 is stiffest", stiffens="down",
         whole=True),
    _set("compression_clicks", CORNER, "clicks", "Compression",
         "Compression adjuster, in the counting its damper names.", least=0.0, most=80.0, step=1.0,
         system="dampers", stiffens="by_counting"),
    _set("rebound_clicks", CORNER, "clicks", "Rebound",
         "Rebound adjuster, in the counting its damper names.", least=0.0, most=80.0, step=1.0,
         system="dampers", stiffens="by_counting"),
    _set("tyre_pressure", CORNER, "pressure", "Cold pressure", "Gauge pressure, tyre cold.",
         above=0.0, most=6.0e5, usual=(0.3e5, 3.5e5), step=5e3, system="tyres"),
    _set("camber", CORNER, "angle", "Camber", "Lean of the wheel in front view.", least=-0.25,
         most=0.25, usual=(-0.13, 0.06), step=0.1 * DEGREE, system="alignment",
         sign="− top inward"),
    _set("caster", AXLE, "angle", "Caster", "Lean of the steering axis in side view.", least=-0.1,
         most=0.3, usual=(0.0, 0.2), step=0.25 * DEGREE, system="alignment",
         sign="+ top rearward"),
    _set("toe", CORNER, "fine_angle", "Toe", "Angle of the wheel in plan.", least=-0.12, most=0.12,
         usual=(-0.03, 0.03), step=0.05 * DEGREE, system="alignment", sign="+ toe-in"),
    _set("link_preload", CAR, "flats", "Link preload",
         "Flats on the upper right bar from neutral.", least=-6.0, most=6.0, usual=(-2.0, 2.0),
         step=0.5, system="links", sign="− longer, loads the left rear", layouts=FOUR_LINK),
    _set("upper_link_hole", CAR, "count", "Upper link hole",
         "Chassis hole of the upper bars, 1 lowest.", least=1.0, most=12.0, step=1.0, whole=True,
         system="links", layouts=LINKED),
    _set("lower_link_hole", CAR, "count", "Lower link hole",
         "Chassis hole of the lower bars, 1 lowest.", least=1.0, most=12.0, step=1.0, whole=True,
         system="links", layouts=LINKED),
    _set("front_limiter", CAR, "height", "Front travel limiter",
         "How far the front may rise at the wheel before its limiter stops it.", least=0.0,
         most=0.4, usual=(0.01, 0.25), step=0.005, system="links", sign="+ lets it rise further"),
)  # fmt: skip

WITH_PARTS = (
    _fitted("spring_rate", CORNER, "rate", "Spring rate", "Rate of the spring fitted.", above=0.0,
            most=3.0e6, usual=(8e3, 4e5)),
    _fitted("spring_free_length", CORNER, "dimension", "Free length",
            "Length of the spring unloaded.", above=0.0, most=1.0, usual=(0.08, 0.45)),
    _fitted("spring_solid_length", CORNER, "dimension", "Solid length",
            "Length of the spring with its coils touching.", above=0.0, most=0.8,
            usual=(0.02, 0.3)),
    _fitted("rubber_curve", AXLE, "curve", "Bump rubber curve",
            "Deflection against force of the bump rubber, from first touch."),
    _fitted("bar_outer", AXLE, "fine_dimension", "Bar diameter",
            "Outside diameter of the anti-roll bar in torsion; zero where none is fitted.",
            least=0.0, most=0.1, usual=(0.0, 0.05)),
    _fitted("bar_inner", AXLE, "fine_dimension", "Bar bore",
            "Inside diameter of a hollow bar; zero for a solid one.", least=0.0, most=0.1,
            default=0.0),
    _fitted("bar_length", AXLE, "dimension", "Bar length in torsion",
            "The part of the bar that twists.", above=0.0, most=2.5),
    _fitted("bar_arm", AXLE, "dimension", "Bar arm",
            "Arm at the hole in use, square to the drop link.", above=0.0, most=1.0),
    _fitted("bar_motion_ratio", AXLE, "ratio", "Bar motion ratio",
            "Travel of the bar's end over wheel travel.", above=0.0, most=2.0),
    _fitted("bar_shear_modulus", AXLE, "modulus", "Shear modulus of the bar",
            "Steel unless its maker says otherwise.", above=0.0, default=SHEAR_MODULUS_STEEL),
    _fitted("blade_width", AXLE, "fine_dimension", "Blade width",
            "The blade's larger side; zero where the arms are rigid.", least=0.0, default=0.0),
    _fitted("blade_thickness", AXLE, "fine_dimension", "Blade thickness",
            "The blade's smaller side.", least=0.0, default=0.0),
    _fitted("blade_length", AXLE, "dimension", "Blade length", "From its root to the drop link.",
            least=0.0, default=0.0),
    _fitted("blade_angle", AXLE, "angle", "Blade angle", "How the blade stands.", least=0.0,
            most=pi / 2, default=0.0, sign="0 flat and soft, 90° on edge"),
    _fitted("blade_guided", AXLE, "flag", "Blade tip guided",
            "Whether the tip is held in the plane of its load; a drop link with ball joints leaves "
            "it free.", least=0.0, most=1.0, default=0.0),
    _fitted("blade_youngs_modulus", AXLE, "modulus", "Young's modulus of the blade",
            "Steel unless its maker says otherwise.", above=0.0, default=YOUNGS_MODULUS_STEEL),
    _fitted("compression_low", CORNER, "damping", "Compression, low speed",
            "Chord of the damper's curve from 0 to 50 mm/s at the clicks set.", least=0.0),
    _fitted("compression_high", CORNER, "damping", "Compression, high speed",
            "Chord of the damper's curve from 100 to 250 mm/s at the clicks set.", least=0.0),
    _fitted("rebound_low", CORNER, "damping", "Rebound, low speed",
            "Chord of the damper's curve from 0 to 50 mm/s at the clicks set.", least=0.0),
    _fitted("rebound_high", CORNER, "damping", "Rebound, high speed",
            "Chord of the damper's curve from 100 to 250 mm/s at the clicks set.", least=0.0),
)  # fmt: skip

READINGS = tuple(read_number(row) for row in rows(__package__, "readings", "number"))
"""Declared beside the readings that take them."""

ENTERED: tuple[Number, ...] = (
    *WHOLE_CAR, *SUSPENSION, *AERO, *LIVE_AXLE, *ASKED, *CHOSEN, *WITH_PARTS, *READINGS,
)  # fmt: skip
