"""Pads, centre of gravity, and the standing car after a change."""

from __future__ import annotations

from typing import Any

import numpy as np

from cabrio.core.checks import finite
from cabrio.core.errors import Missing
from cabrio.core.graph.evaluate import answer
from cabrio.core.solve import cg
from cabrio.core.solve.turns import Turned
from cabrio.core.solve.turns import turns_for_cross as turns
from cabrio.core.statics import Change, StandingCar, predict

from .shared import plain


def corner_weights(given: dict[str, Any]) -> dict[str, Any]:
    known = {
        "pad_mass": given["pads_kg"],
        "wheelbase": given["wheelbase_m"],
        "track": [given["front_track_m"], given["rear_track_m"]],
        "unsprung_mass": given.get("unsprung_kg"),
    }
    figures = {
        "total_mass_kg": "total_mass",
        "front_share": "front_share",
        "left_share": "left_share",
        "cross_share": "cross_share",
        "rear_bite_kg": "rear_bite",
        "rear_bite_n": "rear_bite_force",
        "balanced_cross_share": "balanced_cross",
        "cg_behind_front_axle_m": "cg_behind_front",
        "cg_ahead_of_rear_axle_m": "cg_ahead_of_rear",
        "cg_left_of_centre_m": "cg_offset",
    }
    if given.get("unsprung_kg") is not None:
        figures["sprung_kg"] = "sprung_mass"
    got = answer(figures.values(), known)
    return {key: plain(got[name]) for key, name in figures.items()}


def cg_height(given: dict[str, Any]) -> dict[str, Any]:
    if "rear_lift_m" not in given:
        found = cg.by_rule_of_thumb(
            camshaft=given.get("camshaft_height_m"), crankshaft=given.get("crankshaft_height_m")
        )
    else:
        front = given["loaded_radius_front_m"]
        found = cg.by_tilt(
            wheelbase=given["wheelbase_m"],
            total_mass=given["total_mass_kg"],
            front_level=given["front_pads_level_kg"],
            front_raised=given["front_pads_raised_kg"],
            radii=(front, given.get("loaded_radius_rear_m", front)),
            rear_lift=given["rear_lift_m"],
        )
    return {"cg_height_m": found.height, "tilt_angle_rad": found.tilt, "estimated": found.estimated}


def standing_car(given: dict[str, Any]) -> StandingCar:
    tracks = given["tracks_m"]
    kinds = given.get("axle_kinds", ["independent", "independent"])
    bases = given.get("spring_bases_m", [None, None])
    for kind, base in zip(kinds, bases, strict=True):
        if kind == "beam" and base is None:
            raise Missing("A beam axle needs its spring base.", number="spring_base")

    def array(key: str) -> Any:
        return np.asarray(given[key], dtype=np.float64)

    return StandingCar(
        wheelbase=given["wheelbase_m"],
        tracks=array("tracks_m"),
        pads=array("pads_kg"),
        unsprung=array("unsprung_kg"),
        spring_rates=array("spring_rates_n_per_m"),
        motion_ratios=array("motion_ratios"),
        tyre_rates=array("tyre_rates_n_per_m"),
        spring_bases=np.array(
            [
                base if kind == "beam" else track
                for track, kind, base in zip(tracks, kinds, bases, strict=True)
            ]
        ),
        bar_rates=np.asarray(given.get("bar_wheel_rates_in_roll_n_per_m", [0.0, 0.0])),
        bars_connected=given.get("bars_connected", False),
    )


def statics_after_change(given: dict[str, Any]) -> dict[str, Any]:
    changes = given["changes"]

    def array(key: str, count: int = 4) -> Any:
        return np.asarray(changes.get(key, [0.0] * count), dtype=np.float64)

    rates, tyres = changes.get("spring_rates_n_per_m"), changes.get("tyre_rates_n_per_m")
    ballast = [
        (b["mass_kg"], b["behind_front_axle_m"], b.get("left_of_centre_m", 0.0))
        for b in changes.get("ballast", [])
    ]
    pitches = np.asarray(given.get("thread_pitches_m", [0.0] * 4), dtype=np.float64)
    finite(perch_pitch=pitches, perch_turns=array("perch_turns"))
    stood = predict(
        standing_car(given),
        Change(
            perch_shifts=array("perch_turns") * pitches,
            spring_rates=None if rates is None else np.asarray(rates, dtype=np.float64),
            spring_free_length_changes=array("spring_free_length_changes_m"),
            tyre_rates=None if tyres is None else np.asarray(tyres, dtype=np.float64),
            tyre_radius_changes=array("tyre_free_radius_changes_m"),
            bar_wheel_shifts=array("bar_wheel_shifts_m", 2),
            ballast=tuple(ballast),
        ),
    )
    shares = answer(
        ["front_share", "left_share", "cross_share", "rear_bite"], {"pad_mass": stood.pads}
    )
    return {
        "pads_kg": plain(stood.pads),
        "ride_height_changes_m": plain(stood.ride_height_changes),
        "wheel_centre_height_changes_m": plain(stood.wheel_height_changes),
        "front_share": plain(shares["front_share"]),
        "left_share": plain(shares["left_share"]),
        "cross_share": plain(shares["cross_share"]),
        "rear_bite_kg": plain(shares["rear_bite"]),
    }


def turns_for_cross(given: dict[str, Any]) -> dict[str, Any]:
    found = turns(
        standing_car(given),
        given["target_cross_share"],
        np.asarray(given["thread_pitches_m"]),
        given["turn_step"],
    )
    answers: dict[str, Any] = {}
    kinds: tuple[tuple[str, Turned], ...] = (
        ("exact", found.exact),
        ("nearest", found.nearest),
        ("best", found.best),
    )
    for kind, turned in kinds:
        answers[f"perch_turns_{kind}"] = plain(turned.turns)
        answers[f"pads_{kind}_kg"] = plain(turned.standing.pads)
        answers[f"cross_share_{kind}"] = turned.cross
        answers[f"ride_height_changes_{kind}_m"] = plain(turned.standing.ride_height_changes)
    return answers
