"""One corner: its spring, its stack and its damper."""

from __future__ import annotations

from typing import Any

import numpy as np

from cabrio.core.car import Spring
from cabrio.core.catalog.parts import Adjustment, DynoCurve
from cabrio.core.checks import finite
from cabrio.core.constants import COIL_BIND_MARGIN
from cabrio.core.figures import stack
from cabrio.core.graph.evaluate import answer
from cabrio.core.sheet.stock import nearest
from cabrio.core.solve.clicks import BANDS, click_for

from .shared import four, plain, spring_per_wheel, two


def _corner(given: dict[str, Any], rate: float | None) -> dict[str, Any]:
    return {
        "sprung_mass": four(given.get("sprung_mass_kg")),
        "motion_ratio": four(spring_per_wheel(given)),
        "spring_angle": four(given.get("spring_angle_rad")),
        "motion_ratio_slope": four(given.get("motion_ratio_slope_per_m")),
        "tyre_rate": four(given.get("tyre_rate_n_per_m")),
        "spring_rate": four(rate),
        "droop_travel": four(given.get("droop_travel_m")),
        "bump_travel": four(given.get("bump_travel_m")),
        "spring_free_length": four(given.get("free_length_m")),
        "spring_solid_length": four(given.get("solid_length_m")),
        "perch_turns": four(given.get("perch_turns")),
        "perch_pitch": two(given.get("thread_pitch_m")),
        "track": two(1.0),  # a corner by itself: the spring stands at its wheel
        "spring_base": two(1.0),
    }


def springs_from_frequency(given: dict[str, Any]) -> dict[str, Any]:
    if "target_frequency_hz" not in given:
        return _forward(given)
    on_tyre = "_on_tyre" if given.get("tyre_in_series") else ""
    known = _corner(given, None) | {"target_frequency": two(given["target_frequency_hz"])}
    got = answer([f"target_wheel_rate{on_tyre}", f"target_spring_rate{on_tyre}"], known)
    wheel, spring = (float(got[f"target_{one}_rate{on_tyre}"][0]) for one in ("wheel", "spring"))
    answers = {
        "wheel_rate_n_per_m": wheel,
        "spring_rate_n_per_m": spring,
        "rate_for_frequency_n_per_m": wheel,
    }
    if on_tyre:
        ride = answer(["ride_rate"], known | {"wheel_rate": four(wheel)})["ride_rate"]
        answers["rate_for_frequency_n_per_m"] = float(ride[0])
    if stock := given.get("stock_spring_rates_n_per_m"):
        best = nearest([Spring(str(rate), rate) for rate in stock], spring)
        got = answer([f"ride_frequency{on_tyre}"], _corner(given, best.rate))
        answers["nearest_stock_spring_rate_n_per_m"] = best.rate
        answers["nearest_stock_frequency_hz"] = float(got[f"ride_frequency{on_tyre}"][0])
    return answers


def _forward(given: dict[str, Any]) -> dict[str, Any]:
    figures = {
        "wheel_rate_n_per_m": "wheel_rate",
        "ride_frequency_tyre_left_out_hz": "ride_frequency",
    }
    if given.get("tyre_rate_n_per_m") is not None:
        figures["ride_rate_n_per_m"] = "ride_rate"
        figures["ride_frequency_tyre_in_series_hz"] = "ride_frequency_on_tyre"
    got = answer(figures.values(), _corner(given, given["spring_rate_n_per_m"]))
    return {key: float(got[name][0]) for key, name in figures.items()}


def spring_fit(given: dict[str, Any]) -> dict[str, Any]:
    figures = {
        "spring_force_n": "spring_force",
        "compression_m": "static_compression",
        "compression_at_full_droop_m": "seat_at_droop",
        "coil_bind_margin_m": "bind_margin",
        "energy_seated_to_ride_j": "spring_energy",
        "energy_over_droop_travel_j": "spring_energy_over_droop",
        "wheel_rate_n_per_m": "wheel_rate",
    }
    if "perch_turns" in given:
        figures |= {"perch_shift_m": "perch_shift", "wheel_shift_m": "perch_wheel_shift"}
    got = answer(figures.values(), _corner(given, given["spring_rate_n_per_m"]))
    answers: dict[str, Any] = {key: float(got[name][0]) for key, name in figures.items()}
    wanted = given.get("coil_bind_margin_wanted_m", COIL_BIND_MARGIN)
    answers["seated_at_full_droop"] = answers["compression_at_full_droop_m"] > 0
    answers["coil_bind_margin_enough"] = answers["coil_bind_margin_m"] >= wanted
    return answers


def dual_rate(given: dict[str, Any]) -> dict[str, Any]:
    tender, main = given["tender_rate_n_per_m"], given["main_rate_n_per_m"]
    gap = given["tender_gap_m"]
    known = {
        "spring_rate": four(main),
        "tender_rate": four(tender),
        "tender_gap": four(gap),
        "motion_ratio": four(spring_per_wheel(given)),
        "spring_angle": four(given.get("spring_angle_rad")),
        "seat_at_droop": four(given.get("compression_at_full_droop_m", 0.0)),
    }
    names = [
        "stack_initial_rate",
        "crossover_travel",
        "crossover_force",
        "spring_motion_ratio",
        "crossover_from_droop",
    ]
    got = {name: float(answer(names, known)[name][0]) for name in names}
    travels = np.asarray(given["stack_travels_m"], dtype=np.float64)
    finite(stack_travel=travels)
    of = (np.asarray(main), np.asarray(tender), np.asarray(gap))
    rates = stack.stack_rate_at(travels, *of)
    return {
        "initial_rate_n_per_m": got["stack_initial_rate"],
        "crossover_travel_m": got["crossover_travel"],
        "crossover_force_n": got["crossover_force"],
        "crossover_wheel_travel_from_full_droop_m": got["crossover_from_droop"],
        "forces_n": plain(stack.stack_force(travels, *of)),
        "rates_n_per_m": plain(rates),
        "energies_j": plain(stack.stack_energy(travels, *of)),
        "wheel_rates_n_per_m": plain(
            stack.rate_at_wheel(rates, np.asarray(got["spring_motion_ratio"]))
        ),
    }


def damper_ratio(given: dict[str, Any]) -> dict[str, Any]:
    told, click = given["adjuster"], given["click"]
    curves = tuple(
        DynoCurve(one["click"], tuple(one["shaft_speed_m_per_s"]), tuple(one["force_n"]))
        for one in told["dyno"]
    )
    adjustment = Adjustment(told["clicks"], told["counted"], curves, told.get("dead_at"))
    ratio = spring_per_wheel(given)
    known = {
        "wheel_rate": four(given["wheel_rate_n_per_m"]),
        "sprung_mass": four(given["sprung_mass_kg"]),
        "damper_motion_ratio": four(ratio),
        "tyre_rate": four(given.get("tyre_rate_n_per_m")),
        "unsprung_mass": four(given.get("unsprung_kg")),
    }
    critical = float(answer(["critical_damping"], known)["critical_damping"][0])
    answers: dict[str, Any] = {
        "critical_damping_n_s_per_m": critical,
        "click_from_closed": adjustment.from_closed(click),
        "click_from_open": adjustment.from_open(click),
    }
    if "shaft_speeds_m_per_s" in given:
        speeds = np.asarray(given["shaft_speeds_m_per_s"], dtype=np.float64)
        answers["forces_n"] = plain(adjustment.force(click, speeds))
    for band, chord in (("low", "compression_low"), ("high", "compression_high")):
        slope = adjustment.chord(click, BANDS[band])  # type: ignore[index]
        name = f"compression_ratio_{band}"
        answers[f"secant_{band}_n_s_per_m"] = slope
        got = answer([name], known | {chord: four(slope)})
        answers[f"damping_ratio_{band}"] = float(got[name][0])
    if "target_ratio" in given:
        best = click_for(
            adjustment, given["target_ratio"], given.get("target_band", "low"), ratio, critical
        )
        answers |= {"best_click": best.click, "best_click_ratio": best.ratio}
    if given.get("tyre_rate_n_per_m") is not None and given.get("unsprung_kg") is not None:
        answers["wheel_hop_hz"] = float(answer(["wheel_hop"], known)["wheel_hop"][0])
    return answers
