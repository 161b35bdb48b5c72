"""A tender spring stacked on a main one, until the crossover ring closes it (reference §2).

A tender rate of zero means a single spring. Travels are of the stack from free [m].
"""

from __future__ import annotations

import numpy as np

from ..arrays import Array
from ..catalog.quantities import Shape
from ..graph.registry import Mask, figure
from .shapes import refuse, worked_once

DIXON = "Dixon, The Shock Absorber Handbook, ch. 1"
CORNER = Shape.CORNER


@worked_once
def check_stack(spring_rate: Array, tender_rate: Array, tender_gap: Array) -> None:
    """Refuse a stack that cannot be: a rate not above zero, a gap below it."""
    refuse(spring_rate <= 0, CORNER, "spring_rate", "a spring rate must be above zero.")
    refuse(tender_rate < 0, CORNER, "tender_rate", "a tender rate cannot be below zero.")
    refuse(tender_gap < 0, CORNER, "tender_gap", "the tender gap cannot be below zero.")


@worked_once
def _fitted(tender_rate: Array) -> Mask:
    fitted: Mask = np.asarray(tender_rate) > 0
    return fitted


def stack_travel(force: Array, main: Array, tender: Array, gap: Array) -> Array:
    """Stack travel [m] under a force [N]: the main spring's, and the tender's up to its gap."""
    held = np.divide(force, tender, out=np.zeros_like(force * tender), where=_fitted(tender))
    return force / main + np.minimum(held, gap)


def _crossover(main: Array, tender: Array, gap: Array) -> Array:
    return _fitted(tender) * gap * (main + tender) / main


@worked_once
def _in_series(main: Array, tender: Array) -> Array:
    return np.where(_fitted(tender), main * tender / (main + tender), main)


def stack_force(travel: Array, main: Array, tender: Array, gap: Array) -> Array:
    """Force [N] of the stack at a travel."""
    closed = main * (travel - gap * _fitted(tender))
    # past the crossover the main spring alone is stiffer than both in a row ever were
    open_: Array = np.minimum(_in_series(main, tender) * travel, tender * gap)
    return np.maximum(closed, open_)


def stack_rate_at(travel: Array, main: Array, tender: Array, gap: Array) -> Array:
    """Rate [N/m] of the stack at a travel; at the crossover itself already the main spring's."""
    # travel to a force and back may miss the crossover by the last digit
    closed = travel >= _crossover(main, tender, gap) * (1 - 1e-12)
    return np.where(closed, main, _in_series(main, tender))


@worked_once
def stack_energy(travel: Array, main: Array, tender: Array, gap: Array) -> Array:
    """Energy [J] in the stack at a travel from free: the main spring's and the tender's."""
    force = stack_force(travel, main, tender, gap)
    in_tender = np.minimum(travel - force / main, gap)
    energy: Array = 0.5 * (force**2 / main + tender * in_tender**2)
    return energy


def main_compression(travel: Array, main: Array, tender: Array, gap: Array) -> Array:
    """How much of a stack travel the main spring takes [m]."""
    return stack_force(travel, main, tender, gap) / main


def _need_tender(tender_rate: Array) -> None:
    refuse(np.asarray(tender_rate) <= 0, CORNER, "tender_rate", "no tender spring is fitted here.")


@figure(
    only_with="tender_rate",
    label="Stack rate before crossover",
    quantity="rate",
    shape=CORNER,
    formula="k = k_1·k_2 / (k_1 + k_2)",
    source=DIXON,
)
def stack_initial_rate(spring_rate: Array, tender_rate: Array, tender_gap: Array) -> Array:
    """Tender and main spring in series [N/m]. Refused where no tender is fitted.

    Wrong where the tender's coils touch each other before the ring does.
    """
    _need_tender(tender_rate)
    check_stack(spring_rate, tender_rate, tender_gap)
    return _in_series(spring_rate, tender_rate)


@figure(
    only_with="tender_rate",
    label="Crossover travel",
    quantity="height",
    shape=CORNER,
    formula="gap·(k_1 + k_2) / k_2",
    source=DIXON,
)
def crossover_travel(spring_rate: Array, tender_rate: Array, tender_gap: Array) -> Array:
    """Stack travel from free at which the ring closes the tender [m]. Refused without a tender.

    Wrong where the tender's coils touch each other before the ring does.
    """
    _need_tender(tender_rate)
    check_stack(spring_rate, tender_rate, tender_gap)
    return _crossover(spring_rate, tender_rate, tender_gap)


@figure(
    only_with="tender_rate",
    label="Crossover force",
    quantity="force",
    shape=CORNER,
    formula="k_1·gap",
    source=DIXON,
)
def crossover_force(tender_rate: Array, tender_gap: Array) -> Array:
    """Force along the spring at which the ring closes the tender [N]. Refused without a tender.

    Wrong where the tender's coils touch each other before the ring does.
    """
    _need_tender(tender_rate)
    return tender_rate * tender_gap


@figure(
    only_with="tender_rate",
    label="Crossover from full droop",
    quantity="height",
    shape=CORNER,
    formula="(crossover travel − left at full droop) / (MR·cos α)",
    source=DIXON,
    sign="+ above full droop",
)
def crossover_from_droop(
    crossover_travel: Array, seat_at_droop: Array, spring_motion_ratio: Array
) -> Array:
    """Wheel travel from full droop up to the crossover [m]; below zero it is closed already there.

    Wrong where the motion ratio changes much between the two: it is taken at ride height.
    """
    return (crossover_travel - seat_at_droop) / spring_motion_ratio


def rate_at_wheel(rate: Array, motion_ratio: Array) -> Array:
    """A spring or stack rate seen at the wheel [N/m], standing force left out."""
    return rate * motion_ratio**2
