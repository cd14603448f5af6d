"""Roots in a bracket, many at once, by SciPy; what does not converge is put in the log and told as it stands."""

from __future__ import annotations

import logging
from collections.abc import Callable

import numpy as np
from scipy.optimize.elementwise import find_root

from fletcher.core.common.arrays import Array

log = logging.getLogger(__name__)


def root_between(
    f: Callable[..., Array], low: Array, high: Array, args: tuple[Array, ...] = (), relative: float | None = None
) -> Array:
    """The root x of f(x, *args) between `low` and `high`, where f has opposite signs; shapes broadcast. `relative`
    accuracy, by default what doubles can tell (Chandrupatla 1997)."""
    tolerances = None if relative is None else {"xrtol": relative}
    found = find_root(f, (low, high), args=args, tolerances=tolerances)
    if not np.all(found.success):
        log.warning("%d of %d roots of %s not found", np.sum(~found.success), np.size(found.success), f.__qualname__)
    return np.asarray(found.x)
