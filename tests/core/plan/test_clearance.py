"""Gate G02: how far a bar runs beside pockets and fittings, and what the plan says where it runs into one."""

from __future__ import annotations

import pytest

from fletcher.core.demo.world import demo_airframes
from fletcher.core.document.airframe import BarLayer, CutLayer
from fletcher.core.plan.clearance import computed, nearest, too_near
from fletcher.core.plan.operations import operations
from fletcher.core.plan.schema import ShopWish
from tests.core.plan.test_planning import with_part

BAR = BarLayer(id="b", stock="carbon_rod_3", place="lower", root_percent=30, tip_percent=30)


def beside(**changes):
    airframe = with_part("bead_wing", root_chord_mm=200.0, tip_chord_mm=200.0)
    usual = {"id": "c", "name": "servo pocket", "face": "lower", "width_mm": 20, "depth_mm": 12, "root_percent": 40}
    cut = CutLayer(**{**usual, "tip_percent": 40, "start_mm": 100, "end_mm": 140, **changes})
    part = airframe.parts[0].model_copy(update={"layers": (BAR, cut)})
    return airframe.model_copy(update={"parts": (part,)}), part


def test_foam_between_a_bar_and_a_pocket_is_measured_edge_to_edge():
    _, part = beside()
    assert nearest(BAR, part).mm == pytest.approx(20 - 10 - 1.5) and nearest(BAR, part).name == "servo pocket"
    assert computed(BAR, part) == "By the drawing 8 mm from: servo pocket."
    _, slanted = beside(root_percent=40, tip_percent=60)
    assert nearest(BAR, slanted).mm > 8.5


@pytest.mark.parametrize(
    ("changes", "says"),
    [({}, None), ({"root_percent": 37, "tip_percent": 37}, "leaves only 2.5 mm"), ({"width_mm": 60}, "runs into"),
     ({"face": "upper", "width_mm": 60}, None), ({"depth_mm": 0, "width_mm": 60}, None),
     ({"start_mm": 100, "end_mm": 100.5, "width_mm": 60}, "runs into")],
)  # fmt: skip
def test_what_is_too_near_is_said_with_both_names(changes, says):
    airframe, _ = beside(**changes)
    found = list(too_near(airframe))
    assert (found == []) if says is None else (says in found[0] and "servo pocket" in found[0])


def test_a_bar_that_ends_before_the_pocket_is_clear_and_one_that_crosses_it_is_not():
    airframe, part = beside(root_percent=10, tip_percent=60, start_mm=0, end_mm=part_span())
    assert nearest(BAR, part).mm < 0 and "runs into" in next(iter(too_near(airframe)))
    short = BAR.model_copy(update={"end_mm": 90.0})
    _, part = beside()
    assert nearest(short, part) is None and computed(short, part).endswith("nothing lies near it.")


def part_span() -> float:
    return with_part("bead_wing").parts[0].span_mm


def test_every_gate_of_a_spar_says_what_the_drawing_says():
    for airframe in demo_airframes():
        gates = [g.says for o in operations(airframe, ShopWish()) for g in o.gates if g.key == "bar_clear"]
        assert all("By the drawing" in g for g in gates)
