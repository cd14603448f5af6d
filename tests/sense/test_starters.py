"""What the product hands out to begin with holds: every construction as it comes, and every part of the demo that is
not marked as broken, is at least likely enough in each of its cases."""

from __future__ import annotations

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import Airframe
from fletcher.core.estimate.report import estimate
from fletcher.core.studies.constructions import CONSTRUCTIONS

HOLDS = ("sure", "likely")


@pytest.mark.parametrize("key", CONSTRUCTIONS)
def test_a_construction_as_it_comes_is_enough(key):
    way = CONSTRUCTIONS[key]
    part = way.part()
    airframe = Airframe(name="x", all_up_mass_g=way.all_up_mass_g, top_speed_m_s=way.top_speed_m_s, parts=(part,))
    for verdict in estimate(airframe, part.id).verdicts:
        assert verdict.enough in HOLDS, (verdict.name, verdict.headline)


@pytest.mark.parametrize("airframe", [a for a in demo_airframes() if a.state == "flying"], ids=lambda a: a.name)
def test_what_flies_in_the_demo_holds(airframe):
    for part in airframe.parts:
        if part.damage or part.kind == "plank":
            continue
        for verdict in estimate(airframe, part.id).verdicts:
            assert verdict.enough in HOLDS, (part.id, verdict.name, verdict.headline)
