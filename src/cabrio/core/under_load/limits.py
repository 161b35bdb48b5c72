"""How far a demand can go: the first wheel to lift, rolling over, and wheels coming up along the car."""

from __future__ import annotations

from collections.abc import Callable, Generator, Sequence
from dataclasses import dataclass

import numpy as np

from ..arrays import Array
from ..constants import STANDARD_GRAVITY as G
from ..errors import Impossible
from .car import LoadedCar
from .demand import Demand, Shaft
from .forces import unlifted
from .settle import Settled
from .state import CORNERS, Loaded, load

PARTS, INSIDE = 2, 16
"""The way along the car's measure is walked in so many parts, each looked at in so many states."""
FARTHEST = 20
"""How far past the car's measure a limit is looked for, in times of that measure."""
EXACT = 1e-8
"""How near to a limit its value is known, in parts of it."""

Along = Callable[[Array], Demand]
Left = Callable[[Loaded], Array]
"""What is left before an event, in a batch of states: above zero until it happens."""


@dataclass(frozen=True)
class Found:
    """Where something first happens on the way, and the last state before it."""

    at: float
    before: Loaded


def first(car: LoadedCar, demands: Along, measure: float, left: Left | None = None) -> Found | None:
    """The smallest demand at which nothing is left, or past which there is no state any more.

    `measure` is about where that should be. None where neither was found. Without `left` it is the last
    demand that has a state.
    """
    return first_each(car, demands, measure, [left])[0]


def first_each(
    car: LoadedCar, demands: Along, measure: float, lefts: Sequence[Left | None]
) -> list[Found | None]:
    """The same for several events on one way: each look of all of them is worked as one batch."""
    start = load(car, demands(np.zeros(1)))
    walks = [_walk(start, measure, left) for left in lefts]
    looks = {i: next(walk) for i, walk in enumerate(walks)}
    found: list[Found | None] = [None] * len(lefts)
    while looks:
        sizes = [len(look) for look, _, _ in looks.values()]
        befores = [_repeated(before.settled, len(look)) for look, before, _ in looks.values()]
        every = load(
            car,
            demands(np.concatenate([look for look, _, _ in looks.values()])),
            _together(befores),
            refine=(),
            falls=np.repeat([falls for _, _, falls in looks.values()], sizes),
        )
        ends = np.cumsum(sizes)
        parts = [slice(end - size, end) for end, size in zip(ends, sizes, strict=True)]
        still = {}
        for i, part in zip(looks, parts, strict=True):
            try:
                still[i] = walks[i].send(_some(every, part))
            except StopIteration as ended:
                found[i] = ended.value
        looks = still
    return found


Look = tuple[Array, Loaded, bool]
"""Demands, the last state before them, and whether the car may fall from there to stand again."""
Walk = Generator[Look, Loaded, Found | None]
"""Asks for the states at some demands, from the last state before them, until it has found its own."""


@dataclass(frozen=True)
class Bracket:
    """A demand before an event, and one at or past it; what is left at both, −inf without a state."""

    low: float
    high: float
    left: float
    past: float


def _walk(before: Loaded, measure: float, left: Left | None) -> Walk:
    """Look along the way for the event, or for the last demand that stands.

    A demand without a state does not end the way by itself: where a coil comes loose before its
    wheel's stop the car falls a little, and stands again. The way ends where a whole look past the
    car's measure found no state, or at `FARTHEST` times that measure.
    """
    window = measure / PARTS
    end, bracket = 0.0, Bracket(0.0, np.inf, np.inf, -np.inf)
    while end < FARTHEST * measure:
        look = np.linspace(end, end + window, INSIDE + 1)
        states = yield look, before, True
        remains = _remains(states, left)
        if end == 0 and not remains[0] > 0:
            return Found(0.0, _some(states, slice(0, 1)))
        at, after = _narrowed(look, remains, bracket)
        if at is not None:
            before = _some(states, slice(at, at + 1))
        went_on, bracket = after.low > bracket.low, after
        if went_on and np.isinf(bracket.past):
            end = bracket.low  # what was too far a step from the last state may stand from this one
        elif np.isfinite(bracket.past) or look[-1] >= measure:
            before, bracket = yield from _close_in(before, left, bracket)
            if np.isfinite(bracket.high):
                return Found(bracket.high, before)
            end = bracket.low
        else:
            end = float(look[-1])
    return None


def _close_in(
    before: Loaded, left: Left | None, bracket: Bracket
) -> Generator[Look, Loaded, tuple[Loaded, Bracket]]:
    """The demand between both ends of a bracket at which it happens, as near as it is to be known.

    The upper end is infinite again where the car stands there too, seen from near by. What could be
    fallen to past a jump is looked for once: after that the last state is too near to fall anywhere else.
    """
    falls = True
    while EXACT * bracket.high < bracket.high - bracket.low < np.inf:
        look = _inside(bracket, left is not None)
        states = yield look, before, falls
        falls = False
        at, after = _narrowed(look, _remains(states, left), bracket)
        if at is not None:
            before = _some(states, slice(at, at + 1))
        shrunk = after.high - after.low < 0.5 * (bracket.high - bracket.low)
        bracket = after
        if not shrunk:
            break
    return before, bracket


def _remains(states: Loaded, left: Left | None) -> Array:
    """What is left in each state; NaN where there is none."""
    found: Array = np.where(states.holds, 1.0 if left is None else left(states), np.nan)
    return found


def _narrowed(look: Array, remains: Array, bracket: Bracket) -> tuple[int | None, Bracket]:
    """The bracket after a look, and which of the look's states is the last before the event."""
    done = np.flatnonzero(remains <= 0)
    first_done = int(done[0]) if len(done) else len(look)
    good = np.flatnonzero(remains[:first_done] > 0)
    at = int(good[-1]) if len(good) else None
    low, left = (bracket.low, bracket.left) if at is None else (look[at], remains[at])
    if len(done):
        return at, Bracket(
            float(low), float(look[first_done]), float(left), float(remains[done[0]])
        )
    # a demand without a state counts no more once a later one stands
    high, past = (bracket.high, bracket.past) if bracket.high > low else (np.inf, -np.inf)
    later = look[look > low]
    if len(later) and later[0] < high and (at is not None or np.isinf(high)):
        high, past = float(later[0]), -np.inf
    return at, Bracket(float(low), high, float(left), past)


def _inside(bracket: Bracket, smooth: bool) -> Array:
    """Where to look next between the last state before and the first one past, both ends included.

    What is left changes smoothly in so small a step: a straight line says nearly where it ends.
    """
    low, high, left, past = bracket.low, bracket.high, bracket.left, bracket.past
    even: Array = np.linspace(low, high, (INSIDE if smooth else 4 * INSIDE) + 1)
    if not smooth or not np.isfinite(past):
        return even
    near = low + left / (left - past) * (high - low)
    reach = (high - low) * np.array([1e-6, 1e-3, 0.05])
    # and evenly besides: where a stop or a rubber is met on the way, the line points beside it
    close = np.concatenate([even, near - reach, near + reach])
    return np.unique(np.clip(close, low, high))


def _some(states: Loaded, part: slice) -> Loaded:
    return Loaded(states.car, states.demand.of(part), states.settled[part])


def _together(several: Sequence[Settled]) -> Settled:
    return Settled(
        np.concatenate([one.z for one in several]),
        np.concatenate([one.stops for one in several]),
        np.concatenate([one.holds for one in several]),
    )


def _repeated(one: Settled, size: int) -> Settled:
    return Settled(
        np.repeat(one.z, size, axis=0),
        np.repeat(one.stops, size, axis=0),
        np.repeat(one.holds, size),
    )


def sideways_measure(car: LoadedCar, speed: float) -> float:
    """About the sideways acceleration at which a car goes over [m/s²]: where to look, not a bound."""
    widest = float(np.max(car.tracks)) / (2 * float(np.asarray(car.cg_height)))
    return 1.05 * widest * (G + _pressed(car, speed))


def along_measure(car: LoadedCar, speed: float, forward: bool) -> float:
    """About the acceleration along that takes more off one axle than it carries [m/s²]: where to look,
    not a bound."""
    front = float(car.axle_mass[..., 0] / car.mass)
    lever = (front if forward else 1 - front) * float(np.asarray(car.wheelbase))
    return 1.15 * lever / float(np.asarray(car.cg_height)) * (G + _pressed(car, speed))


def _pressed(car: LoadedCar, speed: float) -> float:
    """What the air could add to the weight, over the mass [m/s²]."""
    if car.air is None or not speed:
        return 0.0
    lift = float(np.max(np.sum(np.abs(car.air.lift), -1)))
    if car.air.map is not None:
        lift = float(np.max(car.air.map.front_lift) + np.max(car.air.map.rear_lift))
    return 0.5 * car.air.density * speed**2 * lift / float(car.mass)


def wheels_left(states: Loaded) -> Array:
    """What the lightest wheel still has, in parts of the weight."""
    found: Array = unlifted(states.car, states.settled.z).min(-1) / (states.car.mass * G)
    return found


def first_lift(car: LoadedCar, demand: Demand, left_turn: bool) -> tuple[float, str] | None:
    """The sideways acceleration at which a wheel first comes off, + to the left, and the wheel."""
    sign = 1.0 if left_turn else -1.0
    found = first(car, _sideways(demand, sign), sideways_measure(car, _speed(demand)), wheels_left)
    return _lifted(found, sign)


def _lifted(found: Found | None, sign: float) -> tuple[float, str] | None:
    return None if found is None else (sign * found.at, _lightest(found))


def lift_and_roll_over(
    car: LoadedCar, demand: Demand, left_turn: bool
) -> tuple[tuple[float, str] | None, Found | None]:
    """Where a wheel first comes off, as `first_lift` has it, and past which there is no steady state."""
    sign = 1.0 if left_turn else -1.0
    lift, over = first_each(
        car, _sideways(demand, sign), sideways_measure(car, _speed(demand)), [wheels_left, None]
    )
    return _lifted(lift, sign), over


def roll_over(car: LoadedCar, demand: Demand, left_turn: bool) -> Found:
    """The sideways acceleration past which there is no steady state; `at` is its size.

    Raises Impossible where none is found, however far one looks.
    """
    sign = 1.0 if left_turn else -1.0
    found = first(car, _sideways(demand, sign), sideways_measure(car, _speed(demand)))
    if found is None:
        raise Impossible("Nothing that this car could meet turns it over.", number="track")
    return found


def _sideways(demand: Demand, sign: float) -> Along:
    def at(sizes: Array) -> Demand:
        along, speed = (np.full_like(sizes, np.asarray(x)) for x in (demand.along, demand.speed))
        return Demand(along, sign * sizes, speed, demand.shaft)

    return at


def _speed(demand: Demand) -> float:
    return float(np.max(np.asarray(demand.speed)))


def _lightest(found: Found) -> str:
    return CORNERS[int(np.argmin(unlifted(found.before.car, found.before.settled.z)[0]))]


def wheels_up(car: LoadedCar, speed: float, *, forward: bool, shaft: Shaft | None = None) -> float:
    """The largest launch, or braking (below zero), that leaves both axles on the ground [m/s²].

    Raises Impossible where none is found, however far one looks.
    """
    sign = 1.0 if forward else -1.0
    found = first(car, _along(speed, sign, shaft), along_measure(car, speed, forward))
    if found is None:
        raise Impossible("No axle of this car comes off the ground.", number="cg_height")
    return sign * found.at


def first_front_lift(
    car: LoadedCar, speed: float, shaft: Shaft | None = None
) -> tuple[float, str] | None:
    """The launch at which a front wheel first comes off [m/s²], and which: “both” where together."""

    def fronts(states: Loaded) -> Array:
        left = unlifted(states.car, states.settled.z)[..., :2].min(-1)
        found: Array = left / (states.car.mass * G)
        return found

    found = first(car, _along(speed, 1.0, shaft), along_measure(car, speed, True), fronts)
    if found is None:
        return None
    loads = unlifted(car, found.before.settled.z)[0, :2] / (float(car.mass) * G)
    together = abs(loads[0] - loads[1]) < 1e-6
    return found.at, "both" if together else CORNERS[int(np.argmin(loads))]


def _along(speed: float, sign: float, shaft: Shaft | None) -> Along:
    return lambda sizes: Demand(
        sign * sizes, np.zeros_like(sizes), np.full_like(sizes, speed), shaft
    )
