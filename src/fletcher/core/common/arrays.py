"""Types of arrays. Axes by letter, in this order: S samples, n stations, F fibres or k elements."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
IntArray = NDArray[np.int64]
BoolArray = NDArray[np.bool_]
