"""Springs at the wheel: rates, static compression, seating and coil bind (reference §2).

Travels and lengths are along the spring unless a name says wheel; MR = spring / wheel travel.
"""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..graph.registry import figure
from .shapes import at_corners, axle_mean, refuse
from .stack import check_stack, main_compression, stack_energy, stack_rate_at, stack_travel

DIXON = "Dixon, Suspension Geometry and Computation, ch. 2"
CORNER = Shape.CORNER


@figure(
    label="Motion ratio in line", quantity="ratio", shape=CORNER, formula="MR·cos α", source=DIXON
)
def spring_motion_ratio(motion_ratio: Array, spring_angle: Array) -> Array:
    """Travel of an inclined spring along itself over wheel travel [-].

    Wrong away from ride height where the ratio changes with travel.

    >>> found = spring_motion_ratio(
    ...     np.array([0.8, 0.8, 0.8, 0.8]),
    ...     np.array([0.0, 0.0, 0.0, 0.0]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.8, 0.8, 0.8, 0.8]
    """
    refuse(motion_ratio <= 0, CORNER, "motion_ratio", "a motion ratio must be above zero.")
    return motion_ratio * np.cos(spring_angle)


@figure(
    label="Spring force at ride height",
    quantity="force",
    shape=CORNER,
    formula="F_s = (m̄ ± ½·Δm·t/b)·g / (MR·cos α)",
    source=DIXON,
)
def spring_force(
    sprung_mass: Array, spring_motion_ratio: Array, spring_base: Array, track: Array
) -> Array:
    """Force along the spring with the car standing still [N].

    A beam axle's springs stand nearer together than its wheels: what the wheels differ by, they bear on
    a shorter arm. Refused where one would have to pull. Wrong where a bar, bump rubber or link carries part of the corner.
    """
    both = at_corners(axle_mean(sprung_mass))
    at_station = both + (sprung_mass - both) * at_corners(track / spring_base)
    refuse(at_station <= 0, CORNER, "spring_base", "this spring would have to pull on the axle.")
    return at_station * STANDARD_GRAVITY / spring_motion_ratio


@figure(
    label="Rate at ride height",
    quantity="rate",
    shape=CORNER,
    formula="k_s, or tender and spring in series below the crossover",
    source=DIXON,
)
def rate_at_ride(
    spring_rate: Array, tender_rate: Array, tender_gap: Array, spring_force: Array
) -> Array:
    """Rate of the spring, or of the stack it forms with a tender, where the car stands [N/m].

    Wrong where a bump rubber already touches at ride height: its rate is not in here.
    """
    check_stack(spring_rate, tender_rate, tender_gap)
    travel = stack_travel(spring_force, spring_rate, tender_rate, tender_gap)
    return stack_rate_at(travel, spring_rate, tender_rate, tender_gap)


@figure(
    label="Wheel rate",
    quantity="rate",
    shape=CORNER,
    formula="k_w = k_s·(MR·cos α)² + F_s·MR′·cos α",
    source=DIXON,
)
def wheel_rate(
    rate_at_ride: Array,
    spring_motion_ratio: Array,
    spring_force: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
) -> Array:
    """Rate of the suspension seen at the wheel, tyre left out [N/m].

    The second term is the standing force working through a motion ratio that changes with travel.
    Refused where a falling ratio leaves no rate at all.

    Wrong away from ride height where the ratio changes, and on a bump rubber.
    """
    rate = rate_at_ride * spring_motion_ratio**2 + spring_force * motion_ratio_slope * np.cos(
        spring_angle
    )
    refuse(
        rate <= 0,
        CORNER,
        "motion_ratio_slope",
        "the falling motion ratio leaves no wheel rate: check its slope and sign.",
    )
    return rate


@figure(
    label="Ride rate",
    quantity="rate",
    shape=CORNER,
    formula="k_r = k_w·k_t / (k_w + k_t)",
    source="RCVD, ch. 16",
)
def ride_rate(wheel_rate: Array, tyre_rate: Array) -> Array:
    """Suspension and tyre in series: body against the ground at this corner [N/m].

    Wrong at another tyre pressure than the tyre rate was taken at.

    >>> found = ride_rate(np.array([3.2e4, 3.2e4, 3.2e4, 3.2e4]), np.array([2e5, 2e5, 2e5, 2e5]))
    >>> np.round(found, 0).tolist()
    [27586.0, 27586.0, 27586.0, 27586.0]
    """
    return wheel_rate * tyre_rate / (wheel_rate + tyre_rate)


@figure(
    label="Static compression", quantity="height", shape=CORNER, formula="F_s / k_s", source=DIXON
)
def static_compression(
    spring_force: Array, spring_rate: Array, tender_rate: Array, tender_gap: Array
) -> Array:
    """How far the standing car squeezes the spring or stack, from loose to ride height [m].

    Wrong where a bar, bump rubber or link carries part of the corner.
    """
    return stack_travel(spring_force, spring_rate, tender_rate, tender_gap)


@figure(
    label="Left at full droop",
    quantity="height",
    shape=CORNER,
    formula="compression − (MR·d − ½·MR′·d²)·cos α",
    source=DIXON,
    sign="+ still seated, − loose by that much",
)
def seat_at_droop(
    static_compression: Array,
    motion_ratio: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
    droop_travel: Array,
) -> Array:
    """Compression left in the spring with the wheel hanging at full droop [m].

    Below zero the spring is loose: it wants a helper spring, or less droop.

    Wrong where a helper spring holds the main one: it then stays seated.
    """
    travel = motion_ratio * droop_travel - 0.5 * motion_ratio_slope * droop_travel**2
    return static_compression - travel * np.cos(spring_angle)


@figure(
    label="Left before coil bind",
    quantity="height",
    shape=CORNER,
    formula="free − (compression + (MR·b + ½·MR′·b²)·cos α) − solid",
    source=DIXON,
    sign="+ room left at full bump",
)
def bind_margin(
    spring_free_length: Array,
    spring_solid_length: Array,
    spring_rate: Array,
    tender_rate: Array,
    tender_gap: Array,
    static_compression: Array,
    motion_ratio: Array,
    motion_ratio_slope: Array,
    spring_angle: Array,
    bump_travel: Array,
) -> Array:
    """Room left before the coils touch with the wheel at full bump [m]; want 6 mm or more.

    Refused where the solid length is not less than the free length, or the coils touch where the car
    stands.

    Wrong where a bump rubber stops the wheel earlier: there is then more room.
    """
    refuse(
        spring_solid_length >= spring_free_length,
        CORNER,
        "spring_solid_length",
        "the solid length must be less than the free length.",
    )
    travel = motion_ratio * bump_travel + 0.5 * motion_ratio_slope * bump_travel**2
    squeezed = static_compression + travel * np.cos(spring_angle)
    main = main_compression(squeezed, spring_rate, tender_rate, tender_gap)
    standing = main_compression(static_compression, spring_rate, tender_rate, tender_gap)
    refuse(
        standing >= spring_free_length - spring_solid_length,
        CORNER,
        "spring_solid_length",
        "the spring would be coil-bound where the car stands: it needs a stiffer or a longer one.",
    )
    return spring_free_length - main - spring_solid_length


@figure(
    label="Energy at ride height",
    quantity="energy",
    shape=CORNER,
    formula="½·k_s·compression²",
    source=DIXON,
)
def spring_energy(
    spring_rate: Array, tender_rate: Array, tender_gap: Array, static_compression: Array
) -> Array:
    """Energy in the spring from just seated to ride height [J].

    For one load it depends on the rate alone, F²/2k: a longer free length stores no more.

    Wrong where part of the corner is carried by something else than the spring.
    """
    return stack_energy(static_compression, spring_rate, tender_rate, tender_gap)


@figure(
    label="Energy over droop",
    quantity="energy",
    shape=CORNER,
    formula="½·k_s·(compression² − left at full droop²)",
    source=DIXON,
)
def spring_energy_over_droop(
    spring_rate: Array,
    tender_rate: Array,
    tender_gap: Array,
    static_compression: Array,
    seat_at_droop: Array,
) -> Array:
    """Energy the spring gives out from ride height to full droop, or until it is loose [J].

    Wrong where the damper or a limiter takes most of it.
    """
    left = np.maximum(seat_at_droop, 0.0)
    held = stack_energy(static_compression, spring_rate, tender_rate, tender_gap)
    return held - stack_energy(left, spring_rate, tender_rate, tender_gap)


@figure(
    label="Travel until loose",
    quantity="height",
    shape=CORNER,
    formula="compression / (MR·cos α)",
    source=DIXON,
)
def travel_until_loose(static_compression: Array, spring_motion_ratio: Array) -> Array:
    """Wheel travel downward after which the coil carries nothing any more [m].

    Wrong where a leaf or a helper stays attached: it then pulls down or holds on.

    >>> found = travel_until_loose(
    ...     np.array([0.06619, 0.05394, 0.03889, 0.05672]),
    ...     np.array([0.8, 0.8, 0.8, 0.8]),
    ... )
    >>> np.round(found, 5).tolist()
    [0.08274, 0.06742, 0.04861, 0.0709]
    """
    return static_compression / spring_motion_ratio


@figure(
    label="Perch shift",
    quantity="height",
    shape=CORNER,
    formula="turns · thread pitch",
    source=DIXON,
    sign="+ raises the body",
)
def perch_shift(perch_turns: Array, perch_pitch: Array) -> Array:
    """How far the perch stands from its mark along the spring [m].

    Wrong where the turns were counted from another mark than the one at build.

    >>> found = perch_shift(np.array([1.0, 0.0, -2.0, 0.5]), np.array([0.002, 0.002]))
    >>> np.round(found, 6).tolist()
    [0.002, 0.0, -0.004, 0.001]
    """
    return perch_turns * at_corners(perch_pitch)


@figure(
    label="Perch shift at the wheel",
    quantity="height",
    shape=CORNER,
    formula="k_s·MR·cos α·perch shift / k_w",
    source=DIXON,
    sign="+ raises the body",
)
def perch_wheel_shift(
    perch_shift: Array, spring_motion_ratio: Array, rate_at_ride: Array, wheel_rate: Array
) -> Array:
    """How far that would raise this corner if it carried the same load [m].

    Perch shift over motion ratio where that is constant: what a changing one adds to the wheel rate, the
    perch does not move.
    Wrong where one corner alone is turned: load then moves across the car and the body twists on
    all four springs and tyres. The weights station works that out.
    """
    return rate_at_ride * spring_motion_ratio * perch_shift / wheel_rate
