"""When a mended part may fly, read between the minutes of the cure curves."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.repair.cures import FLIES_AT, Cures, NewJoints
from fletcher.core.repair.single_fix import MINUTES


class Rising(Cures):
    """Holds in proportion to the time: 1 after an hour."""

    def holds(self, minutes, over_old=False):
        return np.array([[(minutes or 1e9) / 60]])


GLUED, UNGLUED = NewJoints(frozenset({"seam"}), frozenset(), "epoxy_30min"), NewJoints(frozenset(), frozenset(), "")


@pytest.mark.parametrize(
    ("asked", "minutes"),
    [
        (0.75, 30 * math.sqrt(2)),  # half way from two thirds at 30 min to four thirds at 60, on the logarithm
        (0.5, 30.0),
        (1.0, 60.0),
        (0.25, 15.0),
    ],
)
def test_the_wait_is_read_on_the_logarithm_of_time(asked: float, minutes: float):
    wait = Rising((), GLUED).waits(np.array([[1e3]]), np.array([[asked]]))
    assert wait == pytest.approx([minutes])


def test_what_will_never_hold_all_that_is_asked_flies_at_a_share_of_what_it_will():
    wait = Rising((), GLUED).waits(np.array([[1.0]]), np.array([[9.0]]))
    share = (FLIES_AT - 0.5) / 0.5
    assert wait == pytest.approx([30 * 2**share])


def test_nothing_glued_waits_for_nothing_and_what_takes_longest_for_the_last_minute():
    assert Rising((), UNGLUED).waits(np.array([[1.0]]), np.array([[1.0]])) == pytest.approx([0.0])
    assert Rising((), GLUED).waits(np.array([[1e6]]), np.array([[1e5]])) == pytest.approx([MINUTES[-1]])
