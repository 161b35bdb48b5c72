"""The drag car: parallel four-link, imperial; preload that changed by itself turns out to be a bent bolt."""

from __future__ import annotations

from datetime import date
from typing import Any

from cabrio.core.car import Adjuster, Car, Spring
from cabrio.core.catalog.inventory import NONE_FITTED, Inventory
from cabrio.core.catalog.parts import Bar, Bracket
from cabrio.core.solve.preload import Bite

from .instruments import INCH, POUND
from .parts import ON_CORNERS, dampers
from .season import Season, both, given

LBF_PER_INCH = 175.12683524647636
PSI = 6894.757293168

BRACKETS = (
    Bracket(
        tuple((17.25 * INCH, z * INCH) for z in (13.25, 14.0, 14.75, 15.5, 16.25)),
        set_code="short bars",
        goes_on="upper chassis",
        code="upper chassis",
    ),
    Bracket(tuple((1.5 * INCH, z * INCH) for z in (17.75, 18.5, 19.25)), code="upper axle"),
    Bracket(
        tuple((23.5 * INCH, z * INCH) for z in (7.75, 8.5, 9.25, 10.0)),
        set_code="short bars",
        goes_on="lower chassis",
        code="lower chassis",
    ),
    # the other pair of plates: farther forward, for a longer instant centre
    Bracket(
        tuple((20.0 * INCH, z * INCH) for z in (13.5, 14.25, 15.0, 15.75, 16.5)),
        set_code="long bars",
        goes_on="upper chassis",
        code="upper chassis long",
    ),
    Bracket(
        tuple((28.0 * INCH, z * INCH) for z in (7.5, 8.25, 9.0, 9.75)),
        set_code="long bars",
        goes_on="lower chassis",
        code="lower chassis long",
    ),
    Bracket(tuple((1.25 * INCH, z * INCH) for z in (6.25, 7.0, 7.75)), code="lower axle"),
)


def clocked(
    sixty: float,
    at330: float,
    at660: float,
    mph660: float,
    at1000: float,
    at1320: float,
    mph: float,
) -> dict[str, str]:
    """A time slip as it was handed over: seconds, and miles an hour."""
    times = {"t60": sixty, "t330": at330, "t660": at660, "t1000": at1000, "t1320": at1320}
    speeds = {"v660": f"{mph660} mph", "v1320": f"{mph} mph"}
    return {name: f"{value}" for name, value in times.items()} | speeds


def car() -> Car:
    rates = (95, 110, 125, 140, 150, 175, 200, 225)
    return Car(
        name="Foundry Bell",
        race_number="7K",
        discipline="drag",
        use="drag",
        driven="rear",
        rear_layout="parallel_four_link",
        profile="imperial",
        given={
            "wheelbase": given(106.0 * INCH),
            "track": given(60.5 * INCH, 58.0 * INCH),
            "unsprung_mass": both(78 * POUND, 165 * POUND),
            "motion_ratio": both(0.62, 0.97),
            "tyre_rate": both(1150 * LBF_PER_INCH, 620 * LBF_PER_INCH, estimated=True),
            "tyre_grip": given(1.1, 1.7, estimated=True),
            "tyre_grip_loss": given(0.08, 0.08, estimated=True),
            "tyre_grip_load": given(4500.0, 4500.0, estimated=True),
            "droop_travel": both(3.5 * INCH, 2.75 * INCH),
            "bump_travel": both(2.25 * INCH, 2.0 * INCH),
            "cg_height": given(19.5 * INCH, estimated=True),
            "unsprung_cg_height": given(12.2 * INCH, 13.4 * INCH, estimated=True),
            "roll_centre_height": given(3.0 * INCH, 9.0 * INCH, estimated=True),
            "final_drive": given(4.1),
            "loaded_radius": given(12.4 * INCH, 13.6 * INCH),
            "spring_base": given(44.0 * INCH, 37.0 * INCH),
            "damper_motion_ratio": both(0.62, 0.97),
            "damper_stroke": given(5.5 * INCH, 6.0 * INCH),
            "bolt_x": given(17.25 * INCH, 1.5 * INCH, 23.5 * INCH, 1.25 * INCH),
            "bolt_z": given(14.0 * INCH, 18.5 * INCH, 8.5 * INCH, 7.0 * INCH),
            "link_spacing": given(33.0 * INCH),
            "track_bar_y": given(18.5 * INCH, -17.0 * INCH),
            "track_bar_z": given(9.4 * INCH, 8.7 * INCH),
            "left_hand_pitch": given(INCH / 16),
            "right_hand_pitch": given(INCH / 16),
            "pinion_joint_x": given(12.0 * INCH),
            "pinion_joint_z": given(13.6 * INCH),
            "gearbox_joint_x": given(56.0 * INCH),
            "gearbox_joint_z": given(14.9 * INCH),
            "gearbox_slope": given(0.049),
            "lateral_acceleration": given(0.3 * 9.80665),
            "launch_acceleration": given(1.9 * 9.80665),
            "target_frequency": given(1.2, 1.5),
            "tyre_in_series": given(0.0),
        },
        adjusters={
            "perch_turns": Adjuster(-10, 10),
            "compression_clicks": Adjuster(0, 18, "from_open"),
            "rebound_clicks": Adjuster(0, 18, "from_open"),
            "tyre_pressure": Adjuster(8 * PSI, 60 * PSI),
            "front_limiter": Adjuster(1.0 * INCH, 4.5 * INCH),
            "link_preload": Adjuster(-2, 2),
            "upper_link_hole": Adjuster(1, 5),
            "lower_link_hole": Adjuster(1, 4),
            "upper_axle_hole": Adjuster(1, 3),
            "lower_axle_hole": Adjuster(1, 3),
        },
        parts=Inventory(
            spring=tuple(
                Spring(
                    f"{rate}x{14 if rate < 150 else 12}",
                    rate * LBF_PER_INCH,
                    (14 if rate < 150 else 12) * INCH,
                    4.75 * INCH,
                )
                for rate in rates
            ),
            damper=dampers(18, "from_open", (1.1, 1.15), (0.5, 0.72)),
            bracket=BRACKETS,
            bar=(
                Bar(
                    1.25 * INCH,
                    40.0 * INCH,
                    (9.5 * INCH,),
                    0.92,
                    inner=INCH,
                    code="rear bar",
                    fits="rear",
                ),
            ),
        ),
    )


SETUP: dict[str, list[Any]] = {
    "damper": ON_CORNERS,
    "bar": [NONE_FITTED, "rear bar"],
    "bracket": ["upper chassis", "upper axle", "lower chassis", "lower axle"],
    "spring": ["225x12", "225x12", "150x12", "150x12"],
    "perch_turns": [0.0, 0.0, 0.0, 0.0],
    "compression_clicks": [6.0, 6.0, 8.0, 8.0],
    "rebound_clicks": [4.0, 4.0, 7.0, 7.0],
    "tyre_pressure": [42 * PSI, 42 * PSI, 15 * PSI, 15 * PSI],
    "link_preload": [-0.5],
    "front_limiter": [3.25 * INCH],
    "upper_link_hole": [5.0],
    "lower_link_hole": [1.0],
    "upper_axle_hole": [2.0],
    "lower_axle_hole": [2.0],
}


BITE = Bite(-24 * POUND, 0.0, None)
"""What a flat of the upper right bar does to this car's rear bite: two dozen pounds, minus to the left."""


def tell(season: Season) -> None:
    season.at(date(2026, 9, 18), 9)
    tale = season.add_car(car(), SETUP)
    tale.read("pressures")
    tale.bite = BITE
    tale.stood(
        heights=[x * INCH for x in (5.51, 5.49, 6.25, 6.26)],
        pads=[x * POUND for x in (741.6, 735.4, 716.2, 661.8)],
    )
    tale.measure("heights")
    tale.read("pinion", [-0.0384], also={"pinion_angle_hanging": [-0.0552]})
    tale.read("square")
    tale.measure("pads", fuel=11.0)
    tale.read(
        "droop",
        [x * INCH for x in (9.03, 8.97, 9.01, 8.99)],
        also={"shaft_showing": [2.2 * INCH, 2.15 * INCH]},
    )
    for kind in (
        "preload",
        "clearance",
        "bar_neutral",
        "clicks",
        "alignment",
        "loaded_torque",
        "bolts",
    ):
        tale.read(kind)
    event = season.event("Test and Tune", "Low Fen Strip", date(2026, 9, 26), 1)
    tale.session(event, "Morning passes", "test", date(2026, 9, 26), 10, "fair", 18, 24)
    tale.read("air", [291.4], also={"air_pressure": [101_200.0], "humidity": [0.58]})
    tale.run(
        1,
        None,
        3,
        "17 passes old",
        hit="Squats, then spins at 30 ft.",
        times=clocked(1.49, 4.22, 6.42, 109.5, 8.35, 10.02, 135.1),
    )
    holes = tale.book(
        [("upper_link_hole", "car", 2.0), ("lower_link_hole", "car", 2.0)],
        "Squats and spins at 30 ft on a fair surface.",
        "Anti-squat past 140 %: the rear separates and the tyre is hit at once.",
    )
    tale.read(
        "pinion",
        [-0.0279],
        also={"pinion_angle_hanging": [0.0052]},
        note="Nose up hanging: both upper bars shortened till it is a degree lower.",
    )
    tale.read("pinion", [-0.0454], also={"pinion_angle_hanging": [-0.0122]})
    tale.read(
        "square",
        [95.36 * INCH, 95.30 * INCH],
        also={"plumb_distance": [92.0 * INCH], "axle_points": [50.0 * INCH]},
        note="Front crossmember to the bearing faces.",
    )
    tale.read("preload")
    tale.read("bolts")
    tale.measure("pads", fuel=11.0)
    tale.run(
        1,
        None,
        3,
        "18 passes old",
        hit="Steps left, then hooks.",
        times=clocked(1.42, 4.1, 6.28, 110.4, 8.2, 9.87, 135.9) | {"off60": "13 in"},
    )
    tale.verdict(holes, "better", "keep", "Seven hundredths to 60 ft; now it steps left.")
    tale.run(
        1,
        None,
        3,
        "",
        hit="Left again.",
        times=clocked(1.44, 4.13, 6.31, 110.2, 8.24, 9.91, 135.7) | {"off60": "11.5 in"},
    )
    drift = tale.book(
        [("link_preload", "car", -1.0)],
        "Drives left off the line.",
        "More left-rear: straight to 60 ft.",
    )
    tale.read("preload")
    tale.read("bolts")
    tale.measure("pads", fuel=11.0)
    tale.run(
        1,
        None,
        4,
        "",
        hit="Straight.",
        times=clocked(1.39, 4.04, 6.21, 110.9, 8.12, 9.79, 136.3) | {"off60": "1.5 in"},
    )
    tale.verdict(drift, "better", "keep", "Half a flat did it.")
    season.at(date(2026, 10, 9), 18)
    tale.read("preload", [0.0], note="Back at neutral by itself.")
    tale.read(
        "damage_inspection",
        by=season.ines,
        note="Upper right bolt bent, hole good. Bolt replaced, welds and rod ends sound.",
        looked_at_holes=True,
        looked_at_welds=True,
        looked_at_bolts=True,
        looked_at_rod_ends=True,
        looked_at_housing=True,
    )
    tale.read("preload", [-1.0], note="Counted back on with the new bolt.")
    tale.read("bolts", note="The new bolt and its neighbours.")
    tale.session(
        season.event("Fenland Finals", "Low Fen Strip", date(2026, 10, 10), 2),
        "Qualifying",
        "qualifying",
        date(2026, 10, 10),
        11,
        "good, cool",
        12,
        14,
    )
    tale.read("air", [285.3], also={"air_pressure": [101_900.0], "humidity": [0.64]})
    tale.run(
        1,
        None,
        4,
        "",
        hit="Carries the nose, level.",
        times=clocked(1.36, 3.99, 6.14, 111.4, 8.05, 9.71, 136.8) | {"off60": "0.5 in"},
    )
    tighter = tale.book(
        [("rebound_clicks", "LF", 6.0), ("rebound_clicks", "RF", 6.0)],
        "Surface is good: nose comes up too quick.",
        "Slower rise, same 60 ft.",
    )
    tale.run(
        1,
        None,
        5,
        "",
        first_60_ft="Plants and goes.",
        times=clocked(1.35, 3.97, 6.12, 111.6, 8.02, 9.68, 137.0) | {"off60": "-1 in"},
    )
    tale.verdict(tighter, "better", "keep")
