"""When a mended part may fly, read between the minutes of the cure curves."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fletcher.core.demo.crash import crashed_airframe
from fletcher.core.repair.cures import FLIES_AT, Cures, NewJoints
from fletcher.core.repair.evaluate import computed
from fletcher.core.repair.operations import CHECK_MIN, SAFE_MIN
from fletcher.core.repair.recipe import Fix, Recipe
from fletcher.core.repair.schema import MendWish
from fletcher.core.repair.single_fix import MINUTES


class Rising(Cures):
    """A seam that holds in proportion to the time, 1 after an hour, and a tape that holds twice that."""

    def _each(self, minutes):
        return {"seam": np.array([[minutes / 60]]), "tape": np.array([[minutes / 30]])}


GLUED = NewJoints(frozenset({"seam", "tape"}), frozenset(), "epoxy_30min")


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
    assert wait["seam"] == pytest.approx([minutes])
    assert wait["tape"] < wait["seam"] or minutes <= 15


def test_what_will_never_hold_all_that_is_asked_flies_at_a_share_of_what_it_will():
    wait = Rising((), GLUED).waits(np.array([[1.0]]), np.array([[9.0]]))
    share = (FLIES_AT - 0.5) / 0.5
    assert wait["seam"] == pytest.approx([30 * 2**share])


def test_what_takes_longest_waits_for_the_last_minute():
    assert Rising((), GLUED).waits(np.array([[1e6]]), np.array([[1e5]]))["seam"] == pytest.approx([MINUTES[-1]])


def test_what_nothing_was_glued_on_holds_at_any_time_what_it_holds_cured():
    """A dent that is left: at the launch in an hour the part is what it is."""
    post = crashed_airframe()
    part = post.parts[0].model_copy(update={"damage": tuple(m for m in post.parts[0].damage if m.id == "nose")})
    recipe = Recipe(fixes=(Fix(mark="nose", way="leave"),))
    o = computed(post.model_copy(update={"parts": (part,)}), part, recipe, MendWish()).option
    assert o.launch_percent.typ == pytest.approx(o.strength_percent.typ)
    assert o.fly_min.typ == o.minutes.typ == SAFE_MIN.typ + CHECK_MIN.typ
