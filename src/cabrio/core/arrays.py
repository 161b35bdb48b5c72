"""The arrays of the core: SI figures, and indexes into them."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Indexes = NDArray[np.intp]
