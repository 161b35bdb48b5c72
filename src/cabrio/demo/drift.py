"""The drift car: kgf/mm, motion ratios noted wheel over spring; a snap in transition tamed at the rear."""

from __future__ import annotations

from datetime import date
from typing import Any

from cabrio.core.car import Adjuster, Car, Spring
from cabrio.core.catalog.inventory import Inventory
from cabrio.core.catalog.parts import Bar
from cabrio.core.constants import DEGREE

from .parts import ON_CORNERS, dampers
from .season import Season, both, given

KGF_PER_MM = 9806.65


def car() -> Car:
    rates = (4, 5, 6, 7, 8, 9, 10, 12)
    return Car(
        name="Sidewind",
        race_number="118",
        discipline="drift",
        use="drift",
        driven="rear",
        profile="kgf_mm",
        ratio_is="wheel_per_spring",
        given={
            "wheelbase": given(2.56),
            "track": given(1.56, 1.545),
            "unsprung_mass": both(37.0, 40.0, estimated=True),
            "motion_ratio": both(1 / 1.06, 1 / 1.19),
            "tyre_rate": both(240e3, 225e3, estimated=True),
            "tyre_grip": given(1.15, 1.2, estimated=True),
            "tyre_grip_loss": given(0.12, 0.12, estimated=True),
            "tyre_grip_load": given(3500.0, 3500.0, estimated=True),
            "droop_travel": both(0.04, 0.05),
            "unsprung_cg_height": given(0.31, 0.31),
            "cg_height": given(0.49, estimated=True),
            "loaded_radius": given(0.31, 0.31),
            "roll_centre_height": given(0.06, 0.11),
            "damper_motion_ratio": both(1 / 1.06, 1 / 1.19),
            "rim_diameter": given(0.457),
            "target_frequency": given(2.4, 2.1),
            "tyre_in_series": given(0.0),
        },
        adjusters={
            "perch_turns": Adjuster(-15, 15),
            "bar_hole": Adjuster(1, 3),
            "compression_clicks": Adjuster(0, 32, "from_closed"),
            "rebound_clicks": Adjuster(0, 32, "from_closed"),
            "tyre_pressure": Adjuster(1.0e5, 3.4e5),
            "camber": Adjuster(-7 * DEGREE, 0.0),
            "caster": Adjuster(4 * DEGREE, 9 * DEGREE),
            "toe": Adjuster(-0.8 * DEGREE, 0.8 * DEGREE),
        },
        parts=Inventory(
            spring=tuple(
                Spring(
                    f"{rate}K", rate * KGF_PER_MM, 0.2 if rate < 8 else 0.18, 0.07 + 0.002 * rate
                )
                for rate in rates
            ),
            damper=dampers(32, "from_closed", (0.9, 1.24), (0.9, 1.12)),
            bar=(
                Bar(
                    0.027, 0.88, (0.2, 0.22, 0.24), 0.6, inner=0.021, code="front bar", fits="front"
                ),
                Bar(0.018, 0.92, (0.19, 0.21, 0.23), 0.62, code="rear bar", fits="rear"),
            ),
        ),
    )


SETUP: dict[str, list[Any]] = {
    "damper": ON_CORNERS,
    "bar": ["front bar", "rear bar"],
    "spring": ["8K", "8K", "6K", "6K"],
    "perch_turns": [0.0, 0.0, 0.0, 0.0],
    "bar_hole": [2.0, 2.0],
    "compression_clicks": [14.0, 14.0, 16.0, 16.0],
    "rebound_clicks": [12.0, 12.0, 12.0, 12.0],
    "tyre_pressure": [2.1e5, 2.1e5, 1.8e5, 1.8e5],
    "caster": [7.5 * DEGREE, 5.0 * DEGREE],
    "camber": [-4.5 * DEGREE, -4.5 * DEGREE, -1.0 * DEGREE, -1.0 * DEGREE],
    "toe": [-0.2 * DEGREE, -0.2 * DEGREE, 0.1 * DEGREE, 0.1 * DEGREE],
}


FOUND: dict[str, Any] = {
    "caster_found": [[7.4 * DEGREE, 5.1 * DEGREE]],
    "also": {
        "camber_found": [one * DEGREE for one in (-4.45, -4.6, -1.05, -0.95)],
        "toe_found": [one * DEGREE for one in (-0.21, -0.18, 0.1, 0.12)],
    },
}
AT_LOCK: dict[str, Any] = {
    "inner_clearance": [[0.019, 0.021]],
    "also": {
        "inner_clearance_bump": [0.007, 0.009],
        "inner_clearance_droop": [0.015, 0.017],
        "outer_clearance": [0.026, 0.025],
        "outer_clearance_bump": [0.012, 0.011],
        "outer_clearance_droop": [0.022, 0.024],
        "lock_inner": [53.5 * DEGREE, 53.0 * DEGREE],
        "lock_outer": [45.0 * DEGREE, 44.5 * DEGREE],
    },
}
"""Least room at full lock and the lock itself, left and right."""


def tell(season: Season) -> None:
    season.at(date(2026, 9, 30), 17)
    tale = season.add_car(car(), SETUP)
    tale.read("pressures")
    tale.stood(heights=[0.1121, 0.1119, 0.1178, 0.1176], pads=[333.8, 322.6, 291.9, 286.7])
    tale.measure("heights")
    tale.measure("pads", fuel=18.0)
    for kind in (
        "droop",
        "clearance",
        "clicks",
        "bar_neutral",
        "loaded_torque",
        "bolts",
    ):
        tale.read(kind)
    tale.read("alignment", *FOUND["caster_found"], also=FOUND["also"])
    tale.read("full_lock", *AT_LOCK["inner_clearance"], also=AT_LOCK["also"])
    event = season.event("Dockside Night", "Quarry Dock", date(2026, 10, 24), 1)
    tale.session(event, "Practice", "practice", date(2026, 10, 24), 16, "dry, dusty", 14, 16)
    tale.run(
        5,
        None,
        3,
        "pair 1",
        initiation="Comes round well.",
        transition="Snaps on the change of direction.",
    )
    calm = tale.book(
        [("compression_clicks", "LR", 20.0), ("compression_clicks", "RR", 20.0)],
        "Snaps in transition.",
        "Rear takes the weight slower.",
    )
    tale.read("clicks")
    tale.run(4, None, 4, "pair 1", transition="Calmer; can wait for it.")
    tale.verdict(calm, "better", "keep")
    tale.session(event, "Battles", "battle", date(2026, 10, 24), 19, "dry", 11, 12)
    drive = tale.book(
        [("spring", "LR", "5K"), ("spring", "RR", "5K")],
        "Short of forward drive when chasing.",
        "More bite at the rear on throttle.",
    )
    tale.read("bolts", note="Heights not re-read: called to the line.")
    tale.run(
        3,
        None,
        4,
        "pair 2",
        throttle_on="Drives up to the lead car now.",
        released="Called to the line: same free length, heights right after.",
    )
    tale.verdict(drive, "better", "open", "Heights were never re-read: check before believing it.")
