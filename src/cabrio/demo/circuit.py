"""The circuit car: a road-based saloon finding its balance; a wrong pad reading, a change backed out."""

from __future__ import annotations

from datetime import date
from typing import Any

from cabrio.core.car import Adjuster, Car, Spring
from cabrio.core.catalog.inventory import Inventory
from cabrio.core.catalog.parts import Bar
from cabrio.core.catalog.points import Points
from cabrio.core.constants import DEGREE, ZERO_CELSIUS
from cabrio.core.record.readings import Taken

from .parts import ON_CORNERS, RUBBER, dampers
from .season import CarTale, Season, both, given

FRONT_POINTS = {
    "wheel_centre": (0.0, 765.5, 302.0),
    "lower_front": (28.0, 388.0, 168.0),
    "lower_rear": (-298.0, 382.0, 170.0),
    "lower_ball": (13.0, 693.0, 161.0),
    "strut_top": (-27.0, 556.0, 742.0),
    "strut_lower": (0.0, 626.0, 330.0),
    "tie_rod_inner": (-96.0, 362.0, 224.0),
    "tie_rod_outer": (-106.0, 664.0, 222.0),
}
"""The front strut as measured on the left [mm]; the rear is not measured yet, its numbers are typed."""


def front_points() -> Points:
    return Points(
        layout="strut",
        camber=-3.2 * DEGREE,
        toe=-0.05 * DEGREE,
        spring_on="strut",
        damper_on="strut",
        pitch=0.00125,
        rack_per_turn=0.052,
        rack_travel=0.062,
        places=tuple(
            (name, (x / 1000, y / 1000, z / 1000)) for name, (x, y, z) in FRONT_POINTS.items()
        ),
        code="front strut",
        fits="front",
    )


def car() -> Car:
    sizes = (
        (45, 0.2),
        (50, 0.2),
        (55, 0.2),
        (60, 0.2),
        (65, 0.18),
        (70, 0.18),
        (80, 0.18),
        (90, 0.16),
    )
    return Car(
        name="Wagtail",
        race_number="41",
        discipline="circuit",
        use="race_no_downforce",
        driven="rear",
        given={
            "wheelbase": given(2.492),
            "track": given(1.531, 1.518),
            "unsprung_mass": both(36.5, 38.0),
            "motion_ratio": both(0.94, 0.88),
            "tyre_rate": both(232e3, 228e3, estimated=True),
            "tyre_grip": given(1.52, 1.55, estimated=True),
            "tyre_grip_loss": given(0.15, 0.15, estimated=True),
            "tyre_grip_load": given(3000.0, 3000.0, estimated=True),
            "tyre_cornering": given(15.5, 16.6, estimated=True),
            "tyre_cornering_loss": given(0.14, 0.14, estimated=True),
            "droop_travel": both(0.044, 0.042),
            "bump_travel": both(0.055, 0.06),
            "unsprung_cg_height": given(0.302, 0.304),
            "cg_height": given(0.472),
            "loaded_radius": given(0.302, 0.304),
            "roll_centre_height": given(0.046, 0.092),
            "rear_brake_share": given(0.31),
            "perch_pitch": given(0.002, 0.002),
            "damper_motion_ratio": both(0.94, 0.88),
            "lift_area": given(0.18, 0.31),
            "hot_target": given(2.0e5, 1.95e5),
            "least_height": given(0.05, 0.055),
            "rubber_motion_ratio": given(0.94, 0.88),
            "speed": given(61.0),
            "rim_diameter": given(0.46),
            "braking": given(1.05 * 9.80665),
            "tank_behind_front": given(2.05),
            "tank_to_left": given(0.06),
            "tank_height": given(0.31),
            "fuel_start": given(34.0),
            "fuel_finish": given(6.0),
            "target_frequency": given(2.2, 2.35),
            "tyre_in_series": given(0.0),
        },
        adjusters={
            "perch_turns": Adjuster(-12, 12),
            "rubber_gap": Adjuster(0.0, 0.03),
            "bar_hole": Adjuster(1, 5),
            "compression_clicks": Adjuster(0, 24, "from_closed"),
            "rebound_clicks": Adjuster(0, 24, "from_closed"),
            "tyre_pressure": Adjuster(1.2e5, 2.6e5),
            "camber": Adjuster(-5 * DEGREE, 0.0),
            "toe": Adjuster(-0.6 * DEGREE, 0.6 * DEGREE),
        },
        parts=Inventory(
            spring=tuple(
                Spring(f"{rate}/{int(free * 1000)}", rate * 1e3, free, 0.06 + 0.0004 * rate)
                for rate, free in sizes
            ),
            damper=dampers(24, "from_closed", (0.61, 1.04), (0.62, 1.05)),
            bar=(
                Bar(
                    0.0254,
                    0.86,
                    (0.196, 0.212, 0.228, 0.244, 0.26),
                    0.62,
                    inner=0.0194,
                    code="front bar",
                    fits="front",
                ),
                Bar(
                    0.0191,
                    0.91,
                    (0.182, 0.198, 0.214, 0.23, 0.246),
                    0.66,
                    code="rear bar",
                    fits="rear",
                ),
            ),
            bump_rubber=(RUBBER,),
            points=(front_points(),),
        ),
    )


REAR_PERCH = 7.25
"""Turns up that carry the rear as high on 70/180 as on 60/200."""

SETUP: dict[str, list[Any]] = {
    "damper": ON_CORNERS,
    "bar": ["front bar", "rear bar"],
    "bump_rubber": ["soft 18", "soft 18"],
    "points": ["front strut", "front strut", None, None],
    "spring": ["55/200", "55/200", "60/200", "60/200"],
    "perch_turns": [0.0, 0.0, 0.0, 0.0],
    "rubber_gap": [0.018, 0.02],
    "bar_hole": [2.0, 3.0],
    "compression_clicks": [8.0, 8.0, 10.0, 10.0],
    "rebound_clicks": [12.0, 12.0, 11.0, 11.0],
    "tyre_pressure": [1.65e5, 1.65e5, 1.6e5, 1.6e5],
    "camber": [-3.2 * DEGREE, -3.2 * DEGREE, -2.2 * DEGREE, -2.2 * DEGREE],
    "toe": [-0.05 * DEGREE, -0.05 * DEGREE, 0.1 * DEGREE, 0.1 * DEGREE],
}


def tell(season: Season) -> None:
    season.at(date(2026, 9, 4), 8)
    tale = season.add_car(car(), SETUP)
    _first_readings(tale)
    _gannet_sands(season, tale)
    _mossgate(season, tale)


def _first_readings(tale: CarTale) -> None:
    tale.stood(
        heights=[0.0942, 0.0944, 0.0987, 0.0986],
        pads=[264.8, 262.1, 247.3, 245.1],
    )
    tale.read("pressures", also={"cold_temperature": [17.0 + ZERO_CELSIUS]})
    tale.measure("heights", repeats=2)
    wrong = tale.measure("pads", upset=tale.carried_by_bars(-0.016), bars_free=False, fuel=22.0)
    tale.withdraw(wrong, "Front bar was connected and carried load: cross read 48 %.")
    tale.measure("pads", repeats=2, fuel=22.0)
    for kind in (
        "droop",
        "clearance",
        "clicks",
        "alignment",
        "bar_neutral",
        "loaded_torque",
        "bolts",
    ):
        tale.read(kind)


def _gannet_sands(season: Season, tale: CarTale) -> None:
    event = season.event("Late Summer Cup", "Gannet Sands", date(2026, 9, 12), 2, lap="3.62 km")
    tale.session(event, "Practice", "practice", date(2026, 9, 12), 9, "dry, green", 17, 21)
    tale.run(
        11,
        "1:47.92",
        3,
        "set 2, 9 laps old",
        turn_in="Takes a moment to bite.",
        mid_corner="Pushes on in the long right, all through.",
    )
    softer = tale.book(
        [("bar_hole", "front", 3.0)],
        "Pushes in the long right.",
        "Less front load transfer: nose in sooner, same exit.",
    )
    tale.read("bar_neutral")
    tale.read("bolts")
    tale.run(
        9, "1:47.31", 4, "set 2", mid_corner="Better. It follows now.", floor={"front": "free"}
    )
    tale.verdict(softer, "better", "keep", "Half a second, and calmer.")
    tale.session(
        event, "Qualifying", "qualifying", date(2026, 9, 12), 14, "dry, rubbered in", 21, 33
    )
    stiff = tale.book(
        [
            *(("spring", place, "70/180") for place in ("LR", "RR")),
            *(("perch_turns", place, REAR_PERCH) for place in ("LR", "RR")),
        ],
        "Rear slow to take a set in the esses.",
        "Quicker change of direction. Perches up for the shorter spring: same height.",
    )
    tale.measure("heights")
    tale.read("bolts")
    tale.run(
        6,
        "1:47.88",
        2,
        "set 3, new",
        exit="Loose on throttle everywhere.",
        bumps_and_kerbs="Skips over the kerb at 6.",
        released="Pads are across the paddock: heights are back, cross as before by the sums.",
    )
    tale.verdict(stiff, "worse", "back out", "Too far in one step: no trust on exit.")
    back = tale.back_out(stiff)
    tale.verdict(back, "not tested", "keep", "Back where we were.")
    tale.measure("heights", repeats=2)
    tale.measure("pads", fuel=22.0)
    tale.read("bolts")
    tale.session(event, "Race", "race", date(2026, 9, 13), 13, "dry", 19, 30)
    tale.run(
        18,
        "1:46.95",
        4,
        "set 3",
        exit="Good for twelve laps, then a little loose.",
        floor={"front": "free", "rear": "free"},
    )
    tale.read(
        "hot_tyres",
        [2.02e5, 2.04e5, 1.93e5, 1.94e5],
        also={
            name: [degrees + ZERO_CELSIUS for degrees in row]
            for name, row in {
                "hot_temperature": (58.5, 54.5),
                "tread_inner": (84.0, 86.0, 88.0, 89.5),
                "tread_middle": (85.5, 87.0, 84.0, 85.0),
                "tread_outer": (87.5, 84.5, 80.5, 81.5),
            }.items()
        },
        note="Left front outer edge grained.",
        taken=Taken(instrument="tread probe"),
    )


def _mossgate(season: Season, tale: CarTale) -> None:
    event = season.event(
        "Autumn Meeting",
        "Mossgate Ring",
        date(2026, 10, 17),
        2,
        "Rough in the last sector; short of run-off at 3.",
        lap="2.94 km",
    )
    tale.session(event, "Practice", "practice", date(2026, 10, 17), 9, "damp, drying", 9, 10)
    tale.run(
        8,
        "1:21.40",
        3,
        "set 4",
        bumps_and_kerbs="Patters over the last sector.",
        floor={"front": "touched", "rear": "free"},
    )
    step = tale.book(
        [("compression_clicks", place, 12.0) for place in ("LR", "RR")],
        "Patters over the last sector.",
        "Rear wheels stay down; a touch slower to turn.",
    )
    tale.read("clicks")
    tale.run(10, "1:20.72", 4, "set 4", bumps_and_kerbs="Follows the road now.")
    tale.verdict(step, "better", "keep")
    tale.session(event, "Race", "race", date(2026, 10, 18), 14, "dry, cold", 11, 15)
    tale.book(
        [("perch_turns", "LF", 0.5), ("perch_turns", "RR", 0.5)],
        "Left front locks first into 3.",
        "A little cross off: the left front carries more of the braking.",
        by=season.teo,
    )
    tale.measure("heights")
    tale.run(
        14,
        "1:19.88",
        4,
        "set 5",
        braking="Straighter. Locks are even.",
        released="Five minutes to the grid. Half a turn each, jam nuts looked at.",
        floor={"front": "free", "rear": "free"},
    )
    tale.watch("limit", "Series rule book, with driver", number="total_mass", least="960 kg")
    tale.watch("service", "Springs: look for sink", every="20", unit="runs")
    tale.watch("service", "Damper gas recharge, by the damper's maker", every="600", unit="km")
    tale.watch("issue", "Left rear perch lock ring is scarred: replace it over the winter.")
    tale.watch(
        "torque",
        "Lower arm, inner pivots",
        pulled=True,
        value="85 N·m",
        source="the arm's maker",
        loaded=True,
        system="alignment",
    )
