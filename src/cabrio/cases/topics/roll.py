"""Anti-roll bars, roll and sideways load transfer."""

from __future__ import annotations

from typing import Any

import numpy as np

from cabrio.core.catalog.parts import Bar, Blade
from cabrio.core.constants import RIGID_TYRE, SHEAR_MODULUS_STEEL, YOUNGS_MODULUS_STEEL
from cabrio.core.errors import OutOfRange
from cabrio.core.figures.bars import torsion_over
from cabrio.core.graph.evaluate import answer
from cabrio.core.solve import bars

from .shared import plain


def anti_roll_bar(given: dict[str, Any]) -> dict[str, Any]:
    bar = _bar(given)
    if not bar.outer > 0:
        raise OutOfRange(
            "A bar needs a diameter above zero.",
            number="bar_outer",
            value=bar.outer,
            allowed="above 0",
        )
    arm = bar.arm(int(given.get("hole", 0)) + 1) if "hole_arm_lengths_m" in given else bar.arms[0]
    got = bars.worked(bar, (arm,))
    figures = {
        "polar_second_moment_m4": "bar_polar_moment",
        "torsional_rate_n_m_per_rad": "bar_torsional_rate",
        "end_rate_torsion_n_per_m": "bar_end_rate_torsion",
        "end_rate_n_per_m": "bar_end_rate",
        "wheel_rate_in_roll_n_per_m": "bar_wheel_rate",
    }
    if bar.blade is not None:
        figures |= {
            "blade_second_moment_m4": "blade_second_moment",
            "blade_rate_n_per_m": "blade_rate",
        }
    answers: dict[str, Any] = {key: float(got[name].flat[0]) for key, name in figures.items()}
    if "track_m" in given:
        known = {"bar_wheel_rate": got["bar_wheel_rate"], "track": [given["track_m"]] * 2}
        stiffness = answer(["bar_roll_stiffness"], known)["bar_roll_stiffness"]
        answers["roll_stiffness_n_m_per_rad"] = float(stiffness.flat[0])
    answers["arm_length_m"] = arm
    answers["wheel_rates_in_roll_at_holes_n_per_m"] = [rung.wheel_rate for rung in bars.ladder(bar)]
    if other := given.get("other_bar"):
        over = torsion_over(
            np.asarray(bar.outer),
            np.asarray(bar.inner),
            np.asarray(other["outer_diameter_m"]),
            np.asarray(other.get("inner_diameter_m", 0.0)),
        )
        answers["torsion_rate_of_other_over_this"] = float(over)
    return answers


def _bar(given: dict[str, Any]) -> Bar:
    told = given.get("blade")
    blade = None
    if told is not None:
        blade = Blade(
            told["width_m"],
            told["thickness_m"],
            told["length_m"],
            (told.get("angle_rad", 0.0),),
            told.get("tip_sideways", "free") == "guided",
            told.get("youngs_modulus_pa", YOUNGS_MODULUS_STEEL),
        )
    arms = given.get("hole_arm_lengths_m") or [given["arm_length_m"]]
    return Bar(
        outer=given["outer_diameter_m"],
        inner=given.get("inner_diameter_m", 0.0),
        length=given["torsion_length_m"],
        arms=tuple(arms),
        motion_ratio=given.get("bar_motion_ratio", 1.0),
        blade=blade,
        shear_modulus=given.get("shear_modulus_pa", SHEAR_MODULUS_STEEL),
    )


def roll_and_lltd(given: dict[str, Any]) -> dict[str, Any]:
    axles = (given["front"], given["rear"])

    def both(key: str) -> list[Any]:
        return [axle[key] for axle in axles]

    wheelbase, cg = given["wheelbase_m"], given["sprung_cg_behind_front_axle_m"]
    if not 0 < cg < wheelbase:
        raise OutOfRange(
            "The sprung CG lies between the axles.",
            number="wheelbase",
            value=cg,
            allowed=f"0 to {wheelbase:g} m",
        )
    sprung = given["sprung_mass_kg"]
    front = sprung * (wheelbase - cg) / wheelbase
    unsprung = [half for axle in axles for half in (axle["unsprung_kg"] / 2,) * 2]
    springs = [mass / 2 for mass in (front, sprung - front) for _ in "lr"]
    tracks = both("track_m")
    bases = [
        axle.get("spring_base_m") if axle.get("kind") == "beam" else axle["track_m"]
        for axle in axles
    ]
    known: dict[str, Any] = {
        "wheelbase": wheelbase,
        "track": tracks,
        "unsprung_mass": unsprung,
        "pad_mass": [a + b for a, b in zip(springs, unsprung, strict=True)],
        "sprung_cg_height": given["sprung_cg_height_m"],
        "roll_centre_height": both("roll_centre_height_m"),
        "unsprung_cg_height": both("unsprung_cg_height_m"),
        "wheel_rate": [axle["wheel_rate_n_per_m"] for axle in axles for _ in "lr"],
        "spring_base": bases if None not in bases else None,
        "bar_roll_stiffness": [axle.get("bar_roll_stiffness_n_m_per_rad", 0.0) for axle in axles],
        "lateral_acceleration": given["lateral_acceleration_m_per_s2"],
        "tyre_rate": [
            RIGID_TYRE if axle.get("tyre_rate_n_per_m") is None else axle["tyre_rate_n_per_m"]
            for axle in axles
            for _ in "lr"
        ],
    }
    figures = {
        "spring_roll_stiffness_n_m_per_rad": "spring_roll_stiffness",
        "bar_roll_stiffness_n_m_per_rad": "bar_roll_stiffness",
        "axle_roll_stiffness_n_m_per_rad": "axle_roll_stiffness",
        "roll_moment_arm_m": "roll_moment_arm",
        "roll_gradient_rad_per_m_s2": "roll_gradient",
        "roll_angle_rad": "roll_angle",
        "wheel_pair_roll_rad": "wheel_pair_roll",
        "elastic_transfer_n": "elastic_transfer",
        "geometric_transfer_n": "geometric_transfer",
        "unsprung_transfer_n": "unsprung_transfer",
        "load_transfer_n": "load_transfer",
        "lltd_front_share": "lltd",
        "front_weight_share": "front_share",
        "starting_lltd_front_share": "starting_lltd",
        "roll_axis_slope": "roll_axis_slope",
    }
    got = answer(figures.values(), known)
    return {key: plain(got[name]) for key, name in figures.items()}
