"""The whole graph once more as one plain numpy function: what the bench holds the registry against.

Written straight down from the reference, without names, checks or reasons; a test compares every
number with the registry's.
"""

from __future__ import annotations

from typing import Any

import numpy as np

G, PI = 9.80665, np.pi


def mean(corner: Any) -> Any:
    return 0.5 * (corner[0::2] + corner[1::2])


def everything(k: dict[str, Any]) -> dict[str, Any]:
    r: dict[str, Any] = {}
    pads, us, track, base = k["pad_mass"], k["unsprung_mass"], k["track"], k["wheelbase"]
    total = pads.sum()
    front, left = (pads[0] + pads[1]) / total, (pads[0] + pads[2]) / total
    cross = (pads[1] + pads[2]) / total
    bite = pads[2] - pads[3]
    balanced = front * (1 - left) + (1 - front) * left
    ms = pads - us
    r |= {
        "total_mass": total,
        "front_share": front,
        "left_share": left,
        "cross_share": cross,
        "rear_bite": bite,
        "rear_bite_force": bite * G,
        "balanced_cross": balanced,
        "cross_off_balance": cross - balanced,
        "cg_behind_front": base * (1 - front),
        "cg_ahead_of_rear": base * front,
        "sprung_mass": ms,
        "rear_bite_share": bite / total,
        "cg_offset": ((pads[0] - pads[1]) * track[0] + bite * track[1]) / (2 * total),
    }
    radius = k["loaded_radius"]
    dr = radius[1] - radius[0]
    tilt = np.arcsin((k["rear_lift"] + dr) / np.hypot(base, dr)) - np.arctan2(dr, base)
    tan = np.tan(tilt)
    per_kg = (base - dr * tan) / (total * tan)
    r |= {
        "tilt_angle": tilt,
        "tilted_cg_error": per_kg,
        "tilted_cg_height": radius[0]
        + dr * (1 - front)
        + (k["front_raised_mass"] - front * total) * per_kg,
    }

    cos, slope, mr0 = np.cos(k["spring_angle"]), k["motion_ratio_slope"], k["motion_ratio"]
    mr = mr0 * cos
    # a beam's springs stand nearer together than its wheels
    both = np.repeat((ms[0::2] + ms[1::2]) / 2, 2)
    arm = np.repeat(np.array(k["track"]) / np.array(k["spring_base"]), 2)
    force = (both + (ms - both) * arm) * G / mr
    main, tender, gap = k["spring_rate"], k["tender_rate"], k["tender_gap"]
    series = main * tender / (main + tender)
    closed = force >= tender * gap
    squeeze = np.where(closed, gap + force / main, force / series)
    rate = np.where(closed, main, series)
    kw = rate * mr**2 + force * slope * cos
    kt = k["tyre_rate"]
    kr = kw * kt / (kw + kt)
    down, up = k["droop_travel"], k["bump_travel"]
    seat = squeeze - (mr0 * down - 0.5 * slope * down**2) * cos
    full = squeeze + (mr0 * up + 0.5 * slope * up**2) * cos
    crossing = gap * (main + tender) / main

    def energy(x: Any) -> Any:
        beyond = 0.5 * main * ((x - gap) ** 2 - (crossing - gap) ** 2)
        return np.where(x >= crossing, 0.5 * series * crossing**2 + beyond, 0.5 * series * x**2)

    carried = np.where(full >= crossing, main * (full - gap), series * full) / main
    shift = k["perch_turns"] * np.repeat(k["perch_pitch"], 2)
    r |= {
        "spring_motion_ratio": mr,
        "spring_force": force,
        "rate_at_ride": rate,
        "wheel_rate": kw,
        "ride_rate": kr,
        "static_compression": squeeze,
        "seat_at_droop": seat,
        "bind_margin": k["spring_free_length"] - carried - k["spring_solid_length"],
        "spring_energy": energy(squeeze),
        "perch_shift": shift,
        "perch_wheel_shift": rate * mr * shift / kw,
        "spring_energy_over_droop": energy(squeeze) - energy(np.maximum(seat, 0)),
        "travel_until_loose": squeeze / mr,
        "stack_initial_rate": series,
        "crossover_travel": crossing,
        "crossover_force": tender * gap,
        "crossover_from_droop": (crossing - seat) / mr,
    }

    target, rising = k["target_frequency"], mean(force * slope * cos)
    wanted = (2 * PI * target) ** 2 * mean(ms)
    tyre = mean(kt)
    on_tyre = wanted * tyre / (tyre - wanted)
    axle = np.sqrt(mean(kw) / mean(ms)) / (2 * PI)
    r |= {
        "ride_frequency": np.sqrt(kw / ms) / (2 * PI),
        "axle_frequency": axle,
        "ride_frequency_on_tyre": np.sqrt(kr / ms) / (2 * PI),
        "axle_frequency_on_tyre": np.sqrt(mean(kr) / mean(ms)) / (2 * PI),
        "flat_ride_speed": base / (1 / axle[0] - 1 / axle[1]),
        "frequency_ratio": axle[1] / axle[0],
        "target_ratio": target[1] / target[0],
        "target_wheel_rate": wanted,
        "target_wheel_rate_on_tyre": on_tyre,
        "target_spring_rate": (wanted - rising) / mean(mr**2),
        "target_spring_rate_on_tyre": (on_tyre - rising) / mean(mr**2),
    }
    critical = 2 * np.sqrt(kw * ms)
    per = k["damper_motion_ratio"] ** 2 / critical
    r |= {"critical_damping": critical, "wheel_hop": np.sqrt((kw + kt) / us) / (2 * PI)}
    for face in ("compression", "rebound"):
        for speed in ("low", "high"):
            r[f"{face}_ratio_{speed}"] = k[f"{face}_{speed}"] * per

    polar = PI * (k["bar_outer"] ** 4 - k["bar_inner"] ** 4) / 32
    twist = k["bar_shear_modulus"] * polar / k["bar_length"]
    end = 2 * twist / k["bar_arm"] ** 2
    w, t, beta = k["blade_width"], k["blade_thickness"], k["blade_angle"]
    flat, edge = w * t**3 / 12, t * w**3 / 12
    c2, s2 = np.cos(beta) ** 2, np.sin(beta) ** 2
    section = np.where(k["blade_guided"] > 0.5, flat * c2 + edge * s2, 1 / (c2 / flat + s2 / edge))
    blade = 3 * k["blade_youngs_modulus"] * section / k["blade_length"] ** 3
    both = 1 / (1 / end + 1 / blade)
    kb = both * k["bar_motion_ratio"] ** 2
    k_bar = 0.5 * kb * track**2
    r |= {
        "bar_polar_moment": polar,
        "bar_torsional_rate": twist,
        "bar_end_rate_torsion": end,
        "blade_second_moment": section,
        "blade_rate": blade,
        "bar_end_rate": both,
        "bar_wheel_rate": kb,
        "bar_roll_stiffness": k_bar,
    }

    msa, usa = ms[0::2] + ms[1::2], us[0::2] + us[1::2]
    zrc, zus = k["roll_centre_height"], k["unsprung_cg_height"]
    hs = (total * k["cg_height"] - (usa * zus).sum()) / (total - usa.sum())
    share = msa[1] / msa.sum()
    arm = hs - (zrc[0] * (1 - share) + zrc[1] * share)
    kwr = mean(kw) * (k["spring_base"] / track) ** 2
    k_spring = 0.5 * kwr * track**2
    ks, ktyre = k_spring + k_bar, 0.5 * tyre * track**2
    moment = msa * zrc + usa * zus
    pair = ks + ktyre - G * moment
    over = msa.sum() * arm
    gradient = (over + (ks * moment / pair).sum()) / ((ks - ks**2 / pair).sum() - G * over)
    ay = k["lateral_acceleration"]
    phi = gradient * ay
    psi = (ay * moment + ks * phi) / pair
    elastic, sideways = ks * (phi - psi) / track, ay + G * psi
    geometric, unsprung = sideways * msa * zrc / track, sideways * usa * zus / track
    load = elastic + geometric + unsprung
    lltd = load[0] / load.sum()
    r |= {
        "sprung_axle_mass": msa,
        "sprung_cg_height": hs,
        "roll_moment_arm": arm,
        "roll_axis_slope": (zrc[1] - zrc[0]) / base,
        "wheel_rate_in_roll": kwr,
        "spring_roll_stiffness": k_spring,
        "tyre_roll_stiffness": ktyre,
        "suspension_roll_stiffness": ks,
        "axle_roll_stiffness": ks * ktyre / (ks + ktyre),
        "spring_roll_share": k_spring[0] / k_spring.sum(),
        "axle_mass_moment": moment,
        "roll_gradient": gradient,
        "roll_angle": phi,
        "wheel_pair_roll": psi,
        "elastic_transfer": elastic,
        "geometric_transfer": geometric,
        "unsprung_transfer": unsprung,
        "load_transfer": load,
        "lltd": lltd,
        "jacking_force": 4 * ay / G * load * zrc / track,
        "starting_lltd": front + k["lltd_above_weight"],
        "lltd_off_start": lltd - front - k["lltd_above_weight"],
    }

    x, y, z = k["bolt_x"], k["bolt_y"], k["bolt_z"]
    m_up, m_low = (z[0] - z[1]) / (x[0] - x[1]), (z[2] - z[3]) / (x[2] - x[3])
    apart = (z[1] - m_up * x[1]) - (z[3] - m_low * x[3])
    ic_x = apart / (m_low - m_up)
    ic_z = z[3] + m_low * (ic_x - x[3])
    squat = ic_z / ic_x * base / k["cg_height"]
    run = k["gearbox_joint_x"] - k["pinion_joint_x"]
    shaft = np.arctan2(k["gearbox_joint_z"] - k["pinion_joint_z"], run)
    flat_length = (k["left_hand_pitch"] + k["right_hand_pitch"]) / 6
    lever = apart / np.sqrt(1 + m_up**2)
    longer = -k["link_preload"] * flat_length
    over_bars = longer * ic_x / lever
    over_roll = over_bars / k["link_spacing"]
    r |= {
        "swing_slope": ic_z / ic_x,
        "ic_x": ic_x,
        "ic_z": ic_z,
        "anti_squat": squat,
        "anti_lift": squat * k["rear_brake_share"],
        "upper_bar_length": np.hypot(x[0] - x[1], z[0] - z[1]),
        "lower_bar_length": np.hypot(x[2] - x[3], z[2] - z[3]),
        "upper_bar_slope": m_up,
        "lower_bar_slope": m_low,
        "bar_lines_apart": apart,
        "pinion_per_bump": -1 / ic_x,
        "shaft_slope": shaft,
        "pinion_slope": k["pinion_angle"] + shaft,
        "rear_joint_angle": abs(k["pinion_angle"]),
        "front_joint_angle": abs(shaft - k["gearbox_slope"]),
        "length_per_flat": flat_length,
        "preload_length_change": longer,
        "pinion_per_flat": flat_length / abs(lever),
        "axle_set_over": over_bars,
        "axle_set_over_roll": over_roll,
        "axle_set_over_at_track": over_roll * track[1],
    }

    moved = total * k["launch_acceleration"] * k["cg_height"] / base
    apart_by = (squat - 1) * moved / (2 * mean(kw)[1])
    rise = moved / (2 * mean(kw)[0])
    mrd = mean(k["damper_motion_ratio"])
    showing = k["shaft_showing"][1] + apart_by * mrd[1]
    in_bump = mean(up * k["damper_motion_ratio"])
    # the resultant of both bars points from the contact patch to the instant centre
    push = 0.5 * total * k["launch_acceleration"]
    rising = ic_z / ic_x
    cu, cl = 1 / np.hypot(1, m_up), 1 / np.hypot(1, m_low)
    f_up = push * (rising - m_low) / (m_up - m_low) / cu
    f_low = push * (m_up - rising) / (m_up - m_low) / cl
    r |= {
        "upper_bar_force": f_up,
        "lower_bar_force": f_low,
        "front_axle_mass": front * total,
        "launch_transfer": moved,
        "shaft_load_shift": total
        * k["launch_acceleration"]
        * k["loaded_radius"][1]
        / (k["final_drive"] * track[1]),
        "rear_separation": apart_by,
        "rear_tyre_squash": moved / (2 * tyre[1]),
        "front_rise_free": rise,
        "front_rise": min(rise, k["front_limiter"]),
        "shaft_in_launch": showing,
        "stroke_left_open": k["damper_stroke"][1] - showing,
        "shaft_needed_in_bump": in_bump,
        "stroke_left_closed": k["shaft_showing"] - in_bump,
    }

    by, bz = k["track_bar_y"], k["track_bar_z"]
    points = []
    for i in (0, 2):
        away = y[i + 1] / (y[i + 1] - y[i])
        points.append((x[i + 1] + away * (x[i] - x[i + 1]), z[i + 1] + away * (z[i] - z[i + 1])))
    (xu, zu), (xl, zl) = points
    axis = (zl - zu) / (xl - xu)
    mid, half = k["asked_travel"].mean(), 0.5 * (k["asked_travel"][0] - k["asked_travel"][1])
    at_arms = mid + np.array([1, -1]) * half * k["link_spacing"] / track[1]
    sin0 = k["arm_rise"] / k["arm_length"]
    arm_ic = k["lower_bolt_z"] - k["torque_arm_x"] * (sin0 / np.sqrt(1 - sin0**2)).mean()
    sin1 = sin0 + at_arms / k["arm_length"]
    forward = k["arm_length"] * (np.sqrt(1 - sin0**2) - np.sqrt(1 - sin1**2))
    d, far, e = k["diagonal"], k["plumb_distance"], k["axle_offset"]
    reach = np.hypot(far, e)
    skew = np.arcsin((d[0] ** 2 - d[1] ** 2) / (2 * k["axle_points"] * reach)) - np.arctan2(e, far)
    bars_move = k["link_spacing"] * np.sin(skew)
    h = k["housing_reading"]
    r |= {
        "track_bar_roll_centre": bz[0] - by[0] * (bz[1] - bz[0]) / (by[1] - by[0]),
        "arms_roll_centre": zu - axis * xu,
        "arms_roll_axis_slope": axis,
        "arm_travel": at_arms,
        "arm_shift": forward,
        "torque_arm_ic_z": arm_ic,
        "limiter_left": k["front_limiter"] - r["front_rise_free"],
        "wheelie_bar_lift": k["wheelie_bar_gap"] * base / k["wheelie_bar_reach"],
        "ladder_slope": k["ladder_pivot_z"] / k["ladder_pivot_x"],
        "torque_arm_slope": arm_ic / k["torque_arm_x"],
        "links_slope": r["swing_slope"],
        "rear_steer": (forward[1] - forward[0]) / k["link_spacing"],
        "left_lead_change": forward[0] - forward[1],
        "axle_skew": skew,
        "left_end_behind": k["axle_points"] * np.sin(skew),
        "simple_square_move": (d[0] - d[1]) * d.mean() / far,
        "square_bar_move": bars_move,
        "square_flats": bars_move / flat_length,
        "housing_bend": np.hypot(h[0] - h[2], h[1] - h[3]),
        "housing_spread": h.max() - h.min(),
        "housing_out_of_round": abs(h[0] + h[2] - h[1] - h[3]) / 2,
        "housing_limit": 0.0015 * k["bend_diameter"] / k["rotor_diameter"],
    }

    ride, toe = k["ride_height"], k["toe"]
    high = mean(ride)
    toe_mm = k["rim_diameter"] * np.sin(toe)
    caster = (k["camber_out"] - k["camber_in"]) / (2 * np.sin(k["sweep_angle"]))
    camber = k["camber"]
    other_lock = k["lock_outer"][::-1]
    true_lock = np.arctan(1 / (1 / np.tan(other_lock) - k["track"][0] / k["wheelbase"]))
    pa = k["air_pressure"]
    r |= {
        "axle_height": high,
        "rake": high[1] - high[0],
        "height_split": ride[0::2] - ride[1::2],
        "droop_read": k["lifted_height"] - ride,
        "motion_ratio_read": k["spring_shortened"] / k["wheel_raised"],
        "spring_rate_read": (k["spring_load_second"] - k["spring_load_first"])
        / (k["spring_length_first"] - k["spring_length_second"]),
        "tyre_rate_read": (k["tyre_load_heavy"] - k["tyre_load_light"])
        * 9.80665
        / (k["hub_height_light"] - k["hub_height_heavy"]),
        "unsprung_mass_read": k["wheel_alone"],
        "toe_distance": toe_mm,
        "total_toe": toe[0::2] + toe[1::2],
        "total_toe_distance": toe_mm[0::2] + toe_mm[1::2],
        "thrust_angle": 0.5 * (toe[3] - toe[2]),
        "cross_camber": camber[0::2] - camber[1::2],
        "swept_caster": caster,
        "caster_split": caster[0] - caster[1],
        "wheelbase_split": k["side_wheelbase"][0] - k["side_wheelbase"][1],
        "axle_off_rails": (k["rail_gap"][0] - k["rail_gap"][1]) / 2,
        "axle_off_body": (k["body_gap"][1] - k["body_gap"][0]) / 2,
        "lock_clearance": np.minimum.reduce([v for n, v in k.items() if "_clearance" in n]),
        "lock_ackermann": (k["lock_inner"] - other_lock) / (true_lock - other_lock),
        "turning_circle": 2 * k["wheelbase"] / np.sin(other_lock),
        "cold_pressure": (k["hot_target"] + pa) * k["cold_temperature"] / k["hot_temperature"] - pa,
        "inner_less_outer": k["tread_inner"] - k["tread_outer"],
        "middle_less_edges": k["tread_middle"] - 0.5 * (k["tread_inner"] + k["tread_outer"]),
    }

    loss, at = k["tyre_grip_loss"], k["tyre_grip_load"]
    on = pads * G
    force = [
        k["tyre_grip"][i // 2] * (1 - loss[i // 2] * (on[i] / at[i // 2] - 1)) * on[i]
        for i in range(4)
    ]
    r |= {
        "standing_grip": np.array(
            [(force[i] + force[i + 1]) / (on[i] + on[i + 1]) for i in (0, 2)]
        ),
        "most_useful_load": at * (1 + loss) / (2 * loss),
    }

    ta = k["air_temperature"]
    vapour = k["humidity"] * 611.2 * np.exp(17.62 * (ta - 273.15) / (243.12 + ta - 273.15))
    air = ((pa - vapour) / 287.05287 + vapour / 461.523) / ta
    down_f = k["lift_area"] * 0.5 * air * k["speed"] ** 2
    brakes = total * k["braking"] * k["cg_height"] / base * np.array([1.0, -1.0])
    on_spring = 0.5 * (down_f + brakes * (1 - k["anti_dive"]))
    mrr, rgap, curve = k["rubber_motion_ratio"], k["rubber_gap"], k["rubber_curve"]
    kwa = mean(kw)
    travel = on_spring / kwa
    for i in range(curve.shape[-1] - 1):
        d0, d1, f0, f1 = curve[:, 0, i], curve[:, 0, i + 1], curve[:, 1, i], curve[:, 1, i + 1]
        start = (rgap + d0) / mrr
        held = kwa * start + mrr * f0
        stiff = kwa + mrr**2 * (f1 - f0) / (d1 - d0)
        travel = np.where(on_spring > held, start + (on_spring - held) / stiff, travel)
    deep = travel * mrr - rgap
    rubber = np.array([np.interp(deep[i], curve[i, 0], curve[i, 1], left=0.0) for i in (0, 1)])
    squash = (down_f + brakes) / (2 * tyre)
    low = high - travel - squash
    softest = np.maximum(on_spring, 0) / (high - k["least_height"] - squash)
    rear_in_braking = pads[2:].sum() * G + down_f[1] - total * k["braking"] * k["cg_height"] / base
    even = rear_in_braking / (total * G + down_f.sum())
    r |= {
        "vapour_pressure": vapour,
        "air_density": air,
        "density_ratio": air / 1.225,
        "density_altitude": 288.15 / 0.0065 * (1 - (air / 1.225) ** (1 / 4.25588)),
        "even_brake_share": even,
        "brake_share_off": k["rear_brake_share"] - even,
        "downforce": down_f,
        "braking_transfer": brakes,
        "spring_load_at_speed": on_spring,
        "travel_at_speed": travel,
        "tyre_squash_at_speed": squash,
        "height_at_speed": low,
        "clearance_at_speed": low - k["least_height"],
        "rubber_force_at_speed": rubber,
        "travel_to_rubber": rgap / mrr,
        "least_wheel_rate": softest,
        "least_ride_rate": softest * tyre / (softest + tyre),
    }
    return r
