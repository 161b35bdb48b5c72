"""How quick the core is: ratios within one run, each beside its limit and what its time is made of."""

from __future__ import annotations

import time
from collections.abc import Callable
from statistics import median
from typing import Any

import numpy as np

from cabrio.core.graph.registry import as_array, figures, number_named, run
from cabrio.core.kinematics.axle import Axle, through
from cabrio.core.sheet.steps import step_effects, steps_of
from cabrio.core.simulate import roads
from cabrio.core.simulate.full_car import FullCar, drive
from cabrio.core.simulate.suspension import Curve, DamperLaw, Suspension
from cabrio.core.solve.side_view import Driveline, HoleSets, Wanted, search_holes
from cabrio.core.under_load.demand import Demand
from cabrio.core.under_load.grip import Tyres, balance
from cabrio.core.under_load.of_sheet import loaded_car
from cabrio.core.under_load.state import load
from tests.core.test_kinematics import side as points_of
from tests.core.whole_car import CIRCUIT_SETUP, KNOWN, circuit_car, sheet
from tests.support.plain import everything

Report = Callable[[str, float, float, str, str], None]
MANY = 10_000


def measure(report: Report) -> None:
    graph(report)
    batch(report)
    holes(report)
    seven_degrees(report)
    under_load(report)
    geometry(report)


def geometry(report: Report) -> None:
    """A corner and a live axle through 41 travels, from their points."""
    at = np.linspace(-0.04, 0.04, 41)
    corner = Axle(points_of("double_wishbone"))
    report(
        "a corner with rocker, spring and bar through 41 travels",
        took(lambda: through(corner, at), 9),
        0.02,
        "s",
        "Newton's method for all travels at once, in steps of 20 mm, and slopes by differences",
    )


def took(work: Callable[[], Any], times: int) -> float:
    """Median seconds of one call."""
    spent = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        spent.append(time.perf_counter() - start)
    return median(spent)


def car() -> dict[str, Any]:
    return {name: as_array(number_named(name), value) for name, value in KNOWN.items()}


def under_load(report: Report) -> None:
    """One loaded state beside one pass of the linear roll figures, many states, and the step table."""
    of = sheet(circuit_car(), CIRCUIT_SETUP)
    loaded_one = loaded_car(of.car, of.worked)
    known = {name: value for name, value in of.worked.values.items() if name not in figures()}
    line = took(lambda: run(known, {}, ["roll_angle", "load_transfer", "lltd"]), 60)
    state = took(lambda: load(loaded_one, Demand(0.0, 9.8, 40.0)), 40)
    report(
        "one loaded state, over the linear roll figures",
        state / line,
        60,
        "×",
        f"{state * 1e3:.1f} ms: a handful of Newton steps of eleven unknowns, each some sixty numpy calls",
    )
    sideways, along = np.meshgrid(np.linspace(0, 11, 20), np.linspace(-8, 4, 10))
    many = Demand(along.ravel(), sideways.ravel(), 40.0)
    report(
        "200 loaded states of a g-g map",
        took(lambda: load(loaded_one, many), 5),
        0.15,
        "s",
        "the same steps for all states at once; the few near the limit take more",
    )
    tyres = Tyres(np.array([1.5, 1.5]), np.array([0.15, 0.15]), np.array([3e3, 3e3]), np.ones(2))
    here = balance(loaded_one, tyres, Demand())
    asked = Demand(0.0, 9.0, 0.0)
    tried = len(list(steps_of(of)))
    report(
        f"the table of what one step does, for 40 steps ({tried} tried)",
        took(lambda: step_effects(of, loaded_one, tyres, here, asked), 3) * 40 / tried,
        0.2,
        "s",
        "each step tried on the whole graph, then two limits looked for, all cars at once",
    )


def graph(report: Report) -> None:
    """Turn and turn about, so that both see the same machine; a car of its own each time, as a
    what-if has: nothing kept from the run before can help."""
    ours, plain = [], []
    for _ in range(60):
        for spent, work in ((ours, run), (plain, everything)):
            fresh = [car() for _ in range(5)]
            spent.append(took(lambda work=work, fresh=fresh: work(fresh.pop()), 5))
    report(
        f"all {len(figures())} figures of a car, over plain numpy",
        median(ours) / median(plain),
        2.0,
        "×",
        f"{median(ours) * 1e3:.2f} ms: numpy's cost for small arrays, and the refusals' own "
        "checks, which the plain version leaves out",
    )


def batch(report: Report) -> None:
    known = car()
    rng = np.random.default_rng(1)
    many = known | {
        name: known[name] * rng.uniform(0.95, 1.05, (MANY, *known[name].shape))
        for name in ("spring_rate", "pad_mass", "bar_arm", "perch_turns", "cg_height")
    }
    one, all_ = took(lambda: run(known), 50), took(lambda: run(many), 5)
    report(
        "one setup alone, over one in a batch of 10,000",
        one / (all_ / MANY),
        100,
        "× at least",
        f"{all_ * 1e3:.0f} ms for all: memory, each figure walks its arrays once",
    )


def holes(report: Report) -> None:
    sets = HoleSets(
        tuple((0.45, 0.30 + 0.015 * i) for i in range(6)),
        tuple((0.04, 0.40 + 0.015 * i) for i in range(6)),
        tuple((0.60, 0.18 + 0.015 * i) for i in range(5)),
        tuple((0.03, 0.14 + 0.015 * i) for i in range(5)),
    )
    line = Driveline(-0.03, (0.3, 0.32), (1.4, 0.36))
    travels = np.linspace(-0.08, 0.06, 15).tolist()
    spent = took(
        lambda: search_holes(
            sets,
            (0, 0, 0, 0),
            Wanted(1.2, 0.9),
            wheelbase=2.6,
            cg_height=0.5,
            travels=travels,
            radius=0.32,
            driveline=line,
        ),
        7,
    )
    report(
        "hole search 6×6×5×5 with a sweep of 15 travels",
        spent,
        0.5,
        "s",
        "13,500 closed chains by Newton's method in one set of arrays",
    )


def seven_degrees(report: Report) -> None:
    pads, unsprung = np.array([270.0, 265.0, 250.0, 245.0]), np.array([36.0, 36.0, 38.0, 38.0])
    damper = DamperLaw(
        Curve((0.0, 0.05, 0.25, 0.5), (0.0, 150.0, 450.0, 700.0)),
        Curve((0.0, 0.05, 0.25, 0.5), (0.0, 250.0, 700.0, 1000.0)),
    )
    rubber = Curve((0.0, 0.005, 0.01), (0.0, 300.0, 1200.0))
    legs = tuple(Suspension(36e3, damper, 2000.0, 0.05, 0.035, rubber) for _ in range(4))
    model = FullCar(
        float((pads - unsprung).sum()),
        unsprung,
        pads,
        1250.0,
        310.0,
        2.5,
        np.array([1.5, 1.52]),
        0.48,
        0.5,
        np.array([0.05, 0.1]),
        np.array([0.3, 0.3]),
        legs,
        np.full(4, 220e3),
        np.array([20e3, 10e3]),
        np.array([0.2, 0.2]),
    )
    road = roads.Road(roads.rough("C", 130, 1), roads.rough("C", 130, 2))
    spent = took(lambda: drive(model, road, 30.0, 4.0), 5)
    report(
        "seven degrees of freedom, 4 s of rough road",
        spent,
        1,
        "s",
        "the right-hand side in Python, some five thousand times, and the solver's own steps",
    )
