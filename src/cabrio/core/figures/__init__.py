"""The formulas, one subject a file. A formula is a plain function of arrays: SI in, SI out.

Arrays may carry leading batch dimensions: corner (…, 4), axle (…, 2), car (…), side (…, 2), bolt
(…, 4). Each docstring says what the figure is [unit], when it refuses, and, after “Wrong where”, when
not to use it.
"""

from ..graph.registry import list_subjects
from . import (
    aero,
    air,
    alignment,
    bars,
    dampers,
    frequency,
    grip,
    heights,
    launch,
    links,
    live_axle,
    masses,
    measured,
    preload,
    roll,
    springs,
    square,
    stack,
    tyres,
)

SUBJECTS = (
    masses,
    springs,
    stack,
    frequency,
    dampers,
    bars,
    roll,
    links,
    preload,
    launch,
    live_axle,
    square,
    heights,
    measured,
    alignment,
    tyres,
    grip,
    air,
    aero,
)
"""In the order of work, in which people see their figures."""
list_subjects(subject.__name__ for subject in SUBJECTS)
