"""Work that nobody waits for ends at the next look."""

from __future__ import annotations

from itertools import count

import pytest

from fletcher.core.common.abandon import Abandoned, look_up, while_wanted
from fletcher.core.demo.world import demo_airframes
from fletcher.core.studies.construction_choice import Wish, choose
from fletcher.core.studies.load_limits import reach


def after(looks: int):
    """Wanted for so many looks."""
    left = count()
    return lambda: next(left) < looks


def test_without_anybody_who_says_so_work_is_always_wanted():
    look_up()
    with while_wanted(lambda: True):
        look_up()
    with pytest.raises(Abandoned), while_wanted(lambda: False):
        look_up()
    look_up()


def test_a_study_ends_soon_after_its_asker_has_gone():
    airframe = demo_airframes()[0]
    part = airframe.parts[0]
    wish = Wish("wing", span_mm=640, root_chord_mm=180, tip_chord_mm=140, all_up_mass_g=900, top_speed_m_s=18)
    for study in (lambda: reach(airframe, part), lambda: list(choose(wish))):
        with pytest.raises(Abandoned), while_wanted(after(3)):
            study()
