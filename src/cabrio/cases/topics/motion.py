"""The quarter car over a sine road."""

from __future__ import annotations

from typing import Any

from cabrio.core.graph.evaluate import answer
from cabrio.core.simulate.quarter_car import QuarterCar, ride_sine

from .shared import four


def quarter_car(given: dict[str, Any]) -> dict[str, Any]:
    car = QuarterCar(
        given["sprung_mass_kg"],
        given["unsprung_kg"],
        given["wheel_rate_n_per_m"],
        given["tyre_rate_n_per_m"],
        given["wheel_damping_bump_n_s_per_m"],
        given["wheel_damping_rebound_n_s_per_m"],
    )
    road = given["road"]
    ride = ride_sine(car, road["amplitude_m"], road["wavelength_m"], road["speed_m_per_s"])
    known = {
        "sprung_mass": four(car.sprung_mass),
        "wheel_rate": four(car.wheel_rate),
        "tyre_rate": four(car.tyre_rate),
        "unsprung_mass": four(car.unsprung_mass),
    }
    figures = {
        "ride_frequency_tyre_left_out_hz": "ride_frequency",
        "ride_frequency_tyre_in_series_hz": "ride_frequency_on_tyre",
        "wheel_hop_hz": "wheel_hop",
    }
    got = answer(figures.values(), known)
    modes = car.modes()
    answers: dict[str, Any] = {key: float(got[name][0]) for key, name in figures.items()}
    answers |= {
        "natural_frequencies_hz": list(car.natural_frequencies()),
        "damped_natural_frequencies_hz": [frequency for frequency, _ in modes],
        "modal_damping_ratios": [ratio for _, ratio in modes],
        "road_frequency_hz": ride.road_frequency,
        "contact_load_variation": ride.load_variation,
        "least_tyre_load_n": ride.least_load,
        "mean_tyre_load_n": ride.mean_load,
        "leaves_ground": ride.leaves_ground,
        "body_movement_ratio": ride.body_movement_ratio,
        "contact_load_amplitude_per_road_amplitude_n_per_m": ride.load_per_amplitude,
    }
    return answers
