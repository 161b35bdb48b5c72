"""Runs worked cases against the core's own figures: maps keys, contains no physics."""

from __future__ import annotations

import json
import re
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np

from cabrio.core.errors import CoreError
from cabrio.core.registry import evaluate
from cabrio.core.solve.stock import Spring, nearest
from cabrio.core.units import parse

FOLDER = Path(__file__).parent / "cases"
OTHER_UNITS = {"_in": ("in", "dimension", "_m"), "_lb": ("lb", "mass", "_kg")}


def in_si(given: dict[str, Any]) -> dict[str, Any]:
    """Values under keys of other units, as SI under the SI key."""
    found: dict[str, Any] = {}
    for key, value in given.items():
        for suffix, (unit, quantity, si) in OTHER_UNITS.items():
            if key.endswith(suffix):
                key = key.removesuffix(suffix) + si
                convert = lambda one, u=unit, q=quantity: parse(f"{one!r} {u}", q)  # noqa: E731
                value = [convert(v) for v in value] if isinstance(value, list) else convert(value)
        found[key] = value
    return found


def corner_weights(case: dict[str, Any]) -> dict[str, Any]:
    values = {
        "pad_mass": case["pads_kg"], "wheelbase": [case["wheelbase_m"]],
        "track": [case["front_track_m"], case["rear_track_m"]],
        "unsprung_mass": case.get("unsprung_kg"),
    }  # fmt: skip
    got = worked(values)
    return {
        "total_mass_kg": got["total_mass"], "front_share": got["front_share"],
        "left_share": got["left_share"], "cross_share": got["cross_share"],
        "rear_bite_kg": got["rear_bite"], "rear_bite_n": got["rear_bite"] * 9.80665,
        "balanced_cross_share": got["balanced_cross"],
        "cg_behind_front_axle_m": got["cg_behind_front"],
        "cg_ahead_of_rear_axle_m": case["wheelbase_m"] - got["cg_behind_front"],
        "cg_left_of_centre_m": got["cg_offset"], "sprung_kg": got.get("sprung_mass"),
    }  # fmt: skip


def _spring_values(case: dict[str, Any], rate: float | None) -> dict[str, Any]:
    ratio = case["motion_ratio"]
    if case.get("motion_ratio_is") == "wheel_per_spring":
        ratio = 1 / ratio
    one = {
        # a corner of this sprung mass: the pad less an unsprung mass of the same size again
        "pad_mass": 2 * case["sprung_mass_kg"], "unsprung_mass": case["sprung_mass_kg"],
        "motion_ratio": ratio, "spring_angle": case.get("spring_angle_rad", 0.0),
        "motion_ratio_slope": case.get("motion_ratio_slope_per_m", 0.0),
        "tyre_rate": case.get("tyre_rate_n_per_m"), "spring_rate": rate,
        "droop_travel": case.get("droop_travel_m"), "bump_travel": case.get("bump_travel_m"),
        "spring_free_length": case.get("free_length_m"),
        "spring_solid_length": case.get("solid_length_m"),
    }  # fmt: skip
    return {name: None if value is None else [value] * 4 for name, value in one.items()}


def springs_from_frequency(case: dict[str, Any]) -> dict[str, Any]:
    if "spring_rate_n_per_m" in case:
        got = worked(_spring_values(case, case["spring_rate_n_per_m"]))
        return {
            "wheel_rate_n_per_m": got["wheel_rate"][0], "ride_rate_n_per_m": got["ride_rate"][0],
            "ride_frequency_tyre_left_out_hz": got["ride_frequency"][0],
            "ride_frequency_tyre_in_series_hz": got["ride_frequency_on_tyre"][0],
        }  # fmt: skip
    suffix = "_on_tyre" if case["tyre_in_series"] else ""
    values = _spring_values(case, None) | {"target_frequency": [case["target_frequency_hz"]] * 2}
    got = worked(values, f"target_spring_rate{suffix}")
    wheel, spring = got[f"target_wheel_rate{suffix}"][0], got[f"target_spring_rate{suffix}"][0]
    tyre = case.get("tyre_rate_n_per_m", 0.0)
    answer = {
        "wheel_rate_n_per_m": wheel, "spring_rate_n_per_m": spring,
        "rate_for_frequency_n_per_m": wheel * tyre / (wheel + tyre) if suffix else wheel,
    }  # fmt: skip
    if stock := case.get("stock_spring_rates_n_per_m"):
        best = nearest([Spring(str(rate), rate) for rate in stock], spring)
        fitted = worked(_spring_values(case, best.rate))
        answer["nearest_stock_spring_rate_n_per_m"] = best.rate
        answer["nearest_stock_frequency_hz"] = fitted[f"ride_frequency{suffix}"][0]
    return answer


def spring_fit(case: dict[str, Any]) -> dict[str, Any]:
    got = worked(_spring_values(case, case["spring_rate_n_per_m"]), "bind_margin")
    seat, bind = got["seat_at_droop"][0], got["bind_margin"][0]
    return {
        "spring_force_n": got["spring_force"][0], "compression_m": got["static_compression"][0],
        "compression_at_full_droop_m": seat, "seated_at_full_droop": bool(seat > 0),
        "coil_bind_margin_m": bind,
        "coil_bind_margin_enough": bool(bind >= case.get("coil_bind_margin_wanted_m", 0.006)),
        "energy_seated_to_ride_j": got["spring_energy"][0],
        "energy_over_droop_travel_j": got["spring_energy_over_droop"][0],
        "wheel_rate_n_per_m": got["wheel_rate"][0],
    }  # fmt: skip


def worked(values: dict[str, Any], asked: str | None = None) -> dict[str, Any]:
    """The figures, or the refusal that stopped the one asked for (any, where none is named)."""
    found = evaluate(values)
    for name, refusal in found.refused.items():
        if asked is None or name == asked or asked not in found.values:
            raise refusal
    return found.values


TOPICS: dict[str, Callable[[dict[str, Any]], dict[str, Any]]] = {
    "corner_weights": corner_weights,
    "springs_from_frequency": springs_from_frequency,
    "spring_fit": spring_fit,
}
NOT_YET = {"perch_shift_m", "wheel_shift_m"}
"""Keys of these topics whose figures the core does not have yet; every other key must be met."""


def cases() -> Iterator[tuple[str, dict[str, Any]]]:
    for path in sorted(FOLDER.glob("*.json")):
        document = json.loads(path.read_text())
        for case in document["cases"]:
            yield document["topic"], case


def failures(topic: str, case: dict[str, Any]) -> list[str]:
    """What does not hold in a case: empty where it passes."""
    try:
        got = TOPICS[topic](in_si(case["given"]))
    except CoreError as refusal:
        return [] if "expect_error" in case else [f"refused: {refusal.sentence}"]
    if "expect_error" in case:
        return [f"should be refused: {case['expect_error']}"]
    wrong = []
    for key, expected in case["expect"].items():
        if key in NOT_YET:
            continue
        near = re.match("true|false", str(expected).lower()) and got[key] is expected
        if not near and not np.allclose(
            got[key], expected, rtol=case["rel_tol"], atol=case["abs_tol"]
        ):
            wrong.append(f"{key}: got {got[key]}, expected {expected}")
    return wrong
