"""The car on its sheet as the loaded car: what it needs, and what is assumed of it."""

from __future__ import annotations

from collections.abc import Mapping
from math import inf

import numpy as np

from ..arrays import Array
from ..car.model import Car
from ..constants import DRIVE_REAR
from ..graph.registry import Worked
from .air import Air, AirMap
from .car import LoadedCar, Rubber
from .demand import Shaft
from .grip import Cornering, Tyres

NEEDED = (
    "wheelbase",
    "track",
    "pad_mass",
    "unsprung_mass",
    "unsprung_cg_height",
    "cg_height",
    "roll_centre_height",
    "rate_at_ride",
    "spring_motion_ratio",
    "tyre_rate",
    "bar_wheel_rate",
    "spring_base",
)
GRIP = ("tyre_grip", "tyre_grip_loss", "tyre_grip_load")
CORNERING = ("tyre_cornering", "tyre_cornering_loss", "tyre_grip_load")
BRAKE_REAR = 0.4
"""Part of the braking at the rear axle while nobody gave it."""


def loaded_car(car: Car, worked: Worked) -> LoadedCar:
    """The loaded car of a sheet or of a car after a slip. Raises Missing with all that it lacks.

    Stops and rubbers that nobody measured are not there; a drive through all wheels is split evenly.
    """
    worked.require(NEEDED, "The car under load needs")
    v = worked.values
    ratios = v["spring_motion_ratio"]
    return LoadedCar(
        wheelbase=float(v["wheelbase"]),
        tracks=v["track"],
        pads=v["pad_mass"],
        unsprung=v["unsprung_mass"],
        unsprung_heights=v["unsprung_cg_height"],
        cg_height=float(v["cg_height"]),
        roll_centres=v["roll_centre_height"],
        spring_rates=v["rate_at_ride"],
        ratios=ratios,
        ratio_slopes=v["motion_ratio_slope"] * ratios / v["motion_ratio"],
        tyre_rates=v["tyre_rate"],
        bar_rates=v["bar_wheel_rate"],
        beam=(car.front_layout != "independent", car.rear_layout != "independent"),
        spring_bases=v["spring_base"],
        droop=_droop(v),
        bump=v.get("bump_travel", np.full(4, inf)),
        rubbers=_rubbers(v),
        gaps=np.repeat(v["rubber_gap"], 2) if "rubber_gap" in v else np.zeros(4),
        heights=v.get("ride_height"),
        brake_rear=float(v["rear_brake_share"]) if "rear_brake_share" in v else BRAKE_REAR,
        drive_rear=float(v["rear_drive_share"]),
        anti_braking=anti_in_braking(v),
        anti_driving=_in_drive(v),
        air=_air(v),
    )


def _droop(v: Mapping[str, Array]) -> Array:
    """Travel to the droop stops [m]; at the front a limiter that is set stops it earlier."""
    found: Array = v.get("droop_travel", np.full(4, inf))
    if "front_limiter" in v:
        limiter = np.array([float(v["front_limiter"])] * 2 + [inf] * 2)
        found = np.minimum(found, limiter)
    return found


def anti_in_braking(v: Mapping[str, Array]) -> Array:
    """What the links of both axles carry of the braking transfer (2,): at the rear of a live axle by its
    links, where they are known."""
    found: Array = np.asarray(v["anti_dive"], np.float64)
    if "links_slope" not in v:
        return found
    rear = float(v["rear_brake_share"]) if "rear_brake_share" in v else BRAKE_REAR
    lift = float(v["links_slope"]) * float(v["wheelbase"]) / float(v["cg_height"]) * rear
    return np.array([found[0], lift])


def _in_drive(v: Mapping[str, Array]) -> Array:
    """What the links carry of the driving transfer: by the points where they are known, by the bars."""
    anti: Array = np.nan_to_num(np.asarray(v.get("drive_anti", np.zeros(2)), np.float64))
    if "anti_squat" in v:
        anti = np.array([anti[0], float(v["anti_squat"]) * float(v["rear_drive_share"])])
    return anti


def _rubbers(v: Mapping[str, Array]) -> list[Rubber | None]:
    """The rubbers with no gap of their own: theirs is the car's, which a batch may vary."""
    if "rubber_curve" not in v or "rubber_gap" not in v:
        return [None] * 4
    found: list[Rubber | None] = []
    for corner in range(4):
        curve = v["rubber_curve"][corner // 2]
        ratio = float(v["rubber_motion_ratio"][corner // 2])
        found.append(Rubber(0.0, ratio, curve) if np.any(curve[1]) else None)
    return found


def _air(v: Mapping[str, Array]) -> Air | None:
    """Downforce as it was weighed at the wheels, or by the map fitted: the drag's own lever is in both."""
    if "air_density" not in v:
        return None
    density = float(v["air_density"])
    if "air_map" in v and "ride_height" in v:
        return Air(density, v["lift_area"], 0.0, 0.0, _map(v["air_map"]))
    return Air(density, v["lift_area"], 0.0) if np.any(v["lift_area"]) else None


def standing_lift(v: Mapping[str, Array]) -> Array | None:
    """Downforce areas (2,) [m²] by the map fitted, at the heights the car stands at; None without both."""
    if "air_map" not in v or "ride_height" not in v:
        return None
    return _map(v["air_map"]).at(v["ride_height"].reshape(2, 2).mean(-1))[0]


def _map(pressures: Array) -> AirMap:
    """The map of both axles (2, 4, n), its points sorted: a grid of front by rear heights."""
    front, rear = np.unique(pressures[0, 0]), np.unique(pressures[0, 1])
    size = (len(front), len(rear))
    tables = (pressures[0, 2], pressures[1, 2], pressures[0, 3])
    return AirMap(front, rear, *(table.reshape(size) for table in tables))


def shaft_of(car: Car, worked: Worked) -> Shaft | None:
    """The propeller shaft of a driven live rear axle, clockwise seen from the front; None without one."""
    v = worked.values
    live = car.rear_layout != "independent" and DRIVE_REAR[car.driven] > 0
    if not live or "final_drive" not in v or "loaded_radius" not in v:
        return None
    return Shaft(final_drive=float(v["final_drive"]), radius=float(v["loaded_radius"][1]))


def tyres(worked: Worked) -> Tyres | None:
    """The tyres' grip; None where it is not known."""
    if worked.lacking(GRIP):
        return None
    grip, loss, at = (worked.values[name] for name in GRIP)
    return Tyres(grip, loss, at, np.ones(2))


def cornering(worked: Worked) -> Cornering | None:
    """The tyres' cornering stiffness; None where it is not known."""
    if worked.lacking(CORNERING):
        return None
    return Cornering(*(worked.values[name] for name in CORNERING))
