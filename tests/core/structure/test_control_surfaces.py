"""A second surface beside the first, and surfaces that reach ahead of their hinge."""

from __future__ import annotations

import numpy as np
import pytest

from fletcher.core.document.airframe import Airframe, ControlEdge
from fletcher.core.document.cases import DeflectedCase
from fletcher.core.estimate.analyse import analyse
from fletcher.core.estimate.report import estimate
from fletcher.core.materials.tables import reference
from fletcher.core.materials.uncertainty import samples
from fletcher.core.structure.control_surfaces import centre_of_push, flap, hinge_give
from fletcher.core.studies.constructions import CONSTRUCTIONS
from fletcher.core.studies.scaling import scaled_part
from fletcher.core.validation.airframe import check_part

WING = CONSTRUCTIONS["bead_wing"].part()
OUTER, INNER = ControlEdge(start_mm=300, end_mm=560), ControlEdge(start_mm=40, end_mm=280, chord_percent=30)


def reversal(**surfaces: ControlEdge) -> float:
    part = WING.model_copy(update=surfaces)
    found = estimate(Airframe(name="x", all_up_mass_g=900, parts=(part,)), part.id).shakes
    assert found is not None and found.reversal_m_s is not None
    return found.reversal_m_s.typ


def test_with_two_surfaces_the_one_that_reverses_first_is_told():
    outer, inner = reversal(control=OUTER), reversal(second_control=INNER)
    assert outer != inner
    both = reversal(control=OUTER, second_control=INNER), reversal(control=INNER, second_control=OUTER)
    assert both == (min(outer, inner),) * 2


def test_surfaces_that_overlap_or_leave_the_part_are_refused_by_the_field():
    beside = ControlEdge(start_mm=200, end_mm=320)
    (problem,) = check_part(WING.model_copy(update={"control": OUTER, "second_control": beside}), reference())
    assert problem.path.endswith("second_control.start_mm") and "300 to 560 mm" in problem.message
    long = ControlEdge(start_mm=10, end_mm=WING.span_mm + 20)
    (problem,) = check_part(WING.model_copy(update={"second_control": long}), reference())
    assert problem.path.endswith("second_control.end_mm")
    body = CONSTRUCTIONS["box_fuselage"].part().model_copy(update={"second_control": INNER})
    assert any("only for wings and tails" in p.message for p in check_part(body, reference()))
    assert check_part(WING.model_copy(update={"control": OUTER, "second_control": INNER}), reference()) == []


@pytest.mark.parametrize("share", [15.0, 25.0, 40.0])
def test_a_hinge_behind_the_front_edge_is_nearer_to_the_air_load(share, proof):
    """c_h = c_n (x − b): thin-aerofoil force at its centre x, hinge at b of the surface's chord."""
    f, chord = flap(share / 100), np.array([50.0])
    with samples(0):
        plain, ahead = (
            float(hinge_give(DeflectedCase(id="d", name="d", chord_percent=share, balance_percent=b), chord)[0, 0])
            for b in (0.0, 20.0)
        )
    proof(f"surface of {share:g} %, a fifth ahead of its hinge", ahead / plain, 1 - 0.2 * f.normal / f.hinge, 1e-9)
    proof("… centre of its load", centre_of_push(share), f.hinge / f.normal, 1e-9)


def test_balance_takes_load_off_the_servo_and_twist_off_the_surface():
    part = CONSTRUCTIONS["control_surface"].part()
    case = next(c for c in part.cases if isinstance(c, DeflectedCase))
    found = []
    for balance in (0.0, 15.0, 30.0):
        now = part.model_copy(update={"cases": (case.model_copy(update={"balance_percent": balance}),)})
        with samples(0):
            a = analyse(Airframe(name="x", all_up_mass_g=900, parts=(now,)), now, now.cases[0])
        found.append((float(a.loading.servo[0]), float(a.loading.arrives[0])))
    assert found[0][0] > found[1][0] > found[2][0] > 0
    assert found[0][1] < found[1][1] < found[2][1] <= 1


def test_so_much_balance_that_the_air_throws_it_over_is_refused():
    part = CONSTRUCTIONS["control_surface"].part()
    case = next(c for c in part.cases if isinstance(c, DeflectedCase))
    over = part.model_copy(update={"cases": (case.model_copy(update={"balance_percent": 39.0}),)})
    (problem,) = check_part(over, reference())
    most = 90 * centre_of_push(case.chord_percent)
    assert problem.path.endswith("balance_percent") and f"at most {most:.0f} %" in problem.message
    fits = part.model_copy(update={"cases": (case.model_copy(update={"balance_percent": most - 0.5}),)})
    assert check_part(fits, reference()) == []


def test_both_surfaces_grow_with_the_part():
    part = WING.model_copy(update={"control": OUTER, "second_control": INNER})
    twice = scaled_part(part, 2.0, 8.0)
    assert (twice.control.start_mm, twice.second_control.end_mm) == (600, 560)
