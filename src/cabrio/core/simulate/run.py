"""Integrating a motion with progress and a way to stop it."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from scipy.integrate import solve_ivp

from ..arrays import Array
from ..errors import CoreError, Impossible

Progress = Callable[[float], bool | None]
"""Called with the share done [0..1]; answering False stops the run."""
LOOK_EVERY = 64


class Cancelled(CoreError):
    """The run was stopped by whoever watched its progress."""

    code = "cancelled"


def integrate(
    rates: Callable[[float, Array], list[float]],
    start: Array,
    times: Array,
    *,
    progress: Progress | None = None,
    method: str = "RK45",
    accuracy: float = 1e-5,
    longest_step: float = 0.01,
) -> Array:
    """States (len(times), n) of dy/dt = rates(t, y). Raises Cancelled, or Impossible if it diverges."""
    end, calls = float(times[-1]), 0

    def watched(time: float, state: Array) -> list[float]:
        nonlocal calls
        calls += 1
        if progress is not None and calls % LOOK_EVERY == 0:
            share = (time - times[0]) / (end - times[0])
            if progress(min(max(float(share), 0.0), 1.0)) is False:
                raise Cancelled("The run was stopped.")
        return rates(time, state)

    found = solve_ivp(
        watched,
        (float(times[0]), end),
        start,
        method=method,
        t_eval=times,
        rtol=accuracy,
        atol=accuracy * 1e-3,
        max_step=longest_step,
    )
    if not found.success or not np.all(np.isfinite(found.y)):
        raise Impossible(
            "The motion does not settle to numbers: look at rates and masses.", number="wheel_rate"
        )
    if progress is not None:
        progress(1.0)
    states: Array = found.y.T
    return states
