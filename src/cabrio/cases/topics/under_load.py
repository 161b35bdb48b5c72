"""The car under load, shaft torque and grip balance: the cases' keys to the core's objects and back."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np

from cabrio.core.checks import finite
from cabrio.core.constants import STANDARD_GRAVITY, STARTING_LLTD
from cabrio.core.errors import OutOfRange
from cabrio.core.figures.roll import starting_lltd
from cabrio.core.under_load.air import Air, AirMap
from cabrio.core.under_load.car import NO_LIMIT, LoadedCar, Rubber, SideView
from cabrio.core.under_load.demand import Demand, Shaft
from cabrio.core.under_load.grip import (
    Cornering,
    Tyres,
    balance,
    envelope,
    sideways_left,
    understeer_gradient,
)
from cabrio.core.under_load.limits import first_front_lift, first_lift, roll_over, wheels_up
from cabrio.core.under_load.state import Loaded, loaded


def _limits(values: list[float | None] | None) -> Any:
    finite(travel=[value for value in values or () if value is not None])
    return np.array([NO_LIMIT if value is None else value for value in values or [None] * 4])


def _rubber(rubber: dict[str, Any] | None) -> Rubber | None:
    if rubber is None:
        return None
    curve = np.array([rubber["deflection_m"], rubber["force_n"]], float)
    return Rubber(rubber["gap_m"], rubber["motion_ratio"], curve)


def _air(air: dict[str, Any] | None) -> Air | None:
    if air is None:
        return None
    chart = air.get("map")
    areas = None
    if chart is not None:
        areas = AirMap(
            *(
                np.asarray(chart[key], float)
                for key in (
                    "front_heights_m",
                    "rear_heights_m",
                    "front_lift_areas_m2",
                    "rear_lift_areas_m2",
                    "drag_areas_m2",
                )
            )
        )
    return Air(
        air["air_density_kg_per_m3"],
        np.asarray(air.get("lift_areas_m2", [0.0, 0.0]), float),
        air.get("drag_area_m2", 0.0),
        air.get("drag_height_m", 0.0),
        areas,
    )


def _car(given: dict[str, Any]) -> LoadedCar:
    connected = given.get("bars_connected", True)
    bars = np.asarray(given.get("bar_wheel_rates_in_roll_n_per_m", [0.0, 0.0]), float)
    finite(bar_wheel_rate=bars)
    tracks = np.asarray(given["tracks_m"], float)
    bases = given.get("spring_bases_m") or [None, None]
    beam = tuple(kind == "beam" for kind in given.get("axle_kinds", ["independent"] * 2))
    if any(is_beam and base is None for is_beam, base in zip(beam, bases, strict=True)):
        raise OutOfRange(
            "A beam axle needs the distance between its springs.", number="spring_base"
        )
    heights = given.get("static_ride_heights_m")
    car = LoadedCar(
        wheelbase=given["wheelbase_m"],
        tracks=tracks,
        pads=np.asarray(given["pads_kg"], float),
        unsprung=np.asarray(given["unsprung_kg"], float),
        unsprung_heights=np.asarray(given["unsprung_cg_heights_m"], float),
        cg_height=given["cg_height_m"],
        roll_centres=np.asarray(given["roll_centre_heights_m"], float),
        spring_rates=np.asarray(given["spring_rates_n_per_m"], float),
        ratios=np.asarray(given["motion_ratios"], float),
        tyre_rates=np.asarray(given["tyre_rates_n_per_m"], float),
        bar_rates=np.where(connected, bars, 0.0),
        beam=beam,
        spring_bases=np.array([t if b is None else b for t, b in zip(tracks, bases, strict=True)]),
        ratio_slopes=np.asarray(given.get("motion_ratio_slopes_per_m", [0.0] * 4), float),
        droop=_limits(given.get("droop_travels_m")),
        bump=_limits(given.get("bump_travels_m")),
        rubbers=[_rubber(one) for one in given.get("bump_rubbers") or [None] * 4],
        heights=None if heights is None else np.asarray(heights, float),
        brake_rear=given.get("brake_share_rear", 0.4),
        drive_rear=given.get("drive_share_rear", 1.0),
        air=_air(given.get("aero")),
    )
    return replace(
        car, **dict(zip(("anti_braking", "anti_driving"), _antis(given, car), strict=True))
    )


def _antis(given: dict[str, Any], car: LoadedCar) -> tuple[Any, Any]:
    sides = given.get("side_view")
    found = []
    for braking, key, rear in (
        (True, "anti_braking_shares", float(car.brake_rear)),
        (False, "anti_driving_shares", float(car.drive_rear)),
    ):
        if sides is None:
            found.append(np.asarray(given.get(key, [0.0, 0.0]), float))
            continue
        parts = (1 - rear, rear)
        found.append(
            np.array(
                [
                    0.0
                    if told is None
                    else _side(told).share(
                        braking, part, float(car.wheelbase), float(car.cg_height)
                    )
                    for told, part in zip(sides, parts, strict=True)
                ]
            )
        )
    return found[0], found[1]


def _side(side: dict[str, Any]) -> SideView:
    return SideView(
        side.get("ic_inboard_m", 0.0),
        side.get("ic_height_m", 0.0),
        side.get("loaded_radius_m", 0.0),
        side.get("ic_slope"),
        side.get("brakes", "outboard") == "outboard",
        side.get("drive", "on_body") == "through_links",
    )


def _acceleration(given: dict[str, Any], which: str) -> float:
    return float(given.get(f"{which}_acceleration_m_per_s2", 0.0))


def _demand(given: dict[str, Any]) -> Demand:
    told, shaft = given.get("shaft"), None
    if told is not None:
        shaft = Shaft(
            told.get("torque_n_m"),
            told.get("final_drive_ratio", 0.0),
            told.get("loaded_radius_m", 0.0),
            1 if told.get("turns_seen_from_front", "clockwise") == "clockwise" else -1,
        )
    return Demand(
        _acceleration(given, "longitudinal"),
        _acceleration(given, "lateral"),
        given.get("speed_m_per_s", 0.0),
        shaft,
    )


def _left(given: dict[str, Any]) -> bool:
    sideways = _acceleration(given, "lateral")
    return sideways > 0 if sideways else bool(given.get("turn", "left") == "left")


def _row(values: Any) -> list[Any]:
    found: list[Any] = np.asarray(values)[0].tolist()
    return found


def _or_none(value: Any) -> float | None:
    return None if np.isnan(value) else float(value)


def car_under_load(given: dict[str, Any]) -> dict[str, Any]:
    car, demand = _car(given), _demand(given)
    state = loaded(car, demand)
    answers: dict[str, Any] = _state(state)
    answers |= {
        "anti_braking_shares": car.anti_braking.tolist(),
        "anti_driving_shares": car.anti_driving.tolist(),
    }
    if "driven_axle" in given:
        share = car.axle_mass[0] / car.mass
        above = given.get("starting_lltd_above_weight_share", STARTING_LLTD[given["driven_axle"]])
        answers["starting_lltd_front_share"] = float(starting_lltd(share, np.asarray(above)))
    if "places" in given:
        heights = [float(state.height_at(*place)[0]) for place in _places(given)]
        answers["place_heights_m"] = heights
        answers["places_on_the_ground"] = [height <= 0 for height in heights]
    for asked in given.get("ask", ()):
        answers |= ASKED[asked](car, demand, _left(given))
    return answers


def _places(given: dict[str, Any]) -> list[tuple[float, float, float]]:
    """Each place behind the front axle, to the left, and its height standing."""
    found = [
        (one["behind_front_axle_m"], one.get("left_of_centre_m", 0.0), one["static_height_m"])
        for one in given.get("places", ())
    ]
    finite(places=found)
    return found


def _state(state: Loaded) -> dict[str, Any]:
    outside = state.outside
    answers: dict[str, Any] = {
        "contact_loads_n": _row(state.loads),
        "suspension_travels_m": _row(state.travels),
        "roll_angle_rad": float(state.roll[0]),
        "pitch_angle_rad": float(state.pitch[0]),
        "load_transfer_n": _row(state.transfer),
        "elastic_transfer_n": _row(state.elastic),
        "geometric_transfer_n": _row(state.geometric),
        "unsprung_transfer_n": _row(state.unsprung),
        "torque_transfer_n": _row(state.torque),
        "longitudinal_transfer_n": float(outside.transfer[0]),
        "jacking_forces_n": _row(outside.jacking),
        "lltd_front_share": _or_none(state.front_share[0]),
        "lifted": _row(state.lifted),
        "rubbers_touching": _row(state.rubbers_touching),
        "on_bump_stop": _row(state.on_bump_stop),
        "on_droop_stop": _row(state.on_droop_stop),
        "rubber_tables_exceeded": _row(state.rubber_tables_exceeded),
        "coils_loose": _row(state.coils_loose),
        "downforce_n": _row(outside.downforce),
        "drag_n": float(outside.drag[0]),
        "shaft_torque_n_m": float(outside.torque[0]),
        "rear_load_difference_n": float(state.loads[0, 2] - state.loads[0, 3]),
        "torque_handed_back_share": _or_none(state.handed_back[0]),
    }
    if state.heights is not None:
        answers["ride_heights_m"] = _row(state.heights)
    return answers


def _lateral_limits(car: LoadedCar, demand: Demand, left: bool) -> dict[str, Any]:
    over = roll_over(car, demand, left).at
    lift = first_lift(car, demand, left)
    return {
        "roll_over_lateral_acceleration_m_per_s2": over if left else -over,
        "first_lift_lateral_acceleration_m_per_s2": None if lift is None else lift[0],
        "first_lift_wheel": None if lift is None else lift[1],
    }


def _wheels_up(car: LoadedCar, demand: Demand, left: bool) -> dict[str, Any]:
    speed = float(demand.speed)
    return {
        "front_wheels_up_acceleration_m_per_s2": wheels_up(
            car, speed, forward=True, shaft=demand.shaft
        ),
        "rear_wheels_up_acceleration_m_per_s2": wheels_up(
            car, speed, forward=False, shaft=demand.shaft
        ),
    }


def _launch_lift(car: LoadedCar, demand: Demand, left: bool) -> dict[str, Any]:
    found = first_front_lift(car, float(demand.speed), demand.shaft)
    return {
        "first_front_lift_acceleration_m_per_s2": None if found is None else found[0],
        "first_front_lift_wheel": None if found is None else found[1],
    }


ASKED = {"lateral_limits": _lateral_limits, "wheels_up": _wheels_up, "launch_lift": _launch_lift}


def _tyres(given: dict[str, Any]) -> Tyres:
    rows = given["tyres"]

    def both(key: str, missing: float | None = None) -> Any:
        return np.array(
            [row[key] if missing is None else row.get(key, missing) for row in rows], float
        )

    return Tyres(
        both("grip"),
        both("grip_loss_share"),
        both("reference_load_n"),
        both("longitudinal_over_lateral_grip", 1.0),
    )


def _in_si(parts_of_g: float | None) -> float | None:
    return None if parts_of_g is None else parts_of_g * STANDARD_GRAVITY


def grip_balance(given: dict[str, Any]) -> dict[str, Any]:
    answers: dict[str, Any] = {}
    car, demand = _car(given), _demand(given)
    _places(given)
    if rows := given.get("cornering_stiffness"):
        told = [
            np.array([row[key] for row in rows], float)
            for key in ("per_load_per_rad", "loss_share", "reference_load_n")
        ]
        gradient, stiffness = understeer_gradient(Cornering(*told), loaded(car, demand))
        answers["axle_cornering_stiffness_n_per_rad"] = _row(stiffness)
        answers["understeer_gradient_rad_per_m_s2"] = float(gradient[0])
    if "tyres" not in given:
        return answers
    tyres, left = _tyres(given), _left(given)
    found = balance(car, tyres, demand, left)
    state = found.state
    answers |= {
        "axle_limit_lateral_accelerations_m_per_s2": [found.front, found.rear],
        "car_limit_lateral_acceleration_m_per_s2": found.car,
        "limited_by": found.limited_by,
        "grip_balance_acceleration_m_per_s2": _in_si(found.balance),
        "contact_loads_at_limit_n": _row(state.loads),
        "grip_at_limit": _row(tyres.at(state.loads)),
        "axle_capacities_at_limit_n": _row(sideways_left(tyres, state)),
        "lifted_at_limit": _row(state.lifted),
    }

    def change(other: dict[str, Any]) -> float | None:
        moved = balance(_car(given | other), _tyres(given | other), demand, left).balance
        if moved is None or found.balance is None:
            return None
        return _in_si(moved - found.balance)

    if (share := given.get("bar_change_share")) is not None:
        bars = given["bar_wheel_rates_in_roll_n_per_m"]
        key = "bar_wheel_rates_in_roll_n_per_m"
        answers["grip_balance_change_accelerations_m_per_s2"] = [
            change({key: [rate * (1 + share * (i == axle)) for i, rate in enumerate(bars)]})
            for axle in (0, 1)
        ]
    if (steps := given.get("steps")) is not None:
        answers["step_balance_change_accelerations_m_per_s2"] = [change(step) for step in steps]
    if (along := given.get("envelope_longitudinal_accelerations_m_per_s2")) is not None:
        limits = envelope(car, tyres, np.asarray(along, float), float(demand.speed), left)
        answers["envelope_lateral_accelerations_m_per_s2"] = [one for one, _ in limits]
        answers["envelope_limited_by"] = [by for _, by in limits]
    return answers
