"""Toe, thrust, caster and camber, from angles to what the shop reads (reference §10)."""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import figure
from .shapes import LR, RR, axle_sum, refuse, spread

DIXON = "Dixon, Suspension Geometry and Computation, ch. 5"
CAR, AXLE = Shape.CAR, Shape.AXLE


def toe_from_distance(distance: Array, diameter: Array) -> Array:
    """Toe of one wheel [rad] from the difference across a rim [m]. Raises Impossible beyond it."""
    sine = np.asarray(distance) / diameter
    refuse(np.abs(sine) > 1, CAR, "toe", "the toe reading is larger than what it was taken across.")
    toe: Array = np.arcsin(sine)
    return toe


@figure(
    label="Toe across the rim",
    quantity="fine_dimension",
    shape=Shape.CORNER,
    formula="D·sin(toe)",
    source=DIXON,
    sign="+ toe-in",
)
def toe_distance(toe: Array, rim_diameter: Array) -> Array:
    """Toe of one wheel as a difference across the diameter it is read at [m].

    Wrong where the plates are longer than the rim: the diameter is then theirs.

    >>> np.round(toe_distance(np.array([-0.001, -0.002, 0.003, 0.001]), 0.45), 6).tolist()
    [-0.00045, -0.0009, 0.00135, 0.00045]
    """
    return spread(rim_diameter) * np.sin(toe)


@figure(
    label="Total toe",
    quantity="fine_angle",
    shape=AXLE,
    formula="left + right",
    source=DIXON,
    sign="+ toe-in",
)
def total_toe(toe: Array) -> Array:
    """Toe of both wheels of an axle together [rad].

    Wrong with the steering off centre only in how it is shared, not in the sum.

    >>> np.round(total_toe(np.array([-0.001, -0.002, 0.003, 0.001])), 6).tolist()
    [-0.003, 0.004]
    """
    return axle_sum(toe)


@figure(
    label="Total toe across the rim",
    quantity="fine_dimension",
    shape=AXLE,
    formula="left + right",
    source=DIXON,
    sign="+ toe-in",
)
def total_toe_distance(toe_distance: Array) -> Array:
    """Toe of both wheels of an axle together, across the diameter it is read at [m].

    Wrong where the plates are longer than the diameter given.

    >>> np.round(total_toe_distance(np.array([-0.00045, -0.0009, 0.00135, 0.00045])), 6).tolist()
    [-0.00135, 0.0018]
    """
    return axle_sum(toe_distance)


@figure(
    label="Thrust angle",
    quantity="fine_angle",
    shape=CAR,
    formula="½·(toe_RR − toe_LR)",
    source=DIXON,
    sign="+ rear wheels aim left",
)
def thrust_angle(toe: Array) -> Array:
    """Where the rear wheels aim against the car's centre line [rad].

    Set it before the front: the steering wheel follows it. Wrong where a live axle stands askew:
    square it first.

    >>> np.round(thrust_angle(np.array([-0.001, -0.002, 0.003, 0.001])), 6).tolist()
    -0.001
    """
    return 0.5 * (toe[..., RR] - toe[..., LR])


@figure(label="Cross camber", quantity="angle", shape=AXLE, formula="left − right", source=DIXON)
def cross_camber(camber: Array) -> Array:
    """Left camber less right of each axle [rad]; the car pulls to the more positive side.

    Wrong where the floor is not level across.

    >>> np.round(cross_camber(np.array([-0.05, -0.04, -0.02, -0.01])), 5).tolist()
    [-0.01, -0.01]
    """
    return camber[..., 0::2] - camber[..., 1::2]


@figure(
    label="Caster from the sweep",
    quantity="angle",
    shape=Shape.SIDE,
    formula="(camber swung out − camber swung in) / (2·sin δ)",
    source=DIXON,
)
def swept_caster(camber_out: Array, camber_in: Array, sweep_angle: Array) -> Array:
    """Caster of each front wheel from two camber readings [rad].

    Refused with no steer. Wrong by up to 3 %, low, with a large kingpin inclination.

    >>> found = swept_caster(np.array([0.01, 0.012]), np.array([-0.055, -0.05]), 0.35)
    >>> np.round(found, 5).tolist()
    [0.09478, 0.09041]
    """
    refuse(sweep_angle <= 0, CAR, "sweep_angle", "the sweep needs a steer angle above zero.")
    answer: Array = (camber_out - camber_in) / (2 * np.sin(spread(sweep_angle)))
    return answer


@figure(label="Caster split", quantity="angle", shape=CAR, formula="left − right", source=DIXON)
def caster_split(swept_caster: Array) -> Array:
    """Left caster less right [rad]: equal, or the car pulls to the side with less.

    Wrong where the two wheels were swung through different angles.

    >>> np.round(caster_split(np.array([0.09478, 0.09041])), 6).tolist()
    0.00437
    """
    return swept_caster[..., 0] - swept_caster[..., 1]


@figure(
    label="Room at full lock",
    quantity="fine_dimension",
    shape=Shape.SIDE,
    formula="least of inner and outer, at ride height, full bump and full droop",
    source="measured",
)
def lock_clearance(
    inner_clearance: Array,
    inner_clearance_bump: Array,
    inner_clearance_droop: Array,
    outer_clearance: Array,
    outer_clearance_bump: Array,
    outer_clearance_droop: Array,
) -> Array:
    """Least room round each front wheel over full lock both ways and the whole travel [m].

    Wrong under load: tyres, bushes and arms give, so leave room.
    """
    inner = np.minimum(np.minimum(inner_clearance, inner_clearance_bump), inner_clearance_droop)
    outer = np.minimum(np.minimum(outer_clearance, outer_clearance_bump), outer_clearance_droop)
    return np.minimum(inner, outer)


@figure(
    label="Ackermann at full lock",
    quantity="anti",
    shape=Shape.SIDE,
    formula="(δ_i − δ_o) / (δ_A − δ_o), cot δ_A = cot δ_o − t/L",
    source=DIXON,
    sign="0 parallel, 100 true",
)
def lock_ackermann(lock_inner: Array, lock_outer: Array, wheelbase: Array, track: Array) -> Array:
    """Ackermann from the angles read at full lock, steered left and steered right [1].

    Wrong with the wheels toed when straight: the angles are from straight ahead.
    """
    outer = lock_outer[..., ::-1]
    across = spread(track[..., 0] / wheelbase)
    true = np.arctan2(1.0, 1 / np.tan(outer) - across)
    answer: Array = (lock_inner - outer) / (true - outer)
    return answer


@figure(
    label="Turning circle",
    quantity="dimension",
    shape=Shape.SIDE,
    formula="2·L / sin δ_o",
    source=DIXON,
)
def turning_circle(lock_outer: Array, wheelbase: Array) -> Array:
    """Diameter that the outer front tyre draws, steered left and steered right [m].

    Wrong with the rear sliding, and where tyres run at much slip.

    >>> np.round(turning_circle(np.array([0.72, 0.71]), 2.5), 3).tolist()
    [7.671, 7.583]
    """
    circle: Array = 2 * spread(wheelbase) / np.sin(lock_outer[..., ::-1])
    return circle
