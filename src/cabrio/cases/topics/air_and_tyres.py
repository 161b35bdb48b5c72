"""Heights under downforce, the air of the day, tyre pressures."""

from __future__ import annotations

from typing import Any

from cabrio.core.arrays import Array
from cabrio.core.catalog.parts import NO_RUBBER, BumpRubber, rubber
from cabrio.core.figures.rubber import exceeded
from cabrio.core.graph.evaluate import answer

from .shared import plain


def aero_ride_height(given: dict[str, Any]) -> dict[str, Any]:
    axles = given["axles"]
    # one axle alone stands in for both
    pair = axles if len(axles) == 2 else axles * 2

    def both(key: str, otherwise: float | None = None) -> list[Any]:
        return [axle.get(key, otherwise) for axle in pair]

    told = [axle.get("bump_rubber") for axle in pair]
    rubbers = [
        NO_RUBBER if one is None else rubber(tuple(one["deflection_m"]), tuple(one["force_n"]))
        for one in told
    ]
    points = max(len(rubber.deflection) for rubber in rubbers)
    known = {
        "lift_area": both("lift_area_m2"),
        "speed": given["speed_m_per_s"],
        "air_density": given["air_density_kg_per_m3"],
        "axle_height": both("static_height_m"),
        "least_height": both("least_height_m"),
        "anti_dive": both("anti_dive_share", 0.0),
        "braking_transfer": both("braking_load_transfer_n", 0.0),
        "wheel_rate": [axle["wheel_rate_n_per_m"] for axle in pair for _ in "lr"],
        "tyre_rate": [axle["tyre_rate_n_per_m"] for axle in pair for _ in "lr"],
        "rubber_curve": [rubber.curve(points) for rubber in rubbers],
        "rubber_gap": [0.0 if one is None else one["gap_m"] for one in told],
        "rubber_motion_ratio": [
            1.0 if one is None else one.get("motion_ratio", 1.0) for one in told
        ],
    }
    figures = {
        "downforce_n": "downforce",
        "ride_height_m": "height_at_speed",
        "suspension_travel_m": "travel_at_speed",
        "tyre_deflection_m": "tyre_squash_at_speed",
        "rubber_force_n": "rubber_force_at_speed",
        "least_ride_rate_n_per_m": "least_ride_rate",
        "least_wheel_rate_n_per_m": "least_wheel_rate",
    }
    got = answer(figures.values(), known)
    answers: dict[str, Any] = {key: plain(got[name])[: len(axles)] for key, name in figures.items()}
    answers["rubber_table_exceeded"] = [
        rubber is not NO_RUBBER and bool(past)
        for rubber, past in zip(rubbers, _past(rubbers, got), strict=True)
    ][: len(axles)]
    return answers


def _past(rubbers: list[BumpRubber], got: dict[str, Array]) -> list[bool]:
    squeezed = got["travel_at_speed"] * got["rubber_motion_ratio"] - got["rubber_gap"]
    return [
        bool(exceeded(rubber.curve(len(rubber.deflection)), one))
        for rubber, one in zip(rubbers, squeezed, strict=True)
    ]


def air_density(given: dict[str, Any]) -> dict[str, Any]:
    known = {
        "air_temperature": given["temperature_k"],
        "air_pressure": given["station_pressure_pa"],
        "humidity": given["relative_humidity"],
    }
    figures = {
        "vapour_pressure_pa": "vapour_pressure",
        "air_density_kg_per_m3": "air_density",
        "density_altitude_m": "density_altitude",
        "density_ratio_to_standard": "density_ratio",
    }
    got = answer(figures.values(), known)
    return {key: plain(got[name]) for key, name in figures.items()}


def tyre_pressure(given: dict[str, Any]) -> dict[str, Any]:
    answers: dict[str, Any] = {}
    if "hot_target_gauge_pa" in given:
        known = {
            "hot_target": [given["hot_target_gauge_pa"]] * 2,
            "cold_temperature": given["cold_temperature_k"],
            "hot_temperature": [given["hot_temperature_k"]] * 2,
            "air_pressure": given["atmospheric_pa"],
        }
        answers["cold_gauge_pa"] = float(answer(["cold_pressure"], known)["cold_pressure"][0])
    if "tread_temperatures_k" in given:
        tread = dict(
            zip(
                ("tread_inner", "tread_middle", "tread_outer"),
                ([one] * 4 for one in given["tread_temperatures_k"]),
                strict=True,
            )
        )
        got = answer(["inner_less_outer", "middle_less_edges"], tread)
        answers["inner_minus_outer_k"] = float(got["inner_less_outer"][0])
        answers["middle_minus_edges_k"] = float(got["middle_less_edges"][0])
    return answers
