"""Roll and sideways load transfer in its three parts, the tyres under all of it (reference §5).

Three unknowns: the body's roll φ and the roll ψ of each wheel pair on its tyres. The pairs are
eliminated one by one, so a rigid tyre (an infinite rate) is simply a pair that does not roll.
"""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..graph.registry import figure
from .shapes import FRONT, REAR, axle_mean, axle_sum, refuse, spread

RCVD = "Milliken & Milliken, Race Car Vehicle Dynamics, ch. 18"
CAR, AXLE = Shape.CAR, Shape.AXLE


@figure(
    label="Sprung axle mass",
    quantity="mass",
    shape=AXLE,
    formula="sprung left + sprung right",
    source=RCVD,
)
def sprung_axle_mass(sprung_mass: Array) -> Array:
    """Sprung mass that each axle carries [kg].

    Wrong where the unsprung masses are guesses.
    """
    return axle_sum(sprung_mass)


@figure(
    label="Sprung CG height",
    quantity="dimension",
    shape=CAR,
    formula="(m·h − Σ m_us·z_us) / m_sprung",
    source=RCVD,
)
def sprung_cg_height(
    cg_height: Array, total_mass: Array, unsprung_mass: Array, unsprung_cg_height: Array
) -> Array:
    """Height of the body's own centre of gravity [m]: the whole car's less its wheels'.

    Refused where it would be under the ground. Wrong where the CG height is a rule of thumb.
    """
    wheels = axle_sum(unsprung_mass)
    height: Array = (total_mass * cg_height - (wheels * unsprung_cg_height).sum(axis=-1)) / (
        total_mass - wheels.sum(axis=-1)
    )
    refuse(height <= 0, CAR, "cg_height", "the sprung CG would lie under the ground.")
    return height


@figure(
    label="Roll axis slope",
    quantity="slope",
    shape=CAR,
    formula="(z_rc rear − z_rc front) / L",
    source=RCVD,
    sign="+ higher at the rear",
)
def roll_axis_slope(roll_centre_height: Array, wheelbase: Array) -> Array:
    """Rise of the line through the two roll centres [-].

    Wrong where the roll centres move much with the body: it holds at ride height.
    """
    return (roll_centre_height[..., REAR] - roll_centre_height[..., FRONT]) / wheelbase


@figure(
    label="Roll moment arm",
    quantity="dimension",
    shape=CAR,
    formula="h_r = sprung CG height − roll axis height under it",
    source=RCVD,
)
def roll_moment_arm(
    sprung_cg_height: Array, roll_centre_height: Array, sprung_axle_mass: Array
) -> Array:
    """Sprung CG straight above the roll axis, at its own station [m].

    Wrong where the roll centres move much with the body: it holds at ride height.
    """
    rear = sprung_axle_mass[..., REAR] / sprung_axle_mass.sum(axis=-1)
    axis = roll_centre_height[..., FRONT] * (1 - rear) + roll_centre_height[..., REAR] * rear
    answer: Array = sprung_cg_height - axis
    return answer


@figure(
    label="Wheel rate in roll",
    quantity="rate",
    shape=AXLE,
    formula="k_w·(s/t)²; s = t where independent",
    source=RCVD,
)
def wheel_rate_in_roll(wheel_rate: Array, spring_base: Array, track: Array) -> Array:
    """Wheel rate of an axle in roll, mean of both sides [N/m]; a beam's springs act at their base.

    Wrong where left and right rates differ much: the body then also heaves as it rolls.
    """
    return axle_mean(wheel_rate) * (spring_base / track) ** 2


@figure(
    label="Spring roll stiffness",
    quantity="roll_stiffness",
    shape=AXLE,
    formula="½·k_w·t²",
    source=RCVD,
)
def spring_roll_stiffness(wheel_rate_in_roll: Array, track: Array) -> Array:
    """Roll stiffness of the springs [N·m/rad], body against the wheel pair.

    Wrong on a beam axle if the spring base was not given.
    """
    return 0.5 * wheel_rate_in_roll * track**2


@figure(
    label="Tyre roll stiffness",
    quantity="roll_stiffness",
    shape=AXLE,
    formula="½·k_t·t²",
    source=RCVD,
)
def tyre_roll_stiffness(tyre_rate: Array, track: Array) -> Array:
    """Roll stiffness of the wheel pair on its tyres [N·m/rad].

    Wrong where the tyres are wide and stand cambered: load then moves across the tread.

    >>> found = tyre_roll_stiffness(np.array([2e5, 2e5, 2e5, 2e5]), np.array([1.5, 1.6]))
    >>> np.round(found, 0).tolist()
    [225000.0, 256000.0]
    """
    return 0.5 * axle_mean(tyre_rate) * track**2


@figure(
    label="Suspension roll stiffness",
    quantity="roll_stiffness",
    shape=AXLE,
    formula="springs + bar",
    source=RCVD,
)
def suspension_roll_stiffness(spring_roll_stiffness: Array, bar_roll_stiffness: Array) -> Array:
    """Springs and bar together [N·m/rad], body against the wheel pair.

    Wrong where the chassis twists between the axles.
    """
    return spring_roll_stiffness + bar_roll_stiffness


@figure(
    label="Axle roll stiffness",
    quantity="roll_stiffness",
    shape=AXLE,
    formula="(springs + bar) in series with the tyres",
    source=RCVD,
)
def axle_roll_stiffness(suspension_roll_stiffness: Array, tyre_roll_stiffness: Array) -> Array:
    """Body against the ground [N·m/rad], for information: roll itself is solved with the pairs.

    Wrong where it is used for load transfer: the pairs carry their own moment too.

    >>> found = axle_roll_stiffness(np.array([8.604e4, 1.076e5]), np.array([2.25e5, 2.56e5]))
    >>> np.round(found, 0).tolist()
    [62240.0, 75758.0]
    """
    return suspension_roll_stiffness / (1 + suspension_roll_stiffness / tyre_roll_stiffness)


@figure(
    label="Spring share of roll, front",
    quantity="share",
    shape=CAR,
    formula="front springs / both",
    source=RCVD,
)
def spring_roll_share(spring_roll_stiffness: Array) -> Array:
    """Front part of the roll stiffness that the springs give [0..1], bars and tyres left out.

    Wrong where it is read as balance: bars, roll centres and wheels carry load too.

    >>> np.round(spring_roll_share(np.array([3.6e4, 1.936e4])), 4).tolist()
    0.6503
    """
    share: Array = spring_roll_stiffness[..., FRONT] / spring_roll_stiffness.sum(axis=-1)
    return share


@figure(
    label="Mass moment of the axle",
    quantity="torsion_moment",
    shape=AXLE,
    formula="S = m_s·z_rc + m_us·z_us",
    source=RCVD,
)
def axle_mass_moment(
    sprung_axle_mass: Array,
    roll_centre_height: Array,
    unsprung_mass: Array,
    unsprung_cg_height: Array,
) -> Array:
    """Mass times height that the wheel pair carries past the springs [kg·m]: links and wheels.

    Wrong where the roll centre moves much with the body.
    """
    return sprung_axle_mass * roll_centre_height + axle_sum(unsprung_mass) * unsprung_cg_height


def _pair_stiffness(suspension: Array, tyres: Array, moment: Array) -> Array:
    left = suspension + tyres - STANDARD_GRAVITY * moment
    refuse(left <= 0, AXLE, "tyre_rate", "the tyres do not hold the wheel pair up in roll.")
    return left


@figure(
    label="Roll gradient",
    quantity="roll_gradient",
    shape=CAR,
    formula="(ΣK_s − m_s·g·h_r)·φ − ΣK_s·ψ = m_s·h_r·a_y;  −K_s·φ + (K_s + K_t − g·S)·ψ = a_y·S",
    source=RCVD,
)
def roll_gradient(
    suspension_roll_stiffness: Array,
    tyre_roll_stiffness: Array,
    axle_mass_moment: Array,
    sprung_axle_mass: Array,
    roll_moment_arm: Array,
) -> Array:
    """Body roll per lateral acceleration [rad per m/s²].

    Refused where springs, bars and tyres do not hold the car up. Wrong beyond small angles, with a
    wheel in the air or on a bump rubber.
    """
    springs, moment = suspension_roll_stiffness, axle_mass_moment
    pair = _pair_stiffness(springs, tyre_roll_stiffness, moment)
    overturning = sprung_axle_mass.sum(axis=-1) * roll_moment_arm
    held = (springs - springs**2 / pair).sum(axis=-1) - STANDARD_GRAVITY * overturning
    refuse(
        held <= 0,
        CAR,
        "cg_height",
        "the roll stiffness does not hold the car up: it is too soft for its height.",
    )
    gradient: Array = (overturning + (springs * moment / pair).sum(axis=-1)) / held
    return gradient


@figure(label="Body roll", quantity="angle", shape=CAR, formula="φ = gradient · a_y", source=RCVD)
def roll_angle(roll_gradient: Array, lateral_acceleration: Array) -> Array:
    """Roll of the body at the cornering shown [rad].

    Wrong beyond small angles, with a wheel in the air or on a bump rubber.

    >>> np.round(roll_angle(0.002878, 9.0), 5).tolist()
    0.0259
    """
    return roll_gradient * lateral_acceleration


@figure(
    label="Wheel pair roll",
    quantity="angle",
    shape=AXLE,
    formula="ψ = (a_y·S + K_s·φ) / (K_s + K_t − g·S)",
    source=RCVD,
)
def wheel_pair_roll(
    roll_angle: Array,
    lateral_acceleration: Array,
    suspension_roll_stiffness: Array,
    tyre_roll_stiffness: Array,
    axle_mass_moment: Array,
) -> Array:
    """Roll of each wheel pair on its tyres at the cornering shown [rad].

    Wrong with a wheel in the air.
    """
    pair = _pair_stiffness(suspension_roll_stiffness, tyre_roll_stiffness, axle_mass_moment)
    return (
        spread(lateral_acceleration) * axle_mass_moment
        + suspension_roll_stiffness * spread(roll_angle)
    ) / pair


@figure(
    label="Elastic transfer", quantity="force", shape=AXLE, formula="K_s·(φ − ψ) / t", source=RCVD
)
def elastic_transfer(
    suspension_roll_stiffness: Array, roll_angle: Array, wheel_pair_roll: Array, track: Array
) -> Array:
    """Load moved to the outer wheel through springs and bar [N]: it comes as the body rolls.

    Wrong with a wheel in the air or on a bump rubber.
    """
    return suspension_roll_stiffness * (spread(roll_angle) - wheel_pair_roll) / track


def _sideways(lateral_acceleration: Array, wheel_pair_roll: Array) -> Array:
    return spread(lateral_acceleration) + STANDARD_GRAVITY * wheel_pair_roll


@figure(
    label="Geometric transfer",
    quantity="force",
    shape=AXLE,
    formula="(a_y + g·ψ)·m_s·z_rc / t",
    source=RCVD,
)
def geometric_transfer(
    lateral_acceleration: Array,
    wheel_pair_roll: Array,
    sprung_axle_mass: Array,
    roll_centre_height: Array,
    track: Array,
) -> Array:
    """Load moved to the outer wheel through the links [N]: at once, with the jacking that goes with it.

    Wrong where the roll centre moves much as the body rolls.
    """
    moment = sprung_axle_mass * roll_centre_height
    return _sideways(lateral_acceleration, wheel_pair_roll) * moment / track


@figure(
    label="Unsprung transfer",
    quantity="force",
    shape=AXLE,
    formula="(a_y + g·ψ)·m_us·z_us / t",
    source=RCVD,
)
def unsprung_transfer(
    lateral_acceleration: Array,
    wheel_pair_roll: Array,
    unsprung_mass: Array,
    unsprung_cg_height: Array,
    track: Array,
) -> Array:
    """Load moved to the outer wheel by the mass of the wheels themselves [N].

    Wrong where brakes or drive sit on the body but were counted as unsprung.
    """
    moment = axle_sum(unsprung_mass) * unsprung_cg_height
    return _sideways(lateral_acceleration, wheel_pair_roll) * moment / track


@figure(
    label="Load transfer",
    quantity="force",
    shape=AXLE,
    formula="elastic + geometric + unsprung",
    source=RCVD,
)
def load_transfer(
    elastic_transfer: Array, geometric_transfer: Array, unsprung_transfer: Array
) -> Array:
    """Load that leaves each inner wheel for the outer one at the cornering shown [N].

    The total over both axles is about m·a·h/t whatever is fitted: bars, springs and roll centres only
    share it. Wrong where it exceeds what the inner wheel carries.

    >>> found = load_transfer(
    ...     np.array([1004.0, 1030.0]),
    ...     np.array([148.3, 554.8]),
    ...     np.array([109.0, 109.2]),
    ... )
    >>> np.round(found, 0).tolist()
    [1261.0, 1694.0]
    """
    return elastic_transfer + geometric_transfer + unsprung_transfer


@figure(
    only_with="jacking_share",
    label="Jacking",
    quantity="force",
    shape=AXLE,
    formula="(F_y outer − F_y inner)·2·z_rc / t,  F_y in proportion to load",
    source=RCVD,
    sign="+ lifts the body",
)
def jacking_force(
    lateral_acceleration: Array,
    load_transfer: Array,
    roll_centre_height: Array,
    track: Array,
    jacking_share: Array,
) -> Array:
    """What the links of an independent axle lift the body by at the cornering shown [N].

    The outer tyre pushes more, so its link lifts more than the inner one pulls down. A beam axle
    does not jack. Wrong as more than a size: tyres do not share in proportion to load.
    """
    more = 2 * spread(lateral_acceleration) / STANDARD_GRAVITY * load_transfer
    return jacking_share * more * 2 * roll_centre_height / track


@figure(
    label="Front share of load transfer",
    quantity="share",
    shape=CAR,
    formula="LLTD = ΔW_F / (ΔW_F + ΔW_R)",
    source=RCVD,
    sign="more → more understeer",
)
def lltd(load_transfer: Array) -> Array:
    """The front axle's part of the load transfer [0..1]: more of it, more understeer.

    Refused where nothing is transferred. Wrong where a wheel lifts, or the chassis twists between
    the axles.

    >>> np.round(lltd(np.array([1261.0, 1694.0])), 4).tolist()
    0.4267
    """
    total = np.asarray(load_transfer.sum(axis=-1))
    refuse(
        total <= 0,
        CAR,
        "lateral_acceleration",
        "no load is transferred at no cornering: ask at an acceleration above zero.",
    )
    share: Array = load_transfer[..., FRONT] / total
    return share


@figure(
    label="Starting front share of load transfer",
    quantity="share",
    shape=CAR,
    formula="front weight share + start over it",
    source=RCVD,
)
def starting_lltd(front_share: Array, lltd_above_weight: Array) -> Array:
    """Where to begin [0..1], by the axle that drives; a starting rule, not a truth.

    Wrong where tyre sizes differ between the axles.

    >>> np.round(starting_lltd(0.55, -0.08), 4).tolist()
    0.47
    """
    return front_share + lltd_above_weight


@figure(
    label="Front share of load transfer, against starting value",
    quantity="share_off",
    shape=CAR,
    formula="LLTD − starting LLTD",
    source=RCVD,
    sign="+ toward understeer",
)
def lltd_off_start(lltd: Array, starting_lltd: Array) -> Array:
    """How far the front share of load transfer stands from the starting rule [share points].

    Wrong where the team's own record says otherwise: the rule is only a place to begin.

    >>> np.round(lltd_off_start(0.4267, 0.47), 5).tolist()
    -0.0433
    """
    return lltd - starting_lltd
