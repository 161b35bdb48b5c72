"""Facts of the car as a reading tells them: motion ratio, spring and tyre rate, unsprung mass."""

from __future__ import annotations

from ..arrays import Array
from ..catalog.quantities import Shape
from ..constants import STANDARD_GRAVITY
from ..graph.registry import figure
from .shapes import refuse

TWO_POINTS = "Slope between two readings"


@figure(
    label="Motion ratio read",
    quantity="ratio",
    shape=Shape.CORNER,
    formula="spring shortened / wheel raised",
    source="The motion ratio's own meaning: spring travel over wheel travel",
)
def motion_ratio_read(wheel_raised: Array, spring_shortened: Array) -> Array:
    """Spring travel over wheel travel [-], the mean over the way that the wheel was raised.

    Wrong where the ratio rises in travel: raised only, it is that of half way up.

    >>> found = motion_ratio_read(
    ...     np.array([0.03, 0.03, 0.04, 0.04]),
    ...     np.array([0.024, 0.024, 0.03, 0.03]),
    ... )
    >>> np.round(found, 4).tolist()
    [0.8, 0.8, 0.75, 0.75]
    """
    ratio: Array = spring_shortened / wheel_raised
    return ratio


@figure(
    label="Spring rate read",
    quantity="rate",
    shape=Shape.CORNER,
    formula="(F₂ − F₁) / (l₁ − l₂)",
    source=TWO_POINTS,
)
def spring_rate_read(
    spring_load_first: Array,
    spring_load_second: Array,
    spring_length_first: Array,
    spring_length_second: Array,
) -> Array:
    """Rate of a spring between the two lengths it was loaded at [N/m].

    Refused where it did not get shorter or took no more load. Wrong near solid and in the first tenth.
    """
    return _slope(
        spring_load_second - spring_load_first,
        spring_length_first - spring_length_second,
        ("spring_load_second", "the shorter spring must carry more."),
        ("spring_length_second", "the second length must be the shorter one."),
    )


@figure(
    label="Tyre rate read",
    quantity="rate",
    shape=Shape.CORNER,
    formula="g·(m₂ − m₁) / (h₁ − h₂)",
    source=TWO_POINTS,
)
def tyre_rate_read(
    tyre_load_light: Array,
    tyre_load_heavy: Array,
    hub_height_light: Array,
    hub_height_heavy: Array,
) -> Array:
    """Vertical rate of a tyre between two loads on its pad [N/m].

    Refused where the hub did not sink or the pad took no more. Wrong at another pressure, and of a tyre
    that has stood: it creeps.
    """
    return _slope(
        STANDARD_GRAVITY * (tyre_load_heavy - tyre_load_light),
        hub_height_light - hub_height_heavy,
        ("tyre_load_heavy", "it must be the heavier of the two."),
        ("hub_height_heavy", "more load must bring the hub lower."),
    )


@figure(
    label="Unsprung mass read",
    quantity="mass",
    shape=Shape.CORNER,
    formula="pad under the wheel alone",
    source="A link between body and wheel rests half on each",
)
def unsprung_mass_read(wheel_alone: Array) -> Array:
    """Mass of a corner that its spring does not carry [kg].

    Wrong where a pivot drags, or where a spring or bar still holds the wheel.

    >>> np.round(unsprung_mass_read(np.array([36.5, 36.5, 36.5, 36.5])), 2).tolist()
    [36.5, 36.5, 36.5, 36.5]
    """
    return wheel_alone


def _slope(
    more: Array, less: Array, too_light: tuple[str, str], too_long: tuple[str, str]
) -> Array:
    """Load gained over length lost [N/m]; the number and the sentence to refuse each by."""
    refuse(less <= 0, Shape.CORNER, *too_long)
    refuse(more <= 0, Shape.CORNER, *too_light)
    rate: Array = more / less
    return rate
